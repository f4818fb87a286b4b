package localdb

import (
	"errors"
	"fmt"
	"syscall"
)

// leastRoom is how much a database needs to start and to answer, in bytes.
const leastRoom = 8 << 20

// roomIn is how many bytes are free on the disk of a folder.
var roomIn = func(dir string) (int64, error) {
	var fs syscall.Statfs_t
	if err := syscall.Statfs(dir, &fs); err != nil {
		return 0, fmt.Errorf("looking for room: %w", err)
	}
	return int64(fs.Bavail) * fs.Bsize, nil
}

// orFull is an error, or that the disk is full where it is: then whatever failed did so for that.
func (h home) orFull(err error) error {
	if err == nil {
		return nil
	}
	if room, e := roomIn(h.dir); e == nil && room < leastRoom || errors.Is(err, syscall.ENOSPC) {
		return fmt.Errorf("the disk of %s is full; make room, then start again (%w)", h.dir, err)
	}
	return err
}
