package item

import (
	"fmt"
	"math/big"
	"slices"
)

// Processing is the scoring of an item that brings rules of its own: the common part
// of QTI response processing, read without a change and computed exactly. The
// credit is the outcome SCORE over Most.
type Processing struct {
	Outcomes []Outcomes `json:"outcomes,omitempty"` // what starts with a value of its own
	Rules    []Rule     `json:"rules"`
	Most     string     `json:"most"` // the highest SCORE, a decimal or fraction above 0
}

// Outcomes declares an outcome with the value that it starts with.
type Outcomes struct {
	ID      string `json:"id"`
	Base    string `json:"base"`    // float, integer, identifier, boolean or string
	Default string `json:"default"` // "" for none: a number is 0 then, all else is null
}

// Rule sets an outcome, or is a condition of branches, or ends the processing.
type Rule struct {
	Set      string      `json:"set,omitempty"`      // the outcome; "" where the rule sets none
	Value    *Expression `json:"value,omitempty"`    // nil sets nothing
	Branches []Branch    `json:"branches,omitempty"` // the first that holds is followed
	Exit     bool        `json:"exit,omitempty"`
}

// Branch is an arm of a condition; one without When always holds.
type Branch struct {
	When *Expression `json:"when,omitempty"` // nil: otherwise
	Then []Rule      `json:"then"`
}

// Expression is a computation on responses, keys and outcomes. Op is the name of
// the QTI expression without its prefix.
type Expression struct {
	Op          string       `json:"op"`
	ID          string       `json:"id,omitempty"`    // of a response or an outcome
	Base        string       `json:"base,omitempty"`  // of a value
	Value       string       `json:"value,omitempty"` // of a value
	N           int          `json:"n,omitempty"`     // a place from 1, or a number of digits
	Mode        string       `json:"mode,omitempty"`  // absolute, relative or exact; or of rounding
	Tolerance   []string     `json:"tolerance,omitempty"`
	IgnoreCase  bool         `json:"ignoreCase,omitempty"`
	Substring   bool         `json:"substring,omitempty"`
	LeaveLower  bool         `json:"leaveLower,omitempty"` // the lower bound itself is out
	LeaveUpper  bool         `json:"leaveUpper,omitempty"`
	Area        *Area        `json:"area,omitempty"`
	Pattern     string       `json:"pattern,omitempty"` // that a whole text must fit, a regular expression
	Expressions []Expression `json:"of,omitempty"`
}

// ScoreOutcome is the outcome that holds the score.
const ScoreOutcome = "SCORE"

// Bounds of what an item's own rules may hold.
const (
	mostRules  = 5000
	mostNested = 40
)

// Check lists why rules could not be computed.
func (p *Processing) Check(it Item) []Problem {
	if p == nil {
		return []Problem{{"processing", "the rules that score it are missing"}}
	}
	var out []Problem
	if most, ok := readPlain(p.Most, false); !ok || most.Sign() <= 0 {
		out = append(out, Problem{"processing.most", fmt.Sprintf("the highest score %q is not above 0", p.Most)})
	}
	c := ruleChecker{it: it, p: p}
	c.rules(p.Rules, 0)
	for _, reason := range c.reasons {
		out = append(out, Problem{"processing", reason})
	}
	return out
}

type ruleChecker struct {
	it      Item
	p       *Processing
	count   int
	reasons []string
}

func (c *ruleChecker) refuse(format string, args ...any) {
	if len(c.reasons) < 20 {
		c.reasons = append(c.reasons, fmt.Sprintf(format, args...))
	}
}

func (c *ruleChecker) rules(list []Rule, deep int) {
	c.count += len(list)
	if c.count > mostRules || deep > mostNested {
		c.refuse("there are more than %d rules or %d levels of them", mostRules, mostNested)
		return
	}
	for _, r := range list {
		if r.Set != "" && !c.p.declares(r.Set) {
			c.refuse("the outcome %q is not declared", r.Set)
		}
		if r.Set != "" && r.Value == nil {
			c.refuse("the outcome %q is set to nothing", r.Set)
		}
		if r.Value != nil {
			c.expression(*r.Value, deep+1)
		}
		for _, b := range r.Branches {
			if b.When != nil {
				c.expression(*b.When, deep+1)
				c.truth(*b.When)
			}
			c.rules(b.Then, deep+1)
		}
	}
}

func (p *Processing) declares(outcome string) bool {
	return outcome == ScoreOutcome || slices.ContainsFunc(p.Outcomes, func(o Outcomes) bool { return o.ID == outcome })
}

func (c *ruleChecker) expression(e Expression, deep int) {
	c.count++
	if c.count > mostRules || deep > mostNested {
		c.refuse("there are more than %d rules or %d levels of them", mostRules, mostNested)
		return
	}
	op, ok := operators[e.Op]
	_, response := c.it.part(e.ID)
	switch {
	case !ok:
		c.refuse("%q is not an expression that is known here", e.Op)
	case len(e.Expressions) < op.least || op.most >= 0 && len(e.Expressions) > op.most:
		c.refuse("%q has %d expressions in it", e.Op, len(e.Expressions))
	case e.Op == "variable" && !response && !c.p.declares(e.ID), op.response && !response:
		c.refuse("%q names %q, which is not declared", e.Op, e.ID)
	case e.N < 0 || e.N > maxValues:
		c.refuse("%q has the number %d, which is not 0 to %d", e.Op, e.N, maxValues)
	case e.Op == "inside" && (e.Area == nil || e.Area.check() != nil):
		c.refuse("an area to be inside of is none")
	}
	if p, _ := c.it.part(e.ID); ok && op.mapping && response && p.d.Mapping == nil {
		c.refuse("the response %q has no mapping", e.ID)
	} else if ok && op.mapping && response {
		for _, problem := range p.d.Mapping.check(p.d) {
			c.refuse("%s", problem.Reason)
		}
	}
	if _, err := e.pattern(); e.Op == "pattern-match" && err != nil {
		c.refuse("the pattern %q is no regular expression that is read: %s", e.Pattern, err)
	}
	for _, inner := range e.Expressions {
		c.expression(inner, deep+1)
		if e.Op == "and" || e.Op == "or" || e.Op == "not" {
			c.truth(inner)
		}
	}
}

// truth refuses what can never be true or false where that is wanted: a number there
// holds for nobody, whatever is answered.
func (c *ruleChecker) truth(e Expression) {
	switch op, known := operators[e.Op]; {
	case !known || op.truth || e.Op == "null":
	case e.Op == "base-value" && e.Base == "boolean" && (e.Value == "true" || e.Value == "false"):
	case e.Op == "variable" && slices.ContainsFunc(c.p.Outcomes, func(o Outcomes) bool { return o.ID == e.ID && o.Base == "boolean" }):
	case e.Op == "base-value":
		c.refuse("the value %q stands where true or false is wanted", e.Value)
	case e.Op == "variable":
		c.refuse("%q stands where true or false is wanted, and is neither", e.ID)
	default:
		c.refuse("%q stands where true or false is wanted, and gives neither", e.Op)
	}
}

// score runs the rules on a response.
func (p *Processing) score(it Item, r Response) share {
	if p == nil {
		return nothing("The rules that score it are missing.")
	}
	run := p.run(it, r)
	got, ok := run.outcomes[ScoreOutcome].number()
	if !ok {
		got = new(big.Rat)
	}
	most := plainRat(p.Most)
	why := fmt.Sprintf("By the item's own rules: %s of %s.", plainly(got), plainly(most))
	if most.Sign() <= 0 {
		return nothing(why)
	}
	return ratShare(new(big.Rat).Quo(got, most), why)
}

func (p *Processing) run(it Item, r Response) *ruleRun {
	run := &ruleRun{it: it, response: r, outcomes: map[string]outcomeValue{ScoreOutcome: {base: "float", items: []string{"0"}}}}
	for _, o := range p.Outcomes {
		v := outcomeValue{base: o.Base}
		switch {
		case o.Default != "":
			v.items = []string{o.Default}
		case o.Base == "float" || o.Base == "integer":
			v.items = []string{"0"}
		}
		run.outcomes[o.ID] = v
	}
	run.follow(p.Rules)
	return run
}

// Outcomes runs the rules of an item scored as written and gives what they set.
func (it Item) Outcomes(r Response) map[string][]string {
	out := map[string][]string{}
	if it.Processing == nil {
		return out
	}
	for id, v := range it.Processing.run(it, r).outcomes {
		out[id] = v.items
	}
	return out
}

// ruleRun is the state while rules are followed.
type ruleRun struct {
	it       Item
	response Response
	outcomes map[string]outcomeValue
}

// follow runs rules in turn; false means that processing has ended.
func (run *ruleRun) follow(rules []Rule) bool {
	for _, r := range rules {
		switch {
		case r.Exit:
			return false
		case r.Set != "" && r.Value != nil:
			v := run.value(*r.Value)
			if base := run.outcomes[r.Set].base; base != "" {
				v.base = base
			}
			run.outcomes[r.Set] = v
		}
		for _, b := range r.Branches {
			if b.When == nil || run.value(*b.When).isTrue() {
				if !run.follow(b.Then) {
					return false
				}
				break
			}
		}
	}
	return true
}

func (run *ruleRun) value(e Expression) outcomeValue {
	op, ok := operators[e.Op]
	if !ok {
		return outcomeValue{}
	}
	args := make([]outcomeValue, len(e.Expressions))
	for i, inner := range e.Expressions {
		args[i] = run.value(inner)
	}
	return op.compute(run, e, args)
}

// given is the response of a part as a value.
func (run *ruleRun) given(id string) outcomeValue {
	p, ok := run.it.part(id)
	if !ok {
		return outcomeValue{}
	}
	return p.value(given(run.response[id]))
}

// value gives answers the base type and the cardinality of their part.
func (p part) value(values []string) outcomeValue {
	v := outcomeValue{base: "identifier", items: values, ordered: p.kind == Order}
	switch p.kind {
	case Text, ShortWritten, LongWritten:
		v.base = "string"
	case Number, NumberLine:
		v.base = "float"
	case Match, Sort, BoxTable, Menus:
		v.base = "directedPair"
		if p.in.Among {
			v.base = "pair"
		}
	case Spot:
		if len(p.in.Choices) == 0 {
			v.base = "point"
		}
	}
	if v.base == "float" && p.d.Number != nil {
		v.items = nil
		for _, typed := range values {
			if n, ok := p.d.Number.read(typed); ok {
				v.items = append(v.items, n.RatString())
			}
		}
	}
	return v
}
