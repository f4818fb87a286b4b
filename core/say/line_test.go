package say

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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

// What was stored stays readable: lines of words, sentences from before there were lines.
func TestALineIsReadAsItWasStored(t *testing.T) {
	inner := Of("inner", 3)
	for _, l := range []Line{
		{}, Of("move-on", 3, 80, 2), Of("with", Person(7), Song(2), inner, Several([]Arg{Person(1), Person(2), {Line: &inner}})), Of(Plain, "by you"),
	} {
		assert.Equal(t, l, Parse(l.String()))
		data, err := json.Marshal(l)
		require.NoError(t, err)
		var back Line
		require.NoError(t, json.Unmarshal(data, &back))
		assert.Equal(t, l, back)
	}
	assert.Equal(t, Of("titled", "Kites"), Parse(`{"id":"titled","args":["Kites"]}`))
	for _, old := range []string{"clean at 80", "{odd", `{"id":""}`} {
		assert.Equal(t, Of(Plain, old), Parse(old))
		assert.Equal(t, old, Words{}.Say(Parse(old)))
	}
	var old Line
	require.NoError(t, json.Unmarshal([]byte(`"continues after the break"`), &old))
	assert.Equal(t, "continues after the break", Words{}.Say(old))
	require.NoError(t, json.Unmarshal([]byte(`""`), &old))
	assert.True(t, old.IsZero())
}

func TestNamesAreToldWhenALineIsSaid(t *testing.T) {
	w := Words{"ready": "ready for %s: %s", "why": "%s (%s)"}
	why := Of("why", Person(2), "clean")
	l := Of("ready", Song(5), Several([]Arg{Person(1), {Line: &why}}))
	names := Names{Person: func(id int64) string { return []string{"", "Ada", "Ben"}[id] }, Song: func(int64) string { return "Kites" }}
	assert.Equal(t, "ready for Kites: Ada and Ben (clean)", w.SayTo(l, names))
	assert.Equal(t, "ready for a song: someone and someone (clean)", w.Say(l))
}
