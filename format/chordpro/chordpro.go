package chordpro

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/letters"
)

// Limits on what is read; a longer sheet is refused with a problem.
const (
	MaxBytes    = 64 << 10
	maxProblems = 100
)

// Problem is a line that could not be read, or not wholly.
type Problem struct {
	Line   int // from 1; 0 for the whole sheet
	Reason string
}

func (p Problem) String() string {
	if p.Line == 0 {
		return p.Reason
	}
	return fmt.Sprintf("line %d: %s", p.Line, p.Reason)
}

// Read makes a song of a sheet. What it cannot read is listed by line and left
// out or kept as it stands; the song holds the rest. A sheet without any bar has
// a problem that says so.
func Read(text string) (song.Song, []Problem) {
	r := &reader{song: song.Song{Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: song.DefaultTempo}}
	if len(text) > MaxBytes {
		return r.song, []Problem{{0, fmt.Sprintf("the sheet is longer than %d thousand characters", MaxBytes/1000)}}
	}
	text = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\ufeff", "").Replace(text)
	for i, line := range strings.Split(text, "\n") {
		r.line = i + 1
		r.readLine(strings.TrimSpace(line))
		if r.full {
			r.problem("the sheet has more than %d bars; the rest is left out", song.MaxBars)
			break
		}
	}
	r.fillBar()
	r.song.Sections = slices.DeleteFunc(r.song.Sections, func(s song.Section) bool { return len(s.Bars) == 0 })
	if r.bars == 0 {
		r.problems = append(r.problems, Problem{0, "no chord was found; chords stand in square brackets, such as [Am]"})
	}
	if n := len(r.problems) - maxProblems; n > 0 {
		r.problems = append(r.problems[:maxProblems], Problem{0, fmt.Sprintf("and %d more like these", n)})
	}
	return r.song, r.problems
}

// reader reads a sheet line by line.
type reader struct {
	song     song.Song
	problems []Problem
	line     int
	bars     int
	full     bool // there was no room for a bar
	grid     bool
	open     bool // a section has been opened and takes bars
	last     string
	pending  song.Bar // chords with beats that do not yet fill a bar
}

func (r *reader) problem(format string, args ...any) {
	r.problems = append(r.problems, Problem{r.line, fmt.Sprintf(format, args...)})
}

func (r *reader) readLine(line string) {
	switch {
	case line == "", strings.HasPrefix(line, "#"):
	case strings.HasPrefix(line, "{"):
		r.fillBar()
		r.directive(line)
	case r.grid:
		r.gridLine(line)
	case strings.Contains(line, "|"):
		r.fillBar()
		r.barLine(line)
	default:
		r.lyricLine(line)
	}
}

// gridLine reads "| C . . . | Am . G . |": a cell is a beat.
func (r *reader) gridLine(line string) {
	for _, text := range cutBars(line) {
		cells := strings.Fields(text)
		if len(cells) == 0 {
			continue
		}
		var bar song.Bar
		total := r.song.Meter.BarTicks()
		for i, cell := range cells {
			ticks := total*(i+1)/len(cells) - total*i/len(cells)
			if n := len(bar.Changes); n > 0 && (cell == "." || cell == "/") {
				bar.Changes[n-1].Ticks += ticks
				continue
			}
			bar.Changes = append(bar.Changes, song.Change{Symbol: r.symbol(cell), Ticks: ticks})
		}
		r.addBar(bar)
	}
}

// barLine reads words and chords between bar lines.
func (r *reader) barLine(line string) {
	for _, text := range cutBars(line) {
		segments := r.segments(text)
		bar := song.Bar{Words: joinWords(segments)}
		bar.Changes = r.shareBar(segments)
		r.addBar(bar)
	}
}

// cutBars splits at bar lines; repeat signs and double bars count as bar lines,
// what lies outside the outer ones only if it holds something.
func cutBars(line string) []string {
	line = strings.NewReplacer("|:", "|", ":|", "|", "||", "|", "|.", "|").Replace(line)
	parts := strings.Split(line, "|")
	if strings.TrimSpace(parts[0]) == "" {
		parts = parts[1:]
	}
	if n := len(parts); n > 0 && strings.TrimSpace(parts[n-1]) == "" {
		parts = parts[:n-1]
	}
	return parts
}

// shareBar gives chords with beats their beats and the others equal parts of
// the rest; a bar without chords goes on with the last one.
func (r *reader) shareBar(segments []segment) []song.Change {
	var changes []song.Change
	left, free := r.song.Meter.BarTicks(), 0
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
	if len(changes) == 0 {
		return []song.Change{{Symbol: r.symbol("%"), Ticks: left}}
	}
	if left < 0 || free == 0 && left != 0 || free > 0 && left <= 0 {
		r.problem("the beats of a bar do not add up to %s", r.song.Meter)
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
	segments := r.segments(line)
	lead := ""
	for _, s := range segments {
		if s.symbol == "" {
			lead = s.words
			continue
		}
		words := s.words
		if lead != "" {
			words, lead = lead+" "+words, ""
		}
		if s.ticks == 0 {
			r.fillBar()
			r.addBar(song.Bar{Changes: []song.Change{{Symbol: r.symbol(s.symbol), Ticks: r.song.Meter.BarTicks()}}, Words: strings.TrimSpace(words)})
			continue
		}
		r.addBeats(r.symbol(s.symbol), s.ticks, words)
	}
	if lead != "" {
		r.problem("words without a chord or bar line: %q", shorten(lead))
	}
}

// addBeats fills bars with a chord that says its beats.
func (r *reader) addBeats(symbol string, ticks int, words string) {
	total := r.song.Meter.BarTicks()
	for ticks > 0 {
		take := min(ticks, total-r.pending.Ticks())
		r.pending.Changes = append(r.pending.Changes, song.Change{Symbol: symbol, Ticks: take})
		r.pending.Words = strings.TrimSpace(r.pending.Words + " " + words)
		words = ""
		if ticks -= take; r.pending.Ticks() == total {
			bar := r.pending
			r.pending = song.Bar{}
			r.addBar(bar)
		}
	}
}

// fillBar closes a bar that the written beats left short, and says so.
func (r *reader) fillBar() {
	if len(r.pending.Changes) == 0 {
		return
	}
	bar := r.pending
	r.pending = song.Bar{}
	missing := r.song.Meter.BarTicks() - bar.Ticks()
	r.problem("the beats before this line do not fill the bar of %s; the last chord was held", r.song.Meter)
	bar.Changes[len(bar.Changes)-1].Ticks += missing
	r.addBar(bar)
}

// addBar appends a bar to the open section, opening one where none is.
func (r *reader) addBar(bar song.Bar) {
	if r.bars >= song.MaxBars {
		r.full = true
		return
	}
	if !r.open {
		r.openSection("")
	}
	sec := &r.song.Sections[len(r.song.Sections)-1]
	sec.Bars = append(sec.Bars, bar)
	r.bars++
}

func (r *reader) openSection(name string) {
	if name == "" {
		name = fmt.Sprintf("Part %d", len(r.song.Sections)+1)
	}
	name = letters.Cut(name, song.MaxSectionName)
	r.song.Sections = append(r.song.Sections, song.Section{Name: name})
	r.open = true
}

// segment is a chord and the words that follow it up to the next.
type segment struct {
	symbol string
	ticks  int // 0 when it does not say
	words  string
}

// segments splits text at bracketed chords. Annotations, "[*text]", are passed over.
func (r *reader) segments(text string) []segment {
	var list []segment
	for text != "" {
		i := strings.IndexByte(text, '[')
		if i != 0 {
			words := text
			if i > 0 {
				words, text = text[:i], text[i:]
			} else {
				text = ""
			}
			if words = strings.Join(strings.Fields(words), " "); words == "" {
				continue
			}
			if n := len(list); n > 0 {
				list[n-1].words = strings.TrimSpace(list[n-1].words + " " + words)
			} else {
				list = append(list, segment{words: words})
			}
			continue
		}
		end := strings.IndexByte(text, ']')
		if end < 0 {
			r.problem("a square bracket is not closed: %q", shorten(text))
			return list
		}
		inside := strings.TrimSpace(text[1:end])
		text = text[end+1:]
		if inside == "" || strings.HasPrefix(inside, "*") {
			continue
		}
		symbol, ticks := r.beats(inside)
		list = append(list, segment{symbol: symbol, ticks: ticks})
	}
	return list
}

// beats cuts the beats off "Am:2"; they are beats of the time signature.
func (r *reader) beats(s string) (symbol string, ticks int) {
	symbol, beats, found := strings.Cut(s, ":")
	if !found {
		return s, 0
	}
	n, err := strconv.Atoi(beats)
	if err != nil || n < 1 || n > 64 {
		r.problem("%q is not a number of beats", beats)
		return symbol, 0
	}
	return symbol, n * r.song.Meter.BarTicks() / int(r.song.Meter.Beats)
}

// symbol checks a chord and remembers it; "%" and "." repeat the last one. One
// that cannot be read is kept as it stands.
func (r *reader) symbol(s string) string {
	if (s == "%" || s == "." || s == "/") && r.last != "" {
		return r.last
	}
	c, err := theory.ParseChord(s)
	if err != nil {
		r.problem("%s", err)
		r.last = s
		return s
	}
	r.last = c.String()
	return r.last
}

func joinWords(segments []segment) string {
	var words []string
	for _, s := range segments {
		if s.words != "" {
			words = append(words, s.words)
		}
	}
	return strings.Join(words, " ")
}

func shorten(s string) string {
	if short := letters.Cut(s, 40); short != s {
		return short + "…"
	}
	return s
}
