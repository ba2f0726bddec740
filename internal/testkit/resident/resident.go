// Package resident measures the memory that a piece of a test takes, in a process of its own.
package resident

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"runtime"
	"strings"
	"testing"
)

// apart tells a process that it runs one piece, and on which input.
const apart = "DOGBOLT_APART"

// Piece is a piece of a test that is measured. It is made before anything else of the test:
// the process of its own does nothing but run it.
type Piece struct{ t *testing.T }

// Of makes a piece of a test. It skips the test where the figures are not Linux's, or
// the race detector is on.
func Of(t *testing.T, piece func(input string)) Piece {
	t.Helper()
	if runtime.GOOS != "linux" || watched {
		t.Skip("the figures are Linux's, and the race detector takes memory of its own")
	}
	if mine, here := os.LookupEnv(apart); here {
		before := peak(t)
		piece(mine)
		fmt.Println("\ntook", peak(t)-before, "MB")
		t.SkipNow()
	}
	return Piece{t}
}

// Took runs the piece on an input, in a process of its own, and returns by how many MB its
// peak of resident memory rose, by the operating system's figures, and what it printed.
func (p Piece) Took(input string) (mb int, said string) {
	t := p.t
	t.Helper()
	cmd := exec.Command(os.Args[0], "-test.run=^"+t.Name()+"$")
	cmd.Env = append(os.Environ(), apart+"="+input)
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	said, figure, _ := strings.Cut(string(out), "\ntook ")
	if _, err := fmt.Sscanf(figure, "%d MB", &mb); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	return mb, said
}

// peak is the most memory that this process ever had resident, MB.
func peak(t *testing.T) int {
	t.Helper()
	b, err := os.ReadFile("/proc/self/status")
	if err != nil {
		t.Fatal(err)
	}
	var kB int
	if _, err := fmt.Sscanf(string(b[bytes.Index(b, []byte("VmHWM:")):]), "VmHWM: %d kB", &kB); err != nil {
		t.Fatal(err)
	}
	return kB / 1024
}
