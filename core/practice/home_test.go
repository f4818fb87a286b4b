package practice_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/practice"
	"arplin/core/practice/fault"
)

// What a student says of home asks the teacher to listen, and decides nothing. Common practice.
func TestHomeAsksToBeHeard(t *testing.T) {
	stay := practice.Decide([]practice.Try{{ID: 1, Day: 1, Tempo: 60, Clean: true}}, 72, 8, false)
	done := func(day, tempo int) practice.HomeTry {
		return practice.HomeTry{Day: day, Tempo: tempo, Went: practice.Done}
	}
	hard := func(day int) practice.HomeTry { return practice.HomeTry{Day: day, Went: practice.Hard} }
	for _, c := range []struct {
		name string
		home []practice.HomeTry
		says string
	}{
		{"nothing", nil, "clean at 60, goal 72"},
		{"one day", []practice.HomeTry{done(5, 80), done(5, 80)}, "clean at 60, goal 72"},
		{"two days", []practice.HomeTry{done(5, 72), done(6, 75)}, "clean at 75 at home on 2 days, so hear it first"},
		{"below the goal", []practice.HomeTry{done(5, 70), done(6, 71)}, "clean at 60, goal 72"},
		{"too hard twice", []practice.HomeTry{hard(5), hard(6)}, "too hard at home on 2 days"},
	} {
		t.Run(c.name, func(t *testing.T) {
			d := stay.AtHome(c.home, 72, false)
			assert.Equal(t, c.says, practice.Words.Say(d.Why))
			assert.Equal(t, practice.Stay, d.Kind)
		})
	}
	assert.Equal(t, fault.Tension, practice.Decide(nil, 72, 8, true).AtHome([]practice.HomeTry{done(5, 90), done(6, 90)}, 72, false).Fault, "a tense hand comes first")
}

func TestTooHardIsSlowerTheNextTime(t *testing.T) {
	assert.Equal(t, 72, practice.HomeTempo(72, nil))
	assert.Equal(t, 65, practice.HomeTempo(72, []practice.HomeTry{{Went: practice.Done}, {Went: practice.Hard}}))
	assert.Equal(t, 72, practice.HomeTempo(72, []practice.HomeTry{{Went: practice.Hard}, {Went: practice.Done}}))
	assert.Equal(t, 0, practice.HomeTempo(0, []practice.HomeTry{{Went: practice.Hard}}))
}

// Whatever comes from home, nobody moves by it: the decision's kind is that of what was heard.
func TestHomeMovesNobody(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		var heard []practice.Try
		for i := range rapid.IntRange(0, 8).Draw(rt, "tries") {
			heard = append(heard, practice.Try{ID: int64(i + 1), Day: rapid.IntRange(0, 30).Draw(rt, "day"), Tempo: rapid.IntRange(40, 120).Draw(rt, "tempo"), Clean: rapid.Bool().Draw(rt, "clean")})
		}
		var home []practice.HomeTry
		for range rapid.IntRange(0, 20).Draw(rt, "home") {
			home = append(home, practice.HomeTry{Day: rapid.IntRange(0, 30).Draw(rt, "at"), Tempo: rapid.IntRange(0, 300).Draw(rt, "fast"), Went: rapid.SampledFrom(practice.Wents).Draw(rt, "went")})
		}
		d := practice.Decide(heard, 72, 30, rapid.Bool().Draw(rt, "tense"))
		after := d.AtHome(home, 72, false)
		assert.Equal(rt, d.Kind, after.Kind)
		assert.Equal(rt, d.Because, after.Because)
		hurt := d.AtHome(home, 72, true)
		assert.Equal(rt, practice.Stay, hurt.Kind)
		assert.Equal(rt, fault.Tension, hurt.Fault)
	})
}
