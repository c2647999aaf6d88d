package stats_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/points"
	"pineledger/core/stats"
)

// Ten students, three lines of a point; worked out by hand.
var byHand = stats.Responses{
	Most:    []points.Points{100, 100, 100},
	Credits: rows(`111 111 110 110 100 100 100 010 001 000`),
	Omitted: omitted(`... ... ... ..o .o. .oo .oo ... ... ooo`),
}

func rows(text string) (out [][]points.Points) {
	var row []points.Points
	for _, c := range text + " " {
		if c == ' ' {
			out, row = append(out, row), nil
		} else {
			row = append(row, points.Points(c-'0')*points.One)
		}
	}
	return out
}

func omitted(text string) (out [][]bool) {
	var row []bool
	for _, c := range text + " " {
		if c == ' ' {
			out, row = append(out, row), nil
		} else {
			row = append(row, c == 'o')
		}
	}
	return out
}

func TestAFormWorkedOutByHand(t *testing.T) {
	f := stats.OfForm(byHand)
	// Scores 3 3 2 2 1 1 1 1 1 0: sum 15, squares 31, variance (31 − 22.5)/9.
	total := 8.5 / 9
	assert.InDelta(t, 1.5, *f.Mean, 1e-12)
	assert.InDelta(t, math.Sqrt(total), *f.SD, 1e-12)
	// Shares right .7 .5 .3, so variances 10/9 of .21 .25 .21.
	within := 10. / 9 * (.21 + .25 + .21)
	alpha := 1.5 * (1 - within/total)
	assert.InDelta(t, alpha, *f.Alpha, 1e-12)
	assert.InDelta(t, math.Sqrt(total*(1-alpha)), *f.SEM, 1e-12)
	require.Len(t, f.CSEM, 4)
	assert.Equal(t, stats.ErrorAt{Raw: 100, Error: 1}, f.CSEM[1], "√(1·2/2)")
	assert.Equal(t, stats.ErrorAt{Raw: 300, Error: 0}, f.CSEM[3])
	require.Len(t, f.Lines, 3)
	assert.InDelta(t, .7, f.Lines[0].P, 1e-12)
	assert.Equal(t, []float64{0, .1}, []float64{f.Lines[0].Omitted, f.Lines[0].NotReached}, "who answered nothing reached nothing")
	assert.Equal(t, []float64{.1, .3}, []float64{f.Lines[1].Omitted, f.Lines[1].NotReached}, "left out, and not reached")
	assert.Equal(t, []float64{0, .4}, []float64{f.Lines[2].Omitted, f.Lines[2].NotReached})
	// Line 1 with the others: sums 7, 8, 5·(…) by hand: n Σxy − Σx Σy = 10·6 − 7·8 = 4.
	assert.InDelta(t, 4/math.Sqrt((70-49)*(10*12-64)), *f.Lines[0].Discrimination, 1e-12)
	assert.Equal(t, []stats.Flag{stats.LowDiscrimination}, f.Lines[0].Flags, "0.117")
	assert.Empty(t, f.Reasons)
	require.Len(t, f.AlphaIfDropped, 3)
	dropped := 2 * (1 - 10./9*(.25+.21)/((12-6.4)/9))
	assert.InDelta(t, dropped, *f.AlphaIfDropped[0], 1e-12)
}

func TestWhatCannotBeToldHasAReason(t *testing.T) {
	at := func(f stats.Form) (out []string) {
		for _, r := range f.Reasons {
			out = append(out, r.At)
		}
		return out
	}
	few := stats.OfForm(stats.Responses{Most: []points.Points{100}, Credits: rows("1 0 1 1 1 1 1 1 1")})
	assert.Equal(t, stats.Form{N: 9, Reasons: few.Reasons}, few, "nothing else for nine students")
	assert.Equal(t, []string{"n"}, at(few))

	same := stats.OfForm(stats.Responses{Most: []points.Points{100, 100}, Credits: rows("10 10 10 10 10 10 10 10 10 10")})
	assert.Equal(t, []string{"alpha", "sem", "alphaIfDropped[0]", "lines[0].discrimination", "alphaIfDropped[1]", "lines[1].discrimination"}, at(same))
	assert.Equal(t, []stats.Flag{stats.Easy}, same.Lines[0].Flags)
	assert.Equal(t, []stats.Flag{stats.Hard}, same.Lines[1].Flags)

	parts := stats.OfForm(stats.Responses{Most: []points.Points{200, 200}, Credits: rows("10 20 01 22 00 11 21 12 20 02")})
	assert.Nil(t, parts.CSEM)
	assert.Contains(t, at(parts), "csem")
	unequal := stats.OfForm(stats.Responses{Most: []points.Points{100, 200}, Credits: rows("10 10 02 12 00 12 02 12 10 02")})
	assert.Nil(t, unequal.CSEM)
	one := stats.OfForm(stats.Responses{Most: []points.Points{100}, Credits: rows("1 1 0 1 0 1 0 1 1 0")})
	assert.Equal(t, []string{"alpha", "sem", "csem", "alphaIfDropped[0]", "lines[0].discrimination"}, at(one))
}

func TestFlagsAtTheirBounds(t *testing.T) {
	// n students, so many of them right; the rest of the form is of no account.
	of := func(n, right, left int) []stats.Flag {
		r := stats.Responses{Most: []points.Points{100, 100}}
		for s := range n {
			row, out := []points.Points{0, points.Points(100 * (s % 2))}, []bool{s < left, false}
			if s >= n-right {
				row[0] = 100
			}
			r.Credits, r.Omitted = append(r.Credits, row), append(r.Omitted, out)
		}
		var flags []stats.Flag
		for _, f := range stats.OfForm(r).Lines[0].Flags {
			if f != stats.LowDiscrimination {
				flags = append(flags, f)
			}
		}
		return flags
	}
	assert.Empty(t, of(20, 4, 2), "a fifth right and a tenth left out are not yet flagged")
	assert.Equal(t, []stats.Flag{stats.Hard, stats.MuchOmitted}, of(20, 3, 3))
	assert.Empty(t, of(20, 19, 0))
	assert.Equal(t, []stats.Flag{stats.Easy}, of(40, 39, 0))
}

// With two lines everything is known in closed form: b₁ − b₂ is the logit of who got only the second right.
func TestTwoLinesOnAScale(t *testing.T) {
	var marks [][]stats.Mark
	add := func(n int, a, b stats.Mark) {
		for range n {
			marks = append(marks, []stats.Mark{a, b})
		}
	}
	add(12, stats.Right, stats.Wrong)
	add(4, stats.Wrong, stats.Right)
	add(5, stats.Right, stats.Right)
	scale, because := stats.Calibrate(marks)
	require.Empty(t, because)
	assert.InDelta(t, -math.Log(3)/2, scale[0].B, 1e-7)
	assert.InDelta(t, math.Log(3)/2, scale[1].B, 1e-7)
	// The difference has the variance 1/12 + 1/4; each line half of it, off its mean.
	assert.InDelta(t, math.Sqrt(1./12+1./4)/2, scale[0].SE, 1e-7)
	assert.Equal(t, 16, scale[0].N, "who got all right says nothing")
	p := math.Sqrt(3) / (1 + math.Sqrt(3)) // of the first line right at the ability 0
	fit := (12*(1-p)*(1-p) + 4*p*p) / (16 * p * (1 - p))
	assert.InDelta(t, fit, scale[0].Infit, 1e-7)
	assert.InDelta(t, fit, scale[0].Outfit, 1e-7, "where there is one score both are the same")
}

func TestWhatHasNoScale(t *testing.T) {
	mark := func(text string) (out [][]stats.Mark) {
		for _, row := range rows(text) {
			var marks []stats.Mark
			for _, c := range row {
				marks = append(marks, stats.Wrong+stats.Mark(c/100))
			}
			out = append(out, marks)
		}
		return out
	}
	_, because := stats.Calibrate(nil)
	assert.Contains(t, because, "0 students are too few")
	rare, because := stats.Calibrate(mark("100 100 100 100 100 010 010 010 010 001"))
	require.Empty(t, because)
	assert.NotNil(t, rare[2], "one who got it right is enough")
	common, because := stats.Calibrate(mark("011 011 011 011 011 101 101 101 101 110"))
	require.Empty(t, because)
	assert.NotNil(t, common[2], "one who got it wrong is enough")
	_, because = stats.Calibrate(mark("10 01 10 01 10 01 10 01 10"))
	assert.Contains(t, because, "9 students are too few")
	_, because = stats.Calibrate(mark("10 00 10 00 10 00 10 00 10 00"))
	assert.Contains(t, because, "two lines")
	_, because = stats.Calibrate(mark("100 110 100 110 100 110 100 111 000 110"))
	assert.Contains(t, because, "do not link", "each line is right only where the one before is")
	scale, because := stats.Calibrate(mark("101 011 101 011 101 011 101 011 101 001"))
	require.Empty(t, because)
	assert.Nil(t, scale[2], "everybody got it right")
	assert.NotNil(t, scale[0])
}

// Difficulties that answers were made with are found again, on two forms that share some lines.
func TestDifficultiesAreFoundAgainAcrossForms(t *testing.T) {
	noise := rand.New(rand.NewPCG(3, 9))
	const lines = 24
	true_ := make([]float64, lines)
	for i := range true_ {
		true_[i] = -2 + 4*float64(i)/(lines-1)
	}
	var marks [][]stats.Mark
	for s := range 4000 {
		theta := noise.NormFloat64() + 0.5*float64(s%2) // one form is taken by the stronger ones
		row := make([]stats.Mark, lines)
		for i := range row {
			if onForm := i%3 == 0 || i%3 == 1+s%2; !onForm {
				continue
			}
			row[i] = stats.Wrong
			if noise.Float64() < 1/(1+math.Exp(true_[i]-theta)) {
				row[i] = stats.Right
			}
		}
		marks = append(marks, row)
	}
	scale, because := stats.Calibrate(marks)
	require.Empty(t, because)
	sum := 0.0
	for i, l := range scale {
		sum += l.B
		assert.InDelta(t, true_[i], l.B, 4*l.SE, "line %d", i)
		assert.InDelta(t, 1, l.Infit, 0.15)
		assert.Less(t, l.SE, 0.1)
	}
	assert.InDelta(t, 0, sum, 1e-9)
}

// The difficulties are the top of the likelihood: there the expected number of right answers at each raw score, summed,
// is the observed one, whatever the answers were.
func TestTheScaleExpectsWhatWasSeen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines, students := rapid.IntRange(2, 6).Draw(t, "lines"), rapid.IntRange(10, 40).Draw(t, "students")
		marks := make([][]stats.Mark, students)
		for s := range marks {
			marks[s] = rapid.SliceOfN(rapid.SampledFrom([]stats.Mark{stats.Wrong, stats.Right}), lines, lines).Draw(t, "row")
		}
		scale, because := stats.Calibrate(marks)
		if because != "" || slices.Contains(scale, nil) {
			return
		}
		for i := range scale {
			expected, seen := 0.0, 0.0
			for _, row := range marks {
				score := 0
				for _, m := range row {
					score += int(m - stats.Wrong)
				}
				// The chance of line i right among all patterns of that score, one by one.
				var with, all float64
				for pattern := range 1 << lines {
					right, weight := 0, 0.0
					for j := range lines {
						if pattern>>j&1 == 1 {
							right++
							weight -= scale[j].B
						}
					}
					if right == score {
						all += math.Exp(weight)
						if pattern>>i&1 == 1 {
							with += math.Exp(weight)
						}
					}
				}
				expected += with / all
				seen += float64(row[i] - stats.Wrong)
			}
			if math.Abs(expected-seen) > 1e-6 {
				t.Fatalf("line %d: %v expected, %v seen", i, expected, seen)
			}
		}
	})
}

// Two sets of lines that nobody took both of have no scale in common: the larger is found, and can be calibrated by itself.
func TestTheMostLinkedLinesAreFound(t *testing.T) {
	a := stats.NewAnswers(5)
	x, w, r := stats.NotTaken, stats.Wrong, stats.Right
	for range 3 {
		for _, marks := range [][]stats.Mark{{r, w, x, x, x}, {w, r, x, x, x}, {x, x, r, w, r}, {x, x, w, r, w}, {x, x, w, w, r}} {
			a.Add(marks)
		}
	}
	assert.Equal(t, []int{2, 3, 4}, a.Linked())
	_, because := a.Calibrate()
	assert.Contains(t, because, "do not link all lines")
}
