package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
	"arplin/teach"
)

// A link makes one account, once, while it holds; who does not run the school makes none.
func TestAnInvitationMakesOneAccount(t *testing.T) {
	owner := signedIn(t)
	s, ctx, now := storetest.Open(t), t.Context(), time.Now()
	room := teach.New(s).People
	secret, err := room.Invite(ctx, 0, now)
	require.NoError(t, err)
	assert.Len(t, secret, 22, "128 bits")

	b := newBrowser(t, s)
	res, body := b.get("/invite/" + secret)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "You’re invited.")
	for wrong, says := range map[string]url.Values{
		"Password has":          {"email": {"guest@arplin.test"}, "name": {"Guest"}, "password": {"short"}},
		"is not a mail address": {"email": {"nonsense"}, "name": {"Guest"}, "password": {"long enough to be one"}},
		"name has 1 to":         {"email": {"guest@arplin.test"}, "name": {" "}, "password": {"long enough to be one"}},
	} {
		res, body = b.post("/invite/"+secret, says)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
		assert.Contains(t, strings.ToLower(body), strings.ToLower(wrong), "and the link still holds")
	}
	res, _ = b.post("/invite/"+secret, url.Values{"email": {"guest@arplin.test"}, "name": {"Guest"}, "password": {"long enough to be one"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/")
	assert.Contains(t, body, "Welcome to Arplin")
	res, _ = b.get("/account")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	res, _ = b.post("/account/invite", url.Values{})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "a guest runs no school")

	again := newBrowser(t, s)
	res, _ = again.get("/invite/" + secret)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "a link is used once")
	old, err := room.Invite(ctx, 0, now.Add(-15*24*time.Hour))
	require.NoError(t, err)
	res, _ = again.get("/invite/" + old)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "and holds for 14 days")
	assert.Zero(t, count(t, "SELECT COUNT(*) FROM invitations WHERE digest = ?", []byte(secret)), "kept as a digest")

	// The first teacher runs the school, and lets somebody back in.
	_, body = owner.get("/account")
	if strings.Contains(body, "Invite a teacher") { // other tests may have made the first one
		_, body = owner.post("/account/invite", url.Values{"email": {"guest@arplin.test"}})
		link := regexp.MustCompile(`/invite/([\w-]{22})<`).FindStringSubmatch(body)
		require.NotNil(t, link)
		assert.Equal(t, 1, count(t, "SELECT COUNT(*) FROM invitations WHERE digest = UNHEX(SHA2(?, 256))", link[1]))
	}
	back, err := room.InviteBack(ctx, "guest@arplin.test", now)
	require.NoError(t, err)
	_, body = again.get("/invite/" + back)
	assert.Contains(t, body, "A new password for Guest.")
	res, _ = again.post("/invite/"+back, url.Values{"password": {"another long password"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	res, _ = b.get("/songs")
	assert.Equal(t, "/signin", res.Header.Get("Location"), "every other browser is signed out")
	_, err = room.InviteBack(ctx, "nobody-here@arplin.test", now)
	assert.ErrorContains(t, err, "no teacher with the address")
}

// A sample class goes with its songs, unless another class has a ladder of one; another teacher's stays.
func TestASampleGoesWithItsSongs(t *testing.T) {
	b, id := ownSchool(t, "samples-mine")
	_, other := ownSchool(t, "samples-other")
	s, ctx := storetest.Open(t), t.Context()
	class, err := s.AddClass(ctx, id.teacher, store.Class{Name: "Sample class", LessonMinutes: 45, Fingers: "moving"})
	require.NoError(t, err)
	sg, err := s.Song(ctx, id.teacher, id.song)
	require.NoError(t, err)
	alone, err := s.AddSong(ctx, id.teacher, sg.Song)
	require.NoError(t, err)
	require.NoError(t, s.AddSample(ctx, id.teacher, class, []ref.Song{id.song, alone}))
	require.NoError(t, s.AddSample(ctx, other.teacher, class, nil), "of another teacher’s class: nothing")
	_, err = s.SampleOf(ctx, other.teacher)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.RemoveSample(ctx, other.teacher), store.ErrNotFound)

	_, body := b.get("/class")
	assert.NotContains(t, body, "Remove the sample class", "this one is no sample")
	b.post("/class/choose", url.Values{"class": {fmt.Sprint(class)}})
	_, body = b.get("/class")
	assert.Contains(t, body, "Remove the sample class")
	res, _ := b.post("/sample/remove", url.Values{})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, err = s.Class(ctx, id.teacher, class)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Song(ctx, id.teacher, alone)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Song(ctx, id.teacher, id.song)
	assert.NoError(t, err, "another class has a ladder of it")
	res, _ = b.post("/sample/remove", url.Values{})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
}

// One field finds what is one's own, and nothing of another teacher's.
func TestFindingIsOfOnesOwn(t *testing.T) {
	b, _ := ownSchool(t, "finding-mine")
	_, body := b.get("/find?q=momo")
	assert.Contains(t, body, ">Momo</a>")
	assert.Equal(t, 1, strings.Count(body, ">Momo</a>"), "the others’ Momos are theirs")
	_, body = b.get("/find?q=upsi")
	assert.Contains(t, body, ">Upside</a>")
	_, body = b.get("/find?q=pinch")
	assert.NotContains(t, body, "Nothing found")
	_, body = b.get("/find?q=" + url.QueryEscape("<script>"))
	assert.NotContains(t, body, "<script>alert")
	assert.Contains(t, body, "&lt;script&gt;")
	for _, topic := range []string{"", "/desk", "/keys", "/melody"} {
		res, page := b.get("/help" + topic)
		assert.Equal(t, fiber.StatusOK, res.StatusCode, topic)
		for _, picture := range regexp.MustCompile(`/help/pictures/[\w-]+\.png`).FindAllString(page, -1) {
			res, _ := b.get(picture)
			assert.Equal(t, fiber.StatusOK, res.StatusCode, picture)
		}
	}
	res, _ := b.get("/help/none-of-these")
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
	res, _ = b.get("/help/pictures/..%2f..%2fdocs.go")
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
}
