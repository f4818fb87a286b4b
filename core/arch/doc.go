// Package arch holds the test that keeps the arrows between folders pointing one
// way.
package arch
