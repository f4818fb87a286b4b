package schema

import (
	"context"
	"crypto/rand"
	"fmt"
	"os"
	"strconv"
	"strings"
	"time"

	"arplin/store/database"
)

// One copy of the program migrates at a time. A lock of the server's would not
// reach the other nodes of a cluster, so it is a row, which a cluster agrees upon:
// whoever holds it says so again and again, and is dead when it does not.
const (
	leaseFor   = 15 * time.Second
	leaseRenew = 2 * time.Second
	leasePoll  = 100 * time.Millisecond
)

// takeLease waits until this copy may migrate. The context ends when the lease is
// lost.
func takeLease(ctx context.Context, db *database.DB) (context.Context, func(), error) {
	if _, err := db.Change(ctx, "CREATE TABLE IF NOT EXISTS migration_lease (id INT PRIMARY KEY, holder VARCHAR(200) NOT NULL, until_ms BIGINT NOT NULL)"); err != nil {
		return ctx, nil, err
	}
	if _, err := db.Change(ctx, "INSERT IGNORE INTO migration_lease (id, holder, until_ms) VALUES (1, '', 0)"); err != nil {
		return ctx, nil, err
	}
	me := holder()
	for {
		ok, err := holdLease(ctx, db, me)
		if err != nil {
			return ctx, nil, err
		}
		if ok {
			break
		}
		select {
		case <-ctx.Done():
			return ctx, nil, fmt.Errorf("another copy of Arplin is at it and does not come to an end: %w", ctx.Err())
		case <-time.After(leasePoll):
		}
	}
	held, cancel := context.WithCancel(ctx)
	stopped := make(chan struct{})
	go func() {
		defer close(stopped)
		for {
			select {
			case <-held.Done():
				return
			case <-time.After(leaseRenew):
			}
			if ok, err := holdLease(held, db, me); err == nil && !ok {
				cancel()
			}
		}
	}()
	return held, func() {
		cancel()
		<-stopped
		_, _ = db.Change(context.WithoutCancel(ctx), "UPDATE migration_lease SET holder = '', until_ms = 0 WHERE id = 1 AND holder = ?", me)
	}, nil
}

// holdLease takes the lease or keeps it: one that is free, its own, run out, or a
// dead neighbour's.
func holdLease(ctx context.Context, db *database.DB, me string) (bool, error) {
	var whose string
	if err := db.QueryRowContext(ctx, "SELECT holder FROM migration_lease WHERE id = 1").Scan(&whose); err != nil {
		return false, err
	}
	if !deadNeighbour(whose) {
		whose = me
	}
	n, err := db.Change(ctx, `UPDATE migration_lease SET holder = ?, until_ms = UNIX_TIMESTAMP(NOW(3)) * 1000 + ?
		WHERE id = 1 AND (holder IN ('', ?, ?) OR until_ms < UNIX_TIMESTAMP(NOW(3)) * 1000)`, me, leaseFor.Milliseconds(), me, whose)
	return n == 1, err
}

// holder names this try of this process among all copies.
func holder() string {
	host, _ := os.Hostname()
	return fmt.Sprintf("%s %d %s %s", host, os.Getpid(), started(os.Getpid()), rand.Text())
}

// started tells a process from an earlier one of the same number; empty where
// there is none.
func started(pid int) string {
	stat, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return ""
	}
	const after = 19 // fields between the name and the start time; see proc(5)
	fields := strings.Fields(string(stat[strings.LastIndexByte(string(stat), ')')+1:]))
	if len(fields) <= after {
		return ""
	}
	return fields[after]
}

// deadNeighbour reports a holder on this machine that runs no longer.
func deadNeighbour(whose string) bool {
	host, _ := os.Hostname()
	fields := strings.Fields(whose)
	if len(fields) != 4 || fields[0] != host {
		return false
	}
	pid, err := strconv.Atoi(fields[1])
	return err == nil && started(pid) != fields[2]
}
