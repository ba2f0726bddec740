// Package reftest runs independent reference programs for tests: GNU units,
// the circuit simulator ngspice. `make test` installs them.
package reftest

import (
	"bytes"
	"os"
	"os/exec"
	"strings"
	"testing"
)

// Run runs a program with input and returns what it printed. Where the program
// is not installed the test is skipped, or fails when DOGBOLT_REFERENCES is
// set, as it is by `make test`.
func Run(t *testing.T, input, name string, args ...string) string {
	t.Helper()
	path, err := exec.LookPath(name)
	if err != nil {
		if os.Getenv("DOGBOLT_REFERENCES") != "" {
			t.Fatalf("reference program %s is not installed", name)
		}
		t.Skipf("reference program %s is not installed", name)
	}
	cmd := exec.Command(path, args...)
	cmd.Stdin = strings.NewReader(input)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	if err := cmd.Run(); err != nil {
		t.Fatalf("%s: %v\n%s%s", name, err, out.String(), errs.String())
	}
	return out.String()
}
