package standin

import (
	"math/rand/v2"
	"net/http"
	"slices"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
)

// Instruments are the stand-ins of a test instrument and of a charger, for training
// and for trying the program out.
type Instruments struct{}

func faultOr(name string) Fault {
	if name == "" {
		return NoFault
	}
	return Fault(name)
}

// Read takes a reading of a test on a point with a hidden fault. before is how many
// were taken on it: each has noise of its own, the same where it is read again.
func (Instruments) Read(j *job.Job, in *jurisdiction.Jurisdiction, point, fault string, seed uint64, before int, test string) (string, error) {
	c, err := AsBuilt(j, in, point, faultOr(fault), rand.New(rand.NewPCG(seed, 5)))
	if err != nil {
		return "", err
	}
	return NewTester(c, rand.New(rand.NewPCG(seed, uint64(before)))).Read(test), nil
}

// Tester streams a test instrument on a point's circuit as it was built. An error
// comes before the stream begins.
func (Instruments) Tester(w http.ResponseWriter, r *http.Request, j *job.Job, in *jurisdiction.Jurisdiction, p job.Point, fault string, seed uint64) error {
	rng := rand.New(rand.NewPCG(seed, 5))
	c, err := AsBuilt(j.Built(), in, p.ID, faultOr(fault), rng)
	if err != nil {
		return err
	}
	tests := in.Tests.Sequence(p.Circuit)
	ServeTester(w, r, NewTester(c, rng), func(test string) (string, bool) {
		i := slices.IndexFunc(tests, func(t commission.Test) bool { return t.ID == test })
		if i < 0 {
			return "", false
		}
		return tests[i].Unit, true
	})
	return nil
}

// Charger streams a point's charger with a vehicle and a house.
func (Instruments) Charger(w http.ResponseWriter, r *http.Request, j *job.Job, p job.Point, fault string) error {
	b, err := NewBench(j.Built(), p.ID, BenchFault(faultOr(fault)))
	if err != nil {
		return err
	}
	ServeBench(w, r, b)
	return nil
}
