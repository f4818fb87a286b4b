package paper

import (
	"arplin/teach/answer"
	"arplin/teach/ladders"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	Ladders *ladders.Room
}
