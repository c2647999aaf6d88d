package buildrows

import (
	"context"

	"pineledger/store/sqlite"
)

// BandSet is a named set of performance bands.
type BandSet struct {
	ID        int64       `db:"id"`
	Name      string      `db:"name"`
	Subject   string      `db:"subject"`
	Grades    sqlite.List `db:"grades"`
	Year      string      `db:"year"` // "" for any
	Rule      string      `db:"rule"`
	SchoolID  int64       `db:"school_id"`
	OwnerID   int64       `db:"owner_id"`
	Version   int         `db:"version"`
	ChangedAt int64       `db:"changed_at"`
	ChangedBy string      `db:"changed_by"`
	Uses      int         `db:"uses"`
	LockedBy  string      `db:"locked_by"` // who of the district lets no school have other cuts; "" where they may
	Bands     []Band      `db:"-"`
	Own       bool        `db:"-"` // the bands are an assessment's own, in the place of the set's
}

// Band is one band of a set; the first has no cut. Percent, Raw and Of are hundredths.
type Band struct {
	Name    string `db:"name"`
	Percent *int64 `db:"percent"`
	Raw     *int64 `db:"raw"`
	Of      *int64 `db:"raw_of"`
}

const bandSetSelect = `SELECT s.id, s.name, s.subject, s.grades, s.year, s.rule, s.school_id, s.owner_id, s.version, s.changed_at, s.changed_by, s.locked_by,
	(SELECT COUNT(*) FROM assessment a WHERE a.band_set_id = s.id AND a.deleted_at IS NULL) AS uses FROM band_set s`

// BandSets lists all sets with their bands.
func BandSets(ctx context.Context, r sqlite.Reader) ([]BandSet, error) {
	var out []BandSet
	if err := r.List(ctx, &out, bandSetSelect+" ORDER BY s.name"); err != nil {
		return nil, err
	}
	for i := range out {
		if err := bandsOf(ctx, r, &out[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// BandSetByID gives a set with its bands.
func BandSetByID(ctx context.Context, r sqlite.Reader, id int64) (BandSet, error) {
	var s BandSet
	if err := r.Get(ctx, &s, bandSetSelect+" WHERE s.id = ?", id); err != nil {
		return s, err
	}
	return s, bandsOf(ctx, r, &s)
}

// BandsOf gives the set of an assessment with the bands that are in force there: its own, where it has such.
func BandsOf(ctx context.Context, r sqlite.Reader, a Assessment) (BandSet, error) {
	s, err := BandSetByID(ctx, r, a.BandSetID)
	if err != nil {
		return s, err
	}
	var own []Band
	if err := r.List(ctx, &own, "SELECT name, percent, raw, raw_of FROM own_band WHERE assessment_id = ? ORDER BY position", a.ID); err != nil {
		return s, err
	}
	if len(own) > 0 {
		s.Bands, s.Own = own, true
	}
	return s, nil
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

func bandsOf(ctx context.Context, r sqlite.Reader, s *BandSet) error {
	return r.List(ctx, &s.Bands, "SELECT name, percent, raw, raw_of FROM band WHERE band_set_id = ? ORDER BY position", s.ID)
}

// AddBandSet writes a new set.
func AddBandSet(ctx context.Context, t *sqlite.Tx, s BandSet) (int64, error) {
	id, err := t.Insert(ctx, `INSERT INTO band_set (name, subject, grades, year, rule, school_id, owner_id, version, changed_at, changed_by, locked_by)
		VALUES (?, ?, ?, ?, ?, ?, ?, 1, ?, ?, ?)`, s.Name, s.Subject, s.Grades, s.Year, s.Rule, s.SchoolID, s.OwnerID, s.ChangedAt, s.ChangedBy, s.LockedBy)
	if err != nil {
		return 0, err
	}
	return id, putBands(ctx, t, id, s.Bands)
}

// ChangeBandSet replaces a set of the given version; ErrStale when it has another by now.
func ChangeBandSet(ctx context.Context, t *sqlite.Tx, s BandSet) error {
	err := t.ChangeOne(ctx, `UPDATE band_set SET name = ?, subject = ?, grades = ?, year = ?, rule = ?, version = version + 1, changed_at = ?, changed_by = ?, locked_by = ?
		WHERE id = ? AND version = ?`, s.Name, s.Subject, s.Grades, s.Year, s.Rule, s.ChangedAt, s.ChangedBy, s.LockedBy, s.ID, s.Version)
	if err != nil {
		return err
	}
	return putBands(ctx, t, s.ID, s.Bands)
}

func putBands(ctx context.Context, t *sqlite.Tx, id int64, bands []Band) error {
	if err := t.Exec(ctx, "DELETE FROM band WHERE band_set_id = ?", id); err != nil {
		return err
	}
	for i, b := range bands {
		if err := t.Exec(ctx, "INSERT INTO band (band_set_id, position, name, percent, raw, raw_of) VALUES (?, ?, ?, ?, ?, ?)",
			id, i, b.Name, b.Percent, b.Raw, b.Of); err != nil {
			return err
		}
	}
	return nil
}
