package give

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// EntryView is an entry in words, with what it comes to.
type EntryView struct {
	roster.Entry
	Words string
	roster.Count
}

// Named is a student with what is said of them.
type Named struct {
	Student int64
	Name    string
	Text    string
}

// resolved is whom a distribution goes to, with all that was asked to find out.
type resolved struct {
	whom     roster.Whom
	sections []officerows.Section // those that the assessment fits, and others of people who are named
	fits     map[int64]bool       // of those, which the assessment fits
	students []officerows.Enrolled
	named    map[int64]string // students whose names are wanted
	came     roster.Aim       // what the entries come to
	groups   []giverows.Group
	members  map[int64][]int64
	seating  roster.Seating
}

// candidates are the sections in scope that the assessment may be sent to.
func candidates(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment) ([]officerows.Section, error) {
	return officerows.Sections(ctx, r, v.Scope(), officerows.SectionFilter{Audience: &roster.Audience{Grades: row.Grades, Subject: row.Subject}})
}

// gather finds what entries speak of, among sections in the scope of who asks, without working out who is in them.
func (a *Give) gather(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, whom roster.Whom) (*resolved, error) {
	out := &resolved{whom: whom, fits: map[int64]bool{}}
	var err error
	if out.sections, err = candidates(ctx, r, v, row); err != nil {
		return nil, err
	}
	for _, s := range out.sections {
		out.fits[s.ID] = true
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return nil, err
	}
	if out.groups, err = giverows.GroupsOf(ctx, r, v.PersonID, whom.Groups()); err != nil {
		return nil, err
	}
	if out.members, err = giverows.MembersOf(ctx, r, v.Scope(), whom.Groups(), a.Now().In(zone).Format(time.DateOnly)); err != nil {
		return nil, err
	}
	return out, out.addSectionsOf(ctx, r, v)
}

// resolve works out whom entries mean.
func (a *Give) resolve(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, whom roster.Whom) (*resolved, error) {
	out, err := a.gather(ctx, r, v, row, whom)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(out.sections))
	for i, s := range out.sections {
		ids[i] = s.ID
	}
	if out.students, err = officerows.EnrolledIn(ctx, r, ids); err != nil {
		return nil, err
	}
	of := map[int64][]int64{}
	for _, s := range out.students {
		of[s.SectionID] = append(of[s.SectionID], s.StudentID)
	}
	rooms := make([]roster.Candidate, len(out.sections))
	for i, s := range out.sections {
		rooms[i] = roster.Candidate{ID: s.ID, School: s.SchoolID, Course: s.CourseID, Grades: s.Grades, Fits: out.fits[s.ID],
			Teaches: slices.Contains(s.Subjects, row.Subject), Students: of[s.ID]}
	}
	out.seating = whom.Resolve(rooms, out.members)
	out.came = out.aim()
	return out, out.nameStudents(ctx, r, v.Scope())
}

// nameStudents reads the names of those who are spoken of: in entries, in two sections, in none. Students of other schools, whom
// somebody else has named, stay unnamed.
func (w *resolved) nameStudents(ctx context.Context, r store.Reader, scope roster.Scope) error {
	ids := slices.Clone(w.seating.Nowhere)
	for _, c := range w.seating.Twice {
		ids = append(ids, c.Student)
	}
	for _, e := range w.whom.Entries {
		ids = append(ids, e.Students...)
	}
	if !scope.District {
		sections := make([]int64, len(w.sections))
		for i, s := range w.sections {
			sections[i] = s.ID
		}
		var err error
		if ids, err = officerows.StudentsAmong(ctx, r, sections, ids); err != nil {
			return err
		}
	}
	names, err := officerows.RosterNames(ctx, r, ids)
	w.named = make(map[int64]string, len(names))
	for id, n := range names {
		w.named[id] = n.Name
	}
	return err
}

// addSectionsOf adds the sections of people who are named, which the assessment need not fit.
func (w *resolved) addSectionsOf(ctx context.Context, r store.Reader, v roster.Viewer) error {
	named := w.whom.Named(w.members)
	if len(named) == 0 {
		return nil
	}
	more, err := officerows.SectionsWith(ctx, r, v.Scope(), named)
	if err != nil {
		return err
	}
	for _, s := range more {
		if !w.fits[s.ID] {
			w.sections = append(w.sections, s)
		}
	}
	return nil
}

// aim is what the entries come to: sections, and who of them gets no seat at all.
func (w *resolved) aim() roster.Aim {
	aim := roster.Aim{Sections: []int64{}, LeftOut: []int64{}}
	seated, chosen := map[int64]bool{}, map[int64]bool{}
	for _, s := range w.sections {
		if len(w.seating.Students[s.ID]) > 0 || w.chosen(s) {
			aim.Sections, chosen[s.ID] = append(aim.Sections, s.ID), true
		}
		for _, student := range w.seating.Students[s.ID] {
			seated[student] = true
		}
	}
	for _, s := range w.students {
		if chosen[s.SectionID] && !seated[s.StudentID] {
			aim.LeftOut, seated[s.StudentID] = append(aim.LeftOut, s.StudentID), true
		}
	}
	return aim
}

// chosen tells whether a section without a student in it is named all the same: preflight tells of it.
func (w *resolved) chosen(s officerows.Section) bool {
	if s.Students > 0 {
		return false
	}
	in := false
	for _, e := range w.whom.Entries {
		if len(e.Sections) > 0 && slices.Contains(e.Sections, s.ID) {
			in = !e.Out
		}
	}
	return in
}

// check refuses entries that name what who asks cannot choose. What was kept before stands in nobody's way: the outline or the rosters
// may have changed since.
func (w *resolved) check(who int64, kept roster.Whom) error {
	known, in := map[string]bool{}, map[int64]bool{}
	for _, e := range kept.Entries {
		for name, ids := range map[string][]int64{"schools": e.Schools, "courses": e.Courses, "sections": e.Sections, "students": e.Students, "groups": e.Groups} {
			for _, id := range ids {
				known[fmt.Sprint(name, id)] = true
			}
		}
	}
	for _, s := range w.sections {
		known[fmt.Sprint("schools", s.SchoolID)], known[fmt.Sprint("courses", s.CourseID)], known[fmt.Sprint("sections", s.ID)] = true, true, true
	}
	for _, s := range w.students {
		in[s.StudentID] = true
	}
	for _, g := range w.groups {
		if g.OwnerID == who {
			known[fmt.Sprint("groups", g.ID)] = true
		}
	}
	for i, e := range w.whom.Entries {
		for _, list := range []struct {
			name string
			ids  []int64
			text string
		}{
			{"schools", e.Schools, "A school has no section that this assessment fits, or is not yours."},
			{"courses", e.Courses, "A course has no section that this assessment fits."},
			{"sections", e.Sections, "A chosen section is not one of this assessment's grades and subject."},
			{"students", e.Students, "A student is in none of your sections."},
			{"groups", e.Groups, "A group is not yours, or not there any more."},
		} {
			for k, id := range list.ids {
				if slices.Contains(list.ids[:k], id) {
					return desk.Invalid(fmt.Sprintf("/entries/%d/%s/%d", i, list.name, k), "It is chosen twice.")
				}
				// Who is left out may have moved since: that needs no mending.
				if !known[fmt.Sprint(list.name, id)] && !e.Out && (list.name != "students" || !in[id]) {
					return desk.Invalid(fmt.Sprintf("/entries/%d/%s/%d", i, list.name, k), "%s", list.text)
				}
			}
		}
	}
	return nil
}

// SeatedOnce is a student of several chosen sections, with the sections in which they do not sit.
type SeatedOnce struct {
	Named
	Others []SectionNamed
}

// SectionNamed is a section by its name.
type SectionNamed struct {
	ID    int64
	Title string
}

// show puts whom it goes to into a view.
func (w *resolved) show(view *DistributionView) {
	view.Whom, view.Groups, view.whom = w.whom, groupsShown(w.groups), w
	names := w.names()
	for i, e := range w.whom.Entries {
		view.Entries = append(view.Entries, EntryView{e, names.words(e), w.seating.Account[i]})
	}
	for _, s := range w.sections {
		if w.fits[s.ID] {
			view.Candidates = append(view.Candidates, s)
		}
	}
	view.Total = w.seating.Total()
	for _, c := range w.seating.Twice {
		one := SeatedOnce{Named: Named{c.Student, names.students[c.Student], fmt.Sprintf("%s; also in %s", names.sections[c.In], listed(c.Not, names.sections))}}
		for _, id := range c.Not {
			one.Others = append(one.Others, SectionNamed{id, names.sections[id]})
		}
		view.Twice = append(view.Twice, one)
	}
	for _, s := range w.seating.Nowhere {
		view.Nowhere = append(view.Nowhere, names.students[s])
	}
}

// spoken are the names of what entries speak of.
type spoken struct {
	schools, courses, sections, students, groups map[int64]string
}

func (w *resolved) names() spoken {
	n := spoken{map[int64]string{}, map[int64]string{}, map[int64]string{}, w.named, map[int64]string{}}
	for _, s := range w.sections {
		n.schools[s.SchoolID], n.courses[s.CourseID], n.sections[s.ID] = s.School, s.Course, s.Title+", "+s.School
	}
	for _, g := range w.groups {
		n.groups[g.ID] = g.Name
	}
	return n
}

// words says an entry as a person would: "All sections of Reading 5 in grade 5".
func (n spoken) words(e roster.Entry) string {
	var text string
	switch {
	case len(e.Groups) > 0:
		text = "The group " + listed(e.Groups, n.groups)
	case len(e.Students) > 0:
		text = listed(e.Students, n.students)
	case len(e.Sections) > 0:
		text = listed(e.Sections, n.sections)
	case len(e.Courses) > 0:
		text = "All sections of " + listed(e.Courses, n.courses)
	default:
		text = "All sections"
	}
	if len(e.Grades) > 0 {
		grades := make([]string, len(e.Grades))
		for i, g := range e.Grades {
			grades[i] = roster.GradeName(g)
		}
		text += " in " + strings.Join(grades, ", ")
	}
	if len(e.Schools) > 0 {
		text += " at " + listed(e.Schools, n.schools)
	}
	return text
}

// listed names three at most and counts the rest.
func listed(ids []int64, names map[int64]string) string {
	const most = 3
	var out []string
	for i, id := range ids {
		if i == most {
			return strings.Join(out, "; ") + fmt.Sprintf(" and %d more", len(ids)-most)
		}
		name, known := names[id]
		if !known {
			name = "one that is not here"
		}
		out = append(out, name)
	}
	return strings.Join(out, "; ")
}
