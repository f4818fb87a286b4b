package chordpro

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"arplin/core/song"
	"arplin/core/theory"
)

// partWords are what parts of a song are called.
var partWords = `intro|verse|strophe|vers|chorus|refrain|pre-?chorus|post-?chorus|hook|bridge|middle(?: eight| 8)?|interlude|instrumental|solo|break|outro|ending|coda|tag|turnaround|vamp|part|section`

// timesOrRemark is what may stand behind the name of a part: how often it is played, or a word about it.
const timesOrRemark = `(?:\s*\(?\s*(?:[x×]\s*\d+|\d+\s*[x×])\s*\)?|\s*\([^()]*\))?`

var (
	// "Verse 1:", "[Chorus x2]", "Bridge (2x)", "CHORUS:"
	bracketHeading = regexp.MustCompile(`(?i)^\[\s*((?:` + partWords + `)\b[^\]]*?)\s*\]:?(.*)$`)
	colonHeading   = regexp.MustCompile(`(?i)^((?:\d+\.? ?)?(?:` + partWords + `)(?:\s*[0-9A-D]{1,3})?` + timesOrRemark + `)\s*:(.*)$`)
	bareHeading    = regexp.MustCompile(`(?i)^((?:\d+[.)]? ?)?(?:` + partWords + `)(?:\s*[0-9]{1,2})?` + timesOrRemark + `)$`)
	// "2." over a verse
	numberHeading = regexp.MustCompile(`^(\d{1,2})[.)]$`)
	// "Title: ...", "Key: G", "Capo 2", "Tempo = 96", "Time: 3/4"
	plainField = regexp.MustCompile(`(?i)^(title|titel|key|tonart|capo|kapo|tempo|bpm|time|takt|meter|metre)\s*[:=]\s*(.+)$|^([ck]apo)\s+(?:on\s+)?(?:fret\s+)?(\d{1,2})(?:st|nd|rd|th)?(?:\s+fret)?$`)
	// "x2", "(2x)", "2 x", "×3" at the end of a line
	timesMark   = regexp.MustCompile(`(?i)(?:^|\s|\|)[(/]?\s*(?:[x×]\s*(\d{1,2})|(\d{1,2})\s*[x×])\s*[)/]?\s*$`)
	oneLinePart = regexp.MustCompile(`(?i)^((?:` + partWords + `)(?:\s*\d{1,2})?)\s+(.*)$`)
	endingLine  = regexp.MustCompile(`^([1-4])[.)]\s+(\S.*)$`)
	tabLine     = regexp.MustCompile(`^\s*(?:[A-Ga-g][#b]?\d?)?\s*[|:‖][-–\d|hpbsrtxXoO~/\\().*^=<> :]+$`)
)

// heading tells a line that names a part, with how often it is played and what
// else stands on it.
func heading(line string) (name string, times int, rest string, ok bool) {
	m := bracketHeading.FindStringSubmatch(line)
	if m == nil {
		m = colonHeading.FindStringSubmatch(line)
	}
	if m == nil {
		if m = bareHeading.FindStringSubmatch(line); m == nil {
			if m = numberHeading.FindStringSubmatch(line); m == nil {
				return "", 0, "", false
			}
			m[1] = "Verse " + m[1]
		}
		m = append(m, "")
	}
	name = strings.TrimSpace(m[1])
	if times, name = cutTimes(name); name == "" || line[0] != '[' && remarksChords(name) {
		return "", 0, "", false
	}
	if strings.ToUpper(name) == name { // shouted
		name = strings.ToLower(name)
	}
	return strings.ToUpper(name[:1]) + name[1:], times, m[2], true // the words are plain letters
}

// remarksChords reports brackets behind a name that hold chords: they are played.
func remarksChords(name string) bool {
	list := strings.Fields(strings.Trim(remark.FindString(name), "()"))
	return len(list) > 0 && !slices.ContainsFunc(list, func(one string) bool {
		_, err := theory.ParseChord(strings.Trim(one, "|,-"))
		return err != nil
	})
}

// cutTimes takes "x2" or "(2x)" off the end of a text.
func cutTimes(text string) (times int, rest string) {
	m := timesMark.FindStringSubmatchIndex(text)
	if m == nil {
		return 0, text
	}
	digits := ""
	if m[2] >= 0 {
		digits = text[m[2]:m[3]]
	} else {
		digits = text[m[4]:m[5]]
	}
	n, err := strconv.Atoi(digits)
	if err != nil || n < 1 {
		return 0, text
	}
	rest = text[:m[0]]
	if strings.HasPrefix(text[m[0]:], "|") { // the bar line before it stays
		rest += "|"
	}
	return n, strings.TrimRight(rest, " \t")
}

// opensPart reports a line by which a sheet names its parts.
func (r *reader) opensPart(line string) bool {
	line = strings.TrimSpace(line)
	if strings.HasPrefix(line, "{") {
		return strings.HasPrefix(line, "{start_of_") || strings.HasPrefix(line, "{so") || strings.HasPrefix(line, "{chorus")
	}
	if _, _, _, ok := heading(line); ok {
		return true
	}
	_, _, ok := r.partWithChords(line)
	return ok
}

// isTab reports a line of tablature: a string with dashes and frets on it.
func isTab(line string) bool {
	return strings.Count(line, "-")+strings.Count(line, "–") >= 4 && tabLine.MatchString(line)
}

var bracketed = regexp.MustCompile(`\[[^\]]*\]?`)

// hasChords reports square brackets that hold chords, and not only annotations.
func hasChords(line string) bool {
	return slices.ContainsFunc(bracketed.FindAllString(line, -1), func(in string) bool { return !strings.HasPrefix(in, "[*") || !strings.HasSuffix(in, "]") })
}

// fillers stand between chords without being one.
var fillers = map[string]bool{"|": true, "-": true, "–": true, "/": true, "%": true, ".": true, ",": true, "*": true, "·": true}

// isChordLine reports a line that holds chords and nothing else.
func (r *reader) isChordLine(line string) bool {
	_, line = cutTimes(line)
	found := false
	for _, token := range strings.Fields(line) {
		token = r.bare(token)
		switch {
		case token == "" || fillers[token] || song.IsNoChord(token) || isStopWord(token):
		case r.isChord(token):
			found = true
		default:
			return false
		}
	}
	return found || song.IsNoChord(strings.TrimSpace(line))
}

// bare takes the signs off that stand about a chord: "(Am)", "C*", "G!", "F,".
func (r *reader) bare(token string) string {
	if r.isChord(token) {
		return token
	}
	token = strings.Trim(token, "(),;!*")
	if strings.HasSuffix(token, ".") && !song.IsNoChord(token) && token != "." {
		token = strings.TrimSuffix(token, ".")
	}
	return token
}

func isStopWord(token string) bool { return strings.EqualFold(token, "stop") }

func (r *reader) isChord(token string) bool {
	_, err := theory.ParseChord(r.english(token))
	return err == nil
}

// germanNote begins a chord that only a German sheet has.
var germanNote = regexp.MustCompile(`(?:^|[\s\[|(/])(?:H(?:[m7s(/:\]\s|]|maj|dim|$)|(?:Es|As)(?:[m7s(/:\]\s|]|maj|dim|$)|[CDFGA]is(?:[m7s(/:\]\s|]|maj|dim|$)|(?:Des|Ges)(?:[m7(/:\]\s|]|maj|dim|$))`)

// isGerman looks for chords that are only called so in German. A line of words is
// not asked: "As" is an English word.
func isGerman(lines []string) bool {
	r := reader{german: true, small: true}
	for _, line := range lines {
		for _, in := range bracketed.FindAllString(line, -1) {
			if germanNote.MatchString(in) && r.isChord(strings.Trim(in, "[]")) {
				return true
			}
		}
		line = bracketed.ReplaceAllString(strings.TrimSpace(line), "")
		if germanNote.MatchString(line) && (strings.Contains(line, "|") || r.isChordLine(line)) {
			return true
		}
	}
	return false
}

var germanRoot = regexp.MustCompile(`^(H|B|Es|As|[CDFGA]is|Des|Ges)`)

// germanRoots are German names of notes in English.
var germanRoots = map[string]string{
	"H": "B", "B": "Bb", "Es": "Eb", "As": "Ab", "Cis": "C#", "Dis": "D#", "Fis": "F#", "Gis": "G#", "Ais": "A#", "Des": "Db", "Ges": "Gb",
}

// english is what a chord of the sheet is called in English.
func (r *reader) english(symbol string) string {
	if minor, ok := r.smallMinor(symbol); ok {
		symbol = minor
	}
	if !r.german {
		return symbol
	}
	parts := strings.Split(symbol, "/")
	for i, part := range parts {
		if i > 0 && part != "" { // a bass note may be small
			part = strings.ToUpper(part[:1]) + part[1:]
		}
		root := germanRoot.FindString(part)
		if root == "As" && strings.HasPrefix(part, "Asus") { // an A with a fourth
			root = ""
		}
		if root == "Es" && strings.HasPrefix(part, "Esus") {
			root = ""
		}
		if english, ok := germanRoots[root]; ok {
			parts[i] = english + strings.TrimPrefix(part, root)
		}
	}
	return strings.Join(parts, "/")
}

// smallMinor is a chord that is written in small letters as a large one: a is A minor, fis7
// F sharp minor with a seventh.
func (r *reader) smallMinor(symbol string) (minor string, ok bool) {
	m := smallRoot.FindStringSubmatch(symbol)
	if m == nil || !r.small || !r.german && (m[1] == "h" || m[2] != "") {
		return "", false
	}
	return strings.ToUpper(m[1]) + m[2] + "m" + m[3], true
}

// smallRoot is a root in small letters with no word for its quality.
var smallRoot = regexp.MustCompile(`^([a-h])(is|es|s)?([679]?)$`)

// smallNamed is a chord in small letters that says itself that it is minor: then the others
// are only typed small.
var smallNamed = regexp.MustCompile(`^[a-h](?:#|b)?m(?:[679]|in)?$`)

// hasSmallMinors reports a sheet in which chords in small letters are minor: they stand among
// chords in large ones.
func hasSmallMinors(lines []string, german bool) bool {
	r, found := reader{german: german, small: true}, false
	for _, line := range lines {
		var chords []string
		for _, in := range bracketed.FindAllString(line, -1) {
			chords = append(chords, strings.Trim(in, "[]"))
		}
		line = strings.NewReplacer("|", " ", ":", " ").Replace(bracketed.ReplaceAllString(line, " "))
		if r.isChordLine(line) {
			_, line = cutTimes(line)
			chords = append(chords, strings.Fields(line)...)
		}
		small, large := false, false
		for _, chord := range chords {
			chord = r.bare(chord)
			if smallNamed.MatchString(chord) {
				return false
			}
			if smallRoot.MatchString(chord) {
				small = true
			} else if r.isChord(chord) {
				large = true
			}
		}
		found = found || small && large
	}
	return found
}

// plainField carries out a line that says in plain words what a directive would.
func (r *reader) plainField(line string) As {
	m := plainField.FindStringSubmatch(line)
	name, value := strings.ToLower(m[1]), strings.TrimSpace(m[2])
	switch name {
	case "":
		name, value = "capo", m[4]
	case "bpm":
		name = "tempo"
	case "meter", "metre", "takt":
		name = "time"
	case "titel":
		name = "title"
	case "tonart":
		name = "key"
	case "kapo":
		name = "capo"
	}
	return r.directive(name, value)
}

// isTitle reports the first words of a sheet that has no other title: a line by
// itself, before anything that is played.
func (r *reader) isTitle(line string) bool {
	bare, _, _ := bareTitle(line)
	if r.song.Title != "" && !r.overSubject(line) || r.bars > 0 || r.open || len([]rune(line)) > song.MaxTitle || strings.HasSuffix(line, ":") || hasChords(line) || strings.Contains(line, "|") || r.isChordLine(line) || r.saysTempoOrMeter(bare) || r.chordsAfterAWord(line) {
		return false
	}
	before := r.text[:r.at]
	if r.subject > 0 { // below a mail's there is a greeting, perhaps
		before = nil
	}
	for _, before := range before {
		if before = strings.TrimSpace(before); before != "" && !strings.HasPrefix(before, "{") && !strings.HasPrefix(before, "#") {
			return false
		}
	}
	if r.at+1 >= len(r.text) {
		return false
	}
	next := strings.TrimSpace(r.text[r.at+1])
	if r.isWords(r.text[r.at+1]) && !r.saysTempoOrMeter(next) { // who wrote it, perhaps: the title has no more than that under it
		return r.at+2 < len(r.text) && (strings.TrimSpace(r.text[r.at+2]) == "" || plainField.MatchString(strings.TrimSpace(r.text[r.at+2])))
	}
	return !strings.HasPrefix(next, "#") && !isTab(next)
}
