// Package edit is all that can be done to a song, a type each that carries itself out and says what
// it did. It uses song.
package edit
