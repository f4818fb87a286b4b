package ladder

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/variation"
)

// Stage names a thing of the ladder's own that a step can add.
type Stage string

// The stages.
const (
	FirstStroke  Stage = "first-stroke"
	WholeFigure  Stage = "whole-figure"
	HandSwings   Stage = "hand-swings"
	CountSaid    Stage = "count-said"
	Tapped       Stage = "rhythm-tapped"
	MutedStrings Stage = "muted-strings"
	FirstChord   Stage = "first-chord"
	SecondChord  Stage = "second-chord"
	Oftener      Stage = "twice-as-often"
	MoreChords   Stage = "more-chords"
	WholeSong    Stage = "whole-song"
	MediumTempo  Stage = "medium-tempo"
	GoalTempo    Stage = "goal-tempo"
	Own          Stage = "own"

	// Of the figure.
	Notes       Stage = "notes"         // strokes that are named by what and where they are
	StrokeABeat Stage = "stroke-a-beat" // of a roll or a sweep, at half its rate or less
	AtRate      Stage = "at-rate"       // the figure below, twice as fast
	Onwards     Stage = "onwards"       // a roll goes on
	Again       Stage = "again"         // what is known comes again in the bar
	OtherWay    Stage = "other-way"     // the other motion of the bar, alone
	Joined      Stage = "joined"        // motions that are known, one after the other
	Pinched     Stage = "pinched"       // strokes that came one after the other are one
	OtherBar    Stage = "other-bar"     // another bar of the figure, alone
	BothBars    Stage = "both-bars"     // bars that are known are joined
	Faster      Stage = "faster"        // the same figure at the goal, after the slow tempo; of ladders built when a figure had tempos of its own
	Swung       Stage = "swung"
)

// StageWords are the words of a stage: what it is called, a sentence, and how it
// is practised. Source: common practice.
type StageWords struct {
	Stage           Stage
	Name, Says, How string
}

// Stages is the table of them.
var Stages = []StageWords{
	{FirstStroke, "once a bar", "One note at the start of each bar, with time to hear it.", "Count the bar aloud, play on 1, and listen until the next."},
	{WholeFigure, "whole pattern", "The pattern starts here. Learn it as it is.", "Play it slowly on one chord, counting aloud. Get it clean three times before you speed up."},
	{HandSwings, "empty hand", "Your hand swings down and up with the count and touches nothing.", "Let your arm hang and swing without stopping: down on the beat, up after it. Then say “now” where a strum comes."},
	{CountSaid, "say the count", "Say the count aloud, louder where you’ll play.", "Walk on the spot and say the count, a little louder where you’ll play."},
	{Tapped, "tap the rhythm", "Tap the rhythm on your knees, one hand for the thumb or the down strums, the other for the rest.", "Count aloud and tap. Use both hands where two things come at once."},
	{MutedStrings, "muted strings", "Your left hand mutes the strings, so no chord gets in the way.", "Lay your left hand flat across the strings without pressing. Listen for the rhythm, not for notes."},
	{FirstChord, "first chord", "Your left hand holds a chord. Your right hand does what it knows.", "Hold the whole chord and pluck each string once: no dead notes. Then play the pattern without looking at your right hand."},
	{SecondChord, "second chord", "The two chords that cover most of the song for the least work.", "Out of time first: stop, change, carry on. Then play one note a bar in time, then the pattern, two bars a chord."},
	{Oftener, "change twice as often", "The same two chords, one bar each.", "As before. While it’s new, stop at the bar line, change and carry on."},
	{MoreChords, "more chords", "In the other bars, rest or play the root on 1.", "Out of time first: stop, change to the new chord, carry on. Then play the pattern line by line, in the bars you know."},
	{WholeSong, "all chords", "The whole song. Keep the rhythm going through every change.", "Only the changes first, out of time, one note each, in the order of the song. Then play the pattern line by line."},
	{MediumTempo, "medium tempo", "The same song, faster and just as clean.", "Clean three times? Go to the next tempo. The same mistake twice? Go back to slow, just that bar."},
	{GoalTempo, "goal tempo", "The whole song at the speed you sing it.", "Play with the singing. If you drop out, come back in on the next 1."},
	{Notes, "more notes", "The rest of the pattern stays the same.", "Say aloud where the new note comes before you play it. Then play it slowly with the rest, only as fast as it stays even."},
	{StrokeABeat, "one note a beat", "Slowly, string by string, each note as long as the others.", "Play one string after another, counting the beats. Your next finger waits on its string."},
	{AtRate, "twice as fast", "The same again at double speed.", "Start at half your top speed, then go up 5 BPM at a time. Keep it just as even."},
	{Onwards, "roll on", "Note after note, string by string.", "Play the part you know without looking, add the new note, and stop there until the next bar."},
	{Again, "again without a gap", "The notes you know come again in the bar.", "Play it once and stop on its first note the second time. When that’s secure, carry on."},
	{OtherWay, "other motion alone", "The other run across the strings on its own.", "Learn it like the first one: slowly, on one chord, until it runs by itself."},
	{Joined, "both motions joined", "One after the other. The turn between them is new.", "Stop at the turn, then carry on. Make the stop shorter until it’s gone."},
	{Pinched, "a pinch", "Thumb and finger play together.", "Set both on their strings, then close your hand once. One sound, not two."},
	{OtherBar, "other bar alone", "The other bar of the pattern on its own.", "Learn it like the first one: slowly, on one chord, until it runs by itself."},
	{BothBars, "both bars joined", "The bars one after the other.", "Stop at the bar line and carry on. Make the stop shorter until it’s gone."},
	{Faster, "up to tempo", "The same pattern at the goal tempo.", "Clean three times? Add 5 BPM. Go back to slow as soon as it stumbles."},
	{Swung, "swung", "Long, short: the notes off the beat come a little late.", "Say “long, short” and let your hand limp on purpose. It straightens out as soon as it gets fast."},
	{Own, "your own step", "A step you wrote.", "Play it slowly on one chord, counting aloud. Get it clean three times before you speed up."},
}

// wordsOf finds a stage's row.
func wordsOf(stage Stage) StageWords {
	for _, w := range Stages {
		if w.Stage == stage {
			return w
		}
	}
	return StageWords{Stage: stage, Name: "one more thing"}
}

// Words are what a step is called, and a sentence about it, true of the figure
// and of the step below.
type Words struct{ Name, Says string }

// Describe words the step at i. The task is the target on its song.
func Describe(steps []Step, i int, t difficulty.Task) Words {
	w := describe(steps, i, t)
	if steps[i].Home {
		w.Says += " " + atHomeWith(steps, i)
	}
	return w
}

// atHomeWith says what is played with the class while a step is learned at home.
func atHomeWith(steps []Step, i int) string {
	for k := i - 1; k >= 0; k-- {
		if !steps[k].Home && !steps[k].BeforeStrings() {
			return fmt.Sprintf("Practise this at home. With the class, play step %d.", k+1)
		}
	}
	return "Practise this at home. With the class, count along."
}

func describe(steps []Step, i int, t difficulty.Task) Words {
	s := steps[i]
	if s.Station != "" {
		w := station.WordsOn(s.Station, t.Instrument.Drones())
		return Words{w.Name, w.Says}
	}
	var below *Step
	if i > 0 {
		below = &steps[i-1]
	}
	var names []string
	w := Words{}
	for k, thing := range s.Adds {
		tw := thing.words(s, below, t, len(s.Adds) == 1)
		names = append(names, tw.Name)
		if k == len(s.Adds)-1 { // of steps that were joined, what was this step's own
			w.Says = tw.Says
		}
	}
	w.Name = strings.Join(names, ", ")
	switch {
	case s.Brings(FirstStroke) && below == nil:
		w = firstWords(s, w)
	case s.Brings(StrokeABeat) && below == nil:
		w.Name = aStrokeABeat(s.Pattern)
	case s.Over == AllChords && s.Pace == bpm.SlowPercent && s.Brings(WholeSong):
		w.Says = "The whole song at the slow tempo. Keep the rhythm going through every change."
	case s.Over == AllChords && s.Pace == bpm.MediumPercent && s.Brings(WholeSong):
		w.Says = "The whole song at the medium tempo. Keep the rhythm going through every change."
	case i == len(steps)-1 && s.Over == AllChords:
		w.Says = strings.TrimSpace(w.Says + " " + closing(t))
	case s.Brings(SecondChord) && moreThanTwoChords(t):
		w.Says += " In the other bars, rest or play the root on 1."
	}
	return w
}

func moreThanTwoChords(t difficulty.Task) bool {
	var symbols []string
	for _, bar := range t.Bars {
		for _, ch := range bar.Changes {
			if !slices.Contains(symbols, ch.Symbol) {
				symbols = append(symbols, ch.Symbol)
			}
		}
	}
	return len(symbols) > 2 || len(t.Rest) > 0
}

// words are those of one thing; alone tells that it is all that the step adds, so
// that what is new in the figure is this thing's.
func (th Thing) words(s Step, below *Step, t difficulty.Task, alone bool) Words {
	s = s.figureOf(th.Part)
	if below != nil {
		under := below.figureOf(th.Part)
		below = &under
		if th.Part > 0 && th.Part <= len(t.Rest) {
			t.Pattern = t.Rest[th.Part-1].Pattern
		}
		if w, ok := sayFigure(th.Stage, s.Pattern, below.Pattern, t.Pattern); ok {
			return w
		}
	}
	if th.Stage == MoreChords && below != nil {
		return sayChords(s, *below, t)
	}
	if th.Stage != "" {
		row := wordsOf(th.Stage)
		return Words{row.Name, row.Says}
	}
	r, ok := variation.ByID(th.Rule)
	if !ok {
		return Words{"one more thing", ""}
	}
	switch {
	case below == nil:
	case th.Rule == "regrouped-in-threes":
		return sayGroups(s.Pattern)
	case th.Rule == "stroke-left-out" && below.Pattern.Grid() == s.Pattern.Grid():
		return sayLeftOut(s.Pattern, below.Pattern)
	case th.Rule == "zones":
		return sayZones(s.Pattern)
	}
	w := r.More
	if alone && below != nil {
		w = r.Up(below.Pattern, s.Pattern)
	}
	if th.Short {
		if n, one := oneNew(s, below); one {
			return Words{n, "One note of the next step comes first. The rest comes later."}
		}
		return Words{"on the way to " + r.More.Name, "Everything in the next step except one part."}
	}
	return Words{w.Name, w.Says}
}

// oneNew names the one stroke that a step has and the step below has not.
func oneNew(s Step, below *Step) (name string, one bool) {
	if below == nil {
		return "", false
	}
	n := 0
	s.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) {
		if _, had := below.Pattern.At(pl); !had && s.Pattern.Grid() == below.Pattern.Grid() {
			n++
			name = variation.NoteName(s.Pattern, pl)
		}
	})
	return name, n == 1
}

// firstWords are those of the lowest step: what it is, by what is in it.
func firstWords(s Step, w Words) Words {
	first := s.Pattern.Bars[0][0]
	_, thumb := first.Find(pattern.Thumb)
	switch n := s.Pattern.Count(); {
	case n == 2 && len(first.Strokes) == 2 && thumb:
		w.Name = "a pinch on 1"
	case n == len(s.Pattern.Bars) && thumb:
		w.Name = "bass on 1"
	case n == len(s.Pattern.Bars) && s.Pattern.HasStrums():
		w.Name = "one strum a bar"
		if len(first.Strokes) > 0 && first.Strokes[0].Target.Kind == pattern.Root {
			w.Name = "the pick on one"
		}
	case n > len(s.Pattern.Bars):
		w.Name, w.Says = strokesOf(s.Pattern), "Slowly and evenly. The other steps grow from this one."
	}
	return w
}

// closing says how the song ends, where it says so itself.
func closing(t difficulty.Task) string {
	if n := len(t.Bars); n > 0 && t.Bars[n-1].Role == song.End {
		return "It ends with a single stroke in the last bar, left to ring."
	}
	return ""
}

// How says how a step is practised. Source: common practice.
func (s Step) How() string {
	if s.Station != "" {
		return station.WordsOf(s.Station).How
	}
	if len(s.Adds) == 0 {
		return wordsOf(Own).How
	}
	last := s.Adds[len(s.Adds)-1] // of things joined, the one that was this step's own
	if last.Rule == "stroke-left-out" && !s.figureOf(last.Part).Pattern.HasStrums() {
		return "Say “wait” where the note was. Keep the rest going."
	}
	if r, ok := variation.ByID(last.Rule); ok && r.How != "" {
		return r.How
	}
	if row := wordsOf(last.Stage); row.How != "" {
		return row.How
	}
	return wordsOf(Own).How
}
