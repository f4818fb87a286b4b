package web_test

import (
	"html"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var placesField = regexp.MustCompile(`name="places" value="([^"]*)"`)

// Those who wait beside a new ladder are put where they can play; undo takes them
// all off again.
func TestPlacesByWhatWasPlayed(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Placing"), url.Values{"pattern": {"thumb-two-between"}})
	_, body := b.get(path)
	assert.Contains(t, body, "Place them by what they have played clean")
	assert.Regexp(t, `<b>Ilse</b> step [3-9] <span class="sub">has played level \d\.\d clean: “other off-beats” of Nine Umbrellas at 80`, body)
	assert.Contains(t, body, `<b>Jonas</b> step 1 <span class="sub">not heard yet`)
	m := placesField.FindStringSubmatch(body)
	require.NotNil(t, m)
	res, body := b.fragment(path+"/places", url.Values{"places": {m[1]}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	assert.Contains(t, body, "On steps now: ")
	assert.NotContains(t, body, "Place them by", "nobody waits any more")
	undo := placesField.FindStringSubmatch(body)
	require.NotNil(t, undo)
	assert.Equal(t, strings.Count(m[1], ":"), strings.Count(undo[1], ":-1"))
	_, body = b.fragment(path+"/places", url.Values{"places": {undo[1]}})
	assert.Contains(t, body, "They wait beside the ladder again.")
	assert.Contains(t, body, "Place them by")
	for places, want := range map[string]string{"": "Choose the students to move.", strings.Repeat("1:1 ", 300): "Choose the students to move.", "x:1": "Choose the students to move.", "1:99": "This ladder has steps 1 to", "999999:1": "That is not here."} {
		res, body := b.fragment(path+"/places", url.Values{"places": {places}})
		assert.GreaterOrEqual(t, res.StatusCode, 400, places)
		assert.Contains(t, html.UnescapeString(body), want)
	}
}

// A ladder begins a step below the least practised; what is simpler is folded.
func TestStepsBelowEverybodyAreFolded(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Folding"), url.Values{"pattern": {"thumb-two-between"}})
	_, body := b.get(path)
	all := regexp.MustCompile(`(\d+):\d+`).ReplaceAllString(placesField.FindStringSubmatch(body)[1], "$1:4")
	_, body = b.fragment(path+"/places", url.Values{"places": {all}})
	assert.Contains(t, body, "3 simpler steps below everybody")
	assert.Less(t, strings.Index(body, `data-step="3"`), strings.Index(body, "simpler steps below"))
	assert.Greater(t, strings.Index(body, `data-step="2"`), strings.Index(body, "simpler steps below"))
	all = strings.Replace(all, ":4", ":1", 1)
	_, body = b.fragment(path+"/places", url.Values{"places": {all}})
	assert.NotContains(t, body, "below everybody", "somebody stands low")
}
