// Package patterns is the library of figures: their page, how hard they are on chords of a class,
// what lies around them, the bench, the series over a progression. It uses people.
package patterns
