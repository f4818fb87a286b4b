// Package people is who is taught: the account of a teacher, classes with their students, the rules
// that they keep in forms and files alike, lists that are pasted, and what is said to them of
// posture, practising and care. It uses answer.
package people
