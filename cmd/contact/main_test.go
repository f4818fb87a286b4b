package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
)

// One page of patterns and one of ladders for each family, and every pattern on
// both.
func TestContactSheetsHoldTheWholeCatalogue(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, write(dir))
	for _, e := range pattern.Catalogue {
		family := strings.ReplaceAll(e.Family, " ", "-")
		for _, kind := range []string{"patterns-", "ladders-"} {
			page, err := os.ReadFile(filepath.Join(dir, kind+family+".html"))
			require.NoError(t, err)
			assert.True(t, strings.Contains(string(page), e.Name), "%s is not on %s%s", e.Name, kind, family)
			assert.False(t, strings.Contains(string(page), "finds no"), "a stroke without a string on %s%s", kind, family)
		}
	}
	pages, err := filepath.Glob(filepath.Join(dir, "*.html"))
	require.NoError(t, err)
	assert.Len(t, pages, 2*len(pattern.Families()))
}
