package people_test

import (
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
	} {
		r, err := people.ParseRoster(c.text, "guitar")
		require.NoError(t, err, name)
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
		assert.Equal(t, strings.Contains(name, "surname") || strings.Contains(name, "two of"), r.Surnames, name)
	}
	for text, says := range map[string]string{
		"":                      "write a name in each line",
		" \n \n":                "write a name in each line",
		"Zoë\nZoë":              "line 2: there are two called Zoë",
		"Zoë, lute, 12":         `"12" is no instrument`,
		strings.Repeat("x", 41): "longer than 40",
		"Zoë\n, ukulele":        "line 2",
	} {
		_, err := people.ParseRoster(text, "guitar")
		assert.ErrorContains(t, err, says, "%q", text)
	}
}

// No text makes it fall over.
func FuzzRoster(f *testing.F) {
	for _, text := range []string{"Zoë, ukulele", "1. Ben\t\tleft", "Name\n", "(((", ",", "uke uke", "left left left"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		r, err := people.ParseRoster(text, "guitar")
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
