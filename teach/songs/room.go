package songs

import (
	"arplin/teach/answer"
	"arplin/teach/patterns"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	Patterns *patterns.Room
}
