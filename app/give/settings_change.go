package give

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/giverows"
)

// SettingChange is what a place is to say of one setting.
type SettingChange struct {
	Key   string
	Value json.RawMessage // nil: it says nothing any more
	Lock  settings.Lock
	Was   json.RawMessage // what it said when it was read; nil: nothing
}

// SettingsNote is what the ledger keeps of changes of settings, and what takes them back.
type SettingsNote struct {
	Schema int           `json:"schema"`
	Rows   []SettingsRow `json:"rows"`
}

// SettingsRow is what one scope said of one setting before and after.
type SettingsRow struct {
	Level      settings.Level `json:"level"`
	Purpose    string         `json:"purpose,omitempty"`
	Assessment int64          `json:"assessment,omitempty"`
	Thing      int64          `json:"thing,omitempty"`
	Key        string         `json:"key"`
	Before     *SettingSaid   `json:"before"` // null: nothing
	After      *SettingSaid   `json:"after"`
}

// SettingSaid is a value with its lock.
type SettingSaid struct {
	Value json.RawMessage `json:"value"`
	Lock  settings.Lock   `json:"lock,omitempty"`
}

func (r SettingsRow) scope() settings.Scope {
	return settings.Scope{Level: r.Level, Purpose: r.Purpose, Assessment: r.Assessment, Thing: r.Thing}
}

func rowOf(scope settings.Scope, key string, before, after *SettingSaid) SettingsRow {
	return SettingsRow{scope.Level, scope.Purpose, scope.Assessment, scope.Thing, key, before, after}
}

func said(book *settings.Book, scope settings.Scope, key string) *SettingSaid {
	s, ok := book.Said(scope, key)
	if !ok {
		return nil
	}
	return &SettingSaid{s.Value, s.Lock}
}

func same(a, b *SettingSaid) bool {
	if a == nil || b == nil {
		return a == b
	}
	return string(a.Value) == string(b.Value) && a.Lock == b.Lock
}

// PutSettings lets a place say something of settings, all at once or nothing. keep names assessments that a change for all
// leaves as they are, beside those where somebody has begun and it may not change any more.
func (a *Give) PutSettings(ctx context.Context, v roster.Viewer, p settings.Place, changes []SettingChange, keep []int64) (SettingsView, error) {
	var view SettingsView
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := a.stand(ctx, tx.Reader, v, p)
		if err != nil {
			return err
		}
		w, err := a.weigh(ctx, tx.Reader, v, s, changes, keep)
		if err != nil {
			return err
		}
		if touched, err = a.write(ctx, tx, v, w); err != nil {
			return err
		}
		act := desk.Act{Name: "settings.change", Thing: "assessment", ID: p.Assessment, Title: s.row.Title, After: SettingsNote{1, w.rows}}
		if p.Assessment == 0 {
			act.Thing, act.ID, act.Title = "district", 1, "all assessments"
			if p.Purpose != "" {
				act.Title = "all assessments for " + p.Purpose
			}
		}
		if err := a.Record(ctx, tx, v, act); err != nil {
			return err
		}
		view, err = a.settingsView(ctx, tx.Reader, v, p)
		view.Wrote = w.rows
		return err
	})
	if err == nil {
		a.changed(touched)
	}
	return view, err
}

// LookAtSettings tells what a change would do, and changes nothing.
func (a *Give) LookAtSettings(ctx context.Context, v roster.Viewer, p settings.Place, changes []SettingChange, keep []int64) ([]Affected, error) {
	s, err := a.stand(ctx, a.Store.Reader, v, p)
	if err != nil {
		return nil, err
	}
	w, err := a.weigh(ctx, a.Store.Reader, v, s, changes, keep)
	return w.affected, err
}

// rowsOf checks changes and makes them rows.
func rowsOf(s standing, book *settings.Book, changes []SettingChange) ([]SettingsRow, error) {
	at := book.At(s.place)
	var out []SettingsRow
	var invalid desk.InvalidError
	for i, c := range changes {
		one, known := settings.ByKey(c.Key)
		if !known {
			return nil, desk.Invalid(fmt.Sprintf("/changes/%d/key", i), "There is no setting %q.", c.Key)
		}
		if ok, why := s.mayChange(one, at[c.Key]); !ok {
			if s.may {
				return nil, desk.Conflict("%s: %s", one.Name, why)
			}
			return nil, desk.ErrForbidden
		}
		here, says := book.Said(s.scope, c.Key)
		if says != (c.Was != nil) || says && string(here.Value) != string(c.Was) {
			return nil, desk.StaleBy(who(here))
		}
		row := rowOf(s.scope, c.Key, said(book, s.scope, c.Key), nil)
		if c.Value != nil {
			value, err := one.Check(c.Value)
			if err != nil {
				invalid.Add(fmt.Sprintf("/changes/%d/value", i), one.Name+": "+err.Error())
				continue
			}
			row.After = &SettingSaid{value, c.Lock}
		}
		if !same(row.Before, row.After) {
			out = append(out, row)
		}
	}
	if len(invalid.Fields) > 0 {
		return nil, &invalid
	}
	return out, nil
}

func who(s settings.Stand) string {
	if s.By == "" {
		return "Somebody else"
	}
	return s.By
}

// write keeps what was weighed: values, what is in force at sittings, and the terms of who works. It gives the sittings
// where something changed.
func (a *Give) write(ctx context.Context, tx *store.Tx, v roster.Viewer, w weighed) ([]int64, error) {
	now := a.Now()
	for _, row := range w.rows {
		var err error
		if row.After == nil {
			err = giverows.DropSetting(ctx, tx, row.scope(), row.Key)
		} else {
			err = giverows.PutSetting(ctx, tx, row.scope(), row.Key, settings.Stand{Value: row.After.Value, Lock: row.After.Lock, By: v.Name, At: now}, v.PersonID)
		}
		if err != nil {
			return nil, err
		}
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return nil, err
	}
	var touched []int64
	for _, sat := range w.sats {
		if err := a.setUp(ctx, tx, sat.Sat, sat.after, sat.shut, zone); err != nil {
			return nil, err
		}
		touched = append(touched, sat.SittingID)
	}
	return touched, nil
}

// ErrNothingToUndo is where what a change wrote does not stand any more.
var ErrNothingToUndo = errors.New("this was changed again meanwhile")

// UndoSettings takes back a change, all of it, where all that it wrote still stands.
func (a *Give) UndoSettings(ctx context.Context, v roster.Viewer, p settings.Place, rows []SettingsRow) (SettingsView, error) {
	var view SettingsView
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := a.stand(ctx, tx.Reader, v, p)
		if err != nil {
			return err
		}
		if !s.may {
			return desk.ErrForbidden
		}
		book, err := giverows.BookOf(ctx, tx.Reader, append(assessmentsOf(rows), p.Assessment))
		if err != nil {
			return err
		}
		back := make([]SettingsRow, len(rows))
		for i, row := range rows {
			if err := ofPlace(s, book, row); err != nil {
				return err
			}
			if !same(said(book, row.scope(), row.Key), row.After) {
				return desk.Conflict("%s", desk.Sentence(ErrNothingToUndo.Error()))
			}
			back[i] = row
			back[i].Before, back[i].After = row.After, row.Before
		}
		w, err := a.weighRows(ctx, tx.Reader, s, back)
		if err != nil {
			return err
		}
		if touched, err = a.write(ctx, tx, v, w); err != nil {
			return err
		}
		if err := a.Record(ctx, tx, v, desk.Act{Name: "settings.undo", Thing: thingOf(p), ID: max(1, p.Assessment), Title: s.row.Title, After: SettingsNote{1, back}}); err != nil {
			return err
		}
		view, err = a.settingsView(ctx, tx.Reader, v, p)
		return err
	})
	if err == nil {
		a.changed(touched)
	}
	return view, err
}

func thingOf(p settings.Place) string {
	if p.Assessment > 0 {
		return "assessment"
	}
	return "district"
}

func assessmentsOf(rows []SettingsRow) []int64 {
	var out []int64
	for _, row := range rows {
		if row.Assessment > 0 && !slices.Contains(out, row.Assessment) {
			out = append(out, row.Assessment)
		}
	}
	return out
}

// ofPlace refuses to take back what this place could not have changed: its own values, and those that kept
// assessments as they were when what is for all changed.
func ofPlace(s standing, book *settings.Book, row SettingsRow) error {
	own := row.scope() == s.scope
	kept := s.scope.Assessment == 0 && s.scope.Level != settings.School && row.Level == settings.Assessment
	if !own && !kept {
		return desk.ErrForbidden
	}
	one, known := settings.ByKey(row.Key)
	if !known {
		return desk.ErrNotFound
	}
	if kept && !one.At(settings.Assessment) {
		return desk.ErrForbidden
	}
	// What may not be said here by changing may not be said by taking back either.
	if ok, why := s.mayChange(one, book.At(s.place)[row.Key]); own && !ok {
		return desk.Conflict("%s: %s", one.Name, why)
	}
	if row.Before != nil {
		if _, err := one.Check(row.Before.Value); err != nil {
			return desk.Invalid("/rows", "%s", err)
		}
	}
	return nil
}
