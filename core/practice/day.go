package practice

// Minutes a day for which drills and plans are made. Common practice is 10 to 30.
const (
	MinDay   = 5
	MaxDay   = 120
	UsualDay = 15
)
