package item

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/cases"
	"golang.org/x/text/unicode/norm"
)

// TextKey says how a typed word is compared with the accepted ones: without
// outer space, with inner space folded, in Unicode NFC, and with case folded
// unless it matters.
type TextKey struct {
	CaseMatters bool `json:"caseMatters,omitempty"`
	// Slips accepts one letter added, left out or changed in a word of five letters or more.
	Slips bool `json:"slips,omitempty"`
}

var text = kindRules{
	credits:  []CreditRule{AllOrNothing, Mapped},
	check:    checkText,
	accepts:  acceptsText,
	score:    scoreText,
	steps:    oneStep,
	keyShort: func(_ Interaction, d Declaration) string { return strings.Join(d.Correct, " or ") },
	short:    func(_ Interaction, values []string) []string { return values },
}

const (
	maxTextLength = 200 // bytes
	leastSlipWord = 5   // letters
	slipDistance  = 1
)

func checkText(_ Interaction, d Declaration) []Problem {
	var out []Problem
	if d.Text == nil {
		return []Problem{{"declarations[0].text", "how the word is compared is missing"}}
	}
	if len(d.Correct) == 0 {
		out = append(out, Problem{"declarations[0].correct", "there is no key"})
	}
	seen := map[string]bool{}
	for _, key := range d.Correct {
		folded := d.Text.fold(key)
		switch {
		case folded == "":
			out = append(out, Problem{"declarations[0].correct", "an accepted answer is empty"})
		case len(key) > maxTextLength:
			out = append(out, Problem{"declarations[0].correct", fmt.Sprintf("an accepted answer is longer than %d bytes", maxTextLength)})
		case seen[folded]:
			out = append(out, Problem{"declarations[0].correct", fmt.Sprintf("%q is accepted twice", key)})
		}
		seen[folded] = true
	}
	return out
}

func acceptsText(in Interaction, values []string) error {
	if len(values) > 1 {
		return &ResponseError{in.Response, "has more than one value"}
	}
	if len(values) == 1 && len(values[0]) > maxTextLength {
		return &ResponseError{in.Response, fmt.Sprintf("is longer than %d bytes", maxTextLength)}
	}
	return nil
}

func scoreText(_ CreditRule, _ Interaction, d Declaration, values []string) share {
	why := fmt.Sprintf("Typed %q; the key is %s.", values[0], strings.Join(d.Correct, " or "))
	for _, key := range d.Correct {
		switch {
		case d.Text.fold(values[0]) == d.Text.fold(key):
			return whole(why)
		case d.Text.accepts(values[0], key):
			return whole(why + " One letter off is accepted.")
		}
	}
	return nothing(why)
}

// accepts compares a typed word with an accepted one.
func (k TextKey) accepts(typed, want string) bool {
	typed, want = k.fold(typed), k.fold(want)
	return typed == want || k.Slips && utf8.RuneCountInString(want) >= leastSlipWord && within([]rune(typed), []rune(want), slipDistance)
}

func (k TextKey) fold(s string) string {
	s = norm.NFC.String(strings.Join(strings.Fields(s), " "))
	if !k.CaseMatters {
		s = norm.NFC.String(cases.Fold().String(s))
	}
	return s
}

// within tells whether the edit distance (letters added, left out or changed) is
// at most so many.
func within(a, b []rune, most int) bool {
	if len(a)-len(b) > most || len(b)-len(a) > most {
		return false
	}
	before := make([]int, len(b)+1)
	for j := range before {
		before[j] = j
	}
	for i, x := range a {
		now := make([]int, len(b)+1)
		now[0] = i + 1
		for j, y := range b {
			change := before[j]
			if x != y {
				change++
			}
			now[j+1] = min(change, before[j+1]+1, now[j]+1)
		}
		if slices.Min(now) > most {
			return false
		}
		before = now
	}
	return before[len(b)] <= most
}

// NewText makes a typed word item.
func NewText(stem string, accepted []string, key TextKey) Item {
	return build(Text, stem, Interaction{Response: "RESPONSE"}, Declaration{Response: "RESPONSE", Correct: accepted, Text: &key}, AllOrNothing)
}
