package draw

import (
	"fmt"
	"html"
	"strconv"
	"strings"
)

// SVG is a whole picture.
type SVG string

// Size is the width and height of a picture in pixels; none of an empty one.
func (s SVG) Size() (width, height float64) {
	_, box, _ := strings.Cut(string(s), `viewBox="0 0 `)
	_, err := fmt.Sscanf(box, "%f %f", &width, &height)
	if err != nil {
		return 0, 0
	}
	return width, height
}

// canvas collects SVG elements.
type canvas struct {
	b     strings.Builder
	slots string // where its slots are, for what lights them
}

// grid says where slots are: the left edge of the first bar, the width of a slot, how many
// a bar has, and the gap between bars.
func (c *canvas) grid(left, width float64, slots int, gap float64) {
	c.slots = fmt.Sprintf(` data-slots="%s %s %d %s"`, num(left), num(width), slots, num(gap))
}

// num prints a coordinate with at most one decimal.
func num(x float64) string {
	return strconv.FormatFloat(float64(int(x*10+0.5*sign(x)))/10, 'f', -1, 64)
}

func sign(x float64) float64 {
	if x < 0 {
		return -1
	}
	return 1
}

func (c *canvas) line(class string, x1, y1, x2, y2 float64) {
	fmt.Fprintf(&c.b, `<line class="%s" x1="%s" y1="%s" x2="%s" y2="%s"/>`, class, num(x1), num(y1), num(x2), num(y2))
}

func (c *canvas) rect(class string, x, y, w, h, r float64) {
	fmt.Fprintf(&c.b, `<rect class="%s" x="%s" y="%s" width="%s" height="%s" rx="%s"/>`, class, num(x), num(y), num(w), num(h), num(r))
}

func (c *canvas) circle(class string, x, y, r float64) {
	fmt.Fprintf(&c.b, `<circle class="%s" cx="%s" cy="%s" r="%s"/>`, class, num(x), num(y), num(r))
}

func (c *canvas) polygon(class string, points ...float64) {
	fmt.Fprintf(&c.b, `<polygon class="%s" points="%s"/>`, class, pointList(points))
}

func (c *canvas) polyline(class string, points ...float64) {
	fmt.Fprintf(&c.b, `<polyline class="%s" points="%s"/>`, class, pointList(points))
}

func pointList(points []float64) string {
	parts := make([]string, len(points))
	for i, p := range points {
		parts[i] = num(p)
	}
	return strings.Join(parts, " ")
}

// finger draws the mark of what plucks: thumb square, index circle, middle lozenge, ring
// triangle, little finger pentagon, a pick long and round. Its half width is about r.
func (c *canvas) finger(class, letter string, x, y, r float64) {
	k := r / markRadius // the others were shaped around a mark of that size
	switch letter {
	case "p":
		c.rect(class, x-r, y-r, 2*r, 2*r, 3*k)
	case "i":
		c.circle(class, x, y, r)
	case "m":
		r += k
		c.polygon(class, x, y-r, x+r, y, x, y+r, x-r, y)
	case "a":
		c.polygon(class, x, y-12*k, x+12*k, y+8*k, x-12*k, y+8*k)
	case "c":
		r += 1.5 * k
		c.polygon(class, x, y-r, x+r, y-2*k, x+r*0.62, y+r*0.85, x-r*0.62, y+r*0.85, x-r, y-2*k)
	default:
		c.rect(class, x-r+k, y-r-k, 2*r-2*k, 2*r+2*k, 8*k)
	}
}

// text is centred on x with its middle on y.
func (c *canvas) text(class string, x, y float64, s string) {
	fmt.Fprintf(&c.b, `<text class="%s" x="%s" y="%s">%s</text>`, class, num(x), num(y), html.EscapeString(s))
}

// svg wraps the picture; label is what a screen reader says of it.
func (c *canvas) svg(class, label string, w, h float64) SVG {
	return SVG(fmt.Sprintf(`<svg class="%s" xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %s %s" width="%s" height="%s"%s role="img" aria-label="%s">%s</svg>`,
		class, num(w), num(h), num(w), num(h), c.slots, html.EscapeString(label), c.b.String()))
}
