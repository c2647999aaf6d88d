package demo

import (
	"context"
	"time"

	"pineledger/app/build"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/bankrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// faceToFace makes the kindergarten check that adults are recording these days:
// some children are done, one is half way, most are still to come.
func (g *generator) faceToFace(ctx context.Context) error {
	g.say("a kindergarten check, recorded face to face")
	g.clock = g.day(6, 10, 0)
	items, _, err := bankrows.Items(ctx, g.store.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Kinds: []string{string(item.Examiner)}, Sort: bankrows.NewestFirst, Limit: 50})
	if err != nil {
		return err
	}
	s, err := g.app.Build.StartAssessment(ctx, g.district, build.Outline{Title: "Kindergarten number and shape check", ShortTitle: "Number and shape", Description: "Ten things to ask, one child at a time.",
		Subject: "mathematics", Grades: []string{"KG"}, Purpose: "common formative", Language: "en"})
	if err != nil {
		return err
	}
	var lines []build.LineInput
	for i := len(items) - 1; i >= 0; i-- {
		lines = append(lines, build.LineInput{ItemID: items[i].ID, Points: points.One})
	}
	if s, err = g.app.Build.PutLines(ctx, g.district, s.Assessment.ID, s.Assessment.Version, lines); err != nil {
		return err
	}
	if s, err = g.seal(ctx, s, "mathematics"); err != nil {
		return err
	}
	opens := g.day(1, 8, 0)
	if s, err = g.send(ctx, s, g.day(4, 11, 0), opens, g.monday(0).AddDate(0, 0, 18).Add(8*time.Hour), 0); err != nil {
		return err
	}
	for i, sitting := range s.Sittings[:min(3, len(s.Sittings))] {
		if err := g.recordSome(ctx, sitting, opens.Add(time.Duration(i+1)*20*time.Minute)); err != nil {
			return err
		}
	}
	return g.play()
}

// recordSome tells a sitting in which a few children were recorded.
func (g *generator) recordSome(ctx context.Context, s giverows.Sitting, begins time.Time) error {
	teachers, err := officerows.PeopleOfSitting(ctx, g.store.Reader, s.ID, 0)
	if err != nil || len(teachers) == 0 {
		return err
	}
	teacher, err := g.app.Viewer(ctx, teachers[0].ID)
	if err != nil {
		return err
	}
	seats, err := giverows.Room(ctx, g.store.Reader, s.ID)
	if err != nil {
		return err
	}
	g.at(begins, func() error {
		_, err := g.app.Take.MoveDoor(ctx, teacher, s.ID, attempt.Open)
		return err
	})
	for i, seat := range seats[:min(4, len(seats))] {
		g.at(begins.Add(time.Duration(i+1)*4*time.Minute), func() error { return g.recordChild(ctx, teacher, s.ID, seat.StudentID, i < 3) })
	}
	return nil
}

func (g *generator) recordChild(ctx context.Context, teacher roster.Viewer, sitting, child int64, whole bool) error {
	view, err := g.app.Take.BeginRecording(ctx, teacher, sitting, child)
	if err != nil {
		return err
	}
	lines := view.Lines
	if !whole {
		lines = lines[:len(lines)/2]
	}
	for _, l := range lines {
		recorded := item.RecordedRight
		switch chance := g.r.Float64(); {
		case chance > .93:
			recorded = item.RecordedNone
		case chance > .72:
			recorded = item.RecordedWrong
		}
		if _, err := g.app.Take.RecordAnswer(ctx, teacher, sitting, child, l.Line, recorded, int64(l.Line)); err != nil {
			return err
		}
	}
	if !whole {
		return nil
	}
	_, err = g.app.Take.HandInFor(ctx, teacher, sitting, child)
	return err
}
