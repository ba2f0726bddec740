package assess

import (
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Request is what a device asks of its own copy of the rules.
type Request struct {
	Op      string            `json:"op"` // assess, add, setting, built
	Job     *job.Job          `json:"job"`
	Policy  WorkPolicy        `json:"policy"`
	Writer  Writer            `json:"writer"`
	Now     time.Time         `json:"now"`
	Point   string            `json:"point,omitempty"`
	Entries []json.RawMessage `json:"entries,omitempty" doc:"Of the log, each a job.Entry."`
}

// Reply is the answer to a request: errors, or what was asked for.
type Reply struct {
	Error      string           `json:"error,omitempty"`
	Errors     []job.FieldError `json:"errors,omitempty"`
	Log        []job.Entry      `json:"log,omitempty"`
	Assessment *Assessment      `json:"assessment,omitempty"`
	Setting    *SettingGuide    `json:"setting,omitempty"`
	Built      *AsBuilt         `json:"built,omitempty"`
}

// Answer answers a device's request, in JSON both ways: the assessment of a job (assess);
// whether entries may be added, one after the other, with the log as it is then, and
// what the job is with them (add); how a charger is set (setting); what was built
// otherwise (built).
func Answer(request []byte) []byte {
	var r Request
	reply := Reply{}
	if err := json.Unmarshal(request, &r); err != nil {
		reply.Error = err.Error()
	} else if r.Job == nil {
		reply.Error = "no job"
	} else if r.Job.Format != job.Format {
		reply.Error = fmt.Sprintf("the job is a %q, these rules are for %q: take the new version", r.Job.Format, job.Format)
	} else if err := r.answer(&reply); err != nil {
		reply.Error = err.Error()
	}
	b, err := json.Marshal(reply)
	if err != nil {
		return []byte(fmt.Sprintf(`{"error":%q}`, err.Error()))
	}
	return b
}

func (r *Request) answer(reply *Reply) error {
	switch r.Op {
	case "assess":
		d, _, err := Of(r.Job, &r.Policy, r.Now)
		reply.Assessment = &d
		return err
	case "add":
		for i, data := range r.Entries {
			var e job.Entry
			if errs := schema.Of[job.Entry]().Read(fmt.Sprintf("entries[%d]", i), data, &e); len(errs) > 0 {
				reply.Errors = errs
				return nil
			}
			e.By = r.Writer.Name
			if e.Kind == job.ReadingMade || e.Kind == job.TorqueMade {
				e.Calibrated = r.Policy.Calibrated(e.Instrument)
			}
			r.Job.Sign(&e)
			if errs := Check(r.Job, &r.Policy, r.Writer, r.Now, e, fmt.Sprintf("entries[%d]", i)); len(errs) > 0 {
				reply.Errors = errs
				return nil
			}
			r.Job.Log = append(r.Job.Log, e)
		}
		Sort(r.Job.Log)
		reply.Log = r.Job.Log
		d, _, err := Of(r.Job, &r.Policy, r.Now)
		reply.Assessment = &d
		return err
	case "setting":
		s, err := Setting(r.Job, &r.Policy, r.Point)
		reply.Setting = &s
		return err
	case "built":
		b, err := Built(r.Job)
		reply.Built = &b
		return err
	}
	return fmt.Errorf("%q is not asked of the rules", r.Op)
}

// Sort puts a log in the order of the devices' clocks, in which it is read.
func Sort(log []job.Entry) {
	slices.SortStableFunc(log, func(a, b job.Entry) int { return a.At.Compare(b.At) })
}
