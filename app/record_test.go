package app_test

import (
	"bytes"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/record"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/blueprint"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

func (w *world) entries() []ledger.Entry {
	w.Helper()
	list, err := w.app.Record.Ledger(w.ctx, w.coordinator, record.LedgerQuery{Limit: 500})
	require.NoError(w, err)
	return list
}

// Each write of consequence leaves one entry that says who did what to which
// thing; what is refused leaves none.
func TestEveryWriteLeavesOneEntry(t *testing.T) {
	w := newWorld(t)
	half := points.Points(5000)
	bands := build.BandSetInput{Name: "Bands", Bands: []band.Band{{Name: "Launching"}, {Name: "On course", Cut: band.Cut{Percent: &half}}}}
	var s build.Sheet
	var set buildrows.BandSet
	var view give.DistributionView
	var err error
	id := func() int64 { return s.Assessment.ID }
	version := func() int { return s.Assessment.Version }
	sitting := func() giverows.Sitting { return w.sittingOf(w.teacher) }
	var take takeroom.TakeView

	steps := []struct {
		act, actor string
		do         func() error
	}{
		{"person.sign-in", "Ines Okafor", func() error {
			_, err := w.app.Office.SignInStaff(w.ctx, "ines@x.example", "a long password")
			return err
		}},
		{"assessment.start", "Ines Okafor", func() error {
			s, err = w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
			return err
		}},
		{"assessment.outline", "Tomás Lindqvist", func() error {
			s, err = w.app.Build.PutOutline(w.ctx, w.second, id(), version(), outline("Fall benchmark"))
			return err
		}},
		{"assessment.blueprint", "Ines Okafor", func() error {
			s, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, id(), version(), []build.RowInput{{Title: "Ratio", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Max: points.One}})
			return err
		}},
		{"assessment.lines", "Ines Okafor", func() error {
			s, err = w.app.Build.PutLines(w.ctx, w.coordinator, id(), version(), []build.LineInput{{ItemID: 1, Points: points.One}, {ItemID: 2, Points: 2 * points.One}})
			return err
		}},
		{"bandSet.add", "Ines Okafor", func() error {
			set, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, bands)
			return err
		}},
		{"bandSet.change", "Tomás Lindqvist", func() error {
			changed := bands
			changed.Version, changed.Name = set.Version, "Calder bands"
			set, err = w.app.Plans.PutBandSet(w.ctx, w.second, set.ID, changed)
			return err
		}},
		{"assessment.bands", "Ines Okafor", func() error {
			s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, id(), version(), set.ID)
			return err
		}},
		{"assessment.seal", "Ines Okafor", func() error {
			s, err = w.app.Build.Seal(w.ctx, w.coordinator, id(), version())
			return err
		}},
		{"distribution.send", "Ines Okafor", func() error {
			view, err = w.app.Give.Distribution(w.ctx, w.coordinator, id())
			require.NoError(t, err)
			view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, id(), give.DistributionInput{Waves: give.OneWave("2026-10-13T08:00", "2026-10-16T16:00"), Whom: roster.ToSections(view.Candidates[0].ID, view.Candidates[1].ID)})
			require.NoError(t, err)
			s, err = w.app.Give.Send(w.ctx, w.coordinator, id(), view.Distribution.Version, nil)
			w.now = w.now.Add(time.Hour)
			return err
		}},
		{"door.open", "Vesna Dlamini", func() error {
			_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting().ID, attempt.Open)
			return err
		}},
		{"attempt.begin", "Mei Sato", func() error {
			take, err = w.app.Take.Begin(w.ctx, w.student, sitting().ID, takeroom.Entry{})
			return err
		}},
		{"attempt.hand-in", "Mei Sato", func() error { _, err := w.app.Take.HandIn(w.ctx, w.student, take.Attempt.ID); return err }},
		{"door.paused", "Vesna Dlamini", func() error {
			_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting().ID, attempt.Held)
			return err
		}},
		{"door.closed", "Vesna Dlamini", func() error {
			_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting().ID, attempt.Closed)
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
		assert.NotEqual(t, e.Act, desk.Spoken(e.Act), "%s has words", step.act)
		assert.WithinDuration(t, w.now, e.At, 2*time.Hour, step.act)
	}

	before := len(w.entries())
	for name, refused := range map[string]func() error{
		"stale lines": func() error { _, err := w.app.Build.PutLines(w.ctx, w.coordinator, id(), 1, nil); return err },
		"a sealed outline": func() error {
			_, err := w.app.Build.PutOutline(w.ctx, w.coordinator, id(), version(), outline("x"))
			return err
		},
		"no right": func() error { _, err := w.app.Build.StartAssessment(w.ctx, w.teacher, outline("x")); return err },
		"bad cuts": func() error {
			_, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, build.BandSetInput{Name: "x"})
			return err
		},
		"a wrong password": func() error { _, err := w.app.Office.SignInStaff(w.ctx, "ines@x.example", "no"); return err },
		"a door that is shut": func() error {
			_, err := w.app.Take.Begin(w.ctx, w.person("Noor"), sitting().ID, takeroom.Entry{})
			return err
		},
	} {
		assert.Error(t, refused(), name)
	}
	after := w.entries()
	assert.Len(t, after, before+1, "what is refused is not recorded as done")
	assert.Equal(t, "person.wrong-try", after[0].Act, "but a wrong password is written down")

	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	verified, err := w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
	assert.EqualValues(t, before+1, verified.Entries)
	assert.Equal(t, 1, verified.Forms)
}

// Whoever holds the file can write past the program; verify finds it.
func TestVerifyFindsWhatWasTamperedWith(t *testing.T) {
	for name, c := range map[string]struct {
		tamper []string
		want   string
	}{
		"an entry changed":          {[]string{"DROP TRIGGER ledger_no_change", "UPDATE ledger SET actor = 'Somebody' WHERE number = 5"}, "ledger entry 5: does not match its hash"},
		"the last entry changed":    {[]string{"DROP TRIGGER ledger_no_change", "UPDATE ledger SET actor = 'Somebody' WHERE number = (SELECT MAX(number) FROM ledger)"}, "does not match its hash"},
		"an entry taken out":        {[]string{"DROP TRIGGER ledger_no_removal", "DELETE FROM ledger WHERE number = 5"}, "ledger entry 5: is missing"},
		"the ledger cut at its end": {[]string{"DROP TRIGGER ledger_no_removal", "DELETE FROM ledger WHERE number > 8"}, "entries are missing at its end"},
		"the whole ledger gone":     {[]string{"DROP TRIGGER ledger_no_removal", "DELETE FROM ledger"}, "entries are missing at its end"},
		"a sealed form changed":     {[]string{"DROP TRIGGER form_is_sealed", "UPDATE form SET document = replace(document, 'Fall', 'Fell')"}, "does not match its fingerprint"},
		"a form taken out":          {[]string{"PRAGMA foreign_keys = 0", "DELETE FROM form"}, "refers to something that is not there"},
		"a score raised":            {[]string{"DROP TRIGGER scoring_stays", "UPDATE scoring SET raw = 300"}, "the ledger says"},
		"an answer changed":         {[]string{`UPDATE answer SET response = '{"RESPONSE":["B"]}' WHERE line = 1`}, "does not follow from its answers"},
		"a result raised":           {[]string{"UPDATE result SET raw = 300, band = 1"}, "run pineledger rebuild"},
		"a tally raised":            {[]string{"UPDATE line_tally SET credit = credit + 100"}, "run pineledger rebuild"},
		"a result taken out":        {[]string{"DELETE FROM result"}, "run pineledger rebuild"},
		"an attempt taken out": {[]string{"PRAGMA foreign_keys = 0", "DROP TRIGGER scoring_is_kept", "DELETE FROM result", "DELETE FROM scoring", "DELETE FROM answer",
			"DELETE FROM attempt_event", "DELETE FROM attempt_terms", "DELETE FROM attempt"}, "is missing: the ledger tells of"},
	} {
		t.Run(name, func(t *testing.T) {
			w := newWorld(t)
			w.sent()
			_, begun := w.atWork(w.teacher, w.student)
			_, err := w.app.Take.SaveAnswers(w.ctx, w.student, begun.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A")})
			require.NoError(t, err)
			_, err = w.app.Take.HandIn(w.ctx, w.student, begun.Attempt.ID)
			require.NoError(t, err)
			require.NoError(t, w.app.Record.PutAnchor(w.ctx))
			verified, err := w.app.Record.Verify(w.ctx)
			require.NoError(t, err)
			assert.Equal(t, []int{1, 1, 1}, []int{verified.Attempts, verified.Scorings, verified.Results})
			for _, statement := range c.tamper {
				_, err := w.store.Unguarded().ExecContext(w.ctx, statement)
				require.NoError(t, err, statement)
			}
			_, err = w.app.Record.Verify(w.ctx)
			assert.ErrorContains(t, err, c.want)
		})
	}
}

// A ledger that does not hold against its anchor never gets a new one.
func TestAnAnchorIsNotWrittenOverACutLedger(t *testing.T) {
	w := newWorld(t)
	_, err := w.app.Record.Verify(w.ctx)
	require.ErrorContains(t, err, "there is no ledger.anchor")
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
	_, err = w.store.Unguarded().ExecContext(w.ctx, "DROP TRIGGER ledger_no_removal")
	require.NoError(t, err)
	_, err = w.store.Unguarded().ExecContext(w.ctx, "DELETE FROM ledger WHERE number = (SELECT MAX(number) FROM ledger)")
	require.NoError(t, err)
	w.draft() // new entries take the numbers of those that are gone
	assert.ErrorContains(t, w.app.Record.PutAnchor(w.ctx), "run pineledger verify")
	_, err = w.app.Record.Verify(w.ctx)
	assert.ErrorContains(t, err, "the ledger was written anew")

	path := filepath.Join(w.store.Dir(), "ledger.anchor")
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, bytes.Replace(data, []byte(`"number": `), []byte(`"number": 1`), 1), 0o600))
	_, err = w.app.Record.Verify(w.ctx)
	assert.ErrorContains(t, err, "was not written under this district's secret")
}

// Changing a form and its fingerprint together is not enough: the ledger kept it.
func TestAFormSealedAnewBehindTheLedgerIsFound(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	document := strings.Replace(s.Form.Document, "Fall", "Fell", 1)
	require.NotEqual(t, s.Form.Document, document)
	fingerprint, err := ledger.Fingerprint([]byte(document))
	require.NoError(t, err)
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.store.Unguarded().ExecContext(w.ctx, "DROP TRIGGER form_is_sealed")
	require.NoError(t, err)
	_, err = w.store.Unguarded().ExecContext(w.ctx, "UPDATE form SET document = ?, fingerprint = ?", document, fingerprint)
	require.NoError(t, err)
	_, err = w.app.Record.Verify(w.ctx)
	assert.ErrorContains(t, err, "not the one it was sealed with")
}

// Whoever holds the secret can write the ledger and its anchor anew; what was written down on paper tells.
func TestALedgerThatWasWrittenAnewDoesNotMeetWhatWasWrittenDown(t *testing.T) {
	w := newWorld(t)
	entries, err := w.app.Record.Ledger(w.ctx, w.coordinator, record.LedgerQuery{})
	require.NoError(t, err)
	head := ledger.Mark{Number: entries[0].Number, Hash: entries[0].Hash[:32]}
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx, head)
	require.NoError(t, err)
	_, err = w.app.Record.Verify(w.ctx, ledger.Mark{Number: head.Number + 1, Hash: head.Hash})
	require.ErrorContains(t, err, "entries are missing at its end")

	_, err = w.store.Unguarded().ExecContext(w.ctx, "DROP TRIGGER ledger_no_change")
	require.NoError(t, err)
	before := ledger.Genesis
	for _, e := range slices.Backward(entries) {
		e.Title = "another title"
		e.Hash = ledger.Chain(before, e)
		before = e.Hash
		_, err = w.store.Unguarded().ExecContext(w.ctx, "UPDATE ledger SET title = ?, hash = ? WHERE number = ?", e.Title, e.Hash, e.Number)
		require.NoError(t, err)
	}
	require.NoError(t, os.Remove(filepath.Join(w.store.Dir(), "ledger.anchor")))
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err, "it agrees with itself")
	_, err = w.app.Record.Verify(w.ctx, head)
	assert.ErrorContains(t, err, "is not the one that was written down")
}
