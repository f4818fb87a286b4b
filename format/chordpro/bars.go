package chordpro

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"arplin/core/song"
)

// barToken cuts a line at its bar lines: "|", "||", "|:", ":|", ":|:", "|.", "|1.",
// ":|2." and the like.
var barToken = regexp.MustCompile(`:?\|{1,2}[\]:.]?(?:\s*([1-4])(?:\.|\)|:)(?:\s|$)|([1-4])(?:\s|$))?`)

// barLine reads bars between bar lines; plain ones hold chords alone, the others
// words and chords in brackets.
func (r *reader) barLine(line string, plain bool) {
	times, line := cutTimes(line)
	began, sections := r.bars, len(r.song.Sections)
	pos := 0
	for _, m := range append(barToken.FindAllStringSubmatchIndex(line, -1), []int{len(line), len(line)}) {
		text := line[pos:m[0]]
		between := pos > 0 && m[0] < len(line) && text != "" // a blank bar goes on with the one before it
		if between || strings.TrimSpace(text) != "" {
			r.bar(text, plain)
		}
		if pos = m[1]; len(m) > 2 {
			r.mark(line[m[0]:m[1]], group(line, m, 1)+group(line, m, 2))
		}
	}
	if times > 1 {
		r.lineTimes(times, r.bars-began, sections)
	}
}

func group(line string, m []int, n int) string {
	if m[2*n] < 0 {
		return ""
	}
	return line[m[2*n]:m[2*n+1]]
}

// mark does what a bar line says beside being one.
func (r *reader) mark(text, ending string) {
	if strings.HasPrefix(text, ":") { // what is repeated ends here
		r.closeRepeat()
	}
	if strings.Contains(strings.TrimPrefix(text, ":"), ":") {
		r.again()
		r.repeat = true
	}
	if strings.HasPrefix(text, "||") {
		r.closeEnding()
	}
	if n, err := strconv.Atoi(ending); err == nil && n <= song.MaxEnding {
		r.beginEnding(n)
	}
}

// closeRepeat has what stands before a repeat sign played twice, or as often as it
// has endings.
func (r *reader) closeRepeat() {
	if !r.open || len(r.song.Sections) == 0 {
		return
	}
	sec := &r.song.Sections[len(r.song.Sections)-1]
	if len(sec.Bars) > 0 {
		sec.Times = max(sec.Times, 2)
	}
}

// beginEnding has the bars from here on played in one pass only.
func (r *reader) beginEnding(n int) {
	if n > 1 && r.ending == n-1 {
		r.first = r.since
	}
	r.ending, r.since = n, 0
	if r.open {
		sec := &r.song.Sections[len(r.song.Sections)-1]
		sec.Times = max(sec.Times, n)
	}
}

// closeEnding goes on with bars that are always played: in a part of the same name,
// since they come after the repeats.
func (r *reader) closeEnding() {
	if r.ending > 1 {
		r.again()
	}
	r.ending, r.since = 0, 0
}

// lineTimes plays the bars of a line as often as its end says: as the part's times
// where the line is the whole part, else written out.
func (r *reader) lineTimes(times, bars, sections int) {
	if bars < 1 || !r.open {
		return
	}
	sec := &r.song.Sections[len(r.song.Sections)-1]
	if len(sec.Bars) == bars && (sec.Times <= 1 || len(r.song.Sections) > sections) || sec.Times > 1 && r.repeat {
		sec.Times = times
		r.again()
		return
	}
	if bars > len(sec.Bars) { // the line has repeats of its own: it is not known which of them is meant
		r.problem("“x%d” follows bars that are already repeated, so it’s left out", times)
		return
	}
	written := slices.Clone(sec.Bars[len(sec.Bars)-bars:])
	for range times - 1 {
		for _, b := range written {
			if r.bars >= song.MaxBars {
				r.full = true
				return
			}
			b.Notes, b.Words, b.Changes = nil, "", slices.Clone(b.Changes)
			sec = &r.song.Sections[len(r.song.Sections)-1]
			sec.Bars = append(sec.Bars, b)
			r.bars++
		}
	}
}

// bar reads the text of one bar.
func (r *reader) bar(text string, plain bool) {
	if rest, marks, says := r.annotations(text); plain && !marks.empty && !strings.Contains(rest, "[") {
		r.plainBar(rest, marks, says)
		return
	}
	segments, marks := r.segments(text)
	bar := song.Bar{Words: joinWords(segments), Role: marks.role}
	if !marks.empty {
		bar.Changes = r.shareBar(segments, bar.Role)
	}
	r.addMarked(bar, marks)
}

// addMarked adds a bar that may say in which pass it is played.
func (r *reader) addMarked(bar song.Bar, marks marks) {
	if marks.ending > 0 {
		r.ending, r.first, r.since = marks.ending, song.MaxBars, 0
		defer func() { r.ending = 0 }()
	}
	r.addBar(bar)
}

// barBefore is the bar before, all of it; where it was longer or shorter than the bars are
// here, its last chord.
func (r *reader) barBefore() []song.Change {
	if (song.Bar{Changes: r.before}).Ticks() == r.ticks() {
		return slices.Clone(r.before)
	}
	return []song.Change{{Symbol: r.symbol("%"), Ticks: r.ticks()}}
}

// plainBar reads chords that share a bar; "." and "/" go on with the one before,
// "%" alone is the bar before.
func (r *reader) plainBar(text string, marks marks, says string) {
	cells := strings.Fields(text)
	bar := song.Bar{Role: marks.role, Words: says}
	if !slices.ContainsFunc(cells, func(cell string) bool { return cell != "%" }) {
		bar.Changes = r.barBefore()
		r.addMarked(bar, marks)
		return
	}
	total := r.ticks()
	var segments []segment
	for _, cell := range cells {
		symbol, ticks := r.beats(r.bare(cell))
		segments = append(segments, segment{symbol: symbol, ticks: ticks})
	}
	if slices.ContainsFunc(segments, func(s segment) bool { return s.ticks > 0 }) { // "F:3 G:1"
		bar.Changes = r.shareBar(segments, bar.Role)
		r.addMarked(bar, marks)
		return
	}
	for i, cell := range cells {
		ticks := total*(i+1)/len(cells) - total*i/len(cells)
		if strings.Contains(cell, "!") || isStopWord(r.bare(cell)) {
			bar.Role = song.Stop
		}
		if n := len(bar.Changes); n > 0 && (cell == "." || cell == "/" || cell == "-" || cell == "·" || isStopWord(r.bare(cell))) {
			bar.Changes[n-1].Ticks += ticks
			continue
		}
		bar.Changes = append(bar.Changes, song.Change{Symbol: r.symbol(r.bare(cell)), Ticks: ticks})
	}
	r.addMarked(bar, marks)
}

// shareBar gives chords with beats their beats and the others equal parts of
// the rest; a bar without chords goes on with the last one.
func (r *reader) shareBar(segments []segment, role song.Role) []song.Change {
	var changes []song.Change
	left, free := r.ticks(), 0
	if !slices.ContainsFunc(segments, func(s segment) bool { return s.symbol != "" && s.symbol != "%" || s.ticks > 0 }) {
		return r.barBefore()
	}
	for _, s := range segments {
		if s.symbol == "" {
			continue
		}
		changes = append(changes, song.Change{Symbol: r.symbol(s.symbol), Ticks: s.ticks})
		left -= s.ticks
		if s.ticks == 0 {
			free++
		}
	}
	short := role == song.Pickup || role == song.Short
	if left < 0 || free == 0 && left != 0 && !short || free > 0 && left <= 0 {
		r.problem("the beats of a bar do not add up to %s", r.song.MeterOf(song.Bar{Meter: r.meter}))
	}
	shared := 0
	for i := range changes {
		if changes[i].Ticks == 0 {
			from := max(left, 0) * shared / free
			shared++
			changes[i].Ticks = max(left, 0)*shared/free - from
		}
	}
	return changes
}

// lyricLine reads a line without bar lines: a chord lasts a bar unless it says
// its beats.
func (r *reader) lyricLine(line string) {
	times, line := cutTimes(line)
	began, sections := r.bars, len(r.song.Sections)
	segments, marks := r.segments(line)
	lead := ""
	for _, s := range segments {
		if s.symbol == "" {
			lead = s.words
			continue
		}
		words := s.words
		if lead != "" {
			words, lead = strings.TrimSpace(lead+" "+words), ""
		}
		if s.ticks == 0 {
			r.fillBar()
			changes := r.barBefore()
			if s.symbol != "%" {
				changes = []song.Change{{Symbol: r.symbol(s.symbol), Ticks: r.ticks()}}
			}
			r.addBar(song.Bar{Changes: changes, Words: words, Role: marks.role})
			continue
		}
		r.addBeats(r.symbol(s.symbol), s.ticks, words, marks.role)
	}
	if lead != "" {
		r.notes = append(r.notes, lead)
	}
	if times > 1 {
		r.fillBar()
		r.lineTimes(times, r.bars-began, sections)
	}
}

// addBeats fills bars with a chord that says its beats.
func (r *reader) addBeats(symbol string, ticks int, words string, role song.Role) {
	total := r.ticks()
	for ticks > 0 {
		take := min(ticks, total-r.pending.Ticks())
		r.pending.Changes = append(r.pending.Changes, song.Change{Symbol: symbol, Ticks: take})
		r.pending.Words = strings.TrimSpace(r.pending.Words + " " + words)
		r.pending.Role = role
		words = ""
		if ticks -= take; r.pending.Ticks() == total || role == song.Pickup || role == song.Short {
			bar := r.pending
			r.pending = song.Bar{}
			r.addBar(bar)
		}
	}
}

// fillBar closes a bar that the written beats left short. Before the first full bar
// it is a pickup; elsewhere the last chord is held, and that is said.
func (r *reader) fillBar() {
	if len(r.pending.Changes) == 0 {
		return
	}
	bar := r.pending
	r.pending = song.Bar{}
	if r.bars == 0 {
		bar.Role = song.Pickup
		r.addBar(bar)
		return
	}
	missing := r.ticks() - bar.Ticks()
	r.problem("the beats before this line do not fill the bar of %s; the last chord was held", r.song.MeterOf(song.Bar{Meter: r.meter}))
	bar.Changes[len(bar.Changes)-1].Ticks += missing
	r.addBar(bar)
}
