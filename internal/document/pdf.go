package document

import (
	"bytes"
	_ "embed" // the fonts
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/verdict"
	"dogbolt/internal/version"
)

//go:embed fonts/PlexSans-Regular.ttf
var sansRegular []byte

//go:embed fonts/PlexSans-SemiBold.ttf
var sansBold []byte

//go:embed fonts/PlexMono-Regular.ttf
var monoRegular []byte

// colour is one of the trade's metals, as in the pages.
type colour [3]int

var (
	ink    = colour{0x17, 0x21, 0x2B}
	slate  = colour{0x62, 0x70, 0x7C}
	line   = colour{0xD9, 0xD3, 0xC6}
	band   = colour{0xF1, 0xEC, 0xE1}
	copper = colour{0xA6, 0x5A, 0x2A}
	sound  = colour{0x2C, 0x7A, 0x68}
	watch  = colour{0xB9, 0x7A, 0x12}
	stop   = colour{0xA5, 0x34, 0x2B}
)

// Page margins and line height, mm.
const (
	margin  = 16.0
	leading = 4.6
)

// printer lays a document out on pages.
type printer struct {
	pdf   *canvas
	width float64 // between the margins
	job   *job.Job
	in    *jurisdiction.Jurisdiction // whose words a diagram has

	phrases  record.Phrases    // of the document's language; nil for English
	pictures map[string][]byte // by their digests
}

// With is what a sealed document is printed with.
type With struct {
	Stamp    Stamper           // nil for none
	Pictures map[string][]byte // JPEG, by their digests in the document; one that is not there is told
	Customer bool              // for a customer: it carries what it prints, and not the whole record
}

// What is attached to a paper.
const (
	wholeRecord = "record.json"
	anExtract   = "extract.json"
)

// PDF prints a document about a sealed record: on the country's paper. The sealed JSON is attached as record.json, or for a
// customer an extract of it as extract.json, and the
// file ends with a signature over all of its bytes that readers know, with a time stamp where there is a stamper.
func PDF(doc record.Document, sealed record.Sealed, file []byte, key record.Key, with With) ([]byte, error) {
	book, ok := rulebook.Find(sealed.Record.Job.Rulebook)
	if !ok {
		return nil, fmt.Errorf("print %s: %q is not an edition this program knows", strings.ToLower(doc.Title), sealed.Record.Job.Rulebook)
	}
	p := newPrinter(book.In.Paper.Name, doc.Title, doc.Number, "Dogbolt "+sealed.Record.Program, sealed.Record.SealedAt)
	p.job, p.in, p.pictures, p.phrases = sealed.Record.Job.Built(), book.In, with.Pictures, record.PhrasesOf(job.Language(doc.Lang))
	pdf := p.pdf
	pdf.SetLang(book.In.Lang)
	if doc.Lang != "" {
		pdf.SetLang(doc.Lang)
	}
	name, said := wholeRecord, "sealed record, canonical JSON"
	if with.Customer {
		name, said = anExtract, "what this paper prints of the sealed record, canonical JSON"
		var err error
		if file, err = record.SignExtract(&doc, &sealed, key); err != nil {
			return nil, fmt.Errorf("print %s: %w", strings.ToLower(doc.Title), err)
		}
	}
	pdf.SetAttachments([]fpdf.Attachment{{Content: file, Filename: name, Description: said}})
	pdf.SetFooterFunc(func() {
		p.footer(p.phrases.Say("job %s", doc.Number) + "   " + p.phrases.Say("code %s", record.Code(sealed.Seal.Digest)))
	})
	pdf.AddPage()
	for _, b := range doc.Blocks {
		p.block(b)
	}
	p.seal(sealed.Seal, with.Customer)
	var out bytes.Buffer
	if err := pdf.Output(&out); err != nil {
		return nil, fmt.Errorf("print %s: %w", strings.ToLower(doc.Title), err)
	}
	return sign(aimed(out.Bytes()), key, with.Stamp, sealed.Record.SealedBy+", "+sealed.Record.Contractor.Name, sealed.Record.SealedAt)
}

// Plain prints a document that is not part of a sealed record; standing says at the foot of each page what it is.
func Plain(doc record.Document, j *job.Job, at time.Time, standing string) ([]byte, error) {
	book, ok := rulebook.Find(j.Rulebook)
	if !ok {
		return nil, fmt.Errorf("print %s: %q is not an edition this program knows", strings.ToLower(doc.Title), j.Rulebook)
	}
	p := newPrinter(book.In.Paper.Name, doc.Title, doc.Number, "Dogbolt "+version.String(), at)
	p.job, p.in = j.Built(), book.In
	p.pdf.SetLang(book.In.Lang)
	p.pdf.SetFooterFunc(func() { p.footer("job " + doc.Number + "   " + standing) })
	p.pdf.AddPage()
	for _, b := range doc.Blocks {
		p.block(b)
	}
	var out bytes.Buffer
	if err := p.pdf.Output(&out); err != nil {
		return nil, fmt.Errorf("print %s: %w", strings.ToLower(doc.Title), err)
	}
	return aimed(out.Bytes()), nil
}

// Where the library's bookmarks lead, and its pages.
var (
	bookmark = regexp.MustCompile(`/Dest \[(\d+) 0 R /XYZ 0 -?[\d.]+ null\]`)
	kids     = regexp.MustCompile(`/Kids \[([\d R]+)\]`)
)

// aimed leads the bookmarks of a PDF to its pages. The library reckons that pages are its first objects,
// which attachments are, and that all pages are as high as the last. Every byte else stays where it is.
func aimed(pdf []byte) []byte {
	list := kids.FindSubmatch(pdf)
	if list == nil {
		return pdf
	}
	pages := strings.Split(strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(string(list[1])), "R")), "R")
	return bookmark.ReplaceAllFunc(pdf, func(was []byte) []byte {
		page := number(bookmark, was)/2 - 1 // 3 for the first page, 5 for the second
		if page < 0 || page >= len(pages) {
			return was
		}
		is := "/Dest [" + strings.TrimSpace(pages[page]) + " R /Fit"
		return []byte(is + strings.Repeat(" ", len(was)-len(is)-1) + "]")
	})
}

// newPrinter begins a document with the fonts, the margins and the band on top.
func newPrinter(size, title, number, creator string, at time.Time) *printer {
	pdf := fpdf.New("P", "mm", size, "")
	pdf.SetCompression(true)
	pdf.SetCreationDate(at)
	pdf.SetModificationDate(at)
	pdf.SetCatalogSort(true)
	pdf.SetTitle(title+" "+number, true)
	pdf.SetCreator(creator, true)
	pdf.AddUTF8FontFromBytes("sans", "", sansRegular)
	pdf.AddUTF8FontFromBytes("sans", "B", sansBold)
	pdf.AddUTF8FontFromBytes("mono", "", monoRegular)
	pdf.SetMargins(margin, 26, margin)
	pdf.SetAutoPageBreak(true, 20)
	pdf.AliasNbPages("{pages}")
	w, _ := pdf.GetPageSize()
	p := &printer{pdf: &canvas{Fpdf: pdf}, width: w - 2*margin}
	pdf.SetHeaderFunc(func() { p.header(title, number) })
	return p
}

func (p *printer) font(family, style string, size float64, c colour) {
	p.pdf.SetFont(family, style, size)
	p.pdf.SetTextColor(c[0], c[1], c[2])
}

// header draws the dark band with the mark, the title and the job number.
func (p *printer) header(title, number string) {
	w, _ := p.pdf.GetPageSize()
	p.pdf.SetFillColor(ink[0], ink[1], ink[2])
	p.pdf.Rect(0, 0, w, 16, "F")
	p.pdf.SetDrawColor(0xD9, 0x8A, 0x55)
	p.pdf.SetLineWidth(0.7)
	p.pdf.Polygon(hexagon(margin+3.5, 8, 3.6), "D")
	p.pdf.Line(margin+2.6, 9, margin+5.4, 6.6)
	p.pdf.SetXY(margin+9, 4.5)
	p.font("sans", "B", 12, colour{255, 253, 249})
	p.pdf.CellFormat(p.width-60, 7, title, "", 0, "L", false, 0, "")
	p.font("mono", "", 9, colour{0xD8, 0xD3, 0xC8})
	p.pdf.SetXY(w-margin-60, 4.5)
	p.pdf.CellFormat(60, 7, p.phrases.Say("job %s", number), "", 0, "R", false, 0, "")
	p.pdf.SetXY(margin, 24)
}

func (p *printer) footer(left string) {
	p.pdf.SetY(-13)
	p.font("mono", "", 7.5, slate)
	p.pdf.CellFormat(p.width*0.75, 5, left, "", 0, "L", false, 0, "")
	// The placeholder is wider than the number that takes its place: no right
	// alignment.
	p.pdf.SetX(margin + p.width - 22)
	p.pdf.CellFormat(22, 5, p.phrases.Say("page %s of {pages}", strconv.Itoa(p.pdf.PageNo())), "", 0, "L", false, 0, "")
}

func hexagon(x, y, r float64) []fpdf.PointType {
	pts := make([]fpdf.PointType, 6)
	for i := range pts {
		a := math.Pi / 3 * float64(i)
		pts[i] = fpdf.PointType{X: x + r*math.Cos(a), Y: y + r*math.Sin(a)}
	}
	return pts
}

// room starts a new page unless h mm are left on this one.
func (p *printer) room(h float64) {
	_, page := p.pdf.GetPageSize()
	if p.pdf.GetY()+h > page-20 {
		p.pdf.AddPage()
	}
}

// turn begins a page that lies the other way, where a block does.
func (p *printer) turn(across bool) {
	if w, h := p.pdf.GetPageSize(); across == (w > h) {
		return
	} else if across {
		p.pdf.AddPageFormat("L", fpdf.SizeType{Wd: w, Ht: h})
	} else {
		p.pdf.AddPageFormat("P", fpdf.SizeType{Wd: h, Ht: w})
	}
	w, _ := p.pdf.GetPageSize()
	p.width = w - 2*margin
}

func (p *printer) block(b record.Block) {
	p.turn(b.Across)
	p.room(p.least(&b))
	p.pdf.Bookmark(b.Heading, 0, -1)
	p.pdf.Ln(3)
	p.font("sans", "B", 11, ink)
	p.pdf.CellFormat(p.width, 6, b.Heading, "", 1, "L", false, 0, "")
	y := p.pdf.GetY() + 0.4
	p.pdf.SetDrawColor(copper[0], copper[1], copper[2])
	p.pdf.SetLineWidth(0.5)
	p.pdf.Line(margin, y, margin+14, y)
	p.pdf.Ln(2.2)
	for _, t := range b.Text {
		c := ink
		if b.Caution {
			c = stop
		}
		p.font("sans", "", 9, c)
		p.pdf.MultiCell(p.width, leading, t, "", "L", false)
		p.pdf.Ln(0.8)
	}
	if b.Plan {
		p.plan()
	}
	width := p.width
	var below float64
	if d, ok := p.drawing(&b); ok {
		below = p.aside(d)
		width -= asideWidth + 4
	}
	for _, kv := range b.Pairs {
		p.pair(kv, width)
	}
	if below > p.pdf.GetY() {
		p.pdf.SetY(below)
	}
	if b.Table != nil {
		p.table(b.Table)
	}
	if b.Code != "" {
		p.code(b.Code, margin, p.pdf.GetY(), codeSide)
		p.pdf.SetY(p.pdf.GetY() + codeSide + 2)
	}
	if b.Strokes != "" {
		p.signature(b.Strokes)
	}
	for i := 0; i < len(b.Pictures); i += 2 {
		p.sideBySide(b.Pictures[i:min(i+2, len(b.Pictures))])
	}
}

// sideBySide prints two photos side by side, of one height, their captions below.
func (p *printer) sideBySide(list []record.Picture) {
	const gap, tallest = 6.0, 88.0
	wide := (p.width - gap) / 2
	var high, text float64
	heights := make([]float64, len(list))
	for i, pic := range list {
		data, ok := p.pictures[pic.Digest]
		heights[i] = 12
		if ok {
			info := p.pdf.RegisterImageOptionsReader(pic.Digest, fpdf.ImageOptions{ImageType: "JPG"}, bytes.NewReader(data))
			if info != nil && info.Width() > 0 {
				heights[i] = min(wide*info.Height()/info.Width(), tallest)
			}
		}
		high = max(high, heights[i])
		p.font("sans", "", 8, ink)
		text = max(text, 4*float64(len(p.pdf.SplitText(pic.Caption, wide))))
	}
	p.room(high + text + 5)
	y := p.pdf.GetY() + 1
	for i, pic := range list {
		x := margin + float64(i)*(wide+gap)
		if _, ok := p.pictures[pic.Digest]; ok {
			p.pdf.ImageOptions(pic.Digest, x, y, 0, heights[i], false, fpdf.ImageOptions{ImageType: "JPG"}, 0, "")
		} else {
			p.pdf.SetXY(x, y)
			p.font("sans", "", 8, stop)
			p.pdf.MultiCell(wide, 4, "This photo is not in the firm's files. Its digest begins with "+pic.Digest[:min(16, len(pic.Digest))]+".", "", "L", false)
		}
		p.pdf.SetXY(x, y+high+1)
		p.font("sans", "", 8, ink)
		p.pdf.MultiCell(wide, 4, pic.Caption, "", "L", false)
	}
	p.pdf.SetXY(margin, y+high+text+4)
}

// least is how much room a block asks for at least, mm: its heading with what comes first.
func (p *printer) least(b *record.Block) float64 {
	const heading, head = 12, 5.4
	if t := b.Table; t != nil && len(t.Rows) > 0 && len(b.Text)+len(b.Pairs) == 0 {
		_, widths := p.columns(t)
		return heading + head + p.rowHeight(t, widths, t.Rows[0])
	}
	if b.Code != "" {
		return 2*heading + codeSide
	}
	if d, ok := p.drawing(b); ok {
		return heading + d.Height*asideWidth/d.Width + 4
	}
	return 2 * heading
}

// columns returns how much of a table's width its verdicts take, and the widths of its columns, mm.
func (p *printer) columns(t *record.Table) (mark float64, widths []float64) {
	if t.Verdicts != nil {
		mark = 6
	}
	widths = make([]float64, len(t.Columns))
	for i, c := range t.Columns {
		widths[i] = c.Share * (p.width - mark)
	}
	return mark, widths
}

func (p *printer) pair(kv [2]string, width float64) {
	label := 44.0
	p.font("sans", "", 9, ink)
	lines := p.pdf.SplitText(kv[1], width-label)
	h := leading * float64(max(len(lines), 1))
	p.room(h)
	y := p.pdf.GetY()
	p.font("sans", "", 9, slate)
	p.pdf.MultiCell(label, leading, kv[0], "", "L", false)
	left := p.pdf.GetY()
	p.pdf.SetXY(margin+label, y)
	p.font("sans", "", 9, ink)
	p.pdf.MultiCell(width-label, leading, kv[1], "", "L", false)
	p.pdf.SetXY(margin, max(p.pdf.GetY(), left)+0.6)
}

// drawing is what a block has at the right margin; false where it has nothing there.
func (p *printer) drawing(b *record.Block) (Drawing, bool) {
	if b.Space {
		return workingSpace(&p.in.Package.Space, p.in), true
	}
	if b.Diagram == "" {
		return Drawing{}, false
	}
	pt, ok := p.job.Point(b.Diagram)
	if !ok {
		return Drawing{}, false
	}
	return OneLine(p.job, pt, p.in), true
}

// asideWidth is how wide a drawing at the right margin is, mm.
const asideWidth = 66

// aside draws at the right margin and returns the y below it; the position on the page is left where it was.
func (p *printer) aside(d Drawing) float64 {
	scale := asideWidth / d.Width
	p.room(d.Height*scale + 4)
	x0, y0 := margin+p.width-asideWidth, p.pdf.GetY()
	for _, s := range d.Shapes {
		if s.Text != "" {
			c := ink
			if s.Class == "quiet" {
				c = slate
			}
			p.font("sans", "", 6.6, c)
			p.pdf.Text(x0+s.Points[0].X*scale, y0+s.Points[0].Y*scale, s.Text)
			continue
		}
		c, w := ink, 0.35
		switch s.Class {
		case "supply":
			c, w = copper, 0.8
		case "earth":
			c, w = sound, 0.4
			p.pdf.SetDashPattern([]float64{1.2, 0.8}, 0)
		}
		p.pdf.SetDrawColor(c[0], c[1], c[2])
		p.pdf.SetLineWidth(w)
		n := len(s.Points)
		for i := range n {
			if i == n-1 && !s.Closed {
				break
			}
			a, b := s.Points[i], s.Points[(i+1)%n]
			p.pdf.Line(x0+a.X*scale, y0+a.Y*scale, x0+b.X*scale, y0+b.Y*scale)
		}
		p.pdf.SetDashPattern(nil, 0)
	}
	return y0 + d.Height*scale
}

// ways to draw a class of a plan: fill, line and its width, mm, and dashes; a colour that is nil is not drawn.
type pen struct {
	fill, line *colour
	width      float64
	dashes     []float64
}

var (
	grey  = colour{0xD9, 0xD3, 0xC6}
	paper = colour{0xF0, 0xEB, 0xE0}
	metal = colour{0xE4, 0xE7, 0xEA}
	// The same look as the file of its own, see planStyle.
	planPens = map[string]pen{
		"wall": {&grey, &ink, 0.3, nil}, "door": {nil, &ink, 0.6, nil}, "path": {&paper, nil, 0, nil}, "bay": {nil, &slate, 0.25, []float64{1.6, 1}},
		"car": {&metal, &slate, 0.3, nil}, "nose": {nil, &slate, 0.6, nil}, "obstacle": {&grey, &slate, 0.25, nil}, "gas": {nil, &stop, 0.4, nil},
		"board": {&ink, nil, 0, nil}, "position": {nil, &ink, 0.4, nil}, "position chosen": {&copper, &copper, 0.4, nil}, "cord": {nil, &sound, 0.6, nil},
		"cord short": {nil, &watch, 0.6, []float64{1.8, 1.2}}, "inlet": {&copper, nil, 0, nil}, "scale": {nil, &ink, 0.6, nil},
	}
)

// plan draws the site plan over the width of the page, or as high as half of it.
func (p *printer) plan() {
	d := drawPlan(p.job, p.in)
	_, page := p.pdf.GetPageSize()
	scale := min(p.width/d.Width, page/2/d.Height)
	p.room(d.Height*scale + 4)
	x0, y0 := margin+(p.width-d.Width*scale)/2, p.pdf.GetY()
	for _, s := range d.Shapes {
		if s.Text != "" {
			c := ink
			switch {
			case strings.Contains(s.Class, "quiet"):
				c = slate
			case strings.Contains(s.Class, "chosen-text"):
				c = colour{255, 255, 255}
			}
			p.font("sans", "", 7, c)
			x := x0 + s.Points[0].X*scale
			if strings.Contains(s.Class, "mid") {
				x -= p.pdf.GetStringWidth(s.Text) / 2
			}
			p.pdf.Text(x, y0+s.Points[0].Y*scale, s.Text)
			continue
		}
		p.stroke(&s, planPens[s.Class], x0, y0, scale)
	}
	p.pdf.SetDashPattern(nil, 0)
	p.pdf.SetXY(margin, y0+d.Height*scale)
}

// codeSide is how wide a code is printed, mm: a phone reads it at arm's length. Common practice, no source.
const codeSide = 26.0

// code draws a text as a code for a phone, with its corner at a place. One that is too long for a code is left out:
// it stands beside it.
func (p *printer) code(text string, x, y, side float64) {
	png, err := QR(text)
	if err != nil {
		return
	}
	asPNG := fpdf.ImageOptions{ImageType: "PNG"}
	p.pdf.RegisterImageOptionsReader("code "+text, asPNG, bytes.NewReader(png))
	p.pdf.ImageOptions("code "+text, x, y, side, side, false, asPNG, 0, "")
}

// signature draws the strokes of a signature over a line.
func (p *printer) signature(strokes string) {
	const scale, pen = 0.1, 0.35 // mm
	height := job.SignatureHeight * scale
	p.room(height + 4)
	x0, y0 := margin, p.pdf.GetY()
	p.pdf.SetDrawColor(ink[0], ink[1], ink[2])
	p.pdf.SetLineWidth(pen)
	for _, path := range strings.Split(strokes, "M")[1:] {
		var at []float64
		for _, xy := range strings.FieldsFunc(path, func(r rune) bool { return r == 'L' || r == ' ' }) {
			v, _ := strconv.ParseFloat(xy, 64) // digits, by the schema of the entry
			at = append(at, v*scale)
		}
		for i := 0; i+1 < len(at); i += 2 {
			k := max(i-2, 0) // a path of one point is a dot
			p.pdf.Line(x0+at[k], y0+at[k+1], x0+at[i], y0+at[i+1])
		}
	}
	p.pdf.SetDrawColor(slate[0], slate[1], slate[2])
	p.pdf.SetLineWidth(0.2)
	p.pdf.Line(x0, y0+height, x0+job.SignatureWidth*scale, y0+height)
	p.pdf.SetY(y0 + height + 3)
}

// stroke draws a shape of a plan.
func (p *printer) stroke(s *Shape, with pen, x0, y0, scale float64) {
	pts := make([]fpdf.PointType, len(s.Points))
	for i, q := range s.Points {
		pts[i] = fpdf.PointType{X: x0 + q.X*scale, Y: y0 + q.Y*scale}
	}
	style := ""
	if with.line != nil {
		p.pdf.SetDrawColor(with.line[0], with.line[1], with.line[2])
		p.pdf.SetLineWidth(with.width)
		p.pdf.SetDashPattern(with.dashes, 0)
		style = "D"
	}
	if with.fill != nil {
		p.pdf.SetFillColor(with.fill[0], with.fill[1], with.fill[2])
		style = "F" + style
	}
	if s.Closed {
		p.pdf.Polygon(pts, style)
		return
	}
	for i := 1; i < len(pts); i++ {
		p.pdf.Line(pts[i-1].X, pts[i-1].Y, pts[i].X, pts[i].Y)
	}
}

func (p *printer) table(t *record.Table) {
	mark, widths := p.columns(t)
	head := func() {
		p.font("sans", "B", 8, slate)
		y, x, lines := p.pdf.GetY(), margin+mark, 1
		for i, c := range t.Columns {
			p.pdf.SetXY(x, y)
			p.pdf.MultiCell(widths[i], 4, c.Title, "", align(c), false)
			x += widths[i]
			lines = max(lines, len(p.pdf.SplitText(c.Title, widths[i])))
		}
		p.pdf.SetXY(margin, y+4*float64(lines)+1.4)
	}
	head()
	if len(t.Rows) == 0 {
		p.font("sans", "", 8.5, slate)
		p.pdf.CellFormat(p.width, 5, "nothing recorded", "", 1, "L", false, 0, "")
	}
	for i, row := range t.Rows {
		h := p.rowHeight(t, widths, row)
		_, page := p.pdf.GetPageSize()
		if p.pdf.GetY()+h > page-20 {
			p.pdf.AddPage()
			head()
		}
		y := p.pdf.GetY()
		if i%2 == 1 {
			p.pdf.SetFillColor(band[0], band[1], band[2])
			p.pdf.Rect(margin, y, p.width, h, "F")
		}
		if t.Verdicts != nil {
			p.mark(margin+2.6, y+2.6, t.Verdicts[i])
		}
		x := margin + mark
		for k, cell := range row {
			p.cellFont(t.Columns[k])
			p.pdf.SetXY(x, y+0.4)
			p.pdf.MultiCell(widths[k], 4, cell, "", align(t.Columns[k]), false)
			x += widths[k]
		}
		p.pdf.SetDrawColor(line[0], line[1], line[2])
		p.pdf.SetLineWidth(0.15)
		p.pdf.Line(margin, y+h, margin+p.width, y+h)
		p.pdf.SetXY(margin, y+h)
	}
}

func align(c record.Column) string {
	if c.Right {
		return "R"
	}
	return "L"
}

func (p *printer) cellFont(c record.Column) {
	style := ""
	if c.Right { // measured values; the mono face has no Ω
		style = "B"
	}
	p.font("sans", style, 8, ink)
}

func (p *printer) rowHeight(t *record.Table, widths []float64, row []string) float64 {
	lines := 1
	for k, cell := range row {
		p.cellFont(t.Columns[k])
		lines = max(lines, len(p.pdf.SplitText(cell, widths[k])))
	}
	return 4*float64(lines) + 1.4
}

// mark draws the shape of a verdict: each has its own form as well as colour.
func (p *printer) mark(x, y float64, v verdict.Verdict) {
	const r = 1.7
	p.pdf.SetLineWidth(0.3)
	switch v {
	case verdict.Sound:
		p.pdf.SetFillColor(sound[0], sound[1], sound[2])
		p.pdf.Polygon(hexagon(x, y, r), "F")
		p.pdf.SetDrawColor(255, 255, 255)
		p.pdf.Line(x-0.8, y, x+0.8, y)
	case verdict.Watch:
		p.pdf.SetDrawColor(watch[0], watch[1], watch[2])
		p.pdf.SetFillColor(watch[0], watch[1], watch[2])
		p.pdf.Polygon(hexagon(x, y, r), "D")
		p.pdf.Polygon([]fpdf.PointType{{X: x - r, Y: y}, {X: x + r, Y: y}, {X: x + r/2, Y: y + 0.87*r}, {X: x - r/2, Y: y + 0.87*r}}, "F")
	case verdict.Stop:
		p.pdf.SetFillColor(stop[0], stop[1], stop[2])
		p.pdf.Polygon(hexagon(x, y, r), "F")
		p.pdf.SetDrawColor(255, 255, 255)
		p.pdf.Line(x-0.6, y-0.6, x+0.6, y+0.6)
		p.pdf.Line(x-0.6, y+0.6, x+0.6, y-0.6)
	case verdict.Open:
		p.pdf.SetDrawColor(slate[0], slate[1], slate[2])
		p.pdf.SetDashPattern([]float64{0.7, 0.5}, 0)
		p.pdf.Circle(x, y, r*0.9, "D")
		p.pdf.SetDashPattern(nil, 0)
	}
}

// seal prints the digest, the code and how to check them.
func (p *printer) seal(s record.Seal, customer bool) {
	say := p.phrases.Say
	attached := say("The record itself is attached to this file as record.json.")
	if customer {
		attached = say("What this paper prints is attached to this file as extract.json, with the digest of the whole record, which the contractor keeps.")
	}
	p.block(record.Block{Heading: say("Seal"), Pairs: [][2]string{
		{say("Code"), record.Code(s.Digest)},
		{say("Key"), record.Fingerprint(s.Key)},
	}, Text: []string{attached + " " +
		say("“dogbolt verify FILE” checks this PDF and the attachment, and tells whether a byte was changed. Compare the code and the key with those that the contractor gives.")}})
	p.font("mono", "", 7.5, ink)
	p.pdf.MultiCell(p.width, 4, "SHA-256 "+s.Digest, "", "L", false)
}
