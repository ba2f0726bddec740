// Command mutants breaks the program in one place at a time, by a list kept as data,
// and runs the tests that should notice. It prints the changes that no test noticed
// and exits with 1 where there is one. The tree is not touched: a changed file is laid
// over it for the run (go test -overlay).
package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
)

// Mutant is one change.
type Mutant struct {
	Name  string   `json:"name"`  // what is then wrong
	File  string   `json:"file"`  // from the root of the repository
	From  string   `json:"from"`  // stands there once
	To    string   `json:"to"`    // what it becomes
	Tests []string `json:"tests"` // packages that should notice
}

func main() {
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(only []string) error {
	list, err := read("internal/testkit/mutants/list.json")
	if err != nil {
		return err
	}
	folder, err := os.MkdirTemp("", "mutants")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	results := make([]string, len(list))
	next := make(chan int)
	var wait sync.WaitGroup
	for range max(1, runtime.NumCPU()) {
		wait.Go(func() {
			for i := range next {
				results[i] = list[i].survives(filepath.Join(folder, fmt.Sprint(i)))
			}
		})
	}
	tried := 0
	for i, m := range list {
		if len(only) == 0 || strings.Contains(m.Name, strings.Join(only, " ")) {
			tried++
			next <- i
		}
	}
	close(next)
	wait.Wait()
	survivors := 0
	for i, r := range results {
		if r != "" {
			survivors++
			fmt.Printf("%s: %s: %s\n", list[i].File, list[i].Name, r)
		}
	}
	fmt.Printf("%d mutants, %d survivors\n", tried, survivors)
	if survivors > 0 {
		return fmt.Errorf("%d changes went unnoticed", survivors)
	}
	return nil
}

// read reads a list of mutants.
func read(file string) ([]Mutant, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	var list []Mutant
	return list, json.Unmarshal(data, &list)
}

// broken returns the mutant's file under a root with the change made; an error where
// the text to change does not stand there exactly once.
func (m Mutant) broken(root string) (string, error) {
	text, err := os.ReadFile(filepath.Join(root, m.File))
	if err != nil {
		return "", err
	}
	if n := strings.Count(string(text), m.From); n != 1 {
		return "", fmt.Errorf("the text to change stands there %d times", n)
	}
	return strings.Replace(string(text), m.From, m.To, 1), nil
}

// survives runs the tests on a mutant; "" where one of them failed, else why not.
func (m Mutant) survives(folder string) string {
	text, err := m.broken(".")
	if err != nil {
		return err.Error()
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err.Error()
	}
	changed := filepath.Join(folder, filepath.Base(m.File))
	if err := os.WriteFile(changed, []byte(text), 0o600); err != nil {
		return err.Error()
	}
	absolute, err := filepath.Abs(m.File)
	if err != nil {
		return err.Error()
	}
	overlay, err := json.Marshal(map[string]any{"Replace": map[string]string{absolute: changed}})
	if err != nil {
		return err.Error()
	}
	file := filepath.Join(folder, "overlay.json")
	if err := os.WriteFile(file, overlay, 0o600); err != nil {
		return err.Error()
	}
	if out, err := exec.Command("go", append([]string{"build", "-o", os.DevNull, "-overlay", file}, m.Tests...)...).CombinedOutput(); err != nil {
		return "does not build: " + string(out)
	}
	for _, p := range m.Tests {
		if exec.Command("go", "test", "-failfast", "-overlay", file, p).Run() != nil {
			return ""
		}
	}
	return "no test noticed"
}
