package main

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"arplin/store"
	"arplin/store/localdb"
)

// tortureOne kills the program and its own database in turn while lines are logged.
func tortureOne(ctx context.Context, lines, kills int) error {
	dir, err := workFolder("torture")
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
	dsn := joined.DSN
	s, err := store.Open(dsn)
	if err != nil {
		return err
	}
	sc, err := loadSchool(ctx, s)
	if err := errors.Join(err, s.Close(), joined.Stop()); err != nil {
		return err
	}
	l, done := &logger{}, make(chan error, 1)
	if err := l.remember(ctx, dsn, sc.teacher); err != nil {
		return err
	}
	began := time.Now()
	go func() { done <- l.run(ctx, sc, []string{"http://" + c.address}, lines, 6) }()
	for n := range kills {
		for due := lines * (n + 1) / (kills + 1); l.count() < due; {
			select {
			case err := <-done:
				return errors.Join(err, fmt.Errorf("only %d of %d kills were made", n, kills))
			case <-time.After(5 * time.Millisecond):
			}
		}
		time.Sleep(time.Duration(rand.Int64N(int64(100 * time.Millisecond))))
		if n%2 == 0 {
			c.kill()
			if err := c.start(); err != nil {
				return err
			}
		} else if err := killOwnServer(server); err != nil {
			return err
		}
	}
	if err := <-done; err != nil {
		return err
	}
	took := time.Since(began)
	if err := healthy(ctx, c.address); err != nil {
		return err
	}
	lost, doubled, wrong, err := l.check(ctx, dsn, sc.teacher)
	if err != nil {
		return err
	}
	if err := l.checkEdits(ctx, dsn, sc.song); err != nil {
		return err
	}
	fmt.Printf("one machine: %d lines acknowledged in %.0f s under %d kills of a process (program and database in turn), %d tries sent again; %d lost, %d doubled, %d wrong; %d edits acknowledged and read back\n",
		len(l.acked), took.Seconds(), kills, l.again, lost, doubled, wrong, l.editsAcked())
	if lost+doubled+wrong > 0 {
		return errBroken
	}
	return nil
}

func killOwnServer(dir string) error {
	text, err := os.ReadFile(filepath.Join(dir, "mariadb.pid"))
	if err != nil {
		return nil // it is being started
	}
	pid, err := strconv.Atoi(strings.TrimSpace(string(text)))
	if err != nil {
		return err
	}
	if err := syscall.Kill(pid, syscall.SIGKILL); err != nil && !errors.Is(err, syscall.ESRCH) {
		return err
	}
	return nil
}
