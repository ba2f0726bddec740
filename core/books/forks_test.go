package books

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode"
)

// countryWords are the parts of a name that name a country or a book of one.
var countryWords = []string{"uk", "us", "usa", "gb", "british", "american", "irish", "canadian", "nec", "cec", "bs7671", "is10101", "school"}

// countryText finds the id or the name of a book or a country in a text.
var countryText = regexp.MustCompile(`\b(bs7671|nec|is10101|cec)\b:?|BS 7671|\bNEC\b|I\.S\. 10101|United Kingdom|United States|Great Britain|\bIreland\b|\bCanada\b|^(uk|us|ie|ca)$`)

// mayName are the few places outside the books that name a country or its book, and
// why.
var mayName = map[string]string{
	"internal/demo/":          "demo data: made-up jobs of two countries",
	"core/charger/charger.go": "reads what files of the first program call the country",
	"core/job/job.go":         "the doc of a field gives an edition as an example",
	"core/planning/crew.go":   "the doc of a field gives the beginnings of two editions' ids as an example",
	"core/clearance/form.go":  "the doc of a field gives the beginnings of two editions' ids as an example",
}

// parts splits a name as it is written into its words: ownTypes, NECVoltage.
func parts(name string) []string {
	var out []string
	runes := []rune(name)
	start := 0
	for i := 1; i <= len(runes); i++ {
		cut := i == len(runes) ||
			unicode.IsUpper(runes[i]) && !unicode.IsUpper(runes[i-1]) ||
			unicode.IsUpper(runes[i]) && i+1 < len(runes) && unicode.IsLower(runes[i+1]) && unicode.IsUpper(runes[i-1])
		if cut {
			out = append(out, strings.ToLower(string(runes[start:i])))
			start = i
		}
	}
	return out
}

func allowed(path string) bool {
	for p := range mayName {
		if strings.HasPrefix(path, p) {
			return true
		}
	}
	return false
}

// TestNobodyAsksTheCountry walks the program outside core/books: no name and no text
// in it names a country or the book of one, but in the places that are listed. Comments
// may: they cite sources.
func TestNobodyAsksTheCountry(t *testing.T) {
	root := "../.."
	used := map[string]bool{}
	for _, top := range []string{"core", "internal", "cmd"} {
		err := filepath.WalkDir(filepath.Join(root, top), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			rel := filepath.ToSlash(strings.TrimPrefix(path, root+string(filepath.Separator)))
			if strings.HasPrefix(rel, "core/books/") {
				return nil
			}
			set := token.NewFileSet()
			file, err := parser.ParseFile(set, path, nil, 0)
			if err != nil {
				return err
			}
			ast.Inspect(file, func(n ast.Node) bool {
				var what string
				switch n := n.(type) {
				case *ast.ImportSpec:
					return false // importing a country's folder is named below by its use
				case *ast.Ident:
					if slices.ContainsFunc(parts(n.Name), func(p string) bool { return slices.Contains(countryWords, p) }) {
						what = n.Name
					}
				case *ast.BasicLit:
					if n.Kind == token.STRING && countryText.MatchString(strings.Trim(n.Value, "`\"")) {
						what = n.Value
					}
				}
				switch {
				case what == "":
				case allowed(rel):
					for p := range mayName {
						used[p] = used[p] || strings.HasPrefix(rel, p)
					}
				default:
					t.Errorf("%s: %s names a country", set.Position(n.Pos()), what)
				}
				return true
			})
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	for p, why := range mayName {
		if !used[p] {
			t.Errorf("%s names no country any more (%s): take it off the list", p, why)
		}
	}
}

// pageFork finds a page that asks which country it is, or measures by one.
var pageFork = regexp.MustCompile(`['"](uk|us|ie|ca)['"]|\bisU[SK]\b|\.us\b|\bbs7671\b|\bnec:|BS 7671|\bNEC\b|0\.3048|0\.0254|in·lb`)

// TestNoPageAsksTheCountry does the same with the pages.
func TestNoPageAsksTheCountry(t *testing.T) {
	root := "../../web/src"
	err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.HasSuffix(path, "schema.d.ts") || !strings.HasSuffix(path, ".vue") && !strings.HasSuffix(path, ".ts") {
			return err
		}
		b, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		for i, line := range strings.Split(string(b), "\n") {
			if code := strings.TrimSpace(line); !strings.HasPrefix(code, "*") && !strings.HasPrefix(code, "//") && pageFork.MatchString(code) {
				t.Errorf("%s:%d: %s", path, i+1, code)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}
