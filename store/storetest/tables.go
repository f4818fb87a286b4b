package storetest

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"arplin/store"
)

// Tables are those of a database.
func Tables(t *testing.T, s *store.Store) (list []string) {
	t.Helper()
	rows, err := s.DB().Query("SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() ORDER BY 1")
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var name string
		require.NoError(t, rows.Scan(&name))
		list = append(list, name)
	}
	return list
}

// Schema is everything about the tables.
func Schema(t *testing.T, s *store.Store) string {
	t.Helper()
	var b strings.Builder
	for _, table := range Tables(t, s) {
		var name, text string
		require.NoError(t, s.DB().QueryRow("SHOW CREATE TABLE "+table).Scan(&name, &text))
		lines := strings.Split(regexp.MustCompile(` AUTO_INCREMENT=\d+`).ReplaceAllString(text, ""), ",\n")
		b.WriteString(strings.Join(lines, "\n") + "\n")
	}
	return b.String()
}
