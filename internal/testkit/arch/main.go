// Command arch draws the packages of the program and who imports whom, as SVG on the
// standard output. A package stands above everything that it imports; a line that
// follows from others is left out.
package main

import (
	"bytes"
	"fmt"
	"html"
	"os"
	"os/exec"
	"slices"
	"strings"
)

const (
	boxWidth, boxHeight = 132, 26
	gap, rowHeight      = 10, 66
	perRow              = 9
)

type graph map[string][]string // of packages to what they import

func main() {
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "./cmd/...", "./core/...", "./internal/...").Output()
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	g := graph{}
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		f := strings.Fields(line)
		name := short(f[0])
		if strings.HasPrefix(name, "internal/testkit") {
			continue
		}
		g[name] = []string{}
		for _, i := range f[1:] {
			if strings.HasPrefix(i, "dogbolt/") {
				g[name] = append(g[name], short(i))
			}
		}
	}
	os.Stdout.Write(g.draw())
}

func short(path string) string { return strings.TrimPrefix(path, "dogbolt/") }

// level is the length of the longest way down from a package.
func (g graph) level(name string, known map[string]int) int {
	if l, ok := known[name]; ok {
		return l
	}
	l := 0
	for _, i := range g[name] {
		l = max(l, 1+g.level(i, known))
	}
	known[name] = l
	return l
}

// reaches reports whether one package comes to another by way of others.
func (g graph) reaches(from, to string) bool {
	for _, i := range g[from] {
		if i == to || g.reaches(i, to) {
			return true
		}
	}
	return false
}

func (g graph) draw() []byte {
	levels, rows := map[string]int{}, map[int][]string{}
	most := 0
	for name := range g {
		l := g.level(name, levels)
		rows[l], most = append(rows[l], name), max(most, l)
	}
	type place struct{ x, y int }
	at := map[string]place{}
	y := 20
	for l := most; l >= 0; l-- {
		slices.Sort(rows[l])
		for i, name := range rows[l] {
			if i > 0 && i%perRow == 0 {
				y += rowHeight / 2
			}
			inRow := min(perRow, len(rows[l])-i/perRow*perRow)
			left := (perRow - inRow) * (boxWidth + gap) / 2 // rows stand in the middle
			at[name] = place{20 + left + (i%perRow)*(boxWidth+gap), y}
		}
		y += rowHeight
	}
	var b bytes.Buffer
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" font-family="sans-serif" font-size="12">`, 40+perRow*(boxWidth+gap), y)
	b.WriteString("\n<title>Packages of Dogbolt: each stands above what it imports</title>\n<g stroke=\"#9aa4ad\" stroke-width=\"0.8\">\n")
	names := slices.Sorted(func(yield func(string) bool) {
		for n := range g {
			if !yield(n) {
				return
			}
		}
	})
	for _, name := range names {
		imports := slices.Clone(g[name])
		slices.Sort(imports)
		for _, i := range imports {
			if slices.ContainsFunc(g[name], func(other string) bool { return other != i && g.reaches(other, i) }) {
				continue
			}
			from, to := at[name], at[i]
			fmt.Fprintf(&b, "<line x1=\"%d\" y1=\"%d\" x2=\"%d\" y2=\"%d\"/>\n", from.x+boxWidth/2, from.y+boxHeight, to.x+boxWidth/2, to.y)
		}
	}
	b.WriteString("</g>\n")
	for _, name := range names {
		p := at[name]
		fill := map[string]string{"core": "#e6f0ec", "cmd/": "#f4e7d3", "inte": "#e8ebf1"}[name[:4]]
		fmt.Fprintf(&b, "<rect x=\"%d\" y=\"%d\" width=\"%d\" height=\"%d\" rx=\"3\" fill=\"%s\" stroke=\"#51606d\"/>\n", p.x, p.y, boxWidth, boxHeight, fill)
		fmt.Fprintf(
			&b,
			"<text x=\"%d\" y=\"%d\" text-anchor=\"middle\">%s</text>\n",
			p.x+boxWidth/2,
			p.y+17,
			html.EscapeString(strings.TrimPrefix(name, "internal/")),
		)
	}
	b.WriteString("</svg>\n")
	return b.Bytes()
}
