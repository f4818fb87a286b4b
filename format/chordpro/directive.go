package chordpro

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"arplin/core/bpm"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// looks are directives about how a sheet is printed: they say nothing of the song.
var looks = map[string]bool{
	"new_page": true, "np": true, "new_physical_page": true, "npp": true, "column_break": true, "colb": true, "columns": true, "col": true,
	"new_song": true, "ns": true, "textfont": true, "textsize": true, "textcolour": true, "chordfont": true, "chordsize": true, "chordcolour": true,
	"tabfont": true, "tabsize": true, "tabcolour": true, "titles": true, "pagetype": true, "no_grid": true, "ng": true, "grid": true, "g": true, "diagrams": true,
}

// credits are directives that are kept as notes.
var credits = map[string]bool{
	"subtitle": true, "st": true, "artist": true, "composer": true, "lyricist": true, "copyright": true, "album": true, "year": true,
	"duration": true, "meta": true, "sorttitle": true, "arranger": true, "highlight": true,
}

var shortNames = map[string]string{
	"t": "title", "c": "comment", "ci": "comment", "cb": "comment", "comment_italic": "comment", "comment_box": "comment",
	"sov": "start_of_verse", "eov": "end_of_verse", "soc": "start_of_chorus", "eoc": "end_of_chorus",
	"sob": "start_of_bridge", "eob": "end_of_bridge", "sog": "start_of_grid", "eog": "end_of_grid", "sot": "start_of_tab", "eot": "end_of_tab",
}

var between = regexp.MustCompile(`\}\s*\{`)

// directives carries out a line in braces, which may hold several, and words after
// them.
func (r *reader) directives(line string) {
	end := strings.LastIndex(line, "}")
	if end < 0 {
		r.problem("a brace is not closed: %q", shorten(line))
		r.note(r.at, AsUnread)
		return
	}
	as := r.inBraces(line[1:end])
	if rest := strings.TrimSpace(line[end+1:]); rest != "" {
		r.plainLine(line[end+1:], rest)
		return
	}
	r.as(r.at, as)
}

func (r *reader) inBraces(inside string) (as As) {
	name, value := nameAndValue(inside)
	if name == "comment" || strings.HasPrefix(name, "x_") || !between.MatchString(inside) {
		return r.directive(name, value)
	}
	as = AsDirective
	for _, one := range between.Split(inside, -1) {
		if got := r.directive(nameAndValue(one)); got != AsDirective {
			as = got
		}
	}
	return as
}

func nameAndValue(inside string) (name, value string) {
	name, value, _ = strings.Cut(inside, ":")
	name, value = strings.ToLower(strings.TrimSpace(name)), strings.TrimSpace(value)
	if before, after, found := strings.Cut(strings.TrimSpace(inside), " "); found && !strings.Contains(inside, ":") { // "{start_of_verse Verse 1}"
		name, value = strings.ToLower(before), strings.TrimSpace(after)
	}
	if long, ok := shortNames[name]; ok {
		name = long
	}
	return name, value
}

// directive carries out one and tells what it was.
func (r *reader) directive(name, value string) As {
	switch name {
	case "title":
		r.song.Title = value
	case "key":
		return r.said(r.key(value))
	case "tempo":
		return r.said(r.tempo(value))
	case "time":
		return r.said(r.time(value))
	case "capo":
		return r.said(r.setCapo(value))
	case "transpose":
		return r.said(r.setTranspose(value))
	case "define", "chord":
		return r.said(r.define(value))
	case "comment":
		r.notes = append(r.notes, value)
		return AsNote
	case "start_of_grid":
		r.grid = true
		if value != "" {
			r.openSection(value, 0)
		}
	case "end_of_grid":
		r.grid = false
	case "start_of_tab":
		r.tab = true
		if value != "" {
			r.notes = append(r.notes, value)
		}
	case "end_of_tab":
		r.tab = false
	case "chorus":
		r.repeatChorus()
	default:
		return r.environment(name, value)
	}
	return AsDirective
}

// said keeps a directive as a note that could not be carried out.
func (r *reader) said(ok bool) As {
	if ok {
		return AsDirective
	}
	r.notes = append(r.notes, strings.TrimSpace(r.text[r.at]))
	return AsUnread
}

// environment opens and closes verses, choruses and what else a sheet names.
func (r *reader) environment(name, value string) As {
	switch kind, isStart := strings.CutPrefix(name, "start_of_"); {
	case isStart:
		if value == "" {
			value = strings.ToUpper(kind[:min(1, len(kind))]) + kind[min(1, len(kind)):]
		}
		r.openSection(value, 0)
		return AsPart
	case strings.HasPrefix(name, "end_of_"):
		r.closeEnding()
		r.open = false
	case looks[name]:
	case credits[name]:
		r.notes = append(r.notes, strings.TrimSpace(r.text[r.at]))
		return AsNote
	case strings.HasPrefix(name, "x_"):
		return r.said(r.own(name, value))
	default:
		r.problem("the directive {%s} is not known; the line is kept as a note", shorten(name))
		return r.said(false)
	}
	return AsDirective
}

// own reads what Arplin itself writes beside the format.
func (r *reader) own(name, value string) bool {
	var sec *song.Section
	if r.open {
		sec = &r.song.Sections[len(r.song.Sections)-1]
	}
	switch name {
	case "x_names": // looked for before anything is read
	case "x_swing":
		r.song.Swing = value == "yes"
	case "x_meter":
		m, err := pattern.ParseMeter(value)
		if err != nil {
			return false
		}
		if r.meter = m; m == r.song.Meter {
			r.meter = pattern.Meter{}
		}
	case "x_range":
		low, high, _ := strings.Cut(value, " ")
		if _, err := theory.ParsePitch(low); err != nil {
			return false
		}
		if _, err := theory.ParsePitch(high); err != nil {
			return false
		}
		r.song.Low, r.song.High = low, high
	case "x_capo":
		id, fret, _ := strings.Cut(value, " ")
		n, err := strconv.Atoi(fret)
		if err != nil || n < 1 || n > song.MaxCapo {
			return false
		}
		if r.song.Capo == nil {
			r.song.Capo = map[string]int{}
		}
		r.song.Capo[id] = n
	case "x_shape", "x_bar_shape":
		f := strings.Fields(value)
		if len(f) != 3 {
			return false
		}
		if name == "x_shape" {
			r.song.Shapes.Set(f[0], f[1], f[2])
		} else {
			r.barShapes.Set(f[0], f[1], f[2])
		}
	case "x_tags":
		for tag := range strings.SplitSeq(value, ",") {
			if tag = strings.TrimSpace(tag); tag != "" && len(r.song.Tags) < song.MaxTags {
				r.song.Tags = append(r.song.Tags, tag)
			}
		}
	case "x_root":
		id, chord, _ := strings.Cut(value, " ")
		ins, err := fretboard.ByID(id)
		if _, chordErr := theory.ParseChord(chord); err != nil || chordErr != nil {
			return false
		}
		r.song.KeepRoot(ins, chord, true)
	case "x_times":
		n, err := strconv.Atoi(value)
		if err != nil || sec == nil || n < 1 || n > song.MaxTimes {
			return false
		}
		sec.Times = n
	case "x_pattern":
		title, notation, _ := strings.Cut(value, " = ")
		if p, err := pattern.Decode(notation); err != nil || sec == nil || p.String() != notation {
			return false
		}
		sec.Pattern, sec.PatternName = notation, title
	case "x_melody":
		if sec == nil {
			return false
		}
		if r.tunes == nil {
			r.tunes = map[int]string{}
		}
		r.tunes[len(r.song.Sections)-1] = value // when its bars are there
	default: // another program's
		return false
	}
	return true
}

func (r *reader) key(value string) bool {
	k, err := theory.ParseKey(r.english(value))
	if err != nil {
		r.problem("%s", err)
		return false
	}
	r.song.Key = k.Symbol()
	return true
}

func (r *reader) tempo(value string) bool {
	n, err := strconv.Atoi(strings.TrimSpace(strings.TrimSuffix(strings.ToLower(value), "bpm")))
	if err != nil || n < bpm.Min || n > bpm.Max {
		r.problem("“%s” isn’t a tempo. Use %d to %d BPM", shorten(value), bpm.Min, bpm.Max)
		return false
	}
	r.song.Tempo = n
	return true
}

// time sets the meter: the song's before the first bar, that of the bars from here
// on after it.
func (r *reader) time(value string) bool {
	switch value {
	case "C", "c":
		value = "4/4"
	}
	m, err := pattern.ParseMeter(strings.ReplaceAll(value, " ", ""))
	if err != nil {
		r.problem("%s", err)
		return false
	}
	if r.bars == 0 {
		r.song.Meter = m
		return true
	}
	if r.meter = m; m == r.song.Meter {
		r.meter = pattern.Meter{}
	}
	return true
}

func (r *reader) setCapo(value string) bool {
	n, err := strconv.Atoi(leadingDigits.FindString(value)) // "2nd fret"
	if err != nil || n < 0 || n > song.MaxCapo {
		r.problem("%q is not a fret from 0 to %d for a capo", shorten(value), song.MaxCapo)
		return false
	}
	r.capo = n
	return true
}

func (r *reader) setTranspose(value string) bool {
	n, err := strconv.Atoi(strings.TrimPrefix(value, "+"))
	if err != nil || n < -11 || n > 11 {
		r.problem("%q is not a number of half steps", shorten(value))
		return false
	}
	r.transpose = n
	return true
}

var leadingDigits = regexp.MustCompile(`^\d+`)

// sounding makes what a sheet fingers what sounds: with a capo the chords are its
// shapes, and with a transposition all of it is meant higher or lower.
func (r *reader) sounding() {
	for _, own := range r.shapes {
		id := map[int]string{6: "guitar", 4: "ukulele"}[own.grip.Strings()]
		if id == "" || id == "ukulele" && r.capo > 0 {
			r.problems = append(r.problems, Problem{0, fmt.Sprintf("the shape of %s has %d strings and is left out", own.chord, own.grip.Strings())})
			continue
		}
		r.song.Shapes.Set(id, own.chord.String(), own.grip.String())
	}
	by := (r.capo + r.transpose + 120) % 12
	if r.capo > 0 {
		if r.song.Capo == nil {
			r.song.Capo = map[string]int{}
		}
		r.song.Capo["guitar"] = r.capo
	}
	if by == 0 {
		return
	}
	from := r.song.KeyGuess().Key
	to := from.Up(by)
	for i := range r.song.Sections {
		for j := range r.song.Sections[i].Bars {
			changes := slices.Clone(r.song.Sections[i].Bars[j].Changes) // a part that is played again shares them
			r.song.Sections[i].Bars[j].Changes = changes
			for k := range changes {
				if c, err := changes[k].Chord(); err == nil {
					changes[k].Symbol = c.Transpose(from, to).String()
				}
			}
		}
	}
	if r.song.Key != "" {
		r.song.Key = to.Symbol()
	}
}

// repeatChorus plays the last chorus again.
func (r *reader) repeatChorus() {
	for i := len(r.song.Sections) - 1; i >= 0; i-- {
		if sec := r.song.Sections[i]; strings.HasPrefix(strings.ToLower(sec.Name), "chorus") && len(sec.Bars) > 0 {
			r.open = false
			r.playAgain(r.wholePart(i))
			return
		}
	}
	r.problem("there is no chorus yet to be repeated")
}
