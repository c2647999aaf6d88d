package points_test

import (
	"encoding/json"
	"fmt"
	"math/big"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/points"
)

func ExampleParse() {
	p, _ := points.Parse("1.50")
	fmt.Println(p, int64(p))
	// Output: 1.5 150
}

func TestParse(t *testing.T) {
	for _, c := range []struct {
		in   string
		want points.Points
		err  error
	}{
		{"0", 0, nil},
		{"-0.25", -25, nil},
		{"1e1", 1000, nil},
		{"0.070", 7, nil},
		{"0.005", 0, points.ErrPlaces},
		{"1/2", 0, points.ErrNotDecimal},
		{"0x10", 0, points.ErrNotDecimal},
		{"1e999999999", 0, points.ErrNotDecimal},
		{"0.9", 90, nil},
		{"1e-2", 1, nil},
		{"1000000", points.Most, nil},
		{"-1000000", -points.Most, nil},
		{"1000000.01", 0, points.ErrTooLarge},
		{"-1000000.01", 0, points.ErrTooLarge},
		{"1e40", 0, points.ErrTooLarge},
		{"1e41", 0, points.ErrNotDecimal},
		{"1e-40", 0, points.ErrPlaces},
		{"1e-41", 0, points.ErrNotDecimal},
		{"e", 0, points.ErrNotDecimal},
		{"e5", 0, points.ErrNotDecimal},
		{"0." + strings.Repeat("0", 38), 0, nil},
		{"0." + strings.Repeat("0", 39), 0, points.ErrNotDecimal},
		{"", 0, points.ErrNotDecimal},
	} {
		got, err := points.Parse(c.in)
		assert.ErrorIs(t, err, c.err, c.in)
		assert.Equal(t, c.want, got, c.in)
	}
}

func TestStringIsTheShortestDecimal(t *testing.T) {
	for p, want := range map[points.Points]string{0: "0", 1: "0.01", 90: "0.9", 100: "1", 105: "1.05", -25: "-0.25", -100: "-1", points.Most: "1000000"} {
		assert.Equal(t, want, p.String())
	}
}

func TestGCD(t *testing.T) {
	for _, c := range [][3]points.Points{{0, 0, 0}, {0, 75, 75}, {75, 0, 75}, {100, 75, 25}, {75, 100, 25}, {7, 100, 1}} {
		assert.Equal(t, c[2], points.GCD(c[0], c[1]), c)
	}
}

func TestWhatIsWrittenIsReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := points.Points(rapid.Int64Range(-int64(points.Most), int64(points.Most)).Draw(t, "p"))
		data, err := json.Marshal(p)
		require.NoError(t, err)
		var back points.Points
		require.NoError(t, json.Unmarshal(data, &back))
		assert.Equal(t, p, back)
	})
}

// Small and large amounts are rounded alike.
func TestFractionIsExactWhateverItsSize(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := points.Points(rapid.Int64Range(0, int64(points.Most)).Draw(t, "points"))
		den := rapid.Int64Range(1, 1<<40).Draw(t, "of")
		num := rapid.Int64Range(0, den).Draw(t, "part")
		want := new(big.Rat).Mul(big.NewRat(int64(p), 1), big.NewRat(num, den))
		want.Add(want, big.NewRat(1, 2))
		floor := new(big.Int).Quo(want.Num(), want.Denom())
		require.Equal(t, floor.Int64(), int64(p.Fraction(num, den)))
	})
}

func TestFractionRoundsHalfUpOnce(t *testing.T) {
	assert.Equal(t, points.Points(67), points.One.Fraction(2, 3))
	assert.Equal(t, points.Points(33), points.One.Fraction(1, 3))
	assert.Equal(t, points.Points(13), points.Points(100).Fraction(1, 8), "0.125 is half of a hundredth over 0.12")
	assert.Equal(t, points.Points(200), points.Points(200).Fraction(5, 5))
	assert.Equal(t, points.Points(0), points.Points(0).Fraction(3, 4))
	assert.Equal(t, points.Points(0), points.One.Fraction(0, 4))
	assert.Equal(t, points.Points(-33), points.Points(-100).Fraction(1, 3))
	assert.Equal(t, points.Points(-12), points.Points(-100).Fraction(1, 8), "-0.125 is half of a hundredth over -0.13: half goes up")
}

func TestTenthsRoundHalfAwayFromZero(t *testing.T) {
	assert.EqualValues(t, 632, points.Tenths(2400, 3800), "24 of 38 is 63.157…")
	assert.EqualValues(t, 1, points.Tenths(1, 2000), "0.05 rounds up")
	assert.EqualValues(t, -1, points.Tenths(-1, 2000))
	assert.EqualValues(t, 0, points.Tenths(5, 0))
	assert.EqualValues(t, 0, points.Tenths(0, 3800))
	assert.EqualValues(t, 0, points.Tenths(-1, 2001))
	assert.EqualValues(t, -500, points.Tenths(-1, 2))
	assert.EqualValues(t, 1000, points.Tenths(1, 1))
}
