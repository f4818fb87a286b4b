// Package say is what is said of something as an id with its arguments, a [Line]: it can be
// stored, compared and shown years later. Its words stand in a table beside what it describes.
// Lists, counts and numbers in words are made here alone. It uses nothing.
package say
