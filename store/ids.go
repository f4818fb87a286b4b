package store

// Ids are types of their own, so that two cannot be swapped.
type (
	TeacherID int64
	ClassID   int64
	StudentID int64
	SongID    int64
	LadderID  int64
	PatternID int64
	EntryID   int64
	DrillID   int64
	LessonID  int64
)
