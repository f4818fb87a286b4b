package files

import (
	"context"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// Archived is what is archived and looked for.
func (t *Room) Archived(ctx context.Context, teacher ref.Teacher, find store.Find) (list []store.Archived, more bool, err error) {
	return t.Store.ArchivedOf(ctx, teacher, find)
}

// Archive takes something off its list with everything in it, or brings it back.
func (t *Room) Archive(ctx context.Context, teacher ref.Teacher, kind ref.Kind, id int64, off bool) error {
	return t.Store.Archive(ctx, teacher, kind, id, off)
}

// Delete deletes something that is archived. It cannot be undone, so the name is typed.
func (t *Room) Delete(ctx context.Context, teacher ref.Teacher, kind ref.Kind, id int64, typed string) error {
	name, err := t.Store.ArchivedName(ctx, teacher, kind, id)
	if err != nil {
		return err
	}
	if typed != name {
		return answer.Refuse("nothing was deleted. Type the name, “%s”, to delete it for good", name)
	}
	return t.Store.Delete(ctx, teacher, kind, id)
}
