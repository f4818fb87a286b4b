package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A sheet on the standard input: what was understood, the bars as they are sung,
// and what was kept as a note. Source: the answers' description.
func TestCalcSong(t *testing.T) {
	read := func(sheet string, args ...string) (string, string, error) {
		var out, errOut bytes.Buffer
		cmd := root()
		cmd.SetIn(strings.NewReader(sheet))
		cmd.SetOut(&out)
		cmd.SetErr(&errOut)
		cmd.SetArgs(append([]string{"calc", "song"}, args...))
		err := cmd.Execute()
		return out.String(), errOut.String(), err
	}
	out, errOut, err := read("{title: Round}\n{time: 3/4}\n[Verse]\n|: C |1. F :|2. G C ||\n{comment: softly}\n{time: 4/4}\n| [Xq]home |")
	require.NoError(t, err, errOut)
	assert.JSONEq(t, `{"title":"Round","key":"C major","meter":"3/4","tempo":80,"parts":[
		{"name":"Verse","times":2,"bars":[
			{"meter":"3/4","chords":[{"chord":"C","beats":3}],"words":""},
			{"meter":"3/4","chords":[{"chord":"F","beats":3}],"words":"","ending":1},
			{"meter":"3/4","chords":[{"chord":"G","beats":1.5},{"chord":"C","beats":1.5}],"words":"","ending":2}]},
		{"name":"Verse","times":1,"bars":[{"meter":"4/4","chords":[{"chord":"Xq","beats":4}],"words":"home"}]}],
		"played":[1,2,1,3,4],"left":[{"line":5,"text":"{comment: softly}","why":"kept as a note"},
		{"line":7,"text":"| [Xq]home |","why":"chord \"Xq\", character 1: \"X\" is not a note from A to G"}]}`, out)
	out, _, err = read("Capo 2\nG  D\nup there", "--names", "english")
	require.NoError(t, err)
	assert.Contains(t, out, `"capo":2`)
	assert.Contains(t, out, `{"chord":"G","beats":4}`, "as the sheet has it")
	for sheet, want := range map[string]string{"": "there are no chords in it", "words alone": "there are no chords in it", "\xff\xfe": "not plain text"} {
		_, errOut, err = read(sheet)
		assert.ErrorIs(t, err, errBadInput)
		assert.Contains(t, errOut, want)
	}
}

// run calls the program as a shell would.
func run(args ...string) (stdout, stderr string, err error) {
	var out, errOut bytes.Buffer
	cmd := root()
	cmd.SetOut(&out)
	cmd.SetErr(&errOut)
	cmd.SetArgs(args)
	err = cmd.Execute()
	return out.String(), errOut.String(), err
}

func TestCalcAnswersWithOneObject(t *testing.T) {
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"calc", "chord", "--chord", "Bbm7b5/Ab"}, `{"chord":"Bbm7b5/Ab","root":"Bb","bass":"Ab","notes":["Bb","Db","Fb","Ab"],"degrees":["1","b3","b5","b7"]}`},
		{[]string{"calc", "count", "--pattern", "6/8: p i m a m i"}, `{"counts":["1","2","3","4","5","6"]}`},
		{[]string{"calc", "hand", "--pattern", "2/4: D . . U"}, `{"motion":["down","air-up","air-down","up"]}`},
		{[]string{"calc", "spoken", "--words", "down down-up down-up", "--meter", "3/4", "--grid", "6"}, `{"pattern":"3/4: D . D U D U"}`},
		{[]string{"calc", "transpose", "--chords", "C | Am | F G7 | C", "--to", "G major"}, `{"chords":"G | Em | C D7 | G","key":"G major"}`},
		{[]string{"calc", "change", "--from", "x02210", "--to", "x02210"}, `{"effort":0,"kept":[1,2,3],"moved":[],"seconds":0}`},
		{[]string{"calc", "bind", "--pattern", "2/4: p! Ut*", "--chord", "C", "--frets", "x32010"}, `{"bars":1,"slots":2,"notices":[],"events":[
			{"bar":0,"slot":0,"kind":"pluck","finger":"p","direction":"","strings":[5],"frets":[3],"pitches":["C3"],"accent":true,"soft":false,"muted":false},
			{"bar":0,"slot":1,"kind":"strum","finger":"","direction":"up","strings":[3,2,1],"frets":[0,1,0],"pitches":["G3","C4","E4"],"accent":false,"soft":false,"muted":true}]}`},
	} {
		out, errOut, err := run(c.args...)
		require.NoError(t, err, errOut)
		assert.JSONEq(t, c.want, out)
	}
}

func TestCalcTakesTheEasiestShapeAndAnyTuning(t *testing.T) {
	for _, c := range []struct {
		args []string
		want []int
	}{
		{[]string{"--chord", "C", "--instrument", "ukulele"}, []int{4}},
		{[]string{"--chord", "C"}, []int{5}},
		{[]string{"--chord", "D", "--tuning", "D2 A2 D3 G3 B3 E4", "--frets", "000232"}, []int{6}},
		{[]string{"--chord", "D", "--capo", "2", "--frets", "x32010"}, []int{5}},
	} {
		out, errOut, err := run(append([]string{"calc", "bind", "--pattern", "2/4: p ."}, c.args...)...)
		require.NoError(t, err, errOut)
		var answer struct{ Events []struct{ Strings []int } }
		require.NoError(t, json.Unmarshal([]byte(out), &answer))
		assert.Equal(t, c.want, answer.Events[0].Strings, "%v", c.args)
	}
}

func TestCalcOfTheHeart(t *testing.T) {
	args := func(verb string, more ...string) []string {
		return append([]string{"calc", verb, "--pattern", "4/4: p . p'+m . p i p' .", "--chords", "C | Am | F | G7", "--tempo", "84"}, more...)
	}
	var d struct {
		Level float64
		Parts []struct{ Share float64 }
	}
	var v struct {
		Simpler, Harder []struct{ Level float64 }
	}
	var l struct {
		Steps []struct {
			Pattern, Chords string
			Tempos          struct{ Slow, Medium, Goal int }
		}
		Beyond []struct{ Level float64 }
	}
	var dr struct{ Exercises []struct{ Title string } }
	for verb, into := range map[string]any{"demand": &d, "vary": &v, "ladder": &l, "drill": &dr} {
		out, errOut, err := run(args(verb, "--shapes", "F=133211")...)
		require.NoError(t, err, errOut)
		require.NoError(t, json.Unmarshal([]byte(out), into), verb)
	}
	sum := 0.0
	for _, p := range d.Parts {
		sum += p.Share
	}
	assert.InDelta(t, d.Level-1, sum, 1e-9)
	assert.Less(t, v.Simpler[0].Level, d.Level)
	assert.Greater(t, v.Harder[0].Level, d.Level)
	last := l.Steps[len(l.Steps)-1]
	assert.Equal(t, "C | Am | F | G7", last.Chords)
	assert.Equal(t, 50, last.Tempos.Slow)
	assert.Equal(t, "The pattern on open strings", dr.Exercises[0].Title)
}

// The ladder on the command line: one thing a step, the target
// last, in the order that is asked for.
func TestCalcLadderInEveryOrder(t *testing.T) {
	type step struct {
		Pattern, Chords, Adds, Says, Ready, How, Play string
		Shapes                                        []string
		Level                                         float64
		Tempos                                        struct{ Slow, Medium, Goal int }
	}
	for _, order := range []string{"", "thumb first", "rhythm first", "two chords first", "accents early", "alternation last", "cell by cell", "full first"} {
		for _, pattern := range []string{"4/4: D . D U . U D U", "6/8: p i m a m i", "4/4: p+m! . N+X m p+m i N+X m"} {
			out, errOut, err := run("calc", "ladder", "--pattern", pattern, "--chords", "G | Em | C | D7", "--tempo", "70", "--instrument", "ukulele", "--order", order)
			require.NoError(t, err, errOut)
			var l struct{ Steps, Beyond []step }
			require.NoError(t, json.Unmarshal([]byte(out), &l))
			require.Greater(t, len(l.Steps), 3)
			for i, s := range l.Steps {
				assert.GreaterOrEqual(t, s.Level, 1.0, "%s, %s: step %d", order, pattern, i+1)
				assert.NotEmpty(t, s.Adds)
				assert.NotEmpty(t, s.Ready)
				assert.NotEmpty(t, s.How)
				assert.NotEmpty(t, s.Shapes)
				assert.LessOrEqual(t, s.Tempos.Slow, s.Tempos.Goal)
			}
			last := l.Steps[len(l.Steps)-1]
			assert.Equal(t, pattern, last.Pattern)
			assert.Equal(t, "G | Em | C | D7", last.Chords)
			assert.Equal(t, 70, last.Tempos.Goal)
			assert.Empty(t, last.Play)
			assert.Equal(t, order == "rhythm first", l.Steps[0].Play == "said" || l.Steps[0].Play == "the empty hand")
			for _, s := range l.Beyond {
				assert.Greater(t, s.Level, last.Level)
			}
		}
	}
}

func TestCalcLadderFromALevel(t *testing.T) {
	var whole, part struct {
		Steps []struct{ Level float64 }
	}
	for from, into := range map[string]any{"1": &whole, "4": &part} {
		out, errOut, err := run("calc", "ladder", "--pattern", "4/4: p . p'+m . p i p' .", "--chords", "C | Am | F | G7", "--from", from)
		require.NoError(t, err, errOut)
		require.NoError(t, json.Unmarshal([]byte(out), into))
	}
	assert.Less(t, len(part.Steps), len(whole.Steps))
	assert.LessOrEqual(t, part.Steps[0].Level, 4.0, "the last step that is not above it")
	assert.Greater(t, part.Steps[1].Level, 4.0)
}

// What varies says truly whether it can be played together.
func TestCalcVaryTogether(t *testing.T) {
	out, errOut, err := run("calc", "vary", "--pattern", "4/4: D U D U D U D U")
	require.NoError(t, err, errOut)
	var v struct {
		Simpler, Beside, Harder []struct {
			Pattern, Change, Says string
			Level                 float64
			Together              bool
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &v))
	together := map[string]bool{}
	for _, list := range [][]struct {
		Pattern, Change, Says string
		Level                 float64
		Together              bool
	}{v.Simpler, v.Beside, v.Harder} {
		for _, n := range list {
			together[n.Change] = n.Together
			assert.NotEmpty(t, n.Says)
		}
	}
	assert.Equal(t, map[string]bool{"straight or swung": false, "three beats to a bar": false, "accents": true, "one up strum only": true},
		map[string]bool{"straight or swung": together["straight or swung"], "three beats to a bar": together["three beats to a bar"], "accents": together["accents"], "one up strum only": together["one up strum only"]})
	assert.Contains(t, together, "straight or swung")
	assert.Contains(t, together, "three beats to a bar")
}

func TestBadInputIsOneLineOnStderr(t *testing.T) {
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"bind", "--pattern", "4/4: p i q m", "--chord", "C"}, `pattern: bar 1, slot 3: "q" is not a stroke`},
		{[]string{"bind", "--pattern", "4/4: p i m a", "--chord", "H"}, `chord "H", character 1: "H" is not a note from A to G`},
		{[]string{"bind", "--pattern", "4/4: p i m a", "--chord", "C", "--frets", "x3201"}, `frets: "x3201" has 5 strings, Guitar has 6`},
		{[]string{"bind", "--pattern", "4/4: p i m a", "--chord", "C", "--instrument", "lute"}, `"lute" is not an instrument that Arplin knows`},
		{[]string{"bind", "--pattern", "4/4: p i m a", "--chord", "C", "--school", "third"}, `school: "third" is not a school of fingers: fixed or moving`},
		{[]string{"spoken", "--words", "down sideways"}, `words: word 2, "sideways", isn’t one I know; say down, up, bass, thumb, index, middle, ring, pinch, inside, outside, wait, or the number of a string`},
		{[]string{"key", "--chords", "C | | G"}, `chords: bar 2 is empty`},
		{[]string{"change", "--from", "x02210", "--to", "123456"}, `to: no hand can hold 123456`},
		{[]string{"demand", "--pattern", "4/4: p i m a", "--shapes", "F=13"}, `shapes: shape "13": a shape has 3 to 10 strings, not 2`},
		{[]string{"drill", "--pattern", "4/4: p i m a", "--bar", "7"}, `bar: the song has bars 1 to 1, not 7`},
		{[]string{"ladder", "--pattern", "4/4: p i m a", "--order", "backwards"}, `"backwards" is not an order of steps`},
		{[]string{"ladder", "--pattern", "4/4: p i m a", "--from", "low"}, `from: "low" is not a level`},
		{[]string{"vary", "--pattern", "4/4: p i m a", "--tempo", "900"}, `tempo: 900 is not between 20 and 300`},
		{[]string{"count", "--nonsense"}, `unknown flag: --nonsense`},
		{[]string{"nosuch"}, `calc: "nosuch" is not one of its verbs; see arplin calc --help`},
	} {
		out, errOut, err := run(append([]string{"calc"}, c.args...)...)
		assert.ErrorIs(t, err, errBadInput)
		assert.Empty(t, out)
		assert.Equal(t, c.want+"\n", errOut)
	}
}

// The decision of the desk, from lines of a log: three clean at the goal on two days move on (common
// practice); what is wrong with a line is said with its number.
func TestCalcPractice(t *testing.T) {
	ask := func(log string) (a struct {
		Steps []struct {
			Step, State string
			Clean       int `json:"clean_tempo"`
			Confidence  float64
		}
		Decision, Says string
		Next           int `json:"next_tempo"`
		Because        []int
	}, stderr string) {
		cmd := root()
		var out, errOut bytes.Buffer
		cmd.SetOut(&out)
		cmd.SetErr(&errOut)
		cmd.SetIn(strings.NewReader(log))
		cmd.SetArgs([]string{"calc", "practice", "--goal", "84", "--today", "2026-03-02"})
		if err := cmd.Execute(); err != nil {
			return a, errOut.String()
		}
		require.NoError(t, json.Unmarshal(out.Bytes(), &a))
		return a, ""
	}
	a, _ := ask("date,step,tempo,clean,minutes\n2026-02-20,3,84,yes,10\n2026-02-27,4,70,no,10\n\n2026-02-28,4,84,yes,10\n2026-02-28,4,86,yes,10\n2026-03-01,4,84,yes,5\n")
	assert.Equal(t, "move on", a.Decision)
	assert.Equal(t, []int{5, 6, 7}, a.Because)
	assert.Equal(t, 84, a.Next)
	require.Len(t, a.Steps, 2)
	assert.Equal(t, "4 secure 84", fmt.Sprint(a.Steps[1].Step, " ", a.Steps[1].State, " ", a.Steps[1].Clean))
	a, _ = ask("2026-03-01,4,84,yes,\n2026-02-20,3,84,no,10")
	assert.Equal(t, "stay", a.Decision)
	assert.Equal(t, "4", a.Steps[1].Step, "the one that was played last")
	a, _ = ask("2026-02-20,4,60,no,5\n2026-02-25,4,60,no,5\n2026-03-01,4,56,no,5")
	assert.Equal(t, "ease", a.Decision)
	a, _ = ask("2026-02-20,4,98,yes,5\n2026-02-25,4,99,yes,5")
	assert.Equal(t, "jump", a.Decision)
	for log, want := range map[string]string{
		"":                          "log: there is no line in it",
		"2026-02-20,4,60,no\nnext":  "line 2: write date,step,tempo,clean,minutes",
		"20.2.2026,4,60,no,5":       `line 1: "20.2.2026" is no date such as 2026-03-02`,
		"2026-02-20,4,900,no,5":     `line 1: “900” isn’t a tempo`,
		"2026-02-20,4,60,maybe,5":   `line 1: clean is yes or no, not "maybe"`,
		"2026-04-20,4,60,yes,5":     "line 1: 2026-04-20 lies after today",
		"2026-02-20,4,60,yes,often": `line 1: "often" is no number of minutes`,
	} {
		_, stderr := ask(log)
		assert.Contains(t, stderr, want)
	}
}

// What a pattern sounds like begins with its first stroke and is as long as its bars, and what
// rings after them. Source of the file's head: the published form of WAV.
func TestSound(t *testing.T) {
	out, errOut, err := run("sound", "--pattern", "4/4: p i m a", "--chords", "C | Am | F", "--tempo", "120", "--bars", "4")
	require.NoError(t, err, errOut)
	assert.Equal(t, "RIFF", out[:4])
	seconds := float64(len(out)-44) / 2 / 44100
	assert.InDelta(t, 4*2+3, seconds, 0.1, "four bars of two seconds")
	loud := false
	for _, b := range []byte(out[44 : 44+2*441]) { // the first hundredth of a second
		loud = loud || b != 0
	}
	assert.True(t, loud)
	clicked, _, err := run("sound", "--pattern", "4/4: p i m a", "--chords", "C | Am | F", "--tempo", "120", "--bars", "4", "--click")
	require.NoError(t, err)
	assert.Len(t, clicked, len(out))
	assert.NotEqual(t, out, clicked)
	for want, args := range map[string][]string{
		"bars: 0 is not from 1 to 400":                                  {"--bars", "0"},
		"tempo: 9 is not between 20 and 300":                            {"--tempo", "9"},
		`"lute" is not an instrument that Arplin knows`:                 {"--instrument", "lute"},
		"at 20 this is 81 minutes long, and a play-along has up to six": {"--bars", "400", "--tempo", "20"},
	} {
		out, errOut, err := run(append([]string{"sound", "--pattern", "4/4: p i m a"}, args...)...)
		assert.ErrorIs(t, err, errBadInput)
		assert.Empty(t, out)
		assert.Equal(t, want+"\n", errOut)
	}
}

// A tune over its bass: E4 is the first string, open, G4 its third fret, A4 the fifth; C with an
// A is C6; the thumb goes from the fifth string to the fourth. Source: facts of the trade.
func TestCalcMelody(t *testing.T) {
	out, errOut, err := run("calc", "melody", "--notes", "E4:1 G A:2", "--chords", "C")
	require.NoError(t, err, errOut)
	var a melodyAnswer
	require.NoError(t, json.Unmarshal([]byte(out), &a))
	assert.Equal(t, []melodyNote{{1, 1, "E4", 1, 0}, {1, 2, "G4", 1, 3}, {1, 3, "A4", 1, 5}}, a.Notes)
	require.Len(t, a.Bass, 4)
	assert.Equal(t, []int{5, 4, 5, 4}, []int{a.Bass[0].String, a.Bass[1].String, a.Bass[2].String, a.Bass[3].String})
	require.Len(t, a.Shapes, 1)
	assert.Equal(t, "C6", a.Shapes[0].Becomes)
	assert.Empty(t, a.Unplaced)
	out, _, err = run("calc", "melody", "--notes", "C2:1", "--chords", "C", "--bass", "none", "--instrument", "ukulele")
	require.NoError(t, err)
	assert.Contains(t, out, `"why":"C2 is below the strings`)
	for want, args := range map[string][]string{
		`melody: bar 1, note 1: "H" is not a note`:            {"--notes", "H", "--chords", "C"},
		`bass: "loud" is not none, one, pulse or alternating`: {"--notes", "E4", "--chords", "C", "--bass", "loud"},
		"chords: there is none":                               {"--notes", "E4"},
		"melody: it has 2 bars, and the melody has 1":         {"--notes", "E4 | E4", "--chords", "C"},
	} {
		out, errOut, err := run(append([]string{"calc", "melody"}, args...)...)
		assert.ErrorIs(t, err, errBadInput)
		assert.Empty(t, out)
		assert.Equal(t, want+"\n", errOut)
	}
}
