package web_test

import (
	"net/url"
	"regexp"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

// A newcomer plays four figures; what was clean leads to a step, and one button puts the
// name on it.
func TestANewcomerFindsAStep(t *testing.T) {
	b, id := ownSchool(t, "newcomer")
	s, ctx := storetest.Open(t), t.Context()
	path := id.in("/students/%[4]d/placement")
	_, body := b.get(path)
	assert.Contains(t, body, `name="heard1"`)
	assert.NotContains(t, body, "Put Momo on step")
	_, body = b.get(path + "?heard0=clean&heard1=not")
	assert.Contains(t, body, "step 1 was clean, step 2 was not")
	m := regexp.MustCompile(`name="place" value="([^"]+)">Put Momo on step 2`).FindStringSubmatch(body)
	require.NotNil(t, m)
	res, _ := b.post(id.in("/ladders/%[2]d/place"), url.Values{"place": {m[1]}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	places, err := s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, id.steps[1], places[id.student])
	require.NoError(t, s.SetProgress(ctx, id.teacher, id.ladder, store.Aside))
	_, body = b.get(path)
	assert.Contains(t, body, "Nothing is on the desk")
}
