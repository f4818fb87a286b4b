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
		req.Header.Set("HX-Request", "true")
		for name, value := range browser.cookies {
			req.Header.Add("Cookie", name+"="+value)
		}
		res, err := browser.app.Test(req, fiber.TestConfig{Timeout: 20 * time.Second})
		if err != nil || res.StatusCode != fiber.StatusOK {
			b.Fatal(err, res)
		}
	}
}

// A long song with five chords, its pattern, its neighbours and its moves.
func BenchmarkSongPageOf64Bars(b *testing.B) {
	br := signedIn(b)
	br.get("/songs/new")
	sheet := "{title: Long}\n{sov}\n" + strings.Repeat("[C]a [Am]b [F]c [G7]d [Dm]e [G7]f [C]g [F]h\n", 8) + "{eov}"
	res, _ := br.post("/songs", url.Values{"text": {sheet}})
	for name, more := range map[string]string{"one rule away": "", "two rules deep": "&deep=yes"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if res, body := br.get(res.Header.Get("Location") + "?pattern=thumb-two-between" + more); res.StatusCode != fiber.StatusOK {
					b.Fatal(body)
				}
			}
		})
	}
}
