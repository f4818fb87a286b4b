// Package song holds what a song is to the players: bars with chords and words,
// in sections, in a meter, at a tempo.
package song
