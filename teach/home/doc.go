// Package home holds what happens between two lessons: the links to students' phones, and what came from
// them for the teacher to read.
package home
