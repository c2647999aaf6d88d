package supports

import (
	"context"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/officerows"
)

// Profile is what a student has.
type Profile struct {
	Student  officerows.Pupil
	Entries  []officerows.ProfileEntry // what stands, then what ended, the newest first
	Today    string                    // in the district's zone
	Grounds  []string
	Subjects []string
	MayEnter bool
	// SeesGrounds tells whether who asks sees on what grounds; else they are left out.
	SeesGrounds bool
}

// Profile gives what a student has, to who teaches or coordinates them. Each look is in the ledger.
func (a *Supports) Profile(ctx context.Context, v roster.Viewer, student int64) (Profile, error) {
	p, err := a.profile(ctx, a.Store.Reader, v, student)
	if err != nil {
		return p, err
	}
	return p, a.looked(ctx, v, "student", student, named(p.Student.Name, p.Student.Number))
}

func (a *Supports) profile(ctx context.Context, r store.Reader, v roster.Viewer, student int64) (Profile, error) {
	out := Profile{MayEnter: v.MayEnterSupports(), SeesGrounds: v.MayReadGrounds()}
	if !v.MayReadSupports() {
		return out, desk.ErrForbidden
	}
	var err error
	if out.Student, err = officerows.PupilInScope(ctx, r, v.Scope(), student); err != nil {
		return out, err
	}
	if out.Entries, err = officerows.ProfileOf(ctx, r, student); err != nil {
		return out, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return out, err
	}
	out.Today = a.Now().In(zone).Format(time.DateOnly)
	if !out.SeesGrounds {
		for i := range out.Entries {
			out.Entries[i].Ground = ""
		}
		return out, nil
	}
	if out.Grounds, err = officerows.Grounds(ctx, r); err != nil {
		return out, err
	}
	out.Subjects, err = officerows.Subjects(ctx, r)
	return out, err
}

// Entry is a support as it is entered.
type Entry struct {
	support.Have
	Replaces int64 // the entry that it takes the place of; 0 for none
}

// mostAtOnce bounds how many students one entry is for.
const mostAtOnce = 500

// Enter gives students a support, all of them or none. Who works gets it at once.
func (a *Supports) Enter(ctx context.Context, v roster.Viewer, students []int64, e Entry) error {
	if !v.MayEnterSupports() {
		return desk.ErrForbidden
	}
	if len(students) == 0 || len(students) > mostAtOnce || e.Replaces > 0 && len(students) != 1 {
		return desk.Invalid("/students", "Choose 1 to %d students.", mostAtOnce)
	}
	subjects, err := officerows.Subjects(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	grounds, err := officerows.Grounds(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	have, err := e.Check(subjects)
	if err != nil {
		return desk.Invalid("/entry", "%s", err)
	}
	if have.Ground != "" && !slices.Contains(grounds, have.Ground) {
		return desk.Invalid("/entry/ground", "%q is none of the district's grounds.", have.Ground)
	}
	var touched []int64
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		for _, student := range students {
			if err := a.enter(ctx, tx, v, student, Entry{have, e.Replaces}); err != nil {
				return err
			}
		}
		touched, err = a.Reapply(ctx, tx, students)
		return err
	})
	if err == nil {
		a.changed(touched)
	}
	return err
}

func (a *Supports) enter(ctx context.Context, tx *store.Tx, v roster.Viewer, student int64, e Entry) error {
	pupil, err := officerows.PupilInScope(ctx, tx.Reader, v.Scope(), student)
	if err != nil {
		return err
	}
	act := desk.Act{Name: "profile.add", Thing: "student", ID: student, Title: named(pupil.Name, pupil.Number), After: support.NoteOf(e.Have, "")}
	if e.Replaces > 0 {
		old, err := a.standing(ctx, tx, student, e.Replaces)
		if err != nil {
			return err
		}
		if err := officerows.EndInProfile(ctx, tx, old.ID, v, store.Millis(a.Now())); err != nil {
			return err
		}
		act.Name, act.Before = "profile.change", support.NoteOf(old.Have, "")
	}
	stands, err := officerows.StandingOf(ctx, tx.Reader, student)
	if err != nil {
		return err
	}
	all := []support.Have{e.Have}
	for _, s := range stands {
		if s.Key == e.Key {
			all = append(all, s.Have)
		}
	}
	if err := support.CheckAll(all); err != nil {
		return desk.Conflict("%s: %s", pupil.Name, err)
	}
	if _, err := officerows.AddToProfile(ctx, tx, student, e.Have, "", v, store.Millis(a.Now())); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, act)
}

// standing finds an entry of a student's profile that has not ended.
func (a *Supports) standing(ctx context.Context, tx *store.Tx, student, id int64) (officerows.ProfileEntry, error) {
	old, err := officerows.ProfileEntryByID(ctx, tx.Reader, id)
	if err != nil {
		return old, err
	}
	if old.StudentID != student {
		return old, desk.ErrNotFound
	}
	if old.EndedAt > 0 {
		return old, desk.StaleBy(old.EndedBy)
	}
	return old, nil
}

// End takes a support out of a profile from now on. Who works with it keeps it until they hand in.
func (a *Supports) End(ctx context.Context, v roster.Viewer, student, id int64) (Profile, error) {
	if !v.MayEnterSupports() {
		return Profile{}, desk.ErrForbidden
	}
	var out Profile
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		pupil, err := officerows.PupilInScope(ctx, tx.Reader, v.Scope(), student)
		if err != nil {
			return err
		}
		old, err := a.standing(ctx, tx, student, id)
		if err != nil {
			return err
		}
		if err := officerows.EndInProfile(ctx, tx, id, v, store.Millis(a.Now())); err != nil {
			return err
		}
		if err := a.Record(ctx, tx, v, desk.Act{Name: "profile.end", Thing: "student", ID: student, Title: named(pupil.Name, pupil.Number), Before: support.NoteOf(old.Have, old.Came)}); err != nil {
			return err
		}
		out, err = a.profile(ctx, tx.Reader, v, student)
		return err
	})
	return out, err
}

// Mine gives a student what they have, in force today or later; on what ground is not told.
func (a *Supports) Mine(ctx context.Context, v roster.Viewer) ([]support.Have, error) {
	if !v.IsStudent() {
		return nil, desk.ErrForbidden
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return nil, err
	}
	entries, err := officerows.StandingOf(ctx, a.Store.Reader, v.PersonID)
	if err != nil {
		return nil, err
	}
	today := a.Now().In(zone).Format(time.DateOnly)
	var out []support.Have
	for _, e := range entries {
		if e.To == "" || e.To >= today {
			e.Ground = ""
			out = append(out, e.Have)
		}
	}
	return out, nil
}

// Exported is a student with what stands in their profile.
type Exported struct {
	officerows.RosterNamed
	Haves []support.Have
}

// mostExported students are gathered at a time.
const mostExported = 500

// Export walks the profiles of students in scope, some at a time.
func (a *Supports) Export(ctx context.Context, v roster.Viewer, take func(Exported) error) error {
	if !v.MayReadGrounds() {
		return desk.ErrForbidden
	}
	if err := a.looked(ctx, v, "district", 1, "all profiles"); err != nil {
		return err
	}
	for after := int64(0); ; {
		entries, err := officerows.StandingAll(ctx, a.Store.Reader, v.Scope(), after, mostExported)
		if err != nil || len(entries) == 0 {
			return err
		}
		var ids []int64
		for _, e := range entries {
			if len(ids) == 0 || ids[len(ids)-1] != e.StudentID {
				ids = append(ids, e.StudentID)
			}
		}
		names, err := officerows.RosterNames(ctx, a.Store.Reader, ids)
		if err != nil {
			return err
		}
		for _, id := range ids {
			one := Exported{RosterNamed: names[id]}
			for _, e := range entries {
				if e.StudentID == id {
					one.Haves = append(one.Haves, e.Have)
				}
			}
			if err := take(one); err != nil {
				return fmt.Errorf("profile of %s: %w", one.Number, err)
			}
		}
		after = ids[len(ids)-1]
	}
}
