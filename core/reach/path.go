// Package reach works out how long a cord has to be: the shortest way over the
// ground from a charger to a vehicle's inlet, round walls and parked vehicles,
// and what it crosses on the way.
package reach

import (
	"math"
	"slices"
)

// Pt is a point of the plan, m.
type Pt struct{ X, Y float64 }

func (p Pt) sub(q Pt) Pt           { return Pt{p.X - q.X, p.Y - q.Y} }
func (p Pt) add(q Pt) Pt           { return Pt{p.X + q.X, p.Y + q.Y} }
func (p Pt) scale(k float64) Pt    { return Pt{p.X * k, p.Y * k} }
func (p Pt) dot(q Pt) float64      { return p.X*q.X + p.Y*q.Y }
func (p Pt) cross(q Pt) float64    { return p.X*q.Y - p.Y*q.X }
func (p Pt) distance(q Pt) float64 { return math.Hypot(p.X-q.X, p.Y-q.Y) }
func along(a, b Pt, t float64) Pt  { return a.add(b.sub(a).scale(t)) }
func (p Pt) near(q Pt) bool        { return p.distance(q) < tiny }
func normal(d Pt) Pt               { l := math.Hypot(d.X, d.Y); return Pt{-d.Y / l, d.X / l} }
func unit(degrees float64) Pt      { s, c := math.Sincos(degrees * math.Pi / 180); return Pt{c, s} }

// tiny is what two measures may differ by and still be the same, m.
const tiny = 1e-7

// Polygon is a convex outline, anticlockwise.
type Polygon []Pt

// strip returns the rectangle of a line with a width, longer by more at each end.
func strip(a, b Pt, width, more float64) Polygon {
	d := b.sub(a)
	along := d.scale(more / math.Hypot(d.X, d.Y))
	n := normal(d).scale(width / 2)
	a, b = a.sub(along), b.add(along)
	return Polygon{a.sub(n), b.sub(n), b.add(n), a.add(n)}
}

// box returns the rectangle about a centre, its length along a direction.
func box(centre, direction Pt, length, width float64) Polygon {
	half := direction.scale(length / 2)
	return strip(centre.sub(half), centre.add(half), width, 0)
}

// inside reports whether a point lies in the interior.
func (g Polygon) inside(p Pt) bool { return g.depth(p) > tiny }

// depth returns how far a point lies inside the nearest edge, negative outside.
func (g Polygon) depth(p Pt) float64 {
	least := math.Inf(1)
	for i, a := range g {
		b := g[(i+1)%len(g)]
		least = min(least, b.sub(a).cross(p.sub(a))/a.distance(b))
	}
	return least
}

// clip returns the part of a line inside the closed polygon, as shares of the
// line; from > to where there is none.
func (g Polygon) clip(a, b Pt) (from, to float64) {
	from, to = 0, 1
	d := b.sub(a)
	for i, p := range g {
		edge := g[(i+1)%len(g)].sub(p)
		l := math.Hypot(edge.X, edge.Y)
		at, slope := edge.cross(a.sub(p))/l, edge.cross(d)/l // depth is at + slope·t
		switch {
		case math.Abs(slope) < tiny*tiny:
			if at < -tiny {
				return 1, 0
			}
		case slope > 0:
			from = max(from, -at/slope)
		default:
			to = min(to, -at/slope)
		}
	}
	return from, to
}

// aside reports whether the whole polygon lies left of, right of, above or below
// a line: a quick answer for most.
func (g Polygon) aside(a, b Pt) bool {
	left, right, above, below := true, true, true, true
	for _, p := range g {
		left = left && p.X < a.X && p.X < b.X
		right = right && p.X > a.X && p.X > b.X
		below = below && p.Y < a.Y && p.Y < b.Y
		above = above && p.Y > a.Y && p.Y > b.Y
	}
	return left || right || above || below
}

// overlaps reports whether two outlines share more than an edge.
func (g Polygon) overlaps(h Polygon) bool {
	for _, pair := range [2][2]Polygon{{g, h}, {h, g}} {
		for i, a := range pair[0] {
			b := pair[0][(i+1)%len(pair[0])]
			outside := true
			for _, p := range pair[1] {
				outside = outside && b.sub(a).cross(p.sub(a))/a.distance(b) < 1e-4
			}
			if outside {
				return false
			}
		}
	}
	return true
}

// crosses reports whether a line passes through the interior.
func (g Polygon) crosses(a, b Pt) bool {
	from, to := g.clip(a, b)
	return from < to && (to-from)*a.distance(b) > tiny && g.inside(along(a, b, (from+to)/2))
}

// sees reports whether a straight cord from a to b stays out of every solid. It
// may lie against one, but not between two that touch.
func sees(solids []Polygon, a, b Pt) bool {
	if a.near(b) {
		return true
	}
	type span struct{ from, to float64 }
	var left, right []span
	n := normal(b.sub(a)).scale(10 * tiny)
	for _, g := range solids {
		if g.aside(a, b) {
			continue
		}
		from, to := g.clip(a, b)
		if from >= to || (to-from)*a.distance(b) <= tiny {
			continue
		}
		mid := along(a, b, (from+to)/2)
		switch {
		case g.inside(mid):
			return false
		case g.inside(mid.add(n)):
			left = append(left, span{from, to})
		case g.inside(mid.sub(n)):
			right = append(right, span{from, to})
		}
	}
	for _, l := range left {
		for _, r := range right {
			if (min(l.to, r.to)-max(l.from, r.from))*a.distance(b) > tiny {
				return false
			}
		}
	}
	return true
}

// Shortest returns the shortest way from one point to another that stays out of
// every solid, and its length, m. It is exact: a taut cord turns at corners of
// the solids only, so the way is the shortest one in the graph of points that
// see each other (Lozano-Pérez and Wesley, 1979). ok is false where there is no
// way, or where an end lies inside a solid.
func Shortest(solids []Polygon, from, to Pt) (path []Pt, length float64, ok bool) {
	return shortest(nil, solids, from, to)
}

func shortest(p *patience, solids []Polygon, from, to Pt) (path []Pt, length float64, ok bool) {
	nodes := corners(solids, from, to)
	_, before, dist := explore(p, solids, nodes, math.Inf(1), true)
	if math.IsInf(dist[1], 1) {
		return nil, 0, false
	}
	for i := 1; i >= 0; i = before[i] {
		path = append(path, nodes[i])
	}
	for i, j := 0, len(path)-1; i < j; i, j = i+1, j-1 {
		path[i], path[j] = path[j], path[i]
	}
	return path, dist[1], true
}

// corners lists the given points and every corner of the solids that is free.
func corners(solids []Polygon, points ...Pt) []Pt {
	nodes := append(make([]Pt, 0, len(points)+4*len(solids)), points...)
	for i, g := range solids {
	corner:
		for _, p := range g {
			for k, other := range solids {
				if k != i && other.inside(p) {
					continue corner
				}
			}
			nodes = append(nodes, p)
		}
	}
	return nodes
}

// patience is how long a plan is worked on. nil is for ever.
type patience struct {
	left int         // questions whether two points see each other
	gone func() bool // whoever asked does not wait any longer; nil for always there
}

// over counts a question, and reports whether there were too many.
func (p *patience) over() bool {
	if p == nil {
		return false
	}
	p.left--
	if p.left > 0 && p.left%1024 == 0 && p.gone != nil && p.gone() {
		p.left = 0
	}
	return p.left <= 0
}

// lost reports whether the patience is at its end: what was found since is not to be believed.
func (p *patience) lost() bool { return p != nil && p.left <= 0 }

// explore runs Dijkstra from node 0 as far as most; where target is set, to node
// 1 alone, the straight distance to it taken into account (A*). It returns which nodes were reached, by which, and how far.
func explore(p *patience, solids []Polygon, nodes []Pt, most float64, target bool) (done []bool, before []int, dist []float64) {
	done, before, dist = make([]bool, len(nodes)), make([]int, len(nodes)), make([]float64, len(nodes))
	for i := range dist {
		dist[i], before[i] = math.Inf(1), -1
	}
	for _, g := range solids {
		if g.inside(nodes[0]) {
			return done, before, dist
		}
	}
	dist[0] = 0
	for {
		best, least := -1, math.Inf(1)
		for i := range nodes {
			if done[i] || dist[i] > most || math.IsInf(dist[i], 1) {
				continue
			}
			through := dist[i]
			if target {
				through += nodes[i].distance(nodes[1])
			}
			if through < least {
				best, least = i, through
			}
		}
		if best < 0 || target && best == 1 {
			return done, before, dist
		}
		done[best] = true
		for k := range nodes {
			d := dist[best] + nodes[best].distance(nodes[k])
			if done[k] || d >= dist[k] {
				continue
			}
			if p.over() {
				return done, before, dist
			}
			if sees(solids, nodes[best], nodes[k]) {
				dist[k], before[k] = d, best
			}
		}
	}
}

// rays is how finely the edge of an area is drawn.
const rays = 120

// Area returns the ground that a cord of a length reaches from a point: pieces
// that overlap, whose union is the area. Each piece is what is seen from one
// corner that the cord can be laid to, as far as the rest of the cord goes.
func Area(solids []Polygon, from Pt, length float64) []Polygon {
	return area(nil, solids, from, length)
}

func area(p *patience, solids []Polygon, from Pt, length float64) []Polygon {
	nodes := corners(solids, from)
	done, _, dist := explore(p, solids, nodes, length, false)
	var pieces []Polygon
	for i, centre := range nodes {
		if rest := length - dist[i]; done[i] && rest > tiny {
			pieces = append(pieces, star(p, solids, nodes, centre, rest))
		}
	}
	if p.lost() {
		return nil
	}
	return pieces
}

// star returns what is seen from a point within a radius.
func star(p *patience, solids []Polygon, nodes []Pt, centre Pt, radius float64) Polygon {
	var angles []float64
	for i := range rays {
		angles = append(angles, float64(i)*2*math.Pi/rays)
	}
	for _, n := range nodes {
		if d := n.sub(centre); centre.distance(n) < radius && !n.near(centre) {
			a := math.Atan2(d.Y, d.X)
			for _, more := range []float64{-1e-6, 0, 1e-6} {
				angles = append(angles, math.Mod(a+more+4*math.Pi, 2*math.Pi))
			}
		}
	}
	slices.Sort(angles)
	out := make(Polygon, 0, len(angles))
	for _, a := range angles {
		if p.over() {
			return nil
		}
		s, c := math.Sincos(a)
		end := centre.add(Pt{c, s}.scale(radius))
		far := 1.0
		for _, g := range solids {
			if in, to := g.clip(centre, end); in < to && in < far && g.crosses(centre, end) {
				far = max(in, 0)
			}
		}
		out = append(out, along(centre, end, far))
	}
	return out
}
