package chordpro

import (
	"strconv"
	"strings"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// Directives that say nothing about what is played.
var silent = map[string]bool{
	"subtitle": true, "st": true, "artist": true, "composer": true, "lyricist": true, "copyright": true, "album": true,
	"year": true, "duration": true, "capo": true, "meta": true, "sorttitle": true, "arranger": true, "define": true,
	"chord": true, "new_page": true, "np": true, "new_physical_page": true, "npp": true, "column_break": true,
	"colb": true, "columns": true, "col": true, "new_song": true, "ns": true, "highlight": true,
	"textfont": true, "textsize": true, "textcolour": true, "chordfont": true, "chordsize": true, "chordcolour": true,
}

var shortNames = map[string]string{
	"t": "title", "c": "comment", "ci": "comment", "cb": "comment", "comment_italic": "comment", "comment_box": "comment",
	"sov": "start_of_verse", "eov": "end_of_verse", "soc": "start_of_chorus", "eoc": "end_of_chorus",
	"sob": "start_of_bridge", "eob": "end_of_bridge", "sog": "start_of_grid", "eog": "end_of_grid",
}

// directive carries out a line in braces.
func (r *reader) directive(line string) {
	if !strings.HasSuffix(line, "}") {
		r.problem("a brace is not closed: %q", shorten(line))
		return
	}
	name, value, _ := strings.Cut(line[1:len(line)-1], ":")
	name, value = strings.ToLower(strings.TrimSpace(name)), strings.TrimSpace(value)
	if before, after, found := strings.Cut(name, " "); found && value == "" {
		name, value = before, strings.TrimSpace(after) // "{start_of_verse Verse 1}"
	}
	if long, ok := shortNames[name]; ok {
		name = long
	}
	switch name {
	case "title":
		r.song.Title = value
	case "key":
		r.key(value)
	case "tempo":
		r.tempo(value)
	case "time":
		r.time(value)
	case "comment":
		r.openSection(value)
	case "start_of_grid":
		r.grid = true
		if value != "" {
			r.openSection(value)
		}
	case "end_of_grid":
		r.grid = false
	case "chorus":
		r.repeatChorus()
	default:
		r.environment(name, value)
	}
}

// environment opens and closes verses, choruses and what else a sheet names.
func (r *reader) environment(name, value string) {
	switch kind, isStart := strings.CutPrefix(name, "start_of_"); {
	case isStart:
		if value == "" {
			value = strings.ToUpper(kind[:min(1, len(kind))]) + kind[min(1, len(kind)):]
		}
		r.openSection(value)
	case strings.HasPrefix(name, "end_of_"):
		r.open = false
	case silent[name], strings.HasPrefix(name, "x_"):
	default:
		r.problem("the directive {%s} is not known and is left out", shorten(name))
	}
}

func (r *reader) key(value string) {
	k, err := theory.ParseKey(value)
	if err != nil {
		r.problem("%s", err)
		return
	}
	r.song.Key = k.Symbol()
}

func (r *reader) tempo(value string) {
	n, err := strconv.Atoi(value)
	if err != nil || n < song.MinTempo || n > song.MaxTempo {
		r.problem("%q is not a tempo from %d to %d beats a minute", shorten(value), song.MinTempo, song.MaxTempo)
		return
	}
	r.song.Tempo = n
}

// time sets the meter. A sheet has one: a later one is a problem, since bars
// already read would change their length.
func (r *reader) time(value string) {
	m, err := pattern.ParseMeter(value)
	switch {
	case err != nil:
		r.problem("%s", err)
	case r.bars > 0 && m != r.song.Meter:
		r.problem("the meter changes to %s; Arplin keeps one meter for a song, here %s", m, r.song.Meter)
	default:
		r.song.Meter = m
	}
}

// repeatChorus plays the last chorus again.
func (r *reader) repeatChorus() {
	for i := len(r.song.Sections) - 1; i >= 0; i-- {
		if sec := r.song.Sections[i]; strings.HasPrefix(strings.ToLower(sec.Name), "chorus") {
			if r.bars+len(sec.Bars) > song.MaxBars {
				r.full = true
				return
			}
			r.song.Sections = append(r.song.Sections, sec)
			r.bars += len(sec.Bars)
			r.open = false
			return
		}
	}
	r.problem("there is no chorus yet to be repeated")
}
