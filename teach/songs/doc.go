// Package songs is a song on the page: its chords as they are held, its keys, its tune, what is
// changed in it, and the line that is played of it, drawn and heard. It uses patterns and people.
package songs
