package web_test

import (
	"bytes"
	"fmt"
	"log/slog"
	"net/url"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store/ref"
	"arplin/store/storetest"
	"arplin/web"
)

// A ladder that cannot be computed takes no page of its class along: each says which it is and
// what to do, the stack is in the log, and it can be taken off the desk.
func TestEveryPageStandsWhenALadderCannotBeComputed(t *testing.T) {
	b, ids, _ := classOfThree(t, "standing")
	var log bytes.Buffer
	fails := true
	app, err := web.New(web.Config{Store: storetest.Open(t), Log: slog.New(slog.NewTextHandler(&log, nil)), SignInTries: 4, Computing: func(id ref.Ladder) {
		if fails && id == ids.ladder {
			var none []int
			_ = none[int(id)]
		}
	}})
	require.NoError(t, err)
	b.app = app
	student, ladder := fmt.Sprint("/students/", ids.student), fmt.Sprint("/ladders/", ids.ladder)
	for _, path := range []string{"/", "/?beside=yes", "/lesson", "/term", student, student + "/week", "/class", "/songs", "/ladders", "/class/weights", "/archive", student + "/placement"} {
		log.Reset()
		res, page := b.get(path)
		assert.Equal(t, fiber.StatusOK, res.StatusCode, "%s: %s", path, page)
		switch path {
		case "/", "/lesson", "/term", student, student + "/week":
			assert.Contains(t, page, "can’t work out the ladder", path)
			assert.Contains(t, log.String(), "standing_test.go", "the stack: %s", path)
			assert.Contains(t, log.String(), "index out of range")
		}
	}
	res, page := b.get(student + "/week.zip")
	assert.NotEqual(t, fiber.StatusInternalServerError, res.StatusCode, page)
	for _, path := range []string{ladder, ladder + "/sheet", ladder + "/sheets"} {
		res, page := b.get(path)
		assert.Equal(t, fiber.StatusInternalServerError, res.StatusCode)
		assert.Contains(t, page, "can’t work out the ladder", path)
	}
	b.get("/")
	res, page = b.post(ladder+"/progress?to=aside&back=/", url.Values{})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, page)
	assert.Equal(t, "/", res.Header.Get("Location"))
	_, page = b.get("/")
	assert.NotContains(t, page, "can’t work out the ladder")
	res, _ = b.post(ladder+"/progress?to=now", url.Values{})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	fails = false
	_, page = b.get("/")
	assert.NotContains(t, page, "can’t work out the ladder")
}
