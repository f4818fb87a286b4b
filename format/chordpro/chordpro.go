package chordpro

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/song"
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

// Names says what the chords of a sheet are called.
type Names string

// The names of chords: as the sheet's other chords say, or as the reader is told.
const (
	ByThemselves Names = ""
	English      Names = "english" // B is a half step below C
	German       Names = "german"  // H is, B is what English calls Bb; Es, As, Fis
)

// Line is a line of the sheet with how it was understood.
type Line struct {
	Number int
	Text   string
	As     As
}

// As is how a line was understood.
type As string

// What a line can be.
const (
	AsBlank     As = ""
	AsRemark    As = "a remark, kept as a note"
	AsDirective As = "about the song"
	AsPart      As = "a part begins"
	AsBars      As = "bars"
	AsChords    As = "chords of the words below"
	AsWords     As = "words"
	AsVerse     As = "words on the chords of the part before it"
	AsTab       As = "tablature, kept as a note"
	AsStrum     As = "the strumming: the song’s pattern, or this part’s"
	AsNote      As = "kept as a note"
	AsUnread    As = "not understood, kept as a note"
)

// Sheet is what was read.
type Sheet struct {
	Song   song.Song
	Lines  []Line
	Capo   int // as the sheet has it; the song's chords are what sounds
	German bool
	// Problems are lines that were not wholly understood.
	Problems []Problem
}

// Read makes a song of a sheet. What it cannot read is listed by line and kept as
// a note where it stands; the song holds the rest. A sheet without any bar has a
// problem that says so.
func Read(text string) (song.Song, []Problem) {
	s := ReadSheet(text, ByThemselves)
	return s.Song, s.Problems
}

// ReadSheet is Read with how each line was understood.
func ReadSheet(text string, names Names) Sheet {
	r := &reader{song: song.Song{Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: bpm.Usual}}
	if len(text) > MaxBytes {
		return Sheet{Song: r.song, Problems: []Problem{{0, fmt.Sprintf("the sheet is longer than %d thousand characters", MaxBytes/1000)}}}
	}
	text = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\ufeff", "", "\u00a0", " ").Replace(letters.Clean(text))
	r.text = unquoted(strings.Split(text, "\n"))
	r.german = names == German || names == ByThemselves && isGerman(r.text) && !slices.Contains(r.text, writtenNames)
	r.small = hasSmallMinors(r.text, r.german)
	r.headings = slices.ContainsFunc(r.text, r.opensPart)
	for r.at = 0; r.at < len(r.text); r.at++ {
		r.readLine()
		if r.full {
			r.problem("the sheet has more than %d bars, so the rest is left out", song.MaxBars)
			break
		}
	}
	return r.sheet()
}

// sheet ends the reading.
func (r *reader) sheet() Sheet {
	r.fillBar()
	r.closeEnding()
	r.song.Notes, r.notes = r.notes, nil
	r.struck()
	for i, text := range r.tunes {
		if err := r.song.Sections[i].SetTune(text, r.song.Meter.BeatTicks()); err != nil {
			r.problems = append(r.problems, Problem{0, fmt.Sprintf("the melody of %s was left out: %v", r.song.Sections[i].Name, err)})
		}
	}
	r.song.Sections = slices.DeleteFunc(r.song.Sections, func(s song.Section) bool { return len(s.Bars) == 0 })
	r.times()
	if r.bars == 0 {
		r.problems = append(r.problems, Problem{0, "there are no chords in it. Chords start with a capital letter and are written in square brackets, such as [Am], or above the words"})
	}
	if n := len(r.problems) - maxProblems; n > 0 {
		r.problems = append(r.problems[:maxProblems], Problem{0, fmt.Sprintf("and %d more like these", n)})
	}
	r.sounding()
	return Sheet{Song: r.song, Lines: r.lines, Capo: r.capo, German: r.german, Problems: r.problems}
}

// times keeps how often a part is played within what a song can say, and says so.
func (r *reader) times() {
	for i := range r.song.Sections {
		if sec := &r.song.Sections[i]; sec.Times > song.MaxTimes {
			r.problems = append(r.problems, Problem{0, fmt.Sprintf("%s is played %d times; %d are the most", sec.Name, sec.Times, song.MaxTimes)})
			sec.Times = song.MaxTimes
		}
	}
}

// reader reads a sheet line by line.
type reader struct {
	text     []string
	at       int // the line that is read
	song     song.Song
	lines    []Line
	problems []Problem
	notes    []string       // lines that the next bar takes along
	tunes    map[int]string // by section
	figures  []strum

	bars     int
	full     bool // there was no room for a bar
	german   bool
	small    bool // chords in small letters are minor
	headings bool // the sheet names its parts
	subject  int  // the line, from 1, of a mail's subject that is the title for now
	grid     bool
	tab      bool
	open     bool // a section has been opened and takes bars
	blank    bool // an empty line came before this one
	last     string
	before   []song.Change // of the bar before, for one that repeats it
	meter    pattern.Meter // of the bars from here on; zero for the song's
	sung     string        // words that the next bar takes along
	pending  song.Bar      // chords with beats that do not yet fill a bar

	ending int          // the pass in which the next bars are played
	first  int          // bars of the first ending, after which later ones end
	since  int          // bars since the ending began
	goesOn map[int]bool // sections that go on with the part before them
	repeat bool

	words    map[string]*model // of the first part of its kind, for verses without chords
	learning *model            // of the part that is read; nil where there was one before

	capo      int
	transpose int
	shapes    []ownShape
	barShapes song.Shapes // of the next bar
}

func (r *reader) problem(format string, args ...any) {
	r.problems = append(r.problems, Problem{r.at + 1, fmt.Sprintf(format, args...)})
}

// as notes how a line was understood.
func (r *reader) as(at int, as As) {
	r.lines = append(r.lines, Line{at + 1, r.text[at], as})
}

// note keeps a line as it stands, before the bar that comes next; a long one in
// several.
func (r *reader) note(at int, as As) {
	r.as(at, as)
	for rest := strings.TrimRight(r.text[at], " \t"); rest != ""; {
		piece := letters.Cut(rest, song.MaxNote)
		if piece == "" { // one letter under more marks than a note has room for
			return
		}
		r.notes, rest = append(r.notes, piece), rest[len(piece):]
	}
}

// ticks is the length of a bar from here on.
func (r *reader) ticks() int { return r.song.MeterOf(song.Bar{Meter: r.meter}).BarTicks() }

// beat is the length of a beat of the time signature.
func (r *reader) beat() int {
	return r.ticks() / int(r.song.MeterOf(song.Bar{Meter: r.meter}).Beats)
}

// readLine reads one line, or two: chords with the words below them.
func (r *reader) readLine() {
	raw := r.text[r.at]
	line := strings.TrimSpace(raw)
	blank := r.blank
	r.blank = line == ""
	switch {
	case line == "":
		r.as(r.at, AsBlank)
		r.closeEnding()
	case strings.HasPrefix(line, "#"):
		r.note(r.at, AsRemark)
	case strings.HasPrefix(line, "{"):
		r.fillBar()
		r.directives(line)
	case r.tab || isTab(line):
		r.note(r.at, AsTab)
	case r.grid:
		r.as(r.at, AsBars)
		r.barLine(line, true)
	default:
		r.newBlock(blank)
		r.plainLine(raw, line)
	}
}

// newBlock begins a part after an empty line in a sheet that names none.
func (r *reader) newBlock(blank bool) {
	if blank && !r.headings && r.open && len(r.song.Sections[len(r.song.Sections)-1].Bars) > 0 {
		r.openSection("", 0)
	}
}

func (r *reader) plainLine(raw, line string) {
	name, times, rest, isHeading := heading(line)
	switch {
	case r.strums(line):
	case isHeading && strings.TrimSpace(rest) == "":
		r.fillBar()
		r.as(r.at, AsPart)
		r.openSection(name, times)
		r.repeatNamed(name)
	case isHeading:
		r.fillBar()
		r.openSection(name, times)
		r.plainLine(strings.Repeat(" ", len(raw)-len(rest))+rest, strings.TrimSpace(rest))
	case r.remarkedField(line):
	case plainField.MatchString(line):
		r.as(r.at, r.plainFields(line))
	case r.isTitle(line):
		r.title(line)
		r.as(r.at, AsDirective)
	case r.describes(line):
	case r.partOnALine(raw, line):
	case r.endingOnALine(raw, line):
	case strings.Contains(line, "|") && !hasChords(line) && r.at+1 < len(r.text) && r.isWords(r.text[r.at+1]):
		r.fillBar()
		r.barsOver(raw)
	case strings.Contains(line, "|"):
		r.fillBar()
		r.as(r.at, AsBars)
		r.barLine(line, !hasChords(line))
	case hasChords(line):
		r.as(r.at, AsBars)
		r.lyricLine(line)
	case r.isChordLine(line):
		r.chordLine(raw)
	case r.remarkedChords(raw, line):
	default:
		r.wordsLine(line)
	}
}

// addBar appends a bar to the open section, opening one where none is.
func (r *reader) addBar(bar song.Bar) {
	if r.bars >= song.MaxBars {
		r.full = true
		return
	}
	if !r.open {
		r.openSection("", 0)
	}
	if r.ending > 1 && r.since >= r.first { // it has as many bars as the one before it
		r.closeEnding()
	}
	if r.sung != "" {
		bar.Words, r.sung = strings.TrimSpace(bar.Words+" "+r.sung), ""
	}
	bar.Meter, bar.Notes, r.notes = r.meter, r.notes, nil
	bar.Shapes, r.barShapes = r.barShapes, nil
	bar.Changes = slices.Clone(bar.Changes) // bars that are played again are bars of their own
	r.before = bar.Changes
	if bar.Ending = r.ending; r.ending > 0 {
		r.since++
	}
	sec := &r.song.Sections[len(r.song.Sections)-1]
	sec.Bars = append(sec.Bars, bar)
	r.bars++
	r.learn(bar)
}

// openSection begins a part; a note that is open goes along.
func (r *reader) openSection(name string, times int) {
	r.closeEnding()
	if name == "" {
		n := 1
		for _, sec := range r.song.Sections {
			if len(sec.Bars) > 0 {
				n++
			}
		}
		name = fmt.Sprintf("Part %d", n)
	}
	name = letters.Cut(name, song.MaxSectionName)
	r.song.Sections = append(r.song.Sections, song.Section{Name: name, Times: times})
	r.open, r.repeat = true, false
	r.beginWords(name)
}

// again goes on with a part of the same name, for bars that are repeated alone.
func (r *reader) again() {
	if !r.open {
		return
	}
	if sec := r.song.Sections[len(r.song.Sections)-1]; len(sec.Bars) > 0 {
		r.song.Sections = append(r.song.Sections, song.Section{Name: sec.Name})
		if r.goesOn == nil {
			r.goesOn = map[int]bool{}
		}
		r.goesOn[len(r.song.Sections)-1] = true
	}
}

// wholePart are the sections of a part that ends with one of them: what is repeated within a
// part stands in sections of its own.
func (r *reader) wholePart(last int) []song.Section {
	first := last
	for r.goesOn[first] {
		first--
	}
	return r.song.Sections[first : last+1]
}

// playAgain writes sections once more, the first of them into the section that is open where
// it is still empty.
func (r *reader) playAgain(sections []song.Section) {
	for _, sec := range slices.Clone(sections) {
		if len(sec.Bars) == 0 {
			continue
		}
		if r.bars+len(sec.Bars) > song.MaxBars {
			r.full = true
			return
		}
		bars := slices.Clone(sec.Bars)
		for i := range bars {
			bars[i].Notes = nil
		}
		sec.Bars = bars
		if last := len(r.song.Sections) - 1; r.open && last >= 0 && len(r.song.Sections[last].Bars) == 0 {
			sec.Name, sec.Times = r.song.Sections[last].Name, max(sec.Times, r.song.Sections[last].Times)
			r.song.Sections[last] = sec
		} else {
			r.song.Sections = append(r.song.Sections, sec)
		}
		r.bars += len(bars)
	}
	r.open = false
}

func shorten(s string) string {
	if short := letters.Cut(s, 40); short != s {
		return short + "…"
	}
	return s
}
