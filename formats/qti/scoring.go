package qti

import (
	"math/big"
	"slices"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
)

// scoring decides the credit rule: ours by our own hint when the rules of the file
// are those that we would write for it, else what the rules amount to, else the
// rules themselves.
func (r *itemReader) scoring(found *Found, body node) *Refusal {
	rules, refusal := r.processing()
	if refusal != nil {
		return refusal
	}
	if refusal := r.sound(rules); refusal != nil {
		return refusal
	}
	r.assemble()
	if r.out.Kind == "" {
		return r.refuse(body, "holds nothing to answer")
	}
	if hinted, most, ok := r.hinted(body, pruned(rules)); ok {
		if _, folded := r.declared[hinted.Declarations[0].Response]; hinted.Kind == item.Menus && !folded {
			parts := hinted.GapParts()
			r.apart, found.Parts = &parts, &parts
		}
		r.out, found.Points = hinted, inPoints(most)
		return nil
	}
	return r.byRules(found, body, pruned(rules))
}

func inPoints(v *big.Rat) points.Points {
	scaled := new(big.Rat).Mul(v, big.NewRat(int64(points.One), 1))
	scaled.Add(scaled, big.NewRat(1, 2))
	n := new(big.Int).Quo(scaled.Num(), scaled.Denom())
	if !n.IsInt64() || n.Int64() > int64(points.Most) {
		return points.Most
	}
	return max(points.Points(n.Int64()), 1)
}

// declaredMost is the highest score that the item says it has; nil when it says none.
func (r *itemReader) declaredMost() *big.Rat {
	var most *big.Rat
	for _, o := range r.root.children("outcomeDeclaration") {
		text := ""
		switch o.attr["identifier"] {
		case "MAXSCORE":
			if d, ok := o.child("defaultValue"); ok {
				text = d.words()
			}
		case item.ScoreOutcome:
			if most == nil {
				text = o.attr["normalMaximum"]
			}
		}
		if v, ok := new(big.Rat).SetString(plain(text)); ok && len(text) < 40 && v.Sign() > 0 {
			most = v
		}
	}
	return most
}

// assemble makes the item of its places to answer before its scoring is known.
func (r *itemReader) assemble() {
	list := 0
	for i, b := range r.out.Body {
		if b.Interaction == nil {
			continue
		}
		list++
		in := *b.Interaction
		d := r.declared[in.Response]
		out := item.Declaration{Response: in.Response, Correct: d.correct, Mapping: d.mapping, Areas: d.areas}
		if len(out.Correct) == 0 && d.mapping != nil {
			out.Correct = bestMapped(d)
		}
		switch in.Kind {
		case item.Number, item.NumberLine:
			out.Number = &item.NumberKey{}
		case item.Text:
			out.Text = &item.TextKey{CaseMatters: true}
		case item.Spot:
			if len(in.Choices) == 0 && d.mapping == nil && len(d.correct) == 1 { // the key is one spot exactly
				if x, y, ok := strings.Cut(d.correct[0], " "); ok {
					at, okX := whole(x)
					down, okY := whole(strings.TrimSpace(y))
					if okX && okY {
						out.Areas = []item.Area{{Shape: item.Rectangle, At: []int{at, down, at, down}}}
					}
				}
			}
		}
		r.out.Declarations = append(r.out.Declarations, out)
		r.out.Body[i].Interaction = &in
	}
	if list == 1 {
		for i, b := range r.out.Body {
			if b.Interaction != nil {
				r.out.Kind = b.Interaction.Kind
				r.out.Body[i].Interaction.Kind = ""
			}
		}
	} else if list > 1 {
		r.out.Kind = item.Parts
	}
}

// bestMapped are the answers that a mapping values, or the best one where only one
// can be given: what stands for a key that is not said.
func bestMapped(d declared) []string {
	var out []string
	best := new(big.Rat)
	for _, e := range d.mapping.Entries {
		v, ok := new(big.Rat).SetString(e.Value)
		if !ok || len(e.Value) > 40 || v.Sign() <= 0 {
			continue
		}
		if d.cardinality == "single" && v.Cmp(best) > 0 {
			best, out = v, nil
		}
		if d.cardinality != "single" || v.Cmp(best) == 0 {
			out = append(out, e.Key)
		}
	}
	return out
}

// byRules gives an item the credit that its rules amount to.
func (r *itemReader) byRules(found *Found, body node, rules []item.Rule) *Refusal {
	var responses []string
	byReader := true
	for _, d := range r.out.Declarations {
		responses = append(responses, d.Response)
	}
	for _, b := range r.out.Body {
		if in := b.Interaction; in != nil {
			kind := in.Kind
			if kind == "" {
				kind = r.out.Kind
			}
			byReader = byReader && kind == item.ShortWritten
		}
	}
	most := r.declaredMost()
	if byReader && len(rules) == 0 {
		r.out.Credit = item.ByReader
		for i := range r.out.Declarations {
			if r.out.Kind == item.Parts {
				r.out.Credit, r.out.Declarations[i].Credit = item.PerPart, item.ByReader
			}
		}
		found.Points = points.One
		if most != nil {
			found.Points = inPoints(most)
		}
		if len(r.out.Declarations) == 1 && found.Points != points.One {
			r.out.Declarations[0].Points = found.Points
		}
		return nil
	}
	if len(rules) == 0 && len(responses) == 1 { // it brings a key but no rules
		rules, _ = template(matchCorrect)
		renameResponse(rules, responses[0])
	}
	s, ok := recognize(rules, responses)
	if len(rules) == 0 && !slices.ContainsFunc(r.out.Declarations, func(d item.Declaration) bool { return len(d.Correct) == 0 }) {
		s, ok = keysAlone(responses), true
	}
	if ok && r.nativeScoring(s, most, found) {
		return nil
	}
	return r.asWritten(found, body, rules, most)
}

// keysAlone is the scoring of several parts that bring keys but no rules.
func keysAlone(responses []string) scoring {
	s := scoring{credit: item.PerPart, worth: big.NewRat(int64(len(responses)), 1), parts: map[string]item.CreditRule{}, weight: map[string]*big.Rat{}}
	for _, id := range responses {
		s.parts[id], s.weight[id] = item.AllOrNothing, big.NewRat(1, 1)
	}
	return s
}

// nativeScoring takes a credit rule of ours; false when the item would not be
// sound or its scale is another.
func (r *itemReader) nativeScoring(s scoring, most *big.Rat, found *Found) bool {
	it := r.out
	it.Declarations = slices.Clone(it.Declarations)
	it.Credit = s.credit
	if it.Kind == item.Parts && !(r.mappedParts(&s) && weighted(it.Declarations, s)) {
		return false
	}
	foldable := it.Kind == item.Parts
	for i, d := range it.Declarations {
		isMapped := s.credit == item.Mapped || s.parts[d.Response] == item.Mapped
		foldable = foldable && !isMapped
		if !isMapped {
			it.Declarations[i].Mapping = nil
		}
	}
	if s.credit == item.Mapped {
		told, ok := it.AsRules()
		if !ok {
			return false
		}
		s.worth, _ = new(big.Rat).SetString(told.Processing.Most)
	}
	var apart *item.Item
	if menus, ok := it.AsMenus("RESPONSE"); ok && foldable && even(it.Declarations) {
		parts := it
		it, apart = menus, &parts
	}
	if s.worth == nil || s.worth.Sign() <= 0 || most != nil && most.Cmp(s.worth) != 0 || len(it.Cleaned().Check()) > 0 {
		return false
	}
	r.out, r.apart, found.Points, found.Parts = it, apart, inPoints(s.worth), apart
	return true
}

func even(list []item.Declaration) bool {
	for _, d := range list {
		if d.Weight != list[0].Weight {
			return false
		}
	}
	return true
}

// weighted gives parts their credit and their weights, in the smallest whole numbers.
func weighted(list []item.Declaration, s scoring) bool {
	scale := big.NewInt(1)
	for _, w := range s.weight {
		scale.Mul(scale, new(big.Int).Quo(w.Denom(), new(big.Int).GCD(nil, nil, scale, w.Denom())))
	}
	common := new(big.Int)
	whole := map[string]*big.Int{}
	for id, w := range s.weight {
		n := new(big.Int).Mul(w.Num(), new(big.Int).Quo(scale, w.Denom()))
		whole[id] = n
		common.GCD(nil, nil, common, n)
	}
	for i, d := range list {
		list[i].Credit = s.parts[d.Response]
		n := whole[d.Response]
		if n == nil {
			continue // all or nothing knows no weights
		}
		n.Quo(n, common)
		if !n.IsInt64() || n.Int64() > mostWeight {
			return false
		}
		if list[i].Weight = int(n.Int64()); list[i].Weight == 1 {
			list[i].Weight = 0
		}
	}
	return true
}

// mostWeight is the largest weight that a part can have.
const mostWeight = 1000

// mappedParts weighs parts by the most that their mappings give; false where one
// could give less than nothing, which a part cannot.
func (r *itemReader) mappedParts(s *scoring) bool {
	for _, d := range r.out.Declarations {
		if s.parts[d.Response] != item.Mapped {
			continue
		}
		if d.Mapping == nil || d.Mapping.Lower == "" && negative(d) {
			return false
		}
		alone := r.out
		alone.Body, alone.Declarations, alone.Credit = nil, []item.Declaration{d}, item.Mapped
		for _, b := range r.out.Body {
			if b.Interaction != nil && b.Interaction.Response == d.Response {
				alone.Kind, alone.Body = b.Interaction.Kind, []item.Block{b}
			}
		}
		told, ok := alone.AsRules()
		if !ok {
			return false
		}
		most, ok := new(big.Rat).SetString(told.Processing.Most)
		if !ok || most.Sign() <= 0 {
			return false
		}
		s.weight[d.Response] = most
		s.worth.Add(s.worth, most)
	}
	return true
}

func negative(d item.Declaration) bool {
	below := func(v string) bool { return strings.HasPrefix(v, "-") }
	return below(d.Mapping.Default) || slices.ContainsFunc(d.Mapping.Entries, func(e item.MapEntry) bool { return below(e.Value) }) ||
		slices.ContainsFunc(d.Areas, func(a item.Area) bool { return below(a.Value) })
}

// asWritten keeps the rules themselves.
func (r *itemReader) asWritten(found *Found, body node, rules []item.Rule, most *big.Rat) *Refusal {
	it := r.out
	it.Credit, it.Processing = item.AsWritten, &item.Processing{Rules: rules, Most: "1"}
	for _, o := range r.root.children("outcomeDeclaration") {
		if id := o.attr["identifier"]; id != item.ScoreOutcome && mentioned(rules, id) {
			out := item.Outcomes{ID: id, Base: o.attr["baseType"]}
			if v, ok := o.child("defaultValue"); ok {
				out.Default = decimal(out.Base, v.words())
			}
			it.Processing.Outcomes = append(it.Processing.Outcomes, out)
		}
	}
	for i := range it.Declarations {
		if it.Kind == item.Parts {
			it.Declarations[i].Credit = item.AsWritten
		}
	}
	at := body
	if n, ok := r.root.child("responseProcessing"); ok {
		at = n
	}
	if most == nil {
		if problems := it.Processing.Check(it); len(problems) > 0 {
			return r.refuse(at, "%s", problems[0].Reason)
		}
		var err error
		if most, err = it.HighestScore(); err != nil {
			return r.refuse(at, "%s, and the item does not say it", err)
		}
	}
	it.Processing.Most = most.RatString()
	if places, exact := most.FloatPrec(); exact {
		it.Processing.Most = most.FloatString(places)
	}
	if problems := it.Processing.Check(it); len(problems) > 0 {
		return r.refuse(at, "%s", problems[0].Reason)
	}
	r.out, found.Points = it, inPoints(most)
	return nil
}

func mentioned(rules []item.Rule, outcome string) bool {
	found := false
	eachRule(rules, func(r item.Rule) { found = found || r.Set == outcome },
		func(e item.Expression) { found = found || e.Op == "variable" && e.ID == outcome })
	return found
}

// renameResponse makes rules of a template speak of another response.
func renameResponse(rules []item.Rule, response string) {
	for i := range rules {
		for k := range rules[i].Branches {
			b := &rules[i].Branches[k]
			if b.When != nil {
				for x := range b.When.Expressions {
					b.When.Expressions[x].ID = response
				}
			}
		}
	}
}
