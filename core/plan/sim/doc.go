// Package sim is simulated learners, of whom the planner knows nothing: a class is taught by the plan,
// and all the same, and the two are compared. It uses plan.
package sim
