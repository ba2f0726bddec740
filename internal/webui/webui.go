// Package webui serves the built front end. The files in dist come from
// `make build`; without them a placeholder page says so.
package webui

import (
	"embed"
	"io/fs"
	"net/http"
	"path"
	"strings"
)

//go:embed all:dist placeholder.html
var files embed.FS

// Handler serves the front end's files, and its page for every other address,
// since the pages find their own way.
func Handler() http.Handler {
	dist, err := fs.Sub(files, "dist")
	if err != nil {
		panic(err) // the folder is embedded
	}
	static := http.FileServerFS(dist)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		if strings.HasPrefix(name, "api/") {
			http.NotFound(w, r)
			return
		}
		if info, err := fs.Stat(dist, name); err == nil && !info.IsDir() && name != "index.html" {
			w.Header().Set("Cache-Control", "no-cache")
			if strings.HasPrefix(name, "assets/") {
				w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			static.ServeHTTP(w, r)
			return
		}
		page, err := fs.ReadFile(dist, "index.html")
		if err != nil {
			page, _ = files.ReadFile("placeholder.html")
		}
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		w.Header().Set("Cache-Control", "no-cache")
		w.Write(page)
	})
}
