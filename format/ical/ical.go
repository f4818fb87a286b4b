// Package ical writes the days of a term as iCalendar (RFC 5545), for any calendar.
package ical

import (
	"fmt"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Day is something that is on for a whole day, or from an hour on.
type Day struct {
	ID      string    // the same for the same day and thing, so that a calendar replaces it
	On      time.Time // with its hour where Minutes is set
	Minutes int       // how long it takes; 0 for the whole day
	Title   string
	Says    string
}

// floating is a time without a zone: RFC 5545, 3.3.5, form 1. A lesson at half past five is at half past
// five wherever the calendar of its teacher is read.
const floating = "20060102T150405"

// Write writes days of a calendar.
func Write(name string, days []Day, now time.Time) string {
	cal := ics.NewCalendarFor("Arplin")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName(name)
	for _, d := range days {
		e := cal.AddEvent(fmt.Sprintf("%s@arplin", d.ID))
		e.SetDtStampTime(now.UTC())
		if d.Minutes > 0 {
			e.SetProperty(ics.ComponentPropertyDtStart, d.On.Format(floating))
			e.SetProperty(ics.ComponentPropertyDtEnd, d.On.Add(time.Duration(d.Minutes)*time.Minute).Format(floating))
		} else {
			e.SetAllDayStartAt(d.On)
			e.SetAllDayEndAt(d.On.AddDate(0, 0, 1))
		}
		e.SetSummary(d.Title)
		e.SetDescription(d.Says)
		e.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return cal.Serialize(ics.WithNewLineWindows)
}
