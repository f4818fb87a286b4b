package practice

import (
	"math"
	"slices"

	"arplin/core/bpm"
	"arplin/core/practice/fault"
	"arplin/core/say"
)

// Went is how a student says it went at home.
type Went string

// What a card of the day can be answered with.
const (
	Done  Went = "done"
	Again Went = "again" // tomorrow
	Hard  Went = "hard"
)

// Wents lists them.
var Wents = []Went{Done, Again, Hard}

// Word is what a student adds in a word.
type Word string

// The words; the zero value is none.
const (
	WasEasy   Word = "easy"
	StopsAt   Word = "stopped"
	Hurts     Word = "hurts"
	NoMinutes Word = "no-time"
)

// WordLine is a word with what the student reads and what the teacher does.
type WordLine struct {
	Word         Word
	Reads, Tells string
}

// HomeWords lists them.
var HomeWords = []WordLine{
	{WasEasy, "easy", "found it easy"},
	{StopsAt, "stopped at a change", "stopped at a change"},
	{Hurts, "it hurts", "said it hurts"},
	{NoMinutes, "no time", "had no time"},
}

// Line is what is said of a word; false for one that is none.
func (w Word) Line() (WordLine, bool) {
	i := slices.IndexFunc(HomeWords, func(l WordLine) bool { return l.Word == w })
	if i < 0 {
		return WordLine{}, false
	}
	return HomeWords[i], true
}

// HomeTry is a try that a student played at home and wrote down. Nobody heard it: it never counts
// towards the criterion, moves nobody and changes no tempo of the teacher's.
type HomeTry struct {
	Day   int
	Tempo int // 0 where none was written
	Went  Went
}

// What is made of home. From memory: a student alone hears half of what a teacher hears.
const (
	homeDays = 2   // days at the goal at home, after which the teacher should hear it
	homeEase = 0.1 // of the tempo, after a try that was too hard
	hardDays = 2   // days on which it was too hard, after which the teacher should know
)

// AtHome is a decision about a student whose tries at home since the last lesson are known: where the
// log says to stay, and home says that the goal was reached on two days, the teacher is to hear it first;
// where it was too hard on two days, that is said. Nobody is moved by it, and a hand that hurts or a
// step that fails is decided by what was heard. A student who says that it hurts plays nothing before the
// teacher has asked, whatever else was to be decided.
func (d Decision) AtHome(home []HomeTry, goal int, hurts bool) Decision {
	if hurts {
		return Decision{Kind: Stay, Why: say.Of("stay/hurts"), Fault: fault.Tension, Home: true}
	}
	if d.Kind != Stay || d.Fault != "" {
		return d
	}
	clean, hard, best := map[int]bool{}, map[int]bool{}, 0
	for _, t := range home {
		switch {
		case t.Went == Hard:
			hard[t.Day] = true
		case t.Went == Done && t.Tempo >= goal:
			clean[t.Day] = true
			best = max(best, t.Tempo)
		}
	}
	switch {
	case len(clean) >= homeDays:
		d.Why, d.Home = say.Of("stay/home", best, len(clean)), true
	case len(hard) >= hardDays:
		d.Why, d.Home = say.Of("stay/home-hard", len(hard)), true
	}
	return d
}

// HomeTempo is the tempo of a card at home: what the week plans, and a tenth less after a try that was
// too hard, until one is done.
func HomeTempo(planned int, home []HomeTry) int {
	if planned <= 0 || len(home) == 0 || home[len(home)-1].Went != Hard {
		return planned
	}
	return max(bpm.Min, int(math.Round(float64(planned)*(1-homeEase))))
}
