package store

import (
	"context"
	"fmt"

	"arplin/store/ref"
)

func (im *importer) home(ctx context.Context, in Incoming) error {
	for _, x := range in.Home {
		e := x.Is
		e.LadderID = ref.Ladder(im.rows[x.Ladder])
		left, err := addHome(ctx, im.tx, im.teacher, ref.Student(im.rows[x.Student]), []HomeEntry{e})
		if err != nil {
			return err
		}
		if len(left) > 0 {
			return fmt.Errorf("an entry from home: %w", ErrNotFound)
		}
	}
	return nil
}

func (im *importer) takes(ctx context.Context, in Incoming) error {
	for _, x := range in.Takes {
		t := x.Is
		t.StudentID, t.LadderID = ref.Student(im.rows[x.Student]), ref.Ladder(im.rows[x.Ladder])
		if err := keepTake(ctx, im.tx, im.teacher, t, x.Sound); err != nil {
			return err
		}
	}
	return nil
}
