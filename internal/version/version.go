// Package version says which program this is.
package version

import (
	"runtime/debug"
	"sync"
)

// number is set when a release is built: -ldflags "-X dogbolt/internal/version.number=1.2.0".
var number string

// base is the version that is being worked towards (CHANGELOG.md).
const base = "0.1.0"

// String returns the version as records and pages show it: the number of a release,
// or the number worked towards with the commit that it was built from.
var String = sync.OnceValue(func() string {
	if number != "" {
		return number
	}
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return base
	}
	commit, dirty := "", ""
	for _, s := range info.Settings {
		switch {
		case s.Key == "vcs.revision" && len(s.Value) >= 12:
			commit = "+" + s.Value[:12]
		case s.Key == "vcs.modified" && s.Value == "true":
			dirty = ".changed"
		}
	}
	if commit == "" {
		return base
	}
	return base + commit + dirty
})
