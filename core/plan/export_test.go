package plan

import (
	"arplin/core/practice"
	"arplin/core/say"
)

// FromLessonToLesson is how long some steps take somebody who goes on at lessons.
var FromLessonToLesson = fromLessonToLesson

// Meanwhile is what some who are on steps of one song, and have tried them or not, do in a group.
func Meanwhile(tried bool, on ...int) say.Line {
	var list []standing
	for _, step := range on {
		p := Place{Step: step}
		if tried {
			p.Tries = []practice.Try{{Day: 1, Tempo: 60, Clean: true}}
		}
		list = append(list, standing{Student: &Student{ID: 1}, Place: p, Standing: practice.Standing{Next: 60}})
	}
	return reading{}.meanwhile(list, list[0])
}
