// Package drill makes exercises of a trouble spot: the right hand lifted out of
// a bar, or the left hand's way from one chord to the next.
package drill
