package stats_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/points"
	"pineledger/core/results"
	"pineledger/core/stats"
)

// Ten students on a line of one point: six right. Rest scores rise with the
// credit: the correlation is computed by hand below.
func TestHowALineWorked(t *testing.T) {
	credit := []points.Points{100, 100, 100, 100, 100, 100, 0, 0, 0, 0}
	rest := []points.Points{900, 800, 700, 600, 500, 400, 500, 400, 300, 200}
	var answers []stats.Answer
	for i := range credit {
		answers = append(answers, stats.Answer{Credit: credit[i], Raw: credit[i] + rest[i], Omitted: i == 9, NotReached: i == 8})
	}
	line := stats.OfLine(points.One, answers)
	assert.Equal(t, []int{10, 600, 1, 1}, []int{line.N, line.Difficulty, line.Omitted, line.NotReached})
	// Σc = 6, Σr = 53, Σcr = 39, Σc² = 6, Σr² = 325 (in points):
	// (10·39 − 6·53) / √((60 − 36)(3250 − 2809)) = 72 / √(24·441) = 0.69985
	require.NotNil(t, line.Discrimination)
	assert.InDelta(t, 0.69985, *line.Discrimination, 0.00001)
}

// linked are ten students whose rest score is given beside their credit.
func linked(credit, rest [10]points.Points) stats.Line {
	var answers []stats.Answer
	for i := range credit {
		answers = append(answers, stats.Answer{Credit: credit[i], Raw: credit[i] + rest[i]})
	}
	return stats.OfLine(points.One, answers)
}

func TestDiscriminationAtItsEnds(t *testing.T) {
	right := [10]points.Points{100, 100, 100, 100, 100, 0, 0, 0, 0, 0}
	for name, c := range map[string]struct {
		rest [10]points.Points
		want float64
	}{
		"whoever is right has the better rest, and nothing else":             {[10]points.Points{900, 900, 900, 900, 900, 300, 300, 300, 300, 300}, 1},
		"whoever is right has the worse rest":                                {[10]points.Points{300, 300, 300, 300, 300, 900, 900, 900, 900, 900}, -1},
		"a little negative: (10·12 − 5·25) / √(25·(10·71 − 25²)), in points": {[10]points.Points{100, 200, 300, 300, 300, 100, 200, 300, 300, 400}, -5 / math.Sqrt(25*85)},
		"what is right says nothing of the rest":                             {[10]points.Points{100, 200, 300, 400, 500, 100, 200, 300, 400, 500}, 0},
	} {
		line := linked(right, c.rest)
		if assert.NotNil(t, line.Discrimination, name) {
			assert.InDelta(t, c.want, *line.Discrimination, 1e-12, name)
		}
		assert.Equal(t, 500, line.Difficulty)
	}
	assert.Nil(t, linked(right, [10]points.Points{700, 700, 700, 700, 700, 700, 700, 700, 700, 700}).Discrimination, "the rest does not vary")
	assert.Nil(t, linked([10]points.Points{100, 100, 100, 100, 100, 100, 100, 100, 100, 100}, [10]points.Points{1, 2, 3, 4, 5, 6, 7, 8, 9, 10}).Discrimination, "the line does not vary")
}

func TestDifficultyIsRoundedHalfUpOnce(t *testing.T) {
	of := func(most points.Points, credits ...points.Points) int {
		answers := make([]stats.Answer, 16)
		for i, c := range credits {
			answers[i].Credit = c
		}
		return stats.OfLine(most, answers).Difficulty
	}
	assert.Equal(t, 63, of(100, 100), "1 of 16 is 0.0625")
	assert.Equal(t, 188, of(100, 100, 100, 100), "3 of 16 is 0.1875")
	assert.Equal(t, 31, of(200, 100), "half of 0.0625 is 0.03125")
	assert.Equal(t, -1, of(0), "a line without points has no difficulty")
}

func TestNothingIsComputedFromTooFew(t *testing.T) {
	line := stats.OfLine(points.One, make([]stats.Answer, results.Fewest-1))
	assert.Equal(t, stats.Line{N: 9, Difficulty: -1}, line)
	line = stats.OfLine(points.One, make([]stats.Answer, results.Fewest))
	assert.Equal(t, 0, line.Difficulty)
	assert.Nil(t, line.Discrimination, "a line that nobody gets right does not vary")
}

func TestLawsOfALine(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		answers := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) stats.Answer {
			credit := points.Points(rapid.IntRange(0, 300).Draw(t, "credit"))
			return stats.Answer{Credit: credit, Raw: credit + points.Points(rapid.IntRange(0, 4000).Draw(t, "rest"))}
		}), results.Fewest, 60).Draw(t, "answers")
		line := stats.OfLine(3*points.One, answers)
		assert.GreaterOrEqual(t, line.Difficulty, 0)
		assert.LessOrEqual(t, line.Difficulty, 1000)
		turned := stats.OfLine(3*points.One, append(append([]stats.Answer{}, answers[5:]...), answers[:5]...))
		assert.Equal(t, line, turned, "the order of the students does not matter")
		if line.Discrimination != nil {
			assert.GreaterOrEqual(t, *line.Discrimination, -1.0)
			assert.LessOrEqual(t, *line.Discrimination, 1.0)
		}
	})
}
