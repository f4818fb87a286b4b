package main

import (
	"bytes"
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"arplin/store"
	"arplin/store/localdb"
	"arplin/store/ref"
	"arplin/teach"
)

// A service for many: what a school of its own has, and how many teachers ask at the same time.
const (
	manyStudents = 20
	manyEntries  = 150 // of the log, each
	askers       = 64
	asking       = 8 * time.Second // for one page
)

// apart is how far ids of one teacher are from those of the next: more than a school has of anything.
const apart = 1_000_000

// tortureMany measures pages for a few teachers, then for so many that the log has millions of lines, and says by
// how much each page is slower.
func tortureMany(ctx context.Context, teachers int) error {
	dir, err := workFolder("torture-many")
	if err != nil {
		return err
	}
	c, err := newCopy(filepath.Join(dir, "arplin.log"), "ARPLIN_DATA="+dir, "ARPLIN_DSN=", fmt.Sprintf("ARPLIN_DATABASE_MB=%d", max(64, teachers)))
	if err != nil {
		return err
	}
	defer c.stop()
	if err := healthy(ctx, c.address); err != nil {
		return err
	}
	joined, err := localdb.Start(ctx, filepath.Join(dir, "mariadb")) // the one that the copy runs
	if err != nil {
		return err
	}
	defer joined.Stop() //nolint:errcheck // the copy has the server
	s, err := store.Open(joined.DSN)
	if err != nil {
		return err
	}
	defer s.Close() //nolint:errcheck // it is the end
	db, err := sql.Open("mysql", joined.DSN)
	if err != nil {
		return err
	}
	defer db.Close()
	sc, err := loadSchool(ctx, s)
	if err != nil {
		return err
	}
	if err := fillSchool(ctx, s, db, sc); err != nil {
		return err
	}
	if err := cloneSchools(ctx, db, sc, 1, askers); err != nil {
		return err
	}
	few, err := measureMany(ctx, s, c.address, sc)
	if err != nil {
		return err
	}
	began := time.Now()
	for from := askers + 1; from < teachers; from += 50 {
		if err := cloneSchools(ctx, db, sc, from, min(from+49, teachers-1)); err != nil {
			return err
		}
	}
	var lines, students int
	var megabytes float64
	if err := db.QueryRowContext(ctx, "SELECT COUNT(*) FROM log_entries").Scan(&lines); err != nil {
		return err
	}
	if err := db.QueryRowContext(ctx, "SELECT COUNT(*) FROM students").Scan(&students); err != nil {
		return err
	}
	if err := db.QueryRowContext(ctx, "SELECT SUM(data_length + index_length) / 1048576 FROM information_schema.tables WHERE table_schema = DATABASE()").Scan(&megabytes); err != nil {
		return err
	}
	fmt.Printf("many: %d teachers, %d students, %d lines of the log, %.0f MB of tables, written in %.0f s\n", teachers, students, lines, megabytes, time.Since(began).Seconds())
	many, err := measureMany(ctx, s, c.address, sc)
	if err != nil {
		return err
	}
	fmt.Printf("%-12s %14s %14s %8s\n", "page", fmt.Sprintf("%d teachers", askers), fmt.Sprintf("%d teachers", teachers), "times")
	for _, p := range manyPages {
		fmt.Printf("%-12s %11.1f ms %11.1f ms %8.2f\n", p.name, few[p.name], many[p.name], many[p.name]/few[p.name])
	}
	return nil
}

// fillSchool gives the demo's class as many students and as long a log as the others are to have.
func fillSchool(ctx context.Context, s *store.Store, db *sql.DB, sc school) error {
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	if err != nil {
		return err
	}
	there, err := s.Students(ctx, sc.teacher, sc.class)
	if err != nil {
		return err
	}
	var more []store.Student
	for n := len(there); n < manyStudents; n++ {
		more = append(more, store.Student{ClassID: sc.class, Name: fmt.Sprintf("More %d", n), Instrument: "guitar"})
	}
	if err := s.AddStudents(ctx, sc.teacher, more); err != nil {
		return err
	}
	if there, err = s.Students(ctx, sc.teacher, sc.class); err != nil {
		return err
	}
	places := store.Places{}
	for n, st := range there {
		step := l.Steps[n%len(l.Steps)]
		places[st.ID] = step.ID
		if _, err := s.AddEntry(ctx, sc.teacher, store.Entry{StudentID: st.ID, LadderID: l.ID, Step: step, Tempo: 60 + n, At: time.Now()}, fmt.Sprintf("many-first-%d", st.ID)); err != nil {
			return err
		}
	}
	if _, _, err := s.Place(ctx, sc.teacher, l.ID, places); err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, fmt.Sprintf(`INSERT INTO log_entries (teacher_id, student_id, ladder_id, step_id, played_id, tempo, failed, client_id, at, uid)
		SELECT teacher_id, student_id, ladder_id, step_id, played_id, 50 + seq %% 40, seq %% 5 = 0, CONCAT('many-', student_id, '-', seq), at - INTERVAL seq DAY, UUID()
		FROM log_entries, seq_1_to_%d WHERE client_id LIKE 'many-first-%%'`, manyEntries-1))
	return err
}

// cloned are the tables of a school that has no undo and no lesson yet, each after those that it refers to.
var cloned = []string{"teachers", "classes", "students", "songs", "ladders", "placements", "played_steps", "log_entries", "decisions", "week_drills"}

// cloneSchools writes the school of the demo again for each number, with ids of its own: whatever is a BIGINT
// is an id.
func cloneSchools(ctx context.Context, db *sql.DB, sc school, from, to int) error {
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback() //nolint:errcheck // after a commit there is nothing to roll back
	for _, table := range cloned {
		rows, err := tx.QueryContext(ctx, "SELECT column_name, data_type FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? AND extra NOT LIKE '%GENERATED%' ORDER BY ordinal_position", table)
		if err != nil {
			return err
		}
		var names, values []string
		for rows.Next() {
			var name, kind string
			if err := rows.Scan(&name, &kind); err != nil {
				return errors.Join(err, rows.Close())
			}
			value := "x.`" + name + "`"
			switch {
			case kind == "bigint":
				value += fmt.Sprintf(" + seq * %d", apart)
			case name == "uid":
				value = "UUID()"
			case name == "email":
				value = "CONCAT(seq, '.', " + value + ")"
			}
			names, values = append(names, "`"+name+"`"), append(values, value)
		}
		if err := errors.Join(rows.Err(), rows.Close()); err != nil {
			return err
		}
		owner := "x.teacher_id"
		if table == "teachers" {
			owner = "x.id"
		}
		if _, err := tx.ExecContext(ctx, fmt.Sprintf("INSERT INTO %s (%s) SELECT %s FROM %s x, seq_%d_to_%d WHERE %s = ?", table, strings.Join(names, ", "), strings.Join(values, ", "), table, from, to, owner), sc.teacher); err != nil {
			return fmt.Errorf("%s: %w", table, err)
		}
	}
	return tx.Commit()
}

// manyPages are what is asked for: of a school that is so far apart.
var manyPages = []struct {
	name string
	ask  func(ctx context.Context, b *browser, sc school, link string, n int) (int, error)
}{
	{"desk", func(ctx context.Context, b *browser, _ school, _ string, _ int) (int, error) {
		code, _, err := b.get(ctx, "/")
		return code, err
	}},
	{"lesson", func(ctx context.Context, b *browser, _ school, _ string, _ int) (int, error) {
		code, _, err := b.get(ctx, "/lesson")
		return code, err
	}},
	{"phone", func(ctx context.Context, b *browser, _ school, link string, _ int) (int, error) {
		code, _, err := b.get(ctx, link)
		return code, err
	}},
	{"log", func(ctx context.Context, b *browser, sc school, _ string, n int) (int, error) {
		code, _, err := b.post(ctx, "/log", url.Values{
			"client_id": {rand.Text()}, "class": {fmt.Sprint(sc.class)}, "ladder": {fmt.Sprint(sc.ladder)}, "student": {fmt.Sprint(sc.students[n%len(sc.students)])}, "tempo": {fmt.Sprint(50 + n%50)},
		})
		return code, err
	}},
	{"from home", func(ctx context.Context, b *browser, _ school, link string, n int) (int, error) {
		now := time.Now().UnixMilli()
		req, err := http.NewRequestWithContext(ctx, http.MethodPost, b.base+link+"/log", bytes.NewReader(fmt.Appendf(nil, `{"now":%d,"entries":[{"id":%q,"at":%d,"card":"warm-up","went":"done"}]}`, now, rand.Text(), now)))
		if err != nil {
			return 0, err
		}
		req.Header.Set("Content-Type", "application/json")
		code, _, err := b.send(req)
		return code, err
	}},
}

// measureMany asks for each page with as many connections as there are askers, each of a teacher of its own, and returns
// the median of what it took, in milliseconds.
func measureMany(ctx context.Context, s *store.Store, address string, sc school) (map[string]float64, error) {
	rooms := teach.New(s)
	type asker struct {
		b    *browser
		sc   school
		link string
	}
	var all []asker
	for k := 1; k <= askers; k++ {
		far := int64(k) * apart
		own := school{email: fmt.Sprintf("%d.%s", k, sc.email), password: sc.password, teacher: sc.teacher + ref.Teacher(far), class: sc.class + ref.Class(far), ladder: sc.ladder + ref.Ladder(far)}
		for _, st := range sc.students {
			own.students = append(own.students, st+ref.Student(far))
		}
		a := asker{newBrowser("http://" + address), own, ""}
		if err := a.b.signIn(ctx, own); err != nil {
			return nil, err
		}
		c, err := rooms.People.Class(ctx, own.teacher, own.class)
		if err != nil {
			return nil, err
		}
		links, err := rooms.Home.Links(ctx, own.teacher, c, time.Now())
		if err != nil {
			return nil, err
		}
		a.link = links[k%len(links)].Path()
		all = append(all, a)
	}
	medians := map[string]float64{}
	for _, p := range manyPages {
		var mu sync.Mutex
		var took []float64
		var wait sync.WaitGroup
		failed := make(chan error, len(all))
		until := time.Now().Add(asking)
		for _, a := range all {
			wait.Add(1)
			go func() {
				defer wait.Done()
				for n := 0; time.Now().Before(until); n++ {
					began := time.Now()
					code, err := p.ask(ctx, a.b, a.sc, a.link, n)
					if err == nil && code != http.StatusOK {
						err = fmt.Errorf("%s answers %d", p.name, code)
					}
					if err != nil {
						failed <- err
						return
					}
					if n == 0 {
						continue // what is computed once is there by then
					}
					mu.Lock()
					took = append(took, float64(time.Since(began).Microseconds())/1000)
					mu.Unlock()
				}
			}()
		}
		wait.Wait()
		close(failed)
		for err := range failed {
			return nil, err
		}
		if len(took) == 0 {
			return nil, fmt.Errorf("%s: nothing was answered twice in %s", p.name, asking)
		}
		slices.Sort(took)
		medians[p.name] = took[len(took)/2]
	}
	return medians, nil
}
