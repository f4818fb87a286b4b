package ical_test

import (
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/ical"
)

// What is written is read back by a kept reader, with every line at most 75 octets and
// ended as RFC 5545, 3.1 has it.
func TestWrittenAndRead(t *testing.T) {
	day := time.Date(2026, 12, 1, 0, 0, 0, 0, time.Local)
	days := []ical.Day{
		{"lesson-1-1", day, "Tuesday evening: lesson", "New: the alternating thumb; due back, because it is long ago: pinches, \\ and “rolls” — and a line that is longer than seventy-five octets.\nSecond line."},
		{"concert-1", day.AddDate(0, 0, 7), "The evening in the hall", ""},
	}
	text := ical.Write("Tuesday evening", days, day)
	for _, line := range strings.SplitAfter(text, "\r\n") {
		assert.LessOrEqual(t, len(strings.TrimRight(line, "\r\n")), 75, line)
		assert.NotContains(t, strings.TrimSuffix(line, "\r\n"), "\n")
	}
	cal, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	require.Len(t, cal.Events(), 2)
	first := cal.Events()[0]
	assert.Equal(t, "lesson-1-1@arplin", first.Id())
	start, err := first.GetAllDayStartAt()
	require.NoError(t, err)
	assert.Equal(t, "2026-12-01", start.Format(time.DateOnly))
	end, err := first.GetAllDayEndAt()
	require.NoError(t, err)
	assert.Equal(t, "2026-12-02", end.Format(time.DateOnly), "the day after the last one: RFC 5545, 3.6.1")
	assert.Equal(t, days[0].Says, ics.FromText(first.GetProperty(ics.ComponentPropertyDescription).Value))
}
