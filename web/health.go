package web

import (
	"context"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/teach/answer"
)

// health asks the database, so that a balancer sends nobody to a copy without one.
func (s *server) health(c fiber.Ctx) error {
	ctx, cancel := context.WithTimeout(c.Context(), 3*time.Second)
	defer cancel()
	if err := s.visits.Ping(ctx); err != nil {
		s.Log.Error("health: the database does not answer", "error", err)
		return c.Status(fiber.StatusServiceUnavailable).JSON(fiber.Map{"status": "database does not answer"})
	}
	return c.JSON(fiber.Map{"status": "ok"})
}

// logRequests writes one line a request: no query, no body, no names.
func (s *server) logRequests(c fiber.Ctx) error {
	began := time.Now()
	err := c.Next()
	if err != nil {
		if handlerErr := c.App().Config().ErrorHandler(c, err); handlerErr != nil {
			return handlerErr
		}
	}
	s.Log.Info("request", "method", c.Method(), "path", unlinked(c.Path()), "status", c.Response().StatusCode(),
		"ms", float64(time.Since(began).Microseconds())/1000, "ip", s.proxies.address(c))
	return nil
}

// unlinked is a path as a log may have it: what opens a page by itself is left out.
func unlinked(path string) string {
	for _, room := range []string{"/p/", "/invite/"} {
		if rest, is := strings.CutPrefix(path, room); is && !strings.Contains(rest, ".") {
			_, further, _ := strings.Cut(rest, "/")
			return room + "…/" + further
		}
	}
	return path
}

// logPanic keeps the trace in the log; the page says a sentence.
func (s *server) logPanic(c fiber.Ctx, e any) {
	s.Log.Error("panic", "path", unlinked(c.Path()), "panic", answer.PanicSays(e), "trace", string(answer.Trace()))
}
