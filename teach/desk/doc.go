// Package desk is the log: the desk of a class, a tempo that is logged, what is decided of it, and
// what a student has done, with the takes that were kept. It uses ladders and what is below.
package desk
