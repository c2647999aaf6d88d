package item

import (
	"fmt"
	"slices"
	"strings"

	"pineledger/core/points"
)

// Rubric says how a written answer is read: traits, each with levels worth points.
type Rubric struct {
	Traits []Trait `json:"traits"`
}

// Trait is one side of a written answer that is looked at.
type Trait struct {
	Name   string  `json:"name"`
	Levels []Level `json:"levels"` // from the highest to the lowest
}

// Level is a step of a trait. Points are in hundredths, as everywhere.
type Level struct {
	Points points.Points `json:"points"`
	Text   string        `json:"text"` // what an answer of this level does
}

// Most is what the best answer earns on the rubric's own scale.
func (r *Rubric) Most() points.Points {
	var total points.Points
	for _, t := range r.Traits {
		var best points.Points
		for _, l := range t.Levels {
			best = max(best, l.Points)
		}
		total += best
	}
	return total
}

// Equal tells whether two rubrics have the same traits with the same levels.
func (r Rubric) Equal(other Rubric) bool {
	return slices.EqualFunc(r.Traits, other.Traits, func(a, b Trait) bool { return a.Name == b.Name && slices.Equal(a.Levels, b.Levels) })
}

// grain is the greatest common divisor of all points of the levels.
func (r *Rubric) grain() points.Points {
	var out points.Points
	for _, t := range r.Traits {
		for _, l := range t.Levels {
			out = points.GCD(out, l.Points)
		}
	}
	return out
}

func (r *Rubric) check() []Problem {
	var out []Problem
	if len(r.Traits) == 0 {
		out = append(out, Problem{"declarations[0].rubric", "the rubric has no trait"})
	}
	names := map[string]bool{}
	for i, t := range r.Traits {
		place := fmt.Sprintf("declarations[0].rubric.traits[%d]", i)
		if strings.TrimSpace(t.Name) == "" || names[t.Name] {
			out = append(out, Problem{place, "a trait needs a name of its own"})
		}
		names[t.Name] = true
		if len(t.Levels) < 2 {
			out = append(out, Problem{place, "a trait needs two levels at least"})
		}
		for k, l := range t.Levels {
			switch {
			case l.Points < 0 || l.Points > points.Most:
				out = append(out, Problem{place, "a level has points below 0"})
			case k > 0 && l.Points >= t.Levels[k-1].Points:
				out = append(out, Problem{place, "levels go from the highest to the lowest, each with points of its own"})
			case strings.TrimSpace(l.Text) == "":
				out = append(out, Problem{place, "a level does not say what an answer does"})
			}
		}
	}
	return out
}

// Most bytes of a written answer.
const (
	maxShortLength = 2000
	maxLongLength  = maxValueLength
)

// A written answer waits for its reader. The key holds examples of good answers.
func written(most int, rubricNeeded bool) kindRules {
	return kindRules{
		credits: []CreditRule{ByReader},
		check: func(_ Interaction, d Declaration) []Problem {
			if d.Rubric == nil {
				if rubricNeeded {
					return []Problem{{"declarations[0].rubric", "there is no rubric to read by"}}
				}
				return nil
			}
			return d.Rubric.check()
		},
		accepts: func(in Interaction, values []string) error {
			if len(values) > 1 {
				return &ResponseError{in.Response, "has more than one value"}
			}
			if len(values) == 1 && len(values[0]) > most {
				return &ResponseError{in.Response, fmt.Sprintf("is longer than %d bytes", most)}
			}
			return nil
		},
		score: func(_ CreditRule, _ Interaction, _ Declaration, _ []string) share {
			s := nothing("The answer waits for its reader.")
			s.unread = true
			return s
		},
		steps: func(_ CreditRule, _ Interaction, d Declaration) int64 {
			if d.Rubric == nil || d.Rubric.grain() == 0 {
				return 0
			}
			return int64(d.Rubric.Most() / d.Rubric.grain())
		},
		keyShort: func(_ Interaction, d Declaration) string {
			if d.Rubric == nil {
				return "by reader"
			}
			names := make([]string, len(d.Rubric.Traits))
			for i, t := range d.Rubric.Traits {
				names[i] = t.Name
			}
			return "rubric: " + strings.Join(names, ", ")
		},
		short: func(_ Interaction, values []string) []string { return []string{beginning(values[0])} },
	}
}

var (
	shortWritten = written(maxShortLength, false)
	longWritten  = written(maxLongLength, true)
)

// beginning is the first sixty letters of a long answer.
func beginning(s string) string {
	const most = 60
	runes := []rune(strings.Join(strings.Fields(s), " "))
	if len(runes) <= most {
		return string(runes)
	}
	return string(runes[:most]) + "…"
}

// NewWritten makes an item that is answered in writing; examples are good answers.
func NewWritten(kind Kind, stem string, rows int, rubric *Rubric, examples []string) Item {
	return build(kind, stem, Interaction{Response: "RESPONSE", Rows: rows},
		Declaration{Response: "RESPONSE", Correct: examples, Rubric: rubric}, ByReader)
}
