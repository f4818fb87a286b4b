// Package teach is what a teacher does, a room each, every one on those before it:
// answer, people, patterns, songs, ladders, lesson, desk, paper, files. A room loads once from the
// store, computes once in the core, and answers with values to show. It knows nothing of pages.
package teach
