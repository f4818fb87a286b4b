// Package fretboard holds instruments, shapes and the search for shapes: where
// a chord lies under the left hand.
package fretboard
