package take

import (
	"context"
	"errors"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/takerows"
)

// TakeView is an attempt as its student gets it: nothing of keys or credit.
type TakeView struct {
	Attempt      takerows.Attempt
	Title        string
	Instructions string
	Lines        []TakeLine
	Passages     []form.Passage
	Parts        []form.Part
	Document     *form.Document // while there is work to do
	Count        int            // of the lines that the student gets
	Minutes      int            // the time limit, 0: none
	Now          time.Time      // the server's, which alone counts
	End          time.Time      // while it is being worked on
	Left         time.Duration  // of the time limit
	Limited      bool           // there is a time limit of the attempt's own
	Stopped      string         // why work cannot go on now, "" when it can
	StoppedBy    attempt.Stop   // the same by name
	Elsewhere    time.Time      // when another device last was at it; zero for none
	How          How
	Asides       []Aside   // what they keep beside the answers
	Try          int       // the one that is shown; 0: none is begun
	MayRetake    bool      // another try may be begun
	DoorCloses   time.Time // by itself, before the work is over; zero: it does not
}

// TakeLine is a line with what the student has answered.
type TakeLine struct {
	Line    int // counted from 1 on the form
	Part    int // counted from 1 in Parts, 0 for none
	Item    item.Shown
	Passage string
	Without []string // the tools that this student answers it without
	Answer  *takerows.SavedAnswer
}

// stop says why work cannot go on.
func (t *TakeView) stop(err error) {
	t.Stopped, t.StoppedBy = desk.Sentence(err.Error()), attempt.StopOf(err)
}

// MySittings lists a student's own sittings.
func (a *Take) MySittings(ctx context.Context, v roster.Viewer) ([]MySitting, error) {
	if !v.IsStudent() {
		return nil, desk.ErrForbidden
	}
	rows, err := takerows.StudentSittings(ctx, a.Store.Reader, v.PersonID)
	if err != nil {
		return nil, err
	}
	out := []MySitting{}
	for _, s := range rows {
		if s.Setup.V.Settings.Flag(settings.HiddenAhead) && a.Now().Before(s.Setup.V.Opens) {
			continue
		}
		out = append(out, MySitting{s, s.Setup.V.Minutes()})
		if !s.Setup.V.Limited() || !a.Now().Before(s.Setup.V.Ends) {
			continue
		}
		f, err := a.FormByID(ctx, s.FormID)
		if err != nil {
			return nil, err
		}
		terms, err := a.termsFor(ctx, s, f, v.PersonID)
		if err != nil {
			return nil, err
		}
		out[len(out)-1].Minutes = minutesOf(terms)
	}
	return out, nil
}

// MySitting is a sitting with the student's own time limit.
type MySitting struct {
	takerows.StudentSitting
	Minutes int // 0: none
}

// Open gives a student the attempt that they work on, or before they begin the
// directions alone: the clock starts when they begin.
// device names what it is opened on; "" for unknown; managed tells that it is one of the district's.
func (a *Take) Open(ctx context.Context, v roster.Viewer, sitting int64, device string, managed bool) (TakeView, error) {
	s, err := a.mine(ctx, v, sitting)
	if err != nil {
		return TakeView{}, err
	}
	elsewhere := s.Setup.V.Settings.Flag(settings.ManagedOnly) && !managed
	if s.AttemptID > 0 {
		view, err := a.takeView(ctx, s.AttemptID)
		if err == nil && elsewhere && view.Attempt.State == attempt.Working {
			view.Lines, view.Passages, view.Document = nil, nil, nil
			view.stop(attempt.ErrNotManaged)
		}
		if err == nil && view.Attempt.State == attempt.Working {
			view.Elsewhere = a.met.meet(s.AttemptID, device, view.Now)
		}
		return view, err
	}
	f, err := a.FormByID(ctx, s.FormID)
	if err != nil {
		return TakeView{}, err
	}
	now := a.Now()
	terms, err := a.termsFor(ctx, s, f, v.PersonID)
	if err != nil {
		return TakeView{}, err
	}
	view := TakeView{Title: f.ShortTitle, Instructions: f.Instructions, Count: f.Count(), Now: now, Minutes: minutesOf(terms), Limited: terms.Limited(), Left: terms.Allowed(), How: howOf(f, terms, 0)}
	view.Attempt.StudentID = v.PersonID
	if err := s.Rules().MayWork(now); err != nil {
		view.stop(err)
	} else if elsewhere {
		view.stop(attempt.ErrNotManaged)
	}
	return view, nil
}

// termsFor are the terms under which a student would begin a sitting now.
func (a *Take) termsFor(ctx context.Context, s takerows.StudentSitting, f form.Form, student int64) (attempt.Terms, error) {
	given, err := a.supports.InForce(ctx, a.Store.Reader, s.ID, s.AssessmentID, f, student)
	return attempt.NewTerms(s.Setup.V, given), err
}

// minutesOf is the time limit with all that a student's supports add, in whole minutes, rounded up; 0: none.
func minutesOf(t attempt.Terms) int { return int((t.Allowed() + time.Minute - 1) / time.Minute) }

// mine finds a student's own sitting.
func (a *Take) mine(ctx context.Context, v roster.Viewer, sitting int64) (takerows.StudentSitting, error) {
	if !v.IsStudent() {
		return takerows.StudentSitting{}, desk.ErrForbidden
	}
	return takerows.StudentSittingOf(ctx, a.Store.Reader, v.PersonID, sitting)
}

// Begin begins a student's attempt, or goes on with the one that is begun. Where a
// seat has several tries, it begins the next one after a hand-in.
func (a *Take) Begin(ctx context.Context, v roster.Viewer, sitting int64, entry Entry) (TakeView, error) {
	s, err := a.mine(ctx, v, sitting)
	if err != nil {
		return TakeView{}, err
	}
	id, err := a.begin(ctx, v, s, v.PersonID, entry)
	if err != nil {
		return TakeView{}, err
	}
	return a.takeView(ctx, id)
}

// begin begins the attempt of a student at a sitting, or finds the one that is
// begun; v is who begins it.
func (a *Take) begin(ctx context.Context, v roster.Viewer, s takerows.StudentSitting, student int64, entry Entry) (id int64, err error) {
	if s.AttemptID > 0 && (s.State == attempt.Working || s.Try >= s.Setup.V.Tries()) {
		return s.AttemptID, nil
	}
	if err := s.Rules().MayWork(a.Now()); err != nil {
		return 0, desk.Conflict("%s", desk.Sentence(err.Error()))
	}
	if err := a.mayEnter(s, student, entry); err != nil {
		return 0, err
	}
	f, err := a.FormByID(ctx, s.FormID)
	if err != nil {
		return 0, err
	}
	terms, err := a.termsFor(ctx, s, f, student)
	if err != nil {
		return 0, err
	}
	err = a.Store.WriteTogether(ctx, func(tx *store.Tx) error {
		now := a.Now() // inside the transaction, so that events stand in the order of time
		var begun bool
		if id, begun, err = takerows.Begin(ctx, tx, s.ID, student, s.FormID, s.Try+1, terms, now); err != nil || !begun {
			return err
		}
		if err := bankrows.CountSeen(ctx, tx, s.FormID, s.ID); err != nil {
			return err
		}
		if given := f.Given(id); given != nil {
			if err := takerows.SetGiven(ctx, tx, id, given); err != nil {
				return err
			}
		}
		if s.Try > 0 && s.Setup.V.Settings.Text(settings.Retake) == "missed" {
			if err := carryOver(ctx, tx, f, s.AttemptID, id); err != nil {
				return err
			}
		}
		row, err := takerows.AttemptByID(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		var order *window.OrderError
		if _, err := takerows.ClockOf(ctx, tx.Reader, row); errors.As(err, &order) { // the door was moved meanwhile
			return desk.Conflict("The door was just closed. Wait until your teacher opens it.")
		} else if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: BeginAct, Thing: "attempt", ID: id, Title: row.Title + ", " + row.Student})
	})
	if err == nil {
		a.roomChanged(s.ID)
	}
	return id, err
}

func (a *Take) takeView(ctx context.Context, id int64) (TakeView, error) {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return TakeView{}, err
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return TakeView{}, err
	}
	now := a.Now()
	view := TakeView{Attempt: row, Title: f.ShortTitle, Instructions: f.Instructions, Count: f.Count(), Now: now, Minutes: minutesOf(row.Terms), Limited: row.Terms.Limited(),
		How: howOf(f, row.Terms, 0), Try: row.Try}
	if row.State != attempt.Working {
		view.MayRetake = row.Try < row.Setup.V.Tries() && row.Rules().MayWork(now) == nil
		return view, nil // the items are not shown again until feedback allows it
	}
	clock, err := a.clock(ctx, row)
	if err != nil {
		return TakeView{}, err
	}
	reading := clock.At(now)
	view.End, view.Left, view.How = reading.EndsAt, reading.Left, howOf(f, row.Terms, clock.Rests())
	if err := row.Rules().MayGoOn(reading, now); err != nil {
		view.stop(err)
		return view, nil // nor is anything of them sent while the door is shut
	}
	if closes := store.Time(row.DoorUntil); row.DoorUntil > 0 && closes.Before(view.End) {
		view.DoorCloses = closes
	}
	answers, err := a.Store.Answers(ctx, id)
	if err != nil {
		return TakeView{}, err
	}
	asked := row.Asked()
	if asked == nil {
		asked = row.Given()
	}
	view.give(f, asked, row.Terms, id)
	if view.Asides, err = takerows.Asides(ctx, a.Store.Reader, id); err != nil {
		return TakeView{}, err
	}
	for _, answer := range answers {
		if at := slices.IndexFunc(view.Lines, func(l TakeLine) bool { return l.Line == answer.Line }); at >= 0 {
			view.Lines[at].Answer = &answer
		}
	}
	return view, nil
}

// give fills in the lines that an attempt gets, nil for all, and what hangs on them, in the order of a seed where they are mixed.
func (t *TakeView) give(f form.Form, given []int, terms attempt.Terms, seed int64) {
	v := terms.Settings()
	t.Document, t.Parts = f.Document, f.Parts
	order := orderOf(f, given, v, seed)
	if order == nil {
		for i := range f.Lines {
			order = append(order, i)
		}
	}
	for _, i := range order {
		l := f.Lines[i]
		line := TakeLine{Line: i + 1, Part: l.Part, Item: shownTo(f, i, v, seed), Passage: l.Passage, Without: withheld(f, i, terms)}
		if slices.Contains(line.Without, settings.Glossary) {
			line.Item.Glossary = nil
		}
		t.Lines = append(t.Lines, line)
	}
	t.Count = len(t.Lines)
	for _, p := range f.Passages {
		if slices.ContainsFunc(t.Lines, func(l TakeLine) bool { return l.Passage == p.Identifier }) {
			t.Passages = append(t.Passages, p)
		}
	}
}
