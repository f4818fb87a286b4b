// Package difficulty says how hard a pattern is on chords, on an instrument, at a
// tempo: part by part, in units that a teacher understands, and where the
// hardest place is. docs/difficulty.md defines the parts.
package difficulty
