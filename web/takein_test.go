package web_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"html"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/bundle"
	"arplin/format/midifile"
	"arplin/store"
	"arplin/store/storetest"
	"arplin/teach"
)

// sendFile sends a file with a form.
func (b *browser) sendFile(path, name string, data []byte, fields url.Values) (*http.Response, string) {
	b.t.Helper()
	var form bytes.Buffer
	w := multipart.NewWriter(&form)
	require.NoError(b.t, w.WriteField("_csrf", b.token))
	for key := range fields {
		require.NoError(b.t, w.WriteField(key, fields.Get(key)))
	}
	part, err := w.CreateFormFile("file", name)
	require.NoError(b.t, err)
	_, err = part.Write(data)
	require.NoError(b.t, err)
	require.NoError(b.t, w.Close())
	req := httptest.NewRequest("POST", path, &form)
	req.Header.Set("Content-Type", w.FormDataContentType())
	return b.send(req)
}

// take looks at a file and takes it in.
func (b *browser) take(data []byte) (note string) {
	b.t.Helper()
	b.get("/files")
	res, body := b.sendFile("/files/look", "home.arplin.zip", data, nil)
	require.Equal(b.t, fiber.StatusOK, res.StatusCode, body)
	token := nth(b.t, body, `name="token" value="([A-Z0-9]+)"`, 1)
	res, body = b.post("/files/take", url.Values{"token": {token}, "name": {"home.arplin.zip"}})
	require.Equal(b.t, "/files", res.Header.Get("Location"), body)
	_, body = b.get("/files")
	return body
}

// ownBundle is all that a school has, with a log, a term and an arrangement.
func ownBundle(t *testing.T, name string) (b *browser, id ids, data []byte) {
	t.Helper()
	b, id, students := classOfThree(t, name)
	s, ctx := storetest.Open(t), t.Context()
	on, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	for i := range 3 {
		_, err := s.AddEntry(ctx, id.teacher, store.Entry{StudentID: students[i], LadderID: id.ladder, Step: on.Steps[0], Tempo: 60 + i, Failed: i == 1, Minutes: 10, Word: "thumb", At: time.Now().Add(-time.Hour)}, fmt.Sprintf("%s-%d", name, i))
		require.NoError(t, err)
	}
	day := time.Now().UTC().Truncate(24 * time.Hour)
	require.NoError(t, s.SetTerm(ctx, id.teacher, store.Term{ClassID: id.class, LadderID: id.ladder, Begins: day, Concert: day.AddDate(0, 0, 70), Name: "the evening"}))
	b.get("/songs")
	res, body := b.fragment(id.in("/ladders/%[2]d/grow"), url.Values{"version": {"0"}, "pass": {"1"}, "group": {"1"}, "part": {"rest"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	_, file := b.get("/files/bundle.zip")
	return b, id, []byte(file)
}

// What is taken along comes into another account whole: the same songs, steps, places, log, term and
// arrangement; a second time there is nothing to take; what was changed there becomes the file's again
// and Undo brings the other back; the whole is taken back in one.
func TestTakenAlongAndTakenIn(t *testing.T) {
	t.Parallel()
	_, from, data := ownBundle(t, "takes")
	b, _ := ownSchool(t, "takesin")
	s, ctx := storetest.Open(t), t.Context()
	other, err := s.TeacherByEmail(ctx, "takesin@arplin.test")
	require.NoError(t, err)
	before, err := s.Everything(ctx, other.ID)
	require.NoError(t, err)

	b.get("/files")
	res, body := b.sendFile("/files/look", "home.arplin.zip", data, nil)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	for _, row := range []string{"songs</th><td>1</td><td>0</td><td>0</td>", "students</th><td>3</td>", "log entries</th><td>3</td>"} {
		assert.Contains(t, body, row)
	}
	after, err := s.Everything(ctx, other.ID)
	require.NoError(t, err)
	assert.Equal(t, before, after, "looking stores nothing")
	body = b.take(data)
	assert.Contains(t, body, "Imported. Songs: 1, classes: 1, students: 3, ladders: 1, log entries: 3.")

	classes, err := s.Classes(ctx, other.ID)
	require.NoError(t, err)
	require.Len(t, classes, 2)
	class := classes[1]
	students, err := s.Students(ctx, other.ID, class.ID)
	require.NoError(t, err)
	require.Len(t, students, 3)
	ids, err := s.LadderIDs(ctx, other.ID, class.ID)
	require.NoError(t, err)
	require.Len(t, ids, 1)
	l, err := s.Ladder(ctx, other.ID, ids[0])
	require.NoError(t, err)
	was, err := s.Ladder(ctx, from.teacher, from.ladder)
	require.NoError(t, err)
	require.Len(t, l.Steps, len(was.Steps))
	for i := range l.Steps {
		assert.True(t, l.Steps[i].Same(was.Steps[i]))
	}
	places, err := s.Placements(ctx, other.ID, l.ID)
	require.NoError(t, err)
	assert.Len(t, places, 3)
	log, err := s.WholeLog(ctx, other.ID, class.ID)
	require.NoError(t, err)
	require.Len(t, log, 3)
	assert.Equal(t, []any{61, true, 10, "thumb"}, []any{log[1].Tempo, log[1].Failed, log[1].Minutes, log[1].Word})
	term, err := s.TermOf(ctx, other.ID, class.ID)
	require.NoError(t, err)
	assert.Equal(t, l.ID, term.LadderID)
	b.post("/class/choose", url.Values{"class": {fmt.Sprint(class.ID)}})
	_, grow := b.get(fmt.Sprintf("/ladders/%d/grow", l.ID))
	assert.Contains(t, grow, "Your arrangement")
	assert.Contains(t, grow, `<option value="rest" selected>`)

	// The same file again; then with a song changed here.
	b.get("/files")
	_, body = b.sendFile("/files/look", "home.arplin.zip", data, nil)
	assert.Contains(t, body, "Everything in it is already here.")
	res, body = b.fragment(fmt.Sprintf("/songs/%d/edit", l.SongID), url.Values{"op": {"tempo"}, "text": {"132"}, "version": {"1"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	body = b.take(data)
	assert.Contains(t, body, "Imported. Songs: 1.")
	sg, err := s.Song(ctx, other.ID, l.SongID)
	require.NoError(t, err)
	assert.Equal(t, 80, sg.Tempo)
	undo := html.UnescapeString(nth(t, body, `action="(/files/undo\?import=\d+)"`, 1))
	res, _ = b.post(undo, url.Values{})
	require.Equal(t, "/files", res.Header.Get("Location"))
	sg, err = s.Song(ctx, other.ID, l.SongID)
	require.NoError(t, err)
	assert.Equal(t, 132, sg.Tempo, "what was changed here is back")

	// The first import cannot be taken back while what it brought is in use; then it can, as one.
	_, body = b.get("/files")
	first := nth(t, body, `name="import" value="(\d+)"`, 1)
	res, body = b.post("/files/undo", url.Values{"import": {first}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "can’t be undone any more, because this was used or changed since: songs. Archive anything you don’t want instead.")

	c, _ := ownSchool(t, "takesback")
	third, err := s.TeacherByEmail(ctx, "takesback@arplin.test")
	require.NoError(t, err)
	before, err = s.Everything(ctx, third.ID)
	require.NoError(t, err)
	body = c.take(data)
	undo = html.UnescapeString(nth(t, body, `action="(/files/undo\?import=\d+)"`, 1))
	stranger := undo
	res, _ = b.post(stranger, url.Values{})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "it is another teacher's")
	res, _ = c.post(undo, url.Values{})
	require.Equal(t, "/files", res.Header.Get("Location"))
	after, err = s.Everything(ctx, third.ID)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	_, body = c.get("/files")
	assert.Contains(t, body, "undone</td>")
	res, body = c.post(undo, url.Values{})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "was already undone")
	body = c.take(data)
	assert.Contains(t, body, "students: 3", "and it can be taken in again")
}

// Back at home the file of another account finds what it once was: nothing comes twice.
func TestThereAndBackAgain(t *testing.T) {
	t.Parallel()
	home, _, data := ownBundle(t, "roundtrip")
	b, _ := ownSchool(t, "roundtripto")
	b.take(data)
	_, back := b.get("/files/bundle.zip")
	home.get("/files")
	_, body := home.sendFile("/files/look", "back.zip", []byte(back), nil)
	assert.Contains(t, body, "students</th><td>1</td><td>0</td><td>3</td>", "theirs is new, ours is here")
	assert.Contains(t, body, "log entries</th><td>0</td><td>0</td><td>3</td>")
}

// A file that is no bundle, is cut, or does not keep to the schema is said to be so, with its place;
// what does not fit together is left out or refused; nothing of it is stored.
func TestFilesThatAreNoBundle(t *testing.T) {
	t.Parallel()
	b, _, data := ownBundle(t, "nobundle")
	raw, err := bundle.Read(data)
	require.NoError(t, err)
	changed := func(change func(*bundle.Bundle)) []byte {
		c := raw
		c.Songs, c.Ladders, c.Log = append([]bundle.Song{}, raw.Songs...), append([]bundle.Ladder{}, raw.Ladders...), append([]bundle.Entry{}, raw.Log...)
		change(&c)
		out, err := bundle.Write(c)
		require.NoError(t, err)
		return out
	}
	body, err := json.Marshal(raw)
	require.NoError(t, err)
	for _, x := range []struct {
		data []byte
		says string
	}{
		{[]byte("hello"), "this is no bundle"}, {data[:len(data)/2], "cut or broken"}, {[]byte(`{"songs": []}`), "this is no bundle"}, {[]byte(`{"arplin": 9}`), "in form 9"},
		{bytes.Replace(body, []byte(`"tempo":61`), []byte(`"tempo":"x"`), 1), "/log/1/tempo"},
		{changed(func(c *bundle.Bundle) { c.Songs = append(c.Songs, c.Songs[0]) }), "in the file twice"},
		{nil, "Choose a file first"},
	} {
		b.get("/files")
		res, page := b.sendFile("/files/look", "x.zip", x.data, nil)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, x.says)
		assert.Contains(t, html.UnescapeString(page), x.says)
	}
	other, _ := ownSchool(t, "nobundleto")
	other.get("/files")
	_, page := other.sendFile("/files/look", "x.zip", changed(func(c *bundle.Bundle) {
		c.Ladders[0].Song = "somebody-song-1"
		c.Songs[0].Song = json.RawMessage(`{"title":"x","sections":[]}`)
	}), nil)
	page = html.UnescapeString(page)
	assert.Contains(t, page, "songs, 1:")
	assert.Contains(t, page, "ladders, 1: Thumb cannot be read, or its class or song is not in the file")
	assert.Contains(t, page, "log, 1:")
	res, page := other.post("/files/take", url.Values{"token": {"NOBODYS"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, page, "too long ago")

	token := nth(t, func() string {
		b.get("/files")
		_, p := b.sendFile("/files/look", "x.zip", changed(func(c *bundle.Bundle) {
			c.Songs[0].UID = "another-song-1"
			c.Ladders = nil
			c.Log = nil
			c.Terms = nil
			c.Arrangements = nil
		}), nil)
		return p
	}(), `name="token" value="([A-Z0-9]+)"`, 1)
	res, _ = other.post("/files/take", url.Values{"token": {token}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "a token is its account's")
	res, schema := b.get("/files/schema.json")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, schema, "json-schema.org")
	_, library := b.get("/files/bundle.zip?what=library")
	only, err := bundle.Read([]byte(library))
	require.NoError(t, err)
	assert.Empty(t, only.Students)
	assert.Len(t, only.Songs, 1)
	res, _ = other.get("/files/bundle.zip?class=1")
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
}

// midiTune is a file with a tune and nothing else.
func midiTune(t *testing.T) []byte {
	t.Helper()
	data, err := midifile.Write(midifile.File{Title: "Quay", Division: 480, Meters: []midifile.Meter{{Beats: 4, Unit: 4}}, Tracks: []midifile.Track{{Program: -1, Notes: []midifile.Note{{Ticks: 480, Key: 64, Velocity: 90}, {Tick: 480, Ticks: 960, Key: 67, Velocity: 90}, {Tick: 1440, Ticks: 960, Key: 69, Velocity: 90}}}}})
	require.NoError(t, err)
	return data
}

// Files of text come as editors and spreadsheets save them. Source: the WHATWG Encoding Standard
// (windows-1252), the Unicode Standard (UTF-16 with its mark).
func TestFilesOfText(t *testing.T) {
	b, id := ownSchool(t, "textfiles")
	b.get("/songs/new")
	_, page := b.sendFile("/songs", "old.txt", []byte("{title: Caf\xe9 Lane}\n| [C] | [G] |\n"), url.Values{"look": {"yes"}})
	assert.Contains(t, page, "Café Lane")
	_, page = b.sendFile("/songs", "roll.txt", []byte("Caf\xe9 roll\r\n\r\ne|-0---0-|\r\nB|---1---|\r\nG|-0---0-|\r\nD|-------|\r\nA|-3---3-|\r\nE|-------|\r\n"), nil)
	assert.Contains(t, page, "As it was read")
	b.get("/class")
	res, _ := b.sendFile(id.in("/class/%[5]d/list"), "list.csv", []byte("\xff\xfeZ\x00o\x00\xeb\x00\n\x00"), nil)
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, page = b.get("/class")
	assert.Contains(t, page, "Zoë")
	for _, path := range []string{"/class/%[5]d/list", "/class/%[5]d/log"} {
		res, page = b.sendFile(id.in(path), "a.png", []byte("\x89PNG\r\n\x1a\n\x00\x00"), nil)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, path)
		assert.Contains(t, page, "This file is not text", path)
	}
	b.get("/patterns/read")
	res, page = b.sendFile("/patterns/read", "a.png", []byte("\x89PNG\r\n\x1a\n\x00\x00"), url.Values{"text": {"e|-0-1-|"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, page, "This file is not text")
	assert.Contains(t, page, "e|-0-1-|", "what was typed stays")
}

// bundleJSON is what is in a bundle.
func bundleJSON(t testing.TB, data []byte) []byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	f, err := z.Open("bundle.json")
	require.NoError(t, err)
	defer f.Close()
	text, err := io.ReadAll(f)
	require.NoError(t, err)
	return text
}

// One thing of each kind leaves as a bundle with what it needs, and another account can take it in.
// What is another teacher's is not there.
func TestOneThingLeavesWithWhatItNeeds(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "one-thing")
	other, _ := ownSchool(t, "one-thing-other")
	on := teach.New(storetest.Open(t))
	for path, want := range map[string][4]int{ // songs, classes, students, ladders
		"/archive/song/%[1]d/export":    {1, 0, 0, 0},
		"/archive/ladder/%[2]d/export":  {1, 1, 0, 1},
		"/archive/student/%[4]d/export": {1, 1, 1, 1},
		"/archive/class/%[5]d/export":   {1, 1, 1, 1},
	} {
		res, body := b.get(id.in(path))
		require.Equal(t, fiber.StatusOK, res.StatusCode, path)
		kept, err := bundle.Read([]byte(body))
		require.NoError(t, err, path)
		assert.Equal(t, want, [4]int{len(kept.Songs), len(kept.Classes), len(kept.Students), len(kept.Ladders)}, path)
		email := strings.Trim(strings.ReplaceAll(path, "/", "-"), "-%[]0123456789")
		fresh, err := on.People.AddTeacher(t.Context(), strings.NewReplacer("%[1]d", "", "%[2]d", "", "%[4]d", "", "%[5]d", "").Replace(email)+"@arplin.test", "Fresh", "a long enough password")
		require.NoError(t, err)
		_, _, err = on.Files.TakeIn(t.Context(), fresh, "one.arplin.zip", []byte(body), time.Now())
		require.NoError(t, err, path)
		list, _, err := on.Songs.List(t.Context(), fresh, store.Find{})
		require.NoError(t, err)
		assert.Len(t, list, 1, path)
		res, _ = other.get(id.in(path))
		assert.Equal(t, fiber.StatusNotFound, res.StatusCode, path)
	}
}
