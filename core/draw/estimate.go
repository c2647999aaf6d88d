package draw

import "pineledger/core/blueprint"

// Estimate proposes what may stand for the difficulties that are not known: the mean, in
// thousandths and half up, of those that are. nil where none is known or none is missing.
func Estimate(items []blueprint.Item) *int {
	sum, known := 0, 0
	for _, it := range items {
		if it.Difficulty != nil {
			sum += *it.Difficulty
			known++
		}
	}
	if known == 0 || known == len(items) {
		return nil
	}
	mean := (2*sum + known) / (2 * known)
	return &mean
}
