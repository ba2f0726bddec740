//go:build !unix

package main

// onlyOwner does nothing where files have no such modes: the folder's own rights count.
func onlyOwner() {}
