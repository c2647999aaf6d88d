package item

import (
	"fmt"
	"strings"
)

// What an adult records of a child's answer.
const (
	RecordedRight = "right"
	RecordedWrong = "wrong"
	RecordedNone  = "none" // the child gave no response
)

// examiner is recorded by an adult while a child points or speaks. The child sees
// the body only; the directions and the expected answer are the adult's.
var examiner = kindRules{
	credits: []CreditRule{AllOrNothing},
	check: func(_ Interaction, d Declaration) []Problem {
		if len(d.Correct) == 0 || strings.TrimSpace(d.Correct[0]) == "" {
			return []Problem{{"declarations[0].correct", "what a right answer is, is missing"}}
		}
		return nil
	},
	accepts: func(in Interaction, values []string) error {
		if len(values) > 1 {
			return &ResponseError{in.Response, "has more than one value"}
		}
		for _, v := range values {
			if v != RecordedRight && v != RecordedWrong && v != RecordedNone {
				return &ResponseError{in.Response, fmt.Sprintf("is %q, not right, wrong or none", v)}
			}
		}
		return nil
	},
	score: func(_ CreditRule, _ Interaction, _ Declaration, values []string) share {
		switch values[0] {
		case RecordedRight:
			return whole("Recorded as right.")
		case RecordedNone:
			s := nothing("Recorded: no response.")
			s.absent = true
			return s
		}
		return nothing("Recorded as wrong.")
	},
	steps:    oneStep,
	keyShort: func(_ Interaction, d Declaration) string { return strings.Join(d.Correct, " or ") },
	short:    func(_ Interaction, values []string) []string { return values },
}

// NewExaminer makes an item that an adult records: what the child sees, what the
// adult does, and what a right answer is.
func NewExaminer(shown, directions, right string) Item {
	it := build(Examiner, shown, Interaction{Response: "RESPONSE"}, Declaration{Response: "RESPONSE", Correct: []string{right}}, AllOrNothing)
	it.Directions = Clean(directions)
	return it
}
