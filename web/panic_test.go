package web

import (
	"bytes"
	"errors"
	"log/slog"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A panic is in the log with its trace; what somebody typed is not, even when the
// panic says it.
func TestAPanicIsLoggedWithItsTrace(t *testing.T) {
	var log bytes.Buffer
	s := &server{Log: slog.New(slog.NewTextHandler(&log, nil)), proxies: &proxies{}}
	app := fiber.New(fiber.Config{ErrorHandler: func(c fiber.Ctx, _ error) error { return c.SendStatus(fiber.StatusInternalServerError) }})
	app.Use(s.logRequests, recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: s.logPanic}))
	app.Get("/typed", func(fiber.Ctx) error { panic(errors.New("Heron 72 is no tempo")) })
	app.Get("/fault", func(fiber.Ctx) error { var list []int; return c2(list[0]) })
	for _, path := range []string{"/typed", "/fault"} {
		log.Reset()
		res, err := app.Test(httptest.NewRequest("GET", path, nil), fiber.TestConfig{Timeout: 2 * time.Minute})
		require.NoError(t, err)
		assert.Equal(t, fiber.StatusInternalServerError, res.StatusCode)
		assert.Contains(t, log.String(), "panic_test.go", "the trace")
		assert.NotContains(t, log.String(), "Heron")
	}
	assert.Contains(t, log.String(), "index out of range")
}

func c2(int) error { return nil }
