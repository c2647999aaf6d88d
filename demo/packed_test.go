package demo

import (
	"math/big"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
)

func packedItems() []packed {
	shelf := shelfOf{}
	return slices.Concat(severalRight(), toMark(shelf), inParts(), shortAnswers(), essays(), faceToFace(shelf), inTwoLanguages())
}

func TestPackedItemsAreSoundAndAligned(t *testing.T) {
	known := map[string]bool{}
	for _, s := range standardLines() {
		known[s.code] = true
	}
	stems := map[string]bool{}
	for _, p := range packedItems() {
		stem := p.item.Stem() + p.item.Directions + p.item.KeyShort()
		assert.Empty(t, p.item.Check(), stem)
		assert.True(t, known[p.standard], "%s of %s", p.standard, stem)
		assert.False(t, stems[stem], "twice: %s", stem)
		stems[stem] = true
		for _, c := range p.item.Cautions() {
			assert.NotContains(t, c.Reason, "alternative text", stem)
		}
	}
}

var digits = regexp.MustCompile(`[0-9]+(?:[.,/][0-9]+)*`)

// A translation tells of the same numbers, in question and choices alike.
func TestTranslationsTellOfTheSameNumbers(t *testing.T) {
	for _, b := range bothLanguages {
		require.Len(t, b.spanish, len(b.english))
		for i := range b.english {
			assert.Equal(t, digits.FindAllString(b.english[i], -1), digits.FindAllString(b.spanish[i], -1), b.english[0])
		}
		assert.NotEqual(t, b.english[0], b.spanish[0])
	}
}

// bilingualSolvers answer the questions of the two languages from their words.
var bilingualSolvers = []solver{
	{regexp.MustCompile(`holds (\d+) rows of (\d+) jars`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`^(\d+) shells are shared equally among (\d+) children`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`square has sides of (\d+) cm. What is its perimeter`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(4, 1)) }},
	{regexp.MustCompile(`^What is ([\d,]+) rounded to the nearest hundred`), func(n []*big.Rat) *big.Rat { return rat(rounded(whole(n[0]), 100), 1) }},
	{regexp.MustCompile(`^What is (\d+) × (\d+)\?`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`^Which fraction is equal to (\S+)\?`), func(n []*big.Rat) *big.Rat { return n[0] }},
	{regexp.MustCompile(`^What is (\S+) \+ (\S+)\?`), func(n []*big.Rat) *big.Rat { return add(n[0], n[1]) }},
	{regexp.MustCompile(`How many centimeters are (\d+) meters`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(100, 1)) }},
	{regexp.MustCompile(`^What is (\S+) × 10\?`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(10, 1)) }},
	{regexp.MustCompile(`^What is (\d+/\d+) of (\d+)\?`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`box is (\d+) cm long, (\d+) cm wide and (\d+) cm high`), func(n []*big.Rat) *big.Rat { return mul(mul(n[0], n[1]), n[2]) }},
	{regexp.MustCompile(`There are (\d+) gulls and (\d+) ducks`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`^What is (\d+)% of (\d+)\?`), func(n []*big.Rat) *big.Rat { return quo(mul(n[0], n[1]), rat(100, 1)) }},
	{regexp.MustCompile(`^If x − (\d+) = (\d+), what is x`), func(n []*big.Rat) *big.Rat { return add(n[0], n[1]) }},
	{regexp.MustCompile(`mean of (\d+), (\d+) and (\d+)`), func(n []*big.Rat) *big.Rat { return quo(add(add(n[0], n[1]), n[2]), rat(3, 1)) }},
}

// read takes a choice or a captured number as a fraction.
func asNumber(s string) (*big.Rat, bool) {
	s = strings.ReplaceAll(strings.ReplaceAll(s, ",", ""), " : ", "/")
	return new(big.Rat).SetString(digits.FindString(s))
}

func TestKeysInTwoLanguagesAreSolvedFromTheirWords(t *testing.T) {
	solved := 0
	for _, b := range bothLanguages {
		for _, s := range bilingualSolvers {
			m := s.stem.FindStringSubmatch(b.english[0])
			if m == nil {
				continue
			}
			var n []*big.Rat
			for _, text := range m[1:] {
				v, ok := asNumber(text)
				require.True(t, ok, text)
				n = append(n, v)
			}
			got, ok := asNumber(b.english[b.right+1])
			require.True(t, ok)
			assert.Zero(t, s.solve(n).Cmp(got), "%s: the key is %s, it should be %s", b.english[0], got, s.solve(n).RatString())
			solved++
			break
		}
	}
	assert.Equal(t, 16, solved, "the others are of words, or compare numbers")
}

// The areas that are right hold the place that the question names.
func TestSpotsAreWhereTheQuestionSays(t *testing.T) {
	point := regexp.MustCompile(`Mark the point \((\d), (\d)\)`)
	_, degree := thermometer()
	met := 0
	for _, p := range toMark(shelfOf{}) {
		areas := p.item.Declarations[0].Areas
		switch stem := p.item.Stem(); {
		case point.MatchString(stem):
			m := point.FindStringSubmatch(stem)
			x, y := gridAt(int(m[1][0]-'0'), int(m[2][0]-'0'))
			assert.True(t, areas[0].Contains(x, y), stem)
			for dx := -1; dx <= 1; dx++ {
				for dy := -1; dy <= 1; dy++ {
					inside := areas[0].Contains(x+dx*gridUnit, y+dy*gridUnit)
					assert.Equal(t, dx == 0 && dy == 0, inside, "no neighbor of the point is right")
				}
			}
			met++
		case strings.Contains(stem, "−3 degrees"):
			assert.True(t, areas[0].Contains(78, degree(-3)) && !areas[0].Contains(78, degree(-4)) && !areas[0].Contains(78, degree(-2)), stem)
			met++
		case strings.Contains(stem, "6 degrees warmer"):
			assert.True(t, areas[0].Contains(78, degree(-4+6)) && !areas[0].Contains(78, degree(-4)), stem)
			met++
		}
	}
	assert.Equal(t, 3, met)
}

// Every part of an item of parts can be answered right, and all of it then is.
func TestPartsAreAnsweredByTheirKeys(t *testing.T) {
	for _, p := range inParts() {
		r := item.Response{}
		for _, d := range p.item.Declarations {
			r[d.Response] = d.Correct
		}
		assert.Equal(t, item.Right, p.item.Score(r, 200).Outcome, p.item.Stem())
		first := item.Response{p.item.Declarations[0].Response: p.item.Declarations[0].Correct}
		assert.EqualValues(t, 100, p.item.Score(first, 200).Credit, "the first part alone is half of it")
		second := item.Response{p.item.Declarations[1].Response: p.item.Declarations[1].Correct}
		assert.Zero(t, p.item.Score(second, 200).Credit, "the second counts only with the first")
	}
}
