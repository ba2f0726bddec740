package httpapi

import (
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/charger"
	"dogbolt/core/charging"
	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/planning"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/sizing"
	"dogbolt/core/stock"
	"dogbolt/core/verdict"
	"dogbolt/core/visit"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms/journal"
	"dogbolt/internal/rooms/papers"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/rooms/stockroom"
	"dogbolt/internal/store"
)

// oneOf describes a string type by the values that it declares.
type oneOf[T schema.Enumerated] string

// Schema returns the values of T.
func (oneOf[T]) Schema(huma.Registry) *huma.Schema {
	var zero T
	s := &huma.Schema{Type: huma.TypeString}
	for _, v := range zero.Values() {
		s.Enum = append(s.Enum, v)
	}
	s.PrecomputeMessages()
	return s
}

func enum[T schema.Enumerated](r huma.Registry) {
	r.RegisterTypeAlias(reflect.TypeFor[T](), reflect.TypeFor[oneOf[T]]())
}

// enums describes the string types with few values to the API's description.
func enums(r huma.Registry) {
	enum[job.Stage](r)
	enum[job.Answer](r)
	enum[job.EntryKind](r)
	enum[job.Before](r)
	enum[job.Outcome](r)
	enum[job.Language](r)
	enum[job.PartState](r)
	enum[job.Family](r)
	enum[job.EarthingSystem](r)
	enum[job.LoadKind](r)
	enum[job.Method](r)
	enum[job.DemandMethod](r)
	enum[job.Sharing](r)
	enum[job.Connection](r)
	enum[job.SPD](r)
	enum[job.Outlet](r)
	enum[job.Curve](r)
	enum[job.RCDType](r)
	enum[job.Upstream](r)
	enum[job.Material](r)
	enum[job.EarthBy](r)
	enum[job.Fate](r)
	enum[job.Kind](r)
	enum[job.MendedPart](r)
	enum[job.Supplier](r)
	enum[job.OpenPEN](r)
	enum[job.Box](r)
	enum[job.Condition](r)
	enum[job.Layout](r)
	enum[job.Inlet](r)
	enum[job.Attitude](r)
	enum[job.FedFrom](r)
	enum[job.Opener](r)
	enum[job.Casing](r)
	enum[job.BondRun](r)
	enum[job.Bonded](r)
	enum[job.Enclosure](r)
	enum[job.LinkKind](r)
	enum[job.Under](r)
	enum[job.Cover](r)
	enum[job.Fixing](r)
	enum[job.Signal](r)
	enum[job.Reach](r)
	enum[job.Joining](r)
	enum[job.PhotoKind](r)
	enum[job.GasKind](r)
	enum[job.Take](r)
	enum[job.SourceKind](r)
	enum[job.Side](r)
	enum[charger.SettingKind](r)
	enum[charger.TorqueUnit](r)
	enum[clearance.FieldKind](r)
	enum[clearance.Moment](r)
	enum[commission.Layout](r)
	enum[commission.Group](r)
	enum[verdict.Verdict](r)
	enum[planning.Verdict](r)
	enum[planning.Kind](r)
	enum[sizing.PriceUnit](r)
	enum[charging.CeilingID](r)
	enum[worklog.Heard](r)
	enum[worklog.ClockState](r)
	enum[loadmgmt.Mode](r)
	enum[loadmgmt.WayID](r)
	enum[rulebook.SpineState](r)
	enum[clearance.Route](r)
	enum[clearance.State](r)
	enum[stock.State](r)
	enum[people.Role](r)
	enum[records.PaperKind](r)
	enum[records.SealedKind](r)
	enum[stockroom.TableKind](r)
	enum[papers.FormKind](r)
	enum[journal.FateOf](r)
	enum[store.InWay](r)
	enum[visit.SectionID](r)
}
