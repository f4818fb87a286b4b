package musicxml

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/song"
	"arplin/core/theory"
)

// The kinds of what is no chord, and of a symbol that is none of these.
const noKind, otherKind = "none", "other"

// harmonyOf is a chord symbol; its text is what it is written as.
func harmonyOf(ch song.Change) harmony {
	c, err := ch.Chord()
	if err != nil {
		h := harmony{Root: &noteName{Step: "C"}, Kind: kind{&ch.Symbol, otherKind}}
		if ch.Silent() {
			h.Kind.Value = noKind
		}
		return h
	}
	h := harmony{Root: &noteName{stepOf(c.Root), int(c.Root.Alter)}}
	if c.Bass != c.Root {
		h.Bass = &bassName{stepOf(c.Bass), int(c.Bass.Alter)}
	}
	suffix := c.Suffix
	h.Kind = kind{&suffix, otherKind}
	fewest := -1
	for _, q := range theory.Qualities {
		base, err := theory.ParseChord("C" + q.Suffix)
		if err != nil || q.Kind == "" {
			continue
		}
		if d := degreesBetween(base, c); fewest < 0 || len(d) < fewest {
			fewest, h.Kind.Value, h.Degrees = len(d), q.Kind, d
		}
	}
	return h
}

// degreesBetween is what a kind needs to be a chord: tones altered, added, taken away.
func degreesBetween(base, c theory.Chord) (list []degree) {
	has, wants := base.Degrees(), c.Degrees()
	number := func(n int8) func(theory.Degree) bool { return func(d theory.Degree) bool { return d.Number == n } }
	for _, d := range wants {
		if slices.Contains(has, d) {
			continue
		}
		alter := int(d.Alter)
		if d.Number == 7 {
			alter++ // an added seventh is counted from the minor one
		}
		if i := slices.IndexFunc(has, number(d.Number)); i >= 0 && !slices.Contains(wants, has[i]) {
			list = append(list, degree{int(d.Number), int(d.Alter - has[i].Alter), "alter"})
			continue
		}
		list = append(list, degree{int(d.Number), alter, "add"})
	}
	for _, d := range has {
		if !slices.ContainsFunc(wants, number(d.Number)) {
			list = append(list, degree{int(d.Number), 0, "subtract"})
		}
	}
	return list
}

// symbol reads a chord: as it is written where that is a symbol, else by its kind and degrees;
// ok is false for one that neither says.
func (h harmony) symbol() (symbol string, ok bool) {
	value := strings.TrimSpace(h.Kind.Value)
	if value == noKind || h.Root == nil {
		return song.NoChord, value == noKind
	}
	root := noteText(h.Root.Step, h.Root.Alter)
	bass := ""
	if h.Bass != nil {
		bass = "/" + noteText(h.Bass.Step, h.Bass.Alter)
	}
	if h.Kind.Text != nil {
		for _, text := range []string{root + *h.Kind.Text + bass, *h.Kind.Text} {
			if c, err := theory.ParseChord(text); err == nil {
				return c.String(), true
			}
		}
		if value == otherKind {
			return *h.Kind.Text, *h.Kind.Text != ""
		}
	}
	i := slices.IndexFunc(theory.Qualities, func(q theory.Quality) bool { return q.Kind == value && value != "" })
	if i < 0 {
		return root + bass, false
	}
	text := root + theory.Qualities[i].Suffix
	for _, d := range h.Degrees {
		text += d.text()
	}
	if c, err := theory.ParseChord(text + bass); err == nil {
		return c.String(), true
	}
	c, err := theory.ParseChord(root + theory.Qualities[i].Suffix + bass)
	return c.String(), err == nil && len(h.Degrees) == 0
}

func (d degree) text() string {
	sign := strings.Repeat("#", max(0, d.Alter)) + strings.Repeat("b", max(0, -d.Alter))
	switch {
	case d.Type == "subtract":
		return fmt.Sprintf("(no%d)", d.Value)
	case sign == "":
		return fmt.Sprintf("(add%d)", d.Value)
	}
	return fmt.Sprintf("(%s%d)", sign, d.Value)
}

func noteText(step string, alter int) string {
	return strings.TrimSpace(step) + strings.Repeat("#", max(0, alter)) + strings.Repeat("b", max(0, -alter))
}
