package item_test

import (
	"fmt"
	"math/big"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

// spellings gives ways in which a student may type a fraction that has an end
// as a decimal.
func spellings(t *rapid.T, r *big.Rat) []string {
	out := []string{r.RatString()}
	factor := big.NewInt(rapid.Int64Range(2, 9).Draw(t, "factor"))
	out = append(out, new(big.Int).Mul(r.Num(), factor).String()+"/"+new(big.Int).Mul(r.Denom(), factor).String())
	decimal := strings.TrimRight(strings.TrimRight(r.FloatString(6), "0"), ".")
	out = append(out, decimal, " "+decimal+" ")
	if strings.Contains(decimal, ".") {
		out = append(out, decimal+"0")
	} else {
		out = append(out, decimal+".0")
	}
	if r.Sign() >= 0 {
		out = append(out, "+"+decimal)
	}
	if whole := new(big.Int).Quo(r.Num(), r.Denom()); whole.Sign() > 0 && !r.IsInt() {
		rest := new(big.Rat).Sub(r, new(big.Rat).SetInt(whole))
		out = append(out, whole.String()+" "+rest.RatString())
	}
	return out
}

func TestANumberIsRightInEverySpelling(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		denominator := rapid.SampledFrom([]int64{1, 2, 4, 5, 8, 10, 16, 20, 25, 100}).Draw(t, "denominator")
		r := big.NewRat(rapid.Int64Range(-400, 400).Draw(t, "numerator"), denominator)
		it := item.NewNumber("x", []string{r.RatString()}, item.NumberKey{}, "")
		for _, typed := range spellings(t, r) {
			c := it.Score(answer(typed), points.One)
			assert.Equal(t, item.Right, c.Outcome, "%q for %s", typed, r.RatString())
		}
		off := new(big.Rat).Add(r, big.NewRat(1, 1_000_000))
		assert.Equal(t, item.Wrong, it.Score(answer(off.RatString()), points.One).Outcome, "a millionth off is off")
	})
}

func TestToleranceIsInclusiveOnBothSides(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		key := rapid.Int64Range(-1000, 1000).Draw(t, "key")
		tenths := rapid.Int64Range(1, 50).Draw(t, "tolerance in tenths")
		it := item.NewNumber("x", []string{fmt.Sprint(key)}, item.NumberKey{Tolerance: fmt.Sprintf("%d.%d", tenths/10, tenths%10)}, "")
		for _, c := range []struct {
			tenths int64
			want   item.Outcome
		}{{tenths, item.Right}, {-tenths, item.Right}, {tenths + 1, item.Wrong}, {-tenths - 1, item.Wrong}, {0, item.Right}} {
			typed := big.NewRat(10*key+c.tenths, 10).RatString()
			assert.Equal(t, c.want, it.Score(answer(typed), points.One).Outcome, "%s beside %d ± %d tenths", typed, key, tenths)
		}
	})
}

// offered makes n choices and their labels.
func offered(n int) (choices, labels []string) {
	for i := range n {
		choices = append(choices, fmt.Sprint("choice ", i))
		labels = append(labels, item.Label(i))
	}
	return choices, labels
}

func TestChoosingOneMoreKeyNeverEarnsLess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 8).Draw(t, "choices")
		choices, labels := offered(n)
		keys := rapid.SliceOfNDistinct(rapid.IntRange(0, n-1), 1, n, rapid.ID).Draw(t, "keys")
		rule := rapid.SampledFrom([]item.CreditRule{item.AllOrNothing, item.PerChoice, item.KeyMinus}).Draw(t, "rule")
		it := item.NewChoice(item.MultipleChoice, "x", choices, keys, rule)
		worth := points.Points(rapid.IntRange(1, 500).Draw(t, "points"))

		chosen := rapid.SliceOfDistinct(rapid.SampledFrom(labels), rapid.ID).Draw(t, "chosen")
		before := it.Score(answer(chosen...), worth)
		require.Equal(t, before.Credit, it.Score(answer(rapid.Permutation(chosen).Draw(t, "in another order")...), worth).Credit)
		for _, k := range keys {
			label := item.Label(k)
			if !strings.Contains(strings.Join(chosen, ","), label) {
				after := it.Score(answer(append(chosen, label)...), worth)
				require.GreaterOrEqual(t, after.Credit, before.Credit, "%s and then %s", chosen, label)
			}
		}
		var all []string
		for _, k := range keys {
			all = append(all, item.Label(k))
		}
		require.Equal(t, worth, it.Score(answer(all...), worth).Credit, "the keys earn everything")
	})
}

// Step is the smallest amount by which a credit can change: every credit is a
// multiple of it.
func TestEveryCreditIsAMultipleOfTheStep(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 7).Draw(t, "choices")
		choices, labels := offered(n)
		keys := rapid.SliceOfNDistinct(rapid.IntRange(0, n-1), 1, n, rapid.ID).Draw(t, "keys")
		it := item.NewChoice(item.MultipleChoice, "x", choices, keys, rapid.SampledFrom([]item.CreditRule{item.AllOrNothing, item.PerChoice, item.KeyMinus}).Draw(t, "rule"))
		worth := points.Points(25 * rapid.IntRange(1, 20).Draw(t, "quarters"))
		step := it.Step(worth)
		require.Positive(t, step)
		require.Zero(t, worth%step, "the step divides the points")
		credit := it.Score(answer(rapid.SliceOfDistinct(rapid.SampledFrom(labels), rapid.ID).Draw(t, "chosen")...), worth).Credit
		require.Zero(t, credit%step, "%s is no multiple of %s", credit, step)
	})
}
