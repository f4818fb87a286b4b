// Package fit is which figures of the catalogue suit a song and those who learn it, and why. It uses
// grow.
package fit
