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

// proposed are the places that a page proposes: "12 3" for student 12 on the step
// with id 3.
func proposed(body string) (places []string) {
	for _, m := range regexp.MustCompile(`name="place" value="([^"]*)"`).FindAllStringSubmatch(body, -1) {
		places = append(places, m[1])
	}
	return places
}

// all puts everybody who is proposed on one step.
func all(places []string, step string) (list []string) {
	for _, place := range places {
		student, _, _ := strings.Cut(place, " ")
		list = append(list, student+" "+step)
	}
	return list
}

// Those who wait beside a new ladder are put where they can play; undo takes them
// all off again.
func TestPlacesByWhatWasPlayed(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Placing"), url.Values{"pattern": {"thumb-two-between"}})
	_, body := b.get(path)
	assert.Contains(t, body, "Place everyone by their clean tempos")
	assert.Regexp(t, `<b>Ilse</b> step [3-9] <span class="sub">has played level \d\.\d clean: “[^<]+” of Nine Umbrellas at 80`, body)
	assert.Contains(t, body, `<b>Jonas</b> step 1 <span class="sub">nothing logged yet`)
	places := proposed(body)
	require.Len(t, places, 9)
	res, body := b.fragment(path+"/place", url.Values{"place": places})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	assert.Contains(t, body, "Placed: ")
	assert.NotContains(t, body, "Place them by", "nobody waits any more")
	_, body = b.move(path, "undo")
	assert.Contains(t, body, "Ilse waits")
	assert.Equal(t, places, proposed(body), "and are proposed the same")
	for place, want := range map[string]string{"": "Choose a student and a step.", "x 1": "Choose a student and a step.", "1 99": "That step isn’t on the ladder any more", "999999 1": "Page not found."} {
		res, body := b.fragment(path+"/place", url.Values{"place": {place}})
		assert.GreaterOrEqual(t, res.StatusCode, 400, place)
		assert.Contains(t, html.UnescapeString(body), want)
	}
}

// The step that is asked for stands open beside the staircase; else the one that most are on.
func TestAStepIsOpenBesideTheStaircase(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Folding"), url.Values{"pattern": {"thumb-two-between"}})
	_, body := b.get(path)
	steps, places := stepsOf(body), proposed(body)
	_, body = b.fragment(path+"/place", url.Values{"place": all(places, steps[4])})
	assert.Contains(t, body, `data-opened="`+steps[4]+`"`)
	_, body = b.get(path + "?open=" + steps[1])
	assert.Contains(t, body, `data-opened="`+steps[1]+`"`)
	_, body = b.get(path + "?open=4711")
	assert.Contains(t, body, `data-opened="`+steps[4]+`"`, "a step that is gone is not open")
	_, body = b.get(path + "?instrument=ukulele")
	assert.Contains(t, body, "level for Ukulele, high g")
}
