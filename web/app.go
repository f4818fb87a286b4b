package web

import (
	"cmp"
	"context"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
	"log/slog"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/gofiber/fiber/v3/middleware/etag"
	"github.com/gofiber/fiber/v3/middleware/helmet"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/gofiber/fiber/v3/middleware/session"
	"github.com/gofiber/fiber/v3/middleware/static"
	"github.com/valyala/fasthttp"

	"arplin/store"
	"arplin/store/keyvalue"
	"arplin/store/ref"
	"arplin/teach"
)

//go:embed templates/*.html
var templateFiles embed.FS

//go:embed all:static
var staticFiles embed.FS

// Config is what the server needs from outside.
type Config struct {
	Store          *store.Store
	Log            *slog.Logger
	SecureCookies  bool          // set when browsers come over TLS
	TrustedProxies []string      // addresses and ranges of proxies whose forwarding headers count
	SignInTries    int           // a quarter of an hour, for one account; 0 for the usual
	Database       func() string // a sentence about the database while it does not answer; nil for none
	Patience       time.Duration // for one request; 0 for the usual
	// Sample gives a teacher a class to look around in; nil for none.
	Sample    func(context.Context, *store.Store, ref.Teacher, time.Time) (ref.Class, error)
	Computing func(ref.Ladder) // called before a ladder is computed; nil, but for tests
}

// policy allows nothing but what Arplin itself serves; no script or style stands
// in a page.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; " +
	"media-src 'self' blob:; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'"

// earWorker is the script that judges takes, in WebAssembly, away from the pages.
const earWorker = "/static/js/ear-worker.js"

// permissions are what a page may ask a browser for: the microphone for the tuner and the ear, a screen that
// stays lit for the room.
const permissions = "microphone=(self), screen-wake-lock=(self), autoplay=(self), fullscreen=(self), " +
	"camera=(), geolocation=(), payment=(), usb=(), serial=(), bluetooth=(), midi=(), display-capture=()"

// maxBody bounds what is read of a request: a long chord sheet and some room.
const maxBody = 512 << 10

// maxFile bounds a file that somebody who is signed in sends: a bundle, a MusicXML file, a take.
const maxFile = 12 << 20

// takesFiles are the pages to which files are sent.
var takesFiles = []string{"/files/look", "/songs", "/patterns/read", "/takes"}

// bodyLimit lets a larger body in only where a file is sent, and by a browser whose session, or a phone
// whose link, is known to be good before any of the body is read.
func (s *server) bodyLimit(h *fasthttp.RequestHeader) (limit fasthttp.RequestConfig) {
	path, _, _ := strings.Cut(string(h.RequestURI()), "?")
	id := string(h.Cookie(s.cookie(sessionCookie)))
	secret, phone := strings.CutSuffix(strings.TrimPrefix(path, "/p/"), "/takes")
	phone = phone && strings.HasPrefix(path, "/p/")
	if !phone && (!slices.Contains(takesFiles, path) || id == "") {
		return limit
	}
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	if phone {
		if of, err := s.Home.Whose(ctx, secret, time.Now()); err == nil && of.Takes {
			limit.MaxRequestBodySize = maxFile
		}
		return limit
	}
	if kept, err := s.signedIn.GetWithContext(ctx, id); err == nil && len(kept) > 0 {
		limit.MaxRequestBodySize = maxFile
	}
	return limit
}

// maxHead bounds the first lines of a request, its address and cookies: the
// longest pattern fits into an address.
const maxHead = 32 << 10

// visits is what the pages themselves keep in the database beside keys that expire: which forms
// came. What belongs to a teacher is asked of teach alone.
type visits interface {
	Ping(context.Context) error
	TakeForm(ctx context.Context, teacher ref.Teacher, key string, now time.Time) (store.SentForm, bool, error)
	FreeForm(ctx context.Context, teacher ref.Teacher, key string) error
	FormLed(ctx context.Context, teacher ref.Teacher, key, location string) error
}

// server holds what the handlers share.
type server struct {
	*teach.Teach
	visits        visits
	signedIn      *keyvalue.Table // the sessions
	limits        *keyvalue.Table
	Log           *slog.Logger
	SignInTries   int
	SecureCookies bool
	Database      func() string
	patience      time.Duration
	proxies       *proxies
	signer        *signer
	sessions      *session.Store
	sample        func(context.Context, *store.Store, ref.Teacher, time.Time) (ref.Class, error)
}

// version is of the templates and the program; a page of another one is not
// unchanged.
var version = buildVersion()

// New builds the program's web server.
func New(cfg Config) (*fiber.App, error) {
	behind, err := newProxies(cfg.TrustedProxies)
	if err != nil {
		return nil, err
	}
	limits := keyvalue.Limits(cfg.Store.DB())
	s := &server{
		Teach: teach.New(cfg.Store), visits: cfg.Store, signedIn: keyvalue.Sessions(cfg.Store.DB()), limits: limits,
		Log: cfg.Log, SignInTries: cfg.SignInTries, SecureCookies: cfg.SecureCookies, Database: cfg.Database,
		patience: cmp.Or(cfg.Patience, patience), proxies: behind, signer: &signer{kept: limits}, sessions: newSessions(cfg), sample: cfg.Sample,
	}
	s.Teach.Log, s.Teach.Computing = cfg.Log, cfg.Computing
	views, err := loadViews()
	if err != nil {
		return nil, err
	}
	files, err := fs.Sub(staticFiles, "static")
	if err != nil {
		return nil, err
	}
	app := fiber.New(fiber.Config{
		AppName:          "Arplin",
		Views:            views,
		ViewsLayout:      "layout",
		ErrorHandler:     s.renderError,
		BodyLimit:        maxBody,
		ReadBufferSize:   maxHead,
		Immutable:        true, // values are kept past the request in logs and rows
		ReadTimeout:      30 * time.Second,
		WriteTimeout:     5 * time.Minute, // a week with its play-alongs, on a slow line
		IdleTimeout:      2 * time.Minute,
		TrustProxy:       len(cfg.TrustedProxies) > 0,
		TrustProxyConfig: fiber.TrustProxyConfig{Proxies: cfg.TrustedProxies},
	})
	app.Server().HeaderReceived = s.bodyLimit
	app.Use(s.logRequests)
	app.Use(recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: s.logPanic}))
	app.Use(helmet.New(helmet.Config{ContentSecurityPolicy: policy, ReferrerPolicy: "same-origin", PermissionPolicy: permissions}))
	app.Use(s.stayWithTLS)
	app.Use(s.inTime)
	app.Use(compress.New(compress.Config{Level: compress.LevelBestSpeed, Next: isSmallAlready}))
	app.Get("/healthz", s.health)
	app.Head("/healthz", s.health)
	app.Get(earWorker, func(c fiber.Ctx) error { // a worker has a policy of its own
		c.Set(fiber.HeaderContentSecurityPolicy, phonePolicy)
		return c.Next()
	})
	app.Use("/static", etag.New(), static.New("", static.Config{FS: files, MaxAge: 3600}))

	app.Use(cleaned)
	s.phoneRoutes(app)
	app.Use(s.bindForms, s.ownForms(), s.withSession)
	s.routes(app)
	return app, nil
}

// isSmallAlready is of answers that compressing makes no smaller. It would read them whole first,
// too: what is streamed would come at its end, and stand in memory until then.
func isSmallAlready(c fiber.Ctx) bool {
	as := c.Query("as")
	return as == "zip" || as == "wav" || strings.HasSuffix(c.Path(), ".zip") || c.Path() == "/tones" || strings.HasSuffix(c.Path(), ".woff2") || strings.HasSuffix(c.Path(), ".png")
}

// stayWithTLS tells a browser that came over TLS, here or to a trusted proxy, to
// come back over it only. (Helmet looks for "https" where Fiber has the version of
// HTTP, so it never does.)
func (s *server) stayWithTLS(c fiber.Ctx) error {
	if s.SecureCookies || c.Scheme() == "https" {
		c.Set(fiber.HeaderStrictTransportSecurity, "max-age=31536000; includeSubDomains")
	}
	return c.Next()
}

// buildVersion tells one build from another.
func buildVersion() string {
	sum := sha256.New()
	_ = fs.WalkDir(templateFiles, ".", func(path string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			text, _ := templateFiles.ReadFile(path)
			sum.Write(text)
		}
		return err
	})
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			fmt.Fprintln(sum, s.Key, s.Value)
		}
	}
	return hex.EncodeToString(sum.Sum(nil)[:8])
}
