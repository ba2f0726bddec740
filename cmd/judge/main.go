//go:build js && wasm

// Command judge is the rules for a device without signal: core/assess compiled to
// WebAssembly. It offers one function, dogboltJudge, JSON in and JSON out.
package main

import (
	"syscall/js"

	"dogbolt/core/assess"
	_ "dogbolt/core/books" // the countries register themselves
)

func main() {
	js.Global().Set("dogboltJudge", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return string(assess.Answer([]byte(args[0].String())))
	}))
	select {} // the page calls from now on
}
