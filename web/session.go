package web

import (
	"context"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/extractors"
	"github.com/gofiber/fiber/v3/middleware/session"

	"arplin/store"
	"arplin/store/keyvalue"
	"arplin/teach/people"
)

// idle is how long a sign-in lasts without being used, and the forms of its pages.
const idle = 14 * 24 * time.Hour

// renew is how old the end of a session may grow before it is put off again.
const renew = 24 * time.Hour

const sessionCookie = "arplin_session"

// cookieName is what a cookie is called: over TLS so that no other site of the same domain, and no
// page without TLS, can have set it. Source: RFC 6265bis, cookie name prefixes.
func cookieName(name string, secure bool) string {
	if secure {
		return "__Host-" + name
	}
	return name
}

func (s *server) cookie(name string) string { return cookieName(name, s.SecureCookies) }

// The keys of a session.
const (
	keyTeacher     = "teacher"
	keyEpoch       = "epoch" // of the password with which it began
	keySaved       = "saved" // when, in seconds
	keyClass       = "class"
	keyStage       = "stage"
	keyLogged      = "logged" // counts what was logged and taken back
	keyNoteText    = "note"
	keyNoteUndo    = "note_undo"
	keyNoteVersion = "note_version"
)

// visit is who asks and the class that the teacher works with.
type visit struct {
	session *session.Session // nil for a visitor who has not signed in
	changed bool             // the session has to be saved
	teacher store.Teacher
	class   people.Class
	stage   bool // the dark theme of the projector
}

type visitKey struct{}

func visitOf(c fiber.Ctx) *visit {
	if v := fiber.Locals[*visit](c, visitKey{}); v != nil {
		return v
	}
	return &visit{}
}

// get reads what the session keeps; nothing for a visitor.
func (v *visit) get(key string) any {
	if v.session == nil {
		return nil
	}
	return v.session.Get(key)
}

// set has the session keep something.
func (v *visit) set(key string, value any) {
	if v.session == nil {
		return
	}
	v.changed = true
	if value == nil {
		v.session.Delete(key)
		return
	}
	v.session.Set(key, value)
}

// save stores the session and puts off its end.
func (v *visit) save(now time.Time) error {
	v.changed = false
	v.session.Set(keySaved, now.Unix())
	return v.session.Save()
}

// newSessions keeps sessions in the database.
func newSessions(cfg Config) *session.Store {
	return session.NewStore(session.Config{
		Storage:        timely{keyvalue.Sessions(cfg.Store.DB())},
		Extractor:      extractors.FromCookie(cookieName(sessionCookie, cfg.SecureCookies)),
		CookieHTTPOnly: true, CookieSecure: cfg.SecureCookies, CookieSameSite: "Lax",
		IdleTimeout: idle,
	})
}

// timely hands the deadline of a request on to the storage: as a context, Fiber's
// own has none.
type timely struct{ *keyvalue.Table }

func deadlineOf(ctx context.Context) context.Context {
	if c, ok := ctx.(fiber.Ctx); ok {
		return c.Context()
	}
	return ctx
}

func (t timely) GetWithContext(ctx context.Context, key string) ([]byte, error) {
	return t.Table.GetWithContext(deadlineOf(ctx), key)
}

func (t timely) SetWithContext(ctx context.Context, key string, val []byte, exp time.Duration) error {
	return t.Table.SetWithContext(deadlineOf(ctx), key, val, exp)
}

func (t timely) DeleteWithContext(ctx context.Context, key string) error {
	return t.Table.DeleteWithContext(deadlineOf(ctx), key)
}

// withSession opens the session of a request that has one. It is stored when it
// was changed, or when its end comes nearer; a visitor has none.
func (s *server) withSession(c fiber.Ctx) error {
	v := &visit{}
	fiber.Locals[*visit](c, visitKey{}, v)
	if c.Cookies(s.cookie(sessionCookie)) != "" {
		sess, err := s.sessions.Get(c)
		if err != nil {
			return err
		}
		if sess.Fresh() { // it has ended, or never was
			sess.Release()
		} else {
			v.session = sess
		}
	}
	err := c.Next()
	if v.session == nil {
		return err
	}
	defer v.session.Release()
	now := time.Now()
	saved, _ := v.get(keySaved).(int64)
	if err != nil || !v.changed && now.Sub(time.Unix(saved, 0)) < renew {
		return err
	}
	// The answer stands: what it did is stored. Lost is at most a note.
	if err := v.save(now); err != nil {
		s.Log.Error("saving a session", "error", err)
	}
	return nil
}

// begin makes the session of a teacher who has shown who it is. One that was there
// before, perhaps by another hand, ends.
func (s *server) begin(c fiber.Ctx, t store.Teacher, epoch int) error {
	v := visitOf(c)
	if v.session == nil {
		sess, err := s.sessions.Get(c)
		if err != nil {
			return err
		}
		v.session = sess
	} else if err := v.session.Regenerate(); err != nil {
		return err
	}
	v.set(keyTeacher, int64(t.ID))
	v.set(keyEpoch, epoch)
	return v.save(time.Now())
}

// end ends a session for good.
func (v *visit) end() error {
	if v.session == nil {
		return nil
	}
	err := v.session.Destroy()
	v.session.Release()
	v.session, v.changed = nil, false
	return err
}
