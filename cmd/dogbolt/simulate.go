package main

import (
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"dogbolt/core/commission"
	"dogbolt/core/practice"
	"dogbolt/internal/standin"
)

// simulateCommand runs the stand-ins that ship with the program.
func simulateCommand() *cobra.Command {
	var point, fault, at, listen string
	var seed uint64
	tester := &cobra.Command{
		Use:   "tester FILE",
		Short: "Print the readings that a tester would show of a job's circuit, as a readings file",
		Long: "Print the readings that a tester would show of a job's circuit, as a readings file (docs/formats/readings.md).\nThe same seed shows the same. Faults, as far as the country has them: " + strings.Join(
			practice.FaultIDs(),
			", ",
		),
		Args: cobra.ExactArgs(1),
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
			circuit, err := standin.AsBuilt(&j, book.In, point, standin.Fault(fault), rng)
			if err != nil {
				return err
			}
			t := standin.NewTester(circuit, rng)
			if listen != "" {
				return serve(c, listen, func(w http.ResponseWriter, r *http.Request) {
					standin.ServeTester(w, r, t, func(test string) (string, bool) {
						x, ok := book.In.Tests.Find(test)
						return x.Unit, ok
					})
				})
			}
			w := csv.NewWriter(c.OutOrStdout())
			rows := [][]string{commission.FileColumns}
			p, _ := j.Point(point)
			for i, x := range book.In.Tests.Sequence(p.Circuit) {
				rows = append(
					rows,
					[]string{
						point,
						x.ID,
						t.Read(x.ID),
						x.Unit,
						fmt.Sprintf("stand-in %d", seed),
						when.Add(time.Duration(i) * time.Minute).Format(time.RFC3339),
					},
				)
			}
			return w.WriteAll(rows)
		},
	}
	tester.Flags().StringVar(&point, "point", "A", "charging point")
	tester.Flags().StringVar(&fault, "fault", string(standin.NoFault), "hidden fault")
	tester.Flags().StringVar(&at, "at", "2026-05-04T11:00:00Z", "when the first reading is taken")
	tester.Flags().Uint64Var(&seed, "seed", 1, "what varies between houses and readings")
	tester.Flags().StringVar(&listen, "listen", "", "stream over a WebSocket at this address instead, such as 127.0.0.1:8420")
	c := &cobra.Command{Use: "simulate", Short: "Stand-ins for instruments and services"}
	c.AddCommand(tester, chargerCommand())
	return c
}

// chargerCommand runs the stand-in of a charger with a vehicle and a house.
func chargerCommand() *cobra.Command {
	var point, fault, listen string
	c := &cobra.Command{
		Use:   "charger FILE",
		Short: "Run a charger with a vehicle and a house over a WebSocket (docs/formats/bench.md)",
		Long:  "Run a charger with a vehicle and a house over a WebSocket (docs/formats/bench.md). Faults: " + fmt.Sprint(standin.BenchFaults),
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			j, _, err := readJob(args[0])
			if err != nil {
				return err
			}
			if _, err := standin.NewBench(&j, point, standin.BenchFault(fault)); err != nil {
				return err
			}
			return serve(c, listen, func(w http.ResponseWriter, r *http.Request) {
				b, err := standin.NewBench(&j, point, standin.BenchFault(fault)) // one for each caller
				if err != nil {
					http.Error(w, err.Error(), http.StatusInternalServerError)
					return
				}
				standin.ServeBench(w, r, b)
			})
		},
	}
	c.Flags().StringVar(&point, "point", "A", "charging point")
	c.Flags().StringVar(&fault, "fault", string(standin.BenchSound), "hidden fault")
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:8421", "address of the WebSocket")
	return c
}

// serve answers every request at an address until the command is stopped.
func serve(c *cobra.Command, listen string, f http.HandlerFunc) error {
	l, err := net.Listen("tcp", listen)
	if err != nil {
		return err
	}
	fmt.Fprintf(c.OutOrStdout(), "ws://%s\n", l.Addr())
	srv := &http.Server{Handler: f, ReadHeaderTimeout: 10 * time.Second}
	context.AfterFunc(c.Context(), func() { srv.Close() })
	if err := srv.Serve(l); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}
