// Command dogbolt serves the program and does what is done from a terminal:
// check a job file, verify a sealed record, back up and restore, add people.
package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"
	_ "golang.org/x/crypto/x509roots/fallback" // certificates of authorities, for a system that has none

	"dogbolt/internal/version"
)

// exitCode is an error that only carries the code to exit with: what there was
// to say has been printed.
type exitCode int

func (c exitCode) Error() string { return fmt.Sprintf("exit %d", int(c)) }

func main() {
	root := &cobra.Command{
		Use:           "dogbolt",
		Short:         "Survey, design, install, test and record EV charging points",
		Version:       version.String(),
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(
		serveCommand(),
		demoCommand(),
		checkCommand(),
		verifyCommand(),
		backupCommand(),
		restoreCommand(),
		userCommand(),
		keyCommand(),
		doctorCommand(),
		describeCommand(),
		simulateCommand(),
	)
	if err := root.Execute(); err != nil {
		var code exitCode
		if errors.As(err, &code) {
			os.Exit(int(code))
		}
		fmt.Fprintln(os.Stderr, "dogbolt:", err)
		os.Exit(2)
	}
}
