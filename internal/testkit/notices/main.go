// Command notices lists the packages of others that ship in the program, with their
// versions and licences, as Markdown on the standard output: Go modules that the
// binary is built from, and npm packages that the pages are built from.
package main

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run() error {
	modules, err := goModules()
	if err != nil {
		return err
	}
	packages, err := npmPackages()
	if err != nil {
		return err
	}
	fmt.Print(
		"# Packages of others that ship in the program\n\nMade by `make generate` from go.mod and web/package-lock.json. Each package's own\nlicence text is in its distribution.\n",
	)
	for _, part := range []struct {
		title string
		rows  []string
	}{{"Go modules", modules}, {"npm packages", packages}} {
		fmt.Printf("\n## %s\n\n| Package | Version | Licence |\n|---|---|---|\n%s\n", part.title, strings.Join(part.rows, "\n"))
	}
	return nil
}

func goModules() ([]string, error) {
	out, err := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}} {{.Dir}}{{end}}{{end}}", "./cmd/dogbolt").
		Output()
	if err != nil {
		return nil, fmt.Errorf("go list: %w", err)
	}
	lines := strings.Split(strings.TrimSpace(string(out)), "\n")
	slices.Sort(lines)
	var rows []string
	for _, line := range slices.Compact(lines) {
		f := strings.Fields(line)
		if len(f) < 3 {
			continue
		}
		name, err := licenceIn(f[2])
		if err != nil {
			return nil, fmt.Errorf("%s: %w", f[0], err)
		}
		rows = append(rows, fmt.Sprintf("| %s | %s | %s |", f[0], f[1], name))
	}
	return rows, nil
}

// licenceIn names the licence of a module by the words of its text.
func licenceIn(folder string) (string, error) {
	files, err := filepath.Glob(filepath.Join(folder, "[LlCc][IiOo][CcPp]*"))
	if err != nil {
		return "", err
	}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			continue // a folder
		}
		words := strings.Join(strings.Fields(string(text)), " ")
		for _, l := range []struct{ name, says string }{
			{"Apache-2.0", "Apache License"},
			{"MPL-2.0", "Mozilla Public License"},
			{"MIT", "Permission is hereby granted, free of charge"},
			{"ISC", "Permission to use, copy, modify, and/or distribute"},
			{"ISC", "Permission to use, copy, modify, and distribute"},
			{"BSD", "Redistribution and use in source and binary forms"},
			{"Unlicense", "free and unencumbered software"},
		} {
			if strings.Contains(words, l.says) {
				return l.name, nil
			}
		}
	}
	return "", fmt.Errorf("no licence that is known in %d files", len(files))
}

func npmPackages() ([]string, error) {
	data, err := os.ReadFile("web/package-lock.json")
	if err != nil {
		return nil, err
	}
	var lock struct {
		Packages map[string]struct {
			Version, License string
			Dev, Optional    bool
			DevOptional      bool
		}
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return nil, err
	}
	var rows []string
	for path, p := range lock.Packages {
		if path == "" || p.Dev || p.Optional || p.DevOptional {
			continue
		}
		if p.License == "" {
			return nil, fmt.Errorf("%s names no licence", path)
		}
		rows = append(rows, fmt.Sprintf("| %s | %s | %s |", path[strings.LastIndex(path, "node_modules/")+len("node_modules/"):], p.Version, p.License))
	}
	slices.Sort(rows)
	return slices.Compact(rows), nil
}
