package lesson

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/plan"
	"arplin/store"
	"arplin/teach/people"
)

// A lesson that was kept when sentences had tags for names is shown as it was, and names nobody who
// has left.
func TestALessonFromBeforeThereWereLines(t *testing.T) {
	var kept keptLesson
	require.NoError(t, json.Unmarshal([]byte(`{"plan":{"Minutes":45,"Pieces":[
		{"Kind":"groups","Minutes":45,"Song":0,"Step":-1,"Tempo":0,"Does":"By step, on {l7}.","Why":"ready for it: {p1} (clean) and {p9}","Because":null,
		 "Groups":[{"People":[{"ID":1,"Name":"{p1}","Step":2,"Kind":"stay","Why":"clean at 72, goal 80","Because":null}],"Step":2,"Tempo":60,"Minutes":9,"Meanwhile":"{p1} rests the hand."}]}
	]},"songs":[{"ladder":7,"steps":[1,2,3]}]}`), &kept))
	l := lessonPlan{Lesson: Lesson{Class: people.Class{Students: []store.Student{{ID: 1, Name: "Ada"}}}}, kept: kept}
	p := planning{}
	piece := l.view(p, l.Lesson.Began).Pieces[0]
	assert.Equal(t, "By step, on a song that’s gone.", piece.Does)
	assert.Equal(t, "ready for it: Ada (clean) and someone who has left", piece.Why)
	assert.Equal(t, "Ada rests the hand.", piece.Groups[0].Meanwhile)
	assert.Equal(t, "Ada", piece.Groups[0].People[0].Name)
	assert.Equal(t, "clean at 72, goal 80", piece.Groups[0].People[0].Why)
	assert.Equal(t, plan.Groups, piece.Kind)
}
