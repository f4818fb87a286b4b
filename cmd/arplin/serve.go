package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"os"
	"path/filepath"
	"time"

	"github.com/caarlos0/env/v11"
	"github.com/gofiber/fiber/v3"
	"github.com/spf13/cobra"

	"arplin/demo"
	"arplin/store"
	"arplin/store/keyvalue"
	"arplin/store/localdb"
	"arplin/store/schema"
	"arplin/web"
)

// settings come from the environment; the README lists them.
type settings struct {
	DSN            string   `env:"ARPLIN_DSN"`
	Data           string   `env:"ARPLIN_DATA" envDefault:"var"`
	DatabaseMB     int      `env:"ARPLIN_DATABASE_MB"`
	Listen         string   `env:"ARPLIN_LISTEN" envDefault:"127.0.0.1:8080"`
	SecureCookies  bool     `env:"ARPLIN_SECURE_COOKIES"`
	TrustedProxies []string `env:"ARPLIN_TRUSTED_PROXIES"`
	SignInTries    int      `env:"ARPLIN_SIGNIN_TRIES"`
}

func readSettings() (settings, error) {
	cfg, err := env.ParseAs[settings]()
	if err != nil {
		return cfg, fmt.Errorf("settings: %w", err)
	}
	return cfg, nil
}

const stopTimeout = 10 * time.Second

func serveCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "serve",
		Short: "Serve the pages, with the database of ARPLIN_DSN or one of its own",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				return serve(ctx, r, false, func(address string) {
					fmt.Fprintf(cmd.OutOrStdout(), "Arplin is at %s\n", address)
				})
			})
		},
	}
}

func demoCommand() *cobra.Command {
	var fresh, grown bool
	var copies int
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Serve the pages with the demo school",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if fresh {
				if err := clearData(); err != nil {
					return err
				}
			}
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				school, err := demo.Load(ctx, r.store, time.Now())
				if err != nil {
					return err
				}
				if err := more(ctx, r.store, school, grown, copies); err != nil {
					return err
				}
				return serve(ctx, r, true, func(address string) {
					out := cmd.OutOrStdout()
					fmt.Fprintf(out, "\nArplin is at  %s\n", address)
					fmt.Fprintf(out, "Sign in with  %s\n", school.Teacher.Email)
					fmt.Fprintf(out, "Password      %s\n\n", school.Teacher.Password)
					fmt.Fprintf(out, "For your own classes: arplin serve, and in another window arplin invite.\nCtrl-C stops it.\n")
				})
			})
		},
	}
	cmd.Flags().BoolVar(&fresh, "fresh", false, "begin anew: throw the demo's own database away")
	cmd.Flags().BoolVar(&grown, "grown", false, "with what three years leave behind: for measuring")
	cmd.Flags().IntVar(&copies, "copies", 0, "so many further schools like it, for tests at the same time")
	return cmd
}

// more grows the demo school, or adds copies of it.
func more(ctx context.Context, s *store.Store, school demo.School, grown bool, copies int) error {
	if err := demo.LoadCopies(ctx, s, copies, time.Now()); err != nil || !grown {
		return err
	}
	t, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	if err != nil {
		return err
	}
	return demo.Grow(ctx, s, t.ID, time.Now())
}

// clearData removes Arplin's own database. Somebody else's is left alone.
func clearData() error {
	cfg, err := readSettings()
	if err != nil {
		return err
	}
	if cfg.DSN != "" {
		return errors.New("--fresh works on Arplin's own database only; ARPLIN_DSN names another, so empty that one yourself")
	}
	return localdb.Remove(filepath.Join(cfg.Data, "mariadb"))
}

// running is what a command works with.
type running struct {
	settings
	store *store.Store
	// database says why the database does not answer, where it is Arplin's own.
	database func() string
}

// withStore opens the database and brings it up to date.
func withStore(ctx context.Context, use func(context.Context, running) error) error {
	return withDatabase(ctx, func(ctx context.Context, r running) error {
		if _, err := schema.Migrate(ctx, r.store.DB()); err != nil {
			return err
		}
		return use(ctx, r)
	})
}

// withDatabase opens the database, starting one where none is named or joining the
// one that another copy has on the same folder, and closes everything in order
// afterwards.
func withDatabase(ctx context.Context, use func(context.Context, running) error) (err error) {
	cfg, err := readSettings()
	if err != nil {
		return err
	}
	log := slog.New(slog.NewJSONHandler(logWriter(cfg), nil))
	slog.SetDefault(log)
	r := running{settings: cfg}
	if cfg.DSN == "" {
		db, startErr := localdb.Start(ctx, filepath.Join(cfg.Data, "mariadb"), localdb.MB(cfg.DatabaseMB))
		if startErr != nil {
			return startErr
		}
		defer func() { err = errors.Join(err, db.Stop()) }()
		r.DSN, r.database = db.DSN, db.Says
	}
	if r.store, err = store.Open(r.DSN); err != nil {
		return err
	}
	defer r.store.Close()
	return use(ctx, r)
}

// serve runs until the context ends. With anyPort a taken port gives way to a
// free one.
func serve(ctx context.Context, r running, anyPort bool, ready func(address string)) error {
	app, err := web.New(web.Config{
		Store: r.store, Log: slog.Default(), SecureCookies: r.SecureCookies, TrustedProxies: r.TrustedProxies, SignInTries: r.SignInTries, Database: r.database, Sample: demo.AddSample,
	})
	if err != nil {
		return err
	}
	listener, err := listenOn(r.Listen, anyPort)
	if err != nil {
		return err
	}
	sweepCtx, stopSweep := context.WithCancel(ctx)
	defer stopSweep()
	go sweepExpired(sweepCtx, r.store, slog.Default())
	ready("http://" + listener.Addr().String() + "/")
	return app.Listener(listener, fiber.ListenConfig{
		DisableStartupMessage: true, GracefulContext: ctx, ShutdownTimeout: stopTimeout,
	})
}

func listenOn(address string, anyPort bool) (net.Listener, error) {
	l, err := net.Listen("tcp", address)
	if err == nil {
		return l, nil
	}
	host, _, splitErr := net.SplitHostPort(address)
	if !anyPort || splitErr != nil {
		return nil, fmt.Errorf("cannot listen on %s: %w (set ARPLIN_LISTEN to another address)", address, err)
	}
	return net.Listen("tcp", net.JoinHostPort(host, "0"))
}

// logWriter is the standard error, except that a person at a terminal gets the
// address to read and the log as a file.
func logWriter(cfg settings) io.Writer {
	info, err := os.Stderr.Stat()
	if err != nil || info.Mode()&os.ModeCharDevice == 0 {
		return os.Stderr
	}
	if err := os.MkdirAll(cfg.Data, 0o700); err != nil {
		return os.Stderr
	}
	f, err := os.OpenFile(filepath.Join(cfg.Data, "arplin.log"), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return os.Stderr
	}
	return f
}

// sweepExpired removes old sessions, limits and forms every hour.
func sweepExpired(ctx context.Context, s *store.Store, log *slog.Logger) {
	ticker := time.NewTicker(time.Hour)
	defer ticker.Stop()
	for {
		err := errors.Join(keyvalue.Limits(s.DB()).Sweep(ctx), s.SweepForms(ctx, time.Now()))
		if err != nil && ctx.Err() == nil {
			log.Error("sweeping what has expired", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-ticker.C:
		}
	}
}
