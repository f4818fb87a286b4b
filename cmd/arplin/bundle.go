package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"arplin/format/bundle"
	"arplin/store"
	"arplin/teach"
	"arplin/teach/files"
	"arplin/teach/people"
)

// bundleFlags say whose things are taken along or taken in.
type bundleFlags struct {
	email, class string
	library      bool
	look         bool
}

// teacherBy finds the teacher of an address.
func teacherBy(ctx context.Context, s *store.Store, email string) (store.Teacher, error) {
	address, err := people.Address(email)
	if err != nil {
		return store.Teacher{}, err
	}
	t, err := s.TeacherByEmail(ctx, address)
	if errors.Is(err, store.ErrNotFound) {
		return t, fmt.Errorf("there is no teacher with the address %s", address)
	}
	return t, err
}

func exportCommand() *cobra.Command {
	f := &bundleFlags{}
	cmd := &cobra.Command{
		Use: "export FILE", Short: "Write what a teacher made into one file, - for the standard output", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				data, err := f.export(ctx, r.store)
				if err != nil {
					return err
				}
				if args[0] == "-" {
					_, err = cmd.OutOrStdout().Write(data)
					return err
				}
				return os.WriteFile(args[0], data, 0o600) // names of students are in it
			})
		},
	}
	cmd.Flags().StringVar(&f.email, "email", "", "mail address of the teacher")
	cmd.Flags().StringVar(&f.class, "class", "", "only a class, by its name")
	cmd.Flags().BoolVar(&f.library, "library", false, "only songs and patterns")
	required(cmd, "email")
	return cmd
}

func (f *bundleFlags) export(ctx context.Context, s *store.Store) ([]byte, error) {
	t, err := teacherBy(ctx, s, f.email)
	if err != nil {
		return nil, err
	}
	take := files.Taken{Songs: f.library}
	if f.class != "" {
		classes, err := s.Classes(ctx, t.ID)
		if err != nil {
			return nil, err
		}
		for _, c := range classes {
			if c.Name == f.class {
				take.Class = c.ID
			}
		}
		if take.Class == 0 {
			return nil, fmt.Errorf("%s has no class %q", t.Name, f.class)
		}
	}
	b, err := teach.New(s).Files.Bundle(ctx, t.ID, take, time.Now())
	if err != nil {
		return nil, err
	}
	return bundle.Write(b)
}

func importCommand() *cobra.Command {
	f := &bundleFlags{}
	cmd := &cobra.Command{
		Use: "import FILE", Short: "Import an exported file into a teacher's account, - for the standard input", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readIn(cmd, args[0])
			if err != nil {
				return fmt.Errorf("%s: %w", args[0], err)
			}
			return withStore(cmd.Context(), func(ctx context.Context, r running) error {
				t, err := teacherBy(ctx, r.store, f.email)
				if err != nil {
					return err
				}
				on := teach.New(r.store)
				name := filepath.Base(args[0])
				taking, err := on.Files.OpenBundle(ctx, t.ID, name, data)
				if err != nil {
					return fmt.Errorf("%s: %w", args[0], err)
				}
				for _, k := range taking.Kinds {
					fmt.Fprintf(cmd.OutOrStdout(), "%-16s %d new, %d in a different version, %d already here\n", k.Name(), len(k.New), len(k.Changed), k.Same)
				}
				for _, left := range taking.Left {
					fmt.Fprintln(cmd.ErrOrStderr(), left)
				}
				if f.look || taking.Nothing() {
					return nil
				}
				_, says, err := on.Files.TakeIn(ctx, t.ID, name, data, time.Now())
				if err == nil {
					fmt.Fprintf(cmd.OutOrStdout(), "Imported: %s.\n", says)
				}
				return err
			})
		},
	}
	cmd.Flags().StringVar(&f.email, "email", "", "mail address of the teacher")
	cmd.Flags().BoolVar(&f.look, "look", false, "only say what would come")
	required(cmd, "email")
	return cmd
}
