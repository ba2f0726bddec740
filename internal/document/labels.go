package document

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"html"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"dogbolt/core/jurisdiction"
)

// Size of a label, mm. Common practice, no source: large enough for 3 mm letters.
const (
	labelWide = 88.0
	labelHigh = 44.0
)

// Labels prints labels in actual size on the country's paper, two to a row, to be cut out, each with where it
// goes and its clause below the cut.
func Labels(number string, list []jurisdiction.Label, in *jurisdiction.Jurisdiction, at time.Time) ([]byte, error) {
	p := newPrinter(in.Paper.Name, "Labels", number, "Dogbolt", at)
	p.pdf.SetLang(in.Lang)
	p.pdf.SetFooterFunc(func() { p.footer("job " + number + "   print in actual size; labels that last where they are") })
	p.pdf.AddPage()
	const below = 9.0
	for i, l := range list {
		if i%2 == 0 {
			if i > 0 {
				p.pdf.SetY(p.pdf.GetY() + labelHigh + below)
			}
			p.room(labelHigh + below)
		}
		y := p.pdf.GetY()
		p.label(&l, margin+float64(i%2)*(labelWide+4), y)
		p.pdf.SetXY(margin, y)
	}
	if len(list) == 0 {
		p.font("sans", "", 9, slate)
		p.pdf.CellFormat(p.width, 6, "This job asks for no labels, or is not designed yet.", "", 1, "L", false, 0, "")
	}
	var out bytes.Buffer
	if err := p.pdf.Output(&out); err != nil {
		return nil, fmt.Errorf("print labels: %w", err)
	}
	return out.Bytes(), nil
}

// label draws one label with its corner at a place.
func (p *printer) label(l *jurisdiction.Label, x, y float64) {
	c := ink
	if l.Warns {
		c = stop
	}
	p.pdf.SetDrawColor(c[0], c[1], c[2])
	p.pdf.SetLineWidth(0.6)
	p.pdf.Rect(x, y, labelWide, labelHigh, "D")
	top := y + 4
	if l.Warns { // a triangle, and not its colour alone
		p.pdf.Polygon([]fpdf.PointType{{X: x + 4, Y: y + 12}, {X: x + 8, Y: y + 5}, {X: x + 12, Y: y + 12}}, "D")
		p.font("sans", "B", 9, c)
		p.pdf.Text(x+7.2, y+11.2, "!")
	}
	for i, line := range l.Lines {
		size, left := 10.0, x+4
		if i == 0 {
			size = 14
			if l.Warns {
				left = x + 14
			}
		}
		width := x + labelWide - 4 - left
		if l.Code != "" {
			width -= codeSide + 2
		}
		style := ""
		if i == 0 {
			style = "B"
		}
		for size > 6 { // long words get smaller letters before they leave the label
			p.font("sans", style, size, c)
			if float64(len(p.pdf.SplitText(line, width)))*size*0.42 < y+labelHigh-2-top {
				break
			}
			size--
		}
		p.pdf.SetXY(left, top)
		p.pdf.MultiCell(width, size*0.42, line, "", "L", false)
		if top = p.pdf.GetY() + 2; l.Warns {
			top = max(top, y+15) // below the triangle
		}
	}
	if l.Code != "" {
		p.code(l.Code, x+labelWide-4-codeSide, y+(labelHigh-codeSide)/2, codeSide)
	}
	p.font("sans", "", 7, slate)
	p.pdf.Text(x, y+labelHigh+3.5, under(l))
}

// under is what stands below the cut of a label.
func under(l *jurisdiction.Label) string {
	if l.Clause == "" {
		return l.Where
	}
	return l.Where + " · " + l.Clause
}

// LabelsSVG draws labels in actual size, one under the other, for a label printer or a laser.
func LabelsSVG(list []jurisdiction.Label) []byte {
	const below = 9.0
	var b strings.Builder
	height := float64(len(list)) * (labelHigh + below)
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%.0fmm" height="%.0fmm" viewBox="0 0 %.0f %.0f"><title>Labels</title>`, labelWide+2, height, labelWide+2, height)
	for i, l := range list {
		y, c := float64(i)*(labelHigh+below)+1, "#17212b"
		if l.Warns {
			c = "#a5342b"
		}
		fmt.Fprintf(&b, `<rect x="1" y="%.1f" width="%.0f" height="%.0f" fill="none" stroke="%s" stroke-width="0.6"/>`, y, labelWide, labelHigh, c)
		left := 5.0
		if l.Warns {
			fmt.Fprintf(&b, `<path d="M5 %.1f l4 -7 l4 7 z" fill="none" stroke="%s" stroke-width="0.6"/><text x="8.2" y="%.1f" font-family="sans-serif" font-size="5" fill="%s">!</text>`, y+12, c, y+11.2, c)
			left = 15
		}
		at := y + 10
		for k, line := range l.Lines {
			size, letters := 3.6, 46
			if k == 0 {
				size, letters = 5.2, 30
			}
			if l.Code != "" {
				letters = letters * 2 / 3
			}
			for _, part := range folded(line, letters) {
				fmt.Fprintf(&b, `<text x="%.0f" y="%.1f" font-family="sans-serif" font-size="%.1f" fill="%s">%s</text>`, left, at, size, c, escaped(part))
				at += size * 1.25
			}
			if left, at = 5, at+1; l.Warns {
				at = max(at, y+17)
			}
		}
		if png, err := QR(l.Code); l.Code != "" && err == nil {
			fmt.Fprintf(&b, `<image x="%.0f" y="%.1f" width="%.0f" height="%.0f" href="data:image/png;base64,%s"/>`,
				labelWide-3-codeSide, y+(labelHigh-codeSide)/2, codeSide, codeSide, base64.StdEncoding.EncodeToString(png))
		}
		fmt.Fprintf(&b, `<text x="1" y="%.1f" font-family="sans-serif" font-size="2.6" fill="#62707c">%s</text>`, y+labelHigh+4, html.EscapeString(under(&l)))
	}
	b.WriteString("</svg>\n")
	return []byte(b.String())
}

// folded breaks a text into lines of at most so many letters, between its words.
func folded(s string, letters int) []string {
	var out []string
	line := ""
	for _, w := range strings.Fields(s) {
		if line != "" && len([]rune(line))+1+len([]rune(w)) > letters {
			out, line = append(out, line), ""
		}
		line = strings.TrimSpace(line + " " + w)
	}
	return append(out, line)
}
