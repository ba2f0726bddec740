package jobs

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/reach"
	"dogbolt/core/schema"
	"dogbolt/internal/photo"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Picture is a photo as it was kept.
type Picture struct {
	Digest        string
	Width, Height int
	Bytes         int
}

// AddPhoto cleans a picture and keeps it with a job.
func (svc *Service) AddPhoto(ctx context.Context, by people.Person, id string, data []byte) (Picture, error) {
	if err := people.May(by, people.TakePhotos); err != nil {
		return Picture{}, err
	}
	if v, err := svc.Open(ctx, by, id); err != nil {
		return Picture{}, err
	} else if v.Summary.Sealed {
		return Picture{}, people.ErrSealed
	}
	jpg, w, h, err := photo.Clean(data)
	if err != nil {
		return Picture{}, schema.Invalid("file", "%v", err)
	}
	sum, source := sha256.Sum256(jpg), sha256.Sum256(data)
	p := Picture{hex.EncodeToString(sum[:]), w, h, len(jpg)}
	if err := svc.store.PutPhoto(p.Digest, jpg); err != nil {
		return Picture{}, err
	}
	return p, svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPhoto(store.Photo{JobID: id, Digest: p.Digest, Width: w, Height: h, Bytes: p.Bytes, By: by.Name, At: svc.now(), Source: hex.EncodeToString(source[:])}); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "add photo", id, p.Digest[:8])
	})
}

// Photo returns a job's picture as JPEG.
func (svc *Service) Photo(ctx context.Context, by people.Person, id, digest string) ([]byte, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	return svc.store.Photo(ctx, id, digest)
}

// checkSurvey refuses what only the whole survey shows: bays that overlap, a
// position inside a wall, a new photo that was never kept. Photos that were listed
// before stay: an imported job names pictures that did not come along.
func checkSurvey(tx *store.Tx, id string, s *job.Survey, before []job.Photo) error {
	errs := schema.Errors(reach.Problems(s))
	var digests []string
	for _, p := range s.Photos {
		if !slices.ContainsFunc(before, func(old job.Photo) bool { return old.Digest == p.Digest }) {
			digests = append(digests, p.Digest)
		}
	}
	if len(errs)+len(digests) == 0 {
		return nil
	}
	missing, err := tx.Missing(id, digests)
	if len(missing) > 0 {
		errs = append(errs, schema.Invalid("survey.photos", "%d photos are not kept with this job: take them again", len(missing))...)
	}
	if len(errs) > 0 {
		return errs
	}
	return err
}
