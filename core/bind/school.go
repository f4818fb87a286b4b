package bind

import "fmt"

// School is a class's side in the questions that touch the binding.
type School struct {
	Fingers  FingerSchool
	LowFifth bool // shapes with the root on string 5 (C, Am) may use the fifth on string 6
	Pick     bool // sweeps are played with a pick, down and up in turn
}

// FingerSchool says how fingers find their strings.
type FingerSchool string

// The two schools of fingers.
const (
	Moving FingerSchool = "moving" // the thumb has the bass strings, i and m follow the chord
	Fixed  FingerSchool = "fixed"  // one finger, one string
)

// ParseFingerSchool reads "moving" or "fixed".
func ParseFingerSchool(s string) (FingerSchool, error) {
	switch f := FingerSchool(s); f {
	case Moving, Fixed:
		return f, nil
	}
	return "", fmt.Errorf("%q is not a school of fingers: fixed or moving", s)
}

// DefaultSchool is what a class has before its teacher chooses.
var DefaultSchool = School{Fingers: Moving, LowFifth: true}
