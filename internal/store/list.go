package store

import (
	"context"
	"fmt"
	"math"
	"strings"
	"unicode"

	"golang.org/x/text/cases"
	"golang.org/x/text/runes"
	"golang.org/x/text/transform"
	"golang.org/x/text/unicode/norm"
	"gorm.io/gorm"

	"dogbolt/core/schema"
)

// InWay is what stands in the way of sealing a job.
type InWay string

// What stands in the way: something that stops, something open and nothing that stops,
// nothing.
const (
	Stops   InWay = "stop"
	Opens   InWay = "open"
	Nothing InWay = "nothing"
)

// Values lists what can stand in the way.
func (InWay) Values() []string { return schema.Words(Stops, Opens, Nothing) }

// Filter narrows a list of jobs.
type Filter struct {
	Search string // words of number, customer or address, or how they begin
	Stage  string
	InWay  InWay
	Only   string // name of who sees none but the jobs that they are booked for; "" for all
	Limit  int
	After  Place // the list goes on after this job; the zero Place is the beginning
}

// Place is where a job stands in the list.
type Place struct{ NextDate, Number string }

// String writes a place so that ParsePlace reads it.
func (p Place) String() string { return p.NextDate + "/" + p.Number }

// ParsePlace reads a place, "" for the beginning.
func ParsePlace(s string) Place {
	date, number, _ := strings.Cut(s, "/")
	return Place{date, number}
}

// Page is a part of the list of jobs.
type Page struct {
	Jobs  []Job
	Total int64 // how many jobs the filter matches, from the beginning
	More  bool  // there are more than Total: they were not counted
	Next  Place // where the list goes on; the zero Place where it ends
}

// Words are the words of a job that are searched: in small letters, without accents, each
// after a blank, with a second blank before a field.
func words(fields ...string) string {
	var b strings.Builder
	for _, f := range fields {
		if w := folded(f); len(w) > 0 {
			b.WriteString("  " + strings.Join(w, " "))
		}
	}
	return b.String()
}

// folded takes a text apart into its words, in small letters and without accents.
func folded(s string) []string {
	plain, _, err := transform.String(transform.Chain(norm.NFKD, runes.Remove(runes.In(unicode.Mn)), norm.NFC), s)
	if err != nil {
		plain = s
	}
	return strings.FieldsFunc(cases.Fold().String(plain), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsNumber(r) })
}

// BeforeSave keeps what is searched beside what it is made of.
func (j *Job) BeforeSave(*gorm.DB) error {
	j.Words = words(j.Number, j.Customer, j.Address, j.Town)
	return nil
}

// search is what was typed, taken apart.
type search struct {
	phrases []string // each with the blank before it: how a word, or words in a row, begin
	begins  []string // for the index of words: how each word begins, as far as it knows
}

// indexed is up to how many letters the index of words knows how words begin.
const indexed = 6

func searchOf(typed string) (s search, sensible bool) {
	var single []string
	for _, w := range strings.Fields(typed) {
		parts := folded(w)
		if len(parts) == 0 {
			continue
		}
		s.phrases = append(s.phrases, " "+strings.Join(parts, " "))
		for _, p := range parts {
			letters := []rune(p)
			if len(letters) == 1 {
				single = append(single, `"`+p+`"*`)
				continue
			}
			s.begins = append(s.begins, `"`+string(letters[:min(len(letters), indexed)])+`"*`)
		}
	}
	if len(s.begins) == 0 { // the index has no list of what begins with one letter: it has to be joined
		s.begins = single
	}
	return s, len(s.phrases) > 0 || strings.TrimSpace(typed) == ""
}

// condition is a part of a query, with its values.
type condition struct {
	text []string
	args []any
}

func (c *condition) and(text string, args ...any) {
	c.text, c.args = append(c.text, text), append(c.args, args...)
}

func (c *condition) where() string {
	if len(c.text) == 0 {
		return ""
	}
	return " WHERE " + strings.Join(c.text, " AND ")
}

// filtered is the part of a filter that the list's indexes hold.
func (f *Filter) filtered() condition {
	var c condition
	if f.Stage != "" {
		c.and("j.stage = ?", f.Stage)
	}
	switch f.InWay {
	case Stops:
		c.and("j.stops > 0")
	case Opens:
		c.and("j.stops = 0 AND j.opens > 0")
	case Nothing:
		c.and("j.stops = 0 AND j.opens = 0")
	}
	return c
}

// How far the list is walked through to find a page of what is searched before the index of
// words is asked: it is good where few jobs match, the walk where many do. first tells which;
// share is how the longest walk grows, with the root of the number of jobs, so that neither
// way is ever long. Measured: BenchmarkList.
const (
	firstWalk  = 256
	walkShares = 255
)

// Jobs lists jobs by next date, those without one last.
func (s *Store) Jobs(ctx context.Context, f Filter) (Page, error) {
	p, err := s.jobs(ctx, f)
	if err != nil {
		return Page{}, fmt.Errorf("list jobs: %w", err)
	}
	if len(p.Jobs) > f.Limit {
		p.Jobs = p.Jobs[:f.Limit]
		last := &p.Jobs[f.Limit-1]
		p.Next = Place{last.NextDate, last.Number}
	}
	return p, nil
}

func (s *Store) jobs(ctx context.Context, f Filter) (p Page, err error) {
	db := s.read.WithContext(ctx)
	sought, sensible := searchOf(f.Search)
	if !sensible {
		return Page{}, nil
	}
	if f.Only != "" {
		return few(db, f, "booked b CROSS JOIN jobs j ON j.id = b.job_id", "b.name = ?", f.Only, sought.phrases)
	}
	all, matches, err := counted(db, f)
	if err != nil {
		return p, err
	}
	if len(sought.phrases) == 0 {
		p.Total = matches
		p.Jobs, err = page(db, f)
		return p, err
	}
	p.More = true
	if p.Jobs, err = walk(db, f, sought.phrases, firstWalk); err != nil {
		return p, err
	}
	if len(p.Jobs) > f.Limit {
		p.Total = int64(f.Limit)
		return p, nil
	}
	match, isRare, err := rarest(db, sought.begins)
	if err != nil {
		return p, err
	}
	if !isRare && len(p.Jobs) > 0 && all > firstWalk {
		longest := int(math.Sqrt(walkShares * float64(all)))
		if p.Jobs, err = walk(db, f, sought.phrases, longest); err != nil {
			return p, err
		}
		if len(p.Jobs) > f.Limit {
			p.Total = int64(f.Limit)
			return p, nil
		}
	}
	return few(db, f, "jobs_search s CROSS JOIN jobs j ON j.rowid = s.rowid", "s.jobs_search MATCH ?", match, sought.phrases)
}

// rare is up to how many jobs a word may be in so that they are looked through one by one
// sooner than the lists of several words are joined. Measured: BenchmarkList.
const rare = 2000

// rarest returns what the index of words is asked for: the rarest of some words, where it is
// rare, or all of them.
func rarest(db *gorm.DB, begins []string) (match string, isRare bool, err error) {
	least := rare + 1
	for _, b := range begins {
		n := 0
		err := db.Raw("SELECT COUNT(*) FROM (SELECT 1 FROM jobs_search WHERE jobs_search MATCH ? LIMIT ?)", b, rare+1).Row().Scan(&n)
		if err != nil {
			return "", false, err
		}
		if n < least {
			match, least = b, n
		}
	}
	if match != "" {
		return match, true, nil
	}
	return strings.Join(begins, " "), false, nil
}

// counted returns how many jobs there are, and how many the filter matches but for words.
func counted(db *gorm.DB, f Filter) (all, matches int64, err error) {
	err = db.Raw(`SELECT COALESCE(SUM(n), 0), COALESCE(SUM(n) FILTER (WHERE (? = '' OR stage = ?) AND (? = '' OR in_way = ?)), 0) FROM job_counts`,
		f.Stage, f.Stage, string(f.InWay), string(f.InWay)).Row().Scan(&all, &matches)
	return all, matches, err
}

// inOrder is the list from a place on, by the index that has it in its order.
func (f *Filter) inOrder() (from string, c condition) {
	from = " FROM jobs j INDEXED BY jobs_list"
	if f.Stage != "" {
		from = " FROM jobs j INDEXED BY jobs_stage_list"
	}
	c = f.filtered()
	f.after(&c)
	return from + c.where() + " ORDER BY j.next_date, j.number LIMIT ?", c
}

func (f *Filter) after(c *condition) {
	if f.After != (Place{}) {
		c.and("(j.next_date, j.number) > (?, ?)", f.After.NextDate, f.After.Number)
	}
}

// page returns one page of the list and one job more.
func page(db *gorm.DB, f Filter) (jobs []Job, err error) {
	from, c := f.inOrder()
	return jobs, db.Raw("SELECT *"+from, append(c.args, f.Limit+1)...).Scan(&jobs).Error
}

// walk goes through the list in its order, over at most some jobs, and returns one page and
// one job more of those that have the words.
func walk(db *gorm.DB, f Filter, phrases []string, most int) (jobs []Job, err error) {
	from, c := f.inOrder()
	query := "SELECT * FROM jobs WHERE rowid IN (SELECT row FROM (SELECT j.rowid AS row, j.words" + from + ") WHERE "
	args := append(c.args, most)
	for i, p := range phrases {
		if i > 0 {
			query += " AND "
		}
		query += "instr(words, ?) > 0"
		args = append(args, p)
	}
	query += " LIMIT ?) ORDER BY next_date, number"
	return jobs, db.Raw(query, append(args, f.Limit+1)...).Scan(&jobs).Error
}

// few finds the jobs of another table's rows, sorts them, and counts them.
func few(db *gorm.DB, f Filter, from, by string, value any, phrases []string) (p Page, err error) {
	c := f.filtered()
	c.and(by, value)
	for _, w := range phrases {
		c.and("instr(j.words, ?) > 0", w)
	}
	if err := db.Raw("SELECT COUNT(*) FROM "+from+c.where(), c.args...).Row().Scan(&p.Total); err != nil {
		return p, err
	}
	f.after(&c)
	return p, db.Raw("SELECT j.* FROM "+from+c.where()+" ORDER BY j.next_date, j.number LIMIT ?", append(c.args, f.Limit+1)...).Scan(&p.Jobs).Error
}

// BookedFor reports whether a person is booked for a job.
func (s *Store) BookedFor(ctx context.Context, jobID, name string) (bool, error) {
	var n int64
	err := s.read.WithContext(ctx).Raw("SELECT COUNT(*) FROM booked WHERE job_id = ? AND name = ?", jobID, name).Row().Scan(&n)
	return n > 0, err
}

// nameAll writes the words of the jobs that were there before.
func nameAll(db *gorm.DB) error {
	const atOnce = 500
	for after := int64(0); ; {
		var rows []struct {
			Row                             int64
			Number, Customer, Address, Town string
		}
		err := db.Raw(`SELECT rowid AS row, number, COALESCE(customer, '') AS customer, COALESCE(address, '') AS address, COALESCE(town, '') AS town
			FROM jobs WHERE rowid > ? ORDER BY rowid LIMIT ?`, after, atOnce).Scan(&rows).Error
		if err != nil {
			return err
		}
		for _, r := range rows {
			if err := db.Exec("UPDATE jobs SET words = ? WHERE rowid = ?", words(r.Number, r.Customer, r.Address, r.Town), r.Row).Error; err != nil {
				return err
			}
			after = r.Row
		}
		if len(rows) < atOnce {
			return nil
		}
	}
}
