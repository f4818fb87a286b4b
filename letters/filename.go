package letters

import "strings"

// FileName is a title that can be a file's name everywhere.
func FileName(title string) string {
	return strings.TrimSpace(strings.Map(func(r rune) rune {
		if strings.ContainsRune(`\/:*?"<>|`, r) || r < ' ' {
			return '-'
		}
		return r
	}, title))
}
