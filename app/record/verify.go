package record

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"

	"pineledger/app/build"
	"pineledger/app/cuts"
	"pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/ledger"
	"pineledger/store/readrows"
	"pineledger/store/recordrows"
	"pineledger/store/takerows"
)

// Verified is what was found in order.
type Verified struct {
	Entries  int64
	Anchored int64 // the entry that the anchor names
	Forms    int
	Attempts int
	Scorings int
	Results  int
}

// Verify checks the database file, the ledger's chain and its anchor, every seal, that
// what entries tell of is there, every scoring by the machine against answers and form,
// and results and tallies against scorings. The error names the first fault.
//
// It proves that what is kept agrees with itself, and with the anchor. Whoever holds the
// secret and the database can write both anew from the start; against that help marks
// that were kept elsewhere, on paper say. What came after the anchor is held by the chain alone.
func (a *Record) Verify(ctx context.Context, marks ...ledger.Mark) (Verified, error) {
	var out Verified
	if err := a.Store.Integrity(ctx); err != nil {
		return out, err
	}
	told, err := a.walk(ctx, &out, marks)
	if err != nil {
		return out, err
	}
	if err := a.verifyForms(ctx, &out, told); err != nil {
		return out, err
	}
	if err := a.verifyRecuts(ctx, told); err != nil {
		return out, err
	}
	if err := a.verifyAttempts(ctx, &out, told); err != nil {
		return out, err
	}
	return out, a.verifyResults(ctx, &out)
}

// told is what entries say that must be found again.
type told struct {
	sealed   map[string]int // fingerprints; two assessments may hold the very same form
	begun    map[int64]bool
	handedIn map[int64]take.HandInNote
	recuts   []cuts.RecutNote
}

// walk goes through the chain up to its head, and holds it against the anchor and marks from elsewhere.
func (a *Record) walk(ctx context.Context, out *Verified, marks []ledger.Mark) (told, error) {
	t := told{map[string]int{}, map[int64]bool{}, map[int64]take.HandInNote{}, nil}
	anchor, anchorErr := a.readAnchor()
	var walk ledger.Walk
	met := false
	err := recordrows.EachEntry(ctx, a.Store.Reader, func(e ledger.Entry) error {
		switch e.Act {
		case build.SealAct:
			var note build.SealNote
			if err := json.Unmarshal([]byte(e.After), &note); err != nil {
				return fmt.Errorf("ledger entry %d: %w", e.Number, err)
			}
			t.sealed[note.Fingerprint]++
		case take.BeginAct:
			t.begun[e.ThingID] = true
		case take.HandInAct:
			var note take.HandInNote
			if err := json.Unmarshal([]byte(e.After), &note); err != nil {
				return fmt.Errorf("ledger entry %d: %w", e.Number, err)
			}
			t.handedIn[e.ThingID] = note
		case cuts.RecutAct:
			var note cuts.RecutNote
			if err := json.Unmarshal([]byte(e.After), &note); err != nil {
				return fmt.Errorf("ledger entry %d: %w", e.Number, err)
			}
			t.recuts = append(t.recuts, note)
		}
		if e.Number == anchor.Number {
			if met = e.Hash == anchor.Hash; !met {
				return fmt.Errorf("ledger entry %d is not the one that %s names: the ledger was written anew", e.Number, anchorFile)
			}
		}
		for _, m := range marks {
			if m.Number == e.Number && !m.Meets(e) {
				return fmt.Errorf("ledger entry %d is not the one that was written down: the ledger was written anew", e.Number)
			}
		}
		return walk.Next(e)
	})
	if err != nil {
		return t, err
	}
	for _, m := range marks {
		if m.Number > walk.Last() {
			return t, fmt.Errorf("the ledger ends at entry %d; entry %d was written down: entries are missing at its end", walk.Last(), m.Number)
		}
	}
	out.Entries, out.Anchored = walk.Last(), anchor.Number
	switch {
	case anchorErr != nil && out.Entries == 0:
		return t, errors.New("there is no ledger here: the database holds no entry")
	case anchorErr != nil:
		return t, anchorErr
	case !met:
		return t, fmt.Errorf("the ledger ends at entry %d; %s names entry %d: entries are missing at its end", out.Entries, anchorFile, anchor.Number)
	}
	return t, nil
}

func (a *Record) verifyForms(ctx context.Context, out *Verified, t told) error {
	err := recordrows.EachForm(ctx, a.Store.Reader, func(id int64, fingerprint string, document []byte) error {
		out.Forms++
		got, err := ledger.Fingerprint(document)
		if err != nil {
			return fmt.Errorf("form %d: %w", id, err)
		}
		if got != fingerprint {
			return fmt.Errorf("form %d: its content does not match its fingerprint", id)
		}
		if t.sealed[fingerprint] == 0 {
			return fmt.Errorf("form %d: its fingerprint is not the one it was sealed with", id)
		}
		t.sealed[fingerprint]--
		return nil
	})
	if err != nil {
		return err
	}
	for fingerprint, missing := range t.sealed {
		if missing > 0 {
			return fmt.Errorf("the form sealed as %s is missing", fingerprint)
		}
	}
	return nil
}

// verifyRecuts holds the cuts of record that came after a seal against what the ledger tells of them.
func (a *Record) verifyRecuts(ctx context.Context, t told) error {
	for _, note := range t.recuts {
		f, err := a.FormWithCuts(ctx, note.Form, note.Cuts)
		if err != nil {
			return fmt.Errorf("cuts %d of form %d: %w", note.Cuts, note.Form, err)
		}
		if !reflect.DeepEqual(f.Bands, note.Bands) {
			return fmt.Errorf("cuts %d of form %d are not those that the ledger tells of", note.Cuts, note.Form)
		}
	}
	return nil
}

// page is how many rows are read at once.
const page = 500

func (a *Record) verifyAttempts(ctx context.Context, out *Verified, t told) error {
	for after := int64(0); ; {
		ids, err := takerows.AttemptsAfter(ctx, a.Store.Reader, after, page)
		if err != nil {
			return err
		}
		for _, id := range ids {
			if err := a.verifyAttempt(ctx, out, id, t); err != nil {
				return err
			}
			delete(t.begun, id)
			delete(t.handedIn, id)
			after = id
		}
		if len(ids) < page {
			break
		}
	}
	for id := range t.begun {
		return fmt.Errorf("attempt %d is missing: the ledger tells of its beginning", id)
	}
	for id := range t.handedIn {
		return fmt.Errorf("attempt %d is missing: the ledger tells that it was handed in", id)
	}
	return nil
}

func (a *Record) verifyAttempt(ctx context.Context, out *Verified, id int64, t told) error {
	out.Attempts++
	scorings, err := readrows.Scorings(ctx, a.Store.Reader, id)
	if err != nil {
		return err
	}
	note, handedIn := t.handedIn[id]
	if handedIn && len(scorings) == 0 {
		return fmt.Errorf("attempt %d was handed in, and its scoring is missing", id)
	}
	if handedIn && scorings[0].Raw != note.Raw {
		return fmt.Errorf("attempt %d: its first scoring gives %s points; the ledger says %s", id, scorings[0].Raw, note.Raw)
	}
	for _, s := range scorings {
		out.Scorings++
		if s.Kind != readrows.ByMachine && s.Kind != readrows.ByLate && s.Kind != readrows.ByRecut {
			continue
		}
		row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
		if err != nil {
			return err
		}
		f, err := a.FormWithCuts(ctx, s.FormID, s.CutsID)
		if err != nil {
			return err
		}
		answers, err := takerows.AnswersBy(ctx, a.Store.Reader, id, s.ID)
		if err != nil {
			return err
		}
		score, err := take.ScoreAnswers(f.Form, answers, row)
		if err != nil {
			return fmt.Errorf("attempt %d: %w", id, err)
		}
		want := take.ScoringOf(row, f, score)
		if want.Raw != s.Raw || want.Final != s.Final || want.Band != s.Band || !slices.Equal(want.Credits, s.Credits) {
			return fmt.Errorf("attempt %d: its scoring does not follow from its answers and the sealed form", id)
		}
	}
	return nil
}

// verifyResults computes anew what counts of every seat, and the tallies of every sitting.
func (a *Record) verifyResults(ctx context.Context, out *Verified) error {
	tallies := map[[2]int64]readrows.LineTally{}
	var after readrows.Seat
	for {
		seats, err := readrows.ScoredSeats(ctx, a.Store.Reader, after, page)
		if err != nil {
			return err
		}
		for _, seat := range seats {
			if err := a.verifySeat(ctx, seat, tallies); err != nil {
				return err
			}
			out.Results++
			after = seat
		}
		if len(seats) < page {
			break
		}
	}
	kept, err := readrows.CountResults(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	if kept != out.Results {
		return fmt.Errorf("there are %d results of %d seats with a scoring; run pineledger rebuild", kept, out.Results)
	}
	sums, err := readrows.EachTally(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	for _, sum := range sums {
		key := [2]int64{sum.SittingID, int64(sum.Line)}
		if tallies[key] != sum {
			return fmt.Errorf("sitting %d, line %d: its tally does not follow from the results; run pineledger rebuild", sum.SittingID, sum.Line)
		}
		delete(tallies, key)
	}
	if len(tallies) > 0 {
		return errors.New("tallies are missing; run pineledger rebuild")
	}
	return nil
}

func (a *Record) verifySeat(ctx context.Context, seat readrows.Seat, tallies map[[2]int64]readrows.LineTally) error {
	s, err := takerows.StudentSittingOf(ctx, a.Store.Reader, seat.StudentID, seat.SittingID)
	if err != nil {
		return err
	}
	f, err := a.FormOfRecord(ctx, a.Store.Reader, s.FormID)
	if err != nil {
		return err
	}
	want, _, err := take.Counts(ctx, a.Store.Reader, seat, f.Form)
	if err != nil {
		return err
	}
	got, err := readrows.ResultOfSeat(ctx, a.Store.Reader, seat)
	if err != nil {
		return fmt.Errorf("the result of student %d in sitting %d: %w; run pineledger rebuild", seat.StudentID, seat.SittingID, err)
	}
	if !reflect.DeepEqual(want, got) {
		return fmt.Errorf("the result of student %d in sitting %d does not follow from its scorings; run pineledger rebuild", seat.StudentID, seat.SittingID)
	}
	work, err := takerows.AttemptByID(ctx, a.Store.Reader, want.AttemptID)
	if err != nil || work.Apart {
		return err // what does not compare is in no tally
	}
	for i, c := range want.Credits {
		addTally(tallies, seat.SittingID, i+1, c)
	}
	return nil
}

// addTally counts one line of one result, as the store does.
func addTally(tallies map[[2]int64]readrows.LineTally, sitting int64, line int, c attempt.LineCredit) {
	if c.Outcome == item.NotGiven || c.Outcome == item.Unread {
		return
	}
	key := [2]int64{sitting, int64(line)}
	t := tallies[key]
	t.SittingID, t.Line, t.N, t.Credit = sitting, line, t.N+1, t.Credit+int64(c.Credit)
	if c.Outcome == item.Omitted {
		t.Omitted++
	}
	tallies[key] = t
}
