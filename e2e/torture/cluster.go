package main

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"path/filepath"
	"strconv"
	"sync"
	"syscall"
	"time"

	"arplin/store"
)

// tortureCluster runs two copies on three nodes behind a proxy, kills and cuts off
// nodes and copies in turn while lines are logged to both, and looks for what was
// lost, on every node.
func tortureCluster(ctx context.Context, lines, kills int) error {
	dir, err := workFolder("cluster")
	if err != nil {
		return err
	}
	began := time.Now()
	c, err := newCluster(dir)
	if c != nil {
		defer c.stop()
	}
	if err != nil {
		return err
	}
	fmt.Printf("cluster: three nodes are up after %.0f s\n", time.Since(began).Seconds())
	var copies []*copyOf
	for i := range 2 { // both at once on an empty database: one migrates, the other waits
		copy, err := newCopy(filepath.Join(dir, fmt.Sprintf("copy%d.log", i+1)), "ARPLIN_DSN="+c.dsnFrom(i), "ARPLIN_DATA="+filepath.Join(dir, fmt.Sprint("data", i+1)), "ARPLIN_TRUSTED_PROXIES=127.0.0.1")
		if err != nil {
			return err
		}
		defer func() { copy.stop() }()
		copies = append(copies, copy)
	}
	for _, copy := range copies {
		if err := healthy(ctx, copy.address); err != nil {
			return err
		}
	}
	s, err := store.Open(c.dsnFrom(0))
	if err != nil {
		return err
	}
	sc, err := loadSchool(ctx, s)
	if err := errors.Join(err, s.Close()); err != nil {
		return err
	}
	before, stopProxy, err := proxy(ctx, dir, copies)
	if err != nil {
		return err
	}
	defer stopProxy()
	if err := healthy(ctx, before); err != nil {
		return err
	}
	both := []string{"http://" + copies[0].address, "http://" + copies[1].address}
	if err := staleAcross(ctx, sc, both); err != nil {
		return err
	}
	return c.underLoad(ctx, sc, copies, "http://"+before, lines, kills)
}

// trouble is what happens to a node or a copy, and how it comes back.
type trouble struct {
	name string
	make func() error
	mend func() error
}

func (c *cluster) troubles(copies []*copyOf) []trouble {
	node := func(i int) trouble {
		return trouble{fmt.Sprintf("node %d killed", i+1), func() error { c.nodes[i].kill(); return nil }, func() error { return c.start(i, false) }}
	}
	copy := func(i int) trouble {
		return trouble{fmt.Sprintf("copy %d killed", i+1), func() error { copies[i].kill(); return nil }, copies[i].start}
	}
	cut := func(i int) trouble {
		return trouble{fmt.Sprintf("node %d cut off", i+1), func() error { c.nodes[i].signal(syscall.SIGSTOP); return nil }, func() error {
			c.nodes[i].signal(syscall.SIGCONT)
			return c.nodes[i].await()
		}}
	}
	return []trouble{node(0), copy(0), cut(1), copy(1), node(2), cut(0), copy(0), node(1), copy(1), cut(2)}
}

func (c *cluster) underLoad(ctx context.Context, sc school, copies []*copyOf, base string, lines, kills int) error {
	l, done := &logger{}, make(chan error, 1)
	if err := l.remember(ctx, c.nodes[0].dsn(), sc.teacher); err != nil {
		return err
	}
	began := time.Now()
	go func() { done <- l.run(ctx, sc, []string{base}, lines, 6) }()
	all := c.troubles(copies)
	var longest time.Duration
	for n := range kills {
		for due := lines * (n + 1) / (kills + 2); l.count() < due; {
			select {
			case err := <-done:
				return errors.Join(err, fmt.Errorf("only %d of %d troubles were made", n, kills))
			case <-time.After(5 * time.Millisecond):
			}
		}
		t := all[n%len(all)]
		if err := t.make(); err != nil {
			return err
		}
		at, since := l.count(), time.Now()
		for l.count() < at+6 && time.Since(since) < time.Minute { // lines go on being taken without it
			time.Sleep(5 * time.Millisecond)
		}
		gap := time.Since(since)
		longest = max(longest, gap)
		fmt.Printf("cluster: %s: lines go on after %.1f s\n", t.name, gap.Seconds())
		if err := t.mend(); err != nil {
			return fmt.Errorf("%s and does not come back: %w", t.name, err)
		}
	}
	if err := <-done; err != nil {
		return err
	}
	took := time.Since(began)
	failed := false
	for i, n := range c.nodes {
		if err := n.await(); err != nil {
			return fmt.Errorf("node %d: %w", i+1, err)
		}
		lost, doubled, wrong, err := l.check(ctx, n.dsn(), sc.teacher)
		if err != nil {
			return err
		}
		failed = failed || lost+doubled+wrong > 0
		if err := l.checkEdits(ctx, n.dsn(), sc.song); err != nil {
			return fmt.Errorf("node %d: %w", i+1, err)
		}
		fmt.Printf("cluster, node %d: %d lines acknowledged in %.0f s under %d kills and cuts, %d edits, %d tries sent again, longest pause %.1f s; %d lost, %d doubled, %d wrong\n",
			i+1, len(l.acked), took.Seconds(), kills, l.editsAcked(), l.again, longest.Seconds(), lost, doubled, wrong)
	}
	if failed {
		return errBroken
	}
	return nil
}

// staleAcross sends two edits of one version to two copies at once: one is taken,
// and the other is refused as stale, each time.
func staleAcross(ctx context.Context, sc school, bases []string) error {
	var browsers []*browser
	for _, base := range bases {
		b := newBrowser(base)
		if err := b.signIn(ctx, sc); err != nil {
			return err
		}
		browsers = append(browsers, b)
	}
	path := fmt.Sprintf("/songs/%d", sc.song)
	const rounds = 40
	for n := range rounds {
		_, body, err := browsers[n%2].get(ctx, path)
		if err != nil {
			return err
		}
		m := versionOf.FindStringSubmatch(body)
		if m == nil {
			return fmt.Errorf("the song's page has no version: %.200s", body)
		}
		codes := make([]int, len(browsers))
		var wait sync.WaitGroup
		for i, b := range browsers {
			wait.Go(func() {
				codes[i], _, _ = b.post(ctx, path+"/edit", url.Values{"op": {"tempo"}, "text": {strconv.Itoa(60 + n + 50*i)}, "version": {m[1]}})
			})
		}
		wait.Wait()
		if !(codes[0] == http.StatusOK && codes[1] == http.StatusConflict || codes[1] == http.StatusOK && codes[0] == http.StatusConflict) {
			return fmt.Errorf("two edits of one version at two copies were answered %v", codes)
		}
	}
	fmt.Printf("cluster: %d times two edits of one version at two copies: one taken, one refused as stale\n", rounds)
	return nil
}
