package item

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"
)

// longestBy is how much longer than every other choice a key is before it gives
// itself away, in percent.
const longestBy = 25

// NoAltText is the reason of the caution for a picture that only some can see.
const NoAltText = "a picture has no alternative text: say what it shows"

var altText = regexp.MustCompile(`\balt="[^"]*[^"\s][^"]*"`)

// Cautions lists what does not keep an item from being used, but that its author
// should look at: pictures without alternative text, a key that its length gives
// away, a place for feedback that nobody reaches, a marked word that is not explained.
func (it Item) Cautions() []Problem {
	var out []Problem
	for i, b := range it.Body {
		for _, tag := range pictureTag.FindAllString(b.HTML, -1) {
			if !altText.MatchString(tag) {
				out = append(out, Problem{fmt.Sprintf("body[%d]", i), NoAltText})
			}
		}
	}
	for n, p := range it.parts() {
		place := ""
		if it.Kind == Parts {
			place = fmt.Sprintf("parts[%d].", n)
		}
		for i, c := range slices.Concat(p.in.Choices, p.in.Targets) {
			for _, tag := range pictureTag.FindAllString(c.HTML, -1) {
				if !altText.MatchString(tag) {
					out = append(out, Problem{fmt.Sprintf("%schoices[%d]", place, i), NoAltText})
				}
			}
		}
		if p.kind == SingleChoice && keyStandsOut(p) {
			out = append(out, Problem{place + "choices", "the key is by far the longest choice"})
		}
	}
	for _, g := range it.glosses() {
		if PlainText(g.HTML) == "" {
			out = append(out, Problem{"cards", fmt.Sprintf("the help for %q is not written", g.Word)})
		}
	}
	return out
}

func keyStandsOut(p part) bool {
	key, other := 0, 0
	for _, c := range p.in.Choices {
		n := utf8.RuneCountInString(PlainText(c.HTML))
		if slices.Contains(p.d.Correct, c.ID) {
			key = max(key, n)
		} else {
			other = max(other, n)
		}
	}
	return len(p.in.Choices) > 2 && other > 0 && key*100 > other*(100+longestBy) && key > 12
}

// Example is a response that is right in part, with how one would say it.
type Example struct {
	Words    string
	Response Response
}

// Examples gives a few responses by which an author sees what a credit rule does.
func (it Item) Examples() []Example {
	var out []Example
	list := it.parts()
	if it.Kind != Parts {
		if len(list) == 1 {
			for _, e := range list[0].examples() {
				out = append(out, Example{e.words, Response{list[0].in.Response: e.values}})
			}
		}
		return out
	}
	for i, p := range list {
		if len(p.d.Correct) > 0 {
			out = append(out, Example{fmt.Sprintf("part %d alone right", i+1), Response{p.in.Response: p.d.Correct[:max(1, p.keySize())]}})
		}
	}
	return out
}

// keySize is how many values of the key make one right response.
func (p part) keySize() int {
	switch p.kind {
	case Text, Number, NumberLine:
		return 1
	}
	return len(p.d.Correct)
}

type example struct {
	words  string
	values []string
}

func (p part) examples() []example {
	key := p.d.Correct
	switch p.kind {
	case MultipleChoice, SelectText, Spot:
		return p.choiceExamples()
	case Order:
		if len(key) < 3 {
			return nil
		}
		swapped := slices.Clone(key)
		swapped[0], swapped[1] = swapped[1], swapped[0]
		moved := append(slices.Clone(key[1:]), key[0])
		turned := slices.Clone(key)
		slices.Reverse(turned)
		return []example{{"the first two swapped", swapped}, {"the first moved to the end", moved}, {"all turned round", turned}}
	case Match, Sort, BoxTable, Menus:
		if len(key) < 2 {
			return nil
		}
		return []example{{"one part left out", key[1:]}, {"half of the parts", key[:(len(key)+1)/2]}}
	case Text:
		var out []example
		for _, k := range key[:min(len(key), 1)] {
			if runes := []rune(k); len(runes) >= leastSlipWord {
				out = append(out, example{"with a letter left out: " + string(runes[1:]), []string{string(runes[1:])}})
			}
			if upper := strings.ToUpper(k); upper != k {
				out = append(out, example{"in capitals: " + upper, []string{upper}})
			}
		}
		return out
	}
	return nil
}

func (p part) choiceExamples() []example {
	in := selectable(p.in)
	var distractors []string
	for _, c := range in.Choices {
		if !slices.Contains(p.d.Correct, c.ID) {
			distractors = append(distractors, c.ID)
		}
	}
	var out []example
	if len(p.d.Correct) > 1 {
		out = append(out, example{"a key left out", p.d.Correct[1:]})
	}
	if len(in.Choices) > 0 && (in.MaxChoices == 0 || in.MaxChoices > len(p.d.Correct)) {
		if len(distractors) > 0 {
			out = append(out, example{"all keys and a distractor", append(slices.Clone(p.d.Correct), distractors[0])})
		}
		if len(distractors) > 1 && in.MaxChoices == 0 {
			out = append(out, example{"everything chosen", append(slices.Clone(p.d.Correct), distractors...)})
		}
	}
	return out
}
