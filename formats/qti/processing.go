package qti

import (
	"math/big"
	"slices"
	"strings"

	"pineledger/core/item"
)

// Names of the response processing templates, which end their addresses.
const (
	matchCorrect     = "match_correct"
	mapResponse      = "map_response"
	mapResponsePoint = "map_response_point"
)

func variable(id string) item.Expression { return item.Expression{Op: "variable", ID: id} }

func number(v string) *item.Expression {
	return &item.Expression{Op: "base-value", Base: "float", Value: v}
}

// template gives the rules that a template stands for.
func template(address string) ([]item.Rule, bool) {
	name := strings.TrimSuffix(address[strings.LastIndex(address, "/")+1:], ".xml")
	const response = "RESPONSE"
	switch name {
	case matchCorrect:
		same := item.Expression{Op: "match", Expressions: []item.Expression{variable(response), {Op: "correct", ID: response}}}
		return []item.Rule{{Branches: []item.Branch{
			{When: &same, Then: []item.Rule{{Set: item.ScoreOutcome, Value: number("1")}}},
			{Then: []item.Rule{{Set: item.ScoreOutcome, Value: number("0")}}},
		}}}, true
	case mapResponse, mapResponsePoint:
		none := item.Expression{Op: "is-null", Expressions: []item.Expression{variable(response)}}
		return []item.Rule{{Branches: []item.Branch{
			{When: &none, Then: []item.Rule{{Set: item.ScoreOutcome, Value: number("0")}}},
			{Then: []item.Rule{{Set: item.ScoreOutcome, Value: &item.Expression{Op: strings.ReplaceAll(name, "_", "-"), ID: response}}}},
		}}}, true
	}
	return nil, false
}

// rules reads response rules; what is not known is refused by name.
func (r *itemReader) rules(list []node) ([]item.Rule, *Refusal) {
	var out []item.Rule
	for _, n := range list {
		switch n.name {
		case "setOutcomeValue":
			of := n.children()
			if len(of) != 1 {
				return nil, r.refuse(n, "holds %d expressions instead of one", len(of))
			}
			e, refusal := r.expression(of[0])
			if refusal != nil {
				return nil, refusal
			}
			out = append(out, item.Rule{Set: n.attr["identifier"], Value: &e})
		case "exitResponse":
			out = append(out, item.Rule{Exit: true})
		case "responseProcessingFragment":
			inner, refusal := r.rules(n.children())
			if refusal != nil {
				return nil, refusal
			}
			out = append(out, inner...)
		case "responseCondition":
			rule, refusal := r.condition(n)
			if refusal != nil {
				return nil, refusal
			}
			out = append(out, rule)
		default:
			return nil, r.refuse(n, "is a rule that is not known here")
		}
	}
	return out, nil
}

func (r *itemReader) condition(n node) (item.Rule, *Refusal) {
	var rule item.Rule
	for _, arm := range n.children() {
		inner := arm.children()
		var b item.Branch
		switch arm.name {
		case "responseIf", "responseElseIf":
			if len(inner) == 0 {
				return rule, r.refuse(arm, "has no condition")
			}
			e, refusal := r.expression(inner[0])
			if refusal != nil {
				return rule, refusal
			}
			b.When, inner = &e, inner[1:]
		case "responseElse":
		default:
			return rule, r.refuse(arm, "is not an arm of a condition")
		}
		then, refusal := r.rules(inner)
		if refusal != nil {
			return rule, refusal
		}
		b.Then = then
		rule.Branches = append(rule.Branches, b)
	}
	return rule, nil
}

// operators that are read, by their names in QTI 2.
var operators = []string{"baseValue", "null", "variable", "correct", "mapResponse", "mapResponsePoint", "isNull", "and", "or", "not", "match", "member",
	"contains", "stringMatch", "substring", "patternMatch", "equal", "equalRounded", "lt", "gt", "lte", "gte", "sum", "product", "subtract", "divide", "max", "min",
	"integerToFloat", "multiple", "ordered", "index", "containerSize", "inside"}

// ownOperators are the classes of custom operators that are ours.
var ownOperators = []string{"near-word", "longest-run"}

func (r *itemReader) expression(n node) (item.Expression, *Refusal) {
	e := item.Expression{Op: kebab(n.name), ID: n.attr["identifier"]}
	switch {
	case n.name == "customOperator" && slices.Contains(ownOperators, n.attr["class"]):
		e.Op = n.attr["class"]
		e.IgnoreCase = n.attr["data-case"] == "ignore"
	case !slices.Contains(operators, n.name):
		return e, r.refuse(n, "is an expression that is not known here")
	}
	switch n.name {
	case "baseValue":
		e.Base, e.Value = n.attr["baseType"], decimal(n.attr["baseType"], n.words())
		if e.Base == "boolean" && (e.Value == "1" || e.Value == "0") {
			e.Value = map[string]string{"1": "true", "0": "false"}[e.Value]
		}
	case "variable":
		if n.attr["weightIdentifier"] != "" {
			return e, r.refuse(n, "has a weight, which belongs to a test")
		}
	case "stringMatch":
		e.IgnoreCase, e.Substring = n.attr["caseSensitive"] == "false", n.attr["substring"] == "true"
	case "patternMatch":
		e.Pattern = n.attr["pattern"]
	case "substring":
		e.IgnoreCase = n.attr["caseSensitive"] == "false"
	case "equal":
		e.Mode, e.Tolerance = n.attr["toleranceMode"], strings.Fields(n.attr["tolerance"])
		e.LeaveLower, e.LeaveUpper = n.attr["includeLowerBound"] == "false", n.attr["includeUpperBound"] == "false"
		if e.Mode == "exact" {
			e.Mode = ""
		}
	case "equalRounded":
		e.Mode = n.attr["roundingMode"]
		if e.Mode == "" {
			e.Mode = "significantFigures"
		}
		var ok bool
		if e.N, ok = whole(n.attr["figures"]); !ok {
			return e, r.refuse(n, "does not say to how many figures")
		}
	case "index":
		var ok bool
		if e.N, ok = whole(n.attr["n"]); !ok {
			return e, r.refuse(n, "has no place that is a number")
		}
	case "inside":
		area, refusal := r.area(n)
		if refusal != nil {
			return e, refusal
		}
		e.Area = &area
	}
	for _, c := range n.children() {
		if n.name == "baseValue" {
			break
		}
		inner, refusal := r.expression(c)
		if refusal != nil {
			return e, refusal
		}
		e.Expressions = append(e.Expressions, inner)
	}
	if wants := map[string]int{"isNull": 1, "not": 1, "match": 2}[n.name]; wants > 0 && len(e.Expressions) != wants {
		return e, r.refuse(n, "holds %d expressions instead of %d", len(e.Expressions), wants)
	}
	return e, nil
}

// scoring is what an item's rules amount to.
type scoring struct {
	credit item.CreditRule
	worth  *big.Rat                   // the most that it gives
	parts  map[string]item.CreditRule // credit of each of several parts
	weight map[string]*big.Rat
}

// pruned leaves out rules that set outcomes which no score depends on, such as
// those of feedback.
func pruned(rules []item.Rule) []item.Rule {
	wanted := map[string]bool{item.ScoreOutcome: true}
	for before := -1; before != len(wanted); {
		before = len(wanted)
		reads(rules, wanted)
	}
	return keep(rules, wanted)
}

func keep(rules []item.Rule, wanted map[string]bool) []item.Rule {
	var out []item.Rule
	for _, r := range rules {
		if r.Set != "" && !wanted[r.Set] {
			continue
		}
		if r.Branches == nil {
			out = append(out, r)
			continue
		}
		var branches []item.Branch
		anything := false
		for _, b := range r.Branches {
			b.Then = keep(b.Then, wanted)
			anything = anything || len(b.Then) > 0
			branches = append(branches, b)
		}
		for len(branches) > 0 && len(branches[len(branches)-1].Then) == 0 {
			branches = branches[:len(branches)-1]
		}
		if anything {
			out = append(out, item.Rule{Branches: branches})
		}
	}
	return out
}

// reads adds the outcomes on which wanted ones depend: all that conditions and
// values read.
func reads(rules []item.Rule, wanted map[string]bool) (sets bool) {
	for _, r := range rules {
		if r.Set != "" && wanted[r.Set] {
			sets = true
			names(*r.Value, wanted)
		}
		inner := r.Exit
		for _, b := range r.Branches {
			inner = reads(b.Then, wanted) || inner
		}
		if inner {
			sets = true
			for _, b := range r.Branches {
				if b.When != nil {
					names(*b.When, wanted)
				}
			}
		}
	}
	return sets
}

func names(e item.Expression, into map[string]bool) {
	if e.Op == "variable" {
		into[e.ID] = true
	}
	for _, inner := range e.Expressions {
		names(inner, into)
	}
}

// recognize tells the credit rule that rules amount to, where it is one of ours.
func recognize(rules []item.Rule, responses []string) (scoring, bool) {
	s := scoring{parts: map[string]item.CreditRule{}, weight: map[string]*big.Rat{}}
	if len(responses) == 1 && len(rules) == 1 {
		if credit, worth, ok := onePart(rules[0], responses[0]); ok {
			s.credit, s.worth = credit, worth
			return s, true
		}
		return s, false
	}
	if len(rules) == 1 {
		if worth, ok := allParts(rules[0], responses); ok {
			s.credit, s.worth = item.AllOrNothing, worth
			for _, id := range responses {
				s.parts[id] = item.AllOrNothing
			}
			return s, true
		}
	}
	s.credit, s.worth = item.PerPart, new(big.Rat)
	if ids, ok := addedMappings(rules); ok && len(ids) == len(responses) {
		for _, id := range ids {
			s.parts[id] = item.Mapped
		}
		return s, len(s.parts) == len(responses)
	}
	for _, r := range rules {
		id, worth, ok := addedPart(r)
		if !ok || !slices.Contains(responses, id) || s.parts[id] != "" {
			return s, false
		}
		s.parts[id], s.weight[id] = item.AllOrNothing, worth
		s.worth.Add(s.worth, worth)
	}
	return s, len(s.parts) == len(responses)
}

// onePart knows: if the response is the key, a value, else 0; and a mapping.
func onePart(r item.Rule, response string) (item.CreditRule, *big.Rat, bool) {
	if r.Set == item.ScoreOutcome && mapped(*r.Value, response) {
		return item.Mapped, nil, true
	}
	if len(r.Branches) == 0 || len(r.Branches) > 2 || r.Branches[0].When == nil || len(r.Branches) == 2 && r.Branches[1].When != nil {
		return "", nil, false
	}
	first, ok := setsScore(r.Branches[0].Then)
	if !ok {
		return "", nil, false
	}
	other := *number("0")
	if len(r.Branches) == 2 {
		if other, ok = setsScore(r.Branches[1].Then); !ok {
			return "", nil, false
		}
	}
	when := *r.Branches[0].When
	switch {
	case when.Op == "is-null" && when.Expressions[0].ID == response && isZero(first) && mapped(other, response):
		return item.Mapped, nil, true
	case when.Op == "not" && when.Expressions[0].Op == "is-null" && when.Expressions[0].Expressions[0].ID == response && mapped(first, response) && isZero(other):
		return item.Mapped, nil, true
	case isKey(when, response) && isZero(other):
		if v, ok := valueOf(first); ok && v.Sign() > 0 {
			return item.AllOrNothing, v, true
		}
	}
	return "", nil, false
}

func setsScore(rules []item.Rule) (item.Expression, bool) {
	if len(rules) != 1 || rules[0].Set != item.ScoreOutcome {
		return item.Expression{}, false
	}
	return *rules[0].Value, true
}

func mapped(e item.Expression, response string) bool {
	return (e.Op == "map-response" || e.Op == "map-response-point") && e.ID == response
}

func isKey(e item.Expression, response string) bool {
	if e.Op != "match" || len(e.Expressions) != 2 {
		return false
	}
	a, b := e.Expressions[0], e.Expressions[1]
	if a.Op == "correct" {
		a, b = b, a
	}
	return a.Op == "variable" && b.Op == "correct" && a.ID == response && b.ID == response
}

func valueOf(e item.Expression) (*big.Rat, bool) {
	if e.Op != "base-value" {
		return nil, false
	}
	return new(big.Rat).SetString(e.Value)
}

func isZero(e item.Expression) bool {
	v, ok := valueOf(e)
	return ok && v.Sign() == 0
}

// allParts knows: if every response is its key, a value, else 0.
func allParts(r item.Rule, responses []string) (*big.Rat, bool) {
	if len(r.Branches) == 0 || r.Branches[0].When == nil || r.Branches[0].When.Op != "and" {
		return nil, false
	}
	seen := map[string]bool{}
	for _, e := range r.Branches[0].When.Expressions {
		for _, id := range responses {
			if isKey(e, id) {
				seen[id] = true
			}
		}
	}
	first, ok := setsScore(r.Branches[0].Then)
	worth, isNumber := valueOf(first)
	rest := len(r.Branches) == 1
	if len(r.Branches) == 2 && r.Branches[1].When == nil {
		other, sets := setsScore(r.Branches[1].Then)
		rest = sets && isZero(other)
	}
	return worth, ok && isNumber && rest && worth.Sign() > 0 && len(seen) == len(responses) && len(r.Branches[0].When.Expressions) == len(responses)
}

// addedMappings knows: the score is the sum of the mapped responses.
func addedMappings(rules []item.Rule) ([]string, bool) {
	var ids []string
	for i, r := range rules {
		if r.Set != item.ScoreOutcome || r.Value.Op != "sum" {
			return nil, false
		}
		for _, e := range r.Value.Expressions {
			switch {
			case mapped(e, e.ID):
				ids = append(ids, e.ID)
			case e.Op != "variable" || e.ID != item.ScoreOutcome || i == 0 && len(rules) == 1:
				return nil, false
			}
		}
	}
	return ids, len(rules) > 0
}

// addedPart knows: if a response is its key, the score and a value more.
func addedPart(r item.Rule) (string, *big.Rat, bool) {
	if len(r.Branches) != 1 || r.Branches[0].When == nil {
		return "", nil, false
	}
	e, ok := setsScore(r.Branches[0].Then)
	if !ok || e.Op != "sum" || len(e.Expressions) != 2 || e.Expressions[0].Op != "variable" || e.Expressions[0].ID != item.ScoreOutcome {
		return "", nil, false
	}
	worth, ok := valueOf(e.Expressions[1])
	when := *r.Branches[0].When
	if !ok || worth.Sign() <= 0 || when.Op != "match" || len(when.Expressions) != 2 {
		return "", nil, false
	}
	id := when.Expressions[0].ID
	return id, worth, isKey(when, id)
}
