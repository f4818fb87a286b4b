package web_test

import (
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
)

// BenchmarkPress is one key on the bench, server included: four chords on each
// of the class's four instruments.
func BenchmarkPress(b *testing.B) {
	browser := signedIn(b)
	browser.get("/bench")
	fields := url.Values{
		"_csrf": {browser.token}, "notation": {"4/4: p . p'+m . p i p' . | p+m . p' i p m p' ."}, "chord": {"Am"},
		"at_bar": {"0"}, "at_slot": {"3"}, "at_stroke": {"0"}, "do": {"key"}, "with": {"i"},
	}.Encode()
	for b.Loop() {
		req := httptest.NewRequest("POST", "/bench", strings.NewReader(fields))
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		req.Header.Set("X-Fragment", "1")
		for name, value := range browser.cookies {
			req.Header.Add("Cookie", name+"="+value)
		}
		res, err := browser.app.Test(req, fiber.TestConfig{Timeout: 20 * time.Second})
		if err != nil || res.StatusCode != fiber.StatusOK {
			b.Fatal(err, res)
		}
	}
}
