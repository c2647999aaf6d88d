package qti

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"pineledger/core/item"
	"pineledger/core/points"
)

// writeProcessing writes the rules, and those that show feedback.
func writeProcessing(root *etree.Element, told item.Item, scored bool, f *item.Feedback) {
	if !scored && f == nil {
		return
	}
	rules := root.CreateElement("qti-response-processing")
	if scored {
		writeRules(rules, told.Processing.Rules)
	}
	if f == nil {
		return
	}
	most := "1"
	if scored {
		most = told.Processing.Most
	}
	right := item.Expression{Op: "gte", Expressions: []item.Expression{variable(item.ScoreOutcome), {Op: "base-value", Base: "float", Value: most}}}
	name := func(v string) *item.Expression {
		return &item.Expression{Op: "base-value", Base: "identifier", Value: v}
	}
	shown := []item.Rule{{Branches: []item.Branch{
		{When: &right, Then: []item.Rule{{Set: feedbackOutcome, Value: name(feedbackRight)}}},
		{Then: []item.Rule{{Set: feedbackOutcome, Value: name(feedbackWrong)}}},
	}}}
	for i, a := range f.ByAnswers {
		e := item.Expression{Op: "contains", Expressions: []item.Expression{
			{Op: "multiple", Expressions: []item.Expression{variable(a.Response)}},
			{Op: "multiple", Expressions: []item.Expression{{Op: "base-value", Base: "identifier", Value: a.Value}}}}}
		shown = append(shown, item.Rule{Branches: []item.Branch{{When: &e, Then: []item.Rule{{Set: adviceOutcome(i), Value: name(feedbackShown)}}}}})
	}
	writeRules(rules, shown)
}

// Outcomes and identifiers of feedback.
const (
	feedbackOutcome = "FEEDBACK"
	feedbackRight   = "RIGHT"
	feedbackWrong   = "WRONG"
	feedbackShown   = "SHOWN"
)

func adviceOutcome(i int) string { return fmt.Sprint("ADVICE", i+1) }

func writeFeedback(root *etree.Element, f *item.Feedback) error {
	if f == nil {
		return nil
	}
	write := func(outcome, identifier, html string) error {
		if html == "" {
			return nil
		}
		m := root.CreateElement("qti-modal-feedback")
		for _, a := range [][2]string{{"outcome-identifier", outcome}, {"identifier", identifier}, {"show-hide", "show"}} {
			m.CreateAttr(a[0], a[1])
		}
		return writeHTML(m.CreateElement("qti-content-body"), html)
	}
	if err := write(feedbackOutcome, feedbackRight, f.Right); err != nil {
		return err
	}
	if err := write(feedbackOutcome, feedbackWrong, f.Wrong); err != nil {
		return err
	}
	for i, a := range f.ByAnswers {
		if err := write(adviceOutcome(i), feedbackShown, a.HTML); err != nil {
			return err
		}
	}
	return nil
}

func writeOutcomes(root *etree.Element, told item.Item, scored bool) {
	outcome := func(id, base, value string) *etree.Element {
		o := root.CreateElement("qti-outcome-declaration")
		for _, a := range [][2]string{{"identifier", id}, {"cardinality", "single"}, {"base-type", base}} {
			o.CreateAttr(a[0], a[1])
		}
		if value != "" {
			o.CreateElement("qti-default-value").CreateElement("qti-value").SetText(value)
		}
		return o
	}
	score := outcome(item.ScoreOutcome, "float", "0")
	if !scored {
		score.CreateAttr("external-scored", "human")
		if most := worthToReader(told); most > 0 {
			score.CreateAttr("normal-maximum", most.String())
		}
	} else {
		outcome("MAXSCORE", "float", told.Processing.Most)
		for _, o := range told.Processing.Outcomes {
			outcome(o.ID, o.Base, o.Default)
		}
	}
	if f := told.Feedback; f != nil {
		outcome(feedbackOutcome, "identifier", "")
		for i := range f.ByAnswers {
			outcome(adviceOutcome(i), "identifier", "")
		}
	}
}

// worthToReader is the most that who reads an answer can give; 0 where that is not said.
func worthToReader(it item.Item) points.Points {
	if len(it.Declarations) != 1 {
		return 0
	}
	if d := it.Declarations[0]; d.Rubric != nil {
		return d.Rubric.Most()
	}
	return it.Declarations[0].Points
}

// writeRules writes response rules, in their order.
func writeRules(parent *etree.Element, rules []item.Rule) {
	for _, r := range rules {
		switch {
		case r.Exit:
			parent.CreateElement("qti-exit-response")
		case r.Set != "":
			s := parent.CreateElement("qti-set-outcome-value")
			s.CreateAttr("identifier", r.Set)
			writeExpression(s, *r.Value)
		default:
			c := parent.CreateElement("qti-response-condition")
			for i, b := range r.Branches {
				name := "qti-response-else-if"
				if i == 0 {
					name = "qti-response-if"
				}
				if b.When == nil {
					name = "qti-response-else"
				}
				arm := c.CreateElement(name)
				if b.When != nil {
					writeExpression(arm, *b.When)
				}
				writeRules(arm, b.Then)
			}
		}
	}
}

func writeExpression(parent *etree.Element, e item.Expression) {
	if slices.Contains(ownOperators, e.Op) {
		c := parent.CreateElement("qti-custom-operator")
		c.CreateAttr("class", e.Op)
		if e.IgnoreCase {
			c.CreateAttr("data-case", "ignore")
		}
		for _, inner := range e.Expressions {
			writeExpression(c, inner)
		}
		return
	}
	x := parent.CreateElement("qti-" + e.Op)
	if e.ID != "" {
		x.CreateAttr("identifier", e.ID)
	}
	switch e.Op {
	case "base-value":
		x.CreateAttr("base-type", e.Base)
		x.SetText(e.Value)
	case "string-match", "substring":
		x.CreateAttr("case-sensitive", strconv.FormatBool(!e.IgnoreCase))
		if e.Substring {
			x.CreateAttr("substring", "true")
		}
	case "pattern-match":
		x.CreateAttr("pattern", e.Pattern)
	case "equal":
		mode := e.Mode
		if mode == "" {
			mode = "exact"
		}
		x.CreateAttr("tolerance-mode", mode)
		if len(e.Tolerance) > 0 {
			x.CreateAttr("tolerance", strings.Join(e.Tolerance, " "))
		}
		if e.LeaveLower {
			x.CreateAttr("include-lower-bound", "false")
		}
		if e.LeaveUpper {
			x.CreateAttr("include-upper-bound", "false")
		}
	case "equal-rounded":
		x.CreateAttr("rounding-mode", e.Mode)
		x.CreateAttr("figures", strconv.Itoa(e.N))
	case "index":
		x.CreateAttr("n", strconv.Itoa(e.N))
	case "inside":
		writeArea(x, *e.Area)
	}
	for _, inner := range e.Expressions {
		writeExpression(x, inner)
	}
}

func writeArea(x *etree.Element, a item.Area) {
	shape := map[string]string{item.Circle: "circle", item.Rectangle: "rect", item.Polygon: "poly"}[a.Shape]
	numbers := make([]string, len(a.At))
	for i, n := range a.At {
		numbers[i] = strconv.Itoa(n)
	}
	x.CreateAttr("shape", shape)
	x.CreateAttr("coords", strings.Join(numbers, ","))
}
