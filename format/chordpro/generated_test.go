package chordpro_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"pgregory.net/rapid"

	"arplin/core/song"
	"arplin/core/theory"
	"arplin/format/chordpro"
)

// written is a sheet as somebody wrote it, with the chords that it means, bar by bar as it is
// played.
type written struct {
	text  strings.Builder
	plays []string
}

// In what ways chords are written. Source: common practice.
var ways = []string{"above", "brackets", "bars", "bars over words", "alone", "grid"}

// line writes bars in a way, and returns them; "%" stands for the bar before where it is the
// same.
func line(way string, bars []string, end string) string {
	switch way {
	case "above", "bars over words":
		top, below := "", ""
		for i, bar := range bars {
			word := []string{"river", "morning", "lantern", "over", "hollow"}[i%5]
			width := max(len(bar), len(word)) + 3
			if way == "bars over words" {
				bar, width = "| "+bar, width+2
				word = "  " + word
			}
			top += fmt.Sprintf("%-*s", width, bar)
			below += fmt.Sprintf("%-*s", width, word)
		}
		if way == "bars over words" {
			top += "|"
		}
		return strings.TrimRight(top, " ") + end + "\n" + strings.TrimRight(below, " ") + "\n"
	case "brackets":
		text := ""
		for i, bar := range bars {
			text += "[" + bar + "]" + []string{"river ", "morning ", "lantern "}[i%3]
		}
		return strings.TrimRight(text, " ") + end + "\n"
	case "alone":
		return strings.Join(bars, "  ") + end + "\n"
	}
	shown := slices.Clone(bars)
	for i := len(bars) - 1; i > 0; i-- {
		if bars[i] == bars[i-1] {
			shown[i] = "%"
		}
	}
	return "| " + strings.Join(shown, " | ") + " |" + end + "\n"
}

func sheetOf(t *rapid.T) (w *written, capo int) {
	w = &written{}
	capo = rapid.SampledFrom([]int{0, 0, 2, 5}).Draw(t, "capo")
	switch rapid.IntRange(0, 2).Draw(t, "head") {
	case 0:
		fmt.Fprintf(&w.text, "{title: Hollow}\n{capo: %d}\n", capo)
	case 1:
		fmt.Fprintf(&w.text, "Hollow\nKey: G   Capo: %d\n\n", capo)
	default:
		fmt.Fprintf(&w.text, "Hollow\n\nCapo %d\n\n", capo)
	}
	way := rapid.SampledFrom(ways).Draw(t, "way")
	german := way != "brackets" && rapid.IntRange(0, 4).Draw(t, "German") == 0
	chords := []string{"C", "G", "Am", "F", "D7", "Em", "Bm", "E7", "Bb", "F#m7", "C/G", "Dm7b5"}
	spelled := map[string]string{"Bm": "Hm", "Bb": "B", "F#m7": "Fism7"}
	several := slices.Contains([]string{"bars", "grid", "bars over words"}, way)
	bars := func(min, max int) (text, plays []string) {
		for range rapid.IntRange(min, max).Draw(t, "bars") {
			n := 1
			if several {
				n = rapid.SampledFrom([]int{1, 1, 2}).Draw(t, "chords")
			}
			var mine, shown []string
			for range n {
				c := rapid.SampledFrom(chords).Draw(t, "chord")
				mine = append(mine, c)
				if german && spelled[c] != "" {
					c = spelled[c]
				}
				shown = append(shown, c)
			}
			text, plays = append(text, strings.Join(shown, " ")), append(plays, strings.Join(mine, " "))
		}
		return text, plays
	}
	if german { // H says that the sheet is German
		text := line(way, []string{"H7", "Hm"}, "")
		if way == "grid" {
			text = "{start_of_grid}\n" + text + "{end_of_grid}\n"
		}
		w.text.WriteString("Intro:\n" + text + "\n")
		w.plays = append(w.plays, "B7", "Bm")
	}
	parts := rapid.IntRange(1, 4).Draw(t, "parts")
	heard := map[string][]string{}
	for i := range parts {
		name := []string{"Verse", "Chorus", "Bridge", "Outro"}[i]
		times := rapid.SampledFrom([]int{1, 1, 2}).Draw(t, "times")
		head := name + ":"
		if times > 1 {
			head = fmt.Sprintf("%s (x%d):", name, times)
		}
		w.text.WriteString(head + "\n")
		if way == "grid" {
			w.text.WriteString("{start_of_grid}\n")
		}
		var part []string
		for range rapid.IntRange(1, 3).Draw(t, "lines") {
			text, plays := bars(2, 4)
			end, again := "", 1
			if times == 1 && rapid.IntRange(0, 3).Draw(t, "line again") == 0 {
				end, again = rapid.SampledFrom([]string{" (x2)", " x2", " (2x)"}).Draw(t, "mark"), 2
			}
			w.text.WriteString(line(way, text, end))
			for range again {
				part = append(part, plays...)
			}
		}
		if way == "bars" && times == 1 && rapid.IntRange(0, 2).Draw(t, "endings") == 0 {
			text, plays := bars(2, 2)
			first, firstPlays := bars(1, 1)
			second, secondPlays := bars(1, 1)
			w.text.WriteString("\n[Coda]\n|: " + strings.Join(text, " | ") + " |1. " + first[0] + " :|2. " + second[0] + " ||\n")
			w.plays = append(w.plays, part...)
			part = slices.Concat(plays, firstPlays, plays, secondPlays)
			heard["Coda"] = part
			w.plays = append(w.plays, part...)
			w.text.WriteString("\n")
			continue
		}
		if way == "grid" {
			w.text.WriteString("{end_of_grid}\n")
		}
		w.text.WriteString("\n")
		for range times {
			w.plays = append(w.plays, part...)
		}
		heard[name] = slices.Concat(slices.Repeat([][]string{part}, times)...)
	}
	if again, ok := heard["Chorus"]; ok && rapid.Bool().Draw(t, "the chorus again") {
		w.text.WriteString("Chorus\n")
		w.plays = append(w.plays, again...)
	}
	return w, capo
}

// The song that is read plays the chords that were written, in their order: in every way of
// writing, with a capo, repeats, endings, parts that are named again and German names.
func TestTheSongPlaysTheChordsThatWereWritten(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		w, capo := sheetOf(rt)
		text := w.text.String()
		sheet := chordpro.ReadSheet(text, chordpro.ByThemselves)
		var want, got []string
		for _, bar := range w.plays {
			want = append(want, sounds(rt, bar, capo))
		}
		for _, at := range sheet.Song.Sung() {
			var symbols []string
			for _, ch := range sheet.Song.Sections[at.Section].Bars[at.Bar].Changes {
				symbols = append(symbols, ch.Symbol)
			}
			got = append(got, sounds(rt, strings.Join(symbols, " "), 0))
		}
		if !slices.Equal(want, got) || len(sheet.Problems) > 0 {
			rt.Fatalf("%s\nplays %v\n  not %v\n%v", text, got, want, sheet.Problems)
		}
	})
}

// sounds is what a bar's chords sound like so many frets higher: each as its notes on the
// keyboard.
func sounds(t *rapid.T, bar string, up int) string {
	var out []string
	for _, symbol := range strings.Fields(bar) {
		if song.IsNoChord(symbol) {
			out = append(out, symbol)
			continue
		}
		c, err := theory.ParseChord(symbol)
		if err != nil {
			t.Fatal(err)
		}
		var notes []string
		for _, n := range c.Notes() {
			notes = append(notes, fmt.Sprint((n.Class()+up)%12))
		}
		out = append(out, strings.Join(notes, "."))
	}
	return strings.Join(out, " ")
}
