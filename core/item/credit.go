package item

import (
	"strings"

	"pineledger/core/points"
)

// share is an exact part of a line's points with the reason for it.
type share struct {
	num, den int64
	why      string
}

func whole(why string) share   { return share{1, 1, why} }
func nothing(why string) share { return share{0, 1, why} }

// Outcome is how a line's credit reads at a glance.
type Outcome string

const (
	Right   Outcome = "right"
	Part    Outcome = "part"
	Wrong   Outcome = "wrong"
	Omitted Outcome = "omitted" // no answer: earns 0, but is not wrong
	// NotReached is an omitted line with nothing answered from there to the end.
	NotReached Outcome = "not-reached"
)

// Credit is what a response earns on a line.
type Credit struct {
	Credit  points.Points
	Max     points.Points
	Outcome Outcome
	Why     string // in a sentence, naming key and rule; staff only
}

// Score gives the credit of a response on a line worth max points. The share is
// exact and rounded to hundredths, half up, once. Scoring never fails: a
// response that does not fit the item was refused when it was saved, and earns
// what it matches.
func (it Item) Score(r Response, max points.Points) Credit {
	interaction, declaration, ok := it.answer()
	if !ok {
		return Credit{Max: max, Outcome: Omitted, Why: "The item has nothing to answer."}
	}
	values := given(r[interaction.Response])
	if len(values) == 0 {
		return Credit{Max: max, Outcome: Omitted, Why: "No answer was given."}
	}
	s := kinds[it.Kind].score(it, interaction, declaration, values)
	c := Credit{Credit: max.Fraction(s.num, s.den), Max: max, Why: s.why}
	switch {
	case s.num == 0:
		c.Outcome = Wrong
	case s.num == s.den:
		c.Outcome = Right
	default:
		c.Outcome = Part
	}
	return c
}

// Step is the smallest amount by which the credit of a line of this item can
// change: its points, or an even part of them, or a hundredth where that part
// has to be rounded.
func (it Item) Step(max points.Points) points.Points {
	interaction, declaration, ok := it.answer()
	if !ok {
		return max
	}
	steps := points.Points(kinds[it.Kind].steps(it, interaction, declaration))
	if max%steps != 0 {
		return 1
	}
	return max / steps
}

// given drops blanks: an emptied box is no answer.
func given(values []string) []string {
	var out []string
	for _, v := range values {
		if strings.TrimSpace(v) != "" {
			out = append(out, v)
		}
	}
	return out
}
