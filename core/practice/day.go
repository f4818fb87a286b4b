package practice

// Minutes a day for which drills and plans are made. Common practice is 10 to 30.
const (
	MinDay   = 5
	MaxDay   = 120
	UsualDay = 15
)

// LongestPlay is how many minutes hands play without a rest. Source: a rule of thumb, from
// memory.
const LongestPlay = 25

// GrowthPart is the part by which practice grows from week to week at most: a fifth.
// Source: a rule of thumb, from memory.
const GrowthPart = 5

// Leap reports minutes that are more than a fifth over those of before; where nothing is
// known of before there is none.
func Leap(before, now int) bool { return before > 0 && now > before+before/GrowthPart }
