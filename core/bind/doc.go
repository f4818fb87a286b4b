// Package bind puts a pattern on a chord: which string each stroke takes, with
// a sentence for everything that had to give way.
package bind
