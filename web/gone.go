package web

import (
	"errors"
	"net"
	"sync"
	"syscall"
	"time"
)

// How soon a request is looked after whose answer takes longer than most, and how often then.
const (
	goneAfter = 500 * time.Millisecond
	goneEvery = 250 * time.Millisecond
)

// whenGone calls gone when the other end of a connection has closed it, while a request is
// answered that takes long; fasthttp itself notices only when it writes. The function that it
// returns ends the watch.
func whenGone(conn net.Conn, gone func()) (end func()) {
	raw, ok := conn.(syscall.Conn)
	if !ok { // of a test, or over TLS
		return func() {}
	}
	var mu sync.Mutex
	var timer *time.Timer
	ended := false
	look := func() {
		mu.Lock()
		defer mu.Unlock()
		switch {
		case ended:
		case isClosed(raw):
			gone()
		default:
			timer.Reset(goneEvery)
		}
	}
	mu.Lock()
	timer = time.AfterFunc(goneAfter, look)
	mu.Unlock()
	return func() {
		mu.Lock()
		ended = true
		mu.Unlock()
		timer.Stop()
	}
}

// isClosed looks whether there is an end to read, without reading.
func isClosed(conn syscall.Conn) (closed bool) {
	raw, err := conn.SyscallConn()
	if err != nil {
		return false
	}
	_ = raw.Control(func(fd uintptr) { // one that fails is closed on this side
		var one [1]byte
		n, _, err := syscall.Recvfrom(int(fd), one[:], syscall.MSG_PEEK|syscall.MSG_DONTWAIT)
		closed = n == 0 && err == nil || errors.Is(err, syscall.ECONNRESET)
	})
	return closed
}
