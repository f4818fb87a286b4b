package people_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/teach/people"
)

// Lists as they are found in mails, notes and spreadsheets.
func TestParseRoster(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want string
	}{
		"names alone":        {"Zoë\nBen\n\nAda", "Zoë guitar, Ben guitar, Ada guitar"},
		"with instruments":   {"Zoë, ukulele\nBen - guitar, left\nAda: baritone\nJo (uke low g)", "Zoë ukulele, Ben guitar left, Ada baritone, Jo ukulele-low-g"},
		"numbered":           {"1. Zoë ukulele\n2) Ben\n• Ada 20 min", "Zoë ukulele, Ben guitar, Ada guitar 20"},
		"a spreadsheet":      {"Name\tPlays\tMinutes\nZoë\tukulele\t20 min\nBen\tguitar\t", "Zoë ukulele 20, Ben guitar"},
		"surnames":           {"Zoë Brook\nBen Hill, ukulele", "Zoë guitar, Ben ukulele"},
		"two of one name":    {"Zoë Brook\nZoë Hill", "Zoë guitar, Zoë H guitar"},
		"surname in its own": {"Zoë\tBrook\tukulele", "Zoë ukulele"},
		"old line ends":      {"Zoë\r\nBen\rAda", "Zoë guitar, Ben guitar, Ada guitar"},
		"ended on two signs": {"Zoë\r\n\r\nBen\r\n", "Zoë guitar, Ben guitar"},
		"surname first":      {"Brook, Zoë, ukulele\nHill, Ben", "Zoë ukulele, Ben guitar"},
		"surname by a head":  {"Last name\tFirst name\nBrook\tZoë", "Zoë guitar"},
		"two in a line":      {"Zoë & Ben, ukulele\nAda and Jo", "Zoë ukulele, Ben ukulele, Ada guitar, Jo guitar"},
		"as it is spelled":   {"Zoë, ukelele\nBen - tenor\nAda acoustic\nJo (soprano uke)", "Zoë ukulele, Ben ukulele, Ada guitar, Jo ukulele"},
		"all in one line":    {"Zoë, Ben, Ada, Jo", "Zoë guitar, Ben guitar, Ada guitar, Jo guitar"},
		"Best, Anna":         {"Best, Anna", "Anna guitar"},
	} {
		r, err := people.ReadRoster(c.text, "guitar")
		require.NoError(t, err, name)
		assert.Empty(t, r.Wrong, name)
		var got []string
		for _, st := range r.Students {
			said := st.Name + " " + st.Instrument
			if st.LeftHanded {
				said += " left"
			}
			if st.DayMinutes == 20 {
				said += " 20"
			}
			got = append(got, said)
		}
		assert.Equal(t, c.want, strings.Join(got, ", "), name)
		assert.Equal(t, strings.Contains(name, "surname") || strings.Contains(name, "two of") || name == "Best, Anna", r.Surnames, name)
	}
	for text, says := range map[string]string{
		"":       "write a name in each line",
		" \n \n": "write a name in each line",
	} {
		_, err := people.ReadRoster(text, "guitar")
		assert.ErrorContains(t, err, says, "%q", text)
	}
	for text, says := range map[string]string{
		"Zoë\nZoë":              "line 2: there are two called Zoë",
		"Zoë, lute, 12":         "line 1: “lute” isn’t an instrument Arplin has",
		strings.Repeat("x", 41): "longer than 40",
		"Zoë\n, ukulele":        "line 2: there is no name in it",
		"Zoë\r\nBen, bass":      "line 2: “bass” isn’t an instrument",
	} {
		r, err := people.ReadRoster(text, "guitar")
		require.NoError(t, err, text)
		assert.ErrorContains(t, r.Problem(), says, "%q", text)
	}
}

// A list as it comes in a mail: all is read, or said, at its own line, all at once.
func TestAListOutOfAMail(t *testing.T) {
	r, err := people.ReadRoster("Hi Kim, here is my Tuesday lot:\n\nBrook, Zoë, ukelele\nBen Hill - tenor, 9 years old\nAda (acoustic), small hands\nJo & Mia, guitar\nOtis, bass\nPia, 0161 496 0123\nNele <nele@post.test>, left\nBen, 11\n7. Wim, 20 min\nOtto\nOtto\nThanks, see you on Friday!\n", "guitar")
	require.NoError(t, err)
	var names []string
	for _, st := range r.Students {
		names = append(names, fmt.Sprintf("%d %s %s", st.Line, st.Name, st.Instrument))
	}
	assert.Equal(t, []string{"3 Zoë ukulele", "4 Ben ukulele", "5 Ada guitar", "6 Jo guitar", "6 Mia guitar", "8 Pia guitar", "9 Nele guitar", "11 Wim guitar", "12 Otto guitar"}, names)
	var said []string
	for _, l := range append(r.Wrong, r.Left...) {
		said = append(said, fmt.Sprintf("%d %s", l.Line, l.Says))
	}
	assert.Equal(t, []string{
		"7 “bass” isn’t an instrument Arplin has: only guitars and ukuleles", "10 there are two called Ben. Add a letter or use a nickname", "13 there are two called Otto. Add a letter or use a nickname",
		"1 nobody’s line", "4 an age", "5 “small hands”", "8 a phone number", "9 a mail address", "10 an age", "14 nobody’s line",
	}, said)
	assert.True(t, r.Students[6].LeftHanded)
	assert.Equal(t, 20, r.Students[7].DayMinutes)
}

// No text makes it fall over.
func FuzzRoster(f *testing.F) {
	for _, text := range []string{"Zoë, ukulele", "1. Ben\t\tleft", "Name\n", "(((", ",", "uke uke", "left left left"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		r, err := people.ReadRoster(text, "guitar")
		if err != nil {
			return
		}
		for _, st := range r.Students {
			if st.Name == "" || strings.ContainsAny(st.Name, "\n\t ,") && !strings.Contains(st.Name, " ") || st.Instrument == "" {
				t.Fatalf("%q: %+v", text, st)
			}
		}
	})
}
