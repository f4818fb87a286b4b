package answer

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What is kept is found by content: a function would print the same whatever it is of.
func TestWhatIsKeptGoesByContent(t *testing.T) {
	f, computed := New(nil), 0
	get := func(rows Rows) int { return Keep(f, "n", rows, func() int { computed++; return computed }) }
	assert.Equal(t, 1, get(RowsOf(1, "a")))
	assert.Equal(t, 1, get(RowsOf(1, "a")))
	assert.Equal(t, 2, get(RowsOf(2, "a")))
	assert.Panics(t, func() { RowsOf(1, assert.Equal) })
}
