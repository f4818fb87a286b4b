// Package lesson is what is taught when: the lesson of the day and how it runs, the week of a
// student, the term, who plays what in the song as it grows. It uses ladders and what is below.
package lesson
