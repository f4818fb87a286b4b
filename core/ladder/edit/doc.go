// Package edit is all that can be done to a ladder, a type each, after which the rest is found anew.
// It uses grow and ladder.
package edit
