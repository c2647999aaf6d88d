// Package cutrows reads what cuts are judged by: how items did so far, and how the students who will sit did.
package cutrows

import (
	"context"

	"pineledger/core/roster"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// Given is how a version of an item did as a line of one form, over all its sittings.
type Given struct {
	FormID    int64 `db:"form_id"`
	Line      int   `db:"line"` // from 1
	ItemID    int64 `db:"item_id"`
	VersionID int64 `db:"version_id"`
	N         int   `db:"n"`
	Credit    int64 `db:"credit"` // hundredths of a point, of all together
}

// GivenItems lists how items did in every form that they were given in.
func GivenItems(ctx context.Context, r sqlite.Reader, items []int64) ([]Given, error) {
	var w sqlite.Where
	in, args := sqlite.In("l.item_id", items)
	w.Add(in, args...)
	w.Add("y.n > 0")
	var out []Given
	err := r.List(ctx, &out, `SELECT l.form_id, l.line, l.item_id, l.item_version_id AS version_id, SUM(y.n) AS n, SUM(y.credit) AS credit
		FROM form_line l JOIN distribution d ON d.form_id = l.form_id JOIN sitting g ON g.distribution_id = d.id
			JOIN line_tally y ON y.sitting_id = g.id AND y.line = l.line`+w.String()+" GROUP BY l.form_id, l.line", w.Args...)
	return out, err
}

// Scored counts the students of a school or a section who had a raw score in their latest scored work of a subject.
type Scored struct {
	GroupID int64  `db:"group_id"`
	Group   string `db:"name"`
	FormID  int64  `db:"form_id"` // 0: they have none
	Raw     int64  `db:"raw"`     // hundredths
	N       int    `db:"n"`
}

// WhoWillSit counts, school by school or of one school section by section, and in scope, the students who will sit an assessment by their latest final score in a
// subject: those of the sections that it is to go to, where such are chosen, and else all of some grades. What they got
// on the assessment itself does not count.
func WhoWillSit(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64, subject string, grades []string, school int64) ([]Scored, error) {
	var w sqlite.Where
	group, table, name := "s.school_id", "school", "name"
	if school > 0 {
		w.Add("s.school_id = ?", school)
		group, table, name = "s.id", "section", "title"
	}
	officerows.InScope(&w, scope)
	w.Add("e.role = 'student' AND e.active = 1 AND s.active = 1")
	chosen := "s.id IN (SELECT c.section_id FROM distribution_section c JOIN distribution d ON d.id = c.distribution_id WHERE d.assessment_id = ?)"
	in, args := sqlite.In("s.grade", grades)
	w.Add("("+chosen+" OR (NOT EXISTS (SELECT 1 FROM distribution_section c JOIN distribution d ON d.id = c.distribution_id WHERE d.assessment_id = ?) AND "+in+"))",
		append([]any{assessment, assessment}, args...)...)
	w.Add("NOT EXISTS (SELECT 1 FROM distribution_left_out o JOIN distribution d ON d.id = o.distribution_id WHERE d.assessment_id = ? AND o.student_id = e.person_id)", assessment)
	var out []Scored
	err := r.List(ctx, &out, `WITH sits AS (SELECT e.person_id, MIN(`+group+`) AS group_id FROM section s JOIN enrolment e ON e.section_id = s.id`+w.String()+` GROUP BY e.person_id),
		latest AS (SELECT x.student_id, t.form_id, x.raw, MAX(t.handed_in_at) FROM sits JOIN result x ON x.student_id = sits.person_id AND x.final = 1
			JOIN attempt t ON t.id = x.attempt_id JOIN form f ON f.id = t.form_id JOIN assessment a ON a.id = f.assessment_id
			WHERE a.subject = ? AND a.id <> ? AND `+sqlite.InReports+` GROUP BY x.student_id)
		SELECT c.id AS group_id, c.`+name+` AS name, COALESCE(l.form_id, 0) AS form_id, COALESCE(l.raw, 0) AS raw, COUNT(*) AS n
		FROM sits JOIN `+table+` c ON c.id = sits.group_id LEFT JOIN latest l ON l.student_id = sits.person_id
		GROUP BY c.id, l.form_id, l.raw ORDER BY name, c.id, form_id, raw`, append(w.Args, subject, assessment)...)
	return out, err
}

// Stamp moves with every scoring, and every import and calibration that ended: what was worked out from results and rosters holds until then.
func Stamp(ctx context.Context, r sqlite.Reader) (stamp string, err error) {
	return stamp, r.Get(ctx, &stamp, `SELECT COALESCE((SELECT MAX(id) FROM scoring), 0) || ' ' || COALESCE((SELECT MAX(ended_at) FROM import), 0)
		|| ' ' || COALESCE((SELECT MAX(id) FROM calibration WHERE state = 'done'), 0)`)
}

// TargetsVersion moves whenever it changes whom an assessment goes to.
func TargetsVersion(ctx context.Context, r sqlite.Reader, assessment int64) (version int64, err error) {
	return version, r.Get(ctx, &version, "SELECT COALESCE(SUM(version), 0) FROM distribution WHERE assessment_id = ?", assessment)
}

// Got counts the students of a school or a section who got a raw score.
type Got struct {
	GroupID int64  `db:"group_id"`
	Group   string `db:"name"`
	Raw     int64  `db:"raw"` // hundredths
	N       int    `db:"n"`
}

// WhatWasGot counts the final results on a sealed form, school by school or of one school section by section, and in scope.
func WhatWasGot(ctx context.Context, r sqlite.Reader, scope roster.Scope, form, school int64) (out []Got, err error) {
	var w sqlite.Where
	w.Add("d.form_id = ? AND x.final = 1", form)
	group := "c.id AS group_id, c.name AS name"
	if school > 0 {
		w.Add("c.id = ?", school)
		group = "s.id AS group_id, s.title AS name"
	}
	officerows.InScope(&w, scope)
	return out, r.List(ctx, &out, `SELECT `+group+`, x.raw, COUNT(*) AS n
		FROM distribution d JOIN sitting g ON g.distribution_id = d.id JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id
			JOIN result x ON x.sitting_id = g.id`+w.String()+" GROUP BY group_id, x.raw ORDER BY name, group_id, x.raw", w.Args...)
}
