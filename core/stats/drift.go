package stats

import (
	"math"
	"slices"
)

// Drift is a line whose difficulty is not what it was.
type Drift struct {
	Line     int
	From, To float64 // logits, both on the earlier scale
	SE       float64 // of the difference
}

// Bounds beyond which a difficulty has drifted: half a logit, and twice the standard error of the difference.
const (
	driftLogits = 0.5
	driftErrors = 2
)

// Drifts compares lines at two times, each calibrated by itself. The later scale is laid over the earlier by the median difference
// of the lines that have both, so that a few that drifted do not move the others. Fewer than three such lines tell nothing.
func Drifts(before, after []*RaschLine) []Drift {
	var both []int
	var differences []float64
	for i := range before {
		if before[i] != nil && after[i] != nil {
			both = append(both, i)
			differences = append(differences, after[i].B-before[i].B)
		}
	}
	n := len(both)
	if n < 3 {
		return nil
	}
	sorted := slices.Sorted(slices.Values(differences))
	shift := (sorted[(n-1)/2] + sorted[n/2]) / 2
	var out []Drift
	for k, i := range both {
		d := Drift{i, before[i].B, after[i].B - shift, math.Hypot(before[i].SE, after[i].SE)}
		if moved := math.Abs(differences[k] - shift); moved >= driftLogits && moved >= driftErrors*d.SE {
			out = append(out, d)
		}
	}
	return out
}
