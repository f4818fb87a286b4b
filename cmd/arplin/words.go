package main

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"arplin/teach/files"
	"arplin/teach/people"
)

func wordsCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "words",
		Short: "Print what Arplin says of rules, steps, parts of the level and the rest, by id",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			for _, t := range people.Words() {
				says := strings.TrimRight(strings.Join(t.Says, " | "), " |")
				if _, err := fmt.Fprintf(cmd.OutOrStdout(), "%s: %s\n", t.ID, says); err != nil {
					return err
				}
			}
			for _, id := range slices.Sorted(maps.Keys(files.BringsWords)) {
				if _, err := fmt.Fprintf(cmd.OutOrStdout(), "import/%s: %s\n", id, files.BringsWords[id]); err != nil {
					return err
				}
			}
			return nil
		},
	}
}
