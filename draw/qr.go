package draw

import (
	"fmt"

	"github.com/skip2/go-qrcode"
)

// QR is a text as a QR code (ISO/IEC 18004), with the quiet zone that the standard asks for: four modules.
// A quarter of it may be damaged (level M corrects 15 %).
func QR(text string) (SVG, error) {
	code, err := qrcode.New(text, qrcode.Medium)
	if err != nil {
		return "", fmt.Errorf("a QR code of %d characters: %w", len(text), err)
	}
	bits := code.Bitmap() // with its quiet zone
	c := canvas{}
	c.b.WriteString(`<path class="qrink" d="`)
	for y, row := range bits {
		for x := 0; x < len(row); x++ {
			n := 0
			for x+n < len(row) && row[x+n] {
				n++
			}
			if n > 0 {
				fmt.Fprintf(&c.b, "M%d %dh%dv1h-%dz", x, y, n, n)
				x += n
			}
		}
	}
	c.b.WriteString(`"/>`)
	size := float64(len(bits))
	return c.svg("qr", "QR code of the link", size, size), nil
}
