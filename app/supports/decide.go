package supports

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/takerows"
)

// Bounds of what is typed.
const (
	mostReason   = 500
	mostProvider = 120
	mostCopies   = 500
)

// RulingNote is what the ledger keeps of a decision.
type RulingNote struct {
	Schema int            `json:"schema"`
	Key    string         `json:"key"`
	Ruling support.Ruling `json:"ruling"` // "" where it was taken back
	Reason string         `json:"reason,omitempty"`
}

// Rule decides of a support that would break what an assessment measures: it is allowed with a reason, and results are marked, or it
// is given without what breaks; "" takes a decision back. Who has begun under another decision keeps it.
func (a *Supports) Rule(ctx context.Context, v roster.Viewer, id int64, key string, ruling support.Ruling, reason string) (Matrix, error) {
	one, known := support.ByKey(key)
	if !known || !slices.Contains([]support.Ruling{support.Allow, support.Without, ""}, ruling) {
		return Matrix{}, desk.Invalid("/ruling", "There is no such support or decision.")
	}
	reason = strings.TrimSpace(reason)
	switch {
	case ruling == support.Allow && reason == "":
		return Matrix{}, desk.Invalid("/reason", "Say why it is allowed although it breaks what is measured.")
	case utf8.RuneCountInString(reason) > mostReason:
		return Matrix{}, desk.Invalid("/reason", "Write at most %d characters.", mostReason)
	}
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MayChange(row.Owned()) {
			return desk.ErrForbidden
		}
		if ruling == "" {
			err = giverows.DropRuling(ctx, tx, id, key)
		} else {
			err = giverows.PutRuling(ctx, tx, id, giverows.RulingMade{Key: key, Ruling: ruling, Reason: reason, Person: v.Name, At: store.Millis(a.Now())}, v.PersonID)
		}
		if err != nil {
			return err
		}
		if err := a.Record(ctx, tx, v, desk.Act{Name: "supports.rule", Thing: "assessment", ID: id, Title: row.Title + ": " + one.Name, After: RulingNote{1, key, ruling, reason}}); err != nil {
			return err
		}
		touched, err = a.reapplyAll(ctx, tx, row)
		return err
	})
	if err != nil {
		return Matrix{}, err
	}
	a.changed(touched)
	return a.Matrix(ctx, v, id, MatrixFilter{Limit: PageOfRows})
}

// PageOfRows is how many rows of a matrix come at once.
const PageOfRows = 200

// reapplyAll gives everyone who works on an assessment what is new for them.
func (a *Supports) reapplyAll(ctx context.Context, tx *store.Tx, row buildrows.Assessment) ([]int64, error) {
	working, err := takerows.WorkingOn(ctx, tx.Reader, row.ID)
	if err != nil {
		return nil, err
	}
	var touched []int64
	for _, id := range working {
		sitting, err := a.reapply(ctx, tx, id)
		if err != nil {
			return nil, err
		}
		if sitting > 0 && !slices.Contains(touched, sitting) {
			touched = append(touched, sitting)
		}
	}
	return touched, nil
}

// ProviderNote is what the ledger keeps of who provides a support.
type ProviderNote struct {
	Schema   int    `json:"schema"`
	Key      string `json:"key"`
	Section  string `json:"section"`
	Provider string `json:"provider"` // "" for nobody any more
	Number   int    `json:"number"`
}

// Provide names who provides a support to a section, or notes that its paper is made. No name takes it back.
func (a *Supports) Provide(ctx context.Context, v roster.Viewer, id int64, p giverows.Provider) (Matrix, error) {
	one, known := support.ByKey(p.Key)
	if !known || one.By == support.ByItself {
		return Matrix{}, desk.Invalid("/key", "This support needs nobody.")
	}
	p.Provider = strings.TrimSpace(p.Provider)
	if utf8.RuneCountInString(p.Provider) > mostProvider {
		return Matrix{}, desk.Invalid("/provider", "Write at most %d characters.", mostProvider)
	}
	if p.Provider != "" && (p.Number < 1 || p.Number > mostCopies) {
		return Matrix{}, desk.Invalid("/number", "Give a whole number from 1 to %d.", mostCopies)
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		sections, err := officerows.Sections(ctx, tx.Reader, v.Scope(), officerows.SectionFilter{IDs: []int64{p.SectionID}})
		if err != nil {
			return err
		}
		if len(sections) == 0 {
			return desk.ErrNotFound
		}
		if !v.MayBuild() {
			return desk.ErrForbidden
		}
		if err := giverows.PutProvider(ctx, tx, id, p, v, store.Millis(a.Now())); err != nil {
			return err
		}
		where := sections[0].School + ", " + sections[0].Title
		return a.Record(ctx, tx, v, desk.Act{Name: "supports.provide", Thing: "assessment", ID: id, Title: fmt.Sprintf("%s: %s, %s", row.Title, one.Name, where),
			After: ProviderNote{1, p.Key, where, p.Provider, p.Number}})
	})
	if err != nil {
		return Matrix{}, err
	}
	return a.Matrix(ctx, v, id, MatrixFilter{Limit: PageOfRows})
}

// TodayNote is what the ledger keeps of a support that was added for one sitting.
type TodayNote struct {
	support.Note
	Reason string `json:"reason"`
}

// AddToday gives a student a support for one sitting, with a reason. Who works gets it at once.
func (a *Supports) AddToday(ctx context.Context, v roster.Viewer, sitting, student int64, key string, value []byte, reason string) error {
	if !v.MayReadSupports() {
		return desk.ErrForbidden
	}
	reason = strings.TrimSpace(reason)
	if reason == "" || utf8.RuneCountInString(reason) > mostReason {
		return desk.Invalid("/reason", "Say why, in at most %d characters.", mostReason)
	}
	have, err := support.Have{Key: key, Value: value}.Check(nil)
	if err != nil {
		return desk.Invalid("/value", "%s", err)
	}
	var touched []int64
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := giverows.SittingInScope(ctx, tx.Reader, v.Scope(), sitting)
		if err != nil {
			return err
		}
		seat, err := takerows.StudentSittingOf(ctx, tx.Reader, student, sitting)
		if err != nil {
			return err
		}
		if !a.Now().Before(s.Setup.V.Ends) {
			return desk.Conflict("The window is over.")
		}
		f, err := a.FormByID(ctx, s.FormID)
		if err != nil {
			return err
		}
		rules, rulings, err := ruled(ctx, tx.Reader, s.AssessmentID)
		if err != nil {
			return err
		}
		g := support.Given{Key: key, Value: have.Value, Source: support.FromToday}
		if verdict := f.Offer().Breaks(g, rules); verdict != nil && !verdict.Rest && rulings[key] != support.Allow {
			return desk.Conflict("%s A coordinator can allow it with a reason, under Supports of the assessment.", verdict.Why)
		}
		if support.Shut(key, s.Setup.V.Shut) {
			return desk.Conflict("%s is locked for this assessment, for accommodations too.", have.Name())
		}
		if err := giverows.AddSupport(ctx, tx, giverows.AddedSupport{SittingID: sitting, StudentID: student, Key: key, Value: have.Value, Reason: reason, Person: v.Name, At: store.Millis(a.Now())}, v.PersonID); err != nil {
			return err
		}
		if err := a.Record(ctx, tx, v, desk.Act{Name: "supports.today", Thing: "student", ID: student, Title: s.Title + ", " + s.Section, After: TodayNote{support.NoteOf(have, ""), reason}}); err != nil {
			return err
		}
		if seat.AttemptID == 0 {
			touched = []int64{sitting}
			return nil
		}
		touched, err = a.Reapply(ctx, tx, []int64{student})
		return err
	})
	if err == nil {
		a.changed(touched)
	}
	return err
}
