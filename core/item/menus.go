package item

import (
	"fmt"
	"strings"
)

// menus wants one choice from each menu in a sentence. Targets are the sentence: its
// gaps in order, and plain text between. Each choice names the gap whose menu it
// is In, or is in every menu, as often as it may be joined. A response joins choices to gaps as pairs do, and each gap is a part.
var menus = kindRules{
	credits: pairRules.credits,
	check:   checkMenus,
	accepts: acceptsMenus,
	score: func(credit CreditRule, in Interaction, d Declaration, values []string) share {
		return judgePairs(credit, in, d, values, menuWords)
	},
	steps:    pairRules.steps,
	keyShort: func(in Interaction, d Declaration) string { return strings.Join(menuWords(in, d.Correct), ", ") },
	short:    menuWords,
}

// gapsOnly is the interaction without the text between the gaps.
func gapsOnly(in Interaction) Interaction {
	var gaps []Choice
	for _, t := range in.Targets {
		if !t.Plain {
			gaps = append(gaps, t)
		}
	}
	in.Targets = gaps
	return in
}

func checkMenus(in Interaction, d Declaration) []Problem {
	gaps := gapsOnly(in)
	options, shared := map[string]int{}, 0
	for _, c := range in.Choices {
		options[c.In]++
		if c.In == "" {
			shared++
		}
	}
	var out []Problem
	ids := map[string]bool{}
	for i, g := range gaps.Targets {
		switch {
		case g.ID == "" || strings.ContainsAny(g.ID, " \t\n") || ids[g.ID]:
			out = append(out, Problem{fmt.Sprintf("targets[%d]", i), "a gap needs an id of its own, without spaces"})
		case options[g.ID]+shared < 2:
			out = append(out, Problem{fmt.Sprintf("targets[%d]", i), "a menu needs two choices at least"})
		}
		ids[g.ID] = true
	}
	if len(gaps.Targets) == 0 {
		out = append(out, Problem{"body", "the sentence has no gap"})
	}
	seen := map[string]bool{}
	for i, c := range in.Choices {
		place, text := fmt.Sprintf("choices[%d]", i), c.In+" "+strings.TrimSpace(c.HTML)
		switch {
		case c.ID == "" || strings.ContainsAny(c.ID, " \t\n") || seen["id "+c.ID]:
			out = append(out, Problem{place, "a choice needs an id of its own, without spaces"})
		case c.In != "" && !ids[c.In]:
			out = append(out, Problem{place, "is in no menu"})
		case strings.TrimSpace(c.HTML) == "":
			out = append(out, Problem{place, "the choice is empty"})
		case seen[text]:
			out = append(out, Problem{place, "two choices of a menu are the same"})
		}
		seen["id "+c.ID], seen[text] = true, true
	}
	if len(out) > 0 {
		return out
	}
	if err := acceptsMenus(in, d.Correct); err != nil {
		return append(out, Problem{"declarations[0].correct", "the key " + err.(*ResponseError).Reason})
	}
	if len(d.Correct) != len(gaps.Targets) {
		out = append(out, Problem{"declarations[0].correct", "the key must choose from every menu"})
	}
	return out
}

func acceptsMenus(in Interaction, values []string) error {
	gaps := gapsOnly(in)
	filled, used := map[string]bool{}, map[string]int{}
	for _, v := range values {
		choice, gap, ok := strings.Cut(v, " ")
		fits := false
		for _, c := range in.Choices {
			fits = fits || c.ID == choice && (c.In == gap || c.In == "")
		}
		switch {
		case !ok || !fits || !offers(gaps.Targets, gap):
			return &ResponseError{in.Response, fmt.Sprintf("chooses %q, which no menu offers", v)}
		case filled[gap]:
			return &ResponseError{in.Response, fmt.Sprintf("chooses twice from the menu %q", gap)}
		}
		filled[gap] = true
		used[choice]++
	}
	for _, c := range in.Choices {
		if c.Most > 0 && used[c.ID] > c.Most {
			return &ResponseError{in.Response, fmt.Sprintf("uses %q %d times, %d at most", c.ID, used[c.ID], c.Most)}
		}
	}
	return nil
}

// menuWords are the words chosen, in the order of the gaps; a dash where none is.
func menuWords(in Interaction, pairs []string) []string {
	out := []string{}
	for _, g := range gapsOnly(in).Targets {
		word := "–"
		for _, c := range in.Choices {
			for _, p := range pairs {
				if p == c.ID+" "+g.ID {
					word = PlainText(c.HTML)
				}
			}
		}
		out = append(out, word)
	}
	return out
}

// A Menu is a gap of a sentence: the words offered, and the place of the right one.
type Menu struct {
	Words []string
	Right int
}

// NewMenus makes an item of menus in a sentence: text stands before the first menu,
// between menus and after the last, so there is one more of it than of menus.
func NewMenus(stem string, text []string, list []Menu, credit CreditRule) Item {
	in := Interaction{Response: "RESPONSE"}
	d := Declaration{Response: "RESPONSE"}
	n := 0
	for i, between := range text {
		if between != "" {
			in.Targets = append(in.Targets, Choice{HTML: between, Plain: true})
		}
		if i >= len(list) {
			continue
		}
		gap := fmt.Sprint("G", i+1)
		in.Targets = append(in.Targets, Choice{ID: gap, Most: 1})
		for k, word := range list[i].Words {
			id := Label(n)
			n++
			in.Choices = append(in.Choices, Choice{ID: id, HTML: word, Most: 1, In: gap})
			if k == list[i].Right {
				d.Correct = append(d.Correct, id+" "+gap)
			}
		}
	}
	return build(Menus, stem, in, d, credit)
}
