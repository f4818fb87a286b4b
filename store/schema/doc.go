// Package schema brings the tables to the newest version, one copy of the program at a time.
// A migration does not change after it was released, so what its Go needs stands here.
package schema
