// Package listen holds what was played against what was asked: taps on two halves of a screen against
// the timeline of a figure. It aligns them, says what came early or late, what is missing or too much,
// and what of it is a habit. It may use pattern and say. It never gives a mark.
package listen
