package record

import (
	"embed"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"dogbolt/core/job"
)

//go:embed phrases/*.json
var phraseFiles embed.FS

// Phrases are the texts of the customer's pack in a language, by the text in English, which stands where it is
// used and is the catalogue of English. %s stand for values; a translation that needs another order names them by %[2]s.
type Phrases map[string]string

// phrases are the catalogues, by language. A file that cannot be read is a fault of the build.
var phrases = map[job.Language]Phrases{job.Spanish: phrasesOf("es")}

func phrasesOf(language string) Phrases {
	data, err := phraseFiles.ReadFile("phrases/" + language + ".json")
	if err != nil {
		panic(err)
	}
	var p Phrases
	if err := json.Unmarshal(data, &p); err != nil {
		panic(fmt.Sprintf("phrases of %s: %v", language, err))
	}
	return p
}

// PhrasesOf returns the catalogue of a language; the empty one, which tells English, for English.
func PhrasesOf(language job.Language) Phrases { return phrases[language] }

// Say tells a text with its values; in English where the catalogue does not have it.
func (p Phrases) Say(text string, values ...any) string {
	if told, ok := p[text]; ok {
		text = told
	}
	if len(values) == 0 {
		return text
	}
	return fmt.Sprintf(text, values...)
}

// months as the layouts of the countries name them.
var months = strings.Fields("Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec")

// date writes a day or a moment by a layout of the country, which the language may want in another order.
func (p Phrases) date(t time.Time, layout string) string {
	if p == nil {
		return t.Format(layout)
	}
	s := t.Format(p.Say(layout))
	for _, m := range months {
		if told, ok := p[m]; ok && strings.Contains(s, m) {
			return strings.Replace(s, m, told, 1)
		}
	}
	return s
}

// speak lets a document be in a language, where the country's customers are asked for one.
func (b *builder) speak(language job.Language) {
	for _, l := range b.in.Languages {
		if l == language && language != job.English {
			b.phrases, b.doc.Lang = PhrasesOf(language), string(language)
		}
	}
}

// say tells a text of the document in its language.
func (b *builder) say(text string, values ...any) string {
	if b.heard != nil {
		b.heard(text)
	}
	return b.phrases.Say(text, values...)
}

// told is the document with the names of its lines in its language, and those values that are a text of their own.
func (b *builder) told() Document {
	for i := range b.doc.Blocks {
		block := &b.doc.Blocks[i]
		for k, p := range block.Pairs {
			block.Pairs[k] = [2]string{b.say(p[0]), b.phrases.Say(p[1])}
		}
	}
	return b.doc
}
