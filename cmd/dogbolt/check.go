package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"dogbolt/core/job"
	"dogbolt/core/reach"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/verdict"
)

// readJob reads a job file and finds its rulebook.
func readJob(file string) (job.Job, *rulebook.Book, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return job.Job{}, nil, err
	}
	j, err := job.Read(data)
	if err != nil {
		return j, nil, err
	}
	if errs := reach.Problems(&j.Survey); len(errs) > 0 {
		return j, nil, fmt.Errorf("job file: %w", schema.Errors(errs))
	}
	book, err := rulebook.For(&j)
	return j, book, err
}

func checkCommand() *cobra.Command {
	var format string
	c := &cobra.Command{
		Use:   "check FILE",
		Short: "Check a job file against its rulebook",
		Long:  "Check a job file against its rulebook and print the findings.\nExit code 0: no stop. 1: some stop. 2: the file cannot be read.",
		Args:  cobra.ExactArgs(1),
		RunE: func(c *cobra.Command, args []string) error {
			if format != "text" && format != "json" {
				return fmt.Errorf("--format %q is not text or json", format)
			}
			j, book, err := readJob(args[0])
			if err != nil {
				return err
			}
			findings, err := rulebook.Check(&j)
			if err != nil {
				return err
			}
			lines := rulebook.Lines(findings)
			if format == "json" {
				enc := json.NewEncoder(c.OutOrStdout())
				enc.SetIndent("", "  ")
				err = enc.Encode(map[string]any{"job": j.Number, "edition": book.Name, "notice": rulebook.Notice, "findings": lines})
			} else {
				err = printFindings(c.OutOrStdout(), j.Number, book, lines)
			}
			if err != nil {
				return err
			}
			for _, f := range findings {
				if f.Verdict == rulebook.Stop {
					return exitCode(1)
				}
			}
			return nil
		},
	}
	c.Flags().StringVar(&format, "format", "text", "text or json")
	return c
}

// printFindings writes the findings, what stops first, and a count.
func printFindings(w io.Writer, number string, book *rulebook.Book, lines []rulebook.Line) error {
	var b strings.Builder
	fmt.Fprintf(&b, "Job %s, judged by %s\n%s\n", number, book.Name, rulebook.Notice)
	count := map[verdict.Verdict]int{}
	for _, v := range []verdict.Verdict{verdict.Stop, verdict.Open, verdict.Watch, verdict.Sound} {
		for _, f := range lines {
			if f.Verdict != v {
				continue
			}
			count[v]++
			title := f.Title
			if f.Point != "" {
				title += ", point " + f.Point
			}
			fmt.Fprintf(&b, "\n%-5s  %s  [%s]\n", v, title, f.Clause)
			for _, part := range []struct{ name, text string }{
				{"value", f.Value}, {"limit", f.Limit}, {"margin", f.Margin}, {"working", f.Working},
				{"missing", f.Missing}, {"remedy", f.Remedy}, {"accepted", strings.TrimSpace(f.By + " " + f.Reason)},
			} {
				if part.text != "" {
					fmt.Fprintf(&b, "       %-8s %s\n", part.name, part.text)
				}
			}
		}
	}
	fmt.Fprintf(&b, "\n%d stop, %d open, %d watch, %d sound\n", count[verdict.Stop], count[verdict.Open], count[verdict.Watch], count[verdict.Sound])
	_, err := io.WriteString(w, b.String())
	return err
}
