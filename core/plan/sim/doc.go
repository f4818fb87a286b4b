// Package sim is simulated learners, of whom the planner knows nothing: a class is taught by the plan,
// and all the same, and the two are compared. It uses plan, and math/rand/v2 with a source of a given
// seed: the same seed is the same class. A test in core/arch holds it to that.
package sim
