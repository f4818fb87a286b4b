package people

import (
	"maps"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/ladder"
	ladderedit "arplin/core/ladder/edit"
	"arplin/core/ladder/order"
	"arplin/core/ladder/station"
	"arplin/core/pattern/catalogue"
	"arplin/core/plan"
	"arplin/core/practice/fault"
	"arplin/core/say"
	"arplin/core/song"
	songedit "arplin/core/song/edit"
	"arplin/core/variation"
)

// Text is something that is said, by what it is said of: for proofreading, and for
// another language one day.
type Text struct {
	ID   string // "rule/accents/more"
	Says []string
}

// Words are all texts that stand in the rows of what they describe, in the order
// of their tables.
func Words() (list []Text) {
	add := func(id string, says ...string) { list = append(list, Text{id, says}) }
	for _, r := range variation.Rules {
		add("rule/"+string(r.ID)+"/more", r.More.Name, r.More.Says, r.More.One, r.How)
		add("rule/"+string(r.ID)+"/less", r.Less.Name, r.Less.Says, r.Less.One)
	}
	for _, m := range variation.MoveWords {
		add("move/"+string(m.ID), m.Name, m.Says)
	}
	for _, s := range ladder.Stages {
		add("stage/"+string(s.Stage), s.Name, s.Says, s.How)
	}
	for _, o := range ladder.OverNames {
		add("over/"+string(o.Over), o.Name)
	}
	for _, o := range order.All {
		add("order/"+string(o.Value), o.Name, o.Says)
	}
	for _, o := range order.Sizes {
		add("size/"+string(o.Value), o.Name, o.Says)
	}
	for _, o := range order.ChordsCome {
		add("chords-come/"+string(o.Value), o.Name, o.Says)
	}
	for _, o := range order.PartsCome {
		add("parts/"+string(o.Value), o.Name, o.Says)
	}
	for _, p := range difficulty.PlayNames {
		add("play/"+string(p.Play), p.Name)
	}
	for _, p := range difficulty.Definitions() {
		add("part/"+string(p.ID), p.Label, p.About, p.Unit)
	}
	for _, s := range drill.Stages {
		add("drill/"+string(s.ID), s.Title, s.Why)
	}
	for _, r := range song.Roles {
		add("role/"+string(r.Role), r.Says)
	}
	for _, of := range []struct {
		what  string
		words say.Words
	}{{"done/song", songedit.DoneWords}, {"done/ladder", ladderedit.DoneWords}, {"plan", plan.Words}} {
		for _, id := range slices.Sorted(maps.Keys(of.words)) {
			add(of.what+"/"+string(id), of.words[id])
		}
	}
	for _, f := range fault.All {
		add("fault/"+string(f.Fault), slices.DeleteFunc([]string{f.Name, f.Remedy, f.Strum, f.One}, func(s string) bool { return s == "" })...)
	}
	for _, s := range station.All {
		add("station/"+string(s.ID), s.Name, s.Says, s.How)
	}
	for _, e := range catalogue.All {
		add("pattern/"+e.ID, e.Name, e.Says, e.Watch)
	}
	for _, l := range postureLines {
		add("posture", l.first, l.next)
	}
	add("practise", HowTo...)
	for _, p := range difficulty.PlayNames {
		add("practise/"+string(p.Play), beforeStrings[p.Play]...)
	}
	add("care", Care...)
	return list
}
