package demo

import (
	"context"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"os"
	"path/filepath"
	"time"

	"pineledger/app"
	"pineledger/app/build"
	"pineledger/app/intake"
	"pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/takerows"
)

// Hall fills an empty store with one section of any number of students, all of
// whom have begun the same form of so many lines: for measuring, and for tests of
// what happens when many work at once. It gives their attempts in a map by
// person. It needs write access to dir.
func Hall(ctx context.Context, s *store.Store, secret []byte, dir string, students, lines int) (map[int64]int64, error) {
	attempts, _, err := HallWith(ctx, s, secret, dir, students, 0, lines)
	return attempts, err
}

// HallWith is Hall with some more students who have not begun yet: it gives them, too, and their sitting.
func HallWith(ctx context.Context, s *store.Store, secret []byte, dir string, students, more, lines int) (attempts map[int64]int64, waiting Waiting, err error) {
	g := &generator{store: s, r: rand.New(rand.NewPCG(1, 1)), now: time.Now().UTC(), clock: time.Now(), items: map[string]draftItem{}, bandSets: map[string]int64{}}
	g.app, err = app.New(ctx, app.Config{Store: s, Secret: secret, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		return nil, waiting, err
	}
	if err := g.hallFiles(ctx, dir, students+more); err != nil {
		return nil, waiting, err
	}
	g.district = System
	sheet, err := g.app.Build.StartAssessment(ctx, System, build.Outline{Title: "Hall", Subject: "mathematics", Grades: []string{"06"}, Purpose: "practice", Language: "en"})
	if err != nil {
		return nil, waiting, err
	}
	var in []build.LineInput
	chosen, err := g.choose(ctx, "M6", lines)
	if err != nil {
		return nil, waiting, err
	}
	for _, id := range chosen {
		in = append(in, build.LineInput{ItemID: id, Points: points.One})
	}
	if sheet, err = g.app.Build.PutLines(ctx, System, sheet.Assessment.ID, sheet.Assessment.Version, in); err != nil {
		return nil, waiting, err
	}
	if err := g.bands(ctx); err != nil {
		return nil, waiting, err
	}
	if sheet, err = g.seal(ctx, sheet, "mathematics"); err != nil {
		return nil, waiting, err
	}
	if sheet, err = g.send(ctx, sheet, g.now, g.now.Add(-time.Hour), g.now.AddDate(0, 0, 2), 0); err != nil {
		return nil, waiting, err
	}
	return g.begin(ctx, sheet.Sittings[0], students)
}

// Waiting are students who have yet to begin at a sitting whose door is open.
type Waiting struct {
	SittingID int64
	Students  []int64
}

func (g *generator) hallFiles(ctx context.Context, dir string, students int) error {
	files, err := writeStandards(dir)
	if err != nil {
		return err
	}
	for _, path := range files {
		if err := g.take(ctx, System, intake.ImportStandards, path); err != nil {
			return err
		}
	}
	f := &rosterFile{r: g.r, given: names("given"), family: names("family"), used: map[string]bool{}}
	f.begin()
	f.course("06")
	f.oneSection("hall", "06", "math", "Hall", f.students("hall", "06", students))
	path, err := f.write(dir, [][]string{orgsHead, {"tbu", "", "", "Tamarack Bay Unified District", "district", "", ""}, {"hall", "", "", "Hall", "school", "", "tbu"}}, [][]string{sessionsHead, {"year", "", "", "School year 2026–27", "schoolYear", "2026-08-24", "2027-06-11", "", "2027"}})
	if err != nil {
		return err
	}
	if err := g.take(ctx, System, intake.ImportRoster, path); err != nil {
		return err
	}
	if err := g.store.Write(ctx, func(tx *store.Tx) error { return officerows.SetTimeZone(ctx, tx, "UTC") }); err != nil {
		return err
	}
	bank := mathItems(g.r)
	for _, it := range bank {
		g.items[it.identifier] = it
	}
	if path, err = writeItems(dir, g.r, bank); err != nil {
		return err
	}
	return g.take(ctx, System, intake.ImportItems, path)
}

// begin opens the door and lets the first students begin.
func (g *generator) begin(ctx context.Context, s giverows.Sitting, students int) (map[int64]int64, Waiting, error) {
	waiting := Waiting{SittingID: s.ID}
	room, err := g.app.Take.MoveDoor(ctx, System, s.ID, attempt.Open)
	if err != nil {
		return nil, waiting, err
	}
	out := map[int64]int64{}
	err = g.store.Write(ctx, func(tx *store.Tx) error {
		for _, seat := range room.Seats[:students] {
			id, _, err := takerows.Begin(ctx, tx, s.ID, seat.StudentID, s.FormID, 1, attempt.NewTerms(s.Setup.V, nil), time.Now())
			if err != nil {
				return err
			}
			out[seat.StudentID] = id
		}
		return nil
	})
	for _, seat := range room.Seats[students:] {
		waiting.Students = append(waiting.Students, seat.StudentID)
	}
	return out, waiting, err
}

// ScoreAll lets every student of a hall answer as students do and hand in.
func ScoreAll(ctx context.Context, s *store.Store, secret []byte, attempts map[int64]int64) error {
	a, err := app.New(ctx, app.Config{Store: s, Secret: secret, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		return err
	}
	r := rand.New(rand.NewPCG(2, 2))
	for person, id := range attempts {
		v := roster.Viewer{PersonID: person, Posts: []roster.Post{{Role: roster.Student}}}
		row, err := takerows.AttemptByID(ctx, s.Reader, id)
		if err != nil {
			return err
		}
		view, err := a.Take.Begin(ctx, v, row.SittingID, take.Entry{})
		if err != nil {
			return err
		}
		var answers []take.Answered
		for _, l := range view.Lines {
			answers = append(answers, take.Answered{Line: l.Line, Number: 1, Response: anyResponse(r, l)})
		}
		if _, err := a.Take.SaveAnswers(ctx, v, id, "", answers); err != nil {
			return err
		}
		if _, err := a.Take.HandIn(ctx, v, id); err != nil {
			return err
		}
	}
	return nil
}

// anyResponse answers by chance.
func anyResponse(r *rand.Rand, l take.TakeLine) map[string][]string {
	for _, b := range l.Item.Body {
		if b.Interaction == nil {
			continue
		}
		if choices := b.Interaction.Choices; len(choices) > 0 {
			return map[string][]string{b.Interaction.Response: {choices[r.IntN(len(choices))].ID}}
		}
		return map[string][]string{b.Interaction.Response: {num(between(r, 1, 60))}}
	}
	return nil
}

// WriteRoster writes a roster file of about so many students and gives its path.
func WriteRoster(dir string, students int) (string, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", err
	}
	return writeRoster(dir, rand.New(rand.NewPCG(3, 3)), students, 2027)
}

// WriteManyItems writes an items file with so many items, made by chance from the
// templates, and the standards that it needs beside it.
func WriteManyItems(dir string, n int) (standards []string, items string, err error) {
	if standards, err = writeStandards(dir); err != nil {
		return nil, "", err
	}
	r := rand.New(rand.NewPCG(4, 4))
	var bank []draftItem
	for i := range n {
		t := templates[i%len(templates)]
		it := t.make(r)
		for tries := 0; !sound(it) && tries < 100; tries++ {
			it = t.make(r)
		}
		if !sound(it) {
			continue
		}
		it.standard, it.depth, it.subject, it.grade, it.p = t.standard, t.depth, "mathematics", gradeOf(t.standard), .2+.7*r.Float64()
		it.identifier, it.tags = fmt.Sprintf("N-%06d", i), []string{fmt.Sprint("bench-", r.IntN(30))}
		bank = append(bank, it)
	}
	items, err = writeItems(dir, r, bank)
	return standards, filepath.Clean(items), err
}
