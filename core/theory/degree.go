package theory

import (
	"fmt"
	"iter"
	"math/bits"
	"strconv"
)

// Degree is a place above a root, counted along the major scale: 1 is the root,
// b3 the minor third, #11 the raised eleventh. The zero value is no degree.
type Degree struct {
	Number int8 // 1 to 13
	Alter  int8 // -2 to +2
}

// ParseDegree reads "b3", "#11", "5".
func ParseDegree(s string) (Degree, error) {
	rest, alter := s, 0
	for {
		step, after, ok := cutAccidental(rest)
		if !ok {
			break
		}
		alter, rest = alter+step, after
	}
	n, err := strconv.Atoi(rest)
	if err != nil || n < 1 || n > 13 || alter < -2 || alter > 2 {
		return Degree{}, fmt.Errorf("%q is not a degree such as b3 or 5", s)
	}
	return Degree{int8(n), int8(alter)}, nil
}

// String prints the degree as "b3".
func (d Degree) String() string {
	return accidentals(int(d.Alter)) + strconv.Itoa(int(d.Number))
}

// Semitones above the root, at least -2; beyond the octave from 8 on.
func (d Degree) Semitones() int {
	n := int(d.Number) - 1
	return letterSemitones[n%7] + 12*(n/7) + int(d.Alter)
}

// Class is the degree's semitones within the octave, 0 to 11.
func (d Degree) Class() int { return mod(d.Semitones(), 12) }

// toneSet is a set of degrees with numbers 1 to 13 and alterations -2 to +1,
// which is all that chord symbols can name. As a word it stays comparable and
// iterates in the order of the numbers.
type toneSet uint64

func toneBit(d Degree) toneSet { return 1 << (4*(uint(d.Number)-1) + uint(d.Alter+2)) }

func (t toneSet) has(d Degree) bool        { return t&toneBit(d) != 0 }
func (t toneSet) with(d Degree) toneSet    { return t | toneBit(d) }
func (t toneSet) hasNumber(n int8) bool    { return t>>(4*(uint(n)-1))&0xf != 0 }
func (t toneSet) drop(number int8) toneSet { return t &^ (0xf << (4 * (uint(number) - 1))) }

func (t toneSet) all() iter.Seq[Degree] {
	return func(yield func(Degree) bool) {
		for rest := uint64(t); rest != 0; rest &= rest - 1 {
			i := bits.TrailingZeros64(rest)
			if !yield(Degree{int8(i/4) + 1, int8(i%4) - 2}) {
				return
			}
		}
	}
}
