package store

import (
	"context"
	"database/sql"
)

// BandSet is a named set of performance bands.
type BandSet struct {
	ID        int64  `db:"id"`
	Name      string `db:"name"`
	Subject   string `db:"subject"`
	Grades    string `db:"grades"` // JSON array
	Rule      string `db:"rule"`
	SchoolID  int64  `db:"school_id"`
	OwnerID   int64  `db:"owner_id"`
	Version   int    `db:"version"`
	ChangedAt int64  `db:"changed_at"`
	ChangedBy string `db:"changed_by"`
	Uses      int    `db:"uses"`
	Bands     []Band `db:"-"`
}

// Band is one band of a set; the first has no cut. Percent, Raw and Of are hundredths.
type Band struct {
	Name    string        `db:"name"`
	Percent sql.NullInt64 `db:"percent"`
	Raw     sql.NullInt64 `db:"raw"`
	Of      sql.NullInt64 `db:"raw_of"`
}

const bandSetSelect = `SELECT s.id, s.name, s.subject, s.grades, s.rule, s.school_id, s.owner_id, s.version, s.changed_at, s.changed_by,
	(SELECT COUNT(*) FROM assessment a WHERE a.band_set_id = s.id) AS uses FROM band_set s`

// BandSets lists all sets with their bands.
func (r Reader) BandSets(ctx context.Context) ([]BandSet, error) {
	var out []BandSet
	if err := r.list(ctx, &out, bandSetSelect+" ORDER BY s.name"); err != nil {
		return nil, err
	}
	for i := range out {
		if err := r.bandsOf(ctx, &out[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// BandSetByID gives a set with its bands.
func (r Reader) BandSetByID(ctx context.Context, id int64) (BandSet, error) {
	var s BandSet
	if err := r.get(ctx, &s, bandSetSelect+" WHERE s.id = ?", id); err != nil {
		return s, err
	}
	return s, r.bandsOf(ctx, &s)
}

func (r Reader) bandsOf(ctx context.Context, s *BandSet) error {
	return r.list(ctx, &s.Bands, "SELECT name, percent, raw, raw_of FROM band WHERE band_set_id = ? ORDER BY position", s.ID)
}

// AddBandSet writes a new set.
func (t *Tx) AddBandSet(ctx context.Context, s BandSet) (int64, error) {
	id, err := t.insert(ctx, `INSERT INTO band_set (name, subject, grades, rule, school_id, owner_id, version, changed_at, changed_by)
		VALUES (?, ?, ?, ?, ?, ?, 1, ?, ?)`, s.Name, s.Subject, s.Grades, s.Rule, s.SchoolID, s.OwnerID, s.ChangedAt, s.ChangedBy)
	if err != nil {
		return 0, err
	}
	return id, t.putBands(ctx, id, s.Bands)
}

// ChangeBandSet replaces a set of the given version; ErrStale when it has another by now.
func (t *Tx) ChangeBandSet(ctx context.Context, s BandSet) error {
	err := t.changeOne(ctx, `UPDATE band_set SET name = ?, subject = ?, grades = ?, rule = ?, version = version + 1, changed_at = ?, changed_by = ?
		WHERE id = ? AND version = ?`, s.Name, s.Subject, s.Grades, s.Rule, s.ChangedAt, s.ChangedBy, s.ID, s.Version)
	if err != nil {
		return err
	}
	return t.putBands(ctx, s.ID, s.Bands)
}

func (t *Tx) putBands(ctx context.Context, id int64, bands []Band) error {
	if err := t.exec(ctx, "DELETE FROM band WHERE band_set_id = ?", id); err != nil {
		return err
	}
	for i, b := range bands {
		if err := t.exec(ctx, "INSERT INTO band (band_set_id, position, name, percent, raw, raw_of) VALUES (?, ?, ?, ?, ?, ?)",
			id, i, b.Name, b.Percent, b.Raw, b.Of); err != nil {
			return err
		}
	}
	return nil
}
