// Package variation makes patterns simpler and harder by small named rules, one
// file a family of rules. What one direction of a rule leads to, the other leads
// back from; a rule's words stand in its row and are made true of the two
// figures by naming the notes that differ.
package variation
