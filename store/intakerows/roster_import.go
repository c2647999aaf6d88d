package intakerows

import (
	"context"
	"fmt"

	"pineledger/store/sqlite"
)

// Known is a row that an earlier import left, by its id in the source. Digest
// tells whether the source still says the same.
type Known struct {
	ID       int64  `db:"id"`
	SourceID string `db:"source_id"`
	Digest   string `db:"digest"`
}

// knownQueries are the tables that imports compare themselves with.
var knownQueries = map[string]string{
	"district":  "SELECT id, sourced_id AS source_id, digest FROM district",
	"school":    "SELECT id, sourced_id AS source_id, digest FROM school",
	"term":      "SELECT id, sourced_id AS source_id, digest FROM term",
	"course":    "SELECT id, sourced_id AS source_id, digest FROM course",
	"section":   "SELECT id, sourced_id AS source_id, digest FROM section",
	"person":    "SELECT id, sourced_id AS source_id, digest FROM person",
	"post":      "SELECT person_id AS id, sourced_id AS source_id, digest FROM post",
	"enrolment": "SELECT id, sourced_id AS source_id, digest FROM enrolment",
	"standard":  "SELECT id, identifier AS source_id, digest FROM standard",
	"item":      "SELECT id, identifier AS source_id, digest FROM item",
	"passage":   "SELECT id, identifier AS source_id, digest FROM passage",
}

// Known lists what a table holds by source id.
func KnownBy(ctx context.Context, r sqlite.Reader, table string) (map[string]Known, error) {
	query, ok := knownQueries[table]
	if !ok {
		return nil, fmt.Errorf("no source ids in %s", table)
	}
	var rows []Known
	if err := r.List(ctx, &rows, query); err != nil {
		return nil, err
	}
	out := make(map[string]Known, len(rows))
	for _, row := range rows {
		out[row.SourceID] = row
	}
	return out, nil
}

// PutDistrict names the one district; a time zone that was set is kept.
func PutDistrict(ctx context.Context, t *sqlite.Tx, sourcedID, name, zone, digest string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO district (id, sourced_id, name, time_zone, year, digest) VALUES (1, ?, ?, ?, '', ?)
		ON CONFLICT (id) DO UPDATE SET sourced_id = excluded.sourced_id, name = excluded.name, digest = excluded.digest RETURNING id`,
		sourcedID, name, zone, digest)
}

// SetYear sets the school year, as in "2026–27".
func SetYear(ctx context.Context, t *sqlite.Tx, year string) error {
	return t.Exec(ctx, "UPDATE district SET year = ?", year)
}

// PutSchool writes a school and gives its id.
func PutSchool(ctx context.Context, t *sqlite.Tx, sourcedID, name string, active bool, digest string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO school (sourced_id, name, active, digest) VALUES (?, ?, ?, ?)
		ON CONFLICT (sourced_id) DO UPDATE SET name = excluded.name, active = excluded.active, digest = excluded.digest RETURNING id`,
		sourcedID, name, active, digest)
}

// Term is a stretch of a school year.
type Term struct{ SourcedID, Title, Kind, Begins, Ends, Year string }

// PutTerm writes a term.
func PutTerm(ctx context.Context, t *sqlite.Tx, v Term, digest string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO term (sourced_id, title, kind, begins, ends, year, digest) VALUES (?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (sourced_id) DO UPDATE SET title = excluded.title, kind = excluded.kind, begins = excluded.begins,
			ends = excluded.ends, year = excluded.year, digest = excluded.digest RETURNING id`,
		v.SourcedID, v.Title, v.Kind, v.Begins, v.Ends, v.Year, digest)
}

// Course is what sections are taught from.
type Course struct {
	SourcedID, Title, Code string
	Subjects, Grades       sqlite.List
}

// PutCourse writes a course.
func PutCourse(ctx context.Context, t *sqlite.Tx, v Course, digest string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO course (sourced_id, title, code, subjects, grades, digest) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (sourced_id) DO UPDATE SET title = excluded.title, code = excluded.code, subjects = excluded.subjects,
			grades = excluded.grades, digest = excluded.digest RETURNING id`,
		v.SourcedID, v.Title, v.Code, v.Subjects, v.Grades, digest)
}

// SectionRow is a section as an import writes it.
type SectionRow struct {
	SourcedID        string
	SchoolID, Course int64
	Title            string
	Grades           sqlite.List
	Periods          string // names of bell times, commas between
	Active           bool
}

// PutSection writes a section.
func PutSection(ctx context.Context, t *sqlite.Tx, v SectionRow, digest string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO section (sourced_id, school_id, course_id, title, grade, grades, periods, active, digest) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (sourced_id) DO UPDATE SET school_id = excluded.school_id, course_id = excluded.course_id, title = excluded.title,
			grade = excluded.grade, grades = excluded.grades, periods = excluded.periods, active = excluded.active, digest = excluded.digest RETURNING id`,
		v.SourcedID, v.SchoolID, v.Course, v.Title, first(v.Grades), v.Grades, v.Periods, v.Active, digest)
}

// PersonRow is a person as an import writes it. An empty Secret keeps the stored one.
type PersonRow struct {
	SourcedID, Number, Given, Family, Email, Secret string
	Grades                                          sqlite.List
	Active                                          bool
}

// first is the grade that stands for several.
func first(grades []string) string {
	if len(grades) == 0 {
		return ""
	}
	return grades[0]
}

// PutPerson writes a person.
func PutPerson(ctx context.Context, t *sqlite.Tx, v PersonRow, digest string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO person (sourced_id, number, given, family, email, grade, grades, active, secret, digest) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (sourced_id) DO UPDATE SET number = excluded.number, given = excluded.given, family = excluded.family,
			email = excluded.email, grade = excluded.grade, grades = excluded.grades, active = excluded.active, digest = excluded.digest,
			secret = CASE WHEN excluded.secret = '' THEN person.secret ELSE excluded.secret END RETURNING id`,
		v.SourcedID, v.Number, v.Given, v.Family, v.Email, first(v.Grades), v.Grades, v.Active, v.Secret, digest)
}

// Demographics gives what is kept, as JSON objects by person.
func Demographics(ctx context.Context, r sqlite.Reader) (map[int64]string, error) {
	var rows []struct {
		ID           int64  `db:"id"`
		Demographics string `db:"demographics"`
	}
	if err := r.List(ctx, &rows, "SELECT id, demographics FROM person WHERE demographics <> ''"); err != nil {
		return nil, err
	}
	out := make(map[int64]string, len(rows))
	for _, row := range rows {
		out[row.ID] = row.Demographics
	}
	return out, nil
}

// PutDemographics keeps a person's demographics as a JSON object.
func PutDemographics(ctx context.Context, t *sqlite.Tx, person int64, demographics string) error {
	return t.Exec(ctx, "UPDATE person SET demographics = ? WHERE id = ?", demographics, person)
}

// PutPost gives a person a role at a school (0: the district). A role that the
// source moved to somebody or somewhere else leaves its old place.
func PutPost(ctx context.Context, t *sqlite.Tx, sourcedID string, person int64, role string, school int64, digest string) error {
	if err := t.Exec(ctx, "DELETE FROM post WHERE sourced_id = ?", sourcedID); err != nil {
		return err
	}
	return t.Exec(ctx, `INSERT INTO post (person_id, role, school_id, sourced_id, digest) VALUES (?, ?, ?, ?, ?)
		ON CONFLICT (person_id, role, school_id) DO UPDATE SET sourced_id = excluded.sourced_id, digest = excluded.digest`,
		person, role, school, sourcedID, digest)
}

// RemovePost takes a role away that the source marks as to be deleted.
func RemovePost(ctx context.Context, t *sqlite.Tx, sourcedID string) error {
	return t.Exec(ctx, "DELETE FROM post WHERE sourced_id = ?", sourcedID)
}

// PutEnrolment writes a person's place in a section.
func PutEnrolment(ctx context.Context, t *sqlite.Tx, sourcedID string, section, person int64, role string, active bool, digest string) error {
	return t.Exec(ctx, `INSERT INTO enrolment (sourced_id, section_id, person_id, role, active, digest) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (sourced_id) DO UPDATE SET section_id = excluded.section_id, person_id = excluded.person_id,
			role = excluded.role, active = excluded.active, digest = excluded.digest`,
		sourcedID, section, person, role, active, digest)
}
