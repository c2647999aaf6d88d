package item

import (
	"errors"
	"math/big"
	"slices"
)

var errNoMost = errors.New("the highest score cannot be told from the rules")

// HighestScore bounds the outcome SCORE of rules from above, for items that do not
// say it. The bound is reached by the usual rules, which add up and choose.
func (it Item) HighestScore() (*big.Rat, error) {
	b := bounds{it: it, of: map[string]span{}}
	b.of[ScoreOutcome] = span{new(big.Rat), new(big.Rat)}
	for _, o := range it.Processing.Outcomes {
		v := plainRat(o.Default)
		b.of[o.ID] = span{v, v}
	}
	b.follow(it.Processing.Rules)
	if b.err != nil {
		return nil, b.err
	}
	if high := b.of[ScoreOutcome].high; high.Sign() > 0 {
		return high, nil
	}
	return nil, errNoMost
}

// span is what a number lies between.
type span struct{ low, high *big.Rat }

type bounds struct {
	it  Item
	of  map[string]span
	err error
}

func (b *bounds) follow(rules []Rule) {
	for _, r := range rules {
		if r.Set != "" && r.Value != nil && b.counts(r.Set) {
			b.of[r.Set] = b.span(*r.Value)
		}
		if len(r.Branches) == 0 {
			continue
		}
		before := b.of
		var after []map[string]span
		otherwise := false
		for _, branch := range r.Branches {
			b.of = cloneSpans(before)
			b.follow(branch.Then)
			after = append(after, b.of)
			otherwise = otherwise || branch.When == nil
		}
		if !otherwise {
			after = append(after, before)
		}
		b.of = widest(after)
	}
}

// counts tells whether an outcome is a number.
func (b *bounds) counts(id string) bool {
	for _, o := range b.it.Processing.Outcomes {
		if o.ID == id {
			return o.Base == "float" || o.Base == "integer"
		}
	}
	return id == ScoreOutcome
}

func cloneSpans(m map[string]span) map[string]span {
	out := make(map[string]span, len(m))
	for k, v := range m {
		out[k] = v
	}
	return out
}

func widest(list []map[string]span) map[string]span {
	out := cloneSpans(list[0])
	for _, m := range list[1:] {
		for k, v := range m {
			w := out[k]
			if w.low == nil || v.low.Cmp(w.low) < 0 {
				w.low = v.low
			}
			if w.high == nil || v.high.Cmp(w.high) > 0 {
				w.high = v.high
			}
			out[k] = w
		}
	}
	return out
}

func (b *bounds) span(e Expression) span {
	zero := new(big.Rat)
	if e.Op == "longest-run" {
		if p, ok := b.it.part(e.Expressions[0].ID); ok {
			return span{zero, big.NewRat(int64(len(p.in.Choices)), 1)}
		}
	}
	var inner []span
	for _, x := range e.Expressions {
		inner = append(inner, b.span(x))
	}
	folded := func(op func(z, x, y *big.Rat) *big.Rat, other func(s span) (forLow, forHigh *big.Rat)) span {
		out := span{new(big.Rat).Set(inner[0].low), new(big.Rat).Set(inner[0].high)}
		for _, s := range inner[1:] {
			low, high := other(s)
			op(out.low, out.low, low)
			op(out.high, out.high, high)
		}
		return out
	}
	straight := func(s span) (*big.Rat, *big.Rat) { return s.low, s.high }
	switch e.Op {
	case "base-value":
		if v, ok := readPlain(e.Value, false); ok {
			return span{v, v}
		}
	case "variable":
		if s, ok := b.of[e.ID]; ok {
			return s
		}
	case "map-response", "map-response-point":
		if p, ok := b.it.part(e.ID); ok && p.d.Mapping != nil {
			return span{zero, p.mostMapped()}
		}
	case "null":
		return span{zero, zero}
	case "sum":
		return folded((*big.Rat).Add, straight)
	case "subtract":
		return folded((*big.Rat).Sub, func(s span) (*big.Rat, *big.Rat) { return s.high, s.low })
	case "integer-to-float":
		return inner[0]
	case "product", "divide", "max", "min":
		return b.corners(e.Op, inner)
	}
	b.err = errNoMost
	return span{zero, zero}
}

// corners computes with both ends of every span, where the extremes are.
func (b *bounds) corners(op string, inner []span) span {
	out := inner[0]
	for _, s := range inner[1:] {
		var ends []*big.Rat
		for _, x := range []*big.Rat{out.low, out.high} {
			for _, y := range []*big.Rat{s.low, s.high} {
				switch {
				case op == "product":
					ends = append(ends, new(big.Rat).Mul(x, y))
				case op == "divide" && y.Sign() != 0:
					ends = append(ends, new(big.Rat).Quo(x, y))
				case op == "max" && x.Cmp(y) < 0, op == "min" && x.Cmp(y) > 0:
					ends = append(ends, y)
				case op == "max", op == "min":
					ends = append(ends, x)
				}
			}
		}
		if len(ends) == 0 {
			b.err = errNoMost
			return inner[0]
		}
		out = span{slices.MinFunc(ends, (*big.Rat).Cmp), slices.MaxFunc(ends, (*big.Rat).Cmp)}
	}
	return out
}
