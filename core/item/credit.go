package item

import (
	"math/big"
	"slices"
	"strings"

	"pineledger/core/points"
)

// share is an exact part of a line's points with the reason for it.
type share struct {
	num, den int64
	why      string
	unread   bool // a person has to read it first
	absent   bool // what was recorded is that there was no answer
}

func whole(why string) share   { return share{num: 1, den: 1, why: why} }
func nothing(why string) share { return share{num: 0, den: 1, why: why} }

// sum adds fractions exactly.
type sum struct{ r *big.Rat }

func newSum() sum { return sum{new(big.Rat)} }

func (s sum) add(num, den int64) { s.r.Add(s.r, big.NewRat(num, den)) }

// over is the sum divided by a total above 0.
func (s sum) over(total int64, why string) share {
	return ratShare(new(big.Rat).Quo(s.r, big.NewRat(total, 1)), why)
}

// ratShare takes a fraction as a share, not below 0 and not above 1. One that is too
// long for a share is rounded to twelve places, far below the hundredths of a credit.
func ratShare(r *big.Rat, why string) share {
	switch {
	case r.Sign() <= 0:
		return nothing(why)
	case r.Cmp(big.NewRat(1, 1)) >= 0:
		return whole(why)
	case r.Num().IsInt64() && r.Denom().IsInt64() && r.Denom().Int64() < 1<<40:
		return share{num: r.Num().Int64(), den: r.Denom().Int64(), why: why}
	}
	const scale = 1_000_000_000_000
	scaled := new(big.Rat).Mul(r, big.NewRat(scale, 1))
	return share{num: new(big.Int).Quo(scaled.Num(), scaled.Denom()).Int64(), den: scale, why: why}
}

// Outcome is how a line's credit reads at a glance.
type Outcome string

const (
	Right   Outcome = "right"
	Part    Outcome = "part"
	Wrong   Outcome = "wrong"
	Omitted Outcome = "omitted" // no answer: earns 0, but is not wrong
	// NotReached is an omitted line with nothing answered from there to the end.
	NotReached Outcome = "not-reached"
	// Unread is an answer that waits for its reader; until then it earns what the
	// parts of it earn that need none.
	Unread Outcome = "unread"
	// NotGiven is a line of a pool that the attempt did not draw: it is no part of the score.
	NotGiven Outcome = "not-given"
)

// Credit is what a response earns on a line.
type Credit struct {
	Credit  points.Points
	Max     points.Points
	Outcome Outcome
	Why     string // in a sentence, naming key and rule; staff only
}

// Score gives the credit of a response on a line worth max points. The share is
// exact and rounded to hundredths, half up, once. Scoring never fails: a
// response that does not fit the item was refused when it was saved, and earns
// what it matches.
func (it Item) Score(r Response, max points.Points) Credit {
	s, answered := it.earn(r)
	if !answered || s.absent {
		return Credit{Max: max, Outcome: Omitted, Why: s.why}
	}
	c := Credit{Credit: max.Fraction(s.num, s.den), Max: max, Why: s.why}
	switch {
	case s.unread:
		c.Outcome = Unread
	case s.num == 0:
		c.Outcome = Wrong
	case s.num == s.den:
		c.Outcome = Right
	default:
		c.Outcome = Part
	}
	return c
}

// earn gives the share of a response, and whether anything was answered.
func (it Item) earn(r Response) (s share, answered bool) {
	if it.Kind != Parts && it.Credit != AsWritten {
		in, d, ok := it.answer()
		if !ok {
			return nothing("The item has nothing to answer."), false
		}
		values := given(r[in.Response])
		if len(values) == 0 {
			return nothing("No answer was given."), false
		}
		return part{in, d, it.Kind, it.Credit}.score(values), true
	}
	for _, p := range it.parts() {
		answered = answered || len(given(r[p.in.Response])) > 0
	}
	switch {
	case !answered:
		return nothing("No answer was given."), false
	case it.Credit == AsWritten:
		return it.Processing.score(it, r), true
	}
	return scoreParts(it.judge(r), it.Credit), true
}

// Answered tells whether anything was given; a recorded "no response" is something.
func (it Item) Answered(r Response) bool {
	for _, values := range r {
		if len(given(values)) > 0 {
			return true
		}
	}
	return false
}

func (p part) score(values []string) share {
	if p.keyless() {
		return nothing("The item has no key yet.")
	}
	if p.credit == Mapped {
		return p.scoreMapped(values)
	}
	if s := rulesOf(p.kind).score(p.credit, p.in, p.d, values); s.den != 0 {
		return s
	}
	return nothing("The item has no key yet.") // a share of no parts is none
}

// keyless tells of an item that is still written whether nothing says how its answers compare.
func (p part) keyless() bool {
	switch p.kind {
	case Number, NumberLine:
		return p.d.Number == nil
	case Text:
		return p.d.Text == nil
	}
	return false
}

// steps is how many equal steps the credit of a part has; 0 for hundredths.
func (p part) steps() int64 {
	if p.credit == Mapped {
		return p.mappedSteps()
	}
	return rulesOf(p.kind).steps(p.credit, p.in, p.d)
}

// Step is the smallest amount by which the credit of a line of this item can
// change: its points, or an even part of them, or a hundredth where that part
// has to be rounded.
func (it Item) Step(max points.Points) points.Points {
	var steps points.Points
	switch {
	case it.Credit == AsWritten:
	case it.Kind == Parts:
		steps = points.Points(it.partSteps())
	default:
		in, d, ok := it.answer()
		if !ok {
			return max
		}
		steps = points.Points(part{in, d, it.Kind, it.Credit}.steps())
	}
	if steps == 0 || max%steps != 0 {
		return 1
	}
	return max / steps
}

// given drops blanks: an emptied box is no answer.
func given(values []string) []string {
	var out []string
	for _, v := range values {
		if strings.TrimSpace(v) != "" {
			out = append(out, v)
		}
	}
	return out
}

// Told is what a student may read about an answer.
type Told struct {
	Why    string   // of right or wrong, in HTML; "" for none
	GoOver []string // what to go over again, in HTML, each once
}

// Tell gives what the item says to a student who answered so, with an outcome. Advice is for wrong answers alone.
func (it Item) Tell(r Response, outcome Outcome) Told {
	var out Told
	if it.Feedback == nil {
		return out
	}
	switch outcome {
	case Right:
		out.Why = it.Feedback.Right
	case Part, Wrong, Omitted, NotReached:
		out.Why = it.Feedback.Wrong
	}
	if outcome == Right {
		return out
	}
	for _, a := range it.Feedback.ByAnswers {
		if slices.Contains(r[a.Response], a.Value) && !slices.Contains(out.GoOver, a.HTML) {
			out.GoOver = append(out.GoOver, a.HTML)
		}
	}
	return out
}
