// Package demo fills an empty database with an invented school, so that a
// newcomer sees Arplin at work.
package demo
