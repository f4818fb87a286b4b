// Package draw makes pictures as SVG text from core values: the hand strip and
// the shape. Colours and type come from the page's style sheet by class, so one
// picture serves paper, screen and stage.
package draw
