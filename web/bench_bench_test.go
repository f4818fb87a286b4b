package web_test

import (
	"fmt"
	"net/http/httptest"
	"net/url"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/require"
	"github.com/valyala/fasthttp"

	"arplin/demo"
	"arplin/store"
	"arplin/store/storetest"
)

// grown is a browser of a teacher who has taught for three years.
func grown(b *testing.B) *browser {
	b.Helper()
	s := storetest.Open(b)
	school, err := demo.LoadPlain(b.Context(), s, time.Now())
	require.NoError(b, err)
	t, err := s.TeacherByEmail(b.Context(), school.Teacher.Email)
	require.NoError(b, err)
	songs, err := s.SongsIn(b.Context(), t.ID, "")
	require.NoError(b, err)
	if len(songs) < demo.GrownSongs {
		require.NoError(b, demo.Grow(b.Context(), s, t.ID, time.Now()))
	}
	br := newBrowser(b, s)
	br.get("/signin")
	res, _ := br.post("/signin", url.Values{"email": {school.Teacher.Email}, "password": {school.Teacher.Password}})
	require.Equal(b, fiber.StatusSeeOther, res.StatusCode)
	br.get("/account")
	return br
}

// BenchmarkPress is one key on the bench, server included.
func BenchmarkPress(b *testing.B) {
	browser := signedIn(b)
	browser.get("/bench")
	fields := url.Values{
		"_csrf": {browser.token}, "notation": {"4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."}, "chord": {"Am"},
		"at_bar": {"0"}, "at_slot": {"3"}, "at_stroke": {"0"}, "do": {"key"}, "with": {"i"},
	}.Encode()
	for b.Loop() {
		req := httptest.NewRequest("POST", "/bench", strings.NewReader(fields))
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		req.Header.Set("HX-Request", "true")
		if res, body := browser.send(req); res.StatusCode != fiber.StatusOK {
			b.Fatal(body)
		}
	}
}

// BenchmarkDeskOfThirty logs a tempo on the desk of a class of thirty with 10,000
// entries in twelve weeks, and shows the desk as it is then.
func BenchmarkDeskOfThirty(b *testing.B) {
	br, id := ownSchool(b, "thirty")
	s, ctx := storetest.Open(b), b.Context()
	places := store.Places{id.student: id.steps[0]}
	for i := range 29 {
		st, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: fmt.Sprint("More ", i), Instrument: "guitar"})
		require.NoError(b, err)
		places[st] = id.steps[i%2]
	}
	_, _, err := s.Place(ctx, id.teacher, id.ladder, places)
	require.NoError(b, err)
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(b, err)
	entry, err := s.AddEntry(ctx, id.teacher, store.Entry{StudentID: id.student, LadderID: id.ladder, Step: l.Steps[0], Tempo: 60, At: time.Now()}, "thirty")
	require.NoError(b, err)
	_, err = database(b).Exec(`INSERT INTO log_entries (teacher_id, student_id, ladder_id, step_id, played_id, tempo, client_id, at)
		SELECT e.teacher_id, t.id, e.ladder_id, e.step_id, e.played_id, 50 + seq % 40, CONCAT('thirty-', seq), e.at - INTERVAL (1 + seq % 80) DAY
		FROM log_entries e JOIN seq_1_to_10000 JOIN (SELECT id, ROW_NUMBER() OVER (ORDER BY id) - 1 n FROM students WHERE class_id = ?) t ON t.n = seq % 30
		WHERE e.id = ?`, id.class, entry)
	require.NoError(b, err)
	require.Equal(b, 10_001, count(b, "SELECT COUNT(*) FROM log_entries WHERE ladder_id = ?", id.ladder))
	br.get("/")
	for i := 0; b.Loop(); i++ {
		if res, body := br.fragment("/log", url.Values{"line": {fmt.Sprintf("momo %d", 50+i%50)}}); res.StatusCode != fiber.StatusOK {
			b.Fatal(body)
		}
	}
}

// BenchmarkPages are pages of a school of three years: seen for the first time,
// which an edit before each look sees to; seen again by another browser; and
// unchanged.
func BenchmarkPages(b *testing.B) {
	br := grown(b)
	br.get("/songs/new")
	sheet := "{title: Long}\n{sov}\n" + strings.Repeat("[C]a [Am]b [F]c [G7]d [Dm]e [G7]f [C]g [F]h\n", 8) + "{eov}"
	res, _ := br.post("/songs", url.Values{"text": {sheet}})
	long := res.Header.Get("Location")
	res, _ = br.post("/ladders", url.Values{"song": {strings.TrimPrefix(long, "/songs/")}, "pattern": {"thumb-two-between"}})
	ladder := res.Header.Get("Location")
	_, page := br.get(ladder)
	br.fragment(ladder+"/place", url.Values{"place": proposed(page)}) // the desk shows the newest
	touch := func() {                                                 // the song has a new version; nothing that was kept is about it
		_, page := br.get(long + "/keys")
		br.fragment(long+"/undo", url.Values{"version": {nth(b, page, `name="version" value="(\d+)"`, 1)}})
		br.fragment(long+"/edit", url.Values{"op": {"swing"}, "text": {"yes"}, "version": {nth(b, second(br.get(long+"/keys")), `name="version" value="(\d+)"`, 1)}})
	}
	for _, page := range []struct{ name, path string }{
		{"song of 64 bars", long + "?pattern=thumb-two-between"}, {"ladder", ladder}, {"desk", "/"}, {"patterns", "/patterns"}, {"sheet", ladder + "/sheet"},
		{"songs", "/songs"}, {"ladders", "/ladders"},
	} {
		b.Run(page.name+"/first", func(b *testing.B) {
			var used time.Duration
			for b.Loop() {
				b.StopTimer()
				touch()
				b.StartTimer()
				before := cpu(b)
				br.direct(page.path, "", fiber.StatusOK)
				used += cpu(b) - before
			}
			b.ReportMetric(float64(used.Microseconds())/1000/float64(b.N), "cpu-ms/op")
		})
		b.Run(page.name+"/again", func(b *testing.B) {
			defer reportCPU(b)()
			for b.Loop() {
				br.direct(page.path, "", fiber.StatusOK)
			}
		})
		b.Run(page.name+"/unchanged", func(b *testing.B) {
			tag := br.direct(page.path, "", fiber.StatusOK)
			defer reportCPU(b)()
			for b.Loop() {
				br.direct(page.path, tag, fiber.StatusNotModified)
			}
		})
	}
}

// direct asks the server without a connection between, so that nothing but the
// page is measured; it returns the tag of the page.
func (b *browser) direct(path, tag string, want int) string {
	b.t.Helper()
	ctx := &fasthttp.RequestCtx{}
	ctx.Request.SetRequestURI(path)
	for name, value := range b.cookies {
		ctx.Request.Header.SetCookie(name, value)
	}
	if tag != "" {
		ctx.Request.Header.Set(fiber.HeaderIfNoneMatch, tag)
	}
	b.app.Handler()(ctx)
	if ctx.Response.StatusCode() != want {
		b.t.Fatalf("%s: %d", path, ctx.Response.StatusCode())
	}
	return string(ctx.Response.Header.Peek(fiber.HeaderETag))
}

// cpu is the processor time that the program has used; the database is another
// program.
func cpu(b *testing.B) time.Duration {
	b.Helper()
	var u syscall.Rusage
	require.NoError(b, syscall.Getrusage(syscall.RUSAGE_SELF, &u))
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}

func reportCPU(b *testing.B) func() {
	before := cpu(b)
	return func() { b.ReportMetric(float64((cpu(b)-before).Microseconds())/1000/float64(b.N), "cpu-ms/op") }
}

func second(_ any, body string) string { return body }
