package job

import (
	"iter"
	"slices"
)

// index finds entries of a log without reading all of it. It is good for the log that it
// was made of alone: see covers.
type index struct {
	log      []Entry
	about    map[about][]int32 // places in the log, in order
	kinds    map[EntryKind][]int32
	ids      map[string]int32
	replaced map[string]int32 // the last place that names an id as replaced
	gone     map[string]bool  // ids that were taken back
}

// about is what Latest asks for.
type about struct {
	kind           EntryKind
	point, subject string
}

// covers reports whether the index was made of this log: of the same array, as far as it goes.
func (x *index) covers(log []Entry) bool {
	return x != nil && len(x.log) == len(log) && (len(log) == 0 || &x.log[0] == &log[0])
}

// Index makes what is asked of the log quick, however long it is. A log that has grown since,
// in the same array, is only read where it is new. Entries that are in the log are not changed
// after this: a log in another order is another slice.
func (j *Job) Index() {
	x := j.index
	if x.covers(j.Log) {
		return
	}
	if x == nil || len(x.log) == 0 || len(x.log) > len(j.Log) || &x.log[0] != &j.Log[0] {
		n := len(j.Log)
		x = &index{
			about: make(map[about][]int32, n), kinds: map[EntryKind][]int32{}, ids: make(map[string]int32, n),
			replaced: map[string]int32{}, gone: map[string]bool{},
		}
		j.index = x
	}
	for i := len(x.log); i < len(j.Log); i++ {
		e := &j.Log[i]
		key := about{e.Kind, e.Point, e.Subject}
		x.about[key] = append(x.about[key], int32(i))
		if !x.gone[e.ID] || !e.MayGo() {
			x.kinds[e.Kind] = append(x.kinds[e.Kind], int32(i))
		}
		if _, there := x.ids[e.ID]; !there {
			x.ids[e.ID] = int32(i)
		}
		switch {
		case e.Kind == TakenBack:
			x.take(j.Log, e.Replaces)
		case e.Replaces != "":
			x.replaced[e.Replaces] = int32(i)
		}
	}
	x.log = j.Log
}

// take takes an entry back: it is no longer found among those of its kind.
func (x *index) take(log []Entry, id string) {
	x.gone[id] = true
	is := func(i int32) bool { return log[i].ID == id && log[i].MayGo() }
	for kind, places := range x.kinds {
		if slices.ContainsFunc(places, is) {
			x.kinds[kind] = slices.DeleteFunc(slices.Clone(places), is)
		}
	}
}

// Gone reports whether an entry was taken back.
func (j *Job) Gone(e *Entry) bool { return j.gone()[e.ID] && e.MayGo() }

// gone are the ids that were taken back.
func (j *Job) gone() map[string]bool {
	if j.index.covers(j.Log) {
		return j.index.gone
	}
	var gone map[string]bool
	for i := range j.Log {
		if e := &j.Log[i]; e.Kind == TakenBack {
			if gone == nil {
				gone = map[string]bool{}
			}
			gone[e.Replaces] = true
		}
	}
	return gone
}

// Unindexed returns the job without its index, which is not shared between goroutines.
func (j Job) Unindexed() Job {
	j.index = nil
	return j
}

// Place returns where in the log the entry with an id stands, -1 for nowhere.
func (j *Job) Place(id string) int {
	if !j.index.covers(j.Log) {
		return slices.IndexFunc(j.Log, func(e Entry) bool { return e.ID == id })
	}
	if i, ok := j.index.ids[id]; ok {
		return int(i)
	}
	return -1
}

// Places returns where in the log the entries of some kinds stand, in order, but for those
// that were taken back. Nobody changes what it returns.
func (j *Job) Places(kinds ...EntryKind) []int32 {
	if x := j.index; x.covers(j.Log) {
		var all []int32
		for _, k := range kinds {
			all = inOrder(all, x.kinds[k])
		}
		return slices.Clip(all)
	}
	var all []int32
	gone := j.gone()
	for i := range j.Log {
		if e := &j.Log[i]; slices.Contains(kinds, e.Kind) && !(gone[e.ID] && e.MayGo()) {
			all = append(all, int32(i))
		}
	}
	return all
}

// inOrder joins two lists of places.
func inOrder(a, b []int32) []int32 {
	if len(a) == 0 {
		return b
	}
	if len(b) == 0 {
		return a
	}
	all := make([]int32, 0, len(a)+len(b))
	for len(a) > 0 && len(b) > 0 {
		if a[0] < b[0] {
			all, a = append(all, a[0]), a[1:]
		} else {
			all, b = append(all, b[0]), b[1:]
		}
	}
	return append(append(all, a...), b...)
}

// Of goes through the entries of some kinds, in the order of the log, with their places, but
// for those that were taken back.
func (j *Job) Of(kinds ...EntryKind) iter.Seq2[int, *Entry] {
	return func(yield func(int, *Entry) bool) {
		for _, i := range j.Places(kinds...) {
			if !yield(int(i), &j.Log[i]) {
				return
			}
		}
	}
}

// Has reports whether the log has an entry of a kind that was not taken back.
func (j *Job) Has(kind EntryKind) bool { return len(j.Places(kind)) > 0 }

// Latest returns the newest entry of the kind about the subject on the point,
// by place in the log, leaving out entries that a later one replaces or that were taken back,
// and signatures and overrides that a file claims.
func (j *Job) Latest(kind EntryKind, point, subject string) (Entry, bool) {
	own := slices.Contains(Binding, kind)
	if x := j.index; x.covers(j.Log) {
		places := x.about[about{kind, point, subject}]
		for _, i := range slices.Backward(places) {
			e := &j.Log[i]
			if by, ok := x.replaced[e.ID]; (!ok || by <= i) && !j.Gone(e) && (!own || e.Signs()) {
				return *e, true
			}
		}
		return Entry{}, false
	}
	gone := j.gone()
	for i := len(j.Log) - 1; i >= 0; i-- {
		e := &j.Log[i]
		if e.Subject == subject && e.Point == point && e.Kind == kind && !j.replaced(i) && !(gone[e.ID] && e.MayGo()) && (!own || e.Signs()) {
			return *e, true
		}
	}
	return Entry{}, false
}

// replaced reports whether a later entry names entry i as replaced.
func (j *Job) replaced(i int) bool {
	id := j.Log[i].ID
	for k := i + 1; k < len(j.Log); k++ {
		if j.Log[k].Replaces == id && j.Log[k].Kind != TakenBack {
			return true
		}
	}
	return false
}
