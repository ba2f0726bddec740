package main

import (
	"fmt"
	"maps"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// point is a measured place of a curve.
type point struct {
	x float64
	spread
}

// appendCurve measures one entry a request onto a log that grows.
func appendCurve(s *site, file string) error {
	job, err := s.newJob()
	if err != nil {
		return err
	}
	var curve []point
	length := 0
	for _, n := range []int{0, 250, 500, 1000, 1500, 2000} {
		for length < n {
			var ids []string
			for range min(250, n-length) {
				ids = append(ids, fmt.Sprintf("before-%06d", length))
				length++
			}
			if err := s.log(job, ids...); err != nil {
				return err
			}
		}
		var took []time.Duration
		for i := range 100 {
			began := time.Now()
			if err := s.log(job, fmt.Sprintf("one-%04d-%04d", n, i)); err != nil {
				return err
			}
			took = append(took, time.Since(began))
			length++
		}
		curve = append(curve, point{float64(n), spreadOf(took)})
	}
	report("one entry onto a log of so many", curve)
	return draw(file, "One entry a request, by the length of the log", "entries in the log", false, map[string][]point{"": curve})
}

// listCurve measures the list, plain and searched, with more and more jobs.
func listCurve(binary, work, file string) error {
	asked := map[string]string{
		"plain": "/api/jobs?limit=50", "common words": "/api/jobs?limit=50&search=quill+mill", "rare words": "/api/jobs?limit=50&search=customer+411",
		"a number": "/api/jobs?limit=50&search=L-004711",
	}
	curves := map[string][]point{}
	for _, n := range []int{5_000, 50_000, 500_000} {
		folder := filepath.Join(work, fmt.Sprint("list", n))
		s, err := startOurs(binary, folder, n)
		if err != nil {
			return err
		}
		for name, path := range asked {
			one, _ := inTurns(300, func() error { return s.get(path) }, func() error { return nil })
			curves[name] = append(curves[name], point{float64(n), one})
		}
		s.stop()
		if err := os.RemoveAll(folder); err != nil {
			return err
		}
	}
	for name, c := range curves {
		report("list, "+name+", of so many jobs", c)
	}
	return draw(file, "A page of 50 jobs over HTTP, by the number of jobs", "jobs", true, curves)
}

func report(what string, curve []point) {
	var said []string
	for _, p := range curve {
		said = append(said, fmt.Sprintf("%.0f: %s", p.x, p.spread))
	}
	fmt.Printf("\n%s: %s\n", what, strings.Join(said, "; "))
}

// Sizes of a drawing.
const (
	width, height        = 640, 320
	left, right          = 56, 190
	top, bottom          = 44, 48
	ink, paper, faint    = "#17212B", "#F7F4EE", "#C9C2B4"
	family               = "font-family='IBM Plex Sans, sans-serif'"
	plotWide, plotHeight = width - left - right, height - top - bottom
)

// draw draws p95 as lines and p50 as dashes, ms.
func draw(file, title, axis string, logarithmic bool, curves map[string][]point) error {
	most, first, last := 0.0, math.Inf(1), 0.0
	scale := func(x float64) float64 { return x }
	if logarithmic {
		scale = math.Log10
	}
	for _, c := range curves {
		for _, p := range c {
			most, first, last = max(most, p.p95), min(first, scale(p.x)), max(last, scale(p.x))
		}
	}
	step := 0.1
	for _, s := range []float64{0.2, 0.5, 1, 2, 5, 10, 20, 50, 100} {
		if 5*step < most {
			step = s
		}
	}
	most = 5 * step
	x := func(v float64) float64 { return left + (scale(v)-first)/(last-first)*plotWide }
	y := func(ms float64) float64 { return top + plotHeight - ms/most*plotHeight }
	var b strings.Builder
	fmt.Fprintf(&b, "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 %d %d' %s font-size='12' fill='%s'>\n<rect width='100%%' height='100%%' fill='%s'/>\n", width, height, family, ink, paper)
	fmt.Fprintf(&b, "<text x='%d' y='24' font-size='14' font-weight='600'>%s</text>\n", left, title)
	for i := range 6 {
		ms := most * float64(i) / 5
		fmt.Fprintf(&b, "<path d='M%d %.1fH%d' stroke='%s'/><text x='%d' y='%.1f' text-anchor='end'>%.1f</text>\n", left, y(ms), left+plotWide, faint, left-8, y(ms)+4, ms)
	}
	fmt.Fprintf(&b, "<text x='%d' y='%d' text-anchor='end'>ms</text>\n", left-8, top-12)
	colours := []string{"#A65A2A", "#2C7A68", "#17212B"}
	i := 0
	for _, name := range slices.Sorted(maps.Keys(curves)) {
		for _, line := range []struct {
			of   func(point) float64
			dash string
			word string
		}{{func(p point) float64 { return p.p95 }, "", "p95"}, {func(p point) float64 { return p.p50 }, " stroke-dasharray='4 4'", "p50"}} {
			var d strings.Builder
			for k, p := range curves[name] {
				fmt.Fprintf(&d, "%c%.1f %.1f", "ML"[min(k, 1)], x(p.x), y(line.of(p)))
				fmt.Fprintf(&b, "<circle cx='%.1f' cy='%.1f' r='3' fill='%s'/>\n", x(p.x), y(line.of(p)), colours[i/2%3])
			}
			fmt.Fprintf(&b, "<path d='%s' fill='none' stroke='%s' stroke-width='2'%s/>\n", d.String(), colours[i/2%3], line.dash)
			at := top + 8 + 20*i
			fmt.Fprintf(&b, "<path d='M%d %dh22' stroke='%s' stroke-width='2'%s/><text x='%d' y='%d'>%s</text>\n",
				left+plotWide+12, at, colours[i/2%3], line.dash, left+plotWide+40, at+4, strings.TrimPrefix(name+", "+line.word, ", "))
			i++
		}
	}
	for _, c := range curves {
		for _, p := range c {
			fmt.Fprintf(&b, "<text x='%.1f' y='%d' text-anchor='middle'>%.0f</text>\n", x(p.x), top+plotHeight+18, p.x)
		}
		break
	}
	fmt.Fprintf(&b, "<text x='%d' y='%d' text-anchor='middle'>%s</text>\n</svg>\n", left+plotWide/2, height-10, axis)
	return os.WriteFile(file, []byte(b.String()), 0o644)
}
