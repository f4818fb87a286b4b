package theory

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

var (
	majorTriad = tones("1 3 5")
	minorTriad = tones("1 b3 5")
)

// suffixReader reads what stands between a chord's root and its slash, from
// left to right: a quality, a number, then any number of changes.
type suffixReader struct {
	src    string
	pos    int
	depth  int // open parentheses
	tones  toneSet
	major7 bool // a written "maj" makes the seventh major
	dim    bool
	reason string
}

// readSuffix returns the tones, or the offset and reason of what it cannot read.
func readSuffix(s string) (t toneSet, offset int, reason string) {
	r := &suffixReader{src: s}
	r.tones = majorTriad
	r.quality()
	r.number()
	for r.reason == "" && !r.end() {
		r.change()
	}
	if r.reason == "" && r.depth > 0 {
		r.fail("a bracket is not closed")
	}
	return r.tones, r.pos, r.reason
}

func tones(list string) (t toneSet) {
	for _, f := range strings.Fields(list) {
		d, err := ParseDegree(f)
		if err != nil {
			panic(err)
		}
		t = t.with(d)
	}
	return t
}

// quality reads the leading word or sign. The order matters: longer words
// first, and "ma" must not eat the front of "madd9".
func (r *suffixReader) quality() {
	switch {
	case r.take("omit"), r.take("no"): // changes, not a quality
		r.pos = 0
	case r.take("maj", "Maj", "MAJ"):
		r.majorWord()
	case !r.peek("mad") && r.take("ma", "Ma"), r.take("M"):
		r.majorWord()
	case r.take("Δ", "△", "^"):
		r.major7 = true
		if !r.digit() {
			r.tones = r.tones.with(Degree{7, 0})
		}
	case r.take("min", "Min", "mi", "m"):
		r.minor()
	case r.peek("-5"):
		r.fail(`"-5" can be read in two ways; write m or b5`)
	case r.take("-"):
		r.minor()
	case r.take("dim", "°", "º", "o"):
		r.tones, r.dim = tones("1 b3 b5"), true
		r.majorSeventh()
	case r.take("ø", "Ø"):
		r.tones = tones("1 b3 b5 b7")
		r.take("7")
	case r.take("aug", "+"):
		r.tones = tones("1 3 #5")
		r.take("5")
		r.majorSeventh()
	}
}

// majorWord follows "maj" or "M": alone it is the triad, before a number it
// makes the seventh major, except for the sixth.
func (r *suffixReader) majorWord() { r.major7 = !r.peek("6") }

func (r *suffixReader) minor() {
	r.tones = minorTriad
	r.majorSeventh()
}

// majorSeventh reads the second half of "m(maj7)", "mM7", "m/maj7", "mΔ", "+maj7".
func (r *suffixReader) majorSeventh() {
	start := r.pos
	open := r.take("(")
	if !open {
		r.take("/")
	}
	if !r.take("maj", "Maj", "ma7", "M") && !r.take("Δ", "^") || r.peek("dd") {
		r.pos = start
		return
	}
	if strings.HasSuffix(r.src[:r.pos], "ma7") {
		r.pos--
	}
	r.major7 = true
	if !r.digit() {
		r.tones = r.tones.with(Degree{7, 0})
	}
	if open {
		r.depth++
	}
}

// number reads the chord's size.
func (r *suffixReader) number() {
	seventh := Degree{7, -1}
	switch {
	case r.major7:
		seventh.Alter = 0
	case r.dim:
		seventh.Alter = -2
	}
	switch {
	case r.take("6/9", "69"):
		r.tones |= tones("6 9")
	case r.take("6"):
		r.tones |= tones("6")
	case r.take("7"):
		r.tones = r.tones.with(seventh)
	case r.take("9"):
		r.tones = r.tones.with(seventh) | tones("9")
	case r.take("11"):
		// The eleventh rubs against a major third, which players leave out.
		if r.tones.has(Degree{3, 0}) {
			r.tones = r.tones.drop(3)
		}
		r.tones = r.tones.with(seventh) | tones("9 11")
	case r.take("13"):
		r.tones = r.tones.with(seventh) | tones("9 13")
	case r.pos == 0 && r.take("5"):
		r.tones = tones("1 5")
	case r.pos == 0 && r.take("2"):
		r.tones |= tones("9")
	}
}

// change reads one alteration, addition, omission or suspension.
func (r *suffixReader) change() {
	switch {
	case r.take("("):
		r.depth++
	case r.take(")"):
		if r.depth--; r.depth < 0 {
			r.pos--
			r.fail("a bracket is closed that was not opened")
		}
	case r.take(",", " "):
	case r.take("sus2sus4", "sus24", "sus42"):
		r.suspend(tones("2 4"))
	case r.take("sus2"):
		r.suspend(tones("2"))
	case r.take("sus4", "sus"):
		r.suspend(tones("4"))
	case r.take("add"):
		r.add()
	case r.take("no", "omit"):
		r.omit()
	case r.tones.hasNumber(7) && r.take("alt"):
		r.tones = r.tones.drop(5) | tones("#5 #9")
	case r.tones.hasNumber(7) && r.take("aug"):
		r.tones = r.tones.drop(5) | tones("#5")
	case r.depth > 0 && r.tones.hasNumber(7) && (r.peek("9") || r.peek("11") || r.peek("13")):
		r.tones = r.tones.with(r.degree())
	case r.depth > 0 && r.take("maj7", "M7"):
		r.tones = r.tones.drop(7) | tones("7")
	default:
		r.alter()
	}
}

// suspend puts second or fourth in the third's place.
func (r *suffixReader) suspend(in toneSet) {
	if !r.tones.hasNumber(3) && !r.tones.hasNumber(11) || r.tones.has(Degree{3, -1}) {
		r.fail("a suspended chord has no third to be minor or left out")
		return
	}
	r.tones = r.tones.drop(3) | in
}

func (r *suffixReader) add() {
	d := r.degree()
	switch d.Number {
	case 2:
		d.Number = 9 // an added second is written either way and fingered as a ninth
	case 4, 6, 9, 11, 13:
	default:
		r.fail("after add comes 2, 4, 6, 9, 11 or 13")
		return
	}
	r.tones = r.tones.with(d)
}

func (r *suffixReader) omit() {
	switch {
	case r.take("3"):
		r.tones = r.tones.drop(3)
	case r.take("5"):
		r.tones = r.tones.drop(5)
	default:
		r.fail("only 3 or 5 can be left out")
	}
}

// alter reads b5, #9, +11, -5 and the like; a bare plus raises the fifth.
func (r *suffixReader) alter() {
	start := r.pos
	signed := r.peek("b") || r.peek("#") || r.peek("♭") || r.peek("♯") || r.peek("+") || r.peek("-")
	if !signed {
		r.fail(fmt.Sprintf("%q is not known here", firstRune(r.src[r.pos:])))
		return
	}
	if r.peek("+") && r.pos+1 == len(r.src) {
		r.pos++
		r.tones = r.tones.drop(5) | tones("#5")
		return
	}
	d := r.degree()
	switch {
	case d.Alter == 0:
		r.pos = start
		r.fail(fmt.Sprintf("%q is not known here", firstRune(r.src[start:])))
	case d.Number == 5, d.Number == 9, d.Number == 11 && d.Alter > 0, d.Number == 13 && d.Alter < 0, d.Number == 6 && d.Alter < 0:
		natural := Degree{d.Number, 0}
		if r.tones.has(natural) {
			r.tones = r.tones.drop(d.Number)
		}
		r.tones = r.tones.with(d)
	case d.Number == 4 && d.Alter > 0:
		r.tones = r.tones.with(Degree{11, 1})
	default:
		r.pos = start
		r.fail(fmt.Sprintf("%s is not an alteration that chords use", d))
	}
}

// degree reads an optional sign and a number.
func (r *suffixReader) degree() Degree {
	alter := 0
	switch {
	case r.take("b", "♭", "-"):
		alter = -1
	case r.take("#", "♯", "+"):
		alter = 1
	}
	for _, n := range []string{"13", "11", "9", "7", "6", "5", "4", "2"} {
		if r.take(n) {
			d, _ := ParseDegree(n)
			d.Alter = int8(alter)
			return d
		}
	}
	return Degree{Number: 1}
}

func (r *suffixReader) end() bool          { return r.pos >= len(r.src) }
func (r *suffixReader) peek(s string) bool { return strings.HasPrefix(r.src[r.pos:], s) }
func (r *suffixReader) digit() bool        { return !r.end() && r.src[r.pos] >= '0' && r.src[r.pos] <= '9' }
func (r *suffixReader) fail(reason string) { r.reason = reason }
func (r *suffixReader) take(words ...string) bool {
	for _, w := range words {
		if r.peek(w) {
			r.pos += len(w)
			return true
		}
	}
	return false
}

func firstRune(s string) string {
	_, n := utf8.DecodeRuneInString(s)
	return s[:n]
}
