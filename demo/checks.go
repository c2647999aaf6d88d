package demo

import (
	"context"
	"time"

	"pineledger/app/build"
)

// before makes the two checks that were given ahead of the fall's benchmark. They share items with it, and tell what its
// students could do already.
func (g *generator) before(ctx context.Context) error {
	g.say("two checks given earlier")
	for _, check := range []struct {
		title, short string
		weeks        int // ago
		plans        []plan
	}{
		{"Grade 6 mathematics, opening check", "Opening check", 9, []plan{{"Ratio and rate", "M6.RR", 4}, {"Numbers and place", "M6.NP", 4}, {"Expressions and equations", "M6.EX", 4}}},
		{"Grade 6 mathematics, second check", "Second check", 8, []plan{{"Ratio and rate", "M6.RR", 6}, {"Figures and space", "M6.FS", 4}, {"Data and chance", "M6.DC", 4}}},
	} {
		opens := g.monday(check.weeks).AddDate(0, 0, 2)
		g.clock = opens.AddDate(0, 0, -6)
		s, err := g.build(ctx, build.Outline{Title: check.title, ShortTitle: check.short, Subject: "mathematics", Grades: []string{"06"}, Purpose: "common formative", Language: "en",
			Instructions: "<p>Show what you can do already.</p>"}, check.plans, func(p plan) int { return p.count })
		if err != nil {
			return err
		}
		if s, err = g.seal(ctx, s, "mathematics"); err != nil {
			return err
		}
		sent, err := g.send(ctx, s, opens.AddDate(0, 0, -3), opens, opens.AddDate(0, 0, 1).Add(8*time.Hour), 30)
		if err != nil {
			return err
		}
		for i, sitting := range sent.Sittings {
			if err := g.sit(ctx, sitting, sittingStory{at: opens.Add(time.Duration(i%5+1) * time.Hour), absent: .06, done: 1, door: "closed"}); err != nil {
				return err
			}
		}
		g.at(opens.AddDate(0, 0, 2), func() error { return g.app.Take.Tick(ctx) })
		if err := g.play(); err != nil {
			return err
		}
	}
	return nil
}

// winter is the next benchmark of grade 6: its lines stand, and its cuts are being weighed.
func (g *generator) winter(ctx context.Context) error {
	plans := []plan{{"Ratio and rate", "M6.RR", 10}, {"Numbers and place", "M6.NP", 8}, {"Expressions and equations", "M6.EX", 8}, {"Figures and space", "M6.FS", 6}}
	s, err := g.build(ctx, build.Outline{Title: "Grade 6 mathematics, winter benchmark", ShortTitle: "Winter mathematics 6", Subject: "mathematics", Grades: []string{"06"},
		Purpose: "benchmark", Language: "en"}, plans, func(p plan) int { return p.count })
	if err != nil {
		return err
	}
	if s, err = g.app.Build.ChooseBands(ctx, g.district, s.Assessment.ID, s.Assessment.Version, g.bandSets["mathematics"]); err != nil {
		return err
	}
	if _, err = g.app.Build.ChooseMastery(ctx, g.district, s.Assessment.ID, s.Assessment.Version, g.mastery); err != nil {
		return err
	}
	return g.planned(ctx, s.Assessment.ID)
}

// calibrate puts the items of mathematics on one scale, by what was answered until then.
func (g *generator) calibrate(ctx context.Context) error {
	_, err := g.app.Cuts.Calibrate(ctx, g.district, "mathematics", time.Minute)
	return err
}
