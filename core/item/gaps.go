package item

import (
	"regexp"
	"slices"
)

// sharedMenu tells whether one list of words serves every gap.
func (it Item) sharedMenu() bool {
	for _, in := range interactions(it.Body) {
		if slices.ContainsFunc(in.Choices, func(c Choice) bool { return c.In != "" }) {
			return false
		}
	}
	return true
}

// ownGap is how gaps are named here; one of another name was a response of its own in the file it came from.
var ownGap = regexp.MustCompile(`^G[0-9]+$`)

// gapResponse is the id of the response of one gap.
func gapResponse(response, gap string) string {
	if ownGap.MatchString(gap) {
		return response + "_" + gap
	}
	return gap
}

// GapParts makes an item of several parts of menus: one single choice a gap.
func (it Item) GapParts() Item {
	in, d, _ := it.answer()
	key := map[string]string{}
	for choice, targets := range targetsByChoice(d.Correct) {
		for _, t := range targets {
			key[t] = choice
		}
	}
	out := it
	out.Kind, out.Body, out.Declarations = Parts, nil, nil
	for _, b := range it.Body {
		if b.Interaction == nil {
			out.Body = append(out.Body, b)
			continue
		}
		for _, t := range in.Targets {
			if t.Plain {
				out.Body = append(out.Body, Block{HTML: t.HTML, Inline: true})
				continue
			}
			gap := Interaction{Response: gapResponse(in.Response, t.ID), Kind: SingleChoice, MaxChoices: 1}
			for _, c := range in.Choices {
				if c.In == t.ID || c.In == "" {
					gap.Choices = append(gap.Choices, Choice{ID: c.ID, HTML: c.HTML})
				}
			}
			out.Body = append(out.Body, Block{Interaction: &gap, Inline: true})
			out.Declarations = append(out.Declarations, Declaration{Response: gap.Response, Correct: []string{key[t.ID]}, Credit: AllOrNothing})
		}
	}
	return out
}

// AsMenus makes one item of menus of an item whose parts are all single choices
// in a sentence, the reverse of GapParts; ok is false for any other. The ids
// of choices are kept where no two menus share one.
func (it Item) AsMenus(response string) (out Item, ok bool) {
	in := Interaction{Response: response}
	d := Declaration{Response: response}
	out = it
	out.Body = nil
	at := -1
	seen := map[string]bool{}
	for _, b := range it.Body {
		switch {
		case b.Interaction == nil && !b.Inline && at < 0:
			out.Body = append(out.Body, b)
		case b.Interaction == nil:
			in.Targets = append(in.Targets, Choice{HTML: b.HTML, Plain: true})
		default:
			p, found := it.part(b.Interaction.Response)
			if !found || p.kind != SingleChoice || !b.Inline || len(p.d.Correct) != 1 {
				return it, false
			}
			gap := b.Interaction.Response
			if rest, cut := cutResponse(gap, response); cut {
				gap = rest
			}
			in.Targets = append(in.Targets, Choice{ID: gap, Most: 1})
			for _, c := range p.in.Choices {
				if seen[c.ID] {
					return it, false
				}
				seen[c.ID] = true
				in.Choices = append(in.Choices, Choice{ID: c.ID, HTML: c.HTML, Most: 1, In: gap})
			}
			d.Correct = append(d.Correct, p.d.Correct[0]+" "+gap)
		}
		if at < 0 && b.Inline {
			at = len(out.Body)
		}
	}
	out.Kind, out.Body, out.Declarations = Menus, append(out.Body, Block{Interaction: &in}), []Declaration{d}
	return out, len(in.Choices) > 0
}

func cutResponse(gap, response string) (string, bool) {
	prefix := response + "_"
	if len(gap) > len(prefix) && gap[:len(prefix)] == prefix {
		return gap[len(prefix):], true
	}
	return gap, false
}
