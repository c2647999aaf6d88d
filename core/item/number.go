package item

import (
	"fmt"
	"math/big"
	"regexp"
	"slices"
	"strings"
)

// NumberKey says how a typed number is read and compared. The accepted values
// are the declaration's; all comparisons are exact.
type NumberKey struct {
	Tolerance string   `json:"tolerance,omitempty"` // decimal or fraction, inclusive; with Relative a share of the value
	Relative  bool     `json:"relative,omitempty"`
	Percent   bool     `json:"percent,omitempty"` // "75 %" is read as 0.75
	Clock     bool     `json:"clock,omitempty"`   // "1:05" is read as 65 minutes
	Units     []string `json:"units,omitempty"`   // spellings that may follow the number
	Comma     bool     `json:"comma,omitempty"`   // the decimal sign is a comma
}

var number = kindRules{
	credits:  []CreditRule{AllOrNothing, Mapped},
	check:    checkNumber,
	accepts:  acceptsNumber,
	score:    scoreNumber,
	steps:    oneStep,
	short:    func(_ Interaction, values []string) []string { return values },
	keyShort: func(_ Interaction, d Declaration) string { return strings.Join(d.Correct, " or ") },
}

const maxNumberLength = 60

func checkNumber(_ Interaction, d Declaration) []Problem {
	if d.Number == nil {
		return []Problem{{"declarations[0].number", "how the number is read is missing"}}
	}
	var out []Problem
	if len(d.Correct) == 0 {
		out = append(out, Problem{"declarations[0].correct", "there is no key"})
	}
	for _, key := range d.Correct {
		if _, ok := d.Number.read(key); !ok {
			out = append(out, Problem{"declarations[0].correct", fmt.Sprintf("the key %q is not a number", key)})
		}
	}
	if t := d.Number.Tolerance; t != "" {
		if v, ok := (NumberKey{}).read(t); !ok || v.Sign() < 0 {
			out = append(out, Problem{"declarations[0].number.tolerance", fmt.Sprintf("%q is not a number from 0 on", t)})
		}
	}
	return out
}

func acceptsNumber(in Interaction, values []string) error {
	if len(values) > 1 {
		return &ResponseError{in.Response, "has more than one value"}
	}
	if len(values) == 1 && len(values[0]) > maxNumberLength {
		return &ResponseError{in.Response, fmt.Sprintf("is longer than %d bytes", maxNumberLength)}
	}
	return nil
}

func scoreNumber(_ CreditRule, _ Interaction, d Declaration, values []string) share {
	typed := strings.TrimSpace(values[0])
	keys := strings.Join(d.Correct, " or ")
	v, ok := d.Number.read(typed)
	if !ok {
		return nothing(fmt.Sprintf("Typed %q, which is not a number here; the key is %s.", typed, keys))
	}
	why := fmt.Sprintf("Typed %q; the key is %s%s.", typed, keys, d.Number.toleranceWords())
	for _, key := range d.Correct {
		if want, ok := d.Number.read(key); ok && d.Number.near(v, want) {
			return whole(why)
		}
	}
	return nothing(why)
}

func (k NumberKey) toleranceWords() string {
	switch {
	case k.Tolerance == "":
		return ""
	case k.Relative:
		return " within " + k.Tolerance + " of it"
	default:
		return " ± " + k.Tolerance
	}
}

// near compares inclusively.
func (k NumberKey) near(v, want *big.Rat) bool {
	gap := new(big.Rat).Sub(v, want)
	gap.Abs(gap)
	allowed := new(big.Rat)
	if t, ok := (NumberKey{}).read(k.Tolerance); ok {
		allowed.Set(t)
	}
	if k.Relative {
		allowed.Mul(allowed, new(big.Rat).Abs(want))
	}
	return gap.Cmp(allowed) <= 0
}

var (
	wholeOrDecimal = regexp.MustCompile(`^[+-]?(\d+|\d{1,3}(,\d{3})+)?(\.\d+)?$`)
	fraction       = regexp.MustCompile(`^([+-]?\d+)/(\d+)$`)
	mixed          = regexp.MustCompile(`^([+-]?)(\d+) (\d+)/(\d+)$`)
	clock          = regexp.MustCompile(`^(\d{1,3}):([0-5]\d)$`)
	slashSpaces    = regexp.MustCompile(`\s*[/⁄]\s*`)
)

// read parses what a person types: an integer, a decimal, a fraction, a mixed
// number, and where the key says so a percent, a clock time or a unit behind.
func (k NumberKey) read(s string) (*big.Rat, bool) {
	s = strings.Join(strings.Fields(strings.ReplaceAll(s, "\u2212", "-")), " ")
	if s == "" || len(s) > maxNumberLength {
		return nil, false
	}
	s = k.withoutUnit(s)
	if k.Percent && strings.HasSuffix(s, "%") {
		v, ok := readPlain(strings.TrimSpace(strings.TrimSuffix(s, "%")), k.Comma)
		if !ok {
			return nil, false
		}
		return v.Quo(v, big.NewRat(100, 1)), true
	}
	if m := clock.FindStringSubmatch(s); m != nil {
		if !k.Clock {
			return nil, false
		}
		hours, _ := new(big.Rat).SetString(m[1])
		minutes, _ := new(big.Rat).SetString(m[2])
		return hours.Mul(hours, big.NewRat(60, 1)).Add(hours, minutes), true
	}
	return readPlain(s, k.Comma)
}

func (k NumberKey) withoutUnit(s string) string {
	units := slices.Clone(k.Units)
	slices.SortFunc(units, func(a, b string) int { return len(b) - len(a) })
	for _, u := range units {
		if rest, ok := strings.CutSuffix(s, u); ok && u != "" {
			return strings.TrimSpace(rest)
		}
	}
	return s
}

func readPlain(s string, comma bool) (*big.Rat, bool) {
	if comma {
		s = strings.NewReplacer(",", ".", ".", ",").Replace(s)
	}
	s = slashSpaces.ReplaceAllString(s, "/")
	if m := mixed.FindStringSubmatch(s); m != nil {
		return readMixed(m)
	}
	if m := fraction.FindStringSubmatch(s); m != nil {
		return ratio(m[1], m[2])
	}
	if !wholeOrDecimal.MatchString(s) || !strings.ContainsAny(s, "0123456789") {
		return nil, false
	}
	return new(big.Rat).SetString(strings.ReplaceAll(s, ",", ""))
}

func readMixed(m []string) (*big.Rat, bool) {
	v, ok := ratio(m[3], m[4])
	if !ok {
		return nil, false
	}
	whole, _ := new(big.Rat).SetString(m[2])
	v.Add(v, whole)
	if m[1] == "-" {
		v.Neg(v)
	}
	return v, true
}

func ratio(num, den string) (*big.Rat, bool) {
	n, _ := new(big.Rat).SetString(num)
	d, _ := new(big.Rat).SetString(den)
	if d.Sign() == 0 {
		return nil, false
	}
	return n.Quo(n, d), true
}

// NewNumber makes a typed number item.
func NewNumber(stem string, keys []string, key NumberKey, unit string) Item {
	return build(Number, stem, Interaction{Response: "RESPONSE", Unit: unit},
		Declaration{Response: "RESPONSE", Correct: keys, Number: &key}, AllOrNothing)
}
