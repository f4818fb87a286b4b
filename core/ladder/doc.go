// Package ladder builds the steps from a first stroke up to a target pattern on
// its song, each adding one named thing, and carries out what a teacher does to
// them. A step has an id that it keeps through every edit; what it adds is an id,
// too, and its words are found when they are shown.
package ladder
