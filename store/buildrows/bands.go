package buildrows

import (
	"context"

	"pineledger/core/band"
	"pineledger/store/sqlite"
)

// BandSet is a named set of performance bands.
type BandSet struct {
	ID        int64       `db:"id"`
	Name      string      `db:"name"`
	Subject   string      `db:"subject"`
	Grades    sqlite.List `db:"grades"`
	Course    string      `db:"course"`  // "" for any
	Year      string      `db:"year"`    // "" for any
	Purpose   string      `db:"purpose"` // "" for any
	Rule      string      `db:"rule"`
	SchoolID  int64       `db:"school_id"`
	OwnerID   int64       `db:"owner_id"`
	Version   int         `db:"version"` // the newest
	ChangedAt int64       `db:"changed_at"`
	ChangedBy string      `db:"changed_by"`
	Uses      int         `db:"uses"`
	LockedBy  string      `db:"locked_by"` // who of the district lets no school have other cuts; "" where they may
	Retired   bool        `db:"retired"`   // is offered no more
	Bands     []Band      `db:"-"`

	// Of a set as an assessment has it:
	Stands int  `db:"-"` // the version whose bands and rule these are
	Own    bool `db:"-"` // the bands are the assessment's own, in the place of the set's
}

// Scope is what the set is for.
func (s BandSet) Scope() band.Scope {
	return band.Scope{Subject: s.Subject, Grades: s.Grades, Course: s.Course, Year: s.Year, Purpose: s.Purpose}
}

// Band is one band of a set; the first has no cut. Percent, Raw and Of are hundredths.
type Band struct {
	Name    string `db:"name"`
	Percent *int64 `db:"percent"`
	Raw     *int64 `db:"raw"`
	Of      *int64 `db:"raw_of"`
}

const bandSetSelect = `SELECT s.id, s.name, s.subject, s.grades, s.course, s.year, s.purpose, s.rule, s.school_id, s.owner_id, s.version, s.changed_at, s.changed_by,
	s.locked_by, s.retired_at IS NOT NULL AS retired,
	(SELECT COUNT(*) FROM assessment a WHERE a.band_set_id = s.id AND a.deleted_at IS NULL) AS uses FROM band_set s`

// BandSets lists all sets with their bands.
func BandSets(ctx context.Context, r sqlite.Reader) ([]BandSet, error) {
	var out []BandSet
	if err := r.List(ctx, &out, bandSetSelect+" ORDER BY s.name, s.id"); err != nil {
		return nil, err
	}
	for i := range out {
		var err error
		if out[i].Bands, err = bandsOf(ctx, r, out[i].ID, out[i].Version); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// BandSetByID gives a set with its newest bands.
func BandSetByID(ctx context.Context, r sqlite.Reader, id int64) (s BandSet, err error) {
	if err = r.Get(ctx, &s, bandSetSelect+" WHERE s.id = ?", id); err != nil {
		return s, err
	}
	s.Stands = s.Version
	s.Bands, err = bandsOf(ctx, r, id, s.Version)
	return s, err
}

// BandsOf gives the set of an assessment with the bands and the rule that are in force there: those of the version
// that it took, or its own.
func BandsOf(ctx context.Context, r sqlite.Reader, a Assessment) (BandSet, error) {
	s, err := BandSetByID(ctx, r, a.BandSetID)
	if err != nil {
		return s, err
	}
	s.Stands = a.BandSetVersion
	if err := r.Get(ctx, &s.Rule, "SELECT rule FROM band_version WHERE band_set_id = ? AND version = ?", s.ID, s.Stands); err != nil {
		return s, err
	}
	var own []Band
	if err := r.List(ctx, &own, "SELECT name, percent, raw, raw_of FROM own_band WHERE assessment_id = ? ORDER BY position", a.ID); err != nil {
		return s, err
	}
	if s.Own = len(own) > 0; s.Own {
		s.Bands = own
		return s, nil
	}
	s.Bands, err = bandsOf(ctx, r, s.ID, s.Stands)
	return s, err
}

// PutOwnBands gives an assessment bands of its own; none lets it have those of its set again.
func PutOwnBands(ctx context.Context, t *sqlite.Tx, assessment int64, bands []Band) error {
	if err := t.Exec(ctx, "DELETE FROM own_band WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	for i, b := range bands {
		if err := t.Exec(ctx, "INSERT INTO own_band (assessment_id, position, name, percent, raw, raw_of) VALUES (?, ?, ?, ?, ?, ?)",
			assessment, i, b.Name, b.Percent, b.Raw, b.Of); err != nil {
			return err
		}
	}
	return nil
}

// CopyOwnBands gives an assessment the bands that another has of its own, if it has such.
func CopyOwnBands(ctx context.Context, t *sqlite.Tx, from, to int64) error {
	return t.Exec(ctx, `INSERT INTO own_band (assessment_id, position, name, percent, raw, raw_of)
		SELECT ?, position, name, percent, raw, raw_of FROM own_band WHERE assessment_id = ?`, to, from)
}

func bandsOf(ctx context.Context, r sqlite.Reader, set int64, version int) (out []Band, err error) {
	return out, r.List(ctx, &out, "SELECT name, percent, raw, raw_of FROM band_of_version WHERE band_set_id = ? AND version = ? ORDER BY position", set, version)
}

// AddBandSet writes a new set.
func AddBandSet(ctx context.Context, t *sqlite.Tx, s BandSet) (int64, error) {
	id, err := t.Insert(ctx, `INSERT INTO band_set (name, subject, grades, course, year, purpose, rule, school_id, owner_id, version, changed_at, changed_by, locked_by)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, 1, ?, ?, ?)`, s.Name, s.Subject, s.Grades, s.Course, s.Year, s.Purpose, s.Rule, s.SchoolID, s.OwnerID, s.ChangedAt, s.ChangedBy, s.LockedBy)
	if err != nil {
		return 0, err
	}
	s.ID, s.Version = id, 1
	return id, addVersion(ctx, t, s)
}

// ChangeBandSet adds a version to a set of the given one; ErrStale when it has another by now.
func ChangeBandSet(ctx context.Context, t *sqlite.Tx, s BandSet) error {
	err := t.ChangeOne(ctx, `UPDATE band_set SET name = ?, subject = ?, grades = ?, course = ?, year = ?, purpose = ?, rule = ?, version = version + 1, changed_at = ?, changed_by = ?, locked_by = ?
		WHERE id = ? AND version = ?`, s.Name, s.Subject, s.Grades, s.Course, s.Year, s.Purpose, s.Rule, s.ChangedAt, s.ChangedBy, s.LockedBy, s.ID, s.Version)
	if err != nil {
		return err
	}
	s.Version++
	return addVersion(ctx, t, s)
}

// RetireBandSet takes a set out of what is offered, or offers it again.
func RetireBandSet(ctx context.Context, t *sqlite.Tx, id int64, at *int64) error {
	return t.Exec(ctx, "UPDATE band_set SET retired_at = ? WHERE id = ?", at, id)
}

func addVersion(ctx context.Context, t *sqlite.Tx, s BandSet) error {
	if err := t.Exec(ctx, "INSERT INTO band_version (band_set_id, version, rule, changed_at, changed_by) VALUES (?, ?, ?, ?, ?)",
		s.ID, s.Version, s.Rule, s.ChangedAt, s.ChangedBy); err != nil {
		return err
	}
	for i, b := range s.Bands {
		if err := t.Exec(ctx, "INSERT INTO band_of_version (band_set_id, version, position, name, percent, raw, raw_of) VALUES (?, ?, ?, ?, ?, ?, ?)",
			s.ID, s.Version, i, b.Name, b.Percent, b.Raw, b.Of); err != nil {
			return err
		}
	}
	return nil
}
