package practice

import (
	"arplin/core/practice/fault"
	"arplin/core/say"
)

// Words are what is said of a decision, of the tempo to try next, and of a fault.
var Words = say.Words{
	"next/slow-first":   "nothing logged yet, so start slowly",
	"next/tense":        "tension was noted, so 10%% slower and short",
	"next/failed-again": "not clean %s times in a row, so 10%% slower",
	"next/failed-once":  "not clean once: repeat it, starting slowly",
	"next/rusty":        "not played for a while, so start where it should still be clean",
	"next/another-day":  "clean at the goal: again, on another day",
	"next/faster":       "clean at %s, so a little faster",

	"move-on":        "clean %s times at %s or above, on %s days",
	"move-on/taken":  "Listen heard %s clean takes at %s or above; clean on %s days",
	"jump":           "clean at %s, well above the goal of %s",
	"ease/fault":     "%s %s times",
	"ease/failed":    "not clean %s times in a row, on %s days",
	"drill/bar":      "%s %s times, at bar %s",
	"stay/tense":     "tension was noted last time: don’t go faster or move up until the hand is relaxed",
	"stay/new":       "nothing logged on this step yet",
	"stay/failed":    "not clean at %s last time",
	"stay/bar":       "not clean at %s last time: bar %s",
	"stay/fault":     "not clean at %s last time: %s",
	"stay/fault-at":  "not clean at %s last time: %s, bar %s",
	"stay/rusty":     "not played for %s days, so hear it first",
	"stay/clean":     "clean at the goal %s so far, ready after %s times on %s days",
	"stay/learning":  "clean at %s, goal %s",
	"stay/home":      "clean at %s at home on %s days, so hear it first",
	"stay/hurts":     "said at home that it hurts, so ask before anything is played",
	"stay/home-hard": "too hard at home on %s days",
	"stay/by-you":    "you decided to stay, until more is logged",
	"by-you":         "your decision",
}.With(fault.Words())
