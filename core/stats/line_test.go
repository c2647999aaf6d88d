package stats_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/points"
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

func TestNothingIsComputedFromTooFew(t *testing.T) {
	line := stats.OfLine(points.One, make([]stats.Answer, stats.Fewest-1))
	assert.Equal(t, stats.Line{N: 9, Difficulty: -1}, line)
	line = stats.OfLine(points.One, make([]stats.Answer, stats.Fewest))
	assert.Equal(t, 0, line.Difficulty)
	assert.Nil(t, line.Discrimination, "a line that nobody gets right does not vary")
}

func TestLawsOfALine(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		answers := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) stats.Answer {
			credit := points.Points(rapid.IntRange(0, 300).Draw(t, "credit"))
			return stats.Answer{Credit: credit, Raw: credit + points.Points(rapid.IntRange(0, 4000).Draw(t, "rest"))}
		}), stats.Fewest, 60).Draw(t, "answers")
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
