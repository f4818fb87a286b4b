// Package plan makes lessons, weeks and terms of what the log says of a class, each item
// with its reason and the entries that led to it; and tries plans on simulated learners.
package plan
