// Package order is what a teacher chooses of a ladder: how a figure grows, how big a step is, when the
// chords come. It uses nothing.
package order
