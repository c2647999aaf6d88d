package buildrows

import (
	"context"

	"pineledger/core/roster"
	"pineledger/store/bankrows"
	"pineledger/store/sqlite"
)

// Share is somebody with whom an assessment is shared.
type Share struct {
	AssessmentID int64  `db:"assessment_id"`
	PersonID     int64  `db:"person_id"` // 0: not one person
	SchoolID     int64  `db:"school_id"`
	Subject      string `db:"subject"`  // of a department, "" for none
	Teachers     bool   `db:"teachers"` // of a school: its teachers too
	ByLink       bool   `db:"by_link"`  // the person let themselves in
	Edit         bool   `db:"may_edit"`
	Copy         bool   `db:"may_copy"`
	Print        bool   `db:"may_print"`
	Name         string `db:"name"` // of the person or school
	Email        string `db:"email"`
	Where        string `db:"place"`  // schools of the person
	Builds       bool   `db:"builds"` // the person is a coordinator
}

// Shares lists with whom an assessment is shared, people first.
func Shares(ctx context.Context, r sqlite.Reader, assessment int64) ([]Share, error) {
	var out []Share
	err := r.List(ctx, &out, `SELECT s.assessment_id, s.person_id, s.school_id, s.subject, s.teachers, s.by_link, s.may_edit, s.may_copy, s.may_print,
			COALESCE(p.given || ' ' || p.family, c.name, '') AS name, COALESCE(p.email, '') AS email,
			COALESCE((SELECT GROUP_CONCAT(DISTINCT o.name) FROM post t JOIN school o ON o.id = t.school_id WHERE t.person_id = s.person_id), '') AS place, `+bankrows.BuildsColumn+` AS builds
		FROM assessment_share s LEFT JOIN person p ON p.id = s.person_id LEFT JOIN school c ON c.id = s.school_id
		WHERE s.assessment_id = ? ORDER BY s.person_id = 0, name, s.subject`, assessment)
	return out, err
}

// PutShares replaces with whom an assessment is shared.
func PutShares(ctx context.Context, t *sqlite.Tx, assessment int64, shares []Share) error {
	if err := t.Exec(ctx, "DELETE FROM assessment_share WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	for _, s := range shares {
		if err := AddShare(ctx, t, assessment, s); err != nil {
			return err
		}
	}
	return nil
}

// AddShare adds one.
func AddShare(ctx context.Context, t *sqlite.Tx, assessment int64, s Share) error {
	return t.Exec(ctx, `INSERT INTO assessment_share (assessment_id, person_id, school_id, subject, teachers, may_edit, may_copy, may_print, by_link)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`, assessment, s.PersonID, s.SchoolID, s.Subject, s.Teachers, s.Edit, s.Copy, s.Print, s.ByLink)
}

// Link is how staff may let themselves in to an assessment.
type Link struct {
	AssessmentID int64  `db:"assessment_id"`
	Copy         bool   `db:"may_copy"`
	Print        bool   `db:"may_print"`
	MadeBy       string `db:"made_by"`
	MadeAt       int64  `db:"made_at"`
}

// LinkOf gives an assessment's link; ErrNotFound without one.
func LinkOf(ctx context.Context, r sqlite.Reader, assessment int64) (Link, error) {
	var l Link
	err := r.Get(ctx, &l, "SELECT assessment_id, may_copy, may_print, made_by, made_at FROM assessment_link WHERE assessment_id = ?", assessment)
	return l, err
}

// LinkWithDigest gives the link whose secret has a digest; ErrNotFound without one.
func LinkWithDigest(ctx context.Context, r sqlite.Reader, digest string) (Link, error) {
	var l Link
	err := r.Get(ctx, &l, "SELECT assessment_id, may_copy, may_print, made_by, made_at FROM assessment_link WHERE digest = ?", digest)
	return l, err
}

// PutLink keeps a link in the place of the one before.
func PutLink(ctx context.Context, t *sqlite.Tx, l Link, digest string) error {
	return t.Exec(ctx, `INSERT INTO assessment_link (assessment_id, digest, may_copy, may_print, made_by, made_at) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (assessment_id) DO UPDATE SET digest = excluded.digest, may_copy = excluded.may_copy, may_print = excluded.may_print, made_by = excluded.made_by, made_at = excluded.made_at`,
		l.AssessmentID, digest, l.Copy, l.Print, l.MadeBy, l.MadeAt)
}

// DropLink takes an assessment's link away.
func DropLink(ctx context.Context, t *sqlite.Tx, assessment int64) error {
	return t.Exec(ctx, "DELETE FROM assessment_link WHERE assessment_id = ?", assessment)
}

// Subjects lists the subjects that courses teach: what departments there are.
func Subjects(ctx context.Context, r sqlite.Reader) ([]string, error) {
	var out []string
	err := r.List(ctx, &out, "SELECT DISTINCT j.value FROM course c, json_each(c.subjects) j WHERE j.value <> '' ORDER BY j.value")
	return out, err
}

func coreShares(shares []Share) []roster.Share {
	var out []roster.Share
	for _, s := range shares {
		out = append(out, roster.Share{PersonID: s.PersonID, SchoolID: s.SchoolID, Subject: s.Subject, Teachers: s.Teachers, Edit: s.Edit, Copy: s.Copy, Print: s.Print})
	}
	return out
}
