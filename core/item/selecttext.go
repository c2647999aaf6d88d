package item

import "fmt"

// selectText wants words or sentences of a text: its choices stand in the order of
// the text, and those that are Plain are what stands between them. What can be
// selected is judged as a multiple choice.
var selectText = kindRules{
	credits: multipleChoice.credits,
	check: func(in Interaction, d Declaration) []Problem {
		out := checkOffered(selectable(in), d)
		for i, c := range in.Choices {
			if c.Plain && c.ID != "" {
				out = append(out, Problem{fmt.Sprintf("choices[%d]", i), "what stands between has no id"})
			}
		}
		return out
	},
	accepts: func(in Interaction, values []string) error { return acceptsChoices(selectable(in), values) },
	score: func(credit CreditRule, in Interaction, d Declaration, values []string) share {
		return scoreMultiple(credit, selectable(in), d, values)
	},
	steps: func(credit CreditRule, in Interaction, d Declaration) int64 {
		return multipleSteps(credit, selectable(in), d)
	},
	keyShort: func(in Interaction, d Declaration) string { return labels(selectable(in), d.Correct) },
	short:    func(in Interaction, values []string) []string { return choiceLabels(selectable(in), values) },
}

// selectable is the interaction without what stands between. A word may stand twice
// in a text, so unlike other choices these may have one text.
func selectable(in Interaction) Interaction {
	var out []Choice
	for _, c := range in.Choices {
		if !c.Plain {
			out = append(out, c)
		}
	}
	in.Choices = out
	return in
}

// A Run is a piece of a text: selectable, or what stands between.
type Run struct {
	HTML       string
	Selectable bool
}

// NewSelectText makes an item whose answer is selected in a text; keys are places
// among the selectable runs.
func NewSelectText(stem string, runs []Run, keys []int, most int, credit CreditRule) Item {
	in := Interaction{Response: "RESPONSE", MaxChoices: most}
	n := 0
	for _, r := range runs {
		c := Choice{HTML: r.HTML, Plain: !r.Selectable}
		if r.Selectable {
			c.ID = Label(n)
			n++
		}
		in.Choices = append(in.Choices, c)
	}
	d := Declaration{Response: "RESPONSE"}
	for _, k := range keys {
		d.Correct = append(d.Correct, Label(k))
	}
	return build(SelectText, stem, in, d, credit)
}
