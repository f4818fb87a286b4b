package web

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"io"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/teach/answer"
)

// A zip is sent while it is made: its first file is there before the second is begun. When
// nobody reads on, it ends, its place is free, and the log says no name.
func TestAZipIsSentWhileItIsMade(t *testing.T) {
	var log lockedBuffer
	was := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&log, nil)))
	defer slog.SetDefault(was)
	next, made, ended := make(chan bool), make(chan string, 1000), make(chan error, 1)
	app := fiber.New()
	app.Use(compress.New(compress.Config{Level: compress.LevelBestSpeed, Next: isSmallAlready}))
	app.Get("/week.zip", func(c fiber.Ctx) error {
		return sendZip(c, "Momo, this week", func(_ context.Context, z *zip.Writer, sent func() error) error {
			for {
				made <- "file"
				w, err := z.CreateHeader(&zip.FileHeader{Name: "file", Method: zip.Store})
				if err == nil {
					_, err = w.Write(bytes.Repeat([]byte("la "), 10_000))
				}
				if err = errors.Join(err, z.Flush(), sent()); err != nil {
					ended <- err
					return err
				}
				<-next
			}
		})
	})
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go app.Listener(l, fiber.ListenConfig{DisableStartupMessage: true}) //nolint:errcheck // the test ends it
	defer app.Shutdown()                                                //nolint:errcheck // nothing is left

	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, "http://"+l.Addr().String()+"/week.zip", nil)
	require.NoError(t, err)
	req.Header.Set("Accept-Encoding", "gzip")
	res, err := http.DefaultTransport.RoundTrip(req)
	require.NoError(t, err)
	_, err = io.CopyN(io.Discard, res.Body, 20_000)
	require.NoError(t, err)
	assert.Empty(t, res.Header.Get("Content-Encoding"))
	assert.Len(t, made, 1, "the second file is not begun")
	require.NoError(t, res.Body.Close())
	close(next)
	select {
	case <-ended:
	case <-time.After(30 * time.Second):
		t.Fatal("the zip is made for nobody")
	}
	require.Eventually(t, func() bool { return len(zips) == 0 }, 10*time.Second, 10*time.Millisecond)
	require.Eventually(t, func() bool { return strings.Contains(log.String(), "not sent to its end") }, 10*time.Second, 10*time.Millisecond)
	assert.NotContains(t, log.String(), "Momo")
}

// When all places are taken, whoever comes next is told so and holds nothing.
func TestZipsHaveTheirPlaces(t *testing.T) {
	t.Parallel()
	for range cap(zips) {
		zips <- struct{}{}
	}
	defer func() {
		for range cap(zips) {
			<-zips
		}
	}()
	var said error
	app := fiber.New(fiber.Config{ErrorHandler: func(_ fiber.Ctx, err error) error { said = err; return nil }})
	app.Get("/week.zip", func(c fiber.Ctx) error { return sendZip(c, "One more", nil) })
	_, err := app.Test(mustRequest(t, "/week.zip"), fiber.TestConfig{Timeout: time.Minute})
	require.NoError(t, err)
	var refusal *answer.Refusal
	require.ErrorAs(t, said, &refusal)
	assert.Contains(t, refusal.Error(), "Try again in a minute")
}

// lockedBuffer is a log that is read while it is written.
type lockedBuffer struct {
	mu   sync.Mutex
	text bytes.Buffer
}

func (b *lockedBuffer) Write(p []byte) (int, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.text.Write(p)
}

func (b *lockedBuffer) String() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.text.String()
}

func mustRequest(t *testing.T, path string) *http.Request {
	t.Helper()
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, path, nil)
	require.NoError(t, err)
	return req
}
