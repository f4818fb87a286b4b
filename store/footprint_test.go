package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

// What hangs on things that can be imported is read off the schema, and every table of it has
// its words: a table that is new fails here until it does. What refers to such a thing without
// saying so in the schema would be lost by an undo, so each column that names one does say so.
func TestEveryReferenceToAnImportIsKnown(t *testing.T) {
	s := storetest.Open(t)
	refs, err := store.References(t.Context(), s)
	require.NoError(t, err)
	known := map[string]bool{}
	for _, r := range refs {
		known[r] = true
	}
	for _, r := range []string{"students.class_id", "ladders.song_id", "placements.student_id", "lessons.class_id", "absences.student_id", "terms.ladder_id", "arrangements.ladder_id", "week_drills.song_id", "decisions.ladder_id"} {
		assert.True(t, known[r], r)
	}
	for table := range store.TablesOf(refs) {
		assert.NotEmpty(t, store.Hanging[table], "%s has no words", table)
	}
	rows, err := s.DB().Query(`SELECT CONCAT(table_name, '.', column_name) FROM information_schema.columns
		WHERE table_schema = DATABASE() AND column_name IN ('class_id', 'student_id', 'song_id', 'ladder_id', 'pattern_id')`)
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var column string
		require.NoError(t, rows.Scan(&column))
		if column == "revision_places.ladder_id" { // of a revision, which is of a ladder
			continue
		}
		assert.True(t, known[column], "%s names a row without a foreign key", column)
	}
	require.NoError(t, rows.Err())
}
