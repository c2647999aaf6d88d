package item

import (
	"fmt"
	"math/big"
	"strings"
)

// Line is a number line on which a point is put: From and To are its ends, Step
// the distance of the places where a point can be. All are decimals or fractions.
type Line struct {
	From   string `json:"from"`
	To     string `json:"to"`
	Step   string `json:"step"`
	Labels int    `json:"labels"` // every so many steps bear their number
}

// mostPlaces bounds the places of a number line.
const mostPlaces = 1000

// numberLine is scored as a typed number with its tolerance; only places of the
// line can be given.
var numberLine = kindRules{
	credits:  []CreditRule{AllOrNothing, Mapped},
	check:    checkLine,
	accepts:  acceptsPlace,
	score:    scorePlace,
	steps:    oneStep,
	keyShort: number.keyShort,
	short:    number.short,
}

// read gives the ends, the step and the number of steps from end to end.
func (l Line) read() (from, step *big.Rat, steps int64, err error) {
	var values [3]*big.Rat
	for i, text := range []string{l.From, l.To, l.Step} {
		v, ok := readPlain(text, false)
		if !ok {
			return nil, nil, 0, fmt.Errorf("%q is not a number", text)
		}
		values[i] = v
	}
	if values[2].Sign() <= 0 {
		return nil, nil, 0, fmt.Errorf("the step %s is not above 0", l.Step)
	}
	length := new(big.Rat).Sub(values[1], values[0])
	length.Quo(length, values[2])
	if length.Sign() <= 0 || !length.IsInt() {
		return nil, nil, 0, fmt.Errorf("from %s to %s is no whole number of steps of %s", l.From, l.To, l.Step)
	}
	if !length.Num().IsInt64() || length.Num().Int64() > mostPlaces {
		return nil, nil, 0, fmt.Errorf("the line has more than %d places", mostPlaces)
	}
	return values[0], values[2], length.Num().Int64(), nil
}

// place tells which place of the line a number is, from 0.
func (l Line) place(value string) (int64, bool) {
	from, step, steps, err := l.read()
	v, ok := readPlain(strings.TrimSpace(value), false)
	if err != nil || !ok {
		return 0, false
	}
	v.Sub(v, from).Quo(v, step)
	if !v.IsInt() || v.Sign() < 0 || v.Num().Cmp(big.NewInt(steps)) > 0 {
		return 0, false
	}
	return v.Num().Int64(), true
}

// Places are all the numbers that can be given, from end to end, as decimals where
// they have an end and as fractions otherwise.
func (l Line) Places() []string {
	from, step, steps, err := l.read()
	if err != nil {
		return nil
	}
	out := make([]string, 0, steps+1)
	at := new(big.Rat).Set(from)
	for range steps + 1 {
		out = append(out, plainly(at))
		at.Add(at, step)
	}
	return out
}

// plainly writes a fraction as a decimal of few places where it is one.
func plainly(v *big.Rat) string {
	if places, exact := v.FloatPrec(); exact && places <= 4 {
		return v.FloatString(places)
	}
	return v.RatString()
}

func checkLine(in Interaction, d Declaration) []Problem {
	if in.Line == nil {
		return []Problem{{"body", "the number line is missing"}}
	}
	var out []Problem
	if _, _, _, err := in.Line.read(); err != nil {
		return []Problem{{"line", err.Error()}}
	}
	if in.Line.Labels < 1 {
		out = append(out, Problem{"line", "no place bears its number"})
	}
	out = append(out, checkNumber(in, d)...)
	if len(out) > 0 {
		return out
	}
	for _, key := range d.Correct {
		if _, ok := in.Line.place(key); !ok {
			out = append(out, Problem{"declarations[0].correct", fmt.Sprintf("the key %s is not a place of the line", key)})
		}
	}
	return out
}

func acceptsPlace(in Interaction, values []string) error {
	if len(values) > 1 {
		return &ResponseError{in.Response, "has more than one value"}
	}
	for _, v := range values {
		if in.Line == nil {
			return &ResponseError{in.Response, "has no line yet to be put on"}
		}
		if _, ok := in.Line.place(v); !ok {
			return &ResponseError{in.Response, fmt.Sprintf("gives %q, which is not a place of the line", v)}
		}
	}
	return nil
}

func scorePlace(credit CreditRule, in Interaction, d Declaration, values []string) share {
	s := scoreNumber(credit, in, d, values)
	s.why = strings.Replace(s.why, "Typed", "Put at", 1)
	return s
}

// NewNumberLine makes an item whose answer is a point on a line.
func NewNumberLine(stem string, line Line, keys []string, tolerance string) Item {
	return build(NumberLine, stem, Interaction{Response: "RESPONSE", Line: &line},
		Declaration{Response: "RESPONSE", Correct: keys, Number: &NumberKey{Tolerance: tolerance}}, AllOrNothing)
}
