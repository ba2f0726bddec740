package app

import (
	"context"
	"math/rand/v2"
	"slices"

	"dogbolt/core/commission"
	"dogbolt/internal/standin"
)

// Tester sets up a stand-in of a test instrument on a point's circuit as it was
// built, with a hidden fault, and returns it with the units of its tests.
func (a *App) Tester(ctx context.Context, by Person, id, point, fault string, seed uint64) (*standin.Tester, func(string) (string, bool), error) {
	v, p, err := a.point(ctx, by, id, point)
	if err != nil {
		return nil, nil, err
	}
	rng := rand.New(rand.NewPCG(seed, 5))
	c, err := standin.AsBuilt(v.Job.Built(), v.Book.In, point, standin.Fault(fault), rng)
	if err != nil {
		return nil, nil, invalid("fault", "%v", err)
	}
	tests := v.Book.In.Tests.Sequence(p.Circuit)
	return standin.NewTester(c, rng), func(test string) (string, bool) {
		i := slices.IndexFunc(tests, func(t commission.Test) bool { return t.ID == test })
		if i < 0 {
			return "", false
		}
		return tests[i].Unit, true
	}, nil
}

// Bench sets up a stand-in of a point's charger with a vehicle and a house, with
// a hidden fault.
func (a *App) Bench(ctx context.Context, by Person, id, point, fault string) (*standin.Bench, error) {
	v, _, err := a.point(ctx, by, id, point)
	if err != nil {
		return nil, err
	}
	b, err := standin.NewBench(v.Job.Built(), point, standin.BenchFault(fault))
	if err != nil {
		return nil, invalid("fault", "%v", err)
	}
	return b, nil
}
