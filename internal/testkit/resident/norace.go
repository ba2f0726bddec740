//go:build !race

package resident

// watched says that the race detector is on, which takes memory of its own.
const watched = false
