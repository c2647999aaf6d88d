package demo

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"

	"pineledger/app/intake"
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
	return g.take(ctx, g.district, intake.ImportTables, path)
}
