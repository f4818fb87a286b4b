package practice_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/practice"
)

func TestParseLine(t *testing.T) {
	names := []string{"Pia", "Jo", "Jonas", "Anna Lena"}
	for line, want := range map[string][2]int{"pia 72": {0, 72}, "P 60": {0, 60}, "jo 84": {1, 84}, "jon 84": {2, 84}, "anna l 90": {3, 90}} {
		who, tempo, err := practice.ParseLine(line, names)
		assert.NoError(t, err, line)
		assert.Equal(t, want, [2]int{who, tempo}, line)
	}
	for line, want := range map[string]string{
		"pia":      `write a name and a tempo, such as "pia 72"`,
		"j 72":     `"j" could be Jo or Jonas; write more of the name`,
		"max 72":   `nobody in this class is called "max"`,
		"pia fast": `"fast" is not a tempo from 20 to 300 beats a minute`,
		"pia 700":  `"700" is not a tempo from 20 to 300 beats a minute`,
	} {
		_, _, err := practice.ParseLine(line, names)
		assert.EqualError(t, err, want)
	}
}
