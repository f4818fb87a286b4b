package difficulty

import (
	_ "embed"
	"encoding/json"
	"fmt"
)

//go:embed weights.json
var weightsJSON []byte

// Fitted are the weights that cmd/fitweights found for the chains of teachers.
var Fitted = mustReadWeights(weightsJSON)

func mustReadWeights(data []byte) Weights {
	w, err := ReadWeights(data)
	if err != nil {
		panic(fmt.Sprintf("difficulty: weights.json: %v", err))
	}
	return w
}

// ReadWeights reads one number for each part by its name.
func ReadWeights(data []byte) (w Weights, err error) {
	var named map[string]float64
	if err := json.Unmarshal(data, &named); err != nil {
		return w, err
	}
	for i, d := range definitions {
		v, ok := named[string(d.id)]
		if !ok || v < 0 {
			return w, fmt.Errorf("no weight of zero or more for %s", d.id)
		}
		w[i] = v
	}
	return w, nil
}

// Encode is the inverse of ReadWeights, a line a part.
func (w Weights) Encode() []byte {
	out := "{\n"
	for i, d := range definitions {
		sep := ","
		if i == numParts-1 {
			sep = ""
		}
		out += fmt.Sprintf("  %q: %.4f%s\n", d.id, w[i], sep)
	}
	return []byte(out + "}\n")
}

// Scaled multiplies parts by id; what is not named stays. No weight falls below
// a tenth of its prior, so that no part is silent.
func (w Weights) Scaled(by map[PartID]float64) Weights {
	for i, d := range definitions {
		if f, ok := by[d.id]; ok && f >= 0 {
			w[i] *= f
		}
	}
	return w.allowed()
}
