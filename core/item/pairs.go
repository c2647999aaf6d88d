package item

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Three kinds join choices to targets: pairs are matched, things are sorted into
// groups, boxes of a table are ticked. A response is a list of pairs "A X" of the
// ids of a choice and a target. Their credit is the same; screens differ.
var (
	match    = pairRules
	groups   = pairRules
	boxTable = pairRules
)

var pairRules = kindRules{
	credits: []CreditRule{AllOrNothing, PerPart, Mapped},
	check:   checkPairs,
	accepts: acceptsPairs,
	score:   scorePairs,
	steps: func(credit CreditRule, _ Interaction, d Declaration) int64 {
		if credit == PerPart {
			return int64(max(len(targetsByChoice(d.Correct)), 1))
		}
		return 1
	},
	keyShort: func(in Interaction, d Declaration) string { return strings.Join(pairLabels(in, d.Correct), ", ") },
	short:    pairLabels,
}

// targetsByChoice gathers the targets of each choice, sorted.
func targetsByChoice(pairs []string) map[string][]string {
	out := map[string][]string{}
	for _, p := range pairs {
		choice, target, _ := strings.Cut(p, " ")
		out[choice] = append(out[choice], target)
	}
	for choice := range out {
		slices.Sort(out[choice])
	}
	return out
}

// straight turns pairs of choices among each other so that the one offered first
// stands first; other pairs stay as they are.
func (in Interaction) straight(pairs []string) []string {
	if !in.Among {
		return pairs
	}
	at := func(id string) int { return slices.IndexFunc(in.Choices, func(c Choice) bool { return c.ID == id }) }
	out := slices.Clone(pairs)
	for i, p := range out {
		if a, b, _ := strings.Cut(p, " "); at(a) > at(b) {
			out[i] = reversed(p)
		}
	}
	return out
}

// joinable are what choices may be joined to.
func (in Interaction) joinable() []Choice {
	if in.Among {
		return in.Choices
	}
	return in.Targets
}

func scorePairs(credit CreditRule, in Interaction, d Declaration, values []string) share {
	return judgePairs(credit, in, d, values, pairLabels)
}

// judgePairs takes each choice that has a target in the key as one part: it is
// right when it has just those targets. All or nothing also wants no pair more.
func judgePairs(credit CreditRule, in Interaction, d Declaration, values []string, note func(Interaction, []string) []string) share {
	values = in.straight(values)
	key, got := targetsByChoice(in.straight(d.Correct)), targetsByChoice(values)
	var right int64
	for choice, targets := range key {
		if slices.Equal(got[choice], targets) {
			right++
		}
	}
	n := int64(len(key))
	why := fmt.Sprintf("Gave %s; the key is %s.", strings.Join(note(in, values), ", "), strings.Join(note(in, d.Correct), ", "))
	if credit == PerPart {
		return share{num: right, den: n, why: fmt.Sprintf("%s %d of %d parts right.", why, right, n)}
	}
	if right == n && len(values) == len(d.Correct) {
		return whole(why)
	}
	return nothing(why + " All or nothing.")
}

func checkPairs(in Interaction, d Declaration) []Problem {
	out := in.checkPlaces()
	if len(in.Choices) == 0 || len(in.joinable()) == 0 {
		out = append(out, Problem{"body", "there must be something to join, and something to join it to"})
	}
	for _, list := range []struct {
		name    string
		choices []Choice
	}{{"choices", in.Choices}, {"targets", in.Targets}} {
		ids := map[string]bool{}
		for i, c := range list.choices {
			place := fmt.Sprintf("%s[%d]", list.name, i)
			switch {
			case c.ID == "" || strings.ContainsAny(c.ID, " \t\n"):
				out = append(out, Problem{place, "needs an id without spaces"})
			case ids[c.ID]:
				out = append(out, Problem{place, fmt.Sprintf("the id %q is used twice", c.ID)})
			case strings.TrimSpace(c.HTML) == "":
				out = append(out, Problem{place, "is empty"})
			}
			ids[c.ID] = true
		}
	}
	if len(d.Correct) == 0 {
		return append(out, Problem{"declarations[0].correct", "there is no key"})
	}
	if err := acceptsPairs(in, d.Correct); err != nil {
		out = append(out, Problem{"declarations[0].correct", "the key " + err.(*ResponseError).Reason})
	}
	return out
}

func acceptsPairs(in Interaction, values []string) error {
	refuse := func(format string, args ...any) error {
		return &ResponseError{in.Response, fmt.Sprintf(format, args...)}
	}
	uses, seen := map[string]int{}, map[string]bool{}
	for _, v := range values {
		choice, target, ok := strings.Cut(v, " ")
		if !ok || !offers(in.Choices, choice) || !offers(in.joinable(), target) || in.Among && choice == target {
			return refuse("names the pair %q, which is not offered", v)
		}
		if seen[v] || in.Among && seen[reversed(v)] {
			return refuse("names the pair %q twice", v)
		}
		seen[v] = true
		uses["choice "+choice]++
		if in.Among {
			uses["choice "+target]++
		} else {
			uses["target "+target]++
		}
	}
	for _, c := range in.Choices {
		if n := uses["choice "+c.ID]; c.Most > 0 && n > c.Most {
			return refuse("joins %q %d times, %d at most", c.ID, n, c.Most)
		}
	}
	for _, c := range in.Targets {
		if n := uses["target "+c.ID]; c.Most > 0 && n > c.Most {
			return refuse("joins %d things to %q, %d at most", n, c.ID, c.Most)
		}
	}
	return nil
}

func offers(list []Choice, id string) bool {
	return slices.ContainsFunc(list, func(c Choice) bool { return c.ID == id })
}

// pairLabels writes pairs as letter and number: A–1.
func pairLabels(in Interaction, pairs []string) []string {
	out := make([]string, 0, len(pairs))
	for _, p := range in.straight(pairs) {
		choice, target, _ := strings.Cut(p, " ")
		from := slices.IndexFunc(in.Choices, func(c Choice) bool { return c.ID == choice })
		to := slices.IndexFunc(in.joinable(), func(c Choice) bool { return c.ID == target })
		switch {
		case from < 0 || to < 0:
		case in.Among:
			out = append(out, Label(from)+"–"+Label(to))
		default:
			out = append(out, Label(from)+"–"+strconv.Itoa(to+1))
		}
	}
	slices.Sort(out)
	return out
}

// Pair joins a choice to a target, by their places.
type Pair struct{ Choice, Target int }

// NewPairs makes an item of one of the three kinds. perChoice and perTarget are
// how often each may be joined, 0 for as often as wanted.
func NewPairs(kind Kind, stem string, choices, targets []string, key []Pair, perChoice, perTarget int, credit CreditRule) Item {
	in := Interaction{Response: "RESPONSE"}
	for i, c := range choices {
		in.Choices = append(in.Choices, Choice{ID: Label(i), HTML: c, Most: perChoice})
	}
	for i, c := range targets {
		in.Targets = append(in.Targets, Choice{ID: "T" + strconv.Itoa(i+1), HTML: c, Most: perTarget})
	}
	d := Declaration{Response: "RESPONSE"}
	for _, p := range key {
		d.Correct = append(d.Correct, Label(p.Choice)+" T"+strconv.Itoa(p.Target+1))
	}
	return build(kind, stem, in, d, credit)
}
