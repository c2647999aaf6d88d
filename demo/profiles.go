package demo

import (
	"context"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"pineledger/app/intake"
	"pineledger/app/supports"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/formats/pnp"
	"pineledger/formats/table"
	"pineledger/store/intakerows"
	"pineledger/store/officerows"
)

// shareWithSupports is how many of a hundred students have some.
const shareWithSupports = 14

// tried are students that a newcomer signs in as first: they have none, so that the usual screen comes first.
const tried = 12

// mixes are what students have together, as plans tend to have it, each on its ground. A support stands with its value.
var mixes = []struct {
	share  int // of a hundred of those with supports
	ground string
	has    []string
}{
	{26, "504 plan", []string{"extraTime 1.5", "smallGroup"}},
	{10, "504 plan", []string{"extraTime 1.5", "breaks 2"}},
	{7, "IEP", []string{"extraTime 1.5", "readAloud directions questions", "smallGroup"}},
	{6, "IEP", []string{"extraTime 2", "breaks 3", "severalDays 2", "ownRoom"}},
	{5, "IEP", []string{"readAloud all", "lineReader", "smallGroup"}},
	{14, "English learner", []string{"language es", "extraTime 1.5", "glossary"}},
	{6, "English learner", []string{"directions es", "wordList", "extraTime 1.5"}},
	{4, "English learner", []string{"directions so", "glossary"}},
	{5, "504 plan", []string{"breaks 2", "seat near the door"}},
	{4, "504 plan", []string{"largePrint 2", "zoom", "colors dark-on-yellow"}},
	{3, "IEP", []string{"largeBooklet", "extraTime 1.5"}},
	{3, "IEP", []string{"calculator basic", "timesTable", "extraTime 1.5"}},
	{3, "IEP", []string{"masking", "answerMasking", "lessMotion", "ownRoom"}},
	{2, "IEP", []string{"scribe", "ownRoom"}},
	{1, "IEP", []string{"switchOrKeys two", "extraTime 2", "oneItem"}},
	{1, "IEP", []string{"adultReads directions questions", "ownRoom"}},
}

// profiles brings the district's accommodations, as a file that its office made of its plans.
func (g *generator) profiles(ctx context.Context, dir string) error {
	g.clock = g.day(58, 13, 20)
	known, err := intakerows.KnownBy(ctx, g.store.Reader, "person")
	if err != nil {
		return err
	}
	free, err := officerows.PeopleToTry(ctx, g.store.Reader, roster.Student, tried)
	if err != nil {
		return err
	}
	var ids []string
	for id, k := range known {
		if strings.HasPrefix(id, "st-") && !slices.ContainsFunc(free, func(p officerows.SignInPerson) bool { return p.ID == k.ID }) {
			ids = append(ids, id)
		}
	}
	slices.Sort(ids)
	path, err := g.writeProfiles(dir, ids)
	if err != nil {
		return err
	}
	return g.take(ctx, g.district, intake.ImportProfiles, path)
}

func (g *generator) writeProfiles(dir string, ids []string) (string, error) {
	r := rand.New(rand.NewPCG(14, 2026)) // of its own: the rest of the district stays as it is
	began := g.day(57, 8, 0).Format(time.DateOnly)
	var rows [][]string
	for _, id := range ids {
		if r.IntN(100) >= shareWithSupports {
			continue
		}
		at := r.IntN(100)
		for _, m := range mixes {
			if at -= m.share; at >= 0 {
				continue
			}
			for _, has := range m.has {
				key, value, _ := strings.Cut(has, " ")
				rows = append(rows, []string{id, key, value, m.ground, "", began, ""})
			}
			break
		}
	}
	// Two whose arms are in plaster: one until next week, one whose plaster came off.
	for i, days := range []int{-9, 12} {
		id := ids[len(ids)*(i+1)/3]
		rows = append(rows, []string{id, support.Scribe, "", "Temporary", "", g.now.AddDate(0, 0, -12-days).Format(time.DateOnly), g.now.AddDate(0, 0, -days).Format(time.DateOnly)})
	}
	path := filepath.Join(dir, "accommodations.csv")
	file, err := os.OpenFile(path, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return "", err
	}
	defer file.Close()
	return path, table.Write(file, pnp.Head, rows)
}

// provided is what the schools have seen to for the reading benchmark: most of it, not all.
func (g *generator) provided(ctx context.Context, assessment int64) error {
	m, err := g.app.Supports.Matrix(ctx, g.district, assessment, supports.MatrixFilter{})
	if err != nil {
		return err
	}
	people := []string{"Noor Haddad", "Per Ek", "Lina Osei", "Ruta Kalnins", "Sam Whitford"}
	for i, p := range m.Places {
		if i%4 == 3 {
			continue
		}
		who := people[i%len(people)]
		if p.Key == support.LargeBooklet || p.Key == support.PaperBooklet || p.Key == support.WordList {
			who = "in the office"
		}
		if _, err := g.app.Supports.Provide(ctx, g.district, assessment, supports.Provider{SectionID: p.SectionID, Key: p.Key, Provider: who, Number: p.Need}); err != nil {
			return err
		}
	}
	return nil
}
