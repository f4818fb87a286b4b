// Package sim is a player with faults of known size, each from a seed: what the ear is tried on.
package sim
