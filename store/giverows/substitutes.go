package giverows

import (
	"context"
	"time"

	"pineledger/core/roster"
	"pineledger/store/sqlite"
)

// Substitute sees to rooms for a day in the place of their teacher.
type Substitute struct {
	ID       int64  `db:"id"`
	PersonID int64  `db:"person_id"`
	Name     string `db:"name"`
	Day      string `db:"day"` // of the district's calendar
	FromAt   int64  `db:"from_at"`
	UntilAt  int64  `db:"until_at"`
	MadeBy   string `db:"made_by"`
	CameAt   int64  `db:"came_at"`  // ms, 0 until the link was used
	EndedAt  int64  `db:"ended_at"` // ms, 0 unless it was taken back
	Rooms    int    `db:"rooms"`
}

const substituteSelect = `SELECT b.id, b.person_id, p.given || ' ' || p.family AS name, b.day, b.from_at, b.until_at, m.given || ' ' || m.family AS made_by,
	COALESCE(b.came_at, 0) AS came_at, COALESCE(b.ended_at, 0) AS ended_at,
	(SELECT COUNT(DISTINCT COALESCE(g.room_id, -g.id)) FROM substitute_sitting x JOIN sitting g ON g.id = x.sitting_id WHERE x.substitute_id = b.id) AS rooms
	FROM substitute b JOIN person p ON p.id = b.person_id JOIN person m ON m.id = b.made_by`

// SubstitutesAt lists those of a sitting whose day is not over at a moment, by day and name.
func SubstitutesAt(ctx context.Context, r sqlite.Reader, sitting int64, now time.Time) ([]Substitute, error) {
	var out []Substitute
	err := r.List(ctx, &out, substituteSelect+` JOIN substitute_sitting s ON s.substitute_id = b.id
		WHERE s.sitting_id = ? AND b.until_at > ? AND b.ended_at IS NULL ORDER BY b.day, name, b.id`, sitting, sqlite.Millis(now))
	return out, err
}

// SubstituteOf gives the one to whom a link belongs, by the digest of its secret.
func SubstituteOf(ctx context.Context, r sqlite.Reader, digest string) (Substitute, error) {
	var out Substitute
	err := r.Get(ctx, &out, substituteSelect+" WHERE b.digest = ?", digest)
	return out, err
}

// SubstitutedSittings lists the sittings that a substitute sees to.
func SubstitutedSittings(ctx context.Context, r sqlite.Reader, id int64) ([]Sitting, error) {
	var out []Sitting
	err := r.List(ctx, &out, sittingSelect+` WHERE g.id IN (SELECT sitting_id FROM substitute_sitting WHERE substitute_id = ?) ORDER BY g.opens_at, s.title, g.id`, id)
	return out, err
}

// TaughtBeside lists the sittings of sections in scope that a teacher of a sitting's section teaches too, and whose windows end
// after a moment; its own section is among them.
func TaughtBeside(ctx context.Context, r sqlite.Reader, scope roster.Scope, sitting int64, after time.Time) ([]Sitting, error) {
	var w sqlite.Where
	w.Add("d.state = 'sent' AND g.ends_at > ?", sqlite.Millis(after))
	w.Add(`(g.section_id = (SELECT section_id FROM sitting WHERE id = ?) OR g.section_id IN (
		SELECT b.section_id FROM enrolment a JOIN enrolment b ON b.person_id = a.person_id AND b.role = 'teacher' AND b.active = 1
		WHERE a.section_id = (SELECT section_id FROM sitting WHERE id = ?) AND a.role = 'teacher' AND a.active = 1))`, sitting, sitting)
	atSittings(&w, scope)
	var out []Sitting
	err := r.List(ctx, &out, sittingSelect+w.String()+" ORDER BY g.opens_at, s.title, g.id", w.Args...)
	return out, err
}

// NewSubstitute is one to be added.
type NewSubstitute struct {
	Given, Family string
	SchoolID      int64
	Digest        string // of the link's secret
	Day           string
	From, Until   time.Time
	By            int64
	At            time.Time
	Sittings      []int64
}

// AddSubstitute makes a person who is in no roster, with the post of a proctor, and says what they see to.
func AddSubstitute(ctx context.Context, t *sqlite.Tx, n NewSubstitute) (Substitute, error) {
	sourced := "substitute:" + n.Digest
	person, err := t.Insert(ctx, "INSERT INTO person (sourced_id, number, given, family, email, grade, active, secret, digest) VALUES (?, '', ?, ?, '', '', 1, '', '')", sourced, n.Given, n.Family)
	if err != nil {
		return Substitute{}, err
	}
	if err := t.Exec(ctx, "INSERT INTO post (person_id, role, school_id, sourced_id, digest) VALUES (?, ?, ?, ?, '')", person, roster.Proctor, n.SchoolID, "post:"+sourced); err != nil {
		return Substitute{}, err
	}
	id, err := t.Insert(ctx, "INSERT INTO substitute (person_id, digest, day, from_at, until_at, made_by, made_at) VALUES (?, ?, ?, ?, ?, ?, ?)",
		person, n.Digest, n.Day, sqlite.Millis(n.From), sqlite.Millis(n.Until), n.By, sqlite.Millis(n.At))
	if err != nil {
		return Substitute{}, err
	}
	for _, sitting := range n.Sittings {
		if err := t.Exec(ctx, "INSERT INTO substitute_sitting (substitute_id, sitting_id) VALUES (?, ?)", id, sitting); err != nil {
			return Substitute{}, err
		}
	}
	return SubstituteOf(ctx, t.Reader, n.Digest)
}

// SubstituteCame notes that a link was used, the first time.
func SubstituteCame(ctx context.Context, t *sqlite.Tx, id int64, at time.Time) error {
	return t.Exec(ctx, "UPDATE substitute SET came_at = COALESCE(came_at, ?) WHERE id = ?", sqlite.Millis(at), id)
}

// EndSubstitute takes a link back: whoever came by it is signed out by it.
func EndSubstitute(ctx context.Context, t *sqlite.Tx, id int64, at time.Time) error {
	return t.ChangeOne(ctx, "UPDATE substitute SET ended_at = ? WHERE id = ? AND ended_at IS NULL", sqlite.Millis(at), id)
}
