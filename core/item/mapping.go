package item

import (
	"fmt"
	"math/big"
	"slices"
	"strings"
)

// Mapping gives values to what may be answered, as a mapping of QTI does; the
// credit is their sum within the bounds, over the most that it can be. Values
// are decimals or fractions. Those of areas stand with the areas.
type Mapping struct {
	Entries []MapEntry `json:"entries,omitempty"`
	Default string     `json:"default,omitempty"` // of what has no entry; 0 when left out
	Lower   string     `json:"lower,omitempty"`   // "" for no bound
	Upper   string     `json:"upper,omitempty"`   // "" for no bound
}

// MapEntry is the value of one answer.
type MapEntry struct {
	Key         string `json:"key"`
	Value       string `json:"value"`
	CaseMatters bool   `json:"caseMatters,omitempty"` // otherwise it does not
}

// plainRat reads a decimal or fraction; an empty or unreadable one is 0, which
// check has refused before.
func plainRat(s string) *big.Rat {
	if v, ok := readPlain(strings.TrimSpace(s), false); ok {
		return v
	}
	return new(big.Rat)
}

func (m *Mapping) check(d Declaration) []Problem {
	if m == nil {
		return []Problem{{"declarations[0].mapping", "the values of the answers are missing"}}
	}
	var out []Problem
	values := []string{m.Default, m.Lower, m.Upper}
	for _, e := range m.Entries {
		values = append(values, e.Value)
	}
	for _, a := range d.Areas {
		values = append(values, a.Value)
	}
	for _, v := range values {
		if _, ok := readPlain(v, false); v != "" && !ok {
			out = append(out, Problem{"declarations[0].mapping", fmt.Sprintf("%q is not a number", v)})
		}
	}
	if len(m.Entries) > maxValues || len(d.Areas) > maxValues {
		out = append(out, Problem{"declarations[0].mapping", fmt.Sprintf("has more than %d values", maxValues)})
	}
	return out
}

// mapped is what a mapping gives for the values of a response.
func (p part) mapped(values []string) *big.Rat {
	m := p.d.Mapping
	total := new(big.Rat)
	if p.kind == Spot && len(p.in.Choices) == 0 {
		hit := map[int]bool{}
		for _, v := range values {
			at := areaAt(p.d.Areas, v)
			switch {
			case at < 0:
				total.Add(total, plainRat(m.Default))
			case !hit[at]: // an area counts once
				total.Add(total, plainRat(p.d.Areas[at].Value))
			}
			hit[at] = true
		}
		return m.bounded(total)
	}
	seen := map[string]bool{}
	for _, v := range values {
		if seen[v] {
			continue
		}
		seen[v] = true
		total.Add(total, m.of(v, p))
	}
	return m.bounded(total)
}

// of is the value of one answer.
func (m *Mapping) of(value string, p part) *big.Rat {
	for _, e := range m.Entries {
		same := e.Key == value
		switch p.kind {
		case Text:
			k := TextKey{CaseMatters: e.CaseMatters}
			same = k.fold(e.Key) == k.fold(value)
		case Number, NumberLine:
			v, ok := p.d.Number.read(value)
			key, known := p.d.Number.read(e.Key)
			same = ok && known && v.Cmp(key) == 0
		default:
			same = same || p.in.Among && reversed(e.Key) == value
		}
		if same {
			return plainRat(e.Value)
		}
	}
	return plainRat(m.Default)
}

func (m *Mapping) bounded(v *big.Rat) *big.Rat {
	if m.Lower != "" {
		if low := plainRat(m.Lower); v.Cmp(low) < 0 {
			return low
		}
	}
	if m.Upper != "" {
		if high := plainRat(m.Upper); v.Cmp(high) > 0 {
			return high
		}
	}
	return v
}

// mostMapped is the highest value that a mapping can give: its upper bound, or the sum
// of the best values of as many answers as may be given.
func (p part) mostMapped() *big.Rat {
	m := p.d.Mapping
	if m == nil {
		return new(big.Rat)
	}
	if m.Upper != "" {
		return plainRat(m.Upper)
	}
	var values []*big.Rat
	for _, e := range m.Entries {
		values = append(values, plainRat(e.Value))
	}
	for _, a := range p.d.Areas {
		values = append(values, plainRat(a.Value))
	}
	slices.SortFunc(values, func(a, b *big.Rat) int { return b.Cmp(a) })
	count := p.in.MaxChoices
	switch p.kind {
	case Text, Number, NumberLine, TrueFalse, SingleChoice:
		count = 1
	case Match, Sort, BoxTable, Menus, Order:
		count = 0 // pairs are bounded by how often each side may be joined
	}
	total := new(big.Rat)
	for i, v := range values {
		if v.Sign() <= 0 || count > 0 && i >= count {
			break
		}
		total.Add(total, v)
	}
	return total
}

func (p part) scoreMapped(values []string) share {
	if p.d.Mapping == nil {
		return nothing("The values of the answers are missing.")
	}
	got, most := p.mapped(values), p.mostMapped()
	why := fmt.Sprintf("Gave %s, which is worth %s of %s.", strings.Join(rulesOf(p.kind).short(p.in, values), ", "), plainly(got), plainly(most))
	if most.Sign() <= 0 {
		return nothing(why)
	}
	return ratShare(new(big.Rat).Quo(got, most), why)
}

// mappedSteps is the highest value over the grain of the values, where both are
// whole; else 0.
func (p part) mappedSteps() int64 {
	if p.d.Mapping == nil {
		return 0
	}
	most := p.mostMapped()
	if !most.IsInt() || !most.Num().IsInt64() || most.Num().Int64() > mostSteps || most.Sign() <= 0 {
		return 0
	}
	values := []string{p.d.Mapping.Default, p.d.Mapping.Lower, p.d.Mapping.Upper}
	for _, e := range p.d.Mapping.Entries {
		values = append(values, e.Value)
	}
	for _, a := range p.d.Areas {
		values = append(values, a.Value)
	}
	for _, v := range values {
		if !plainRat(v).IsInt() {
			return 0
		}
	}
	return most.Num().Int64()
}

// reversed turns a pair round.
func reversed(pair string) string {
	a, b, _ := strings.Cut(pair, " ")
	return b + " " + a
}
