package ladders

import (
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	People   *people.Room
	Patterns *patterns.Room
	Songs    *songs.Room
}
