package teach

import (
	"arplin/store"
	"arplin/teach/answer"
	"arplin/teach/desk"
	"arplin/teach/files"
	"arplin/teach/home"
	"arplin/teach/ladders"
	"arplin/teach/lesson"
	"arplin/teach/paper"
	"arplin/teach/patterns"
	"arplin/teach/people"
	"arplin/teach/phone"
	"arplin/teach/songs"
)

// Teach is the rooms over one store. Safe for concurrent use.
type Teach struct {
	*answer.From
	People   *people.Room
	Home     *home.Room
	Patterns *patterns.Room
	Songs    *songs.Room
	Ladders  *ladders.Room
	Lesson   *lesson.Room
	Desk     *desk.Room
	Paper    *paper.Room
	Phone    *phone.Room
	Files    *files.Room
}

// New makes the rooms, each over those that it stands on.
func New(s *store.Store) *Teach {
	t := &Teach{From: answer.New(s)}
	t.People = &people.Room{From: t.From}
	t.Home = &home.Room{From: t.From, People: t.People}
	t.Patterns = &patterns.Room{From: t.From}
	t.Songs = &songs.Room{From: t.From, Patterns: t.Patterns}
	t.Ladders = &ladders.Room{From: t.From, People: t.People, Patterns: t.Patterns, Songs: t.Songs}
	t.Lesson = &lesson.Room{From: t.From, People: t.People, Patterns: t.Patterns, Ladders: t.Ladders, Home: t.Home}
	t.Desk = &desk.Room{From: t.From, People: t.People, Ladders: t.Ladders, Home: t.Home}
	t.Paper = &paper.Room{From: t.From, Ladders: t.Ladders}
	t.Phone = &phone.Room{From: t.From, People: t.People, Home: t.Home, Ladders: t.Ladders, Lesson: t.Lesson, Paper: t.Paper}
	t.Files = &files.Room{From: t.From, Ladders: t.Ladders}
	t.Patterns.Learners = t.Ladders.LearnersOf
	return t
}
