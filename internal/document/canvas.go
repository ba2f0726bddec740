package document

import (
	"fmt"
	"html"
	"slices"
	"strings"
	"sync"
	"unicode"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/text/unicode/runenames"

	"dogbolt/core/record"
)

// canvas is a PDF on which any text can be written. A character that a face does not
// have, or that PDF fonts of 65536 characters cannot have, prints as its name in
// brackets: [electric plug]. What is stored and sealed keeps it whole.
type canvas struct {
	*fpdf.Fpdf
	face string
}

// faces are the fonts that ship, by the name of their family.
var faces = sync.OnceValue(func() map[string]*sfnt.Font {
	out := map[string]*sfnt.Font{}
	for name, data := range map[string][]byte{"sans": sansRegular, "mono": monoRegular} {
		f, err := sfnt.Parse(data)
		if err != nil {
			panic(err) // the fonts ship with the program
		}
		out[name] = f
	}
	return out
})

// largest is the greatest character that a font of the PDF library can have.
const largest = 0xFFFF

// lacks reports whether a face has no shape for a character.
func lacks(face string, r rune) bool {
	if r < 0x7F || r > largest {
		return r > largest || unicode.IsControl(r) && r != '\n' && r != '\t' && r != '\r'
	}
	var b sfnt.Buffer
	i, err := faces()[face].GlyphIndex(&b, r)
	return err != nil || i == 0
}

// shapeless reports whether a character has no shape of its own: it joins its
// neighbours, or says in which manner they are drawn.
func shapeless(r rune) bool {
	return unicode.Is(unicode.Variation_Selector, r) || unicode.Is(unicode.Join_Control, r)
}

// named is a character in words.
func named(r rune) string {
	name := strings.ToLower(runenames.Name(r))
	if name == "" || strings.HasPrefix(name, "<") {
		name = fmt.Sprintf("%U", r)
	}
	return "[" + name + "]"
}

// printable is a text as a face can print it.
func printable(face, s string) string {
	if !strings.ContainsFunc(s, func(r rune) bool { return r >= 0x7F && lacks(face, r) || unicode.IsControl(r) }) {
		return s
	}
	var b strings.Builder
	for _, r := range s {
		switch {
		case shapeless(r): // what it joins is taken apart
		case lacks(face, r):
			b.WriteString(named(r))
		default:
			b.WriteRune(r)
		}
	}
	return b.String()
}

// escaped is a text inside a drawing: XML knows no control characters, which older
// versions of the program took.
func escaped(s string) string {
	return html.EscapeString(strings.Map(func(r rune) rune {
		if unicode.IsControl(r) && r != '\n' && r != '\t' {
			return -1
		}
		return r
	}, s))
}

// Named lists what prints as a name in a document, each once: "🔌 [electric plug]".
func Named(d record.Document) []string {
	var out []string
	look := func(texts ...string) {
		for _, s := range texts {
			for _, r := range s {
				if said := string(r) + " " + named(r); r >= 0x7F && lacks("sans", r) && !shapeless(r) && !slices.Contains(out, said) {
					out = append(out, said)
				}
			}
		}
	}
	for _, b := range d.Blocks {
		look(b.Heading)
		look(b.Text...)
		for _, p := range b.Pictures {
			look(p.Caption)
		}
		for _, p := range b.Pairs {
			look(p[:]...)
		}
		if b.Table == nil {
			continue
		}
		for _, row := range b.Table.Rows {
			look(row...)
		}
	}
	return out
}

// SetFont is fpdf's, and notes the face.
func (c *canvas) SetFont(family, style string, size float64) {
	c.face = family
	c.Fpdf.SetFont(family, style, size)
}

// CellFormat is fpdf's, of what can be printed.
func (c *canvas) CellFormat(w, h float64, s, border string, ln int, align string, fill bool, link int, address string) {
	c.Fpdf.CellFormat(w, h, printable(c.face, s), border, ln, align, fill, link, address)
}

// MultiCell is fpdf's, of what can be printed.
func (c *canvas) MultiCell(w, h float64, s, border, align string, fill bool) {
	c.Fpdf.MultiCell(w, h, printable(c.face, s), border, align, fill)
}

// SplitText is fpdf's, of what can be printed.
func (c *canvas) SplitText(s string, w float64) []string {
	return c.Fpdf.SplitText(printable(c.face, s), w)
}

// Text is fpdf's, of what can be printed.
func (c *canvas) Text(x, y float64, s string) { c.Fpdf.Text(x, y, printable(c.face, s)) }
