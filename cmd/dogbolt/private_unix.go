//go:build unix

package main

import "syscall"

// onlyOwner has all files that are made from now on readable by their owner alone.
func onlyOwner() { syscall.Umask(0o077) }
