package band_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/band"
	"pineledger/core/points"
)

func TestTheNearestSetIsTheMostParticularThatFits(t *testing.T) {
	want := band.Scope{Subject: "mathematics", Grades: []string{"06", "07"}, Course: "", Year: "2026–27", Purpose: "benchmark"}
	for name, c := range map[string]struct {
		set band.Scope
		is  band.Match
	}{
		"for everything":           {band.Scope{}, band.Match{Fits: true, Why: "for any"}},
		"the subject":              {band.Scope{Subject: "mathematics"}, band.Match{Fits: true, How: 1, Why: "for mathematics"}},
		"another subject":          {band.Scope{Subject: "reading", Year: "2026–27"}, band.Match{}},
		"one of the grades":        {band.Scope{Grades: []string{"05", "06"}}, band.Match{Fits: true, How: 2, Why: "for grade 6"}},
		"both grades":              {band.Scope{Grades: []string{"06", "07", "08"}}, band.Match{Fits: true, How: 2, Why: "for grades 6, 7"}},
		"other grades":             {band.Scope{Subject: "mathematics", Grades: []string{"03"}}, band.Match{}},
		"another year":             {band.Scope{Year: "2025–26"}, band.Match{}},
		"a course nobody asks for": {band.Scope{Course: "Algebra"}, band.Match{}},
		"this year":                {band.Scope{Subject: "mathematics", Year: "2026–27"}, band.Match{Fits: true, How: 9, Why: "for mathematics, 2026–27"}},
		"this purpose":             {band.Scope{Purpose: "benchmark"}, band.Match{Fits: true, How: 16, Why: "for benchmark"}},
		"all but the purpose":      {band.Scope{Subject: "mathematics", Grades: []string{"06"}, Year: "2026–27"}, band.Match{Fits: true, How: 11, Why: "for mathematics, grade 6, 2026–27"}},
	} {
		assert.Equal(t, c.is, c.set.For(want), name)
	}
}

func TestWhatANewerVersionWouldChange(t *testing.T) {
	at := func(name string, cut band.Cut) band.Band { return band.Band{Name: name, Cut: cut} }
	raw := func(p, of points.Points) band.Cut { return band.Cut{Raw: &p, Of: &of} }
	before := []band.Band{at("Launching", band.Cut{}), at("Underway", percent(4300)), at("On course", raw(2400, 3800))}
	for name, c := range map[string]struct {
		after []band.Band
		says  string
	}{
		"nothing":       {before, "[]"},
		"a cut":         {[]band.Band{before[0], at("Underway", percent(4550)), before[2]}, "[Underway begins at 45.5% instead of 43%.]"},
		"what it is in": {[]band.Band{before[0], before[1], at("On course", percent(6300))}, "[On course begins at 63% instead of 24 of 38 points.]"},
		"the total":     {[]band.Band{before[0], before[1], at("On course", raw(2400, 4000))}, "[On course begins at 24 of 40 points instead of 24 of 38 points.]"},
		"a band more":   {append(before[:3:3], at("Beyond", percent(8600))), "[Beyond is new, from 86%.]"},
		"a band less":   {before[:2], "[On course is gone.]"},
		"the order":     {[]band.Band{before[0], before[2], before[1]}, "[The bands stand in another order.]"},
	} {
		assert.Equal(t, c.says, fmt.Sprint(band.Changes(before, c.after)), name)
	}
}
