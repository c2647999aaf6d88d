package panels

import (
	"context"
	"fmt"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/panelrows"
)

// lead changes a panel that a viewer may lead, in one transaction.
func (a *Panels) lead(ctx context.Context, v roster.Viewer, id int64, change func(*store.Tx, opened) error) (Opened, error) {
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		o, err := a.read(ctx, tx.Reader, id)
		switch {
		case err != nil:
			return err
		case !v.MayBuild() || !v.MaySee(o.Owned()):
			return desk.ErrNotFound
		case !v.MayChange(o.Owned()):
			return desk.ErrForbidden
		}
		return change(tx, o)
	})
	if err != nil {
		return Opened{}, err
	}
	a.told.Changed(led(id))
	return a.Open(ctx, v, id)
}

// Invite adds judges to a panel.
func (a *Panels) Invite(ctx context.Context, v roster.Viewer, id int64, persons []int64) (Opened, error) {
	return a.lead(ctx, v, id, func(tx *store.Tx, o opened) error {
		if err := a.mayJudge(ctx, persons); err != nil {
			return err
		}
		if len(o.judges)+len(persons) > mostJudges {
			return desk.Invalid("/judges", "A panel has at most %d judges.", mostJudges)
		}
		if o.EndedAt != nil {
			return ended(o)
		}
		for i, person := range persons {
			if _, is := o.judge(person); is {
				return desk.Invalid(fmt.Sprintf("/judges/%d", i), "This judge is in the panel already.")
			}
			if err := a.invite(ctx, tx, v, o.Panel, person); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "panel.invite", Thing: "panel", ID: id, Title: o.Title, After: Note{Schema: 1, Judges: persons}})
	})
}

func ended(o opened) error { return desk.Conflict("The panel %s has ended.", o.Title) }

// judge finds a judge of a panel by the person.
func (o opened) judge(person int64) (panelrows.Judge, bool) {
	for _, j := range o.judges {
		if j.PersonID == person {
			return j, true
		}
	}
	return panelrows.Judge{}, false
}

// Leave notes that a judge left the panel, with the reason; what they gave whole stays and counts. With back they go on.
func (a *Panels) Leave(ctx context.Context, v roster.Viewer, id, person int64, back bool, why string) (Opened, error) {
	return a.lead(ctx, v, id, func(tx *store.Tx, o opened) error {
		j, is := o.judge(person)
		why = strings.TrimSpace(why)
		switch {
		case !is:
			return desk.ErrNotFound
		case back != (j.LeftAt != nil):
			return desk.Conflict("%s is as you want it already.", j.Name)
		case !back && why == "":
			return desk.Invalid("/why", "Say why %s leaves. The report says so too.", j.Name)
		}
		act, at := "panel.leave", new(store.Millis(a.Now()))
		if back {
			act, at, why = "panel.back", nil, ""
		}
		if err := panelrows.Leave(ctx, tx, id, person, at, why); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: act, Thing: "panel", ID: id, Title: o.Title, After: Note{Schema: 1, Judges: []int64{person}, Why: why}})
	})
}

// OpenRound opens the next round. What was given in the round before stands in it already and can be changed, but for training.
func (a *Panels) OpenRound(ctx context.Context, v roster.Viewer, id int64, training bool) (Opened, error) {
	return a.lead(ctx, v, id, func(tx *store.Tx, o opened) error {
		n, from := len(o.rounds), 0
		switch {
		case o.EndedAt != nil:
			return ended(o)
		case len(o.judges) == 0:
			return desk.Conflict("Invite judges first.")
		case n == mostRounds:
			return desk.Conflict("A panel has at most %d rounds.", mostRounds)
		case n > 0 && o.rounds[n-1].Open():
			return desk.Conflict("Close the round that is open first.")
		case n > 0 && training:
			return desk.Conflict("The training round comes first.")
		}
		if n > 0 && !o.rounds[n-1].Training {
			from = n
		}
		round := panelrows.Round{Number: n + 1, Training: training, OpenedAt: store.Millis(a.Now())}
		if err := panelrows.AddRound(ctx, tx, id, round, from); err != nil {
			return err
		}
		for _, j := range o.judges {
			if j.LeftAt != nil {
				continue
			}
			if err := a.tell(ctx, tx, j.PersonID, o.Panel, fmt.Sprintf("%s of %s is open.", roundName(round, o), o.Title)); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "panel.round", Thing: "panel", ID: id, Title: o.Title, After: Note{Schema: 1, Round: round.Number, Training: training}})
	})
}

// roundName is what a round is called: the training, or its number without the training.
func roundName(r panelrows.Round, o opened) string {
	switch {
	case r.Training:
		return "The training round"
	case len(o.rounds) > 0 && o.rounds[0].Training:
		return fmt.Sprintf("Round %d", r.Number-1)
	}
	return fmt.Sprintf("Round %d", r.Number)
}

// Move says what becomes of a round.
type Move string

const (
	CloseIt  Move = "close"    // nobody gives anything any more
	Reopen   Move = "open"     // they may again, as long as nothing came of it
	Feedback Move = "feedback" // judges see what came of it
)

// MoveRound closes a panel's newest round, opens it again, or opens its feedback to the judges.
func (a *Panels) MoveRound(ctx context.Context, v roster.Viewer, id int64, number int, to Move) (Opened, error) {
	return a.lead(ctx, v, id, func(tx *store.Tx, o opened) error {
		if number < 1 || number > len(o.rounds) {
			return desk.ErrNotFound
		}
		r := o.rounds[number-1]
		now := new(store.Millis(a.Now()))
		switch to {
		case CloseIt:
			if !r.Open() {
				return desk.Conflict("This round is closed already.")
			}
			r.ClosedAt = now
		case Reopen:
			if r.Open() || r.FeedbackAt != nil || number < len(o.rounds) {
				return desk.Conflict("This round cannot be opened again: its feedback is out, or another round came after it.")
			}
			r.ClosedAt = nil
		case Feedback:
			if r.Open() || r.FeedbackAt != nil {
				return desk.Conflict("Close the round first. Feedback is opened once.")
			}
			r.FeedbackAt = now
			for _, j := range o.judges {
				if j.LeftAt != nil {
					continue
				}
				if err := a.tell(ctx, tx, j.PersonID, o.Panel, fmt.Sprintf("What came of %s of %s can be seen.", strings.ToLower(roundName(r, o)), o.Title)); err != nil {
					return err
				}
			}
		default:
			return desk.Invalid("/to", "A round is closed, opened again, or its feedback is opened.")
		}
		if err := panelrows.MoveRound(ctx, tx, id, r); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "panel.round." + string(to), Thing: "panel", ID: id, Title: o.Title, After: Note{Schema: 1, Round: number}})
	})
}

// End ends a panel whose rounds are closed, or lets it go on.
func (a *Panels) End(ctx context.Context, v roster.Viewer, id int64, end bool) (Opened, error) {
	return a.lead(ctx, v, id, func(tx *store.Tx, o opened) error {
		if end == (o.EndedAt != nil) {
			return nil
		}
		if n := len(o.rounds); end && n > 0 && o.rounds[n-1].Open() {
			return desk.Conflict("Close the round that is open first.")
		}
		act, at := "panel.end", new(store.Millis(a.Now()))
		if !end {
			act, at = "panel.go-on", nil
		}
		if err := panelrows.End(ctx, tx, id, at); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: act, Thing: "panel", ID: id, Title: o.Title})
	})
}
