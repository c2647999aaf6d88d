package bank

// Ease labels an item by its p-value, so that lists can be narrowed by it.
type Ease string

const (
	EaseUnknown Ease = ""
	Hard        Ease = "hard"
	Medium      Ease = "medium"
	Easy        Ease = "easy"
)

// EaseOf labels a p-value in thousandths, nil where none is known: hard below .400, easy from .700 on.
func EaseOf(difficulty *int64) Ease {
	switch {
	case difficulty == nil:
		return EaseUnknown
	case *difficulty < 400:
		return Hard
	case *difficulty < 700:
		return Medium
	}
	return Easy
}

// Range gives the p-values that a label stands for, in thousandths, both ends in it.
func (e Ease) Range() (from, to int) {
	switch e {
	case Hard:
		return 0, 399
	case Medium:
		return 400, 699
	}
	return 700, 1000
}
