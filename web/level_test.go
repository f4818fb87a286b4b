package web_test

import (
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every level in a list opens into its parts.
func TestALevelOpensIntoItsParts(t *testing.T) {
	b := signedIn(t)
	body := b.piece("/songs/1/around?pattern=thumb-two-between")
	link := regexp.MustCompile(`href="(/level\?[^"]*song=[^"]*)"`).FindStringSubmatch(body)
	require.NotNil(t, link)
	res, body := b.get(strings.ReplaceAll(link[1], "&amp;", "&"))
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	for _, want := range []string{"on Nine Umbrellas, Guitar, at 84", "strokes a second", "Hardest: bar", ">Song</a>"} {
		assert.Contains(t, body, want)
	}
	_, body = b.get("/level?notation=" + url.QueryEscape("3/4: p i m a m i"))
	assert.Contains(t, body, "on C, Guitar, at 80")
	for path, want := range map[string]string{
		"/level?notation=" + url.QueryEscape("4/4: q"):                     "is not a stroke",
		"/level?song=1&notation=" + url.QueryEscape("3/4: p i m a m i"):    "The pattern is in 3/4, the song in 4/4.",
		"/level?song=999&notation=" + url.QueryEscape("4/4: p . . . . .."): "",
	} {
		res, body := b.get(path)
		assert.GreaterOrEqual(t, res.StatusCode, 400, path)
		assert.Contains(t, body, want)
	}
	_, body = b.get("/ladders/1")
	for _, step := range stepsOf(body) {
		advice := b.piece("/ladders/1/step/" + step)
		assert.Contains(t, advice, "Hardest: bar", "each step says what makes it hard")
		assert.Contains(t, advice, "Why this step")
	}
}

// A range that cannot be read stands on the page of the keys with a sentence.
func TestABadRangeIsASentenceOnThePage(t *testing.T) {
	b := signedIn(t)
	path := b.newSong("Range")
	for typed, says := range map[string]string{"C5 A3": "is higher than", "x y": "is not a", "A3": "lowest and the highest"} {
		_, body := b.get(path + "/keys")
		res, body := b.post(path+"/edit", url.Values{"op": {"range"}, "back": {"keys"}, "version": {version(t, body)}, "text": {typed}})
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, typed)
		assert.Contains(t, body, "The 12 keys", "the page, not an error's")
		assert.Contains(t, body, `value="`+typed+`"`, "what was typed")
		assert.Regexp(t, `data-problem>[^<]*`+says, body)
	}
}
