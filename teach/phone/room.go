package phone

import (
	"arplin/teach/answer"
	"arplin/teach/home"
	"arplin/teach/ladders"
	"arplin/teach/lesson"
	"arplin/teach/paper"
	"arplin/teach/people"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	People  *people.Room
	Home    *home.Room
	Ladders *ladders.Room
	Lesson  *lesson.Room
	Paper   *paper.Room
}
