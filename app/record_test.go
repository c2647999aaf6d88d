package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app"
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/blueprint"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/store"
)

func (w *world) entries() []ledger.Entry {
	w.Helper()
	list, err := w.app.Ledger(w.ctx, w.coordinator, app.LedgerQuery{Limit: 500})
	require.NoError(w, err)
	return list
}

// Each write of consequence leaves one entry that says who did what to which
// thing; what is refused leaves none.
func TestEveryWriteLeavesOneEntry(t *testing.T) {
	w := newWorld(t)
	half := points.Points(5000)
	bands := app.BandSetInput{Name: "Bands", Bands: []band.Band{{Name: "Launching"}, {Name: "On course", Cut: band.Cut{Percent: &half}}}}
	var s app.Sheet
	var set store.BandSet
	var view app.DistributionView
	var err error
	id := func() int64 { return s.Assessment.ID }
	version := func() int { return s.Assessment.Version }
	sitting := func() store.Sitting { return w.sittingOf(w.teacher) }
	var take app.TakeView

	steps := []struct {
		act, actor string
		do         func() error
	}{
		{"person.sign-in", "Ines Okafor", func() error { _, err := w.app.SignInStaff(w.ctx, "ines@x.example", "a long password"); return err }},
		{"assessment.start", "Ines Okafor", func() error {
			s, err = w.app.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
			return err
		}},
		{"assessment.outline", "Tomás Lindqvist", func() error {
			s, err = w.app.PutOutline(w.ctx, w.second, id(), version(), outline("Fall benchmark"))
			return err
		}},
		{"assessment.blueprint", "Ines Okafor", func() error {
			s, err = w.app.PutBlueprint(w.ctx, w.coordinator, id(), version(), []app.RowInput{{Title: "Ratio", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Max: points.One}})
			return err
		}},
		{"assessment.lines", "Ines Okafor", func() error {
			s, err = w.app.PutLines(w.ctx, w.coordinator, id(), version(), []app.LineInput{{ItemID: 1, Points: points.One}, {ItemID: 2, Points: 2 * points.One}})
			return err
		}},
		{"bandSet.add", "Ines Okafor", func() error {
			set, err = w.app.PutBandSet(w.ctx, w.coordinator, 0, bands)
			return err
		}},
		{"bandSet.change", "Tomás Lindqvist", func() error {
			changed := bands
			changed.Version, changed.Name = set.Version, "Calder bands"
			set, err = w.app.PutBandSet(w.ctx, w.second, set.ID, changed)
			return err
		}},
		{"assessment.bands", "Ines Okafor", func() error {
			s, err = w.app.ChooseBands(w.ctx, w.coordinator, id(), version(), set.ID)
			return err
		}},
		{"assessment.seal", "Ines Okafor", func() error {
			s, err = w.app.Seal(w.ctx, w.coordinator, id(), version())
			return err
		}},
		{"distribution.send", "Ines Okafor", func() error {
			view, err = w.app.Distribution(w.ctx, w.coordinator, id())
			require.NoError(t, err)
			view, err = w.app.PutDistribution(w.ctx, w.coordinator, id(), app.DistributionInput{Opens: "2026-10-13T08:00", Closes: "2026-10-16T16:00", Sections: []int64{view.Candidates[0].ID, view.Candidates[1].ID}})
			require.NoError(t, err)
			s, err = w.app.Send(w.ctx, w.coordinator, id(), view.Distribution.Version, nil)
			w.now = w.now.Add(time.Hour)
			return err
		}},
		{"door.open", "Vesna Dlamini", func() error {
			_, err := w.app.MoveDoor(w.ctx, w.teacher, sitting().ID, attempt.Open)
			return err
		}},
		{"attempt.begin", "Mei Sato", func() error {
			take, err = w.app.Begin(w.ctx, w.student, sitting().ID)
			return err
		}},
		{"attempt.hand-in", "Mei Sato", func() error { _, err := w.app.HandIn(w.ctx, w.student, take.Attempt.ID); return err }},
		{"door.paused", "Vesna Dlamini", func() error {
			_, err := w.app.MoveDoor(w.ctx, w.teacher, sitting().ID, attempt.Held)
			return err
		}},
		{"door.closed", "Vesna Dlamini", func() error {
			_, err := w.app.MoveDoor(w.ctx, w.teacher, sitting().ID, attempt.Closed)
			return err
		}},
	}
	for _, step := range steps {
		before := w.entries()
		require.NoError(t, step.do(), step.act)
		after := w.entries()
		if !assert.Len(t, after, len(before)+1, step.act) {
			continue
		}
		e := after[0]
		assert.Equal(t, step.act, e.Act)
		assert.Equal(t, step.actor, e.Actor, step.act)
		assert.NotZero(t, e.ThingID, step.act)
		assert.NotEmpty(t, e.Title, step.act)
		assert.NotEqual(t, e.Act, app.Spoken(e.Act), "%s has words", step.act)
		assert.WithinDuration(t, w.now, e.At, 2*time.Hour, step.act)
	}

	before := len(w.entries())
	for name, refused := range map[string]func() error{
		"stale lines": func() error { _, err := w.app.PutLines(w.ctx, w.coordinator, id(), 1, nil); return err },
		"a sealed outline": func() error {
			_, err := w.app.PutOutline(w.ctx, w.coordinator, id(), version(), outline("x"))
			return err
		},
		"no right": func() error { _, err := w.app.StartAssessment(w.ctx, w.teacher, outline("x")); return err },
		"bad cuts": func() error {
			_, err := w.app.PutBandSet(w.ctx, w.coordinator, 0, app.BandSetInput{Name: "x"})
			return err
		},
		"a wrong password":    func() error { _, err := w.app.SignInStaff(w.ctx, "ines@x.example", "no"); return err },
		"a door that is shut": func() error { _, err := w.app.Begin(w.ctx, w.person("Noor"), sitting().ID); return err },
	} {
		assert.Error(t, refused(), name)
	}
	assert.Len(t, w.entries(), before, "what is refused is not recorded as done")

	verified, err := w.app.Verify(w.ctx)
	require.NoError(t, err)
	assert.EqualValues(t, before, verified.Entries)
	assert.Equal(t, 1, verified.Forms)
}

// Whoever holds the file can write past the program; verify finds it.
func TestVerifyFindsWhatWasTamperedWith(t *testing.T) {
	for name, tamper := range map[string][]string{
		"an entry changed":      {"DROP TRIGGER ledger_no_change", "UPDATE ledger SET actor = 'Somebody' WHERE number = 5"},
		"an entry taken out":    {"DROP TRIGGER ledger_no_removal", "DELETE FROM ledger WHERE number = 5"},
		"a sealed form changed": {"DROP TRIGGER form_is_sealed", "UPDATE form SET document = replace(document, 'Fall', 'Fell')"},
		"a form taken out":      {"PRAGMA foreign_keys = 0", "DELETE FROM form"},
	} {
		t.Run(name, func(t *testing.T) {
			w := newWorld(t)
			w.sealed()
			_, err := w.app.Verify(w.ctx)
			require.NoError(t, err)
			for _, statement := range tamper {
				_, err := w.store.SessionDB().ExecContext(w.ctx, statement)
				require.NoError(t, err, statement)
			}
			_, err = w.app.Verify(w.ctx)
			assert.Error(t, err)
		})
	}
}

// Changing a form and its fingerprint together is not enough: the ledger kept it.
func TestAFormSealedAnewBehindTheLedgerIsFound(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	document := strings.Replace(s.Form.Document, "Fall", "Fell", 1)
	require.NotEqual(t, s.Form.Document, document)
	fingerprint, err := ledger.Fingerprint([]byte(document))
	require.NoError(t, err)
	_, err = w.store.SessionDB().ExecContext(w.ctx, "DROP TRIGGER form_is_sealed")
	require.NoError(t, err)
	_, err = w.store.SessionDB().ExecContext(w.ctx, "UPDATE form SET document = ?, fingerprint = ?", document, fingerprint)
	require.NoError(t, err)
	_, err = w.app.Verify(w.ctx)
	assert.ErrorContains(t, err, "not the one it was sealed with")
}
