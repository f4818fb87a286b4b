// Package paper is what is printed of a step for a student or an instrument: what stands on the
// sheet, and how it is laid out on pages. It uses ladders and what is below.
package paper
