package demo

import (
	"context"
	"math"
	"math/rand/v2"
	"time"

	"pineledger/app/panels"
	"pineledger/core/panel"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

// panels tells of two panels of judges: one of eight that set cuts on the fall's benchmark, and one that is in its second round. They
// draw by themselves, so that the rest of the district stays as it is without them.
func (g *generator) panels(ctx context.Context) error {
	judges, err := g.judges(ctx, 11)
	if err != nil {
		return err
	}
	r := rand.New(rand.NewPCG(7, 2026))
	eight, three := judges[:8], judges[8:]
	var first, second int64
	begun := g.day(24, 15, 0)
	g.at(begun, func() (err error) {
		first, err = g.panel(ctx, "Grade 6 mathematics, fall benchmark", panel.ByRatings, eight)
		return err
	})
	for round, hours := range []int{1, 2, 26} { // training, and two rounds
		g.at(begun.Add(time.Duration(hours)*time.Hour), func() error { return g.round(ctx, r, first, round, eight, len(eight)) })
	}
	g.at(begun.Add(28*time.Hour), func() error {
		_, err := g.app.Panels.End(ctx, g.district, first, true)
		return err
	})
	begun = g.day(3, 15, 0)
	g.at(begun, func() (err error) {
		second, err = g.panel(ctx, "Grade 6 mathematics, second check", panel.ByMarks, three)
		return err
	})
	g.at(begun.Add(time.Hour), func() error { return g.round(ctx, r, second, 1, three, len(three)) })
	g.at(begun.Add(20*time.Hour), func() error { return g.round(ctx, r, second, 2, three, 1) })
	return nil
}

// judges are teachers of schools here and there. The last one is a teacher whom the sign-in page offers.
func (g *generator) judges(ctx context.Context, n int) ([]roster.Viewer, error) {
	people, err := officerows.PeopleToTry(ctx, g.store.Reader, roster.Teacher, 400)
	if err != nil {
		return nil, err
	}
	out := make([]roster.Viewer, n)
	for i := range out {
		if out[n-1-i], err = g.app.Viewer(ctx, people[i*len(people)/n].ID); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// panel begins one for an assessment by its title.
func (g *generator) panel(ctx context.Context, title string, method panel.Method, judges []roster.Viewer) (int64, error) {
	listed, err := g.app.Build.Listed(ctx, g.district, buildrows.AssessmentFilter{Words: title, Limit: 1})
	if err != nil {
		return 0, err
	}
	in := panels.Beginning{Assessment: listed[0].ID, Method: method}
	for _, j := range judges {
		in.Judges = append(in.Judges, j.PersonID)
	}
	p, err := g.app.Panels.Begin(ctx, g.district, in)
	return p.ID, err
}

// round lets the first of the judges be done with the next round, and one more begin. With all done it is closed and its feedback opened.
// Round 0 is the training.
func (g *generator) round(ctx context.Context, r *rand.Rand, id int64, round int, judges []roster.Viewer, done int) error {
	p, err := g.app.Panels.OpenRound(ctx, g.district, id, round == 0)
	if err != nil {
		return err
	}
	number := len(p.Rounds)
	for i, j := range judges[:min(len(judges), done+1)] {
		g.clock = g.clock.Add(4 * time.Minute)
		asked, err := g.app.Panels.Asked(ctx, j, id)
		if err != nil {
			return err
		}
		given := judged(r, asked, float64(i%4)*.15-.2, .2/float64(1+round))
		if i >= done { // still at it
			given = given[:len(given)/2]
		}
		if err := g.app.Panels.Give(ctx, j, id, number, given); err != nil {
			return err
		}
		if i == 1 && round > 0 {
			if err := g.app.Panels.PutNote(ctx, j, id, 3, "Two steps, and the second is easy to forget."); err != nil {
				return err
			}
		}
		if i < done {
			if err := g.app.Panels.PutDone(ctx, j, id, number, true); err != nil {
				return err
			}
		}
	}
	if done < len(judges) {
		return nil
	}
	for _, to := range []panels.Move{panels.CloseIt, panels.Feedback} {
		if _, err := g.app.Panels.MoveRound(ctx, g.district, id, number, to); err != nil {
			return err
		}
	}
	return nil
}

// judged is what a judge gives: what students at each cut would earn, more or less, by a judge who is so severe.
func judged(r *rand.Rand, asked panels.Asked, severe, noise float64) (given []panels.Given) {
	for c := range asked.Cuts {
		at := -0.4 + 0.9*float64(c)
		if asked.Method == panel.ByMarks {
			place := 1
			for i, e := range asked.Booklet {
				if e.Location <= at-severe+noise*r.NormFloat64() {
					place = i + 1
				}
			}
			given = append(given, panels.Given{Cut: c, Value: place})
			continue
		}
		for l, line := range asked.Lines {
			hard := 0.0
			if line.Difficulty != nil {
				hard = 0.6 - float64(*line.Difficulty)/1000
			}
			share := 1 / (1 + math.Exp(2*hard-at-severe-noise*r.NormFloat64()))
			given = append(given, panels.Given{Cut: c, Line: l, Value: min(100, max(0, int(math.Round(20*share))*5))})
		}
	}
	return given
}
