package main

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"html"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"arplin/demo"
	"arplin/store"
	"arplin/store/ref"
)

// school is what is logged to: the demo's.
type school struct {
	email, password string
	teacher         ref.Teacher
	class           ref.Class
	ladder          ref.Ladder
	song            ref.Song
	students        []ref.Student
}

// loadSchool stores the demo school and finds its ids.
func loadSchool(ctx context.Context, s *store.Store) (sc school, err error) {
	d, err := demo.LoadPlain(ctx, s, time.Now())
	if err != nil {
		return sc, err
	}
	sc.email, sc.password = d.Teacher.Email, d.Teacher.Password
	t, err := s.TeacherByEmail(ctx, sc.email)
	if err != nil {
		return sc, err
	}
	sc.teacher = t.ID
	classes, err := s.Classes(ctx, t.ID)
	if err != nil {
		return sc, err
	}
	sc.class = classes[0].ID
	now, err := s.OnNow(ctx, t.ID, sc.class)
	if err != nil {
		return sc, err
	}
	if len(now) == 0 {
		return sc, errors.New("the class has no ladder on its desk")
	}
	l := now[0]
	sc.ladder, sc.song = l.ID, l.SongID
	places, err := s.Placements(ctx, t.ID, l.ID)
	if err != nil {
		return sc, err
	}
	for id := range places {
		sc.students = append(sc.students, id)
	}
	if len(sc.students) == 0 {
		return sc, errors.New("nobody of the demo is on a ladder")
	}
	return sc, nil
}

// browser is one that keeps its cookies, and its form token.
type browser struct {
	client *http.Client
	base   string
	token  string
}

var tokenField = regexp.MustCompile(`name="_csrf" value="([^"]+)"`)

func newBrowser(base string) *browser {
	jar, _ := cookiejar.New(nil) // without options it never fails
	return &browser{&http.Client{Jar: jar, Timeout: time.Minute, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}, base, ""}
}

func (b *browser) send(req *http.Request) (int, string, error) {
	res, err := b.client.Do(req)
	if err != nil {
		return 0, "", err
	}
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	if err != nil {
		return 0, "", err
	}
	if m := tokenField.FindSubmatch(body); m != nil {
		b.token = html.UnescapeString(string(m[1]))
	}
	return res.StatusCode, string(body), nil
}

func (b *browser) get(ctx context.Context, path string) (int, string, error) {
	return b.ask(ctx, path, false)
}

// ask gets a page, or the piece of it that a script puts into another.
func (b *browser) ask(ctx context.Context, path string, piece bool) (int, string, error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, b.base+path, nil)
	if err != nil {
		return 0, "", err
	}
	if piece {
		req.Header.Set("HX-Request", "true")
	}
	return b.send(req)
}

func (b *browser) post(ctx context.Context, path string, fields url.Values) (int, string, error) {
	fields.Set("_csrf", b.token)
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, b.base+path, strings.NewReader(fields.Encode()))
	if err != nil {
		return 0, "", err
	}
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("HX-Request", "true")
	return b.send(req)
}

func (b *browser) signIn(ctx context.Context, sc school) error {
	var last error
	for range 100 {
		if _, _, err := b.get(ctx, "/signin"); err != nil {
			last = err
		} else if code, _, err := b.post(ctx, "/signin", url.Values{"email": {sc.email}, "password": {sc.password}}); err == nil && code == http.StatusSeeOther {
			if code, _, err := b.get(ctx, "/account"); err == nil && code == http.StatusOK { // whose form token is of the session
				return nil
			}
			last = err
		} else {
			last = fmt.Errorf("signing in answers %d: %v", code, err)
		}
		if !pause(ctx, 300*time.Millisecond) {
			return ctx.Err()
		}
	}
	return last
}

func pause(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}

// logger logs lines until so many are acknowledged, and remembers which.
type logger struct {
	mu     sync.Mutex
	acked  []string // ids of lines
	tempos map[string]int
	sent   map[string]bool // ids of all lines, acknowledged or not
	before map[string]bool // ids that were there before
	edits  []edit          // of the song's tempo, in their order
	again  int             // tries that were not
}

// edit is a tempo that was given to the song.
type edit struct {
	tempo int
	acked bool
}

// run logs with several browsers at once, each at an address of its own in turn. A
// line that is not acknowledged is sent again as it is.
func (l *logger) run(ctx context.Context, sc school, bases []string, lines, browsers int) error {
	l.tempos, l.sent = map[string]int{}, map[string]bool{}
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	errs := make(chan error, browsers)
	for i := range browsers {
		go func() { errs <- l.one(ctx, sc, bases[i%len(bases)], lines, i == 0) }()
	}
	var first error
	for range browsers {
		if err := <-errs; err != nil && first == nil {
			first = err
			cancel()
		}
	}
	return first
}

func (l *logger) enough(lines int) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	return len(l.acked) >= lines
}

func (l *logger) count() int {
	l.mu.Lock()
	defer l.mu.Unlock()
	return len(l.acked)
}

const giveUp = 3 * time.Minute // on one line

func (l *logger) one(ctx context.Context, sc school, base string, lines int, edits bool) error {
	b := newBrowser(base)
	if err := b.signIn(ctx, sc); err != nil {
		return err
	}
	for n := 0; !l.enough(lines); n++ {
		id, tempo := rand.Text(), 40+n%100
		fields := url.Values{
			"client_id": {id}, "class": {fmt.Sprint(sc.class)}, "ladder": {fmt.Sprint(sc.ladder)},
			"student": {fmt.Sprint(sc.students[n%len(sc.students)])}, "tempo": {strconv.Itoa(tempo)},
		}
		l.mu.Lock()
		l.sent[id] = true
		l.mu.Unlock()
		for began := time.Now(); ; {
			code, body, err := b.post(ctx, "/log", fields)
			if err == nil && code == http.StatusOK {
				break
			}
			if err == nil && code < 500 {
				return fmt.Errorf("a line was refused with %d: %.200s", code, body)
			}
			l.mu.Lock()
			l.again++
			l.mu.Unlock()
			if time.Since(began) > giveUp {
				return fmt.Errorf("a line is not taken for %s: %d %v", giveUp, code, err)
			}
			if !pause(ctx, 150*time.Millisecond) {
				return ctx.Err()
			}
		}
		l.mu.Lock()
		l.acked = append(l.acked, id)
		l.tempos[id] = tempo
		l.mu.Unlock()
		if edits && n%20 == 0 {
			if err := l.edit(ctx, b, sc, 60+n%60); err != nil {
				return err
			}
		}
	}
	return nil
}

var versionOf = regexp.MustCompile(`data-version="(\d+)"`)

// edit changes the song's tempo once; whether it was carried out is read from the
// page when the answer was lost.
func (l *logger) edit(ctx context.Context, b *browser, sc school, tempo int) error {
	path := fmt.Sprintf("/songs/%d", sc.song)
	_, body, err := b.get(ctx, path)
	m := versionOf.FindStringSubmatch(body)
	if err != nil || m == nil {
		return nil // another time
	}
	code, _, err := b.post(ctx, path+"/edit", url.Values{"op": {"tempo"}, "text": {strconv.Itoa(tempo)}, "version": {m[1]}})
	l.mu.Lock()
	l.edits = append(l.edits, edit{tempo, err == nil && code == http.StatusOK})
	l.mu.Unlock()
	return nil
}

// editsAcked is how many edits were acknowledged.
func (l *logger) editsAcked() (n int) {
	for _, e := range l.edits {
		if e.acked {
			n++
		}
	}
	return n
}

// remember notes which lines are there before any is sent.
func (l *logger) remember(ctx context.Context, dsn string, teacher ref.Teacher) error {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	l.before = map[string]bool{}
	rows, err := db.QueryContext(ctx, "SELECT client_id FROM log_entries WHERE teacher_id = ?", teacher)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var id string
		if err := rows.Scan(&id); err != nil {
			return err
		}
		l.before[id] = true
	}
	return rows.Err()
}

// checkEdits reads the song back: it has the tempo that was acknowledged last, or one that was sent
// after it, and a version for each edit that was acknowledged.
func (l *logger) checkEdits(ctx context.Context, dsn string, song ref.Song) error {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	var tempo, version int
	if err := db.QueryRowContext(ctx, "SELECT tempo, version FROM songs WHERE id = ?", song).Scan(&tempo, &version); err != nil {
		return err
	}
	last := -1
	for i, e := range l.edits {
		if e.acked {
			last = i
		}
	}
	if last < 0 {
		return nil
	}
	if !slices.ContainsFunc(l.edits[last:], func(e edit) bool { return e.tempo == tempo }) {
		return fmt.Errorf("the song has the tempo %d, the last that was acknowledged is %d: %w", tempo, l.edits[last].tempo, errBroken)
	}
	if version < 1+l.editsAcked() {
		return fmt.Errorf("the song is at version %d after %d edits: %w", version, l.editsAcked(), errBroken)
	}
	return nil
}

// check compares what was acknowledged with what a database holds.
func (l *logger) check(ctx context.Context, dsn string, teacher ref.Teacher) (lost, doubled, wrong int, err error) {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return 0, 0, 0, err
	}
	defer db.Close()
	rows, err := db.QueryContext(ctx, "SELECT client_id, tempo FROM log_entries WHERE teacher_id = ?", teacher)
	if err != nil {
		return 0, 0, 0, err
	}
	defer rows.Close()
	there := map[string]int{}
	for rows.Next() {
		var id string
		var tempo int
		if err := rows.Scan(&id, &tempo); err != nil {
			return 0, 0, 0, err
		}
		there[id]++
		if !l.sent[id] && !l.before[id] { // a line that nobody sent: one that is there twice has another id
			doubled++
		}
		if want, known := l.tempos[id]; known && want != tempo {
			wrong++
		}
	}
	for _, id := range l.acked {
		if there[id] == 0 {
			lost++
		}
	}
	return lost, doubled, wrong, rows.Err()
}
