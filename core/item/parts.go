package item

import (
	"fmt"
	"slices"
	"strings"

	"pineledger/core/points"
)

// part is one place of an item to answer, with all that scores it.
type part struct {
	in     Interaction
	d      Declaration
	kind   Kind
	credit CreditRule
}

// weight is how much a part counts beside the others.
func (p part) weight() int64 { return int64(max(p.d.Weight, 1)) }

// parts are all the places to answer that have a key, in the order of the body.
// An item of one part has the kind and the credit rule of the whole.
func (it Item) parts() []part {
	var out []part
	for _, b := range it.Body {
		if b.Interaction == nil {
			continue
		}
		for _, d := range it.Declarations {
			if d.Response == b.Interaction.Response {
				out = append(out, it.asPart(*b.Interaction, d))
			}
		}
	}
	return out
}

func (it Item) asPart(in Interaction, d Declaration) part {
	p := part{in, d, it.Kind, it.Credit}
	if it.Kind == Parts {
		p.kind, p.credit = in.Kind, d.Credit
	}
	return p
}

// part finds the place to answer of a response.
func (it Item) part(response string) (part, bool) {
	for _, b := range it.Body {
		if b.Interaction == nil || b.Interaction.Response != response {
			continue
		}
		for _, d := range it.Declarations {
			if d.Response == response {
				return it.asPart(*b.Interaction, d), true
			}
		}
	}
	return part{}, false
}

// mostWeight bounds the weight of a part, so that sums stay small.
const mostWeight = 1000

func (it Item) checkParts() []Problem {
	list := it.parts()
	var out []Problem
	places := 0
	for _, b := range it.Body {
		if b.Interaction != nil {
			places++
		}
	}
	if len(list) == 0 || len(list) != places || len(list) != len(it.Declarations) {
		return append(out, Problem{"body", "every place to answer needs one key, and every key one place"})
	}
	if it.Credit != PerPart && it.Credit != AllOrNothing && it.Credit != AsWritten {
		out = append(out, Problem{"credit", fmt.Sprintf("%q is not a credit rule of this kind", it.Credit)})
	}
	seen := map[string]bool{}
	for i, p := range list {
		at := fmt.Sprintf("parts[%d].", i)
		if p.in.Response == "" || strings.ContainsAny(p.in.Response, " \t\n") || seen[p.in.Response] {
			out = append(out, Problem{at + "response", "a part needs an id of its own, without spaces"})
		}
		if p.kind == Parts || p.kind == Examiner {
			out = append(out, Problem{at + "kind", fmt.Sprintf("%q cannot be one of several parts", p.kind)})
			continue
		}
		if p.d.Needs != "" && !seen[p.d.Needs] {
			out = append(out, Problem{at + "needs", "a part can depend on a part before it only"})
		}
		if p.d.Weight < 0 || p.d.Weight > mostWeight {
			out = append(out, Problem{at + "weight", fmt.Sprintf("is not 1 to %d", mostWeight)})
		}
		seen[p.in.Response] = true
		for _, problem := range checkPart(p) {
			out = append(out, Problem{at + problem.Place, problem.Reason})
		}
	}
	return out
}

// judgement is what one part of an item earned.
type judgement struct {
	part
	share
	answered bool
	counts   bool // the part that it depends on is right, or there is none
}

// judge scores every part alone.
func (it Item) judge(r Response) []judgement {
	list := it.parts()
	out := make([]judgement, len(list))
	right := map[string]bool{}
	for i, p := range list {
		j := judgement{part: p, share: nothing("No answer was given."), counts: p.d.Needs == "" || right[p.d.Needs]}
		if values := given(r[p.in.Response]); len(values) > 0 {
			j.share, j.answered = p.score(values), true
		}
		right[p.in.Response] = j.answered && j.num == j.den && j.counts
		out[i] = j
	}
	return out
}

// scoreParts adds up the parts, each by its weight. A part whose parent is not
// right earns nothing, and all or nothing wants every part.
func scoreParts(judged []judgement, rule CreditRule) share {
	var total int64
	sum := newSum()
	var why []string
	all, unread := true, false
	for i, j := range judged {
		total += j.weight()
		words := fmt.Sprintf("Part %d: %s", i+1, j.why)
		if !j.counts {
			words += " It counts only when the part that it depends on is right."
		} else {
			sum.add(j.num*j.weight(), j.den)
		}
		all = all && j.counts && j.answered && j.num == j.den
		unread = unread || j.unread
		why = append(why, words)
	}
	reason := strings.Join(why, " ")
	if rule == AllOrNothing {
		if all {
			return whole(reason)
		}
		s := nothing(reason + " All or nothing.")
		s.unread = unread
		return s
	}
	s := sum.over(total, reason)
	s.unread = unread
	return s
}

// PartCredit is what one response of an item earned, of what it could.
type PartCredit struct {
	Response    string
	Credit, Max points.Points
}

// PartCredits tells what each part earns on a line worth max points, each rounded
// to hundredths by itself. An item scored as written tells no parts apart, but
// for the one that it may have.
func (it Item) PartCredits(r Response, max points.Points) []PartCredit {
	judged := it.judge(r)
	if len(judged) == 1 {
		return []PartCredit{{judged[0].in.Response, it.Score(r, max).Credit, max}}
	}
	out := []PartCredit{}
	if it.Credit == AsWritten {
		return out
	}
	var total int64
	for _, j := range judged {
		total += j.weight()
	}
	for _, j := range judged {
		p := PartCredit{Response: j.in.Response, Max: max.Fraction(j.weight(), total)}
		if j.counts {
			earned := newSum()
			earned.add(j.num*j.weight(), j.den)
			s := earned.over(total, "")
			p.Credit = max.Fraction(s.num, s.den)
		}
		out = append(out, p)
	}
	return out
}

// partSteps is how many equal steps the credit of an item of parts has; 0 where
// it has none that are worth telling.
func (it Item) partSteps() int64 {
	if it.Credit == AllOrNothing {
		return 1
	}
	list := it.parts()
	var total int64
	steps := int64(1)
	for _, p := range list {
		total += p.weight()
		n := p.steps()
		if n == 0 {
			return 0
		}
		steps = lcm(steps, n)
	}
	if steps*total > mostSteps {
		return 0
	}
	return steps * total
}

// mostSteps bounds the steps of a credit; finer ones are hundredths anyway.
const mostSteps = 1_000_000

func lcm(a, b int64) int64 {
	x, y := a, b
	for y != 0 {
		x, y = y, x%y
	}
	return a / x * b
}

// NewParts makes an item of several parts from items of one part each, whose
// stems become its text. Later parts may depend on earlier ones: needs holds the
// place of the parent from 0, or -1.
func NewParts(stem string, list []Item, needs []int, credit CreditRule) Item {
	out := Item{Schema: Schema, Kind: Parts, Credit: credit, Body: []Block{{HTML: stem}}}
	for i, it := range list {
		id := fmt.Sprint("RESPONSE", i+1)
		for _, b := range it.Body {
			if b.Interaction != nil {
				in := *b.Interaction
				in.Response, in.Kind = id, it.Kind
				b.Interaction = &in
			}
			out.Body = append(out.Body, b)
		}
		d := it.Declarations[0]
		d.Response, d.Credit = id, it.Credit
		if i < len(needs) && needs[i] >= 0 {
			d.Needs = fmt.Sprint("RESPONSE", needs[i]+1)
		}
		out.Declarations = append(out.Declarations, d)
	}
	return out.Cleaned()
}

// Tidied gives the item without blocks that hold nothing, in every language alike.
func (it Item) Tidied() Item {
	var empty []int
	for i, b := range it.Body {
		if b.HTML == "" && b.Interaction == nil {
			empty = append(empty, i)
		}
	}
	without := func(body []Block) []Block {
		var out []Block
		for i, b := range body {
			if !slices.Contains(empty, i) {
				out = append(out, b)
			}
		}
		return out
	}
	it.Body = without(it.Body)
	it.Variants = slices.Clone(it.Variants)
	for i, v := range it.Variants {
		it.Variants[i].Body = without(v.Body)
	}
	return it
}
