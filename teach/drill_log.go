package teach

import (
	"context"
	"fmt"
	"time"

	"arplin/core/practice"
	"arplin/letters"
	"arplin/store"
)

// LogDrill logs what was heard on a drill, as in a student's field: "72", "66 x".
func (t *Teach) LogDrill(ctx context.Context, teacher store.TeacherID, id store.DrillID, text, clientID string, now time.Time) (says string, err error) {
	d, err := t.Store.Drill(ctx, teacher, id)
	if err != nil {
		return "", err
	}
	line, err := practice.ParseOwn(text, nil, letters.Fold)
	switch {
	case err != nil:
		return "", refused(err)
	case line.Song != "" || line.Word != "" || line.Fault != "" || line.Bar > 0 || line.Minutes > 0:
		return "", refuse("a drill takes a tempo, and x when it was not clean")
	}
	if err := t.Store.AddDrillTry(ctx, teacher, d.ID, store.DrillTry{Tempo: line.Tempo, Failed: !line.Clean, At: now}, clientID); err != nil {
		return "", err
	}
	if line.Clean {
		return fmt.Sprintf("%d, clean.", line.Tempo), nil
	}
	return fmt.Sprintf("%d, not clean.", line.Tempo), nil
}
