// Package pattern holds what the picking and strumming hand does: strokes, bars
// of slots, the notation in which they are written, the count, the motion of
// the hand, and the catalogue of patterns.
package pattern
