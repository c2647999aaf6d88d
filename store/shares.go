package store

import (
	"context"

	"pineledger/core/roster"
)

// Share is somebody with whom an assessment is shared.
type Share struct {
	AssessmentID int64  `db:"assessment_id"`
	PersonID     int64  `db:"person_id"` // 0: the coordinators of a school
	SchoolID     int64  `db:"school_id"`
	Edit         bool   `db:"may_edit"`
	Copy         bool   `db:"may_copy"`
	Print        bool   `db:"may_print"`
	Name         string `db:"name"` // of the person or school
	Email        string `db:"email"`
	Where        string `db:"place"` // schools of the person
}

// Shares lists with whom an assessment is shared, people first.
func (r Reader) Shares(ctx context.Context, assessment int64) ([]Share, error) {
	var out []Share
	err := r.list(ctx, &out, `SELECT s.assessment_id, s.person_id, s.school_id, s.may_edit, s.may_copy, s.may_print,
			COALESCE(p.given || ' ' || p.family, c.name, '') AS name, COALESCE(p.email, '') AS email,
			COALESCE((SELECT GROUP_CONCAT(DISTINCT o.name) FROM post t JOIN school o ON o.id = t.school_id WHERE t.person_id = s.person_id), '') AS place
		FROM assessment_share s LEFT JOIN person p ON p.id = s.person_id LEFT JOIN school c ON c.id = s.school_id
		WHERE s.assessment_id = ? ORDER BY s.person_id = 0, name`, assessment)
	return out, err
}

// PutShares replaces with whom an assessment is shared.
func (t *Tx) PutShares(ctx context.Context, assessment int64, shares []Share) error {
	if err := t.exec(ctx, "DELETE FROM assessment_share WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	for _, s := range shares {
		if err := t.exec(ctx, "INSERT INTO assessment_share (assessment_id, person_id, school_id, may_edit, may_copy, may_print) VALUES (?, ?, ?, ?, ?, ?)",
			assessment, s.PersonID, s.SchoolID, s.Edit, s.Copy, s.Print); err != nil {
			return err
		}
	}
	return nil
}

func coreShares(shares []Share) []roster.Share {
	var out []roster.Share
	for _, s := range shares {
		out = append(out, roster.Share{PersonID: s.PersonID, SchoolID: s.SchoolID, Edit: s.Edit, Copy: s.Copy, Print: s.Print})
	}
	return out
}
