package web_test

import (
	"fmt"
	"net/url"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/bundle"
	"arplin/sound"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// A take is kept by a press, stands on the student's page with what was said of it, is heard there, goes
// along in a bundle, and is deleted; nobody else hears it.
func TestTakesThatAreKept(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "keeps")
	b.get("/")
	wav := sound.WAV(make([]float32, 3*sound.Rate))
	fields := url.Values{"student": {fmt.Sprint(id.student)}, "ladder": {id.in("%[2]d")}, "step": {fmt.Sprint(id.steps[0])}, "tempo": {"72"}, "says": {"Even within 9 ms. <b>"}, "uid": {"0b6ee0f6-2222-4000-8000-000000000001"}}
	for range 2 {
		res, body := b.sendFile("/takes", "take.wav", wav, fields)
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
		assert.JSONEq(t, `{"says":"Kept for Momo."}`, body)
	}
	require.Equal(t, 1, count(t, "SELECT COUNT(*) FROM takes WHERE teacher_id = ?", id.teacher))
	_, page := b.get(id.in("/students/%[4]d"))
	assert.Contains(t, page, "Even within 9 ms. &lt;b&gt;")
	at := nth(t, page, `<audio controls preload="none" src="(/takes/\d+)"`, 1)
	res, heard := b.get(at)
	assert.Equal(t, "audio/flac", res.Header.Get("Content-Type"))
	assert.Equal(t, "private, no-store", res.Header.Get("Cache-Control"))
	assert.Equal(t, "fLaC", heard[:4])

	for name, c := range map[string]struct {
		file   []byte
		field  string
		to     string
		status int
		says   string
	}{
		"no sound":             {[]byte("RIFF"), "tempo", "72", fiber.StatusUnprocessableEntity, "no recording"},
		"nothing":              {nil, "tempo", "72", fiber.StatusUnprocessableEntity, "no recording"},
		"no tempo":             {wav, "tempo", "fast", fiber.StatusUnprocessableEntity, "isn’t a tempo"},
		"somebody unknown":     {wav, "student", "99999999", fiber.StatusNotFound, ""},
		"a ladder of nobody's": {wav, "ladder", "99999999", fiber.StatusNotFound, ""},
	} {
		own := url.Values{}
		for key := range fields {
			own.Set(key, fields.Get(key))
		}
		own.Set("uid", "")
		own.Set(c.field, c.to)
		res, body := b.sendFile("/takes", "take.wav", c.file, own)
		assert.Equal(t, c.status, res.StatusCode, "%s: %s", name, body)
		assert.Contains(t, body, c.says, name)
	}
	require.Equal(t, 1, count(t, "SELECT COUNT(*) FROM takes WHERE teacher_id = ?", id.teacher))

	// It goes along, with its student, also where its ladder is put away by then.
	ctx, s := t.Context(), storetest.Open(t)
	require.NoError(t, s.Archive(ctx, id.teacher, ref.ALadder, int64(id.ladder), true))
	_, page = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, page, "<td>Upside</td>")
	_, file := b.get("/files/bundle.zip")
	other, there := ownSchool(t, "keeps-other")
	res, _ = other.get(at)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
	assert.Contains(t, other.take([]byte(file)), "takes: 1.")
	kept := func() (list []store.Take) {
		classes, err := s.Classes(ctx, there.teacher)
		require.NoError(t, err)
		for _, c := range classes {
			takes, err := s.Takes(ctx, there.teacher, c.ID, 0)
			require.NoError(t, err)
			list = append(list, takes...)
		}
		return list
	}
	require.Len(t, kept(), 1)
	assert.Equal(t, "Even within 9 ms. <b>", kept()[0].Says)
	_, same := other.get(fmt.Sprintf("/takes/%d", kept()[0].ID))
	assert.Equal(t, heard, same)

	// A take of no day is listed as left, and the rest comes.
	third, _ := ownSchool(t, "keeps-third")
	third.get("/files")
	odd, err := bundle.Read([]byte(file))
	require.NoError(t, err)
	odd.Takes[0].At = time.Time{}
	odd.Home = append(odd.Home, bundle.HomeEntry{Student: odd.Students[0].UID, Went: "done", ClientID: "of-no-day-at-all", Came: time.Now()})
	data, err := bundle.Write(odd)
	require.NoError(t, err)
	res, body := third.sendFile("/files/look", "odd.zip", data, nil)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "take 1: it is of the year 1")
	assert.Contains(t, body, "home, entry 1: it is of the year 1")
	assert.Contains(t, third.take(data), "Imported.")

	res, _ = b.post(at+"/delete", url.Values{})
	require.Equal(t, id.in("/students/%[4]d"), res.Header.Get("Location"))
	res, _ = b.get(at)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
	assert.Len(t, kept(), 1, "the other's stays")
}

// A phone sends a take only where the teacher takes them; it says "from home", and the phone takes it back.
func TestTakesFromAPhone(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "phone-takes")
	link, _ := aPhone(t, id)
	phone := newBrowser(t, storetest.Open(t))
	fields := url.Values{"ladder": {id.in("%[2]d")}, "step": {fmt.Sprint(id.steps[0])}, "tempo": {"64"}, "says": {"Steady."}, "uid": {"0b6ee0f6-3333-4000-8000-000000000001"}}
	wav := sound.WAV(make([]float32, 8*sound.Rate)) // longer than a form may be
	_, page := phone.get(link)
	assert.NotContains(t, page, "Send it to my teacher")
	res, body := phone.sendFile(link+"/takes", "take.wav", sound.WAV(make([]float32, sound.Rate)), fields)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "doesn’t take recordings")
	kept := func() int { return count(t, "SELECT COUNT(*) FROM takes WHERE teacher_id = ?", id.teacher) }
	require.Zero(t, kept())

	b.get("/class/phones")
	res, _ = b.post("/class/phones", url.Values{"class": {fmt.Sprint(id.class)}, "do": {"takes"}, "takes": {"yes"}})
	require.Equal(t, "/class/phones", res.Header.Get("Location"))
	_, page = b.get("/class/phones")
	assert.Contains(t, page, `value="yes" selected>can be sent`)
	_, page = phone.get(link)
	assert.Contains(t, page, "Send it to my teacher")
	res, body = phone.sendFile(link+"/takes", "take.wav", wav, fields)
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	assert.JSONEq(t, `{"says":"Sent. Your teacher can hear it."}`, body)
	_, page = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, page, "from home")
	assert.Contains(t, page, "Steady.")
	_, page = b.get("/")
	assert.Contains(t, page, "home 1 take")
	_, page = b.get("/lesson")
	assert.Contains(t, page, "Momo sent a take: it’s on the student’s page.")

	_, theirs := ownSchool(t, "phone-takes-theirs")
	elsewhere := url.Values{"ladder": {theirs.in("%[2]d")}, "tempo": {"64"}}
	res, _ = phone.sendFile(link+"/takes", "take.wav", wav, elsewhere)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "on a ladder of another school")
	foreign, _ := aPhone(t, theirs)
	res, _ = phone.post(foreign+"/takes/back", url.Values{"uid": {fields.Get("uid")}})
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	require.Equal(t, 1, kept(), "another's phone takes nothing back")
	res, body = phone.post(link+"/takes/back", url.Values{"uid": {fields.Get("uid")}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	require.Zero(t, kept())

	refused := 0
	for range 14 { // many at once are bounded, kept or not
		res, _ := phone.sendFile(link+"/takes", "take.wav", []byte("RIFF"), fields)
		if res.StatusCode == fiber.StatusTooManyRequests {
			refused++
		}
	}
	assert.Positive(t, refused)
}
