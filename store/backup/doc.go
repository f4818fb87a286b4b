// Package backup writes everything into one file, while the program runs, and restores it into an
// empty database.
//
// A backup is a gzip file of lines of JSON: a head, then for each table a line
// that names it and a line a row, and an end with the rows of each table and the
// SHA-256 of all lines before it. Every value is the text that the database gives
// for it, or null. Sessions, limits and forms that were sent are not in it.
package backup
