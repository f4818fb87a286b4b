// Package ladders is a ladder on its song: its steps, who stands where, what is changed in it, the
// lines of its steps, its drills, and the class playing them at once. It uses songs, patterns and
// people.
package ladders
