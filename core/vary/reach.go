package vary

import "arplin/core/demand"

// LevelAt is how hard a step is at a tempo other than its goal, as when it was
// played clean more slowly. The task is the target on its song.
func (s Step) LevelAt(tempo int, t demand.Task, w demand.Weights) float64 {
	t = s.Task(t)
	t.Tempo = tempo
	return demand.Of(t, w).Level
}

// Reach is the step, from 0, on which somebody begins who has played something of
// a level clean: the hardest that is no harder than that, else the first.
func Reach(steps []Step, level float64) int {
	at := 0
	for i, s := range steps {
		if s.Level <= level {
			at = i
		}
	}
	return at
}
