package web

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
	"log/slog"
	"runtime/debug"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/extractors"
	"github.com/gofiber/fiber/v3/middleware/compress"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gofiber/fiber/v3/middleware/etag"
	"github.com/gofiber/fiber/v3/middleware/helmet"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/gofiber/fiber/v3/middleware/session"
	"github.com/gofiber/fiber/v3/middleware/static"

	"arplin/store"
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
	SecureCookies  bool     // set when browsers come over TLS
	TrustedProxies []string // addresses of proxies whose forwarding headers count
	SignInTries    int      // a quarter of an hour, for one address or one account; 0 for the usual
}

// policy allows nothing but what Arplin itself serves; no script or style stands
// in a page.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; " +
	"connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'"

// idle is how long a sign-in, and the forms of a page, last without being used.
const idle = 14 * 24 * time.Hour

// maxBody bounds what is read of a request: a long chord sheet and some room.
const maxBody = 512 << 10

// server holds what the handlers share.
type server struct {
	*teach.Teach
	Log         *slog.Logger
	SignInTries int
}

// version is of the templates and the program; a page of another one is not
// unchanged.
var version = buildVersion()

// New builds the program's web server.
func New(cfg Config) (*fiber.App, error) {
	s := &server{teach.New(cfg.Store), cfg.Log, cfg.SignInTries}
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
		Immutable:        true, // values are kept past the request in logs and rows
		ReadTimeout:      30 * time.Second,
		WriteTimeout:     60 * time.Second,
		IdleTimeout:      2 * time.Minute,
		TrustProxy:       len(cfg.TrustedProxies) > 0,
		TrustProxyConfig: fiber.TrustProxyConfig{Proxies: cfg.TrustedProxies},
		ProxyHeader:      proxyHeader(cfg),
	})
	app.Use(s.logRequests)
	app.Use(recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: s.logPanic}))
	app.Use(helmet.New(helmet.Config{ContentSecurityPolicy: policy, ReferrerPolicy: "same-origin"}))
	if cfg.SecureCookies {
		app.Use(stayWithTLS)
	}
	app.Use(compress.New(compress.Config{Level: compress.LevelBestSpeed}))
	app.Get("/healthz", s.health)
	app.Use("/static", etag.New(), static.New("", static.Config{FS: files, MaxAge: 3600}))

	sessions, sessionStore := session.NewWithStore(session.Config{
		Storage:        cfg.Store.KeyValues(),
		Extractor:      extractors.FromCookie("arplin_session"),
		CookieHTTPOnly: true, CookieSecure: cfg.SecureCookies, CookieSameSite: "Lax",
		IdleTimeout: idle,
	})
	app.Use(sessions)
	app.Use(csrf.New(csrf.Config{
		Session:     sessionStore,
		IdleTimeout: idle, // a page left open over a lesson still works after it
		Extractor:   extractors.Chain(extractors.FromForm("_csrf"), extractors.FromHeader(csrf.HeaderName)),
		CookieName:  "arplin_csrf", CookieSecure: cfg.SecureCookies, CookieHTTPOnly: true, CookieSameSite: "Lax",
		ErrorHandler: func(fiber.Ctx, error) error { return errExpiredForm },
	}))
	s.routes(app)
	return app, nil
}

// stayWithTLS tells a browser that came over TLS to come back over it only.
// (Helmet looks for "https" where Fiber has the version of HTTP, so it never does.)
func stayWithTLS(c fiber.Ctx) error {
	c.Set(fiber.HeaderStrictTransportSecurity, "max-age=31536000; includeSubDomains")
	return c.Next()
}

func proxyHeader(cfg Config) string {
	if len(cfg.TrustedProxies) > 0 {
		return fiber.HeaderXForwardedFor
	}
	return ""
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
