package vary

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
