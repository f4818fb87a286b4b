package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/alexedwards/argon2id"
	"github.com/spf13/cobra"

	"arplin/store"
)

func migrateCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "migrate",
		Short: "Bring the database to the newest version",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), func(ctx context.Context, _ settings, s *store.Store) error {
				version, err := s.Migrate(ctx)
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "The database is at version %d.\n", version)
				}
				return err
			})
		},
	}
}

// minPassword is the shortest password for a new teacher, in characters.
const minPassword = 10

func teacherCommand() *cobra.Command {
	var email, name string
	cmd := &cobra.Command{
		Use:   "teacher",
		Short: "Add a teacher; the password is read from the standard input",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			fmt.Fprint(cmd.ErrOrStderr(), "Password: ")
			password, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
			password = strings.TrimRight(password, "\r\n")
			if len([]rune(password)) < minPassword {
				return errors.Join(err, fmt.Errorf("the password needs %d characters or more", minPassword))
			}
			hash, err := argon2id.CreateHash(password, argon2id.DefaultParams)
			if err != nil {
				return err
			}
			return withStore(cmd.Context(), func(ctx context.Context, _ settings, s *store.Store) error {
				_, err := s.AddTeacher(ctx, strings.ToLower(strings.TrimSpace(email)), name, hash)
				if errors.Is(err, store.ErrTaken) {
					return fmt.Errorf("there is a teacher with the address %s already", email)
				}
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "%s can sign in.\n", name)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&email, "email", "", "mail address to sign in with")
	cmd.Flags().StringVar(&name, "name", "", "name shown on the pages")
	for _, flag := range []string{"email", "name"} {
		if err := cmd.MarkFlagRequired(flag); err != nil {
			panic(err)
		}
	}
	return cmd
}
