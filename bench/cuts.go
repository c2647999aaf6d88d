package main

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/stats"
)

// measureCuts measures what weighing cuts takes: calibration, a prediction, and a cut that moves over it.
func measureCuts(ctx context.Context, b *bench) error {
	for _, students := range []int{15_000, 30_000} {
		if err := measureCalibration(students); err != nil {
			return err
		}
	}
	for _, size := range [][2]int{{30, 40}, {60, 20}, {60, 40}} {
		measurePrediction(size[0], size[1])
	}
	if err := measureTables(ctx, b); err != nil {
		return err
	}
	return measureCutsOfDistrict(ctx, b)
}

// measureCalibration puts 200 items on one scale from students who took one of six forms of 50 lines that share 20.
func measureCalibration(students int) error {
	const items = 200
	noise := rand.New(rand.NewPCG(5, 13))
	marks := make([][]stats.Mark, students)
	for s := range marks {
		marks[s] = make([]stats.Mark, items)
		theta := noise.NormFloat64()
		for i := range marks[s] {
			if i >= 20 && (i-20)/30 != s%6 {
				continue
			}
			marks[s][i] = stats.Wrong
			if noise.Float64() < 1/(1+math.Exp(float64(i%40-20)/10-theta)) {
				marks[s][i] = stats.Right
			}
		}
	}
	bare := taken(func() {
		right := make([]int, items)
		for _, row := range marks {
			for i, m := range row {
				if m == stats.Right {
					right[i]++
				}
			}
		}
	})
	var because string
	took := taken(func() { _, because = stats.Calibrate(marks) })
	if because != "" {
		return fmt.Errorf("no scale: %s", because)
	}
	beside(fmt.Sprintf("calibration of %d items from %d attempts, beside one pass over the answers", items, students), took, bare, " (aim: under 10 s)")
	return nil
}

// measurePrediction expects scores for so many lines and schools of 1,500 students each, and then moves a cut.
func measurePrediction(lines, schools int) {
	form := band.Form{Bands: []band.Band{{Name: "a"}}}
	var model []predict.Line
	for i := range lines {
		form.Lines = append(form.Lines, band.Line{Points: points.One})
		model = append(model, predict.Line{B: float64(i)/10 - float64(lines)/20, Levels: []points.Points{0, points.One}})
	}
	for i, percent := range []points.Points{4300, 6300, 8600} {
		form.Bands = append(form.Bands, band.Band{Name: string(rune('b' + i)), Cut: band.Cut{Percent: &percent}})
	}
	var groups []predict.Group
	for g := range schools {
		groups = append(groups, predict.Group{Name: fmt.Sprint(g), N: 1500, Abilities: predict.Normal(float64(g)/40, 1)})
	}
	cuts, err := band.Compute(form)
	if err != nil {
		panic(err) // the form above has no fault
	}
	// The same products, of numbers that stand ready.
	bare := taken(func() {
		scores := make([]float64, lines+1)
		for range schools * 81 {
			scores[0] = 1
			for l := range lines {
				for r := l + 1; r > 0; r-- {
					scores[r] = scores[r]*.4 + scores[r-1]*.6
				}
				scores[0] *= .4
			}
		}
	})
	var prospect *predict.Prospect
	took := taken(func() { prospect = predict.Expect(form.Lines, cuts.Grain, model, groups) })
	beside(fmt.Sprintf("prediction for %d lines and %d schools, beside its products alone", lines, schools), took, bare, "")
	took = taken(func() { prospect.With(cuts) })
	beside(fmt.Sprintf("a cut moved over %d lines, %d schools, %d students", lines, schools, schools*1500), took, bare, " (aim: under 50 ms)")
}

// taken is how long something takes, the middle of three times.
func taken(do func()) time.Duration {
	took, _ := median(3, func() error { do(); return nil })
	return took
}
