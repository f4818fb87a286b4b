package registercsv_test

import (
	"bytes"
	"encoding/csv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/registercsv"
)

// What is written is what encoding/csv reads: a row a lesson, a column a student. Source: RFC 4180.
func TestWrite(t *testing.T) {
	var out bytes.Buffer
	on := time.Date(2026, 11, 24, 18, 0, 0, 0, time.UTC)
	require.NoError(t, registercsv.Write(&out, []string{"Ilse", "Zoë, the tall", "=Ben"}, []registercsv.Lesson{{On: on, Minutes: 45, There: []bool{true, false, true}}}))
	rows, err := csv.NewReader(&out).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"date", "minutes", "Ilse", "Zoë, the tall", "'=Ben"}, {"2026-11-24", "45", "there", "away", "there"}}, rows)
}
