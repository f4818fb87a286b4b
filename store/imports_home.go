package store

import (
	"context"
	"fmt"
)

func (im *importer) home(ctx context.Context, in Incoming) error {
	for _, x := range in.Home {
		e := x.Entry
		e.LadderID = LadderID(im.rows[x.Ladder])
		left, err := addHome(ctx, im.tx, im.teacher, StudentID(im.rows[x.Student]), []HomeEntry{e})
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
		t := x.Take
		t.StudentID, t.LadderID = StudentID(im.rows[x.Student]), LadderID(im.rows[x.Ladder])
		if err := keepTake(ctx, im.tx, im.teacher, t, x.Sound); err != nil {
			return err
		}
	}
	return nil
}
