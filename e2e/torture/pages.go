package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"html"
	"log/slog"
	"net/http"
	"net/url"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"arplin/demo"
	"arplin/store"
	"arplin/store/localdb"
	"arplin/web"
)

// slowest is how long a page may take at the worst.
const slowest = 2 * time.Second

// asked is a page with the time that it took.
type asked struct {
	path string
	took time.Duration
	code int
	size int
}

// torturePages asks for every page of a grown school, and of the longest song and
// pattern that it takes.
func torturePages(ctx context.Context) error {
	dir, err := workFolder("torture-pages")
	if err != nil {
		return err
	}
	c, err := newCopy(filepath.Join(dir, "arplin.log"), "ARPLIN_DATA="+dir, "ARPLIN_DSN=")
	if err != nil {
		return err
	}
	defer c.stop()
	if err := healthy(ctx, c.address); err != nil {
		return err
	}
	sc, err := grownSchool(ctx, filepath.Join(dir, "mariadb"))
	if err != nil {
		return err
	}
	b := newBrowser("http://" + c.address)
	if err := b.signIn(ctx, sc); err != nil {
		return err
	}
	starts, err := longest(ctx, b)
	if err != nil {
		return err
	}
	pages, err := walk(ctx, b, append(starts, "/"))
	if err != nil {
		return err
	}
	more, err := everyRoute(ctx, b, sc, pages)
	if err != nil {
		return err
	}
	pages = append(pages, more...)
	slices.SortFunc(pages, func(a, b asked) int { return cmp.Compare(b.took, a.took) })
	fmt.Printf("pages: %d asked for on a school of 30 students, %d songs, %d ladders; the slowest:\n", len(pages), demo.GrownSongs+3, demo.GrownLadders+1)
	for _, p := range pages[:min(8, len(pages))] {
		fmt.Printf("  %5d ms  %4d kB  %.100s\n", p.took.Milliseconds(), p.size/1000, p.path)
	}
	for _, p := range pages {
		if p.took > slowest && !isRecording(p.path) {
			return fmt.Errorf("%s took longer than %s", p.path, slowest)
		}
	}
	return nil
}

// isRecording is of pages that render sound: they are sent while they are made.
func isRecording(path string) bool {
	return strings.Contains(path, ".zip") || strings.Contains(path, "as=zip") || strings.Contains(path, "as=wav")
}

// everyRoute asks for the routes of the site map that no link has led to, whole and as a piece, and
// fails where one of them does.
func everyRoute(ctx context.Context, b *browser, sc school, seen []asked) (pages []asked, err error) {
	app, err := web.New(web.Config{Store: &store.Store{}, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		return nil, err
	}
	ids := map[string]string{"class": fmt.Sprint(sc.class), "students": fmt.Sprint(sc.students[0]), "songs": fmt.Sprint(sc.song), "ladders": fmt.Sprint(sc.ladder), "patterns": "thumb-once", "archive": fmt.Sprint(sc.song)}
	walked, known := 0, 0
	for _, route := range app.GetRoutes(true) {
		if route.Method != http.MethodGet || route.Path == "/" || strings.HasPrefix(route.Path, "/static") || strings.HasPrefix(route.Path, "/drills/") { // a drill is made by hand
			continue
		}
		known++
		shape := regexp.MustCompile("^" + regexp.MustCompile(`:[a-z]+`).ReplaceAllString(regexp.QuoteMeta(route.Path), `[^/?]+`) + `(?:\?|$)`)
		if slices.ContainsFunc(seen, func(p asked) bool { return shape.MatchString(p.path) && p.code < http.StatusBadRequest }) {
			walked++
			continue
		}
		path := strings.NewReplacer(":id", ids[strings.Split(route.Path, "/")[1]], ":ref", "thumb-once", ":step", "1", ":kind", "song").Replace(route.Path)
		for _, query := range []string{"", "?as=zip", "?as=wav"} {
			if query != "" && !strings.HasSuffix(path, "/score") {
				continue
			}
			for _, piece := range []bool{false, true} {
				began := time.Now()
				code, body, err := b.ask(ctx, path+query, piece)
				if err != nil || code >= http.StatusInternalServerError {
					return nil, fmt.Errorf("%s answers %d: %w", path+query, code, errors.Join(err, errBroken))
				}
				pages = append(pages, asked{path + query, time.Since(began), code, len(body)})
			}
		}
	}
	fmt.Printf("routes: %d that are asked for by GET, %d of them by a link, the others by their address, whole and as a piece; zips and recordings read to their end\n", known, walked)
	return pages, nil
}

func grownSchool(ctx context.Context, dir string) (sc school, err error) {
	joined, err := localdb.Start(ctx, dir) // the one that the copy runs
	if err != nil {
		return sc, err
	}
	defer func() { err = errors.Join(err, joined.Stop()) }()
	s, err := store.Open(joined.DSN)
	if err != nil {
		return sc, err
	}
	defer s.Close()
	if sc, err = loadSchool(ctx, s); err != nil {
		return sc, err
	}
	for i := range 30 - len(sc.students) {
		if _, err := s.AddStudent(ctx, sc.teacher, store.Student{ClassID: sc.class, Name: fmt.Sprint("Further ", i), Instrument: "guitar"}); err != nil {
			return sc, err
		}
	}
	return sc, demo.Grow(ctx, s, sc.teacher, time.Now())
}

// longest stores the longest song and pattern that there can be and returns their
// pages.
func longest(ctx context.Context, b *browser) (paths []string, err error) {
	if _, _, err := b.get(ctx, "/songs/new"); err != nil {
		return nil, err
	}
	make := func(path string, fields url.Values) error {
		fields.Set("_csrf", b.token)
		req, err := http.NewRequestWithContext(ctx, http.MethodPost, b.base+path, strings.NewReader(fields.Encode()))
		if err != nil {
			return err
		}
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		began := time.Now()
		res, err := b.client.Do(req)
		if err != nil {
			return err
		}
		defer res.Body.Close()
		if res.StatusCode != http.StatusSeeOther {
			return fmt.Errorf("%s answers %s", path, res.Status)
		}
		if took := time.Since(began); took > slowest {
			return fmt.Errorf("%s took %s", path, took)
		}
		paths = append(paths, res.Header.Get("Location"))
		return nil
	}
	bar := strings.TrimSpace(strings.Repeat("p+i+m+a ", 16))
	err = errors.Join(
		make("/songs", url.Values{"title": {"The longest"}, "text": {strings.Repeat("[C]la [Am7]la [F#m7b5]la [Bbmaj7]la\n", 100)}}),
		make("/songs", url.Values{"title": {"On one line"}, "text": {strings.Repeat("[C][Am7][F#m7b5][Bbmaj7]", 100)}}),
		make("/patterns", url.Values{"name": {"Eight bars"}, "chord": {"C"}, "notation": {"4/4: " + strings.TrimSuffix(strings.Repeat(bar+" | ", 8), " | ")}}),
	)
	if err != nil {
		return nil, err
	}
	song, pattern := paths[0], paths[2]
	own := strings.TrimPrefix(pattern, "/patterns/")
	for _, more := range []string{"?pattern=" + own, "/around?pattern=" + own, "/around?pattern=" + own + "&deep=yes", "/left?pattern=" + own, "/keys", "/drill?pattern=" + own} {
		paths = append(paths, song+more)
	}
	paths = append(paths, pattern+"/around", pattern+"/around?deep=yes", "/patterns/compare?a="+own+"&b="+own)
	return paths, make("/ladders", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}, "pattern": {own}, "order": {"thumb first"}})
}

var (
	linkOf   = regexp.MustCompile(`(?:href|src|data-lazy|hx-get|data-hear|data-play|data-tone|data-scores)="(/[^"# ]*)`)
	numberIn = regexp.MustCompile(`\d+`)
	valueIn  = regexp.MustCompile(`=[^&]*`)
)

// alike is how many pages of one kind are asked for.
const alike = 6

// walk follows all links of a site, a few of each kind.
func walk(ctx context.Context, b *browser, todo []string) (pages []asked, err error) {
	seen, kinds := map[string]bool{}, map[string]int{}
	for len(todo) > 0 {
		path := todo[0]
		todo = todo[1:]
		kind := valueIn.ReplaceAllString(numberIn.ReplaceAllString(path, "N"), "=")
		if seen[path] || kinds[kind] >= alike || strings.HasPrefix(path, "/static/") {
			continue
		}
		seen[path] = true
		kinds[kind]++
		began := time.Now()
		code, body, err := b.get(ctx, path)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", path, err)
		}
		if code >= http.StatusInternalServerError {
			return nil, fmt.Errorf("%s answers %d", path, code)
		}
		pages = append(pages, asked{path, time.Since(began), code, len(body)})
		for _, m := range linkOf.FindAllStringSubmatch(body, -1) {
			todo = append(todo, html.UnescapeString(m[1]))
		}
	}
	return pages, nil
}
