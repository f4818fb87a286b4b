package desk

import (
	"arplin/teach/answer"
	"arplin/teach/home"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	People  *people.Room
	Ladders *ladders.Room
	Home    *home.Room
}
