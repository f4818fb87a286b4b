package people

import (
	"arplin/teach/answer"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
}
