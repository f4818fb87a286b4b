package say

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Lists and counts as English has them: common practice.
func TestListsAndCounts(t *testing.T) {
	assert.Equal(t, "", And(nil))
	assert.Equal(t, "a", And([]string{"a"}))
	assert.Equal(t, "a and b", And([]string{"a", "b"}))
	assert.Equal(t, "a, b and c", And([]string{"a", "b", "c"}))
	assert.Equal(t, "4, 8 or 16", Or([]string{"4", "8", "16"}))
	assert.Equal(t, "1 bar", Count(1, "bar", "bars"))
	assert.Equal(t, "0 bars", Count(0, "bar", "bars"))
	assert.Equal(t, "once", Times(1))
	assert.Equal(t, "3 times", Times(3))
}

func TestALineIsSaidInTheWordsOfItsTable(t *testing.T) {
	w := Words{"moved": "%s moved to bar %s"}
	assert.Equal(t, "verse moved to bar 3", w.Say(Of("moved", "verse", 3)))
	assert.Equal(t, "A change", w.Say(Of("from a later program")))
}
