package web

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"time"

	"github.com/gofiber/fiber/v3"
)

// keyField is the field of a form that makes something new. The page gives each
// form a key of its own; the same key with the same content is the same form.
const keyField = "form_key"

func formKey() string { return rand.Text() }

// How long an equal form waits for the one before it.
const (
	onceWait = 3 * time.Second
	oncePoll = 50 * time.Millisecond
)

// once carries a form out once, however often it is sent: by a double click, by a
// browser that sends it again after a lost connection, or to two copies of the
// program at the same time. What comes later is led to where the first one led.
func (s *server) once(c fiber.Ctx) error {
	if c.FormValue(keyField) == "" {
		return c.Next()
	}
	sum := sha256.New()
	fmt.Fprintf(sum, "%q", c.OriginalURL())
	for _, f := range slices.DeleteFunc(sentFields(c), func(f sentField) bool { return f.Name == "version" }) {
		fmt.Fprintf(sum, "%q %q", f.Name, f.Value)
	}
	key := hex.EncodeToString(sum.Sum(nil))
	before, fresh, err := s.visits.TakeForm(c.Context(), who(c), key, time.Now())
	for began := time.Now(); err == nil && !fresh && before.Location == "" && time.Since(began) < onceWait; {
		time.Sleep(oncePoll)
		before, fresh, err = s.visits.TakeForm(c.Context(), who(c), key, time.Now())
	}
	switch {
	case err != nil:
		return err
	case !fresh && before.Location != "":
		return goTo(c, before.Location)
	case !fresh:
		return refuse("this was sent before, and Arplin doesn’t know what came of it. Check the list, then reload the page before you send it again")
	}
	err = c.Next()
	led := cmp.Or(string(c.Response().Header.Peek(fiber.HeaderLocation)), c.GetRespHeader("HX-Redirect"))
	if err != nil || led == "" { // what makes something leads to it; this made nothing, and can be sent again
		ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Context()), onceWait)
		defer cancel()
		_ = s.visits.FreeForm(ctx, who(c), key) // else it is refused the next time, which doubles nothing
		return err
	}
	if err := s.visits.FormLed(c.Context(), who(c), key, led); err != nil {
		s.Log.Error("noting where a form led", "error", err) // the answer stands
	}
	return nil
}
