package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/internal/demo"
	"dogbolt/internal/document"
	"dogbolt/internal/httpapi"
	"dogbolt/internal/replica"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

func verifyCommand() *cobra.Command {
	var key string
	var anyKey bool
	c := &cobra.Command{
		Use:   "verify FILE",
		Short: "Check a sealed PDF or JSON file, without the database",
		Long:  "Check a sealed PDF or JSON file and say what is intact.\nExit code 0: every byte is as the contractor of the key sealed it. 1: it is not, or nobody said whose key is expected (--key, or\n--any-key to accept the file's own). 2: the file cannot be read.",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			data, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			v, err := document.Verify(data)
			if err != nil {
				fmt.Fprintln(c.OutOrStdout(), "NOT INTACT:", err)
				return exitCode(1)
			}
			r := v.Sealed.Record
			kind := "sealed JSON"
			if v.PDF {
				kind = "PDF, and the record attached to it"
			}
			fmt.Fprintf(c.OutOrStdout(), "intact: %s\njob     %s, issue %d\nsealed  %s by %s, %s\nedition %s\ncode    %s\nkey     %s\n",
				kind, r.Job.Number, r.Issue, r.SealedAt.Format("2006-01-02 15:04 MST"), r.SealedBy, r.Contractor.Name, r.Edition,
				record.Code(v.Sealed.Seal.Digest), record.Fingerprint(v.Sealed.Seal.Key))
			fmt.Fprintln(c.OutOrStdout(),
				`since   not known from a file: ask the contractor, or the page "Check a sealed file" of their server, whether a later issue replaces it`)
			if v.Stamp != nil {
				const format = "stamped %s by %s; whether that authority is to be trusted, the reader decides\n"
				fmt.Fprintf(c.OutOrStdout(), format, v.Stamp.At.Format("2006-01-02 15:04:05 MST"), v.Stamp.By.Subject)
			}
			switch {
			case key == "":
				fmt.Fprintln(c.OutOrStdout(), "Compare the key with the one that the contractor gives, with --key: anybody can make a key.")
				if !anyKey {
					return exitCode(1)
				}
			case key != v.Sealed.Seal.Key && key != record.Fingerprint(v.Sealed.Seal.Key):
				fmt.Fprintln(c.OutOrStdout(), "NOT THE CONTRACTOR'S: the file is sealed with another key than the one given.")
				return exitCode(1)
			default:
				fmt.Fprintln(c.OutOrStdout(), "The key is the one given.")
			}
			return nil
		},
	}
	c.Flags().StringVar(&key, "key", "", "the contractor's public key, or its fingerprint")
	c.Flags().BoolVar(&anyKey, "any-key", false, "accept whatever key the file was sealed with")
	return c
}

// keyCopy is where a backup has the sealing key, where it was asked for.
func keyCopy(backup string) string { return backup + ".sealing-key.p12" }

func backupCommand() *cobra.Command {
	var data, keyFile string
	var withKey bool
	c := &cobra.Command{
		Use:   "backup FILE",
		Short: "Write a consistent copy of the database while the program runs",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if _, err := os.Stat(databasePath(data)); err != nil {
				return fmt.Errorf("no database in %s: %w", data, err)
			}
			if _, err := os.Stat(args[0]); err == nil {
				return fmt.Errorf("%s is already there; choose another name", args[0])
			}
			s, err := openData(data)
			if err != nil {
				return err
			}
			defer s.Close()
			if err := s.Backup(c.Context(), args[0]); err != nil {
				return err
			}
			if withKey {
				a := rooms.New(s, logger(), standin.Instruments{})
				useKey(a, keyFile)
				b, err := os.ReadFile(a.Firm.Ring.File)
				if err != nil {
					return fmt.Errorf("the sealing key: %w", err)
				}
				if err := os.WriteFile(keyCopy(args[0]), b, 0o600); err != nil {
					return err
				}
			}
			fmt.Fprintln(c.OutOrStdout(), "copied to", args[0])
			return os.Chmod(args[0], 0o600)
		},
	}
	c.Flags().StringVar(&data, "data", "./data", "folder that holds the database")
	c.Flags().BoolVar(&withKey, "with-key", false, "copy the sealing key too, beside the copy; whoever has it seals in the firm's name")
	keyFlag(c, &keyFile)
	return c
}

func restoreCommand() *cobra.Command {
	var data, from, at string
	c := &cobra.Command{
		Use:   "restore FILE | restore --replica TARGET",
		Short: "Put a copy or a replica back, into a folder that has no database",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			target := databasePath(data)
			if (len(args) == 1) == (from != "") {
				return errors.New("name a copy, or a replica with --replica")
			}
			if _, err := os.Stat(target); err == nil {
				return fmt.Errorf("%s has a database already: stop the program and move it away first", data)
			}
			if from != "" {
				return restoreReplica(c, from, at, data)
			}
			if at != "" {
				return errors.New("--at: a copy is of one time; a replica has several")
			}
			if _, err := os.Stat(args[0]); err != nil {
				return err
			}
			if err := ownFolder(data); err != nil {
				return err
			}
			m, err := store.Restore(c.Context(), args[0], target)
			if err != nil {
				return err
			}
			if b, err := os.ReadFile(keyCopy(args[0])); err == nil {
				if err := os.WriteFile(filepath.Join(data, firm.KeyFile), b, 0o600); err != nil {
					return err
				}
			}
			return restored(c, data, m)
		},
	}
	c.Flags().StringVar(&data, "data", "./data", "folder to put the database in")
	c.Flags().StringVar(&from, "replica", "", "replica to restore: a folder, or s3://BUCKET/PREFIX")
	c.Flags().StringVar(&at, "at", "", "time that the replica is restored to, such as 2026-05-04T11:20:00Z; without it, the last")
	return c
}

func restored(c *cobra.Command, data string, m store.Manifest) error {
	fmt.Fprintf(c.OutOrStdout(), "restored to %s: %d jobs, %d entries, %d records, %d pictures and files\n", data, m.Jobs, m.Entries, m.Records, len(m.Files))
	return os.Chmod(databasePath(data), 0o600)
}

// restoreReplica gets a replica back. The sealing key is not in it.
func restoreReplica(c *cobra.Command, from, at, data string) error {
	past := replica.Past{}
	var err error
	if at != "" {
		if past.At, err = time.Parse(time.RFC3339, at); err != nil {
			return fmt.Errorf("--at: %q is not a time such as 2026-05-04T11:20:00Z", at)
		}
	}
	if past.Target, err = replica.At(from); err != nil {
		return fmt.Errorf("--replica: %w", err)
	}
	if err := ownFolder(data); err != nil {
		return err
	}
	m, err := store.RestoreFrom(c.Context(), past, databasePath(data))
	if err != nil {
		return err
	}
	fmt.Fprintln(c.OutOrStdout(), "The sealing key is in no replica: put its copy back as", filepath.Join(data, firm.KeyFile),
		"or let the office and a verifier make a new one.")
	return restored(c, data, m)
}

func userCommand() *cobra.Command {
	var data, name, mail string
	var roles []string
	// withPeople runs something on the accounts of the folder.
	withPeople := func(f func(*people.Service) error) error {
		return withRooms(data, func(a *rooms.Rooms) error { return f(a.People) })
	}
	const how = "It is good for three days and works once. Put the address that people reach the program by in front of it."
	add := &cobra.Command{
		Use:   "add USERNAME",
		Short: "Add a person, who chooses a password by a link; or with the one in the environment variable DOGBOLT_PASSWORD",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			u := people.NewUser{Username: args[0], Name: name, Mail: mail, Password: os.Getenv("DOGBOLT_PASSWORD")}
			for _, r := range roles {
				u.Roles = append(u.Roles, people.Role(r))
			}
			return withPeople(func(svc *people.Service) error {
				p, token, err := svc.AddUserLocally(c.Context(), u)
				if err != nil {
					return err
				}
				fmt.Fprintln(c.OutOrStdout(), "added", p.Name, "as", p.Roles)
				if token != "" {
					fmt.Fprintf(c.OutOrStdout(), "/link?token=%s\n%s\n", token, how)
				}
				return nil
			})
		},
	}
	add.Flags().StringVar(&name, "name", "", "full name, as records print it")
	add.Flags().StringVar(&mail, "mail", "", "where links go")
	add.Flags().StringSliceVar(&roles, "role", []string{"installer"}, "office, surveyor, installer, verifier; several with commas")
	link := &cobra.Command{
		Use:   "link USERNAME",
		Short: "Make a one-time link by which a person chooses a new password",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			return withPeople(func(svc *people.Service) error {
				token, err := svc.NewLinkLocally(c.Context(), args[0])
				if err == nil {
					fmt.Fprintf(c.OutOrStdout(), "/link?token=%s\n%s\n", token, how)
				}
				return err
			})
		},
	}
	c := &cobra.Command{Use: "user", Short: "People"}
	for _, sub := range []*cobra.Command{add, link} {
		sub.Flags().StringVar(&data, "data", "./data", "folder that holds the database")
		c.AddCommand(sub)
	}
	return c
}

// describeCommand prints what is generated from the program: the description
// of its operations, the schema of a job file, the example files.
func describeCommand() *cobra.Command {
	c := &cobra.Command{Use: "describe", Short: "Print descriptions that are generated from the program"}
	c.AddCommand(
		&cobra.Command{Use: "openapi", Short: "Operations, OpenAPI 3.1", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			_, err := c.OutOrStdout().Write(httpapi.OpenAPI())
			return err
		}},
		&cobra.Command{Use: "job-schema", Short: "JSON Schema of a job file", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			_, err := c.OutOrStdout().Write(httpapi.JobSchema())
			return err
		}},
		&cobra.Command{Use: "paper-schema", Short: "JSON Schema of a form definition", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			_, err := c.OutOrStdout().Write(httpapi.PaperSchema())
			return err
		}},
		&cobra.Command{Use: "charger-schema", Short: "JSON Schema of a charger type", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			_, err := c.OutOrStdout().Write(httpapi.ChargerSchema())
			return err
		}},
		&cobra.Command{Use: "readings-schema", Short: "JSON Schema of a readings file", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			_, err := c.OutOrStdout().Write(httpapi.ReadingsSchema())
			return err
		}},
		&cobra.Command{Use: "words", Short: "What pages tell of values of a design, as JSON", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			out := json.NewEncoder(c.OutOrStdout())
			out.SetIndent("", "  ")
			return out.Encode(job.Words())
		}},
		&cobra.Command{Use: "rules", Short: "Every rule of every rulebook, as Markdown", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			return describeRules(c.OutOrStdout())
		}},
		&cobra.Command{
			Use:   "examples FOLDER",
			Short: "Write the example job files",
			Args:  cobra.ExactArgs(1),
			RunE: func(_ *cobra.Command, args []string) error {
				return demo.WriteExamples(args[0])
			},
		},
	)
	return c
}
