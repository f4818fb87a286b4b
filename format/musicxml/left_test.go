package musicxml_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/song"
	"arplin/format/musicxml"
)

// scoreOf is a score of one part in 4/4, a quarter being one, with these bars.
func scoreOf(head string, bars ...string) []byte {
	var b strings.Builder
	b.WriteString(`<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Tune</part-name></score-part></part-list><part id="P1">`)
	for i, bar := range bars {
		if i == 0 {
			bar = `<attributes><divisions>1</divisions>` + head + `<time><beats>4</beats><beat-type>4</beat-type></time></attributes>` + bar
		}
		fmt.Fprintf(&b, `<measure number="%d">%s</measure>`, i+1, bar)
	}
	b.WriteString(`</part></score-partwise>`)
	return []byte(b.String())
}

func noteOf(pitch string, more ...string) string {
	return fmt.Sprintf(`<note>%s<pitch><step>%s</step><octave>%s</octave></pitch><duration>4</duration>%s</note>`, nth(more, 0), pitch[:1], pitch[1:], nth(more, 1))
}

func nth(more []string, i int) string {
	if i < len(more) {
		return more[i]
	}
	return ""
}

const chordC = `<harmony><root><root-step>C</root-step></root><kind>major</kind></harmony>`

// What a song has no place for is read rightly or listed, never dropped without a word. Source of
// the elements: W3C, MusicXML 4.0.
func TestWhatIsLeftOutIsListed(t *testing.T) {
	back := `<backup><duration>4</duration></backup>`
	for _, c := range []struct {
		name  string
		data  []byte
		tune  []int // a note a bar, MIDI; 0 for none
		bars  string
		key   string
		lists []string
	}{
		{"a second voice", scoreOf("", chordC+noteOf("E4")+back+noteOf("C4", "", "<voice>2</voice>")), []int{64}, "C", "", []string{"bar 1: notes of a second voice or staff"}},
		{"a second staff", scoreOf("", chordC+noteOf("E4")+back+noteOf("C3", "", "<staff>2</staff>"), noteOf("E4")+back+noteOf("C3", "", "<staff>2</staff>")), []int{64, 64}, "C | C", "", []string{"bars 1 to 2: notes of a second voice or staff"}},
		{"lower notes", scoreOf("", chordC+noteOf("E4")+noteOf("C4", "<chord/>")), []int{64}, "C", "", []string{"bar 1: of notes that sound together the highest"}},
		{"a second verse", scoreOf("", chordC+noteOf("E4", "", "<lyric><text>sun</text></lyric><lyric><text>moon</text></lyric>")), []int{64}, "C", "", []string{"bar 1: further verses"}},
		{"another key", scoreOf("<key><fifths>0</fifths></key>", chordC+noteOf("E4"), "<attributes><key><fifths>2</fifths></key></attributes>"+noteOf("D4")), []int{64, 62}, "C | C", "C", []string{"bar 2: a change of key"}},
		{"another tempo", scoreOf("", `<sound tempo="90"/>`+chordC+noteOf("E4"), `<direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>120</per-minute></metronome></direction-type></direction>`+noteOf("D4")), []int{64, 62}, "C | C", "", []string{"bar 2: a change of tempo"}},
		{"the same tempo again", scoreOf("", `<sound tempo="90"/>`+chordC+noteOf("E4"), `<sound tempo="90"/>`+noteOf("D4")), []int{64, 62}, "C | C", "", nil},
		{"bars that are repeated by a sign", scoreOf("", chordC+noteOf("E4"), `<harmony><root><root-step>G</root-step></root><kind>major</kind></harmony>`+noteOf("D4"),
			`<attributes><measure-style><measure-repeat type="start">2</measure-repeat></measure-style></attributes><note><rest measure="yes"/><duration>4</duration></note>`, `<note><rest measure="yes"/><duration>4</duration></note>`,
			`<attributes><measure-style><measure-repeat type="stop"/></measure-style></attributes>`+noteOf("C4")), []int{64, 62, 64, 62, 60}, "C | G | C | G | G", "", nil},
		{"a sign with nothing before it", scoreOf("<measure-style><measure-repeat type=\"start\">1</measure-repeat></measure-style>", `<note><rest measure="yes"/><duration>4</duration></note>`, chordC+noteOf("C4")), []int{0, 60}, "N.C. | C", "", []string{"bar 1: a sign that repeats bars"}},
		{"drums among the notes", scoreOf("", chordC+noteOf("E4"), `<note><unpitched><display-step>E</display-step></unpitched><duration>4</duration></note>`), []int{64, 0}, "C | C", "", []string{"bar 2: notes without a pitch"}},
		{"slashes", scoreOf("", chordC+noteOf("B4", "", "<notehead>slash</notehead>"), noteOf("B4", "", "<notehead>slash</notehead>")), []int{0, 0}, "C | C", "", []string{"bars 1 to 2: slashes"}},
		{"a part in B flat", scoreOf("<key><fifths>2</fifths></key><transpose><chromatic>-2</chromatic></transpose>", `<harmony><root><root-step>D</root-step></root><kind>major</kind></harmony>`+noteOf("D5")), []int{72}, "C", "C", nil},
		{"a guitar, an octave lower", scoreOf("<transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>", chordC+noteOf("E5")), []int{64}, "C", "", nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			sg, problems, err := musicxml.Read(c.data)
			require.NoError(t, err)
			var tune []int
			var bars []string
			for _, b := range sg.Bars() {
				bars = append(bars, song.BarText(b.Changes, sg.MeterOf(b)))
				note := 0
				if len(b.Melody) > 0 {
					note = b.Melody[0].MIDI
				}
				assert.LessOrEqual(t, len(b.Melody), 1)
				tune = append(tune, note)
			}
			assert.Equal(t, c.tune, tune)
			assert.Equal(t, c.bars, strings.Join(bars, " | "))
			if c.key != "" {
				assert.Equal(t, c.key, sg.Key)
			}
			require.Len(t, problems, len(c.lists), "%v", problems)
			for i, want := range c.lists {
				assert.Contains(t, problems[i].String(), want)
			}
		})
	}
}
