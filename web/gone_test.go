package web

import (
	"net"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A request that takes long ends when its browser goes, and not before, whether the browser has
// sent more meanwhile or not.
func TestWhenTheBrowserGoes(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	browser, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	conn, err := l.Accept()
	require.NoError(t, err)
	defer conn.Close()

	gone := make(chan bool, 1)
	end := whenGone(conn, func() { gone <- true })
	defer end()
	select {
	case <-gone:
		t.Fatal("the browser is there")
	case <-time.After(goneAfter + 2*goneEvery):
	}
	require.NoError(t, browser.Close())
	select {
	case <-gone:
	case <-time.After(30 * time.Second):
		t.Fatal("nobody noticed that the browser went")
	}

	second, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	conn, err = l.Accept()
	require.NoError(t, err)
	defer conn.Close()
	_, err = second.Write([]byte("GET"))
	require.NoError(t, err)
	assert.False(t, isClosed(conn.(*net.TCPConn)))
	require.NoError(t, second.Close())
}
