package web_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The whole figure for each instrument, and large type.
func TestSheetsByInstrument(t *testing.T) {
	b, id, _ := classOfThree(t, "instruments")
	_, body := b.get(id.in("/ladders/%[2]d/sheets?by=instrument"))
	assert.Contains(t, body, "a sheet for each instrument")
	assert.Equal(t, 2, strings.Count(body, "<article"), "guitar and ukulele")
	assert.NotContains(t, body, "on no step yet")
	_, body = b.get(id.in("/ladders/%[2]d/sheets?large=yes"))
	assert.Contains(t, body, `class="papers large"`)
	assert.Contains(t, body, "in large type")
}
