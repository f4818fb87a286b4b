package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder/order"
	"arplin/core/pattern/catalogue"
)

// One page of patterns for each family and one of ladders in each order, and every
// pattern on all of them.
func TestContactSheetsHoldTheWholeCatalogue(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, write(dir))
	for _, e := range catalogue.All {
		family := strings.ReplaceAll(e.Family, " ", "-")
		files := []string{"patterns-" + family}
		for _, o := range order.All {
			files = append(files, "ladders-"+family+"-"+strings.ReplaceAll(o.Name, " ", "-"))
		}
		for _, file := range files {
			page, err := os.ReadFile(filepath.Join(dir, file+".html"))
			require.NoError(t, err)
			assert.True(t, strings.Contains(string(page), e.Name), "%s is not on %s", e.Name, file)
			assert.False(t, strings.Contains(string(page), "finds no"), "a stroke without a string on %s", file)
		}
	}
	pages, err := filepath.Glob(filepath.Join(dir, "*.html"))
	require.NoError(t, err)
	assert.Len(t, pages, (1+len(order.All))*len(catalogue.Families()))
}

// The pictures of docs/ladder.md are those of the ways of today.
func TestThePicturesOfTheWaysAreOfToday(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, writeWays(dir))
	for _, o := range order.All {
		name := strings.ReplaceAll(o.Name, " ", "-") + ".svg"
		now, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		kept, err := os.ReadFile(filepath.Join("../../docs/ways", name))
		require.NoError(t, err)
		assert.Equal(t, string(now), string(kept), "%s: make ways", name)
	}
}
