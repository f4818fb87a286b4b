// Package keys is the table of a song’s keys: what each asks of the players’ hands and of the voice,
// with and without a capo. It uses song.
package keys
