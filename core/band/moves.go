package band

import "pineledger/core/points"

// Scored is how many students got a raw score.
type Scored struct {
	Raw points.Points
	N   int
}

// Moves counts students by the band that they are in under some cuts (row) and would be in under others (column) of the same
// form. A score that the form cannot hold fails with ErrScore.
func Moves(before, after Cuts, scores []Scored) ([][]int, error) {
	out := make([][]int, len(before.Starts))
	for i := range out {
		out[i] = make([]int, len(after.Starts))
	}
	for _, s := range scores {
		from, err := before.Of(s.Raw)
		if err != nil {
			return nil, err
		}
		to, err := after.Of(s.Raw)
		if err != nil {
			return nil, err
		}
		out[from][to] += s.N
	}
	return out, nil
}
