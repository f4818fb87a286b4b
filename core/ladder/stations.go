package ladder

// OfTune reports a ladder whose steps are the stations of a tune.
func (l Ladder) OfTune() bool { return len(l.Steps) > 0 && l.Steps[0].Station != "" }
