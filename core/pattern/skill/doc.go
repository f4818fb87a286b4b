// Package skill has what a figure asks of the right hand: what it does, for somebody who looks for a figure,
// and what it learns once and uses in many figures.
package skill
