package record

// Receipt returns the paper that says who was given the pack, with their signature; one without blocks while
// nobody signed. Given are the papers that they got, by their titles.
func Receipt(r *Record, given []string) Document {
	b := build(r, "Receipt of the handover")
	if _, ok := b.j.Receipt(); !ok {
		return b.doc
	}
	b.add(Block{Heading: "Installation", Pairs: b.who()})
	b.add(Block{Heading: "Given", Text: given})
	b.receipt()
	return b.doc
}

// receipt prints who signed for the pack; nothing while nobody did.
func (b *builder) receipt() {
	e, ok := b.j.Receipt()
	if !ok {
		return
	}
	b.add(Block{Heading: "Received", Strokes: e.Strokes, Pairs: given([][2]string{
		{"By", e.Value}, {"When", b.moment(e.At)}, {"Shown by", e.By}, {"Remark", e.Reason},
	})})
}
