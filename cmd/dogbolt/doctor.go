package main

import (
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"dogbolt/core/record"
	"dogbolt/internal/rooms"
	"dogbolt/internal/standin"
)

// withRooms runs something on the data of a folder.
func withRooms(data string, f func(*rooms.Rooms) error) error {
	s, err := openData(data)
	if err != nil {
		return err
	}
	defer s.Close()
	return f(rooms.New(s, logger(), standin.Instruments{}))
}

func doctorCommand() *cobra.Command {
	var data, keyFile, heads string
	c := &cobra.Command{
		Use:   "doctor",
		Short: "Look whether all logs, records and files are as they were written",
		Long: "Look whether all logs, records and files are as they were written: the database's own check, the chain of every\n" +
			"job, its records' signatures, files by their digests, and the heads of the chains that were noted outside the database.\n" +
			"Exit code 0: all is as it was written. 1: something is not, and is named.",
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			return withRooms(data, func(a *rooms.Rooms) error {
				useKey(a, keyFile)
				if heads != "" {
					a.Doctor.Notes = heads
				}
				r, err := a.Doctor.Look(c.Context())
				if err != nil {
					return err
				}
				for _, f := range r.Faults {
					fmt.Fprintln(c.OutOrStdout(), f)
				}
				fmt.Fprintf(c.OutOrStdout(), "%d jobs looked at in %s, %d faults\n", r.Jobs, r.Took.Round(time.Millisecond), len(r.Faults))
				if len(r.Faults) > 0 {
					return exitCode(1)
				}
				return nil
			})
		},
	}
	c.Flags().StringVar(&data, "data", "./data", "folder that holds the database")
	c.Flags().StringVar(&heads, "heads", "", "folder that the heads of all logs are noted in; without it, in the data folder")
	keyFlag(c, &keyFile)
	return c
}

func keyCommand() *cobra.Command {
	var data, keyFile, why string
	show := &cobra.Command{
		Use:   "show",
		Short: "List the keys that the firm seals and sealed with",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			return withRooms(data, func(a *rooms.Rooms) error {
				list, err := a.Firm.Keys(c.Context())
				for _, k := range list {
					fmt.Fprintf(c.OutOrStdout(), "%s  since %s, %s: %s\n", k.Fingerprint, k.Since.Format(time.DateOnly), k.By, k.Why)
				}
				return err
			})
		},
	}
	renew := &cobra.Command{
		Use:   "new",
		Short: "Make a new sealing key, in place of one that is to rest or is lost; stop the program first",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			return withRooms(data, func(a *rooms.Rooms) error {
				useKey(a, keyFile)
				k, err := a.Firm.NewKey(c.Context(), "command line", why)
				if err == nil {
					fmt.Fprintln(c.OutOrStdout(), "the new key is", record.Fingerprint(k.Public()))
				}
				return err
			})
		},
	}
	renew.Flags().StringVar(&why, "why", "", "why there is a new key; it stands in the register of keys and in the audit")
	keyFlag(renew, &keyFile)
	c := &cobra.Command{Use: "key", Short: "The key that records are sealed with"}
	for _, sub := range []*cobra.Command{show, renew} {
		sub.Flags().StringVar(&data, "data", "./data", "folder that holds the database")
		c.AddCommand(sub)
	}
	return c
}
