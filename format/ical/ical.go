// Package ical writes the days of a term as iCalendar (RFC 5545), for any calendar.
package ical

import (
	"fmt"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Day is something that is on for a whole day.
type Day struct {
	ID    string // the same for the same day and thing, so that a calendar replaces it
	On    time.Time
	Title string
	Says  string
}

// Write writes days of a calendar. Lessons have no hour in Arplin, so they are whole days.
func Write(name string, days []Day, now time.Time) string {
	cal := ics.NewCalendarFor("Arplin")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName(name)
	for _, d := range days {
		e := cal.AddEvent(fmt.Sprintf("%s@arplin", d.ID))
		e.SetDtStampTime(now.UTC())
		e.SetAllDayStartAt(d.On)
		e.SetAllDayEndAt(d.On.AddDate(0, 0, 1))
		e.SetSummary(d.Title)
		e.SetDescription(d.Says)
		e.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return cal.Serialize(ics.WithNewLineWindows)
}
