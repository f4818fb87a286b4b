// Package done is what a change did, as an id with its arguments: it can be
// stored and shown years later in the words of that day. The words stand in a
// table where the change is made, in core/song and core/ladder.
package done
