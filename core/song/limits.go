package song

// Bounds of what a song is written with.
const (
	MaxTitle       = 120 // letters
	MaxTags        = 12
	MaxTag         = 30  // letters
	MaxSectionName = 40  // letters
	MaxPatternName = 120 // letters, of a section's pattern
	MaxNote        = 500 // letters of a line that a sheet keeps
	MaxTimes       = 8   // times that a section is played
	MaxBars        = 400 // as written
)
