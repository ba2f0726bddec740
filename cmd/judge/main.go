//go:build js && wasm

// Command judge is the rules for a device without signal: core/desk compiled to
// WebAssembly. It offers one function, dogboltJudge, JSON in and JSON out.
package main

import (
	"syscall/js"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/desk"
)

func main() {
	js.Global().Set("dogboltJudge", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return string(desk.Answer([]byte(args[0].String())))
	}))
	select {} // the page calls from now on
}
