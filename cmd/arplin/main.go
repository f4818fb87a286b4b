// Command arplin is the whole program: the pages, the database's own needs, and
// the core's answers on the command line.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
)

// errBadInput ends the program with status 2; the sentence has been printed.
var errBadInput = errors.New("bad input")

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err := root().ExecuteContext(ctx)
	switch {
	case errors.Is(err, errBadInput):
		os.Exit(2)
	case err != nil:
		fmt.Fprintln(os.Stderr, "arplin:", err)
		os.Exit(1)
	}
}

func root() *cobra.Command {
	cmd := &cobra.Command{
		Use:           "arplin",
		Short:         "Picking and strumming patterns, step by step, for a class",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	cmd.AddCommand(demoCommand(), serveCommand(), migrateCommand(), teacherCommand(), inviteCommand(), passwordCommand(), backupCommand(), restoreCommand(), exportCommand(), importCommand(), calcCommand(), soundCommand(), playCommand(), listenCommand(), convertCommand(), wordsCommand())
	return cmd
}
