// Package tabtext writes and reads tablature as plain text: a line for each string, dashes, frets,
// bar lines, with the count and the fingers under it. It prints right in a mail; there is no
// standard for it, and what is read is tablature as it is found.
package tabtext
