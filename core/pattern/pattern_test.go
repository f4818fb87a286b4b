package pattern_test

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
)

func TestPrintingIsCanonical(t *testing.T) {
	for in, want := range map[string]string{
		"4/4: p  i m   i":                  "4/4: p i m i",
		"4/4:m+p i . a+i":                  "4/4: p+m i . i+a",
		"4/4: D*! . D u D . Ux U":          "4/4: D!* . D . D . Ux U",
		"4/4 swing: p i p i p i p i":       "4/4 swing: p i p i p i p i",
		"4/4: D d D u":                     "4/4: D . D u", // on a beat grid the air stroke would be down
		"6/8: p i m a m i | p . . a+m . .": "6/8: p i m a m i | p . . m+a . .",
		"4/4: X+N . D654 D6":               "4/4: N+X . D654 D6",
		"4/4: p' p, in mo":                 "4/4: p' p, in mo",
		"4/4: p + m . i .":                 "4/4: p+m . i .",
		"4/4: d u d u d u d u":             "4/4: d u d u d u d u", // nothing sounds, so nothing is inferred
		"3/4: Dr D' Db":                    "3/4: Dr D' Db",
		"2/4: ~ ~ = .":                     "2/4: ~ ~ = .",
		"12/8: p . . i . . m . . a . .":    "12/8: p . . i . . m . . a . .",
		"5/4: D?x . Nt ~ X":                "5/4: D?x . Nt ~ X",
	} {
		p, err := pattern.Parse(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, p.String())
	}
}

func TestErrorsNameTheirPlace(t *testing.T) {
	for in, want := range map[string]string{
		"4/4: p i q m":                   `pattern: bar 1, slot 3: "q" is not a stroke`,
		"4/4: p i m a | p i m":           `pattern: bar 2: 3 slots do not make a bar of 4/4; use 4, 8, 12 or 16`,
		"4/4: p i m a | p . i . m . a .": `pattern: bar 2: 8 slots, but bar 1 has 4; all bars of a pattern have one grid`,
		"7/8: p i m a":                   `pattern: "7/8" is not a time signature that patterns use: 2/4, 3/4, 4/4, 5/4, 6/8, 9/8 or 12/8`,
		"p i m a":                        `pattern: it begins with a time signature and a colon, such as "4/4:"`,
		"4/4: p+p i m a":                 `pattern: bar 1, slot 1: "p" is in one slot twice`,
		"4/4: D+U . . .":                 `pattern: bar 1, slot 1: there are two strums in one slot`,
		"4/4: p!? i m a":                 `pattern: bar 1, slot 1: a stroke is accented or soft, not both`,
		"4/4: p!! i m a":                 `pattern: bar 1, slot 1: the mark "!" is there twice`,
		"4/4: px i m a":                  `pattern: bar 1, slot 1: only a strum can be a chuck, not "p"`,
		"4/4: D D456 D D":                `pattern: bar 1, slot 2: strings go from high to low, not as in "456"`,
		"4/4: D D66 D D":                 `pattern: bar 1, slot 2: string 6 is in "66" twice`,
		"4/4: D u! D D":                  `pattern: bar 1, slot 2: "u" is in the air and takes no marks`,
		"4/4: D db D D":                  `pattern: bar 1, slot 2: "b" cannot follow "d"`,
		"4/4: i' p m a":                  `pattern: bar 1, slot 1: "'" cannot follow "i"`,
		"4/4: p i12 m a":                 `pattern: bar 1, slot 2: a finger takes one string, not "12"`,
		"4/4: p i+ m a":                  `pattern: bar 1: 3 slots do not make a bar of 4/4; use 4, 8, 12 or 16`, // a plus reaches over blanks
		"4/4 swing: p i m a":             `pattern: swing needs two or four slots a beat`,
		"6/8 swing: p i m a m i":         `pattern: swing needs two or four slots a beat`,
		"":                               `pattern: it begins with a time signature and a colon, such as "4/4:"`,
	} {
		_, err := pattern.Parse(in)
		assert.EqualError(t, err, want, in)
	}
}

// Source: common practice, how teachers count.
func TestSpots(t *testing.T) {
	for notation, want := range map[string]map[int]string{
		"4/4: p i m a p i m a":                 {0: "1", 1: "the “and” of 1", 6: "4", 7: "the “and” of 4"},
		"4/4: D U D U D U D U D U D U D U D U": {1: "the “e” of 1", 7: "the “a” of 2", 8: "3"},
		"4/4: p i m p i m p i m p i m":         {4: "the second of the triplet on 2", 11: "the third of the triplet on 4"},
		"6/8: p i m a m i":                     {0: "1", 3: "4", 5: "6"},
		"6/8: p . i . m . a . m . i .":         {3: "the “and” of 2"},
	} {
		p := pattern.MustParse(notation)
		for slot, spot := range want {
			assert.Equal(t, spot, p.Spot(slot), notation)
		}
	}
}

// Source: common practice (testdata/spoken.json says so of itself).
func TestSpokenCountsAndMotion(t *testing.T) {
	data, err := os.ReadFile("testdata/spoken.json")
	require.NoError(t, err)
	var file struct {
		Cases []struct {
			Words, Meter, Pattern string
			Grid                  int
			Hand                  []pattern.Motion
		}
		Counts []struct {
			Pattern string
			Counts  []string
		}
	}
	require.NoError(t, json.Unmarshal(data, &file))
	require.NotEmpty(t, file.Cases)
	for _, c := range file.Cases {
		m, err := pattern.ParseMeter(c.Meter)
		require.NoError(t, err)
		p, err := pattern.Spoken(c.Words, m, c.Grid)
		require.NoError(t, err, c.Words)
		assert.Equal(t, c.Pattern, p.String(), c.Words)
		assert.Equal(t, c.Hand, p.Motions(), c.Words)
	}
	for _, c := range file.Counts {
		assert.Equal(t, c.Counts, pattern.MustParse(c.Pattern).Counts(), c.Pattern)
	}
}

// Source: common practice.
func TestMotionBesideFingers(t *testing.T) {
	for in, want := range map[string][]pattern.Motion{
		"4/4: p i m a":              {"none", "none", "none", "none"},
		"4/4: p . Dt Ut p' i Dt Ut": {"down", "air-up", "down", "up", "down", "none", "down", "up"},
		"4/4: D D D D":              {"down", "down", "down", "down"},
		"6/8: D . . U D .":          {"down", "air-up", "air-down", "up", "down", "air-down"},
		"3/4: D u D . D .":          {"down", "air-up", "down", "air-up", "down", "air-up"},
	} {
		assert.Equal(t, want, pattern.MustParse(in).Motions(), in)
	}
}

func TestSpokenRefusesWhatDoesNotFit(t *testing.T) {
	m, _ := pattern.ParseMeter("4/4")
	for words, want := range map[string]string{
		"down sideways":            `words: word 2, "sideways", isn’t one I know; say down, up, bass, thumb, index, middle, ring, pinch, inside, outside, wait, or the number of a string`,
		"down down down down down": `words: word 5, "down", finds no place left in the bar`,
		" , ":                      `words: say at least one down or up, a finger or a string`,
	} {
		_, err := pattern.Spoken(words, m, 8)
		assert.EqualError(t, err, want)
	}
	p, err := pattern.Spoken("down-down, up", m, 8)
	require.NoError(t, err)
	assert.Equal(t, "4/4: D D . U . . . .", p.String(), "the second of two equal joined words goes against the hand")
}

func TestSwingDelaysTheSecondOfAPair(t *testing.T) {
	straight, swung := pattern.MustParse("4/4: D U D U D U D U"), pattern.MustParse("4/4 swing: D U D U D U D U")
	assert.Equal(t, pattern.TicksPerQuarter/2, straight.SlotStart(1))
	assert.Equal(t, pattern.TicksPerQuarter*2/3, swung.SlotStart(1))
	assert.Equal(t, pattern.TicksPerQuarter, swung.SlotStart(2))
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"4/4: p+m . p' i p m p' .", "4/4: D! D D654*? Ux", "6/8: ~ ~ = X+N . .", "4/4 swing: D u D . D U . U"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		p, err := pattern.Parse(s)
		if err != nil {
			return
		}
		again, err := pattern.Parse(p.String())
		require.NoError(t, err, "%q printed as %q", s, p)
		assert.Equal(t, p.String(), again.String())
		assert.Equal(t, p, again)
	})
}

// What teachers say of a figure: fingers, the numbers of strings, bass and strum, letters by the beat; and
// the notation where its meter is known. Source: common practice.
func TestAFigureIsReadAsItIsSaid(t *testing.T) {
	four, three, six := pattern.Meter{Beats: 4, Unit: 4}, pattern.Meter{Beats: 3, Unit: 4}, pattern.Meter{Beats: 6, Unit: 8}
	for _, c := range []struct {
		said  string
		meter pattern.Meter
		want  string
	}{
		{"D DU UDU", four, "4/4: D . D U . U D U"},
		{"d du du", three, "3/4: D . D U D U"},
		{"D D U U D U", four, "4/4: D . D U . U D U"},
		{"D-D-U-U-D-U", four, "4/4: D . D U . U D U"},
		{"↓ ↓↑ ↑↓↑", four, "4/4: D . D U . U D U"},
		{"bass, down, down-up", three, "3/4: p . D . D U"},
		{"bass, down, down-up", four, "4/4: p . D . D U . ."},
		{"thumb, index, thumb, middle", four, "4/4: p . i . p . m ."},
		{"p i m a p i m a", four, "4/4: p i m a p i m a"},
		{"thumb index middle ring middle index", six, "6/8: p i m a m i"},
		{"pinch, wait, thumb, inside, thumb, outside, thumb, wait", four, "4/4: p+m . p i p m p ."},
		{"6 3 2 3", four, "4/4: p6 . i3 . m2 . i3 ."},
		{"down, wait, down-up", four, "4/4: D . . . D U . ."},
		{"D . D U . U D U", four, "4/4: D . D U . U D U"},
		{"3/4: D D D", four, "3/4: D D D"},
	} {
		p, err := pattern.Read(c.said, c.meter)
		require.NoError(t, err, c.said)
		assert.Equal(t, pattern.MustParse(c.want).String(), p.String(), c.said)
	}
	for said, why := range map[string]string{"": "say at least", "wait wait": "nothing but waits", "thumb sideways": "isn’t one I know", "9/9: D": "9/9", "up up up up up up up up up": "finds no place"} {
		_, err := pattern.Read(said, four)
		assert.ErrorContains(t, err, why, said)
	}
}

// Three-three-two against four beats is counted in its groups. Source: common practice.
func TestGroupsAreCounted(t *testing.T) {
	for notation, want := range map[string]string{
		"4/4: D! D D D! D D D! D": "1 2 3 1 2 3 1 2", "4/4: p i m p i m p m": "1 2 3 1 2 3 1 2", "4/4: p i m+a p m+a p i m+a": "1 2 3 1 2 1 2 3",
		"4/4: p i p' m p i p' m": "", "4/4: D U D! U D U D! U": "", "6/8: p i m p i m": "", "4/4: p i m a p i m a": "", "3/4: p i m p i m": "", "4/4: D . D U . U D U": "",
	} {
		words, ok := pattern.MustParse(notation).GroupCounts()
		if !ok {
			words = nil
		}
		assert.Equal(t, want, strings.Join(words, " "), notation)
	}
}

// Whatever is typed becomes a figure that the notation can write, or an error.
func FuzzReadFigure(f *testing.F) {
	for _, s := range []string{"D DU UDU", "6 3 2 3", "4/4: p i m a", "thumb - - index", "wait", "pinch-pinch", "DUDUDUDUDU"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		for _, m := range []pattern.Meter{{Beats: 4, Unit: 4}, {Beats: 5, Unit: 4}, {Beats: 12, Unit: 8}} {
			p, err := pattern.Read(s, m)
			if err != nil {
				continue
			}
			again, err := pattern.Parse(p.String())
			if err != nil || !again.Equal(p) {
				t.Fatalf("%q became %s, which reads as %s (%v)", s, p, again, err)
			}
		}
	})
}

// A page is heard, too: a figure is read as words, bar by bar.
func TestAloud(t *testing.T) {
	for notation, want := range map[string]string{
		"4/4: p+m . p' i":      "4/4: thumb and middle finger on 1, other bass on 3, index on 4",
		"4/4: D . D U . U = X": "4/4: down strum on 1, down strum on 2, up strum on the “and” of 2, up strum on the “and” of 3, stop on 4, palm hit on the “and” of 4",
		"3/4: p . . | . i m":   "3/4: bar 1, thumb on 1, bar 2, index on 2, middle finger on 3",
		"4/4: . . . .":         "4/4: nothing yet",
	} {
		assert.Equal(t, want, pattern.MustParse(notation).Aloud(), notation)
	}
}
