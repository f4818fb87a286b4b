// Package chordpro reads chord sheets in the open plain-text format with chords
// in square brackets and directives in braces. Bar lines may be written as "|";
// a chord may say its beats after a colon, "[Am:2]"; without either, a chord
// lasts a bar. Grids ("{start_of_grid}") are read with one cell a beat.
package chordpro
