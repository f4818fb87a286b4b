// Package teach is what a teacher does, a file each: the desk, a song, a ladder,
// a sheet, a drill, the patterns. Each loads once from the store, computes once
// in the core, and answers with values to show. It knows nothing of pages.
package teach
