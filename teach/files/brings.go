package files

import (
	"fmt"
	"strings"

	"arplin/core/say"
)

// kindNames are the kinds of things that a bundle brings, as they are said; the ids are stored.
var kindNames = map[say.ID]string{
	"brings-patterns": "patterns", "brings-songs": "songs", "brings-classes": "classes", "brings-students": "students",
	"brings-ladders": "ladders", "brings-tries": "log entries", "brings-home": "entries from home", "brings-takes": "takes",
}

// Name is what the kind is called.
func (k TakingKind) Name() string { return kindNames[k.ID] }

// BringsWords are the words of what an import brought: each kind with its number, one after the other.
var BringsWords = func() say.Words {
	words := say.Words{}
	for id, name := range kindNames {
		words[id] = name + ": %s"
	}
	for n := range len(kindNames) + 1 {
		words[bringsOf(n)] = strings.TrimSuffix(strings.Repeat("%s, ", n), ", ")
	}
	return words
}()

// bringsOf is the line of so many kinds.
func bringsOf(n int) say.ID { return say.ID(fmt.Sprintf("brings-%d", n)) }
