package demo

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"

	"pineledger/app/intake"
	"pineledger/core/points"
	"pineledger/formats/table"
)

// officialYears are the school years of which the state has published tables, each with the shares of the points at which its
// bands begin. The cuts moved once, two years ago.
var officialYears = []struct {
	year  int // counted from the demo's own
	shift float64
}{{-3, -.03}, {-2, 0}, {-1, 0}}

// officialShares are where bands begin, as shares of a test's points.
var officialShares = map[string][]float64{"mathematics": {.43, .63, .86}, "reading": {.45, .65, .85}}

// officialPoints is what the state's test of a grade is worth.
var officialPoints = map[int]int{3: 40, 4: 42, 5: 42, 6: 44, 7: 46, 8: 48}

// official writes what the state of Calder publishes and takes it in.
func (g *generator) official(ctx context.Context, dir string, year int) error {
	var rows [][]string
	for _, y := range officialYears {
		began := year - 1 + y.year
		for _, subject := range []string{"Mathematics", "Reading"} {
			for grade := 3; grade <= 8; grade++ {
				most := officialPoints[grade]
				for raw := range most + 1 {
					at := 0
					for _, share := range officialShares[strings.ToLower(subject)] {
						if raw >= int(math.Ceil((share+y.shift)*float64(most))) {
							at++
						}
					}
					scale := 200*grade + 160*raw/most
					rows = append(rows, []string{subject, fmt.Sprint(grade), fmt.Sprintf("%d–%02d", began, (began+1)%100), fmt.Sprint(raw), fmt.Sprint(scale), bandNames[at]})
				}
			}
		}
	}
	path := filepath.Join(dir, "calder-raw-to-scale.csv")
	file, err := os.Create(path)
	if err != nil {
		return err
	}
	if err := table.Write(file, []string{"Subject", "Grade", "School year", "Raw score", "Scale score", "Performance level"}, rows); err != nil {
		return err
	}
	if err := file.Close(); err != nil {
		return err
	}
	if err := g.take(ctx, g.district, intake.ImportTables, path); err != nil {
		return err
	}
	return g.winterScale(ctx, dir, year)
}

// winterScale is the district's own scale for the winter's benchmark of grade 6, whose scores move in fifths of a point.
func (g *generator) winterScale(ctx context.Context, dir string, year int) error {
	const most, fifths = 32, 5
	var rows [][]string
	for raw := range most*fifths + 1 {
		share := float64(raw) / (most * fifths)
		scale := 600 + int(math.Round(100*share+20*(share-.5)*math.Abs(share-.5)))
		rows = append(rows, []string{"Winter benchmark", "Mathematics", "6", fmt.Sprintf("%d–%02d", year-1, year%100), points.Points(raw * 100 / fifths).String(), fmt.Sprint(scale)})
	}
	path := filepath.Join(dir, "winter-scale.csv")
	file, err := os.Create(path)
	if err != nil {
		return err
	}
	if err := table.Write(file, []string{"Test", "Subject", "Grade", "School year", "Raw score", "Scale score"}, rows); err != nil {
		return err
	}
	if err := file.Close(); err != nil {
		return err
	}
	return g.take(ctx, g.district, intake.ImportTables, path)
}
