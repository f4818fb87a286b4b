package chordpro

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"arplin/core/pattern"
	"arplin/core/song"
)

// barsOfLine is how many bars a written line has.
const barsOfLine = 4

// Write is a song as a sheet that Read reads back as the same song: chords as they
// sound, bars between bar lines, what the format has no word for in directives of
// Arplin's own, which begin with x_.
func Write(s song.Song) string {
	w := writer{song: s}
	w.WriteString(writtenNames + "\n")
	w.directive("title", s.Title)
	w.directive("key", s.Key)
	w.directive("time", s.Meter.String())
	w.directive("tempo", strconv.Itoa(s.Tempo))
	if s.Swing {
		w.directive("x_swing", "yes")
	}
	if s.Low != "" && s.High != "" {
		w.directive("x_range", s.Low+" "+s.High)
	}
	for _, id := range slices.Sorted(maps.Keys(s.Capo)) {
		w.directive("x_capo", fmt.Sprintf("%s %d", id, s.Capo[id]))
	}
	w.shapes("x_shape", s.Shapes)
	w.directive("x_tags", strings.Join(s.Tags, ", "))
	for _, id := range slices.Sorted(maps.Keys(s.Roots)) {
		for _, chord := range s.Roots[id] {
			w.directive("x_root", id+" "+chord)
		}
	}
	for _, t := range s.Tunes { // the format has room for one; the bundle has all
		fmt.Fprintf(&w, "# not in this file: another melody, %s\n", plain.Replace(t.Says()))
	}
	for _, sec := range s.Sections {
		w.section(sec)
	}
	w.notes(s.Notes)
	return w.String()
}

// writtenNames is the first line of what Arplin writes: its chords are English.
const writtenNames = "{x_names: english}"

type writer struct {
	strings.Builder
	song  song.Song
	meter pattern.Meter // of the bars from here on; zero for the song's
	line  []string      // bars that wait for their line
}

// plain makes text fit where a sign of the format would end it.
var plain = strings.NewReplacer("\n", " ", "\r", " ")

// inBars makes words fit between bar lines and brackets.
var inBars = strings.NewReplacer("\n", " ", "\r", " ", "|", "¦", "[", "(", "]", ")")

func (w *writer) directive(name, value string) {
	if value != "" {
		fmt.Fprintf(w, "{%s: %s}\n", name, plain.Replace(value))
	}
}

func (w *writer) shapes(name string, shapes song.Shapes) {
	for _, id := range slices.Sorted(maps.Keys(shapes)) {
		for _, chord := range slices.Sorted(maps.Keys(shapes[id])) {
			w.directive(name, fmt.Sprintf("%s %s %s", id, chord, shapes[id][chord]))
		}
	}
}

func (w *writer) notes(lines []string) {
	for _, line := range lines {
		w.directive("comment", line)
	}
}

func (w *writer) section(sec song.Section) {
	fmt.Fprintf(w, "\n{start_of_part: %s}\n", plain.Replace(strings.ReplaceAll(sec.Name, "}", ")")))
	if sec.Times > 0 {
		w.directive("x_times", strconv.Itoa(sec.Times))
	}
	if sec.Pattern != "" {
		fmt.Fprintf(w, "{x_pattern: %s = %s}\n", plain.Replace(sec.PatternName), sec.Pattern)
	}
	for _, bar := range sec.Bars {
		if len(bar.Notes) > 0 || len(bar.Shapes) > 0 || bar.Meter != w.meter {
			w.flush()
		}
		if bar.Meter != w.meter {
			w.meter = bar.Meter
			w.directive("x_meter", w.song.MeterOf(bar).String())
		}
		w.notes(bar.Notes)
		w.shapes("x_bar_shape", bar.Shapes)
		if w.line = append(w.line, w.bar(bar)); len(w.line) == barsOfLine {
			w.flush()
		}
	}
	w.flush()
	w.directive("x_melody", song.MelodyText(sec.Bars, w.song.Meter.BeatTicks()))
	w.WriteString("{end_of_part}\n")
}

func (w *writer) flush() {
	if len(w.line) > 0 {
		fmt.Fprintf(w, "| %s |\n", strings.Join(w.line, " | "))
	}
	w.line = nil
}

// bar writes a bar's chords, each with its share of the words.
func (w *writer) bar(b song.Bar) string {
	var out strings.Builder
	if b.Ending > 0 {
		fmt.Fprintf(&out, "[*ending %d]", b.Ending)
	}
	if b.Role != song.Plain {
		fmt.Fprintf(&out, "[*%s]", b.Role)
	}
	words := strings.Fields(inBars.Replace(b.Words))
	if len(b.Changes) == 0 {
		return out.String() + "[*no chord yet]" + strings.Join(words, " ")
	}
	meter := w.song.MeterOf(b)
	beat := float64(meter.BarTicks()) / float64(meter.Beats)
	equal := slices.EqualFunc(b.Changes, song.Share(meter, make([]string, len(b.Changes))), func(a, b song.Change) bool { return a.Ticks == b.Ticks })
	var parts []string
	for i, ch := range b.Changes {
		symbol := ch.Symbol
		if !equal {
			symbol += ":" + strconv.FormatFloat(float64(ch.Ticks)/beat, 'g', -1, 64)
		}
		from, to := len(words)*i/len(b.Changes), len(words)*(i+1)/len(b.Changes)
		parts = append(parts, "["+symbol+"]"+strings.Join(words[from:to], " "))
	}
	return out.String() + strings.Join(parts, " ")
}
