package httpapi

import (
	"mime"
	"reflect"
	"slices"
	"strings"
	"unicode"

	"github.com/danielgtaylor/huma/v2"
)

// sending describes an operation that answers with a file of one of the media types.
func sending(o huma.Operation, types ...string) huma.Operation {
	content := map[string]*huma.MediaType{}
	for _, t := range types {
		content[t] = &huma.MediaType{Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}}
	}
	o.Responses = map[string]*huma.Response{"200": {Description: "The file", Content: content}}
	return o
}

// Media types of what is sent besides JSON.
const (
	typePDF  = "application/pdf"
	typeJSON = "application/json"
	typeCSV  = "text/csv"
	typeXLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
	typeZIP  = "application/zip"
	typeSVG  = "image/svg+xml"
	typeJPEG = "image/jpeg"
	typePNG  = "image/png"
)

// session is the name of the security scheme: a cookie that signing in sets.
const session = "session"

// described completes the description of each operation as it is added: whom it
// serves, what group it belongs to, and which answers say that it went wrong.
func described(api *huma.OpenAPI, o *huma.Operation) {
	parts := strings.Split(o.Path, "/") // "", "api", "jobs", …
	o.Tags = []string{parts[2]}
	if !slices.ContainsFunc(api.Tags, func(t *huma.Tag) bool { return t.Name == parts[2] }) {
		api.Tags = append(api.Tags, &huma.Tag{Name: parts[2], Description: "What begins with /api/" + parts[2]})
	}
	o.Security = []map[string][]string{{session: {}}}
	if slices.Contains([]string{"sign-in", "set-up", "verify-file"}, o.OperationID) {
		o.Security = []map[string][]string{} // nobody is signed in
	}
	if r := o.Responses["default"]; r != nil {
		delete(o.Responses, "default")
		r4, r5 := *r, *r
		r4.Description, r5.Description = "Refused: the fields or the reason are named", "Something went wrong on the server"
		o.Responses["4XX"], o.Responses["5XX"] = &r4, &r5
	}
}

// settled puts the limits of members of lists and maps where JSON Schema has them: huma leaves
// a field's limits on the list.
func settled(api *huma.OpenAPI) {
	for name, s := range api.Components.Schemas.Map() {
		t := api.Components.Schemas.TypeFromRef("#/components/schemas/" + name)
		if t == nil || t.Kind() != reflect.Struct {
			continue
		}
		for _, p := range s.Properties {
			if of, ok := p.AdditionalProperties.(*huma.Schema); ok {
				p.AdditionalProperties = handDown(p, of)
				p.MaxProperties, p.MaxItems = p.MaxItems, nil
			} else if p.Items != nil {
				p.Items = handDown(p, p.Items)
			}
		}
	}
}

// handDown moves the limits of the members of a list or a map to them.
func handDown(from, to *huma.Schema) *huma.Schema {
	members := *to
	members.Minimum, from.Minimum = or(from.Minimum, members.Minimum), nil
	members.Maximum, from.Maximum = or(from.Maximum, members.Maximum), nil
	members.MinLength, from.MinLength = or(from.MinLength, members.MinLength), nil
	members.MaxLength, from.MaxLength = or(from.MaxLength, members.MaxLength), nil
	return &members
}

func or[T any](a, b *T) *T {
	if a != nil {
		return a
	}
	return b
}

// download is a file to be saved.
type download struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Cache       string `header:"Cache-Control"`
	Body        []byte
}

func saveAs(kind, name string, data []byte) *download {
	return &download{kind, attachment(name), "no-store", data}
}

// attachment is the header of a file that is kept, under a name that any system can have.
func attachment(name string) string {
	name = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || strings.ContainsRune(`/\:*?"<>|`, r) {
			return '-'
		}
		return r
	}, name)
	return mime.FormatMediaType("attachment", map[string]string{"filename": name})
}
