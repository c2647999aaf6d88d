package item

import (
	"fmt"
	"slices"
	"strings"
)

var singleChoice = kindRules{
	credits: []CreditRule{AllOrNothing, Mapped},
	check: func(in Interaction, d Declaration) []Problem {
		out := checkChoices(in, d)
		if len(d.Correct) > 1 {
			out = append(out, Problem{"declarations[0].correct", "a single choice has one key"})
		}
		return out
	},
	accepts: acceptsChoices,
	score: func(_ CreditRule, in Interaction, d Declaration, values []string) share {
		why := "Chose " + labels(in, values) + "; the key is " + labels(in, d.Correct) + "."
		if len(values) == 1 && slices.Contains(d.Correct, values[0]) {
			return whole(why)
		}
		return nothing(why)
	},
	steps:    oneStep,
	keyShort: func(in Interaction, d Declaration) string { return labels(in, d.Correct) },
	short:    choiceLabels,
}

var multipleChoice = kindRules{
	credits:  []CreditRule{AllOrNothing, PerChoice, KeyMinus, Mapped},
	check:    checkChoices,
	accepts:  acceptsChoices,
	score:    scoreMultiple,
	steps:    multipleSteps,
	keyShort: func(in Interaction, d Declaration) string { return labels(in, d.Correct) },
	short:    choiceLabels,
}

func multipleSteps(credit CreditRule, in Interaction, d Declaration) int64 {
	switch credit {
	case PerChoice:
		return int64(len(in.Choices))
	case KeyMinus:
		return int64(len(d.Correct))
	default:
		return 1
	}
}

func scoreMultiple(credit CreditRule, in Interaction, d Declaration, values []string) share {
	var hits, misses, judgedRight int64
	for _, c := range in.Choices {
		key, chosen := slices.Contains(d.Correct, c.ID), slices.Contains(values, c.ID)
		switch {
		case key && chosen:
			hits++
		case chosen:
			misses++
		}
		if key == chosen {
			judgedRight++
		}
	}
	n, keys := int64(len(in.Choices)), int64(len(d.Correct))
	why := fmt.Sprintf("Chose %s; the keys are %s.", labels(in, values), labels(in, d.Correct))
	switch credit {
	case PerChoice:
		return share{num: judgedRight, den: n, why: fmt.Sprintf("%s %d of %d choices judged right.", why, judgedRight, n)}
	case KeyMinus:
		return share{num: max(hits-misses, 0), den: keys, why: fmt.Sprintf("%s %d keys less %d distractors, of %d.", why, hits, misses, keys)}
	}
	if judgedRight == n {
		return whole(why)
	}
	return nothing(why + " All or nothing.")
}

func checkChoices(in Interaction, d Declaration) []Problem {
	out := checkOffered(in, d)
	texts := map[string]bool{}
	for i, c := range in.Choices {
		text := strings.TrimSpace(c.HTML)
		if texts[text] && text != "" {
			out = append(out, Problem{fmt.Sprintf("choices[%d]", i), "two choices are the same"})
		}
		texts[text] = true
	}
	return out
}

// checkOffered checks all of a choice but that its text stands alone.
func checkOffered(in Interaction, d Declaration) []Problem {
	var out []Problem
	if len(in.Choices) < 2 {
		out = append(out, Problem{"body", "at least two choices are needed"})
	}
	ids := map[string]bool{}
	for i, c := range in.Choices {
		place := fmt.Sprintf("choices[%d]", i)
		text := strings.TrimSpace(c.HTML)
		switch {
		case c.ID == "" || strings.ContainsAny(c.ID, " \t\n"):
			out = append(out, Problem{place, "a choice needs an id without spaces"})
		case ids[c.ID]:
			out = append(out, Problem{place, fmt.Sprintf("the id %q is used twice", c.ID)})
		case text == "":
			out = append(out, Problem{place, "the choice is empty"})
		}
		ids[c.ID] = true
	}
	if len(d.Correct) == 0 {
		out = append(out, Problem{"declarations[0].correct", "there is no key"})
	}
	for _, key := range d.Correct {
		if !ids[key] {
			out = append(out, Problem{"declarations[0].correct", fmt.Sprintf("the key %q is not one of the choices", key)})
		}
	}
	return out
}

func acceptsChoices(in Interaction, values []string) error {
	most := in.MaxChoices
	if most == 0 {
		most = len(in.Choices)
	}
	if len(values) > most {
		return &ResponseError{in.Response, fmt.Sprintf("has %d choices, %d at most", len(values), most)}
	}
	seen := map[string]bool{}
	for _, v := range values {
		if seen[v] {
			return &ResponseError{in.Response, fmt.Sprintf("names the choice %q twice", v)}
		}
		if !slices.ContainsFunc(in.Choices, func(c Choice) bool { return c.ID == v }) {
			return &ResponseError{in.Response, fmt.Sprintf("names %q, which is not offered", v)}
		}
		seen[v] = true
	}
	return nil
}

func choiceLabels(in Interaction, values []string) []string {
	return strings.Split(labels(in, values), ", ")
}

func (c Choice) label(at int) string {
	if c.Label != "" {
		return c.Label
	}
	return Label(at)
}

// labels names choices by their own label or their letter, in the order they are offered.
func labels(in Interaction, ids []string) string {
	if len(ids) == 1 {
		if at := slices.IndexFunc(in.Choices, func(c Choice) bool { return c.ID == ids[0] }); at >= 0 {
			return in.Choices[at].label(at)
		}
		return "none"
	}
	var out []string
	for i, c := range in.Choices {
		if slices.Contains(ids, c.ID) {
			out = append(out, c.label(i))
		}
	}
	if out == nil {
		return "none"
	}
	return strings.Join(out, ", ")
}

// Label is the letter of the choice at a place: A … Z, AA, AB …
func Label(at int) string {
	if at < 26 {
		return "ABCDEFGHIJKLMNOPQRSTUVWXYZ"[at : at+1]
	}
	return Label(at/26-1) + Label(at%26)
}

// NewChoice makes a single or multiple choice item from formatted text; keys are
// places in choices. What comes out still wants Check.
func NewChoice(kind Kind, stem string, choices []string, keys []int, credit CreditRule) Item {
	in := Interaction{Response: "RESPONSE"}
	if kind == SingleChoice {
		in.MaxChoices = 1
	}
	for i, c := range choices {
		in.Choices = append(in.Choices, Choice{ID: Label(i), HTML: c})
	}
	d := Declaration{Response: "RESPONSE"}
	for _, k := range keys {
		d.Correct = append(d.Correct, Label(k))
	}
	return build(kind, stem, in, d, credit)
}

// trueFalse is a single choice between two statements that are always the same;
// their words are the screen's, in its language.
var trueFalse = kindRules{
	credits:  []CreditRule{AllOrNothing},
	check:    singleChoice.check,
	accepts:  acceptsChoices,
	score:    singleChoice.score,
	steps:    oneStep,
	keyShort: func(_ Interaction, d Declaration) string { return trueOrFalse(d.Correct) },
	short:    func(_ Interaction, values []string) []string { return []string{trueOrFalse(values)} },
}

// Ids of the two choices.
const (
	isTrue  = "true"
	isFalse = "false"
)

func trueOrFalse(ids []string) string {
	if len(ids) == 1 {
		return ids[0]
	}
	return ""
}

// NewTrueFalse makes a true or false item.
func NewTrueFalse(stem string, right bool) Item {
	key := isFalse
	if right {
		key = isTrue
	}
	return build(TrueFalse, stem, Interaction{Response: "RESPONSE", MaxChoices: 1, Choices: []Choice{{ID: isTrue, HTML: "True"}, {ID: isFalse, HTML: "False"}}},
		Declaration{Response: "RESPONSE", Correct: []string{key}}, AllOrNothing)
}

// Mixed is an item with the choices of its single and multiple choices in other orders; those that are pinned keep their
// places. order puts n of them, counted from 1, into an order for the k-th place to answer, which is the same in every language.
func (s Shown) Mixed(order func(n, k int) []int) Shown {
	s.Body = mixedBody(s.Body, s.Kind, order)
	s.Variants = slices.Clone(s.Variants)
	for i := range s.Variants {
		s.Variants[i].Body = mixedBody(s.Variants[i].Body, s.Kind, order)
	}
	return s
}

func mixedBody(body []Block, kind Kind, order func(n, k int) []int) []Block {
	body = slices.Clone(body)
	k := 0
	for i, b := range body {
		if b.Interaction == nil {
			continue
		}
		in := *b.Interaction
		k++
		of := kind
		if in.Kind != "" {
			of = in.Kind
		}
		if of == SingleChoice || of == MultipleChoice {
			in.Choices = mixedChoices(in.Choices, func(n int) []int { return order(n, k) })
			body[i].Interaction = &in
		}
	}
	return body
}

// mixedChoices puts those that are not pinned into an order among themselves.
func mixedChoices(choices []Choice, order func(n int) []int) []Choice {
	var free []Choice
	for _, c := range choices {
		if !c.Pinned {
			free = append(free, c)
		}
	}
	out := slices.Clone(choices)
	places := order(len(free))
	next := 0
	for i, c := range out {
		if !c.Pinned {
			out[i] = free[places[next]-1]
			next++
		}
	}
	return out
}
