package web_test

import (
	"net/url"
	"sync"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
)

// A form that is sent twice, one after the other or at once, makes one thing, and
// leads to it; another one of the same name is another.
func TestAFormThatIsSentTwice(t *testing.T) {
	b, id := ownSchool(t, "twice")
	b.get("/songs/new")
	song := url.Values{"text": {"{title: Twice}\n[C]once"}, "form_key": {"KEYOFTHEFORM"}}
	var wait sync.WaitGroup
	led := make([]string, 5)
	for i := range led {
		tab := b.tab()
		tab.cookies = map[string]string{"arplin_csrf": b.cookies["arplin_csrf"], "arplin_session": b.cookies["arplin_session"]}
		fields := url.Values{"text": song["text"], "form_key": song["form_key"]}
		wait.Go(func() {
			res, _ := tab.post("/songs", fields)
			led[i] = res.Header.Get("Location")
		})
	}
	wait.Wait()
	for _, path := range led {
		assert.Equal(t, led[0], path)
	}
	titled := func() int {
		return count(t, "SELECT COUNT(*) FROM songs WHERE teacher_id = ? AND title = 'Twice'", id.teacher)
	}
	assert.Equal(t, 1, titled())
	song.Set("text", "{title: Twice}\n[C]once [F]more")
	b.post("/songs", song)
	assert.Equal(t, 2, titled(), "with other content it is another song")
	song.Set("form_key", "ANOTHERFORM")
	b.post("/songs", song)
	assert.Equal(t, 3, titled())
	bad := url.Values{"text": {"no chord"}, "form_key": {"BADFORM"}}
	for range 2 {
		res, _ := b.post("/songs", bad)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "of what was refused nothing is remembered")
	}
	look := url.Values{"text": {"{title: Twice}\n[C]look"}, "form_key": {"LOOKFORM"}, "look": {"yes"}}
	for range 2 {
		res, body := b.post("/songs", look)
		assert.Equal(t, fiber.StatusOK, res.StatusCode, "a look that is loaded again is a look again")
		assert.Contains(t, body, "[C]look")
	}
	for _, page := range []string{"/songs/new", "/class", "/bench", id.in("/songs/%[1]d?pattern=common-strum")} {
		_, body := b.get(page)
		assert.Contains(t, body, `name="form_key"`, page)
	}
}
