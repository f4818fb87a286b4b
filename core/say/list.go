package say

import (
	"fmt"
	"strings"
)

// And lists words: "a", "a and b", "a, b and c".
func And(list []string) string { return last(list, " and ") }

// Or lists what can be chosen: "a", "a or b", "a, b or c".
func Or(list []string) string { return last(list, " or ") }

func last(list []string, word string) string {
	n := len(list)
	if n < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:n-1], ", ") + word + list[n-1]
}

// Count counts things: "1 bar", "2 bars".
func Count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// Verb is the one for one and the other for several.
func Verb[T ~string](n int, one, many T) T {
	if n == 1 {
		return one
	}
	return many
}

// Times says how often: "once", "2 times".
func Times(n int) string {
	if n == 1 {
		return "once"
	}
	return fmt.Sprintf("%d times", n)
}
