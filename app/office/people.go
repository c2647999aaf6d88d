package office

import (
	"context"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store/officerows"
)

// StudentsOfSection lists a section's students, for leaving some out.
func (a *Office) StudentsOfSection(ctx context.Context, v roster.Viewer, section int64) ([]officerows.SectionStudent, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	sections, err := officerows.Sections(ctx, a.Store.Reader, v.Scope(), officerows.SectionFilter{IDs: []int64{section}})
	if err != nil {
		return nil, err
	}
	if len(sections) == 0 {
		return nil, desk.ErrNotFound
	}
	return officerows.StudentsOf(ctx, a.Store.Reader, []int64{section})
}

// Schools lists the schools in scope.
func (a *Office) Schools(ctx context.Context, v roster.Viewer) ([]officerows.School, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	return officerows.Schools(ctx, a.Store.Reader, v.Scope())
}

// SectionsOf lists a school's sections in scope.
func (a *Office) SectionsOf(ctx context.Context, v roster.Viewer, school int64) ([]officerows.Section, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	sections, err := officerows.Sections(ctx, a.Store.Reader, v.Scope(), officerows.SectionFilter{SchoolID: school})
	if err == nil && len(sections) == 0 {
		err = desk.ErrNotFound
	}
	return sections, err
}

// mostFound is how many sections, and how many students, a search gives.
const mostFound = 6

// Find gives the sections and students that a viewer may see by words of their names, or a student's number.
func (a *Office) Find(ctx context.Context, v roster.Viewer, words string) ([]officerows.Found, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	words = strings.TrimSpace(words)
	if utf8.RuneCountInString(words) < 2 {
		return []officerows.Found{}, nil
	}
	return officerows.Find(ctx, a.Store.Reader, v.Scope(), words, mostFound)
}
