package web_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"arplin/demo"
	"arplin/format/bundle"
	"arplin/store/storetest"
	"arplin/teach"
	"arplin/teach/files"
)

// BenchmarkTakeIn takes a school of three years in, and out again: 300 songs, 100 ladders, 1,400 tries.
func BenchmarkTakeIn(b *testing.B) {
	grown(b)
	s, ctx := storetest.Open(b), b.Context()
	school, err := demo.ReadPlain()
	require.NoError(b, err)
	from, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	require.NoError(b, err)
	on := teach.New(s)
	whole, err := on.Files.Bundle(ctx, from.ID, files.Taken{}, time.Now())
	require.NoError(b, err)
	data, err := bundle.Write(whole)
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		to, err := s.AddTeacher(ctx, fmt.Sprintf("bench-%d-%d@arplin.test", time.Now().UnixNano(), i), "Bench", "x")
		require.NoError(b, err)
		id, _, err := on.Files.TakeIn(ctx, to, "all.zip", data, time.Now())
		require.NoError(b, err)
		require.NoError(b, on.Files.UndoTakeIn(ctx, to, id, time.Now()))
	}
	b.ReportMetric(float64(len(data))/1024, "KB")
}
