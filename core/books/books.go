// Package books brings in every country that ships with the program: importing it
// registers their practices and their rulebooks. This is the one place that lists
// them.
package books

import (
	_ "dogbolt/core/books/uk"
	_ "dogbolt/core/books/us"
)
