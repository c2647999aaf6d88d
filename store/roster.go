package store

import (
	"context"

	"pineledger/core/roster"
)

// inScope narrows a query over sections s to what a viewer reaches.
func inScope(w *where, s roster.Scope) {
	if s.District {
		return
	}
	schools, schoolArgs := in("s.school_id", s.Schools)
	sections, sectionArgs := in("s.id", s.Sections)
	w.add("("+schools+" OR "+sections+")", append(schoolArgs, sectionArgs...)...)
}

// School is a school with how many sections and students it has.
type School struct {
	ID       int64  `db:"id"`
	Name     string `db:"name"`
	Sections int    `db:"sections"`
	Students int    `db:"students"`
	Teachers int    `db:"teachers"`
}

// Schools lists the schools in scope.
func (r Reader) Schools(ctx context.Context, scope roster.Scope) ([]School, error) {
	var w where
	w.add("s.active = 1")
	inScope(&w, scope)
	var out []School
	err := r.list(ctx, &out, `SELECT c.id, c.name, COUNT(DISTINCT s.id) AS sections,
			COUNT(DISTINCT CASE WHEN e.role = 'student' THEN e.person_id END) AS students,
			COUNT(DISTINCT CASE WHEN e.role = 'teacher' THEN e.person_id END) AS teachers
		FROM section s JOIN school c ON c.id = s.school_id
		LEFT JOIN enrolment e ON e.section_id = s.id AND e.active = 1`+w.String()+` GROUP BY c.id ORDER BY c.name`, w.args...)
	return out, err
}

// Section is a section with its teacher and how many students it has.
type Section struct {
	ID       int64  `db:"id"`
	SchoolID int64  `db:"school_id"`
	School   string `db:"school"`
	Title    string `db:"title"`
	Course   string `db:"course"`
	Grade    string `db:"grade"`
	Teacher  string `db:"teacher"`
	Teachers int    `db:"teachers"`
	Students int    `db:"students"`
}

// SectionFilter narrows the sections; zero values do not.
type SectionFilter struct {
	SchoolID int64
	Grades   []string
	Subject  string // taught by the section's course
	IDs      []int64
}

// Sections lists sections in scope by school, grade and title.
func (r Reader) Sections(ctx context.Context, scope roster.Scope, f SectionFilter) ([]Section, error) {
	var w where
	w.add("s.active = 1")
	inScope(&w, scope)
	if f.SchoolID > 0 {
		w.add("s.school_id = ?", f.SchoolID)
	}
	if f.Grades != nil {
		condition, args := in("s.grade", f.Grades)
		w.add(condition, args...)
	}
	if f.IDs != nil {
		condition, args := in("s.id", f.IDs)
		w.add(condition, args...)
	}
	if f.Subject != "" {
		w.add("EXISTS (SELECT 1 FROM json_each(k.subjects) WHERE value = ?)", f.Subject)
	}
	var out []Section
	err := r.list(ctx, &out, `SELECT s.id, s.school_id, c.name AS school, s.title, k.title AS course, s.grade,
			COALESCE((SELECT MIN(p.given || ' ' || p.family) FROM enrolment e JOIN person p ON p.id = e.person_id
				WHERE e.section_id = s.id AND e.role = 'teacher' AND e.active = 1), '') AS teacher,
			(SELECT COUNT(*) FROM enrolment e WHERE e.section_id = s.id AND e.role = 'teacher' AND e.active = 1) AS teachers,
			(SELECT COUNT(*) FROM enrolment e JOIN person p ON p.id = e.person_id
				WHERE e.section_id = s.id AND e.role = 'student' AND e.active = 1 AND p.active = 1) AS students
		FROM section s JOIN school c ON c.id = s.school_id JOIN course k ON k.id = s.course_id`+
		w.String()+" ORDER BY c.name, CASE s.grade WHEN 'KG' THEN '00' ELSE s.grade END, s.title", w.args...)
	return out, err
}

// SectionStudent is a student's place in a section.
type SectionStudent struct {
	SectionID int64  `db:"section_id"`
	ID        int64  `db:"id"`
	Number    string `db:"number"`
	Given     string `db:"given"`
	Family    string `db:"family"`
	Grade     string `db:"grade"`
}

// StudentsOf lists the students of sections by name.
func (r Reader) StudentsOf(ctx context.Context, sections []int64) ([]SectionStudent, error) {
	condition, args := in("e.section_id", sections)
	var out []SectionStudent
	err := r.list(ctx, &out, `SELECT e.section_id, p.id, p.number, p.given, p.family, p.grade
		FROM enrolment e JOIN person p ON p.id = e.person_id
		WHERE `+condition+` AND e.role = 'student' AND e.active = 1 AND p.active = 1 ORDER BY p.family, p.given, p.id`, args...)
	return out, err
}

// StudentsAmong gives those of some people who are students of sections.
func (r Reader) StudentsAmong(ctx context.Context, sections, people []int64) ([]int64, error) {
	inSections, args := in("section_id", sections)
	isPerson, more := in("person_id", people)
	var out []int64
	err := r.list(ctx, &out, "SELECT DISTINCT person_id FROM enrolment WHERE "+inSections+" AND "+isPerson+" AND role = 'student' AND active = 1", append(args, more...)...)
	return out, err
}

// SchoolNamed gives a school's name.
func (r Reader) SchoolNamed(ctx context.Context, id int64) (string, error) {
	var name string
	err := r.get(ctx, &name, "SELECT name FROM school WHERE id = ?", id)
	return name, err
}
