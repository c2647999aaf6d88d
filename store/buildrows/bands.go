package buildrows

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"pineledger/core/assessment"
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/roster"
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
	Least     int64       `db:"least"` // hundredths of a point: it is for mastery by standard, told from so many on; 0 for the whole score
	SchoolID  int64       `db:"school_id"`
	School    string      `db:"school"`
	OwnerID   int64       `db:"owner_id"`
	Owner     string      `db:"owner"`
	Alone     bool        `db:"alone"`   // its owner's, and nobody else's
	Version   int         `db:"version"` // the newest
	ChangedAt int64       `db:"changed_at"`
	ChangedBy string      `db:"changed_by"`
	Uses      int         `db:"uses"`
	LockedBy  string      `db:"locked_by"` // who of the district lets no school have other cuts; "" where they may
	LockedAt  *int64      `db:"locked_at"` // nil also where it was locked before that was kept
	Retired   bool        `db:"retired"`   // is offered no more
	Bands     []Band      `db:"-"`

	// Of a set as an assessment has it:
	Stands int  `db:"-"` // the version whose bands and rule these are
	Own    bool `db:"-"` // the bands are the assessment's own, in the place of the set's
}

// Owned is whose the set is.
func (s BandSet) Owned() roster.Owned {
	return roster.Owned{OwnerID: s.OwnerID, SchoolID: s.SchoolID, Alone: s.Alone}
}

// Scope is what the set is for.
func (s BandSet) Scope() band.Scope {
	return band.Scope{Subject: s.Subject, Grades: s.Grades, Course: s.Course, Year: s.Year, Purpose: s.Purpose}
}

// Band is one band of a set; the first has no cut. Amounts are hundredths.
type Band struct {
	Name        string `db:"name"`
	Percent     *int64 `db:"percent"`
	Raw         *int64 `db:"raw"`
	Of          *int64 `db:"raw_of"`
	Scale       *int64 `db:"scale"`
	SourceTable *int64 `db:"source_table"`
	SourceRaw   *int64 `db:"source_raw"`
}

// BandColumns are those of a band, in every table that keeps such.
const BandColumns = "name, percent, raw, raw_of, scale, source_table, source_raw"

// InsertBands writes bands from the lowest into a table whose first columns say whose they are.
func InsertBands(ctx context.Context, t *sqlite.Tx, table, whose string, of []any, bands []Band) error {
	query := "INSERT INTO " + table + " (" + whose + ", position, " + BandColumns + ") VALUES (" + strings.Repeat("?, ", len(of)) + "?, ?, ?, ?, ?, ?, ?, ?)"
	for i, b := range bands {
		if err := t.Exec(ctx, query, append(slices.Clone(of), i, b.Name, b.Percent, b.Raw, b.Of, b.Scale, b.SourceTable, b.SourceRaw)...); err != nil {
			return err
		}
	}
	return nil
}

const bandSetSelect = `SELECT s.id, s.name, s.subject, s.grades, s.course, s.year, s.purpose, s.rule, s.least, s.school_id, COALESCE(c.name, '') AS school, s.owner_id, COALESCE(p.given || ' ' || p.family, '') AS owner, s.alone, s.version, s.changed_at, s.changed_by,
	s.locked_by, s.locked_at, s.retired_at IS NOT NULL AS retired,
	(SELECT COUNT(*) FROM assessment a WHERE s.id IN (a.band_set_id, a.mastery_set_id) AND a.deleted_at IS NULL) AS uses
	FROM band_set s LEFT JOIN school c ON c.id = s.school_id LEFT JOIN person p ON p.id = s.owner_id`

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
	if s, err = standing(ctx, r, s, a.BandSetVersion); err != nil {
		return s, err
	}
	var own []Band
	if err := r.List(ctx, &own, "SELECT "+BandColumns+" FROM own_band WHERE assessment_id = ? ORDER BY position", a.ID); err != nil {
		return s, err
	}
	if s.Own = len(own) > 0; s.Own {
		s.Bands, s.Rule = own, cmp.Or(a.OwnRule, s.Rule)
		return s, nil
	}
	s.Bands, err = bandsOf(ctx, r, s.ID, s.Stands)
	return s, err
}

// MasteryOf gives the mastery set of an assessment that has one, as it took it.
func MasteryOf(ctx context.Context, r sqlite.Reader, a Assessment) (BandSet, error) {
	s, err := BandSetByID(ctx, r, a.MasterySetID)
	if err != nil {
		return s, err
	}
	if s, err = standing(ctx, r, s, a.MasterySetVersion); err != nil {
		return s, err
	}
	s.Bands, err = bandsOf(ctx, r, s.ID, s.Stands)
	return s, err
}

// standing is a set as a version of it had it, but for its bands.
func standing(ctx context.Context, r sqlite.Reader, s BandSet, version int) (BandSet, error) {
	var was struct {
		Rule  string `db:"rule"`
		Least int64  `db:"least"`
	}
	err := r.Get(ctx, &was, "SELECT rule, least FROM band_version WHERE band_set_id = ? AND version = ?", s.ID, version)
	s.Stands, s.Rule, s.Least = version, was.Rule, was.Least
	return s, err
}

// PutOwnBands gives an assessment bands of its own; none lets it have those of its set again.
func PutOwnBands(ctx context.Context, t *sqlite.Tx, assessment int64, bands []Band) error {
	if err := t.Exec(ctx, "DELETE FROM own_band WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	return InsertBands(ctx, t, "own_band", "assessment_id", []any{assessment}, bands)
}

// CopyCuts gives an assessment the bands that another has of its own, if it has such, and its reported values.
func CopyCuts(ctx context.Context, t *sqlite.Tx, from, to int64) error {
	if err := t.Exec(ctx, "INSERT INTO own_band (assessment_id, position, "+BandColumns+") SELECT ?, position, "+BandColumns+" FROM own_band WHERE assessment_id = ?", to, from); err != nil {
		return err
	}
	return t.Exec(ctx, `INSERT INTO reported_value (assessment_id, position, from_raw, to_raw, value)
		SELECT ?, position, from_raw, to_raw, value FROM reported_value WHERE assessment_id = ?`, to, from)
}

// ReportedValues lists what is reported for ranges of an assessment's scores, from the lowest.
func ReportedValues(ctx context.Context, r sqlite.Reader, assessment int64) ([]band.Reported, error) {
	var rows []struct {
		From  int64  `db:"from_raw"`
		To    int64  `db:"to_raw"`
		Value string `db:"value"`
	}
	err := r.List(ctx, &rows, "SELECT from_raw, to_raw, value FROM reported_value WHERE assessment_id = ? ORDER BY position", assessment)
	var out []band.Reported
	for _, row := range rows {
		out = append(out, band.Reported{From: points.Points(row.From), To: points.Points(row.To), Value: row.Value})
	}
	return out, err
}

// PutReportedValues writes them in the place of those before.
func PutReportedValues(ctx context.Context, t *sqlite.Tx, assessment int64, ranges []band.Reported) error {
	if err := t.Exec(ctx, "DELETE FROM reported_value WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	for i, r := range ranges {
		if err := t.Exec(ctx, "INSERT INTO reported_value (assessment_id, position, from_raw, to_raw, value) VALUES (?, ?, ?, ?, ?)",
			assessment, i, int64(r.From), int64(r.To), r.Value); err != nil {
			return err
		}
	}
	return nil
}

func bandsOf(ctx context.Context, r sqlite.Reader, set int64, version int) (out []Band, err error) {
	return out, r.List(ctx, &out, "SELECT "+BandColumns+" FROM band_of_version WHERE band_set_id = ? AND version = ? ORDER BY position", set, version)
}

// AddBandSet writes a new set.
func AddBandSet(ctx context.Context, t *sqlite.Tx, s BandSet) (int64, error) {
	id, err := t.Insert(ctx, `INSERT INTO band_set (name, subject, grades, course, year, purpose, rule, least, school_id, owner_id, alone, version, changed_at, changed_by, locked_by, locked_at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 1, ?, ?, ?, ?)`, s.Name, s.Subject, s.Grades, s.Course, s.Year, s.Purpose, s.Rule, s.Least, s.SchoolID, s.OwnerID, s.Alone, s.ChangedAt, s.ChangedBy, s.LockedBy, s.LockedAt)
	if err != nil {
		return 0, err
	}
	s.ID, s.Version = id, 1
	return id, addVersion(ctx, t, s)
}

// ChangeBandSet adds a version to a set of the given one; ErrStale when it has another by now.
func ChangeBandSet(ctx context.Context, t *sqlite.Tx, s BandSet) error {
	err := t.ChangeOne(ctx, `UPDATE band_set SET name = ?, subject = ?, grades = ?, course = ?, year = ?, purpose = ?, rule = ?, least = ?, version = version + 1, changed_at = ?, changed_by = ?, locked_by = ?, locked_at = ?
		WHERE id = ? AND version = ?`, s.Name, s.Subject, s.Grades, s.Course, s.Year, s.Purpose, s.Rule, s.Least, s.ChangedAt, s.ChangedBy, s.LockedBy, s.LockedAt, s.ID, s.Version)
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
	if err := t.Exec(ctx, "INSERT INTO band_version (band_set_id, version, rule, least, changed_at, changed_by) VALUES (?, ?, ?, ?, ?, ?)",
		s.ID, s.Version, s.Rule, s.Least, s.ChangedAt, s.ChangedBy); err != nil {
		return err
	}
	return InsertBands(ctx, t, "band_of_version", "band_set_id, version", []any{s.ID, s.Version}, s.Bands)
}

// BandSetUse is an assessment that uses a set, for the whole score or for mastery.
type BandSetUse struct {
	AssessmentID int64            `db:"assessment_id"`
	Title        string           `db:"title"`
	State        assessment.State `db:"state"`
	Own          bool             `db:"own"`    // with cuts of its own
	Stands       int              `db:"stands"` // the version that it took
	SchoolID     int64            `db:"school_id"`
	OwnerID      int64            `db:"owner_id"`
}

// BandSetUses lists the assessments that use a set, the newest first.
func BandSetUses(ctx context.Context, r sqlite.Reader, set int64, limit int) (out []BandSetUse, err error) {
	return out, r.List(ctx, &out, `SELECT a.id AS assessment_id, a.title, a.state, a.school_id, a.owner_id,
			a.band_set_id = ?1 AND EXISTS (SELECT 1 FROM own_band o WHERE o.assessment_id = a.id) AS own,
			CASE WHEN a.band_set_id = ?1 THEN a.band_set_version ELSE a.mastery_set_version END AS stands
		FROM assessment a WHERE ?1 IN (a.band_set_id, a.mastery_set_id) AND a.deleted_at IS NULL ORDER BY a.id DESC LIMIT ?2`, set, limit)
}

// Core is the band as the core takes it.
func (b Band) Core() band.Band {
	out := band.Band{Name: b.Name, Cut: band.Cut{Percent: present(b.Percent), Raw: present(b.Raw), Of: present(b.Of), Scale: present(b.Scale)}}
	if b.SourceTable != nil && b.SourceRaw != nil {
		out.Cut.Source = &band.Source{Table: *b.SourceTable, Raw: points.Points(*b.SourceRaw)}
	}
	return out
}

// BandOf is a band of the core as it is kept.
func BandOf(b band.Band) Band {
	out := Band{Name: b.Name, Percent: kept(b.Cut.Percent), Raw: kept(b.Cut.Raw), Of: kept(b.Cut.Of), Scale: kept(b.Cut.Scale)}
	if s := b.Cut.Source; s != nil {
		out.SourceTable, out.SourceRaw = &s.Table, kept(&s.Raw)
	}
	return out
}

func kept(p *points.Points) *int64 {
	if p == nil {
		return nil
	}
	return new(int64(*p))
}

func present(n *int64) *points.Points {
	if n == nil {
		return nil
	}
	return new(points.Points(*n))
}

// Conversion is what an official table says of raw scores and its scale; none of a table without one.
func Conversion(ctx context.Context, r sqlite.Reader, table int64) ([]band.Conversion, error) {
	var rows []struct {
		Raw   int64 `db:"raw"`
		Scale int64 `db:"scale"`
	}
	err := r.List(ctx, &rows, "SELECT raw, scale FROM official_row WHERE table_id = ? AND scale IS NOT NULL ORDER BY raw", table)
	var out []band.Conversion
	for _, row := range rows {
		out = append(out, band.Conversion{Raw: points.Points(row.Raw), Scale: points.Points(row.Scale)})
	}
	return out, err
}

// SourceStands tells whether an official table has a raw score.
func SourceStands(ctx context.Context, r sqlite.Reader, s band.Source) (stands bool, err error) {
	return stands, r.Get(ctx, &stands, "SELECT EXISTS (SELECT 1 FROM official_row WHERE table_id = ? AND raw = ?)", s.Table, int64(s.Raw))
}
