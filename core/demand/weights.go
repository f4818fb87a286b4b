package demand

import (
	_ "embed"
	"encoding/json"
	"fmt"
)

//go:embed weights.json
var weightsJSON []byte

// Fitted are the weights that cmd/fitdemand found for the chains of teachers.
var Fitted = mustReadWeights(weightsJSON)

func mustReadWeights(data []byte) Weights {
	w, err := ReadWeights(data)
	if err != nil {
		panic(fmt.Sprintf("demand: weights.json: %v", err))
	}
	return w
}

// ReadWeights reads one number for each part by its name.
func ReadWeights(data []byte) (w Weights, err error) {
	var named map[string]float64
	if err := json.Unmarshal(data, &named); err != nil {
		return w, err
	}
	for i, name := range Names() {
		v, ok := named[name]
		if !ok || v < 0 {
			return w, fmt.Errorf("no weight of zero or more for %s", name)
		}
		w[i] = v
	}
	return w, nil
}

// Encode is the inverse of ReadWeights, a line a part.
func (w Weights) Encode() []byte {
	out := "{\n"
	for i, name := range Names() {
		sep := ","
		if i == numParts-1 {
			sep = ""
		}
		out += fmt.Sprintf("  %q: %.4f%s\n", name, w[i], sep)
	}
	return []byte(out + "}\n")
}

// Scaled multiplies parts by name; what is not named stays. No weight falls below
// a tenth of its prior, so that no part is silent.
func (w Weights) Scaled(by map[string]float64) Weights {
	for i, name := range Names() {
		if f, ok := by[name]; ok && f >= 0 {
			w[i] *= f
		}
	}
	return w.allowed()
}
