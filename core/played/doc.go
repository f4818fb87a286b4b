// Package played holds what is played on a song, whatever it was made from: a figure, a station of
// its tune, an exercise. It is the one value that is drawn, heard and written; whoever takes it asks
// nothing about where it came from. It uses song and what is below it.
package played
