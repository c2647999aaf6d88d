package panels

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/form"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/panelrows"
)

// Asked is what a judge is asked: it stays the same in all rounds.
type Asked struct {
	panelrows.Panel
	Cuts     []string
	Lines    []form.Line
	Passages []form.Passage
	Booklet  []panel.Entry // of ordered items
	Total    points.Points
}

// Work is how far a judge is.
type Work struct {
	Left   bool // the panel goes on without this judge
	Ended  bool
	Cuts   []string
	Rounds []Seen
	Notes  []panelrows.Note // the judge's own
}

// Seen is a round as a judge sees it.
type Seen struct {
	panelrows.Round
	Name  string
	Own   panel.Work
	Given int
	Of    int
	// What came of the round, once the chair has opened it; nil before, and where nobody's work was whole. OwnAt is the judge's own place
	// among those whose work counts, -1 where it does not.
	Result *panel.Round
	OwnAt  int
	Shares []predict.Share
}

// judging reads a panel for one of its judges; anybody else gets 404.
func (a *Panels) judging(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (opened, panelrows.Judge, error) {
	o, err := a.read(ctx, r, id)
	if err != nil {
		return o, panelrows.Judge{}, err
	}
	j, is := o.judge(v.PersonID)
	if !is || !v.IsStaff() {
		return o, j, desk.ErrNotFound
	}
	return o, j, nil
}

// Asked gives what a judge is asked, items with their keys.
func (a *Panels) Asked(ctx context.Context, v roster.Viewer, id int64) (Asked, error) {
	o, _, err := a.judging(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Asked{}, err
	}
	return Asked{Panel: o.Panel, Cuts: o.cutNames(), Lines: o.form.Lines, Passages: o.form.Passages, Booklet: o.task.Booklet(), Total: o.task.Form.Total}, nil
}

// Work gives what a judge gave so far, and what came of rounds whose feedback is open. Of other judges it tells values without names.
func (a *Panels) Work(ctx context.Context, v roster.Viewer, id int64) (Work, error) {
	o, j, err := a.judging(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Work{}, err
	}
	out := Work{Left: j.LeftAt != nil, Ended: o.EndedAt != nil, Cuts: o.cutNames()}
	all, err := allGiven(ctx, a.Store.Reader, id)
	if err != nil {
		return out, err
	}
	notes, err := panelrows.Notes(ctx, a.Store.Reader, id)
	if err != nil {
		return out, err
	}
	out.Notes = slices.DeleteFunc(notes, func(n panelrows.Note) bool { return n.PersonID != v.PersonID })
	own := slices.IndexFunc(o.judges, func(other panelrows.Judge) bool { return other.PersonID == v.PersonID })
	for _, r := range o.rounds {
		works := o.works(r.Number, all)
		seen := Seen{Round: r, Name: roundName(r, o), Own: works[own], OwnAt: -1}
		seen.Given, seen.Of = seen.Own.Given()
		if r.FeedbackAt != nil {
			result := o.task.Round(works)
			seen.Result, seen.OwnAt = &result, slices.Index(result.Counted, own)
			if seen.Shares, _, err = a.shares(ctx, o, result.Cuts); err != nil {
				return out, err
			}
		}
		out.Rounds = append(out.Rounds, seen)
	}
	return out, nil
}

// Given is one rating or mark that a judge gives; Value is panel.None to take it back.
type Given struct{ Cut, Line, Value int }

// work writes what a judge gives, and tells who leads the panel.
func (a *Panels) work(ctx context.Context, id int64, give func(*store.Tx) error) error {
	err := a.Store.Write(ctx, give)
	if err == nil {
		a.told.Changed(worked(id))
	}
	return err
}

// Give keeps ratings or marks of a judge in the round that is open.
func (a *Panels) Give(ctx context.Context, v roster.Viewer, id int64, round int, given []Given) error {
	return a.work(ctx, id, func(tx *store.Tx) error {
		o, err := a.atWork(ctx, tx, v, id, round)
		if err != nil {
			return err
		}
		done, err := panelrows.AllDone(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		if slices.Contains(done, panelrows.Done{Round: round, PersonID: v.PersonID}) {
			return desk.Conflict("You said that you are done with this round. Go on with it to change something.")
		}
		for i, g := range given {
			line := g.Line
			if o.Method == panel.ByMarks {
				line = -1
			}
			if !o.task.Fits(g.Cut, g.Line, g.Value) {
				what := "A rating is from 0 to 100% of a line's points."
				if o.Method == panel.ByMarks {
					what = fmt.Sprintf("A mark is a place in the booklet, from 1 to %d.", len(o.task.Booklet()))
				}
				return desk.Invalid(fmt.Sprintf("/given/%d/value", i), "%s", what)
			}
			if err := panelrows.Give(ctx, tx, id, panelrows.Given{Round: round, PersonID: v.PersonID, Cut: g.Cut, Line: line, Value: g.Value}); err != nil {
				return err
			}
		}
		return nil
	})
}

// atWork reads a panel for a judge who may give something in a round now.
func (a *Panels) atWork(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64, round int) (opened, error) {
	o, j, err := a.judging(ctx, tx.Reader, v, id)
	switch {
	case err != nil:
		return o, err
	case round < 1 || round > len(o.rounds):
		return o, desk.ErrNotFound
	case j.LeftAt != nil:
		return o, desk.Conflict("The chair noted that you left this panel. Ask the chair to let you go on.")
	case !o.rounds[round-1].Open():
		return o, desk.Conflict("%s is closed: nothing more can be given in it.", roundName(o.rounds[round-1], o))
	}
	return o, nil
}

// PutDone says that a judge is done with a round, or goes on. Only whole work can be done; the ledger keeps its digest.
func (a *Panels) PutDone(ctx context.Context, v roster.Viewer, id int64, round int, done bool) error {
	return a.work(ctx, id, func(tx *store.Tx) error {
		o, err := a.atWork(ctx, tx, v, id, round)
		if err != nil {
			return err
		}
		mark := panelrows.Done{Round: round, PersonID: v.PersonID}
		if !done {
			return panelrows.PutDone(ctx, tx, id, mark, nil)
		}
		given, err := panelrows.GivenBy(ctx, tx.Reader, id, v.PersonID, round)
		if err != nil {
			return err
		}
		w := o.task.Empty()
		for _, g := range given {
			put(w, g)
		}
		if n, of := w.Given(); n < of {
			return desk.Conflict("%d of %d are missing. Give every one before you are done.", of-n, of)
		}
		whole, err := json.Marshal(w)
		if err != nil {
			return err
		}
		if err := panelrows.PutDone(ctx, tx, id, mark, new(store.Millis(a.Now()))); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "panel.done", Thing: "panel", ID: id, Title: o.Title, After: Note{Schema: 1, Round: round, Digest: a.Digest(string(whole))}})
	})
}

// mostNote bounds a judge's note, in letters.
const mostNote = 2000

// PutNote keeps a judge's note of a line, or with line -1 of the whole.
func (a *Panels) PutNote(ctx context.Context, v roster.Viewer, id int64, line int, words string) error {
	words = strings.TrimSpace(words)
	if len([]rune(words)) > mostNote {
		return desk.Invalid("/words", "A note has at most %d letters.", mostNote)
	}
	return a.work(ctx, id, func(tx *store.Tx) error {
		o, _, err := a.judging(ctx, tx.Reader, v, id)
		if err == nil && (line < -1 || line >= len(o.form.Lines)) {
			err = desk.ErrNotFound
		}
		if err != nil {
			return err
		}
		return panelrows.PutNote(ctx, tx, id, panelrows.Note{PersonID: v.PersonID, Line: line, Words: words, At: store.Millis(a.Now())})
	})
}
