package item

import (
	"errors"
	"fmt"
	"math/big"
	"slices"
	"strconv"
)

// AsRules gives for an item without problems one that is scored as written and earns the same for the same
// responses: its credit rule told in the expressions of QTI, for programs that do
// not know it by name. Menus with words of their own become one choice a gap,
// whose responses are those of GapParts. What waits for a reader or is recorded
// has no rules: ok is false, and the item comes as it is.
func (it Item) AsRules() (out Item, ok bool) {
	switch {
	case it.Credit == AsWritten:
		return it, true
	case it.Kind == Menus && !it.sharedMenu():
		return it.GapParts().AsRules()
	case it.Kind != Parts:
		in, d, found := it.answer()
		if !found || it.Credit == ByReader || it.Kind == Examiner {
			return it, false
		}
		d, rules, most := part{in, d, it.Kind, it.Credit}.rules(ScoreOutcome)
		it.Declarations = []Declaration{d}
		it.Processing = &Processing{Rules: rules, Most: plainly(most)}
	default:
		if it, ok = it.partsAsRules(); !ok {
			return it, false
		}
	}
	it.Credit = AsWritten
	return it, true
}

// scoredAlone tells whether every part is scored without a person.
func (it Item) scoredAlone() bool {
	return !slices.ContainsFunc(it.parts(), func(p part) bool { return p.credit == ByReader || p.kind == Examiner })
}

func (it Item) partsAsRules() (Item, bool) {
	p := &Processing{}
	sum := Expression{Op: "sum"}
	all := Expression{Op: "and"}
	var total int64
	declarations := slices.Clone(it.Declarations)
	for _, part := range it.parts() {
		if part.credit == ByReader {
			return it, false
		}
		outcome := ScoreOutcome + "_" + part.in.Response
		p.Outcomes = append(p.Outcomes, Outcomes{ID: outcome, Base: "float", Default: "0"})
		d, rules, most := part.rules(outcome)
		at := slices.IndexFunc(declarations, func(x Declaration) bool { return x.Response == d.Response })
		declarations[at] = d
		p.Rules = append(p.Rules, rules...)
		share := variable(outcome)
		if part.credit == Mapped { // within 0 and 1, as the share of a part is
			share = of("max", constant(0), of("min", constant(1), of("divide", share, rational(most))))
			p.Rules = append(p.Rules, set(outcome, share))
			share = variable(outcome)
		}
		if part.d.Needs != "" {
			p.Rules = append(p.Rules, when(of("lt", variable(ScoreOutcome+"_"+part.d.Needs), constant(1)), set(outcome, constant(0))))
		}
		total += part.weight()
		sum.Expressions = append(sum.Expressions, of("product", constant(part.weight()), share))
		all.Expressions = append(all.Expressions, of("equal", share, constant(1)))
	}
	if it.Credit == AllOrNothing {
		p.Rules, p.Most = append(p.Rules, when(all, set(ScoreOutcome, constant(1)))), "1"
	} else {
		p.Rules, p.Most = append(p.Rules, set(ScoreOutcome, sum)), strconv.FormatInt(total, 10)
	}
	it.Declarations, it.Processing = declarations, p
	return it, true
}

// RightResponse is a response that earns everything: the key, the first accepted
// answer, a spot in every area, or all that a mapping values.
func (it Item) RightResponse() Response {
	out := Response{}
	for _, p := range it.parts() {
		if values := p.right(); len(values) > 0 {
			out[p.in.Response] = values
		}
	}
	return out
}

// right is what earns everything on a part.
func (p part) right() []string {
	values := slices.Clone(p.d.Correct)
	switch {
	case p.kind == Spot && len(p.in.Choices) == 0:
		values = nil
		for _, a := range p.d.Areas {
			if a.check() == nil { // center, corner and border belong to it
				values = append(values, strconv.Itoa(a.At[0])+" "+strconv.Itoa(a.At[1]))
			}
		}
		if p.in.MaxChoices > 0 {
			values = values[:min(len(values), p.in.MaxChoices)]
		}
	case p.credit == Mapped && p.d.Mapping != nil:
		values = p.bestMapped()
	case p.kind == Text || p.kind == Number || p.kind == NumberLine:
		values = values[:min(len(values), 1)]
	}
	return values
}

// earnable says why a part that is sound otherwise gives nobody full credit: its key may
// not be given as an answer, or does not earn everything.
func (p part) earnable() []Problem {
	switch {
	case p.credit == Mapped, p.credit == AsWritten, p.credit == ByReader, p.kind == Examiner:
		return nil
	}
	values, at := p.right(), "declarations[0].correct"
	if p.kind == Spot && len(p.in.Choices) == 0 {
		at = "declarations[0].areas"
	}
	if p.in.MaxChoices > 0 && len(values) > p.in.MaxChoices {
		return []Problem{{at, fmt.Sprintf("the key has %d answers, and a student may choose %d: nobody could earn full credit", len(values), p.in.MaxChoices)}}
	}
	if err := kinds[p.kind].accepts(p.in, values); err != nil {
		return []Problem{{at, fmt.Sprintf("the key cannot be given as an answer: it %s", reasonOf(err))}}
	}
	if s := p.score(values); s.num < s.den {
		return []Problem{{at, "the key does not earn full credit: " + s.why}}
	}
	return nil
}

func reasonOf(err error) string {
	var r *ResponseError
	if errors.As(err, &r) {
		return r.Reason
	}
	return err.Error()
}

// bestMapped are the answers that a mapping values most, as many as may be given.
func (p part) bestMapped() []string {
	entries := slices.Clone(p.d.Mapping.Entries)
	slices.SortStableFunc(entries, func(a, b MapEntry) int { return plainRat(b.Value).Cmp(plainRat(a.Value)) })
	count := p.in.MaxChoices
	if p.kind == Text || p.kind == Number || p.kind == NumberLine || p.kind == SingleChoice {
		count = 1
	}
	var out []string
	for _, e := range entries {
		if plainRat(e.Value).Sign() > 0 && (count == 0 || len(out) < count) {
			out = append(out, e.Key)
		}
	}
	return out
}

// Short ways to write expressions.
func of(op string, inner ...Expression) Expression { return Expression{Op: op, Expressions: inner} }
func variable(id string) Expression                { return Expression{Op: "variable", ID: id} }
func correct(id string) Expression                 { return Expression{Op: "correct", ID: id} }
func base(kind, value string) Expression {
	return Expression{Op: "base-value", Base: kind, Value: value}
}
func constant(n int64) Expression { return base("float", strconv.FormatInt(n, 10)) }
func set(id string, e Expression) Rule {
	return Rule{Set: id, Value: &e}
}
func when(e Expression, then ...Rule) Rule {
	return Rule{Branches: []Branch{{When: &e, Then: then}}}
}

// rational writes a number that a decimal may not hold as a quotient.
func rational(r *big.Rat) Expression {
	if places, exact := r.FloatPrec(); exact {
		return base("float", r.FloatString(places))
	}
	return of("divide", base("float", r.Num().String()), base("float", r.Denom().String()))
}

// rules gives the rules that set an outcome to what a part earns, of most, and the
// declaration with the mapping that they want.
func (p part) rules(outcome string) (d Declaration, rules []Rule, most *big.Rat) {
	id := p.in.Response
	answered := of("not", of("is-null", variable(id)))
	one := big.NewRat(1, 1)
	right := func(e Expression) []Rule { return []Rule{when(e, set(outcome, constant(1)))} }
	earned := func(e Expression) []Rule { return []Rule{when(answered, set(outcome, e))} }
	n := int64(len(selectable(p.in).Choices))
	switch {
	case p.credit == Mapped:
		return p.d, earned(Expression{Op: p.mapOp(), ID: id}), p.mostMapped()
	case p.kind == Spot && len(p.in.Choices) == 0:
		return p.spotRules(outcome)
	case p.credit == PerChoice:
		p.d.Mapping = p.signed("")
		distractors := n - int64(len(p.d.Correct))
		return p.d, earned(of("divide", of("sum", Expression{Op: "map-response", ID: id}, constant(distractors)), constant(n))), one
	case p.credit == KeyMinus:
		p.d.Mapping = p.signed("0")
		return p.d, earned(of("divide", Expression{Op: "map-response", ID: id}, constant(int64(len(p.d.Correct))))), one
	case p.credit == PerPlace:
		for i, key := range p.d.Correct {
			at := Expression{Op: "index", N: i + 1, Expressions: []Expression{variable(id)}}
			rules = append(rules, when(of("match", at, base("identifier", key)), set(outcome, of("sum", variable(outcome), constant(1)))))
		}
		return p.d, append(rules, set(outcome, of("divide", variable(outcome), constant(n)))), one
	case p.credit == LongestRun:
		return p.d, earned(of("divide", of("longest-run", variable(id), correct(id)), constant(n))), one
	case p.credit == PerPart:
		rules, parts := p.pairRules(outcome)
		return p.d, append(rules, set(outcome, of("divide", variable(outcome), constant(parts)))), one
	case p.kind == Text:
		var any []Expression
		for _, key := range p.d.Correct {
			op := "string-match"
			if p.d.Text.Slips {
				op = "near-word"
			}
			any = append(any, Expression{Op: op, IgnoreCase: !p.d.Text.CaseMatters, Expressions: []Expression{variable(id), base("string", key)}})
		}
		return p.d, right(of("or", any...)), one
	case p.kind == Number || p.kind == NumberLine:
		var any []Expression
		for _, key := range p.d.Correct {
			v, _ := p.d.Number.read(key)
			e := Expression{Op: "equal", Expressions: []Expression{rational(v), variable(id)}}
			if t := plainRat(p.d.Number.Tolerance); p.d.Number.Tolerance != "" {
				e.Mode = "absolute"
				if p.d.Number.Relative {
					e.Mode = "relative"
					t.Mul(t, big.NewRat(100, 1))
				}
				e.Tolerance = []string{plainly(t)}
			}
			any = append(any, e)
		}
		return p.d, right(of("or", any...)), one
	}
	return p.d, right(of("match", variable(id), correct(id))), one
}

func (p part) mapOp() string {
	if p.kind == Spot && len(p.in.Choices) == 0 {
		return "map-response-point"
	}
	return "map-response"
}

// signed maps keys to 1 and distractors to −1.
func (p part) signed(lower string) *Mapping {
	m := &Mapping{Lower: lower}
	for _, c := range selectable(p.in).Choices {
		value := "-1"
		if slices.Contains(p.d.Correct, c.ID) {
			value = "1"
		}
		m.Entries = append(m.Entries, MapEntry{Key: c.ID, Value: value})
	}
	return m
}

func (p part) spotRules(outcome string) (Declaration, []Rule, *big.Rat) {
	id := p.in.Response
	one := big.NewRat(1, 1)
	areas := slices.Clone(p.d.Areas)
	for i := range areas {
		areas[i].Value = "1"
	}
	p.d.Areas, p.d.Mapping = areas, &Mapping{Default: "-1", Lower: "0"}
	n := constant(int64(len(areas)))
	if p.in.MaxChoices == 1 && p.credit != PerPart {
		n = constant(1)
	}
	mapped := Expression{Op: "map-response-point", ID: id}
	if p.credit == PerPart {
		return p.d, []Rule{set(outcome, of("divide", mapped, n))}, one
	}
	return p.d, []Rule{when(of("equal", mapped, n), set(outcome, constant(1)))}, one
}

// pairRules count the choices that have just the targets of the key.
func (p part) pairRules(outcome string) (rules []Rule, parts int64) {
	kind := "directedPair"
	if p.in.Among {
		kind = "pair"
	}
	key := targetsByChoice(p.in.straight(p.d.Correct))
	for _, c := range p.in.Choices {
		targets, ok := key[c.ID]
		if !ok {
			continue
		}
		parts++
		just := Expression{Op: "and"}
		for _, t := range gapsOnly(Interaction{Targets: p.in.joinable()}).Targets {
			if t.ID == c.ID && p.in.Among || c.In != "" && c.In != t.ID {
				continue
			}
			e := of("member", base(kind, c.ID+" "+t.ID), variable(p.in.Response))
			if p.in.Among && p.before(t.ID, c.ID) {
				continue // that pair is judged with the other choice
			}
			if !slices.Contains(targets, t.ID) {
				e = of("not", e)
			}
			just.Expressions = append(just.Expressions, e)
		}
		rules = append(rules, when(just, set(outcome, of("sum", variable(outcome), constant(1)))))
	}
	return rules, parts
}

// before tells whether a choice is offered before another.
func (p part) before(a, b string) bool {
	at := func(id string) int { return slices.IndexFunc(p.in.Choices, func(c Choice) bool { return c.ID == id }) }
	return at(a) < at(b)
}
