// Package grow builds a ladder: how a figure grows from its first stroke, then over its chords and up
// to its tempo; what lies beyond it; a ladder again on another song. It uses ladder.
package grow
