package song

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"arplin/core/hand"
	"arplin/core/theory"
)

// Edit is one thing that a teacher does to a song. Section and Bar count from 0.
type Edit struct {
	Op           string
	Section, Bar int
	Text         string // chords, a name, a number: what the operation needs
	Words        string
}

// The operations. Bar operations need Section and Bar, section operations Section.
const (
	SetBar     = "bar"     // chords in Text, words in Words
	SplitBar   = "split"   // two bars of half the time each
	JoinBar    = "join"    // with the bar after it: each chord takes half its time
	InsertBar  = "insert"  // after this one, with its last chord
	DeleteBar  = "delete"  //
	SetRole    = "role"    // Text is the role
	SetEnding  = "ending"  // Text is 0, 1 or 2
	SetTimes   = "times"   // of a section; Text is how often
	CopyPart   = "copy"    // the section again, after itself
	RenamePart = "rename"  //
	DeletePart = "drop"    //
	AddForm    = "form"    // Text is "12" or "16": a form in the song's key, as a new section
	SetMeter   = "meter"   //
	SetTempo   = "tempo"   //
	SetSwing   = "swing"   // Text is "yes" or empty
	SetRange   = "range"   // lowest and highest sung note: "A3 D5"
	SetShape   = "shape"   // "guitar F 133211"; without frets the choice is taken back
	SetKey     = "key"     // "G", with capos: "G guitar:2"
	Recolour   = "colour"  // Text is "sevenths" or "triads"
	Halve      = "halve"   // half the changes
	Remeter    = "remeter" // a pattern in another meter in Text, its name in Words
	SetPattern = "pattern" // Text in the stroke notation, its name in Words; Section -1 is every part
)

const maxTimes = 8

// Apply carries out an edit on a copy and says in words what was done. An edit
// that makes no sense is an error; a bar that does not add up is not.
func (s Song) Apply(e Edit) (Song, string, error) {
	s = s.Clone()
	switch e.Op {
	case SetMeter, SetTempo, SetSwing, SetRange, SetShape, SetKey, SetPattern, AddForm, Recolour, Halve, Remeter:
		says, err := s.applySong(e)
		return s, says, err
	}
	if e.Section < 0 || e.Section >= len(s.Sections) {
		return s, "", fmt.Errorf("there is no part %d", e.Section+1)
	}
	sec := &s.Sections[e.Section]
	switch e.Op {
	case SetTimes, CopyPart, RenamePart, DeletePart:
		says, err := s.applySection(e, sec)
		return s, says, err
	}
	if e.Bar < 0 || e.Bar >= len(sec.Bars) {
		return s, "", fmt.Errorf("there is no bar %d in %s", e.Bar+1, sec.Name)
	}
	says, err := s.applyBar(e, sec)
	return s, says, err
}

func (s *Song) applyBar(e Edit, sec *Section) (string, error) {
	bar := &sec.Bars[e.Bar]
	name := fmt.Sprintf("bar %d of %s", e.Bar+1, sec.Name)
	switch e.Op {
	case SetBar:
		changes, err := ParseBar(e.Text, s.Meter)
		if err != nil {
			return "", err
		}
		bar.Changes, bar.Words = changes, strings.Join(strings.Fields(e.Words), " ")
		return "Changed " + name, nil
	case SplitBar:
		first, second := splitBar(*bar, s.Meter)
		sec.Bars = slices.Replace(sec.Bars, e.Bar, e.Bar+1, first, second)
		return "Split " + name, nil
	case JoinBar:
		if e.Bar+1 >= len(sec.Bars) {
			return "", fmt.Errorf("there is no bar after it to join")
		}
		sec.Bars = slices.Replace(sec.Bars, e.Bar, e.Bar+2, joinBars(*bar, sec.Bars[e.Bar+1], s.Meter))
		return "Joined " + name + " with the next", nil
	case InsertBar:
		fresh := Bar{}
		if n := len(bar.Changes); n > 0 {
			fresh.Changes = []Change{{bar.Changes[n-1].Symbol, s.Meter.BarTicks()}}
		}
		sec.Bars = slices.Insert(sec.Bars, e.Bar+1, fresh)
		return "Put a bar after " + name, nil
	case DeleteBar:
		if len(s.Bars()) == 1 {
			return "", fmt.Errorf("a song keeps at least one bar")
		}
		sec.Bars = slices.Delete(sec.Bars, e.Bar, e.Bar+1)
		if len(sec.Bars) == 0 {
			s.Sections = slices.Delete(s.Sections, e.Section, e.Section+1)
		}
		return "Took out " + name, nil
	case SetRole:
		for _, r := range Roles {
			if string(r.Role) == e.Text {
				bar.Role = r.Role
				return "Marked " + name, nil
			}
		}
		return "", fmt.Errorf("%q is not a role of a bar", e.Text)
	case SetEnding:
		n, err := strconv.Atoi(e.Text)
		if err != nil || n < 0 || n > 2 {
			return "", fmt.Errorf("an ending is the first, the second or none")
		}
		bar.Ending = n
		return "Set the ending of " + name, nil
	}
	return "", fmt.Errorf("%q is not something that can be done to a song", e.Op)
}

// splitBar gives each half of a bar a bar of its own; one chord is played in both.
func splitBar(b Bar, m hand.Meter) (first, second Bar) {
	words := strings.Fields(b.Words)
	first, second = b, Bar{Ending: b.Ending}
	first.Words = strings.Join(words[:(len(words)+1)/2], " ")
	second.Words = strings.Join(words[(len(words)+1)/2:], " ")
	if len(b.Changes) < 2 {
		second.Changes = slices.Clone(b.Changes)
		return first, second
	}
	half := (len(b.Changes) + 1) / 2
	first.Changes, second.Changes = Fill(b.Changes[:half], m), Fill(b.Changes[half:], m)
	return first, second
}

// Fill stretches chords to a bar, each keeping its share.
func Fill(changes []Change, m hand.Meter) []Change {
	total := Bar{Changes: changes}.Ticks()
	out := make([]Change, len(changes))
	sum := 0
	for i, ch := range changes {
		from := m.BarTicks() * sum / max(1, total)
		sum += ch.Ticks
		out[i] = Change{ch.Symbol, m.BarTicks()*sum/max(1, total) - from}
	}
	return out
}

func joinBars(a, b Bar, m hand.Meter) Bar {
	changes := append(slices.Clone(a.Changes), b.Changes...)
	merged := changes[:0:0]
	for _, ch := range changes {
		if n := len(merged); n > 0 && merged[n-1].Symbol == ch.Symbol {
			merged[n-1].Ticks += ch.Ticks
			continue
		}
		merged = append(merged, ch)
	}
	a.Changes = Fill(merged, m)
	a.Words = strings.TrimSpace(a.Words + " " + b.Words)
	return a
}

func (s *Song) applySection(e Edit, sec *Section) (string, error) {
	switch e.Op {
	case SetTimes:
		n, err := strconv.Atoi(e.Text)
		if err != nil || n < 1 || n > maxTimes {
			return "", fmt.Errorf("a part is played 1 to %d times", maxTimes)
		}
		sec.Times = n
		return fmt.Sprintf("%s is played %d times", sec.Name, n), nil
	case CopyPart:
		again := *sec
		again.Bars = cloneBars(sec.Bars)
		s.Sections = slices.Insert(s.Sections, e.Section+1, again)
		return "Wrote " + again.Name + " again after itself", nil
	case RenamePart:
		name := strings.Join(strings.Fields(e.Text), " ")
		if name == "" || len([]rune(name)) > MaxPartName {
			return "", fmt.Errorf("a part needs a name of up to %d letters", MaxPartName)
		}
		sec.Name = name
		return "Named the part " + name, nil
	}
	if len(s.Bars()) == len(sec.Bars) { // other parts may be without bars
		return "", fmt.Errorf("a song keeps at least one part with bars")
	}
	name := sec.Name
	s.Sections = slices.Delete(s.Sections, e.Section, e.Section+1)
	return "Took out " + name, nil
}

func (s *Song) applySong(e Edit) (string, error) {
	switch e.Op {
	case SetMeter:
		m, err := hand.ParseMeter(e.Text)
		if err != nil {
			return "", err
		}
		s.setMeter(m)
		return "The song is in " + m.String(), nil
	case SetTempo:
		n, err := strconv.Atoi(strings.TrimSpace(e.Text))
		if err != nil || n < MinTempo || n > MaxTempo {
			return "", fmt.Errorf("%q is not a tempo from %d to %d", e.Text, MinTempo, MaxTempo)
		}
		s.Tempo = n
		return fmt.Sprintf("The goal is %d", n), nil
	case SetSwing:
		if s.Swing = e.Text != ""; s.Swing {
			return "The song swings", nil
		}
		return "The song is straight", nil
	case SetRange:
		return s.setRange(e.Text)
	case SetShape:
		return s.setShape(e.Text)
	case SetKey:
		return s.setKey(e.Text)
	case SetPattern:
		return s.setPattern(e)
	case Recolour:
		return s.recolour(e.Text)
	case Halve:
		return s.halve()
	case Remeter:
		return s.remeter(e)
	}
	return s.addForm(e.Text)
}

// setPattern gives the parts a right hand, or takes it away.
func (s *Song) setPattern(e Edit) (string, error) {
	if e.Section >= len(s.Sections) {
		return "", fmt.Errorf("there is no part %d", e.Section+1)
	}
	if err := e.checkName(); err != nil {
		return "", err
	}
	says := "No pattern is on it any more"
	if e.Text != "" {
		p, err := hand.Parse(e.Text)
		if err != nil {
			return "", err
		}
		if p.Meter != s.Meter {
			return "", fmt.Errorf("the pattern is in %s, the song in %s", p.Meter, s.Meter)
		}
		e.Text = p.String()
		says = "Put " + e.Words + " on it"
	}
	for i := range s.Sections {
		if e.Section < 0 || e.Section == i {
			s.Sections[i].Pattern, s.Sections[i].PatternName = e.Text, e.Words
		}
	}
	return says, nil
}

// Bounds of the names of a part and of its pattern, in letters.
const (
	MaxPartName    = 40
	MaxPatternName = 120
)

func (e Edit) checkName() error {
	if len([]rune(e.Words)) > MaxPatternName {
		return fmt.Errorf("a pattern's name has up to %d letters", MaxPatternName)
	}
	return nil
}

// setMeter keeps every chord's share of its bar.
func (s *Song) setMeter(m hand.Meter) {
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			bar := &s.Sections[i].Bars[j]
			if bar.Ticks() == s.Meter.BarTicks() {
				bar.Changes = Fill(bar.Changes, m)
			}
		}
	}
	s.Meter = m
}

func (s *Song) setRange(text string) (string, error) {
	notes := strings.Fields(text)
	if len(notes) == 0 {
		s.Low, s.High = "", ""
		return "The sung range is open", nil
	}
	if len(notes) != 2 {
		return "", fmt.Errorf("write the lowest and the highest sung note, such as A3 D5")
	}
	low, err := theory.ParsePitch(notes[0])
	if err != nil {
		return "", err
	}
	high, err := theory.ParsePitch(notes[1])
	if err != nil {
		return "", err
	}
	if low.MIDI() > high.MIDI() {
		return "", fmt.Errorf("%s is higher than %s", low, high)
	}
	s.Low, s.High = low.String(), high.String()
	return fmt.Sprintf("Sung from %s to %s", low, high), nil
}

// Clone returns a deep copy.
func (s Song) Clone() Song {
	sections := make([]Section, len(s.Sections))
	for i, sec := range s.Sections {
		sections[i] = sec
		sections[i].Bars = cloneBars(sec.Bars)
	}
	s.Sections = sections
	capo := map[string]int{}
	for k, v := range s.Capo {
		capo[k] = v
	}
	s.Capo = capo
	shapes := map[string]map[string]string{}
	for ins, chosen := range s.Shapes {
		shapes[ins] = map[string]string{}
		for k, v := range chosen {
			shapes[ins][k] = v
		}
	}
	s.Shapes = shapes
	return s
}

func cloneBars(bars []Bar) []Bar {
	out := make([]Bar, len(bars))
	for i, b := range bars {
		out[i] = b
		out[i].Changes = slices.Clone(b.Changes)
	}
	return out
}
