package assessment

import (
	"fmt"
	"slices"
	"strings"

	"pineledger/core/roster"
)

// Scope is what an assessment is for.
type Scope struct {
	Subject string
	Grades  []string // as in a roster: "05"
}

// LineCautions says what is odd about a line's item in an assessment for this scope, a sentence
// each. An item without a subject or a grade fits everywhere.
func (s Scope) LineCautions(subject, grade string, wrongKeyReported bool) []string {
	out := []string{}
	if wrongKeyReported {
		out = append(out, "Somebody reported its key as wrong.")
	}
	var foreign []string
	if subject != "" && subject != s.Subject {
		foreign = append(foreign, subject)
	}
	if grade != "" && !slices.Contains(s.Grades, grade) {
		foreign = append(foreign, roster.GradeName(grade))
	}
	if len(foreign) > 0 {
		out = append(out, fmt.Sprintf("The item is for %s.", strings.Join(foreign, ", ")))
	}
	return out
}
