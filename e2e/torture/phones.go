package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"path/filepath"
	"sync"
	"sync/atomic"
	"time"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/store"
	"arplin/store/localdb"
	"arplin/store/ref"
	"arplin/teach"
	"arplin/teach/home"
)

// How many phones send, and how many entries each in one go.
const (
	phones      = 200
	phoneBatch  = 5
	phoneWait   = 20 * time.Second
	phoneAsking = 300 * time.Millisecond // at most, between two tries
)

// torturePhones has phones send what they kept, all at once, while the program and its database are killed.
func torturePhones(ctx context.Context, entries, kills int) error {
	dir, err := workFolder("torture-phones")
	if err != nil {
		return err
	}
	server := filepath.Join(dir, "mariadb")
	c, err := newCopy(filepath.Join(dir, "arplin.log"), "ARPLIN_DATA="+dir, "ARPLIN_DSN=")
	if err != nil {
		return err
	}
	defer func() { c.stop() }()
	if err := healthy(ctx, c.address); err != nil {
		return err
	}
	joined, err := localdb.Start(ctx, server) // the one that the copy runs
	if err != nil {
		return err
	}
	defer joined.Stop() //nolint:errcheck // the copy has the server
	s, err := store.Open(joined.DSN)
	if err != nil {
		return err
	}
	defer s.Close() //nolint:errcheck // it is the end
	sc, err := loadSchool(ctx, s)
	if err != nil {
		return err
	}
	links, step, err := givePhones(ctx, s, sc)
	if err != nil {
		return err
	}
	each := entries / len(links)
	var kept, again atomic.Int64
	began := time.Now()
	var all sync.WaitGroup
	failed := make(chan error, len(links))
	for n, l := range links {
		all.Add(1)
		go func() {
			defer all.Done()
			failed <- sendHome(ctx, "http://"+c.address+l.Path()+"/log", waitingOf(n, each, sc.ladder, step, began), &kept, &again)
		}()
	}
	for n := range kills {
		for due := int64(entries * (n + 1) / (kills + 1)); kept.Load() < due; {
			time.Sleep(5 * time.Millisecond)
			if ctx.Err() != nil {
				return ctx.Err()
			}
		}
		if n%2 == 0 {
			c.kill()
			if err := c.start(); err != nil {
				return err
			}
		} else if err := killOwnServer(server); err != nil {
			return err
		}
	}
	all.Wait()
	close(failed)
	for err := range failed {
		if err != nil {
			return err
		}
	}
	took := time.Since(began)
	if err := healthy(ctx, c.address); err != nil {
		return err
	}
	lost, doubled, wrong, err := checkHome(ctx, joined.DSN, sc, links, each, began)
	if err != nil {
		return err
	}
	fmt.Printf("phones: %d entries of %d phones kept in %.0f s under %d kills (program and database in turn), %d batches sent again; %d lost, %d doubled, %d at another time\n",
		each*len(links), len(links), took.Seconds(), kills, again.Load(), lost, doubled, wrong)
	if lost+doubled+wrong > 0 {
		return errBroken
	}
	return nil
}

// givePhones fills the class, and gives everyone a link; all are on one step.
func givePhones(ctx context.Context, s *store.Store, sc school) ([]home.Link, ladder.StepID, error) {
	var more []store.Student
	for n := range phones {
		more = append(more, store.Student{ClassID: sc.class, Name: fmt.Sprintf("Phone %d", n), Instrument: "guitar"})
	}
	if err := s.AddStudents(ctx, sc.teacher, more); err != nil {
		return nil, 0, err
	}
	l, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	if err != nil {
		return nil, 0, err
	}
	rooms := teach.New(s)
	class, err := rooms.People.Class(ctx, sc.teacher, sc.class)
	if err != nil {
		return nil, 0, err
	}
	links, err := rooms.Home.Links(ctx, sc.teacher, class, time.Now())
	if err == nil {
		links = links[len(links)-phones:]
	}
	return links, l.Steps[0].ID, err
}

// waitingOf is what waits on a phone: an entry for each of the last minutes, oldest first.
func waitingOf(phone, each int, on ref.Ladder, step ladder.StepID, began time.Time) (list []home.Sent) {
	for n := range each {
		list = append(list, home.Sent{ID: fmt.Sprintf("phone-%03d-%06d", phone, n), At: began.Add(-time.Duration(each-n) * time.Minute).UnixMilli(), Card: plan.TaskStep, Ladder: on, Step: step, Went: practice.Done, Tempo: 60 + n%40})
	}
	return list
}

// sendHome sends as a phone does: in batches, again until the answer says that they are kept.
func sendHome(ctx context.Context, address string, waiting []home.Sent, kept, again *atomic.Int64) error {
	client := &http.Client{Timeout: phoneWait}
	for len(waiting) > 0 {
		batch := waiting[:min(phoneBatch, len(waiting))]
		taken, err := postHome(ctx, client, address, batch)
		switch {
		case ctx.Err() != nil:
			return ctx.Err()
		case err != nil || len(taken.Kept) == 0 && len(taken.Left) == 0:
			again.Add(1)
			time.Sleep(rand.N(phoneAsking))
			continue
		case len(taken.Left) > 0:
			return fmt.Errorf("%s was left: %s", taken.Left[0].ID, taken.Left[0].Why)
		}
		kept.Add(int64(len(batch)))
		waiting = waiting[len(batch):]
	}
	return nil
}

func postHome(ctx context.Context, client *http.Client, address string, batch []home.Sent) (taken home.Taken, err error) {
	body, err := json.Marshal(home.Batch{Now: time.Now().UnixMilli(), Entries: batch})
	if err != nil {
		return taken, err
	}
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, address, bytes.NewReader(body))
	if err != nil {
		return taken, err
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := client.Do(req)
	if err != nil {
		return taken, err
	}
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	if err != nil {
		return taken, err
	}
	if res.StatusCode != http.StatusOK {
		return taken, fmt.Errorf("%d: %.80s", res.StatusCode, text)
	}
	return taken, json.Unmarshal(text, &taken)
}

// checkHome counts what is stored against what was sent.
func checkHome(ctx context.Context, dsn string, sc school, links []home.Link, each int, began time.Time) (lost, doubled, wrong int, err error) {
	s, err := store.Open(dsn)
	if err != nil {
		return 0, 0, 0, err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	list, err := s.Home(ctx, sc.teacher, sc.class, 0, time.Unix(0, 0))
	if err != nil {
		return 0, 0, 0, err
	}
	stored := map[ref.Student]map[string][]time.Time{}
	for _, e := range list {
		if stored[e.StudentID] == nil {
			stored[e.StudentID] = map[string][]time.Time{}
		}
		stored[e.StudentID][e.ClientID] = append(stored[e.StudentID][e.ClientID], e.At)
	}
	for phone, l := range links {
		for n := range each {
			at := stored[l.Student][fmt.Sprintf("phone-%03d-%06d", phone, n)]
			switch {
			case len(at) == 0:
				lost++
			case len(at) > 1:
				doubled++
			case at[0].Sub(began.Add(-time.Duration(each-n)*time.Minute)).Abs() > phoneWait:
				wrong++
			}
		}
	}
	return lost, doubled, wrong, nil
}
