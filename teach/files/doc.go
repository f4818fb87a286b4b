// Package files is what leaves and what comes in: songs and figures in open formats, the log and the
// register as tables, and the bundle that takes a whole class along. It uses lesson, ladders and
// what is below.
package files
