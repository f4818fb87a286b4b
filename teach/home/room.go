package home

import (
	"context"
	"sync"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	People *people.Room
	mu     sync.Mutex
	key    []byte // with which secrets are made; empty until it was read
}

// schoolKey is the key of this school, which its database keeps.
func (t *Room) schoolKey(ctx context.Context) ([]byte, error) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.key != nil {
		return t.key, nil
	}
	key, err := t.Store.PhoneKey(ctx)
	if err == nil {
		t.key = key
	}
	return key, err
}

// Of is a student with the own class.
func (t *Room) Of(ctx context.Context, teacher ref.Teacher, at people.Class, id ref.Student) (of people.Class, st store.Student, err error) {
	if st, err = t.Store.Student(ctx, teacher, id); err != nil {
		return of, st, err
	}
	of, err = t.People.ClassOf(ctx, teacher, st.ClassID, at)
	return of, st, err
}
