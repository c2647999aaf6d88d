package item

import (
	"fmt"
	"math/big"
	"regexp"
	"slices"
	"strings"
)

// outcomeValue is a value of response processing: none at all is null.
type outcomeValue struct {
	base    string
	items   []string
	ordered bool
}

func truth(yes bool) outcomeValue {
	if yes {
		return outcomeValue{base: "boolean", items: []string{"true"}}
	}
	return outcomeValue{base: "boolean", items: []string{"false"}}
}

func numeric(r *big.Rat) outcomeValue {
	return outcomeValue{base: "float", items: []string{r.RatString()}}
}

func (v outcomeValue) null() bool { return len(v.items) == 0 }

// isTrue takes null for false, as conditions do.
func (v outcomeValue) isTrue() bool { return len(v.items) == 1 && v.items[0] == "true" }

func (v outcomeValue) number() (*big.Rat, bool) {
	if len(v.items) != 1 {
		return nil, false
	}
	return readPlain(strings.TrimSpace(v.items[0]), false)
}

// same compares two single values of one base type.
func same(base, a, b string) bool {
	switch base {
	case "float", "integer":
		x, okX := readPlain(strings.TrimSpace(a), false)
		y, okY := readPlain(strings.TrimSpace(b), false)
		return okX && okY && x.Cmp(y) == 0
	case "pair":
		return a == b || reversed(a) == b
	case "string":
		return TextKey{CaseMatters: true}.fold(a) == TextKey{CaseMatters: true}.fold(b)
	}
	return a == b
}

// within counts how often a value is among others.
func (v outcomeValue) count(item string, base string) int {
	n := 0
	for _, x := range v.items {
		if same(base, x, item) {
			n++
		}
	}
	return n
}

// matches is equality of single values, of lists in order, and of sets.
func matches(a, b outcomeValue) bool {
	base := a.base
	if base == "string" || base == "identifier" && b.base != "" {
		base = b.base
	}
	if len(a.items) != len(b.items) {
		return false
	}
	for i, item := range a.items {
		if a.ordered || b.ordered {
			if !same(base, item, b.items[i]) {
				return false
			}
		} else if n := a.count(item, base); n == 0 || n != b.count(item, base) { // what is no number is not equal to itself
			return false
		}
	}
	return true
}

// operator is an expression: how many others it takes (most -1: any number), and
// what it gives. A null among the values of those that want values gives null.
type operator struct {
	least, most int
	response    bool // names a response
	mapping     bool // wants its mapping
	truth       bool // gives true or false
	compute     func(*ruleRun, Expression, []outcomeValue) outcomeValue
}

var operators map[string]operator

func init() {
	operators = map[string]operator{
		"base-value": {compute: func(_ *ruleRun, e Expression, _ []outcomeValue) outcomeValue {
			return outcomeValue{base: e.Base, items: []string{e.Value}}
		}},
		"null": {compute: func(*ruleRun, Expression, []outcomeValue) outcomeValue { return outcomeValue{} }},
		"variable": {compute: func(run *ruleRun, e Expression, _ []outcomeValue) outcomeValue {
			if v, ok := run.outcomes[e.ID]; ok {
				return v
			}
			return run.given(e.ID)
		}},
		"correct": {response: true, compute: func(run *ruleRun, e Expression, _ []outcomeValue) outcomeValue {
			p, _ := run.it.part(e.ID)
			return p.value(p.d.Correct)
		}},
		"map-response":       {response: true, mapping: true, compute: mapResponse},
		"map-response-point": {response: true, mapping: true, compute: mapResponse},
		"is-null": {1, 1, false, false, true, func(_ *ruleRun, _ Expression, a []outcomeValue) outcomeValue {
			return truth(a[0].null() || len(a[0].items) == 1 && a[0].base == "string" && a[0].items[0] == "")
		}},
		"and": {1, -1, false, false, true, func(_ *ruleRun, _ Expression, a []outcomeValue) outcomeValue { return logic(a, "false") }},
		"or":  {1, -1, false, false, true, func(_ *ruleRun, _ Expression, a []outcomeValue) outcomeValue { return logic(a, "true") }},
		"not": {1, 1, false, false, true, wanting(func(_ Expression, a []outcomeValue) outcomeValue { return truth(!a[0].isTrue()) })},
		"match": {2, 2, false, false, true, wanting(func(_ Expression, a []outcomeValue) outcomeValue {
			return truth(matches(a[0], a[1]))
		})},
		"member": {2, 2, false, false, true, wanting(func(_ Expression, a []outcomeValue) outcomeValue {
			return truth(a[1].count(a[0].items[0], a[1].base) > 0)
		})},
		"contains": {2, 2, false, false, true, wanting(contains)},
		"string-match": {2, 2, false, false, true, wanting(func(e Expression, a []outcomeValue) outcomeValue {
			k := TextKey{CaseMatters: !e.IgnoreCase}
			x, y := k.fold(a[0].items[0]), k.fold(a[1].items[0])
			return truth(x == y || e.Substring && strings.Contains(x, y))
		})},
		"substring": {2, 2, false, false, true, wanting(func(e Expression, a []outcomeValue) outcomeValue {
			k := TextKey{CaseMatters: !e.IgnoreCase}
			return truth(strings.Contains(k.fold(a[1].items[0]), k.fold(a[0].items[0])))
		})},
		"pattern-match": {1, 1, false, false, true, wanting(func(e Expression, a []outcomeValue) outcomeValue {
			whole, err := e.pattern()
			return truth(err == nil && whole.MatchString(a[0].items[0]))
		})},
		"equal": {2, 2, false, false, true, numbers(equalWithin)},
		"equal-rounded": {2, 2, false, false, true, numbers(func(e Expression, n []*big.Rat) outcomeValue {
			return truth(rounded(n[0], e).Cmp(rounded(n[1], e)) == 0)
		})},
		"lt":       {2, 2, false, false, true, compared(func(c int) bool { return c < 0 })},
		"gt":       {2, 2, false, false, true, compared(func(c int) bool { return c > 0 })},
		"lte":      {2, 2, false, false, true, compared(func(c int) bool { return c <= 0 })},
		"gte":      {2, 2, false, false, true, compared(func(c int) bool { return c >= 0 })},
		"sum":      {1, -1, false, false, false, numbers(folded((*big.Rat).Add))},
		"product":  {1, -1, false, false, false, numbers(folded((*big.Rat).Mul))},
		"subtract": {2, 2, false, false, false, numbers(folded((*big.Rat).Sub))},
		"divide": {2, 2, false, false, false, numbers(func(_ Expression, n []*big.Rat) outcomeValue {
			if n[1].Sign() == 0 {
				return outcomeValue{}
			}
			return numeric(new(big.Rat).Quo(n[0], n[1]))
		})},
		"max": {1, -1, false, false, false, numbers(func(_ Expression, n []*big.Rat) outcomeValue {
			return numeric(slices.MaxFunc(n, (*big.Rat).Cmp))
		})},
		"min": {1, -1, false, false, false, numbers(func(_ Expression, n []*big.Rat) outcomeValue {
			return numeric(slices.MinFunc(n, (*big.Rat).Cmp))
		})},
		"integer-to-float": {1, 1, false, false, false, numbers(func(_ Expression, n []*big.Rat) outcomeValue { return numeric(n[0]) })},
		"multiple":         {0, -1, false, false, false, gathered(false)},
		"ordered":          {0, -1, false, false, false, gathered(true)},
		"index": {1, 1, false, false, false, wanting(func(e Expression, a []outcomeValue) outcomeValue {
			if e.N < 1 || e.N > len(a[0].items) {
				return outcomeValue{}
			}
			return outcomeValue{base: a[0].base, items: a[0].items[e.N-1 : e.N]}
		})},
		"container-size": {1, 1, false, false, false, func(_ *ruleRun, _ Expression, a []outcomeValue) outcomeValue {
			return numeric(big.NewRat(int64(len(a[0].items)), 1))
		}},
		"inside": {1, 1, false, false, true, wanting(func(e Expression, a []outcomeValue) outcomeValue {
			return truth(slices.ContainsFunc(a[0].items, func(v string) bool { return areaAt([]Area{*e.Area}, v) == 0 }))
		})},
		// Ours, where QTI has no word: a word that may be one letter off,
		"near-word": {2, 2, false, false, true, wanting(func(e Expression, a []outcomeValue) outcomeValue {
			return truth(TextKey{CaseMatters: !e.IgnoreCase, Slips: true}.accepts(a[0].items[0], a[1].items[0]))
		})},
		// and how many of two lists stand in one order.
		"longest-run": {2, 2, false, false, false, wanting(func(_ Expression, a []outcomeValue) outcomeValue {
			return numeric(big.NewRat(int64(longestCommon(a[0].items, a[1].items)), 1))
		})},
	}
}

// mostPattern bounds a pattern; its time is linear in what it reads.
const mostPattern = 1000

// pattern is a regular expression that a whole text must fit.
func (e Expression) pattern() (*regexp.Regexp, error) {
	if len(e.Pattern) > mostPattern {
		return nil, fmt.Errorf("it is longer than %d bytes", mostPattern)
	}
	return regexp.Compile("^(?:" + e.Pattern + ")$")
}

func mapResponse(run *ruleRun, e Expression, _ []outcomeValue) outcomeValue {
	p, _ := run.it.part(e.ID)
	values := given(run.response[e.ID])
	if p.d.Mapping == nil || len(values) == 0 {
		return numeric(new(big.Rat))
	}
	return numeric(p.mapped(values))
}

// wanting gives null when a value is.
func wanting(f func(Expression, []outcomeValue) outcomeValue) func(*ruleRun, Expression, []outcomeValue) outcomeValue {
	return func(_ *ruleRun, e Expression, args []outcomeValue) outcomeValue {
		if slices.ContainsFunc(args, outcomeValue.null) {
			return outcomeValue{}
		}
		return f(e, args)
	}
}

// numbers reads its values as numbers, those in lists one by one.
func numbers(f func(Expression, []*big.Rat) outcomeValue) func(*ruleRun, Expression, []outcomeValue) outcomeValue {
	return wanting(func(e Expression, args []outcomeValue) outcomeValue {
		var list []*big.Rat
		for _, a := range args {
			for _, item := range a.items {
				n, ok := readPlain(strings.TrimSpace(item), false)
				if !ok {
					return outcomeValue{}
				}
				list = append(list, n)
			}
		}
		if len(list) < len(args) {
			return outcomeValue{}
		}
		return f(e, list)
	})
}

func folded(step func(z, x, y *big.Rat) *big.Rat) func(Expression, []*big.Rat) outcomeValue {
	return func(_ Expression, n []*big.Rat) outcomeValue {
		total := new(big.Rat).Set(n[0])
		for _, x := range n[1:] {
			step(total, total, x)
			if total.Num().BitLen()+total.Denom().BitLen() > 4096 {
				return outcomeValue{} // no score of a person is that long
			}
		}
		return numeric(total)
	}
}

func compared(holds func(int) bool) func(*ruleRun, Expression, []outcomeValue) outcomeValue {
	return numbers(func(_ Expression, n []*big.Rat) outcomeValue { return truth(holds(n[0].Cmp(n[1]))) })
}

// logic is and (stops at "false") and or (stops at "true") with three values.
func logic(args []outcomeValue, stop string) outcomeValue {
	unknown := false
	for _, a := range args {
		if len(a.items) == 1 && a.items[0] == stop {
			return truth(stop == "true")
		}
		unknown = unknown || a.null()
	}
	if unknown {
		return outcomeValue{}
	}
	return truth(stop != "true")
}

func gathered(ordered bool) func(*ruleRun, Expression, []outcomeValue) outcomeValue {
	return func(_ *ruleRun, _ Expression, args []outcomeValue) outcomeValue {
		out := outcomeValue{ordered: ordered}
		for _, a := range args {
			out.items = append(out.items, a.items...)
			if a.base != "" {
				out.base = a.base
			}
		}
		return out
	}
}

// contains tells whether the first holds the second: as a set, or in order as a run.
func contains(_ Expression, a []outcomeValue) outcomeValue {
	whole, part := a[0], a[1]
	if whole.ordered {
		for from := 0; from+len(part.items) <= len(whole.items); from++ {
			if matches(outcomeValue{base: whole.base, items: whole.items[from : from+len(part.items)], ordered: true}, part) {
				return truth(true)
			}
		}
		return truth(false)
	}
	for _, item := range part.items {
		if whole.count(item, whole.base) < part.count(item, whole.base) {
			return truth(false)
		}
	}
	return truth(true)
}

// equalWithin compares two numbers: the second within a tolerance of the first.
func equalWithin(e Expression, n []*big.Rat) outcomeValue {
	if e.Mode == "" || e.Mode == "exact" || len(e.Tolerance) == 0 {
		return truth(n[0].Cmp(n[1]) == 0)
	}
	below := plainRat(e.Tolerance[0])
	above := plainRat(e.Tolerance[len(e.Tolerance)-1])
	if e.Mode == "relative" { // in percent of the first
		percent := new(big.Rat).Quo(new(big.Rat).Abs(n[0]), big.NewRat(100, 1))
		below = new(big.Rat).Mul(below, percent)
		above = new(big.Rat).Mul(above, percent)
	}
	low := n[1].Cmp(new(big.Rat).Sub(n[0], below))
	high := n[1].Cmp(new(big.Rat).Add(n[0], above))
	return truth((low > 0 || low == 0 && !e.LeaveLower) && (high < 0 || high == 0 && !e.LeaveUpper))
}

// rounded rounds to decimal places or to significant figures, halves away from zero.
func rounded(v *big.Rat, e Expression) *big.Rat {
	places := e.N
	if e.Mode != "decimalPlaces" { // significant figures
		limit := new(big.Rat).Abs(v)
		for places = e.N - 1; limit.Sign() > 0 && limit.Cmp(big.NewRat(10, 1)) >= 0; places-- {
			limit.Quo(limit, big.NewRat(10, 1))
		}
		for ; limit.Sign() > 0 && limit.Cmp(big.NewRat(1, 1)) < 0 && places < maxNumberLength; places++ {
			limit.Mul(limit, big.NewRat(10, 1))
		}
	}
	scale := new(big.Rat).SetInt(new(big.Int).Exp(big.NewInt(10), big.NewInt(int64(max(places, -places))), nil))
	if places < 0 {
		scale.Inv(scale)
	}
	scaled := new(big.Rat).Mul(v, scale)
	half := big.NewRat(1, 2)
	if scaled.Sign() < 0 {
		half.Neg(half)
	}
	scaled.Add(scaled, half)
	whole := new(big.Rat).SetInt(new(big.Int).Quo(scaled.Num(), scaled.Denom()))
	return whole.Quo(whole, scale)
}
