package lesson

import (
	"fmt"

	"arplin/core/ladder"
	"arplin/store/ref"
	"arplin/teach/songs"
)

// Alongs are the play-alongs of a week: each step that is practised, at its tempos of the week
// and at its goal. What the tasks play is in their Along.
func (w *StudentWeek) Alongs() (list []songs.Along, err error) {
	type at struct {
		song ref.Ladder
		step ladder.StepID
	}
	scores := map[at]songs.Score{}
	tempos := map[at][]int{}
	names := map[at]string{}
	var order []at
	for i := range w.Days {
		for k := range w.Days[i].Tasks {
			task := &w.Days[i].Tasks[k]
			if task.Hear == "" {
				continue
			}
			l := w.ladders[task.Song]
			key := at{l.ID, l.Steps[task.Step].ID}
			if _, there := scores[key]; !there {
				if scores[key], err = l.StepScore(key.step, songs.ScoreAsk{Student: w.Student.ID, Chords: true}); err != nil {
					return nil, err
				}
				names[key] = fmt.Sprintf("%d %s, step %d", len(order)+1, l.SongTitle, task.Step+1)
				tempos[key] = []int{scores[key].Goal}
				order = append(order, key)
			}
			if task.Tempo > 0 {
				tempos[key] = append(tempos[key], task.Tempo)
				task.Along = songs.AlongsAt(names[key], scores[key], task.Tempo)[0].Name
			}
		}
	}
	for _, key := range order {
		list = append(list, songs.AlongsAt(names[key], scores[key], tempos[key]...)...)
	}
	return list, nil
}

// FirstHeard is the address of the first score that the lesson has, "" for none.
func (l Lesson) FirstHeard() string {
	for _, p := range l.Pieces {
		if p.Hear != "" {
			return p.Hear
		}
		if len(p.Groups) > 0 {
			return p.Groups[0].Hear
		}
	}
	return ""
}

// FirstHeard is the address of the first score of the week, "" for none.
func (w StudentWeek) FirstHeard() string {
	for _, d := range w.Days {
		for _, task := range d.Tasks {
			if task.Hear != "" {
				return task.Hear
			}
		}
	}
	return ""
}
