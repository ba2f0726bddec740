package main

import (
	"encoding/csv"
	"fmt"
	"math/rand/v2"
	"time"

	"github.com/spf13/cobra"

	"dogbolt/core/commission"
	"dogbolt/internal/standin"
)

// simulateCommand runs the stand-ins that ship with the program.
func simulateCommand() *cobra.Command {
	var point, fault, at string
	var seed uint64
	tester := &cobra.Command{
		Use:   "tester FILE",
		Short: "Print the readings that a tester would show of a job's circuit, as a readings file",
		Long:  "Print the readings that a tester would show of a job's circuit, as a readings file (docs/formats/readings.md).\nThe same seed shows the same. Faults: " + fmt.Sprint(standin.Faults("uk")),
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			j, book, err := readJob(args[0])
			if err != nil {
				return err
			}
			when, err := time.Parse(time.RFC3339, at)
			if err != nil {
				return fmt.Errorf("--at %q is not a time such as 2027-03-28T11:00:00Z", at)
			}
			rng := rand.New(rand.NewPCG(seed, 5))
			circuit, err := standin.AsBuilt(&j, book.School, point, standin.Fault(fault), rng)
			if err != nil {
				return err
			}
			t := standin.NewTester(circuit, rng)
			w := csv.NewWriter(c.OutOrStdout())
			rows := [][]string{commission.FileColumns}
			p, _ := j.Point(point)
			for i, x := range commission.Sequence(book.School, p.Circuit) {
				rows = append(rows, []string{point, x.ID, t.Read(x.ID), x.Unit, fmt.Sprintf("stand-in %d", seed), when.Add(time.Duration(i) * time.Minute).Format(time.RFC3339)})
			}
			return w.WriteAll(rows)
		},
	}
	tester.Flags().StringVar(&point, "point", "A", "charging point")
	tester.Flags().StringVar(&fault, "fault", string(standin.NoFault), "hidden fault")
	tester.Flags().StringVar(&at, "at", "2026-05-04T11:00:00Z", "when the first reading is taken")
	tester.Flags().Uint64Var(&seed, "seed", 1, "what varies between houses and readings")
	c := &cobra.Command{Use: "simulate", Short: "Stand-ins for instruments and services"}
	c.AddCommand(tester)
	return c
}
