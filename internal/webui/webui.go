// Package webui serves the built front end. The files in dist come from
// `make build`; without them a placeholder page says so.
package webui

import (
	"bytes"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"
	"sync"
)

//go:embed all:dist placeholder.html
var files embed.FS

// encodings are the forms in which the build leaves a file beside itself, the smaller
// one first: the name in HTTP, and what its name ends in.
var encodings = []struct{ name, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// How long a browser keeps a file: a page and the worker are asked for again at every
// visit; what is in assets has its digest in its name and never changes.
const (
	again   = "no-cache"
	forever = "public, max-age=31536000, immutable"
)

// Handler serves the front end's files, compressed where the browser takes it, and its
// page for every address that is not of a file: the pages find their own way. A file
// that is not there is 404, not a page: an old page asks for an old version's script. base is
// the folder of the host that the program is under, "" for the whole host: the page says it to
// the browser.
func Handler(base string) http.Handler {
	dist, err := fs.Sub(files, "dist")
	if err != nil {
		panic(err) // the folder is embedded
	}
	var tags sync.Map // ETags by file
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		if strings.HasPrefix(name, "api/") {
			http.NotFound(w, r)
			return
		}
		cache := again
		if info, err := fs.Stat(dist, name); err != nil || info.IsDir() || name == "index.html" {
			if path.Ext(name) != "" && name != "index.html" {
				http.NotFound(w, r)
				return
			}
			name = "index.html"
		} else if strings.HasPrefix(name, "assets/") {
			cache = forever
		}
		accepts := r.Header.Get("Accept-Encoding")
		if name == "index.html" && base != "" {
			accepts = ""
		}
		body, encoding, err := read(dist, name, accepts)
		if name == "index.html" && base != "" {
			body = bytes.Replace(body, []byte(`<base href="/"`), []byte(`<base href="`+base+`/"`), 1)
		}
		if err != nil {
			body, _ = files.ReadFile("placeholder.html")
		}
		h := w.Header()
		h.Set("Cache-Control", cache)
		h.Set("Content-Type", contentType(name))
		h.Add("Vary", "Accept-Encoding")
		if encoding != "" {
			h.Set("Content-Encoding", encoding)
		}
		tag, ok := tags.Load(name + encoding)
		if !ok {
			sum := sha256.Sum256(body)
			tag, _ = tags.LoadOrStore(name+encoding, `"`+hex.EncodeToString(sum[:8])+`"`)
		}
		h.Set("ETag", tag.(string))
		if strings.Contains(r.Header.Get("If-None-Match"), tag.(string)) {
			w.WriteHeader(http.StatusNotModified)
			return
		}
		w.Write(body)
	})
}

// read returns a file in the smallest form that the browser takes.
func read(dist fs.FS, name, accepts string) (body []byte, encoding string, err error) {
	for _, e := range encodings {
		if !strings.Contains(accepts, e.name) {
			continue
		}
		if body, err := fs.ReadFile(dist, name+e.ending); err == nil {
			return body, e.name, nil
		}
	}
	body, err = fs.ReadFile(dist, name)
	return body, "", err
}

func contentType(name string) string {
	switch ext := path.Ext(name); ext {
	case ".webmanifest":
		return "application/manifest+json"
	case ".gz":
		return "application/gzip"
	case ".woff2":
		return "font/woff2"
	default:
		return mime.TypeByExtension(ext)
	}
}
