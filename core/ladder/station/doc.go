// Package station is the stations of a tune by id, with their words. It uses nothing.
package station
