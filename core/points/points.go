// Package points holds exact decimals: points, credits and percents with two
// places at most. They are integers of hundredths; no stored score ever passes
// through a binary float.
package points

import (
	"errors"
	"fmt"
	"math/big"
	"strconv"
	"strings"
)

// Points is an amount in hundredths: Points(150) is 1.5 points.
type Points int64

// One is a whole point.
const One Points = 100

// Most bounds an amount from outside so that sums of many stay far from overflow.
const Most Points = 1_000_000 * One

// Errors of Parse.
var (
	ErrNotDecimal = errors.New("is not a decimal number")
	ErrPlaces     = errors.New("has more than two decimal places")
	ErrTooLarge   = errors.New("is larger than 1,000,000")
)

// Parse reads a decimal such as "3", "-0.5" or "1.5e1" exactly.
func Parse(s string) (Points, error) {
	r, ok := decimal(s)
	if !ok {
		return 0, ErrNotDecimal
	}
	r.Mul(r, big.NewRat(100, 1))
	if !r.IsInt() {
		return 0, ErrPlaces
	}
	n := r.Num()
	if !n.IsInt64() || n.Int64() > int64(Most) || n.Int64() < -int64(Most) {
		return 0, ErrTooLarge
	}
	return Points(n.Int64()), nil
}

// decimal refuses what big.Rat would also read (fractions, hexadecimal, vast
// exponents that take unbounded memory).
func decimal(s string) (*big.Rat, bool) {
	if s == "" || len(s) > 40 || strings.ContainsAny(s, "/xXpPbBoO_") {
		return nil, false
	}
	if at := strings.IndexAny(s, "eE"); at >= 0 {
		exponent, err := strconv.Atoi(s[at+1:])
		if err != nil || exponent > 40 || exponent < -40 {
			return nil, false
		}
	}
	return new(big.Rat).SetString(s)
}

// String gives the shortest decimal: "3", "0.5", "-1.25".
func (p Points) String() string {
	sign, n := "", int64(p)
	if n < 0 {
		sign, n = "-", -n
	}
	whole, rest := n/100, n%100
	switch {
	case rest == 0:
		return fmt.Sprintf("%s%d", sign, whole)
	case rest%10 == 0:
		return fmt.Sprintf("%s%d.%d", sign, whole, rest/10)
	default:
		return fmt.Sprintf("%s%d.%02d", sign, whole, rest)
	}
}

// MarshalJSON writes a JSON number.
func (p Points) MarshalJSON() ([]byte, error) { return []byte(p.String()), nil }

// UnmarshalJSON reads a JSON number exactly.
func (p *Points) UnmarshalJSON(data []byte) error {
	v, err := Parse(string(data))
	if err != nil {
		return fmt.Errorf("%s %w", data, err)
	}
	*p = v
	return nil
}

// GCD is the greatest common divisor of two amounts that are not negative;
// GCD(0, a) is a.
func GCD(a, b Points) Points {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// Fraction gives the exact share num/den of p rounded to hundredths, half up:
// the one rounding of a credit, made at the line and once. den must be positive
// and num not negative.
func (p Points) Fraction(num, den int64) Points {
	const small = 1 << 20 // three of them fit into an int64 with room for doubling
	if p >= 0 && p < small && num < small && den < small {
		return Points((2*int64(p)*num + den) / (2 * den))
	}
	n := new(big.Int).Mul(big.NewInt(int64(p)), big.NewInt(num))
	n.Mul(n, big.NewInt(2))
	n.Add(n, big.NewInt(den))
	n.Div(n, new(big.Int).Mul(big.NewInt(den), big.NewInt(2)))
	return Points(n.Int64())
}

// Tenths is part/whole as a percent with one decimal, in tenths of a percent,
// rounded half away from zero: 633 is 63.3 %. It is for display only. A whole
// of 0 gives 0.
func Tenths(part, whole Points) int64 {
	if whole == 0 {
		return 0
	}
	n := int64(part) * 1000
	if n < 0 {
		return -((-n*2 + int64(whole)) / (2 * int64(whole)))
	}
	return (n*2 + int64(whole)) / (2 * int64(whole))
}
