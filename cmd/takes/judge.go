package main

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"arplin/core/listen"
	"arplin/core/listen/sim"
)

// result is how well a take was heard.
type result struct {
	strums              bool
	asked, heard        int // onsets
	hits, near          int // within 50 ms, within 25 ms
	errors              []float64
	want, named, right  int // faults
	others, othersNamed int
	othersFalse         int
	faultless, clean    bool
	drift               float64 // by how much it was wrong; NaN where the tempo was steady
	lost                bool
	says                string
}

// tally is a sum of results.
type tally struct {
	takes     int
	pick, str result
	all       result
	faultless int
	clean     int
	drifts    []float64
	lost      int
}

func (t *tally) add(r result) {
	t.takes++
	for _, into := range []*result{&t.all, map[bool]*result{true: &t.str, false: &t.pick}[r.strums]} {
		into.asked, into.heard, into.hits, into.near = into.asked+r.asked, into.heard+r.heard, into.hits+r.hits, into.near+r.near
		into.errors = append(into.errors, r.errors...)
		into.want, into.named, into.right = into.want+r.want, into.named+r.named, into.right+r.right
		into.others, into.othersNamed, into.othersFalse = into.others+r.others, into.othersNamed+r.othersNamed, into.othersFalse+r.othersFalse
	}
	if r.faultless {
		t.faultless++
		if r.clean {
			t.clean++
		}
	}
	if !math.IsNaN(r.drift) {
		t.drifts = append(t.drifts, math.Abs(r.drift))
	}
	if r.lost {
		t.lost++
	}
}

const head = `| Source | Recorded | Takes | Picking F ±50 | ±25 | Strums F ±50 | ±25 | Timing, median | Habits, precision | recall | Other string, named | wrongly | Drift, worst | Faultless without a fault | Not told |
|---|---|--:|--:|--:|--:|--:|--:|--:|--:|--:|--:|--:|--:|--:|`

func (t tally) row(source, condition string) string {
	f := func(r result, hits int) string {
		if r.asked+r.heard == 0 {
			return "–"
		}
		return fmt.Sprintf("%.3f", 2*float64(hits)/float64(r.asked+r.heard))
	}
	part := func(n, of int) string {
		if of == 0 {
			return "–"
		}
		return fmt.Sprintf("%.3f", float64(n)/float64(of))
	}
	drift := 0.0
	for _, d := range t.drifts {
		drift = max(drift, d)
	}
	return "| " + strings.Join([]string{
		source, condition, fmt.Sprint(t.takes), f(t.pick, t.pick.hits), f(t.pick, t.pick.near), f(t.str, t.str.hits), f(t.str, t.str.near),
		fmt.Sprintf("%.1f ms", middle(t.all.errors)), part(t.all.right, t.all.named), part(t.all.right, t.all.want), part(t.all.othersNamed, t.all.others),
		fmt.Sprint(t.all.othersFalse), fmt.Sprintf("%.1f", drift), part(t.clean, t.faultless), fmt.Sprint(t.lost),
	}, " | ") + " |"
}

func middle(list []float64) float64 {
	if len(list) == 0 {
		return 0
	}
	list = slices.Clone(list)
	slices.Sort(list)
	return list[len(list)/2]
}

// judge plays the take of a seed, lets the ear hear it and compares.
func judge(dir, source, condition string, seed uint64) (result, error) {
	t, err := taskOf(seed)
	if err != nil {
		return result{}, err
	}
	take := sim.Play(t.score, t.faults, seed)
	var notes []listen.Note
	faster := 1.0
	if source == "midi" {
		for _, n := range take.Notes {
			notes = append(notes, listen.Note{At: max(0, n.At), MIDI: n.MIDI, Loud: n.Loud})
		}
	} else {
		var s listen.Sound
		if s, faster, err = record(dir, source, condition, seed, t, take); err != nil {
			return result{}, err
		}
		notes, _ = listen.Hear(t.score, s)
	}
	h, err := listen.Listen(t.score, notes)
	if err != nil {
		return result{}, err
	}
	r := compare(t, take, h, faster)
	if r.says != "" {
		r.says = t.name + " " + t.planted + ": " + r.says + " | " + h.Sentence()
	}
	return r, nil
}

func compare(t task, take sim.Take, h listen.Hearing, faster float64) (r result) {
	r = result{strums: t.strums, drift: math.NaN(), lost: len(h.CannotTell) > 0, faultless: t.planted == ""}
	var asked, heard []float64
	for _, s := range take.Truth {
		if s.State != listen.Missed {
			asked = append(asked, max(0, s.At)/faster)
		}
		if s.State == listen.Other {
			r.others++
		}
	}
	for _, s := range h.Strokes {
		if s.State != listen.Missed {
			heard = append(heard, s.At)
		}
	}
	asked, heard = together(asked), together(heard)
	r.asked, r.heard = len(asked), len(heard)
	r.hits, r.errors = hits(asked, heard, 50)
	r.errors = apart(r.errors)
	r.near, _ = hits(asked, heard, 25)
	wrong := map[int]bool{}
	for _, s := range take.Truth {
		if s.State == listen.Other {
			wrong[s.Asked] = true
		}
	}
	for _, s := range h.Strokes {
		if s.State == listen.Other {
			if wrong[s.Asked] {
				r.othersNamed++
			} else {
				r.othersFalse++
			}
		}
	}
	named := map[key]bool{}
	for _, f := range h.Faults {
		named[key{f.Kind, f.Bar, f.Slot}] = true
	}
	var miss []string
	for k := range t.want {
		r.want++
		if named[k] {
			r.right++
		} else {
			miss = append(miss, fmt.Sprintf("not named: %v", k))
		}
	}
	for k := range named {
		if t.planted == "wrong-string" && k.kind == listen.IsOther {
			continue // often enough at one place to be one
		}
		r.named++
		if !t.want[k] {
			miss = append(miss, fmt.Sprintf("wrongly named: %v", k))
		}
	}
	r.clean = len(h.Faults) == 0
	if t.planted == "slowing" {
		r.drift = h.Drift + 8
	}
	if f := 2 * float64(r.hits) / float64(max(1, r.asked+r.heard)); f < 0.97 {
		miss = append(miss, fmt.Sprintf("F %.2f (%d asked, %d heard)", f, r.asked, r.heard))
	}
	if r.othersFalse > 0 || r.othersNamed < r.others {
		miss = append(miss, fmt.Sprintf("other %d of %d, %d wrongly", r.othersNamed, r.others, r.othersFalse))
	}
	slices.Sort(miss)
	r.says = strings.Join(miss, "; ")
	return r
}

// apart are errors without what all have in common, the delay of the recording, and without their signs.
func apart(errors []float64) []float64 {
	delay := middle(errors)
	for i, x := range errors {
		errors[i] = math.Abs(x - delay)
	}
	return errors
}

// together makes one of what begins within 30 ms.
func together(list []float64) (out []float64) {
	slices.Sort(list)
	for _, x := range list {
		if len(out) == 0 || x-out[len(out)-1] > 30 {
			out = append(out, x)
		}
	}
	return out
}

// hits are pairs of an asked and a heard onset within so many milliseconds, each once. Source of the measure: Bello and
// others, "A tutorial on onset detection in music signals", IEEE Transactions on Speech and Audio Processing 13(5), 2005.
func hits(asked, heard []float64, within float64) (n int, errors []float64) {
	for i, k := 0, 0; i < len(asked) && k < len(heard); {
		switch d := heard[k] - asked[i]; {
		case d < -within:
			k++
		case d > within:
			i++
		default:
			n++
			errors = append(errors, d)
			i, k = i+1, k+1
		}
	}
	return n, errors
}
