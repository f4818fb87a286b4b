package draw

import (
	"fmt"
	"strings"
)

// ink are the colours of a picture that stands by itself: black on white, for paper.
const ink = "svg{--ink:#000;--paper:#fff;--card:#fff;--band:#eee;--rule:#bbb;--edge:#777;--quiet:#444;--string:#888;--ghost:#888;--ghost-text:#666;--amber:#b45309;--green:#1f6b4f;--red:#b3261e;font-family:sans-serif}"

// Standalone is a picture as a file of its own, with the styles of the marks inside.
func Standalone(s SVG, styles string) []byte {
	text := strings.Replace(string(s), "<svg ", `<svg xmlns="http://www.w3.org/2000/svg" `, 1)
	if strings.Count(string(s), "xmlns=") > 0 {
		text = string(s)
	}
	end := strings.Index(text, ">") + 1
	return fmt.Appendf(nil, "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n%s<style>%s%s</style>%s\n", text[:end], ink, strings.NewReplacer("<", "", "&", "").Replace(styles), text[end:])
}
