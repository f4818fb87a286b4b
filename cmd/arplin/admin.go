package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"arplin/store"
	"arplin/store/backup"
	"arplin/store/schema"
	"arplin/teach"
)

func migrateCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "migrate",
		Short: "Bring the database to the newest version",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				version, err := schema.Migrate(ctx, r.store.DB())
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "The database is at version %d.\n", version)
				}
				return err
			})
		},
	}
}

func inviteCommand() *cobra.Command {
	var email, at string
	cmd := &cobra.Command{
		Use:   "invite",
		Short: "Make a link to an account: a new one, or with --email for a teacher who can't get in",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				room := teach.New(r.store).People
				link := func() (string, error) { return room.Invite(ctx, 0, time.Now()) }
				if email != "" {
					link = func() (string, error) { return room.InviteBack(ctx, email, time.Now()) }
				}
				secret, err := link()
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s/invite/%s\nIt works once, for 14 days.\n", strings.TrimRight(at, "/"), secret)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&email, "email", "", "mail address of a teacher who forgot the password")
	cmd.Flags().StringVar(&at, "url", "http://127.0.0.1:8080", "where Arplin is reached")
	return cmd
}

func teacherCommand() *cobra.Command {
	var email, name string
	cmd := &cobra.Command{
		Use:   "teacher",
		Short: "Add a teacher; the password is asked for",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			password, err := askPassword(cmd)
			if err != nil {
				return err
			}
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				_, err := teach.New(r.store).People.AddTeacher(ctx, email, name, password)
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s can sign in.\n", name)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&email, "email", "", "mail address to sign in with")
	cmd.Flags().StringVar(&name, "name", "", "name shown on the pages")
	required(cmd, "email", "name")
	return cmd
}

func passwordCommand() *cobra.Command {
	var email string
	cmd := &cobra.Command{
		Use:   "password",
		Short: "Give a teacher another password; every browser is signed out",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			password, err := askPassword(cmd)
			if err != nil {
				return err
			}
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				t, err := teacherBy(ctx, r.store, email)
				if err != nil {
					return err
				}
				if _, err := teach.New(r.store).People.SetPassword(ctx, t.ID, password); err != nil {
					return err
				}
				fmt.Fprintf(cmd.OutOrStdout(), "%s has another password.\n", t.Name)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&email, "email", "", "mail address of the teacher")
	required(cmd, "email")
	return cmd
}

func required(cmd *cobra.Command, flags ...string) {
	for _, flag := range flags {
		if err := cmd.MarkFlagRequired(flag); err != nil {
			panic(err)
		}
	}
}

// askPassword reads a password: at a terminal without showing it, else a line of
// the standard input.
func askPassword(cmd *cobra.Command) (string, error) {
	if f, ok := cmd.InOrStdin().(*os.File); ok && term.IsTerminal(int(f.Fd())) {
		fmt.Fprint(cmd.ErrOrStderr(), "Password: ")
		text, err := term.ReadPassword(int(f.Fd()))
		fmt.Fprintln(cmd.ErrOrStderr())
		return string(text), err
	}
	text, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
	if errors.Is(err, io.EOF) {
		err = nil
	}
	return strings.TrimRight(text, "\r\n"), err
}

func backupCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "backup FILE",
		Short: "Write everything into a file, while Arplin runs",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				b, err := backupTo(ctx, r.store, args[0])
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s: %s.\n", args[0], b.Text())
				}
				return err
			})
		},
	}
}

// backupTo writes beside the file and moves it there when it is whole.
func backupTo(ctx context.Context, s *store.Store, path string) (b backup.Backed, err error) {
	f, err := os.OpenFile(path+".part", os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return b, err
	}
	defer os.Remove(path + ".part")
	b, err = backup.Write(ctx, s.DB(), f, time.Now())
	if err := errors.Join(err, f.Sync(), f.Close()); err != nil {
		return b, err
	}
	return b, os.Rename(path+".part", path)
}

func restoreCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "restore FILE",
		Short: "Read a backup into an empty database",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			f, err := os.Open(args[0])
			if err != nil {
				return err
			}
			defer f.Close()
			return withDatabase(cmd.Context(), func(ctx context.Context, r running) error {
				b, err := backup.Restore(ctx, r.store.DB(), f)
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "Restored, as it was on %s: %s. Everyone signs in again.\n", b.At, b.Text())
				}
				return err
			})
		},
	}
}
