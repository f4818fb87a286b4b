// Package catalogue is the figures that Arplin knows, as data, with what is said of each. It uses
// pattern.
package catalogue
