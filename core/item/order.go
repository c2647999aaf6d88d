package item

import (
	"fmt"
	"slices"
	"strings"
)

// order wants all choices in their right order: the key is a list of ids.
var order = kindRules{
	credits:  []CreditRule{AllOrNothing, PerPlace, LongestRun},
	check:    checkOrder,
	accepts:  acceptsOrder,
	score:    scoreOrder,
	steps:    orderSteps,
	keyShort: func(in Interaction, d Declaration) string { return strings.Join(inTurn(in, d.Correct), " ") },
	short:    func(in Interaction, values []string) []string { return []string{strings.Join(inTurn(in, values), " ")} },
}

func orderSteps(credit CreditRule, in Interaction, _ Declaration) int64 {
	if credit == AllOrNothing {
		return 1
	}
	return int64(len(in.Choices))
}

func scoreOrder(credit CreditRule, in Interaction, d Declaration, values []string) share {
	n := int64(len(d.Correct))
	why := fmt.Sprintf("Put %s; the key is %s.", strings.Join(inTurn(in, values), " "), strings.Join(inTurn(in, d.Correct), " "))
	switch credit {
	case PerPlace:
		var right int64
		for i, id := range values {
			if i < len(d.Correct) && d.Correct[i] == id {
				right++
			}
		}
		return share{num: right, den: n, why: fmt.Sprintf("%s %d of %d places right.", why, right, n)}
	case LongestRun:
		kept := int64(longestCommon(values, d.Correct))
		return share{num: kept, den: n, why: fmt.Sprintf("%s %d of %d kept in order.", why, kept, n)}
	}
	if slices.Equal(values, d.Correct) {
		return whole(why)
	}
	return nothing(why + " All or nothing.")
}

// longestCommon is the length of the longest common subsequence.
func longestCommon(a, b []string) int {
	before := make([]int, len(b)+1)
	for _, x := range a {
		now := make([]int, len(b)+1)
		for j, y := range b {
			if x == y {
				now[j+1] = before[j] + 1
			} else {
				now[j+1] = max(now[j], before[j+1])
			}
		}
		before = now
	}
	return before[len(b)]
}

func checkOrder(in Interaction, d Declaration) []Problem {
	out := append(checkChoices(in, d), in.checkPlaces()...)
	sorted := slices.Sorted(slices.Values(d.Correct))
	if len(sorted) != len(in.Choices) || len(slices.Compact(sorted)) != len(in.Choices) {
		out = append(out, Problem{"declarations[0].correct", "the key must hold every choice once, in the right order"})
	}
	for i, c := range in.Choices {
		if len(d.Correct) != len(in.Choices) || d.Correct[i] != c.ID {
			return out
		}
	}
	return append(out, Problem{"choices", "the choices are offered in the right order already"})
}

func acceptsOrder(in Interaction, values []string) error {
	if len(values) == 0 {
		return nil
	}
	if err := acceptsChoices(in, values); err != nil {
		return err
	}
	if len(values) != len(in.Choices) {
		return &ResponseError{in.Response, fmt.Sprintf("holds %d of %d things to put in order", len(values), len(in.Choices))}
	}
	return nil
}

// inTurn names choices by their letter, in the order of the ids.
func inTurn(in Interaction, ids []string) []string {
	var out []string
	for _, id := range ids {
		if at := slices.IndexFunc(in.Choices, func(c Choice) bool { return c.ID == id }); at >= 0 {
			out = append(out, Label(at))
		}
	}
	return out
}

// NewOrder makes an item whose choices are to be put in order; right are places
// in choices.
func NewOrder(stem string, choices []string, right []int, credit CreditRule) Item {
	it := NewChoice(MultipleChoice, stem, choices, right, credit)
	it.Kind = Order
	return it
}
