package pattern

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"arplin/core/say"
)

// Limits keep a pasted text from becoming a pattern that nobody could play.
const (
	MaxBars       = 8
	storedBars    = 32 // were allowed once
	maxPatternLen = 8000
)

// SyntaxError is a place in a pattern and what is wrong there. Bar and Slot
// count from 1; 0 means the whole pattern or the whole bar.
type SyntaxError struct {
	Bar, Slot int
	Reason    string
}

func (e *SyntaxError) Error() string {
	switch {
	case e.Bar == 0:
		return "pattern: " + e.Reason
	case e.Slot == 0:
		return fmt.Sprintf("pattern: bar %d: %s", e.Bar, e.Reason)
	}
	return fmt.Sprintf("pattern: bar %d, slot %d: %s", e.Bar, e.Slot, e.Reason)
}

// Parse reads a pattern in the stroke notation. Blanks are free; what is
// printed from the result is canonical.
func Parse(s string) (Pattern, error) { return parse(s, MaxBars) }

// Decode reads a pattern that was stored, perhaps when longer ones were allowed.
func Decode(s string) (Pattern, error) { return parse(s, storedBars) }

func parse(s string, maxBars int) (Pattern, error) {
	if len(s) > maxPatternLen {
		return Pattern{}, &SyntaxError{Reason: fmt.Sprintf("it is longer than %d characters", maxPatternLen)}
	}
	head, body, found := strings.Cut(s, ":")
	if !found {
		return Pattern{}, &SyntaxError{Reason: `it begins with a time signature and a colon, such as "4/4:"`}
	}
	p, err := parseHead(head)
	if err != nil {
		return Pattern{}, err
	}
	texts := strings.Split(body, "|")
	if len(texts) > maxBars {
		return Pattern{}, &SyntaxError{Reason: fmt.Sprintf("it has %d bars; %d are the most", len(texts), maxBars)}
	}
	for i, text := range texts {
		bar, err := parseBar(text, i+1)
		if err != nil {
			return Pattern{}, err
		}
		p.Bars = append(p.Bars, bar)
	}
	if err := p.checkGrid(); err != nil {
		return Pattern{}, err
	}
	p.dropInferredAir()
	return p, nil
}

// MustParse is Parse for constants.
func MustParse(s string) Pattern {
	p, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return p
}

func parseHead(head string) (Pattern, error) {
	fields := strings.Fields(head)
	if len(fields) == 0 || len(fields) > 2 || len(fields) == 2 && fields[1] != "swing" {
		return Pattern{}, &SyntaxError{Reason: fmt.Sprintf("%q is not a time signature, with or without swing", strings.TrimSpace(head))}
	}
	m, err := ParseMeter(fields[0])
	if err != nil {
		return Pattern{}, &SyntaxError{Reason: err.Error()}
	}
	return Pattern{Meter: m, Swing: len(fields) == 2}, nil
}

func parseBar(text string, bar int) (Bar, error) {
	var slots Bar
	for i, word := range slotWords(text) {
		slot, reason := parseSlot(word)
		if reason != "" {
			return nil, &SyntaxError{bar, i + 1, reason}
		}
		slots = append(slots, slot)
	}
	return slots, nil
}

// slotWords splits a bar at blanks, but not at blanks around a plus.
func slotWords(text string) []string {
	var words []string
	for _, f := range strings.Fields(text) {
		last := len(words) - 1
		if last >= 0 && (strings.HasPrefix(f, "+") || strings.HasSuffix(words[last], "+")) {
			words[last] += f
			continue
		}
		words = append(words, f)
	}
	return words
}

func parseSlot(word string) (Slot, string) {
	switch word {
	case ".":
		return Slot{}, ""
	case "=":
		return Slot{Stop: true}, ""
	}
	var slot Slot
	strums := 0
	for _, part := range strings.Split(word, "+") {
		st, reason := parseStroke(part, word)
		if reason != "" {
			return Slot{}, reason
		}
		if _, twice := slot.Find(st.Sign); twice {
			return Slot{}, fmt.Sprintf("%q is in one slot twice", st.Sign)
		}
		if st.Sign.Strum() || st.Sign.Air() {
			if strums++; strums > 1 {
				return Slot{}, "there are two strums in one slot"
			}
		}
		slot.Strokes = append(slot.Strokes, st)
	}
	slices.SortFunc(slot.Strokes, func(a, b Stroke) int { return a.Sign.rank() - b.Sign.rank() })
	return slot, ""
}

// parseStroke reads sign, target and marks; word is the slot around it, for the
// sentence when it fails.
func parseStroke(s, word string) (st Stroke, reason string) {
	if s == "" {
		return st, fmt.Sprintf("a stroke is missing beside the plus in %q", word)
	}
	sign := Sign(s[0])
	if sign.rank() < 0 {
		_, n := utf8.DecodeRuneInString(s)
		return st, fmt.Sprintf("%q is not a stroke", s[:n])
	}
	st.Sign = sign
	rest := s[1:]
	st.Target, rest, reason = cutTarget(sign, rest)
	if reason != "" {
		return st, reason
	}
	st.Marks, reason = parseMarks(sign, rest)
	return st, reason
}

func cutTarget(sign Sign, s string) (t Target, rest, reason string) {
	digits := 0
	for digits < len(s) && s[digits] >= '0' && s[digits] <= '9' {
		digits++
	}
	if digits > 0 {
		t, reason = givenStrings(sign, s[:digits])
		return t, s[digits:], reason
	}
	if s == "" {
		return t, s, ""
	}
	kind, known := kindOf(s[0])
	if !known {
		return t, s, ""
	}
	fits := false
	switch kind {
	case Alternate, LowFifth:
		fits = sign == Thumb || sign.Strum()
	case Inner, Outer:
		fits = sign.Finger() && sign != Thumb
	case Treble:
		fits = sign.Strum() || sign == Sweep
	default:
		fits = sign.Strum()
	}
	if !fits {
		return t, s, fmt.Sprintf("%q cannot follow %q", s[:1], sign)
	}
	return Target{Kind: kind}, s[1:], ""
}

func givenStrings(sign Sign, digits string) (Target, string) {
	t := Target{Kind: Given}
	switch {
	case !sign.Finger() && !sign.Strum():
		return t, fmt.Sprintf("%q takes no string", sign)
	case sign.Finger() && len(digits) > 1:
		return t, fmt.Sprintf("a finger takes one string, not %q", digits)
	}
	for i := range len(digits) {
		switch {
		case digits[i] == '0':
			return t, "strings are numbered from 1"
		case i > 0 && digits[i] == digits[i-1]:
			return t, fmt.Sprintf("string %c is in %q twice", digits[i], digits)
		case i > 0 && digits[i] > digits[i-1]:
			return t, fmt.Sprintf("strings go from high to low, not as in %q", digits)
		}
		t.Strings |= Strings(int(digits[i] - '0'))
	}
	return t, ""
}

func parseMarks(sign Sign, s string) (marks Marks, reason string) {
	for s != "" {
		i := strings.IndexByte(markLetters, s[0])
		if i < 0 {
			_, n := utf8.DecodeRuneInString(s)
			return marks, fmt.Sprintf("%q is not a mark or target of %q", s[:n], sign)
		}
		m := Marks(1 << i)
		switch {
		case sign.Air():
			return marks, fmt.Sprintf("%q is in the air and takes no marks", sign)
		case marks.Has(m):
			return marks, fmt.Sprintf("the mark %q is there twice", s[:1])
		case m == Chuck && !sign.Strum():
			return marks, fmt.Sprintf("only a strum can be a chuck, not %q", sign)
		}
		marks |= m
		s = s[1:]
	}
	if marks.Has(Accent | Soft) {
		return marks, "a stroke is accented or soft, not both"
	}
	return marks, ""
}

func (p Pattern) checkGrid() error {
	grid := len(p.Bars[0])
	for i, bar := range p.Bars {
		switch {
		case !p.Meter.allows(len(bar)):
			return &SyntaxError{Bar: i + 1, Reason: fmt.Sprintf("%d slots do not make a bar of %s; use %s", len(bar), p.Meter, orList(p.Meter.Grids()))}
		case len(bar) != grid:
			return &SyntaxError{Bar: i + 1, Reason: fmt.Sprintf("%d slots, but bar 1 has %d; all bars of a pattern have one grid", len(bar), grid)}
		}
	}
	if n := p.Meter.SlotsPerBeat(grid); p.Swing && (p.Meter.Compound() || n != 2 && n != 4) {
		return &SyntaxError{Reason: "swing needs two or four slots a beat"}
	}
	return nil
}

func orList(ns []int) string {
	var list []string
	for _, n := range ns {
		list = append(list, strconv.Itoa(n))
	}
	return say.Or(list)
}

// dropInferredAir removes air strokes that the reader would put there anyway.
func (p Pattern) dropInferredAir() {
	if !p.HasStrums() {
		return
	}
	for _, bar := range p.Bars {
		for i, slot := range bar {
			if len(slot.Strokes) == 1 && slot.Strokes[0].Sign == airSign(p.direction(i)) {
				bar[i] = Slot{}
			}
		}
	}
}
