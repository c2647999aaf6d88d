// Package officerows keeps people, schools, courses and sections.
package officerows

import (
	"context"
	"errors"
	"slices"
	"time"

	"pineledger/core/roster"
	"pineledger/store/sqlite"
)

// Person is somebody of the roster.
type Person struct {
	ID     int64  `db:"id"`
	Number string `db:"number"`
	Given  string `db:"given"`
	Family string `db:"family"`
	Email  string `db:"email"`
	Grade  string `db:"grade"`
	Secret string `db:"secret"`
}

// Name is how the person is called on screens.
func (p Person) Name() string { return p.Given + " " + p.Family }

const personColumns = "p.id, p.number, p.given, p.family, p.email, p.grade, p.secret"

// PersonByID gives an active person.
func PersonByID(ctx context.Context, r sqlite.Reader, id int64) (Person, error) {
	var p Person
	err := r.Get(ctx, &p, "SELECT "+personColumns+" FROM person p WHERE p.id = ? AND p.active = 1", id)
	return p, err
}

// StaffByEmail gives an active person who signs in with an e-mail and a password.
func StaffByEmail(ctx context.Context, r sqlite.Reader, email string) (Person, error) {
	var p Person
	err := r.Get(ctx, &p, "SELECT "+personColumns+` FROM person p WHERE p.email = ? AND p.active = 1
		AND EXISTS (SELECT 1 FROM post WHERE post.person_id = p.id AND post.role <> 'student') LIMIT 1`, email)
	return p, err
}

// StudentByNumber gives an active student who signs in with a number and a PIN.
func StudentByNumber(ctx context.Context, r sqlite.Reader, number string) (Person, error) {
	var p Person
	err := r.Get(ctx, &p, "SELECT "+personColumns+` FROM person p WHERE p.number = ? AND p.active = 1
		AND EXISTS (SELECT 1 FROM post WHERE post.person_id = p.id AND post.role = 'student') LIMIT 1`, number)
	return p, err
}

// Viewer gives what a person's rights are computed from at a moment.
func Viewer(ctx context.Context, r sqlite.Reader, id int64, now time.Time) (roster.Viewer, error) {
	p, err := PersonByID(ctx, r, id)
	if err != nil {
		return roster.Viewer{}, err
	}
	v := roster.Viewer{PersonID: id, Name: p.Name()}
	var posts []struct {
		Role   roster.Role `db:"role"`
		School int64       `db:"school_id"`
	}
	if err := r.List(ctx, &posts, "SELECT role, school_id FROM post WHERE person_id = ? ORDER BY role, school_id", id); err != nil {
		return v, err
	}
	for _, post := range posts {
		v.Posts = append(v.Posts, roster.Post{Role: post.Role, SchoolID: post.School})
	}
	err = r.List(ctx, &v.Sections, `SELECT e.section_id FROM enrolment e JOIN section s ON s.id = e.section_id
		WHERE e.person_id = ? AND e.role IN ('teacher', 'proctor') AND e.active = 1 AND s.active = 1`, id)
	if err != nil {
		return v, err
	}
	var rooms []struct {
		ID     int64 `db:"id"`
		EndsAt int64 `db:"ends_at"`
	}
	err = r.List(ctx, &rooms, "SELECT m.id, MAX(g.ends_at) AS ends_at FROM room m JOIN sitting g ON g.room_id = m.id WHERE m.proctor_id = ? GROUP BY m.id HAVING MAX(g.ends_at) > ?", id, sqlite.Millis(now))
	if err != nil {
		return v, err
	}
	for _, room := range rooms {
		v.Rooms = append(v.Rooms, room.ID)
		v.EndBy(sqlite.Time(room.EndsAt))
	}
	if err := substituted(ctx, r, &v, now); err != nil {
		return v, err
	}
	err = r.List(ctx, &v.Courses, `SELECT s.course_id FROM enrolment e JOIN section s ON s.id = e.section_id
			WHERE e.person_id = ? AND e.role = 'teacher' AND e.active = 1 AND s.active = 1
		UNION SELECT s.course_id FROM post o JOIN section s ON s.school_id = o.school_id AND s.active = 1
			WHERE o.person_id = ? AND o.role = 'school-coordinator'`, id, id)
	if err != nil {
		return v, err
	}
	var departments []struct {
		School  int64  `db:"school_id"`
		Subject string `db:"subject"`
	}
	err = r.List(ctx, &departments, `SELECT DISTINCT s.school_id, j.value AS subject FROM enrolment e JOIN section s ON s.id = e.section_id JOIN course c ON c.id = s.course_id, json_each(c.subjects) j
		WHERE e.person_id = ? AND e.role = 'teacher' AND e.active = 1 AND s.active = 1 ORDER BY s.school_id, subject`, id)
	for _, d := range departments {
		v.Departments = append(v.Departments, roster.Department{SchoolID: d.School, Subject: d.Subject})
	}
	return v, err
}

// substituted gives a substitute the sittings of the day. On any other day, and when the link was taken back, there is no such person.
func substituted(ctx context.Context, r sqlite.Reader, v *roster.Viewer, now time.Time) error {
	if !slices.ContainsFunc(v.Posts, func(p roster.Post) bool { return p.Role == roster.Proctor }) {
		return nil
	}
	var one struct {
		ID      int64 `db:"id"`
		UntilAt int64 `db:"until_at"`
		Today   bool  `db:"today"`
	}
	err := r.Get(ctx, &one, "SELECT id, until_at, from_at <= ?1 AND until_at > ?1 AND ended_at IS NULL AS today FROM substitute WHERE person_id = ?2", sqlite.Millis(now), v.PersonID)
	switch {
	case errors.Is(err, sqlite.ErrNotFound):
		return nil
	case err != nil:
		return err
	case !one.Today:
		return sqlite.ErrNotFound
	}
	v.EndBy(sqlite.Time(one.UntilAt))
	return r.List(ctx, &v.Sittings, "SELECT sitting_id FROM substitute_sitting WHERE substitute_id = ?", one.ID)
}

// AddStaff makes a person outside any roster file: the first coordinator.
func AddStaff(ctx context.Context, t *sqlite.Tx, sourcedID, given, family, email, secret string, role roster.Role) (int64, error) {
	id, err := t.Insert(ctx, `INSERT INTO person (sourced_id, number, given, family, email, grade, active, secret, digest)
		VALUES (?, '', ?, ?, ?, '', 1, ?, '')`, sourcedID, given, family, email, secret)
	if err != nil {
		return 0, err
	}
	return id, t.Exec(ctx, "INSERT INTO post (person_id, role, school_id, sourced_id, digest) VALUES (?, ?, 0, ?, '')", id, role, "post:"+sourcedID)
}

// District is the one district of this database.
type District struct {
	Name     string `db:"name"`
	TimeZone string `db:"time_zone"`
	Year     string `db:"year"`
}

// ReadDistrict gives ErrNotFound until a roster has come in.
func ReadDistrict(ctx context.Context, r sqlite.Reader) (District, error) {
	var d District
	err := r.Get(ctx, &d, "SELECT name, time_zone, year FROM district")
	return d, err
}

// SetTimeZone sets the zone that dates are typed and shown in.
func SetTimeZone(ctx context.Context, t *sqlite.Tx, zone string) error {
	return t.Exec(ctx, "UPDATE district SET time_zone = ?", zone)
}

// SignInPerson is somebody offered on the demo's sign-in page.
type SignInPerson struct {
	ID     int64  `db:"id"`
	Name   string `db:"name"`
	Role   string `db:"role"`
	School string `db:"school"`
	Grade  string `db:"grade"`
}

// PeopleToTry lists a few people of a role, with their school.
func PeopleToTry(ctx context.Context, r sqlite.Reader, role roster.Role, limit int) ([]SignInPerson, error) {
	var out []SignInPerson
	err := r.List(ctx, &out, `SELECT p.id, p.given || ' ' || p.family AS name, post.role, COALESCE(s.name, '') AS school, p.grade
		FROM post JOIN person p ON p.id = post.person_id LEFT JOIN school s ON s.id = post.school_id
		WHERE post.role = ? AND p.active = 1 AND NOT EXISTS (SELECT 1 FROM substitute b WHERE b.person_id = p.id) ORDER BY p.id LIMIT ?`, role, limit)
	return out, err
}

// PeopleOfSitting lists teachers and a few students of a sitting, for the demo's sign-in page.
func PeopleOfSitting(ctx context.Context, r sqlite.Reader, sitting int64, students int) ([]SignInPerson, error) {
	var out []SignInPerson
	err := r.List(ctx, &out, `SELECT p.id, p.given || ' ' || p.family AS name, 'teacher' AS role, c.name AS school, '' AS grade
			FROM sitting g JOIN enrolment e ON e.section_id = g.section_id AND e.role = 'teacher' AND e.active = 1
			JOIN person p ON p.id = e.person_id JOIN school c ON c.id = g.school_id WHERE g.id = ?
		UNION ALL SELECT * FROM (SELECT p.id, p.given || ' ' || p.family, 'student', c.name, p.grade
			FROM sitting g JOIN seat ON seat.sitting_id = g.id JOIN person p ON p.id = seat.student_id JOIN school c ON c.id = g.school_id
			LEFT JOIN attempt a ON a.sitting_id = g.id AND a.student_id = p.id AND a.try = 1
			WHERE g.id = ? AND (a.id IS NULL OR a.state = 'working') ORDER BY p.id LIMIT ?)`, sitting, sitting, students)
	return out, err
}
