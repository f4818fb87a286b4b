package chordpro

import (
	"regexp"
	"slices"
	"strings"

	"arplin/core/song"
)

// model is the first part of its kind with chords, whose chords later verses take.
type model struct {
	lines []*modelLine
	used  int // lines that a verse without chords has taken
}

// modelLine is the bars of one line of the sheet.
type modelLine struct {
	at   int
	bars []song.Bar
}

func (l modelLine) hasWords() bool {
	return slices.ContainsFunc(l.bars, func(b song.Bar) bool { return b.Words != "" })
}

var kindOf = regexp.MustCompile(`(?i)^(?:\d+\.? ?)?([a-z-]+)`)

// kind is a part's name without its number.
func kind(name string) string {
	if m := kindOf.FindStringSubmatch(name); m != nil {
		return strings.ToLower(m[1])
	}
	return strings.ToLower(name)
}

// beginWords begins a part's model, unless there is one of its kind.
func (r *reader) beginWords(name string) {
	if r.words == nil {
		r.words = map[string]*model{}
	}
	if m := r.words[kind(name)]; m != nil {
		m.used = 0
		r.learning = nil
		return
	}
	r.learning = &model{}
	r.words[kind(name)] = r.learning
}

// learn keeps a bar for later verses.
func (r *reader) learn(bar song.Bar) {
	m := r.learning
	if m == nil {
		return
	}
	if n := len(m.lines); n == 0 || m.lines[n-1].at != r.at {
		m.lines = append(m.lines, &modelLine{at: r.at})
	}
	line := m.lines[len(m.lines)-1]
	bar.Notes, bar.ID = nil, 0
	line.bars = append(line.bars, bar)
}

// wordsLine reads words without chords: the line of a verse that is sung on the
// chords of the one before it, or a note.
func (r *reader) wordsLine(line string) {
	if !r.open {
		r.note(r.at, AsNote)
		return
	}
	sec := r.song.Sections[len(r.song.Sections)-1]
	m := r.words[kind(sec.Name)]
	if m == nil || m == r.learning || m.used >= len(m.lines) {
		r.note(r.at, AsNote)
		return
	}
	for m.used < len(m.lines) && !m.lines[m.used].hasWords() { // what is played between
		r.take(m.lines[m.used].bars, nil)
		m.used++
	}
	if m.used >= len(m.lines) {
		r.note(r.at, AsNote)
		return
	}
	r.as(r.at, AsVerse)
	r.take(m.lines[m.used].bars, strings.Fields(line))
	m.used++
}

// take writes bars again with other words, each with its share of them.
func (r *reader) take(bars []song.Bar, words []string) {
	ending, meter := r.ending, r.meter
	for i, share := range shares(bars, words) {
		b := bars[i]
		b.Words = share
		r.ending, r.meter = b.Ending, b.Meter
		r.first, r.since = len(bars)+1, 0
		r.addBar(b)
	}
	r.ending, r.meter = ending, meter
}

// shares divides words among bars as the words that stood there before are divided.
func shares(bars []song.Bar, words []string) []string {
	out := make([]string, len(bars))
	weight, total := make([]int, len(bars)), 0
	for i, b := range bars {
		weight[i] = len([]rune(b.Words))
		total += weight[i]
	}
	letters := 0
	for _, w := range words {
		letters += len([]rune(w)) + 1
	}
	at, sum, sung := 0, 0, 0
	for i := range bars {
		sum += weight[i]
		goal := letters * sum / max(1, total)
		var mine []string
		for at < len(words) && (sung+(len([]rune(words[at]))+1)/2 <= goal || i == len(bars)-1) {
			mine = append(mine, words[at])
			sung += len([]rune(words[at])) + 1
			at++
		}
		out[i] = strings.Join(mine, " ")
	}
	return out
}

// repeatNamed plays a part again whose name stands alone: what comes next is
// another part, an empty line or the end.
func (r *reader) repeatNamed(name string) {
	next := r.at + 1
	if next < len(r.text) {
		line := strings.TrimSpace(r.text[next])
		if _, _, _, isHeading := heading(line); line != "" && !isHeading {
			return
		}
		// Words may follow after an empty line.
		for ; next < len(r.text) && strings.TrimSpace(r.text[next]) == ""; next++ {
		}
		if next < len(r.text) {
			if _, _, _, isHeading := heading(strings.TrimSpace(r.text[next])); !isHeading && !strings.HasPrefix(strings.TrimSpace(r.text[next]), "{") {
				return
			}
		}
	}
	at := len(r.song.Sections) - 1
	for i := at - 1; i >= 0; i-- {
		sec := r.song.Sections[i]
		if kind(sec.Name) != kind(name) || len(sec.Bars) == 0 {
			continue
		}
		whole := r.wholePart(i)
		times := max(1, r.song.Sections[at].Times)
		if len(whole) > 1 && times > 1 { // each piece has its own times: all of them come again
			r.song.Sections[at].Times = 0
			whole = slices.Repeat(whole, times)
		}
		r.playAgain(whole)
		return
	}
}
