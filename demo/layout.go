package demo

import (
	"context"

	"pineledger/app/build"
	"pineledger/core/form"
	"pineledger/core/points"
)

// twoParts makes a draft with a part by hand and one with a calculator, in which each
// student gets four of the last six lines.
func (g *generator) twoParts(ctx context.Context) error {
	plans := []plan{{"Numbers and place", "M6.NP", 4}, {"Ratio and rate", "M6.RR", 6}}
	placed := map[string]int{"M6.NP": 4, "M6.RR": 8}
	s, err := g.build(ctx, build.Outline{Title: "Grade 6 mathematics, ratio quiz", ShortTitle: "Ratio quiz", Subject: "mathematics", Grades: []string{"06"},
		Description: "By hand, then with a calculator. No two neighbors get the same four ratios.", Purpose: "common formative", Language: "en"},
		plans, func(p plan) int { return placed[p.standard] })
	if err != nil {
		return err
	}
	layout := form.Layout{Pools: []form.Pool{{Title: "Ratios at the harbor", Choose: 4}}, Parts: []form.Part{
		{Title: "By hand", Directions: "<p>Work these on paper first. Put your calculator away.</p>"},
		{Title: "With a calculator", Directions: "<p>You may use the calculator on your screen now.</p>", Calculator: true}}}
	var lines []build.LineInput
	for i, l := range s.Lines {
		in := build.LineInput{ItemID: l.ItemID, Points: points.Points(l.Points), Part: 1}
		if i >= 4 {
			in.Part = 2
		}
		if i >= 6 {
			in.Pool, in.Points = 1, 2*points.One
		}
		lines = append(lines, in)
	}
	_, err = g.app.Build.PutLayout(ctx, g.district, s.Assessment.ID, s.Assessment.Version, lines, layout)
	return err
}
