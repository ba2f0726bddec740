package httpapi

import (
	_ "embed" // the page
	"html/template"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"dogbolt/core/charger"
	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/version"
)

// JobSchema returns the JSON Schema (2020-12) of a job file.
func JobSchema() []byte {
	return schema.Of[job.Job]().Publish("urn:dogbolt:job:2", "Dogbolt job file, version 2")
}

// PaperSchema returns the JSON Schema (2020-12) of a form definition.
func PaperSchema() []byte {
	return schema.Of[clearance.Definition]().Publish("urn:dogbolt:paper:1", "Dogbolt form definition, version 1")
}

// ChargerSchema returns the JSON Schema (2020-12) of a file of charger types.
func ChargerSchema() []byte {
	return schema.ListOf[charger.Type](charger.MaxTypes).Publish("urn:dogbolt:chargers:2", "Dogbolt charger types, version 2")
}

// ReadingsSchema returns the JSON Schema (2020-12) of a readings file in JSON.
func ReadingsSchema() []byte {
	return schema.Of[commission.File]().Publish("urn:dogbolt:readings:1", "Dogbolt readings file, version 1")
}

//go:embed docs.html
var docsHTML string

var docsTemplate = template.Must(template.New("docs").Parse(docsHTML))

// docsPage lists the operations for people.
func docsPage(w http.ResponseWriter, _ *http.Request) {
	type line struct{ Method, Path, ID, Summary string }
	var lines []line
	s := &server{}
	api := API(chi.NewRouter())
	s.signInRoutes(api)
	s.routes(api)
	for path, item := range api.OpenAPI().Paths {
		for method, o := range map[string]*huma.Operation{"GET": item.Get, "POST": item.Post, "PUT": item.Put, "DELETE": item.Delete} {
			if o != nil {
				lines = append(lines, line{method, path, o.OperationID, o.Summary})
			}
		}
	}
	slices.SortFunc(lines, func(a, b line) int {
		if a.Path != b.Path {
			if a.Path < b.Path {
				return -1
			}
			return 1
		}
		return slices.Index([]string{"GET", "POST", "PUT", "DELETE"}, a.Method) - slices.Index([]string{"GET", "POST", "PUT", "DELETE"}, b.Method)
	})
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	docsTemplate.Execute(w, map[string]any{"Lines": lines, "Version": version.String()})
}
