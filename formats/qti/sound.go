package qti

import (
	"slices"
	"strconv"
	"strings"

	"pineledger/core/item"
)

// builtIn are the variables that every item has without declaring them.
var builtIn = []string{item.ScoreOutcome, "completionStatus", "numAttempts", "duration"}

// sound refuses what would come in and let nobody earn anything, or let a wrong
// answer earn everything: keys that cannot be given, rules that go by what is not
// there, scales that end below 0.
func (r *itemReader) sound(rules []item.Rule) *Refusal {
	for _, o := range r.root.children("outcomeDeclaration") {
		most := o.attr["normalMaximum"]
		if d, ok := o.child("defaultValue"); ok && o.attr["identifier"] == "MAXSCORE" {
			most = d.words()
		}
		if v, err := strconv.ParseFloat(strings.TrimSpace(most), 64); err == nil && v < 0 {
			return r.refuse(o, "says that the highest score is %s, which is below 0", most)
		}
	}
	for _, d := range r.declared {
		if m := d.mapping; m != nil && m.Lower != "" && m.Upper != "" {
			lower, errLower := strconv.ParseFloat(m.Lower, 64)
			upper, errUpper := strconv.ParseFloat(m.Upper, 64)
			if errLower == nil && errUpper == nil && lower > upper {
				return r.refuse(d.node, "has a mapping whose lower bound %s is above its upper bound %s", m.Lower, m.Upper)
			}
		}
	}
	for _, b := range r.out.Body {
		if b.Interaction == nil {
			continue
		}
		if refusal := r.keyFits(*b.Interaction); refusal != nil {
			return refusal
		}
	}
	return r.namesAreDeclared(rules)
}

// keyFits refuses a key of choices that are not offered, and one that is no number where one is asked for.
func (r *itemReader) keyFits(in item.Interaction) *Refusal {
	d := r.declared[in.Response]
	offered := map[string]bool{}
	for _, c := range slices.Concat(in.Choices, in.Targets) {
		offered[c.ID] = !c.Plain
	}
	for _, value := range d.correct {
		switch {
		case in.Kind == item.Number || in.Kind == item.NumberLine:
			if _, err := strconv.ParseFloat(value, 64); err != nil && d.base != "string" {
				return r.refuse(d.node, "has the key %q, which is no number", value)
			}
		case len(offered) > 0:
			for _, id := range strings.Fields(value) {
				if !offered[id] {
					return r.refuse(d.node, "has the key %q, which is not one of the choices", id)
				}
			}
		}
	}
	return nil
}

// namesAreDeclared refuses rules that set or read what the item does not declare, or
// compare with a key that is not given.
func (r *itemReader) namesAreDeclared(rules []item.Rule) *Refusal {
	at := r.root
	if n, ok := r.root.child("responseProcessing"); ok {
		at = n
	}
	outcomes := slices.Clone(builtIn)
	for _, o := range r.root.children("outcomeDeclaration") {
		outcomes = append(outcomes, o.attr["identifier"])
	}
	var refusal *Refusal
	refuse := func(format string, args ...any) {
		if refusal == nil {
			refusal = r.refuse(at, format, args...)
		}
	}
	eachRule(rules, func(rule item.Rule) {
		if rule.Set != "" && !slices.Contains(outcomes, rule.Set) {
			refuse("sets the outcome %q, which is not declared", rule.Set)
		}
	}, func(e item.Expression) {
		response, isResponse := r.declared[e.ID]
		switch {
		case e.Op == "variable" && !isResponse && !slices.Contains(outcomes, e.ID):
			refuse("reads %q, which is not declared", e.ID)
		case e.Op == "correct" && !isResponse:
			refuse("goes by the key of %q, which is not declared", e.ID)
		case e.Op == "correct" && len(response.correct) == 0:
			refuse("goes by the key of %q, which has none", e.ID)
		}
	})
	return refusal
}

// eachRule visits rules with all that are in them, and their expressions likewise.
func eachRule(rules []item.Rule, rule func(item.Rule), expression func(item.Expression)) {
	var walk func(item.Expression)
	walk = func(e item.Expression) {
		expression(e)
		for _, inner := range e.Expressions {
			walk(inner)
		}
	}
	for _, r := range rules {
		rule(r)
		if r.Value != nil {
			walk(*r.Value)
		}
		for _, b := range r.Branches {
			if b.When != nil {
				walk(*b.When)
			}
			eachRule(b.Then, rule, expression)
		}
	}
}
