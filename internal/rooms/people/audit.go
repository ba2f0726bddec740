package people

import (
	"context"

	"dogbolt/internal/store"
)

// Audit lists what was done in the firm, newest first: sign-ins and refusals, accounts and
// roles, settings, and the work on jobs. before is the id of the line that was shown last, 0
// for the beginning.
func (svc *Service) Audit(ctx context.Context, by Person, before int64, limit int) ([]store.Audit, error) {
	if err := May(by, ViewAudit); err != nil {
		return nil, err
	}
	return svc.store.FirmAudit(ctx, before, limit)
}
