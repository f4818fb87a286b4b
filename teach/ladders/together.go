package ladders

import (
	"slices"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/draw"
	"arplin/store"
	"arplin/teach/songs"
)

// Together is the class playing its steps at once, for the projector.
type Together struct {
	Ladder Ladder
	Part   string
	Lanes  []TogetherLane // the bass below
	Count  draw.SVG       // of the finest lane
}

// TogetherLane is a step that some of the class are on. It is named as a part, never as a
// level.
type TogetherLane struct {
	Step          ladder.StepID
	Part          string
	Names         []string
	Plays         []string // instruments
	Instruments   []string // their ids
	Bars          []draw.SVG
	Scores        []string // an address for each instrument
	Below, Beyond ladder.StepID
	grid          int
}

// Together are the lanes of the steps in use; before anybody is on one, the target.
func (l Ladder) Together() Together {
	t := Together{Ladder: l, Part: l.Part()}
	for i, step := range l.Steps {
		var on []store.Student
		for _, st := range l.Class.Students {
			if l.Places[st.ID] == step.ID {
				on = append(on, st)
			}
		}
		if len(on) > 0 {
			t.Lanes = append(t.Lanes, l.lane(i, on))
		}
	}
	if len(t.Lanes) == 0 {
		t.Lanes = []TogetherLane{l.lane(len(l.Steps)-1, l.Class.Students)}
	}
	slices.Reverse(t.Lanes) // the higher steps above
	finest := 0
	for i, lane := range t.Lanes {
		if lane.grid > t.Lanes[finest].grid {
			finest = i
		}
	}
	t.Count = draw.StageCount(l.Steps[ladder.Find(l.Steps, t.Lanes[finest].Step)].Pattern)
	return t
}

// Lane is a step for those who play some instruments, as it is handed to a lane.
func (l Ladder) Lane(id ladder.StepID, instruments []string) (TogetherLane, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return TogetherLane{}, store.ErrNotFound
	}
	var on []store.Student
	for _, ins := range instruments {
		on = append(on, store.Student{Instrument: l.Class.Instrument(ins).ID})
	}
	lane := l.lane(at, on)
	lane.Names = nil
	return lane, nil
}

func (l Ladder) lane(at int, on []store.Student) TogetherLane {
	step := l.Steps[at]
	lane := TogetherLane{Step: step.ID, Part: l.way(at).part(), Bars: l.StageBars(at), grid: step.Pattern.Grid()}
	for _, st := range on {
		lane.Names = append(lane.Names, st.Name)
		ins := l.Class.Instrument(st.Instrument)
		if !slices.Contains(lane.Instruments, ins.ID) {
			lane.Instruments = append(lane.Instruments, ins.ID)
			lane.Plays = append(lane.Plays, strings.ToLower(ins.Name[:1])+ins.Name[1:])
		}
	}
	if len(lane.Instruments) == 0 {
		lane.Instruments, lane.Plays = []string{l.Instrument.ID}, []string{l.Instrument.Name}
	}
	for _, ins := range lane.Instruments {
		lane.Scores = append(lane.Scores, scoreOn(l.ID, step.ID, ins))
	}
	if at > 0 {
		lane.Below = l.Steps[at-1].ID
	}
	if at < len(l.Steps)-1 {
		lane.Beyond = l.Steps[at+1].ID
	}
	return lane
}

// partOf names what a step plays, by the hand.
func partOf(s ladder.Step) string {
	p := s.Pattern
	part := "rest"
	switch thumb := p.Uses(pattern.Thumb); {
	case p.HasStrums() && thumb:
		part = "bass and strum"
	case p.HasStrums():
		part = "strum"
	case p.UsesFingers():
		part = "picking"
	case thumb:
		part = "bass"
	case p.Uses(pattern.Sweep):
		part = "sweep"
	case p.Uses(pattern.Knock):
		part = "beat"
	}
	how := map[difficulty.Play]string{difficulty.Swings: "swing", difficulty.Said: "say", difficulty.Tapped: "tap", difficulty.Muted: "muted"}[s.Play]
	return strings.TrimSpace(how + " " + part)
}

// PartOf names what a step plays, by the hand.
func (l Ladder) PartOf(i int) string { return l.way(i).part() }

// StageBars are the pictures of a step for the room.
func (l Ladder) StageBars(i int) []draw.SVG { return l.way(i).stage() }

// Paper is the tune of a step in full, for paper; nil where it plays a figure.
func (l Ladder) Paper(i int, v songs.View) []songs.MelodySection { return l.way(i).paper(v) }
