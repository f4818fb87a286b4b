// Command torture does to Arplin what the world will do: it kills the program and
// its database while lines are being logged, starves a cluster of its nodes, and
// walks a grown school. It prints what was lost and doubled, and fails when
// anything was. It is for make torture and make cluster.
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

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	root := &cobra.Command{Use: "torture", SilenceUsage: true, SilenceErrors: true}
	var lines, kills int
	killsCommand := &cobra.Command{Use: "kills", Short: "kill the program and its database while lines are logged", RunE: func(cmd *cobra.Command, _ []string) error {
		return tortureOne(cmd.Context(), lines, kills)
	}}
	clusterCommand := &cobra.Command{Use: "cluster", Short: "three nodes, two copies, a proxy, and what can happen to them", RunE: func(cmd *cobra.Command, _ []string) error {
		return tortureCluster(cmd.Context(), lines, kills)
	}}
	pagesCommand := &cobra.Command{Use: "pages", Short: "every page of a grown school and of the longest input", RunE: func(cmd *cobra.Command, _ []string) error {
		return torturePages(cmd.Context())
	}}
	var entries, phoneKills int
	phonesCommand := &cobra.Command{Use: "phones", Short: "kill the program and its database while students’ phones send", RunE: func(cmd *cobra.Command, _ []string) error {
		return torturePhones(cmd.Context(), entries, phoneKills)
	}}
	phonesCommand.Flags().IntVar(&entries, "entries", 5000, "entries that must be kept")
	phonesCommand.Flags().IntVar(&phoneKills, "kills", 2, "how often something is killed")
	var teachers int
	manyCommand := &cobra.Command{Use: "many", Short: "a service for many teachers beside one for few", RunE: func(cmd *cobra.Command, _ []string) error {
		return tortureMany(cmd.Context(), teachers)
	}}
	manyCommand.Flags().IntVar(&teachers, "teachers", 1000, "teachers, of 20 students and 3,000 lines of the log each")
	for _, c := range []*cobra.Command{killsCommand, clusterCommand} {
		c.Flags().IntVar(&lines, "lines", 10_000, "lines that must be acknowledged")
		c.Flags().IntVar(&kills, "kills", 20, "how often something is killed")
	}
	root.AddCommand(killsCommand, clusterCommand, pagesCommand, phonesCommand, manyCommand)
	if err := root.ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "torture:", err)
		os.Exit(1)
	}
}

// errBroken: something that was acknowledged is not as it should be.
var errBroken = errors.New("what was acknowledged is not all there, once")
