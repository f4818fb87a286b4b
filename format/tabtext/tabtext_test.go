package tabtext_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/format/tabtext"
)

var four = pattern.Meter{Beats: 4, Unit: 4}

// line writes a bar as slots: strings and frets, dots for nothing.
func line(b tabtext.Bar, m pattern.Meter) string {
	_, slots, _ := b.Slots(m)
	var list []string
	for _, slot := range slots {
		at := "."
		for _, h := range slot {
			if at == "." {
				at = ""
			}
			at += fmt.Sprintf("%d/%d ", h.String, h.Fret)
		}
		list = append(list, strings.TrimSpace(at))
	}
	return strings.Join(list, " ")
}

// Tablature as it stands in mails and on pages: with and without names, counts, numbers of two
// digits, repeats, six and four strings, long dashes. Written for this test in the ways that are
// common; common practice.
func TestTabsAsTheyAreFound(t *testing.T) {
	for _, x := range []struct{ name, text, want string }{
		{"eighths two apart", `
e|-----------------|
B|-----1-------1---|
G|---0-------0-----|
D|-------2-------2-|
A|-3-------3-------|
E|-----------------|`, "5/3 3/0 2/1 4/2 5/3 3/0 2/1 4/2"},
		{"with a count", `
   C
e|----------0------|
B|--1-----------1--|
G|-----------------|
D|------2-------2--|
A|--3-------3------|
E|-----------------|
   1 & 2 & 3 & 4 &
`, "2/1 5/3 . 4/2 . 1/0 5/3 . 2/1 4/2 ."},
		{"quarters, without names", `
---------0-------
-----1-------1---
-----------------
-----------------
-3-------3-------
-----------------`, "5/3 2/1 1/0 5/3 2/1"},
		{"a ukulele with long dashes", `
A|–0–––0–––0–––0–|
E|–––0–––0–––0–––|
C|–––––––––––––––|
G|–0–––––––0–––––|`, "1/0 4/0 2/0 1/0 2/0 1/0 4/0 2/0 1/0 ."},
		{"a count that is one off, by hand", `
E |---3---3---3---3---|
B |---3---3---3---3---|
G |---0---0---0---0---|
D |---0---0---0---0---|
A |-------------------|
E |-3-------3---------|
     1 + 2 + 3 + 4 +`, "6/3 1/3 2/3 3/0 4/0 . 1/3 2/3 3/0 4/0 6/3 1/3 2/3 3/0 4/0 . 1/3 2/3 3/0 4/0"},
		{"two digits and a hammer", `
e|-10------12--|
B|--------------|
G|----7h9-------|
D|--------------|
A|--------------|
E|-0-----0------|`, ""},
	} {
		t.Run(x.name, func(t *testing.T) {
			tab, err := tabtext.Read(x.text)
			require.NoError(t, err)
			require.Len(t, tab.Bars, 1)
			if x.want != "" {
				assert.Equal(t, x.want, line(tab.Bars[0], four))
			}
		})
	}
	tab, err := tabtext.Read("6/8, slowly\ne|-0-1-3-|-3-1-0-|\nB|-------|-------|\nG|-------|-------|\nD|-------|-------|\n")
	require.NoError(t, err)
	assert.Equal(t, "6/8", tab.Meter.String())
	assert.Equal(t, []string{"e", "B", "G", "D"}, tab.Labels)
	assert.Len(t, tab.Bars, 2)

	tab, err = tabtext.Read("    G             D/F#\ne||:-3---3---3-|-2---2---2-:|| x2\nB||:---0---0---|---3---3---:||\nG||:-----------|-----------:||\nD||:-----------|-----------:||\n")
	require.NoError(t, err)
	require.Len(t, tab.Bars, 4, "what stands behind the last line is no bar; it is played twice")
	assert.Empty(t, tab.Left)
	assert.Equal(t, []string{"G", "D/F#"}, []string{tab.Bars[0].Chord(), tab.Bars[1].Chord()})
	assert.Equal(t, 1, tab.Bars[0].Hits[0].Column)

	tab, err = tabtext.Read("e|-3---| let ring | here\nB|-0---|\nG|-----| (soft)\nD|-----|\n")
	require.NoError(t, err)
	assert.Len(t, tab.Bars, 1)
	assert.Equal(t, []string{"line 1: “let ring | here” is left out", "line 3: “(soft)” is left out"}, tab.Left)

	tab, err = tabtext.Read("e|-10--12-|\nB|--------|\nG|-7h9----|\nD|---x----|\n")
	require.NoError(t, err)
	hits := tab.Bars[0].Hits
	require.Len(t, hits, 5)
	assert.Equal(t, tabtext.Hit{Column: 1, String: 1, Fret: 10}, hits[0])
	assert.Equal(t, tabtext.Hit{Column: 1, String: 3, Fret: 7}, hits[1])
	assert.True(t, hits[2].Tied && hits[2].Fret == 9)
	assert.Equal(t, -1, hits[3].Fret)
}

func TestNoTab(t *testing.T) {
	for _, text := range []string{"", "C G Am F", "- one\n- two\n- three\n- four", "e|---0---|\nB|---1---|"} {
		_, err := tabtext.Read(text)
		assert.ErrorContains(t, err, "there is no tablature in it", "%q", text)
	}
	tab, err := tabtext.Read("e|-0---|\nB|-1---|\nG|-0---|\nD|-2---|\n\nA|-0---|\nE|-1---|\nC|-0---|\nG|-2---|\nD|-0---|\n")
	require.NoError(t, err)
	assert.Equal(t, []string{"line 6: it has 5 strings, and what came before 4"}, tab.Left)
}

// What is written is read back: every stroke in its slot, on its string, at its fret; no line is
// longer than a mail shows.
func TestWrittenIsReadBack(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		e := rapid.SampledFrom(catalogue.All).Draw(rt, "pattern")
		ins, err := fretboard.ByID(rapid.SampledFrom([]string{"guitar", "ukulele", "baritone"}).Draw(rt, "instrument"))
		require.NoError(rt, err)
		m := e.Pattern.Meter
		var bars []song.Bar
		for range rapid.IntRange(1, 5).Draw(rt, "bars") {
			bars = append(bars, song.Bar{Changes: song.Share(m, []string{rapid.SampledFrom([]string{"C", "Am", "G7", "F", "Dm"}).Draw(rt, "chord")}), Words: "one by one"})
		}
		sg := song.Song{Title: "Lamps", Meter: m, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}
		p := played.Line{Song: sg, Fingered: sg, Instrument: ins}
		for _, b := range bind.Section(ins, bind.DefaultSchool, e.Pattern, sg.Sections[0], sg.ShapesOn(ins)) {
			p.Bars = append(p.Bars, played.Bar{Grid: e.Pattern.Grid(), Events: b.Events})
		}
		text := tabtext.Write(p)
		for _, l := range strings.Split(text, "\n") {
			assert.LessOrEqual(rt, len(l), 76+2+e.Pattern.Grid()*3, l)
		}
		tab, err := tabtext.Read(text)
		require.NoError(rt, err, text)
		require.Len(rt, tab.Bars, len(bars), text)
		assert.Equal(rt, m, tab.Meter)
		for i, b := range tab.Bars {
			want, got := map[string]bool{}, map[string]bool{}
			slot := m.BarTicks() / e.Pattern.Grid()
			for _, ev := range p.Bars[i].Events {
				for k, s := range ev.Strings {
					fret := int(ev.Frets[k])
					if ev.Kind == played.Chuck || ev.Kind == played.Knock {
						fret = -1
					}
					want[fmt.Sprint(ev.Tick/slot, s, fret)] = true
				}
			}
			grid, slots, _ := b.Slots(m)
			for at, hits := range slots {
				for _, h := range hits {
					got[fmt.Sprint(at*e.Pattern.Grid()/grid, h.String, h.Fret)] = true
				}
			}
			assert.Equal(rt, want, got, text)
		}
	})
}

func FuzzRead(f *testing.F) {
	f.Add("e|-0-1-|\nB|-----|\nG|--2h4|\nD|x----|\n1 & 2 &")
	f.Fuzz(func(t *testing.T, text string) {
		tab, err := tabtext.Read(text)
		if err != nil {
			return
		}
		for _, b := range tab.Bars {
			grid, slots, _ := b.Slots(four)
			if grid != len(slots) {
				t.Fatal("slots")
			}
		}
	})
}

// A chord sheet with a bar of tablature before its verses stays one. Source: common practice.
func TestMostly(t *testing.T) {
	const bar = "A |-3---\nE |-0---\nC |-0---\nG |-0---\n"
	assert.True(t, tabtext.Mostly("Lane\n\n    C\n"+bar+"    1  2\n    p  i\n   one by one\n"))
	assert.False(t, tabtext.Mostly("Lane\n\n"+bar+"\nC      G\none by one\nAm     F\nand two by two\nC      G\nthey go\n\nF    C\nhome\n"))
	assert.False(t, tabtext.Mostly("C   G\none by one\n"))
}
