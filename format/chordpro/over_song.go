package chordpro

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/letters"
)

// unquoted takes the marks of a mail's quotation off, where nearly all of the sheet is quoted.
func unquoted(lines []string) []string {
	quoted, written := 0, 0
	for _, line := range lines {
		if line = strings.TrimSpace(line); line != "" {
			written++
			if strings.HasPrefix(line, ">") {
				quoted++
			}
		}
	}
	if quoted < 2 || quoted*5 < written*4 {
		return lines
	}
	out := make([]string, len(lines))
	for i, line := range lines {
		out[i] = quotation.ReplaceAllString(line, "")
	}
	return out
}

var quotation = regexp.MustCompile(`^\s*(?:> ?)+`)

// What stands over a song in plain words, and parts and endings that stand before their chords
// on one line.

var (
	fieldStart  = regexp.MustCompile(`(?i)(?:^|[\s,;|·])(title|titel|key|tonart|capo|kapo|tempo|bpm|time|takt|meter|metre)\s*[:=]\s*`)
	meterWord   = regexp.MustCompile(`(?:^|[\s,(])((?:[2345]/4)|(?:(?:6|9|12)/8))(?:$|[\s,.)])`)
	tempoWord   = regexp.MustCompile(`(?i)(?:[♩𝅘𝅥]\s*=\s*)(\d{2,3})(?:\s*bpm)?\b|(?:\btempo\s+)?\b(\d{2,3})\s*bpm\b|\b(?:bpm|tempo)\s+(\d{2,3})\b`)
	titleMeter  = regexp.MustCompile(`\s*[(\[]\s*((?:[2345]/4)|(?:(?:6|9|12)/8))\s*[)\]]\s*`)
	titleTail   = regexp.MustCompile(`(?i)^(.*\pL.*?)\s*[,;(–-]\s*(?:(\d{2,3})\s*bpm|((?:[2345]/4)|(?:(?:6|9|12)/8)))\s*\)?$`)
	mailSubject = regexp.MustCompile(`(?i)^(?:(?:fwd?|re|aw|wg|subject|betreff)\s*:\s*)+`)
	remark      = regexp.MustCompile(`\([^()]*\)`)
	waltzWord   = regexp.MustCompile(`(?i)\bwaltz\b`)
	aboutWords  = regexp.MustCompile(`(?i)\b(?:time|in|tempo|bpm|meter|metre|beat|feel|signature)\b`)
	anyLetter   = regexp.MustCompile(`\pL`)
	fieldBorder = " \t,;|·"
)

// plainFields carries out a line that says in plain words what directives would: one, or
// several beside one another.
func (r *reader) plainFields(line string) (as As) {
	starts := fieldStart.FindAllStringIndex(line, -1)
	if len(starts) < 2 {
		return r.plainField(line)
	}
	as = AsDirective
	for i, at := range starts {
		to := len(line)
		if i+1 < len(starts) {
			to = starts[i+1][0]
		}
		if got := r.plainField(strings.Trim(line[at[0]:to], fieldBorder)); got != AsDirective {
			as = got
		}
	}
	return as
}

// title takes the first words of a sheet, and the meter where they have it.
func (r *reader) title(line string) {
	if r.subject > 0 { // that of the mail was none
		r.as(r.subject-1, AsNote)
		r.notes = append(r.notes, letters.Cut(r.song.Title, song.MaxNote))
		r.subject = 0
	}
	if bare := mailSubject.ReplaceAllString(line, ""); bare != line && bare != "" {
		line, r.subject = bare, r.at+1
	}
	title, tempo, meter := bareTitle(line)
	if (tempo == "" || r.tempo(tempo)) && (meter == "" || r.time(meter)) {
		line = title
	}
	r.song.Title = line
}

// bareTitle takes a tempo and a meter off a title: "Boat (6/8)", "Boat - 92 bpm, 3/4".
func bareTitle(line string) (title, tempo, meter string) {
	for title = line; ; {
		m := titleTail.FindStringSubmatch(title)
		if m == nil || m[2] != "" && tempo != "" || m[3] != "" && meter != "" {
			break
		}
		title, tempo, meter = m[1], tempo+m[2], meter+m[3]
		if strings.Count(title, "(") > strings.Count(title, ")") {
			title += ")" // of "Boat (in G, 3/4)"
		}
	}
	if m := titleMeter.FindStringSubmatch(title); m != nil && meter == "" {
		if rest := strings.TrimSpace(titleMeter.ReplaceAllString(title, " ")); rest != "" {
			title, meter = rest, m[1]
		}
	}
	return title, tempo, meter
}

// overSubject reports a line below a mail's subject that is a title rather: it has a tempo or a
// meter behind it, or is shouted.
func (r *reader) overSubject(line string) bool {
	_, tempo, meter := bareTitle(line)
	return r.subject > 0 && (tempo+meter != "" || strings.ToUpper(line) == line && len(strings.Fields(line)) > 1)
}

// remarkedField carries out a field with remarks in brackets behind it, which are kept as notes:
// "Capo 2 (or play it open)".
func (r *reader) remarkedField(line string) bool {
	remarks, bare := remark.FindAllString(line, -1), strings.TrimSpace(remark.ReplaceAllString(line, ""))
	m := plainField.FindStringSubmatch(bare)
	if len(remarks) == 0 || m == nil || strings.HasPrefix(strings.ToLower(m[1]), "tit") {
		return false
	}
	for _, one := range remarks {
		r.notes = append(r.notes, letters.Cut(one, song.MaxNote))
	}
	r.as(r.at, r.plainFields(bare))
	return true
}

// saysTempoOrMeter reports a short line about how a song is played, and nothing else.
func (r *reader) saysTempoOrMeter(line string) bool {
	if hasChords(line) || strings.Contains(line, "|") || len(strings.Fields(line)) > 6 || r.isChordLine(line) {
		return false
	}
	return tempoWord.MatchString(line) || meterWord.MatchString(line) || waltzWord.MatchString(line) && len(strings.Fields(line)) <= 2 && r.bars == 0
}

// describes carries out such a line; where it says more, it is kept as a note, too.
func (r *reader) describes(line string) bool {
	if !r.saysTempoOrMeter(line) {
		return false
	}
	rest := line
	if m := meterWord.FindStringSubmatch(line); m != nil {
		if !r.time(m[1]) {
			return false
		}
		rest = strings.Replace(rest, m[1], "", 1)
	} else if waltzWord.MatchString(line) && r.bars == 0 {
		r.song.Meter = pattern.Meter{Beats: 3, Unit: 4}
	}
	if m := tempoWord.FindStringSubmatch(line); m != nil && r.bars == 0 {
		if n, err := strconv.Atoi(m[1] + m[2] + m[3]); err == nil && n >= bpm.Min && n <= bpm.Max {
			r.song.Tempo = n
			rest = strings.Replace(rest, m[0], "", 1)
		}
	}
	if anyLetter.MatchString(aboutWords.ReplaceAllString(rest, "")) || tempoWord.MatchString(rest) {
		r.note(r.at, AsNote)
		return true
	}
	r.as(r.at, AsDirective)
	return true
}

// partWithChords tells a part that stands before its chords: "Intro  G C G D (2x)".
func (r *reader) partWithChords(line string) (name, rest string, ok bool) {
	m := oneLinePart.FindStringSubmatch(line)
	if m == nil {
		return "", "", false
	}
	_, chords := cutTimes(m[2])
	if bars := strings.NewReplacer("|", " ", ":", " ").Replace(chords); !r.isChordLine(bars) || !strings.Contains(chords, "|") && len(strings.Fields(bars)) < 2 { // "Part A" has no chords
		return "", "", false
	}
	name, _, _, ok = heading(m[1] + ":")
	return name, m[2], ok
}

func (r *reader) partOnALine(raw, line string) bool {
	name, rest, ok := r.partWithChords(line)
	if !ok {
		return false
	}
	r.fillBar()
	r.openSection(name, 0)
	r.plainLine(strings.Repeat(" ", max(0, len(raw)-len(rest)))+rest, rest)
	return true
}

// remarkedChords reads chords with remarks in brackets among them, which are kept as notes:
// "C (let ring)".
func (r *reader) remarkedChords(raw, line string) bool {
	remarks := remark.FindAllString(line, -1)
	bare := remark.ReplaceAllStringFunc(raw, func(one string) string { return strings.Repeat(" ", len([]rune(one))) })
	if len(remarks) == 0 || !r.isChordLine(bare) {
		return false
	}
	for _, one := range remarks {
		r.notes = append(r.notes, letters.Cut(one, song.MaxNote))
	}
	r.chordLine(bare)
	return true
}

// chordsAfterAWord reports a part or an ending that stands before its chords.
func (r *reader) chordsAfterAWord(line string) bool {
	if _, _, ok := r.partWithChords(line); ok {
		return true
	}
	_, _, ok := r.endingWithChords(line)
	return ok
}

// endingWithChords tells a number before chords: "2. E7".
func (r *reader) endingWithChords(line string) (n int, rest string, ok bool) {
	m := endingLine.FindStringSubmatch(line)
	if m == nil {
		return 0, "", false
	}
	_, chords := cutTimes(m[2])
	return int(m[1][0] - '0'), m[2], r.isChordLine(strings.NewReplacer("|", " ", ":", " ").Replace(chords))
}

// endingOnALine reads "1. E7" and "2. A" as endings of what stands before them; a number over
// words is a verse's.
func (r *reader) endingOnALine(raw, line string) bool {
	n, rest, ok := r.endingWithChords(line)
	if !ok {
		return false
	}
	words := r.at+1 < len(r.text) && r.isWords(r.text[r.at+1])
	switch {
	case n == r.ending+1 && n > 1, n == 1 && !words && r.bars > 0 && r.secondEndingFollows():
		r.fillBar()
		r.beginEnding(n)
	default:
		r.fillBar()
		r.openSection(fmt.Sprintf("Verse %d", n), 0)
	}
	r.plainLine(strings.Repeat(" ", max(0, len(raw)-len(rest)))+rest, rest)
	return true
}

// secondEndingFollows reports that the next line of the sheet is a second ending.
func (r *reader) secondEndingFollows() bool {
	if r.at+1 >= len(r.text) {
		return false
	}
	n, _, ok := r.endingWithChords(strings.TrimSpace(r.text[r.at+1]))
	return ok && n == 2
}
