package chordpro

import (
	"strings"
	"unicode"

	"arplin/core/song"
)

const tabStop = 8

// columns writes a line so that every letter has the column in which an editor
// shows it.
func columns(line string) []rune {
	var out []rune
	for _, r := range line {
		if r != '\t' {
			out = append(out, r)
			continue
		}
		for more := tabStop - len(out)%tabStop; more > 0; more-- {
			out = append(out, ' ')
		}
	}
	return out
}

// token is what stands between blanks, with its column.
type token struct {
	text string
	col  int
}

func tokens(line []rune) (list []token) {
	for i := 0; i < len(line); {
		if unicode.IsSpace(line[i]) {
			i++
			continue
		}
		j := i
		for j < len(line) && !unicode.IsSpace(line[j]) {
			j++
		}
		list = append(list, token{string(line[i:j]), i})
		i = j
	}
	return list
}

// chordLine reads a line of chords alone: over the words of the line below it, or
// played without words, a bar each.
func (r *reader) chordLine(raw string) {
	times, raw := cutTimes(raw)
	began, sections := r.bars, len(r.song.Sections)
	if below := r.at + 1; below < len(r.text) && r.isWords(r.text[below]) {
		r.as(r.at, AsChords)
		r.at++
		r.as(r.at, AsWords)
		var words string
		lineTimes, text := cutTimes(r.text[r.at])
		if words = text; lineTimes > 1 {
			times = lineTimes
		}
		r.over(columns(raw), columns(words))
	} else {
		r.as(r.at, AsBars)
		r.over(columns(raw), nil)
	}
	if times > 1 {
		r.lineTimes(times, r.bars-began, sections)
	}
}

// isWords reports a line of words that may stand below chords.
func (r *reader) isWords(line string) bool {
	trimmed := strings.TrimSpace(line)
	if trimmed == "" || strings.HasPrefix(trimmed, "{") || strings.HasPrefix(trimmed, "#") || strings.Contains(trimmed, "|") || hasChords(trimmed) || isTab(line) {
		return false
	}
	if _, _, _, ok := heading(trimmed); ok || r.chordsAfterAWord(trimmed) {
		return false
	}
	return !r.isChordLine(trimmed)
}

// over places chords over words by their columns; a chord lasts a bar, and "%" after
// it another.
func (r *reader) over(chords, words []rune) {
	var bars []song.Bar
	var cuts []int
	for _, t := range tokens(chords) {
		symbol := r.bare(t.text)
		stop := strings.Contains(t.text, "!") || isStopWord(symbol)
		switch {
		case isStopWord(symbol):
			if len(bars) > 0 {
				bars[len(bars)-1].Role = song.Stop
			}
			continue
		case symbol != "%" && (symbol == "" || fillers[symbol]): // between two chords, or a beat of the one before
			continue
		}
		bar := song.Bar{Changes: []song.Change{{Symbol: r.symbol(symbol), Ticks: r.ticks()}}}
		if stop {
			bar.Role = song.Stop
		}
		bars, cuts = append(bars, bar), append(cuts, snap(words, t.col))
	}
	for i, bar := range bars {
		from, to := cuts[i], len(words)
		if i == 0 {
			from = 0 // what comes before the first chord is sung into it
		}
		if i+1 < len(bars) {
			to = max(from, cuts[i+1])
		}
		bar.Words = piece(words, from, to)
		r.addBar(bar)
	}
}

// barsOver reads bars of chords over words: a bar's words begin below its first
// chord.
func (r *reader) barsOver(raw string) {
	times, raw := cutTimes(raw)
	began, sections := r.bars, len(r.song.Sections)
	chords := columns(raw)
	r.as(r.at, AsChords)
	r.at++
	r.as(r.at, AsWords)
	words := columns(r.text[r.at])
	line := string(chords)
	var cuts []int // the columns of the bars' first chords
	marks := append(barToken.FindAllStringSubmatchIndex(line, -1), []int{len(line), len(line)})
	pos := 0
	for _, m := range marks {
		if text := line[pos:m[0]]; strings.TrimSpace(text) != "" {
			lead := len(text) - len(strings.TrimLeft(text, " "))
			cuts = append(cuts, snap(words, len([]rune(line[:pos]))+lead))
		}
		pos = m[1]
	}
	pos, n := 0, 0
	for _, m := range marks {
		if text := line[pos:m[0]]; strings.TrimSpace(text) != "" {
			from, to := 0, len(words)
			if n > 0 {
				from = cuts[n]
			}
			if n+1 < len(cuts) {
				to = max(from, cuts[n+1])
			}
			r.sung = piece(words, from, to)
			n++
			r.bar(text, true)
		}
		if pos = m[1]; len(m) > 2 {
			r.mark(line[m[0]:m[1]], group(line, m, 1)+group(line, m, 2))
		}
	}
	if times > 1 {
		r.lineTimes(times, r.bars-began, sections)
	}
}

// nearWord is how far a chord may stand beside the beginning of its word: fonts of
// different width and a slip of the hand shift it so much.
const nearWord = 2

// snap is where the words of a chord in a column begin: at the word that begins there or near
// it. Over the middle of a word, the word stays whole: with this chord where it stands over its
// first half, else with the one before.
func snap(words []rune, col int) int {
	if col >= len(words) {
		return len(words)
	}
	begin := col
	for begin > 0 && !unicode.IsSpace(words[begin-1]) {
		begin--
	}
	if unicode.IsSpace(words[col]) {
		return col
	}
	end := col
	for end < len(words) && !unicode.IsSpace(words[end]) {
		end++
	}
	switch {
	case col-begin <= max(nearWord, (end-begin-1)/2):
		return begin
	case end < len(words):
		return end
	}
	return begin
}

// piece is the words between two columns.
func piece(words []rune, from, to int) string {
	if from >= to {
		return ""
	}
	return strings.Join(strings.Fields(string(words[from:to])), " ")
}
