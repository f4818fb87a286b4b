// Package hand is what somebody’s left hand cannot do yet, and how it holds chords instead. It uses
// song.
package hand
