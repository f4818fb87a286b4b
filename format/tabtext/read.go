package tabtext

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/letters"
)

// Limits of what is read.
const (
	MaxBytes = 200_000
	maxBars  = 64
	maxFret  = 24
)

// Tab is tablature as it was found.
type Tab struct {
	Strings int
	Labels  []string      // of the strings, the thinnest first; empty where they have none
	Meter   pattern.Meter // as it is written somewhere above; the zero value where it is not
	Capo    int           // as it is written somewhere above
	Tuning  []string      // notes of the open strings as they are written, thickest first; none where they are not
	Bars    []Bar
	Left    []string // what was not used, with its line
}

// Bar is a bar of tablature.
type Bar struct {
	Line   int // of the text, from 1, where it begins
	Width  int // letters between its lines
	Hits   []Hit
	counts []int // columns of the count under it; none where there is none
	beats  int   // the highest number that is counted
	ands   bool  // something is counted between the numbers
	chord  string
}

// Hit is a string that is struck at a column of its bar.
type Hit struct {
	Column int
	String fretboard.String
	Fret   int  // -1 for a dead one
	Tied   bool // hammered on, pulled off or slid to: not struck again
	Way    string
}

// Chord is the symbol that stands over a bar; empty for none.
func (b Bar) Chord() string { return b.chord }

var (
	tabLine   = regexp.MustCompile(`^\s*([A-Ga-g][#b♯♭]?\d?)?\s*[|:\]\[]?[-0-9xXhpbrstv~/\\().*<>=|:^ ]*-[-0-9xXhpbrstv~/\\().*<>=|:^ ]*$`)
	meterText = regexp.MustCompile(`\b(\d{1,2})/(4|8)\b`)
	countText = regexp.MustCompile(`^[\s|]*1(\s|[|.&+e])[\s|.0-9&+eaniEA]*$`)
	handText  = regexp.MustCompile(`^[\s|]*[pimacDUdu↓↑vV^TX|\s.]+$`)
)

// plainSigns writes the signs of boxes and long dashes as keyboards have them.
var plainSigns = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\t", "    ", "–", "-", "—", "-", "─", "-", "━", "-", "═", "-", "│", "|", "┃", "|", "║", "|", "┤", "|", "├", "|", "┼", "|",
	"╢", "|", "╟", "|", "╫", "|", "┌", "|", "┐", "|", "└", "|", "┘", "|", "┬", "|", "┴", "|", "╔", "|", "╗", "|", "╚", "|", "╝", "|", "╠", "|", "╣", "|", "\u00a0", " ")

var (
	timesText  = regexp.MustCompile(`(?i)^\(?\s*(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\s*\)?$`)
	capoText   = regexp.MustCompile(`(?i)\bcapo\b[^\d\n]{0,12}(\d{1,2})`)
	tunedText  = regexp.MustCompile(`(?i)^\s*(?:(?:standard\s+)?tuning|tuned)\b[^A-Ga-g\n]*(?:to\s+)?((?:[A-Ga-g][#b♯♭]?\d?[\s,-]*){3,10})\s*$`)
	tuningNote = regexp.MustCompile(`[A-Ga-g][#b♯♭]?`)
	dropText   = regexp.MustCompile(`(?i)\bdrop(?:ped)?[\s-]?d\b`)
)

// about reads what a line over the tablature says of the instrument.
func (t *Tab) about(line string) {
	if m := capoText.FindStringSubmatch(line); m != nil {
		if n, err := strconv.Atoi(m[1]); err == nil && n <= maxFret/2 {
			t.Capo = n
		}
	}
	if m := tunedText.FindStringSubmatch(line); m != nil {
		t.Tuning = tuningNote.FindAllString(m[1], -1)
	} else if dropText.MatchString(line) {
		t.Tuning = []string{"D", "A", "D", "G", "B", "E"}
	}
}

// again plays the bars of a system as often as stands behind it.
func (t *Tab) again(from, times int) {
	bars := t.Bars[from:]
	for n := 1; n < times && len(bars) > 0; n++ {
		if len(t.Bars)+len(bars) > maxBars {
			t.Left = append(t.Left, fmt.Sprintf("line %d: “x%d” makes more than %d bars; the rest is left out", bars[0].Line, times, maxBars))
			return
		}
		t.Bars = append(t.Bars, bars...)
	}
}

// systemOf is how many of lines that stand under one another are one system: all, or fewer where
// two stand without an empty line between, as their names or their number say.
func systemOf(lines []string) int {
	n := len(lines)
	label := func(k int) string {
		at := strings.IndexAny(lines[k], "|-:")
		return strings.TrimSpace(lines[k][:max(0, at)])
	}
	for _, part := range []int{6, 4, 5, 7} {
		if n <= part || n%part != 0 {
			continue
		}
		same := true
		for k := part; k < n; k++ {
			same = same && strings.EqualFold(label(k), label(k-part))
		}
		if same && (label(0) != "" || n > fretboard.MaxStrings) {
			return part
		}
	}
	return n
}

// maxRemark is how much of a remark is said again, in letters.
const maxRemark = 60

// Read finds the tablature in a text. A text without any is an error.
func Read(text string) (t Tab, err error) {
	if len(text) > MaxBytes {
		return t, fmt.Errorf("the text is longer than %d thousand letters", MaxBytes/1000)
	}
	lines := strings.Split(plainSigns.Replace(text), "\n")
	times := make([]int, len(lines))
	for i, line := range lines {
		tab, remark := withoutRemark(line)
		lines[i] = tab
		if m := timesText.FindStringSubmatch(remark); m != nil {
			times[i], _ = strconv.Atoi(m[1] + m[2])
		} else if remark != "" {
			t.Left = append(t.Left, fmt.Sprintf("line %d: “%s” is left out", i+1, letters.Cut(remark, maxRemark)))
		}
	}
	for i := 0; i < len(lines); i++ {
		if !isTab(lines[i]) && len(t.Bars) == 0 {
			t.about(lines[i])
		}
		if m := meterText.FindStringSubmatch(lines[i]); m != nil && len(t.Bars) == 0 && !isTab(lines[i]) {
			if meter, err := pattern.ParseMeter(m[1] + "/" + m[2]); err == nil {
				t.Meter = meter
			}
		}
		if !isTab(lines[i]) {
			continue
		}
		n := 1
		for i+n < len(lines) && isTab(lines[i+n]) {
			n++
		}
		part := systemOf(lines[i : i+n])
		for k := 0; k < n; k += part {
			before := len(t.Bars)
			t.system(lines, i+k, min(part, n-k))
			t.again(before, slices.Max(times[i+k:min(i+k+part, i+n)]))
		}
		i += n - 1
	}
	if len(t.Bars) == 0 && len(t.Left) > 0 {
		return t, fmt.Errorf("there is no tablature in it that can be read: %s", strings.Join(t.Left[:min(3, len(t.Left))], "; "))
	}
	if len(t.Bars) == 0 {
		return t, errors.New("there is no tablature in it: that is a line of dashes and frets for each string, four to ten under one another")
	}
	return t, nil
}

// Mostly reports a text that is tablature, not a chord sheet with some of it: half of its lines or
// more are strings, or stand over or under them with no empty line between, as chords, count,
// fingers and words do.
func Mostly(text string) bool {
	if _, err := Read(text); err != nil {
		return false
	}
	tabs, lines := 0, 0
	block, hasTab := 0, false
	for line := range strings.Lines(text + "\n\n") {
		if line = strings.TrimRight(line, "\r\n"); strings.TrimSpace(line) != "" {
			block++
			tab, _ := withoutRemark(line)
			hasTab = hasTab || isTab(tab)
			continue
		}
		if lines += block; hasTab {
			tabs += block
		}
		block, hasTab = 0, false
	}
	return 2*tabs >= lines
}

// withoutRemark takes off what is written behind the last bar line of a string, "let ring".
func withoutRemark(line string) (tab, remark string) {
	if strings.Count(line, "-") < 3 {
		return line, ""
	}
	if end := strings.LastIndexByte(line, '|'); isTab(line) {
		if tail := strings.TrimSpace(line[end+1:]); end > 0 && tail != "" && !strings.ContainsAny(tail, "-|") && strings.Contains(line[:end], "-") {
			return line[:end+1], tail
		}
		return line, ""
	}
	for end := strings.LastIndexByte(line, '|'); end > 0; end = strings.LastIndexByte(line[:end], '|') {
		if isTab(line[:end+1]) {
			return line[:end+1], strings.TrimSpace(line[end+1:])
		}
	}
	return line, ""
}

// isTab reports a line of a string: mostly dashes, with frets and marks among them.
func isTab(line string) bool {
	return strings.Count(line, "-") >= 3 && 3*strings.Count(line, "-") >= len(strings.Join(strings.Fields(line), "")) && tabLine.MatchString(line)
}

// system reads lines that stand under one another.
func (t *Tab) system(lines []string, at, n int) {
	if n < 4 || n > fretboard.MaxStrings {
		t.Left = append(t.Left, fmt.Sprintf("line %d: %d lines of dashes are no instrument", at+1, n))
		return
	}
	if t.Strings != 0 && n != t.Strings {
		t.Left = append(t.Left, fmt.Sprintf("line %d: it has %d strings, and what came before %d", at+1, n, t.Strings))
		return
	}
	t.Strings = n
	rows := make([][]rune, n)
	width := 0
	for k := range n {
		rows[k] = []rune(lines[at+k])
		width = max(width, len(rows[k]))
	}
	cuts := barLines(rows, width)
	if t.Labels == nil {
		for k := range n {
			t.Labels = append(t.Labels, strings.TrimSpace(string(rows[k][:max(0, min(cuts[0].from, len(rows[k])))])))
		}
	}
	under := func(what *regexp.Regexp) []rune {
		for k := at + n; k < len(lines) && k < at+n+4; k++ {
			if isTab(lines[k]) {
				break
			}
			if strings.TrimSpace(lines[k]) != "" && what.MatchString(lines[k]) {
				return []rune(lines[k])
			}
		}
		return nil
	}
	count, hands := under(countText), under(handText)
	over := ""
	if at > 0 && !isTab(lines[at-1]) {
		over = lines[at-1]
	}
	for c := 0; c+1 < len(cuts); c++ {
		from, to := cuts[c].to+1, cuts[c+1].from
		if to-from < 2 {
			continue
		}
		if len(t.Bars) >= maxBars {
			t.Left = append(t.Left, fmt.Sprintf("line %d: more than %d bars, so the rest is left out", at+1, maxBars))
			return
		}
		b := Bar{Line: at + 1, Width: to - from}
		for k := range n {
			b.hits(rows[k], from, to, fretboard.String(k+1), hands)
		}
		slices.SortStableFunc(b.Hits, func(x, y Hit) int { return x.Column - y.Column })
		for col := from; col < min(to, len(count)); col++ {
			if r := count[col]; r != ' ' && r != '|' && (col == from || count[col-1] == ' ' || count[col-1] == '|') {
				b.counts = append(b.counts, col-from)
				b.counted(string(count[col:min(to, len(count))]))
			}
		}
		b.chord = firstWord([]rune(over), from, to)
		t.Bars = append(t.Bars, b)
	}
}

// barCut is a bar line, double ones included: its first and last column.
type barCut struct{ from, to int }

// barLines are where most strings have a bar line, with the ends: before the first dash, and behind
// the last where dashes go on to it.
func barLines(rows [][]rune, width int) (cuts []barCut) {
	most := func(col int, signs string) bool {
		n := 0
		for _, r := range rows {
			if col >= 0 && col < len(r) && strings.ContainsRune(signs, r[col]) {
				n++
			}
		}
		return 2*n > len(rows)
	}
	for col := range width {
		switch last := len(cuts) - 1; {
		case last >= 0 && cuts[last].to == col-1 && most(col, ":"): // a repeat begins
			cuts[last].to = col
		case !most(col, "|[]"):
		case last >= 0 && cuts[last].to >= col-2 && !dashed(rows, cuts[last].to+1, col): // a double line, a repeat
			cuts[last].to = col
		default:
			from := col
			if most(col-1, ":") {
				from-- // a repeat ends
			}
			cuts = append(cuts, barCut{from, col})
		}
	}
	first := width
	for _, r := range rows {
		for col, c := range r {
			if c == '-' || c >= '0' && c <= '9' {
				first = min(first, col)
				break
			}
		}
	}
	if len(cuts) == 0 || cuts[0].from > first {
		cuts = append([]barCut{{first - 1, first - 1}}, cuts...)
	}
	if last := cuts[len(cuts)-1].to; dashed(rows, last+1, width) {
		cuts = append(cuts, barCut{width, width})
	}
	return cuts
}

// dashed reports that most strings have a dash between two columns: what stands there is a bar, not a
// remark behind it.
func dashed(rows [][]rune, from, to int) bool {
	n := 0
	for _, r := range rows {
		if slices.Contains(r[max(0, min(from, len(r))):max(0, min(to, len(r)))], '-') {
			n++
		}
	}
	return 2*n > len(rows)
}

// hits reads the frets of a string.
func (b *Bar) hits(row []rune, from, to int, s fretboard.String, hands []rune) {
	from = max(0, from)
	digit := func(col int) bool { return col < min(to, len(row)) && row[col] >= '0' && row[col] <= '9' }
	tied := false
	for col := from; col < min(to, len(row)); col++ {
		switch c := row[col]; {
		case digit(col):
			fret, start := int(c-'0'), col
			if digit(col+1) && 10*fret+int(row[col+1]-'0') <= maxFret {
				fret = 10*fret + int(row[col+1]-'0')
				col++
			}
			b.Hits = append(b.Hits, Hit{Column: start - from, String: s, Fret: fret, Tied: tied, Way: way(hands, start)})
			tied = false
		case c == 'x' || c == 'X':
			b.Hits = append(b.Hits, Hit{Column: col - from, String: s, Fret: -1, Way: way(hands, col)})
			tied = false
		case strings.ContainsRune(`hp/\`, c) && len(b.Hits) > 0 && b.Hits[len(b.Hits)-1].String == s:
			tied = true
		}
	}
}

// way is the direction that stands under a column, if one does.
func way(hands []rune, col int) string {
	if col >= len(hands) {
		return ""
	}
	switch hands[col] {
	case 'D', 'd', '↓', 'v', 'V':
		return "down"
	case 'U', 'u', '↑', '^':
		return "up"
	}
	return ""
}

// firstWord is the first word over a bar.
func firstWord(over []rune, from, to int) string {
	from, to = max(0, min(from-1, len(over))), min(to, len(over))
	if from >= to {
		return ""
	}
	words := strings.Fields(string(over[from:to]))
	if len(words) == 0 {
		return ""
	}
	return words[0]
}
