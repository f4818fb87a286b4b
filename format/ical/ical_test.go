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
		{"lesson-1-1", day, 0, "Tuesday evening: lesson", "New: the alternating thumb; due back, because it is long ago: pinches, \\ and “rolls” — and a line that is longer than seventy-five octets.\nSecond line."},
		{"concert-1", day.AddDate(0, 0, 7), 0, "The evening in the hall", ""},
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

	hour := time.Date(2026, 12, 1, 17, 30, 0, 0, time.UTC)
	text = ical.Write("Tuesday evening", []ical.Day{{"lesson-1-1", hour, 60, "Lesson", ""}}, day)
	assert.Contains(t, text, "DTSTART:20261201T173000\r\n", "without a zone: the teacher’s own, RFC 5545, 3.3.5")
	assert.Contains(t, text, "DTEND:20261201T183000\r\n")
}
