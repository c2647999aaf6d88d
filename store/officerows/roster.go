package officerows

import (
	"context"
	"slices"

	"pineledger/core/roster"
	"pineledger/store/sqlite"
)

// InScope narrows a query over sections s to what a viewer reaches.
func InScope(w *sqlite.Where, s roster.Scope) { InScopeOr(w, s, "0") }

// InScopeOr lets in besides what meets another condition.
func InScopeOr(w *sqlite.Where, s roster.Scope, other string, args ...any) {
	if s.District {
		return
	}
	schools, schoolArgs := sqlite.In("s.school_id", s.Schools)
	sections, sectionArgs := sqlite.In("s.id", s.Sections)
	w.Add("("+schools+" OR "+sections+" OR "+other+")", slices.Concat(schoolArgs, sectionArgs, args)...)
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
func Schools(ctx context.Context, r sqlite.Reader, scope roster.Scope) ([]School, error) {
	var w sqlite.Where
	w.Add("s.active = 1")
	InScope(&w, scope)
	var out []School
	err := r.List(ctx, &out, `SELECT c.id, c.name, COUNT(DISTINCT s.id) AS sections,
			COUNT(DISTINCT CASE WHEN e.role = 'student' THEN e.person_id END) AS students,
			COUNT(DISTINCT CASE WHEN e.role = 'teacher' THEN e.person_id END) AS teachers
		FROM section s JOIN school c ON c.id = s.school_id
		LEFT JOIN enrolment e ON e.section_id = s.id AND e.active = 1`+w.String()+` GROUP BY c.id ORDER BY c.name`, w.Args...)
	return out, err
}

// SchoolInScope gives the name of a school of which some section lies within the scope, or ErrNotFound.
func SchoolInScope(ctx context.Context, r sqlite.Reader, scope roster.Scope, id int64) (string, error) {
	var w sqlite.Where
	w.Add("c.id = ? AND s.active = 1", id)
	InScope(&w, scope)
	var name string
	err := r.Get(ctx, &name, "SELECT c.name FROM school c JOIN section s ON s.school_id = c.id"+w.String()+" LIMIT 1", w.Args...)
	return name, err
}

// Section is a section with its teacher and how many students it has.
type Section struct {
	ID       int64       `db:"id"`
	SchoolID int64       `db:"school_id"`
	School   string      `db:"school"`
	Title    string      `db:"title"`
	CourseID int64       `db:"course_id"`
	Course   string      `db:"course"`
	Subjects sqlite.List `db:"subjects"` // of its course
	Grade    string      `db:"grade"`    // the first of its grades
	Grades   sqlite.List `db:"grades"`
	Teacher  string      `db:"teacher"`
	Teachers int         `db:"teachers"`
	Students int         `db:"students"`
}

// SectionFilter narrows the sections; zero values do not.
type SectionFilter struct {
	SchoolID int64
	Audience *roster.Audience
	IDs      []int64
}

// Sections lists sections in scope by school, grade and title.
func Sections(ctx context.Context, r sqlite.Reader, scope roster.Scope, f SectionFilter) ([]Section, error) {
	var w sqlite.Where
	w.Add("s.active = 1")
	InScope(&w, scope)
	if f.SchoolID > 0 {
		w.Add("s.school_id = ?", f.SchoolID)
	}
	if f.Audience != nil { // as Audience.Takes does
		condition, args := sqlite.In("g.value", f.Audience.Grades)
		w.Add("EXISTS (SELECT 1 FROM json_each(s.grades) g WHERE "+condition+")", args...)
		if f.Audience.Subject != "" {
			w.Add("EXISTS (SELECT 1 FROM json_each(k.subjects) WHERE value = ?)", f.Audience.Subject)
		}
	}
	if f.IDs != nil {
		condition, args := sqlite.In("s.id", f.IDs)
		w.Add(condition, args...)
	}
	var out []Section
	err := r.List(ctx, &out, `SELECT s.id, s.school_id, c.name AS school, s.title, s.course_id, k.title AS course, k.subjects, s.grade, s.grades,
			COALESCE((SELECT MIN(p.given || ' ' || p.family) FROM enrolment e JOIN person p ON p.id = e.person_id
				WHERE e.section_id = s.id AND e.role = 'teacher' AND e.active = 1), '') AS teacher,
			(SELECT COUNT(*) FROM enrolment e WHERE e.section_id = s.id AND e.role = 'teacher' AND e.active = 1) AS teachers,
			(SELECT COUNT(*) FROM enrolment e JOIN person p ON p.id = e.person_id
				WHERE e.section_id = s.id AND e.role = 'student' AND e.active = 1 AND p.active = 1) AS students
		FROM section s JOIN school c ON c.id = s.school_id JOIN course k ON k.id = s.course_id`+
		w.String()+" ORDER BY c.name, CASE s.grade WHEN 'KG' THEN '00' ELSE s.grade END, s.title", w.Args...)
	return out, err
}

// SectionsWith lists the sections in scope in which some students are.
func SectionsWith(ctx context.Context, r sqlite.Reader, scope roster.Scope, students []int64) ([]Section, error) {
	var ids []int64
	if err := r.List(ctx, &ids, `SELECT DISTINCT e.section_id FROM enrolment e
		WHERE e.person_id IN (SELECT value FROM json_each(?)) AND e.role = 'student' AND e.active = 1`, sqlite.JsonIDs(students)); err != nil {
		return nil, err
	}
	return Sections(ctx, r, scope, SectionFilter{IDs: append([]int64{}, ids...)})
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
func StudentsOf(ctx context.Context, r sqlite.Reader, sections []int64) ([]SectionStudent, error) {
	condition, args := sqlite.In("e.section_id", sections)
	var out []SectionStudent
	err := r.List(ctx, &out, `SELECT e.section_id, p.id, p.number, p.given, p.family, p.grade
		FROM enrolment e JOIN person p ON p.id = e.person_id
		WHERE `+condition+` AND e.role = 'student' AND e.active = 1 AND p.active = 1 ORDER BY p.family, p.given, p.id`, args...)
	return out, err
}

// Enrolled is a student in a section, without anything else.
type Enrolled struct {
	SectionID int64 `db:"section_id"`
	StudentID int64 `db:"person_id"`
}

// NameOrder lists the students of sections by name.
func NameOrder(ctx context.Context, r sqlite.Reader, sections []int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, `SELECT p.id FROM person p WHERE p.id IN (SELECT e.person_id FROM enrolment e
		WHERE e.section_id IN (SELECT value FROM json_each(?)) AND e.role = 'student' AND e.active = 1) ORDER BY p.family, p.given, p.id`, sqlite.JsonIDs(sections))
	return out, err
}

// EnrolledIn lists who is in sections, by section: what choosing among all of a district needs.
func EnrolledIn(ctx context.Context, r sqlite.Reader, sections []int64) ([]Enrolled, error) {
	rows, err := r.Query(ctx, `SELECT e.section_id, e.person_id FROM enrolment e JOIN person p ON p.id = e.person_id AND p.active = 1
		WHERE e.section_id IN (SELECT value FROM json_each(?)) AND e.role = 'student' AND e.active = 1 ORDER BY e.section_id, e.person_id`, sqlite.JsonIDs(sections))
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Enrolled
	for rows.Next() {
		var e Enrolled
		if err := rows.Scan(&e.SectionID, &e.StudentID); err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	return out, rows.Err()
}

// WithoutSecret counts those of an aim who have no PIN and no password.
func WithoutSecret(ctx context.Context, r sqlite.Reader, aim roster.Aim) (n int, err error) {
	err = r.Get(ctx, &n, `SELECT COUNT(DISTINCT p.id) FROM enrolment e JOIN person p ON p.id = e.person_id
		WHERE e.section_id IN (SELECT value FROM json_each(?)) AND e.role = 'student' AND e.active = 1 AND p.active = 1 AND p.secret = ''
			AND p.id NOT IN (SELECT value FROM json_each(?))`, sqlite.JsonIDs(aim.Sections), sqlite.JsonIDs(aim.LeftOut))
	return n, err
}

// Found is a section, or a student in one of their sections.
type Found struct {
	StudentID int64  `db:"student_id"` // 0 for a section
	Name      string `db:"name"`
	SectionID int64  `db:"section_id"`
	Section   string `db:"section"`
	SchoolID  int64  `db:"school_id"`
	School    string `db:"school"`
	Grade     string `db:"grade"`
}

// Find gives the sections whose title or course holds some words and the students whose name holds them
// or whose number it is, each student in the first of their sections in scope; so many of each at most.
func Find(ctx context.Context, r sqlite.Reader, scope roster.Scope, words string, most int) ([]Found, error) {
	like := "%" + sqlite.EscapeLike(words) + "%"
	var sections sqlite.Where
	sections.Add("s.active = 1")
	InScope(&sections, scope)
	sections.Add(`(s.title LIKE ? ESCAPE '\' OR k.title LIKE ? ESCAPE '\')`, like, like)
	var out []Found
	if err := r.List(ctx, &out, `SELECT 0 AS student_id, s.title AS name, s.id AS section_id, s.title AS section, s.school_id, c.name AS school, s.grade
		FROM section s JOIN school c ON c.id = s.school_id JOIN course k ON k.id = s.course_id`+sections.String()+" ORDER BY s.title, s.id LIMIT ?", append(sections.Args, most)...); err != nil {
		return nil, err
	}
	var students sqlite.Where
	students.Add("s.active = 1 AND e.role = 'student' AND e.active = 1 AND p.active = 1")
	InScope(&students, scope)
	students.Add(`(p.given || ' ' || p.family LIKE ? ESCAPE '\' OR p.number = ?)`, like, words)
	var people []Found
	err := r.List(ctx, &people, `SELECT p.id AS student_id, p.given || ' ' || p.family AS name, MIN(s.id) AS section_id, s.title AS section, s.school_id, c.name AS school, p.grade
		FROM person p JOIN enrolment e ON e.person_id = p.id JOIN section s ON s.id = e.section_id JOIN school c ON c.id = s.school_id`+
		students.String()+" GROUP BY p.id ORDER BY p.family, p.given, p.id LIMIT ?", append(students.Args, most)...)
	return append(out, people...), err
}

// StudentsAmong gives those of some people who are students of sections.
func StudentsAmong(ctx context.Context, r sqlite.Reader, sections, people []int64) ([]int64, error) {
	inSections, args := sqlite.In("section_id", sections)
	isPerson, more := sqlite.In("person_id", people)
	var out []int64
	err := r.List(ctx, &out, "SELECT DISTINCT person_id FROM enrolment WHERE "+inSections+" AND "+isPerson+" AND role = 'student' AND active = 1", append(args, more...)...)
	return out, err
}

// SchoolNamed gives a school's name.
func SchoolNamed(ctx context.Context, r sqlite.Reader, id int64) (string, error) {
	var name string
	err := r.Get(ctx, &name, "SELECT name FROM school WHERE id = ?", id)
	return name, err
}

// Subjects lists those that the district names, and those of its courses and frameworks.
func Subjects(ctx context.Context, r sqlite.Reader) ([]string, error) {
	var out []string
	err := r.List(ctx, &out, `SELECT name FROM subject
		UNION SELECT lower(trim(j.value)) FROM course c, json_each(c.subjects) j WHERE trim(j.value) <> ''
		UNION SELECT lower(trim(subject)) FROM framework WHERE trim(subject) <> '' ORDER BY 1`)
	return out, err
}
