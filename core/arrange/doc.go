// Package arrange puts a tune on the strings over the chords of a song: where each note is
// played so that the thumb keeps its bass, and what the left hand holds for it.
//
// The search goes over the whole line: each moment at which a note or a chord begins has a few
// grips that hold its note and the bass strings that the thumb strikes until the next; the
// cheapest way through them is taken (Viterbi, IEEE Transactions on Information Theory 13(2),
// 1967), with the costs of holding and of changing of core/fretboard. What cannot be held is
// said, with the nearest way.
package arrange
