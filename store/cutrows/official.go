package cutrows

import (
	"context"

	"pineledger/core/official"
	"pineledger/core/points"
	"pineledger/store/sqlite"
)

// OfficialTable is a table of the state as it is kept.
type OfficialTable struct {
	ID      int64  `db:"id"`
	Test    string `db:"test"`
	Subject string `db:"subject"`
	Grade   string `db:"grade"`
	Year    string `db:"year"`
	Source  string `db:"source"` // the file that it came in
	Digest  string `db:"digest"`
	At      int64  `db:"at"`
	Most    int64  `db:"most"` // hundredths
	Bands   int    `db:"bands"`
}

// Key says which test the table is for.
func (t OfficialTable) Key() official.Key {
	return official.Key{Test: t.Test, Subject: t.Subject, Grade: t.Grade, Year: t.Year}
}

const officialSelect = `SELECT t.id, t.test, t.subject, t.grade, t.year, t.source, t.digest, t.at,
	(SELECT MAX(raw) FROM official_row r WHERE r.table_id = t.id) AS most, (SELECT COUNT(DISTINCT NULLIF(band, '')) FROM official_row r WHERE r.table_id = t.id) AS bands
	FROM official_table t`

// OfficialTables lists the tables in force, the newest years first.
func OfficialTables(ctx context.Context, r sqlite.Reader) (out []OfficialTable, err error) {
	return out, r.List(ctx, &out, officialSelect+" WHERE t.replaced_at IS NULL ORDER BY t.year DESC, t.subject, t.grade, t.test")
}

// OfficialTablesFor lists those of a subject and any of some grades, the newest years first.
func OfficialTablesFor(ctx context.Context, r sqlite.Reader, subject string, grades []string) (out []OfficialTable, err error) {
	var w sqlite.Where
	w.Add("t.replaced_at IS NULL AND t.subject = ?", subject)
	in, args := sqlite.In("t.grade", grades)
	w.Add(in, args...)
	return out, r.List(ctx, &out, officialSelect+w.String()+" ORDER BY t.year DESC, t.grade, t.test", w.Args...)
}

// OfficialTableByID gives one, also one that was replaced since.
func OfficialTableByID(ctx context.Context, r sqlite.Reader, id int64) (t OfficialTable, err error) {
	return t, r.Get(ctx, &t, officialSelect+" WHERE t.id = ?", id)
}

// OfficialRows gives the rows of a table from raw 0 up.
func OfficialRows(ctx context.Context, r sqlite.Reader, table int64) ([]official.Row, error) {
	var rows []struct {
		Raw   int64  `db:"raw"`
		Scale *int64 `db:"scale"`
		Band  string `db:"band"`
		Line  int    `db:"line"`
	}
	if err := r.List(ctx, &rows, "SELECT raw, scale, band, line FROM official_row WHERE table_id = ? ORDER BY raw", table); err != nil {
		return nil, err
	}
	out := make([]official.Row, len(rows))
	for i, row := range rows {
		out[i] = official.Row{Line: row.Line, Raw: points.Points(row.Raw), Band: row.Band}
		if row.Scale != nil {
			out[i].Scale = new(points.Points(*row.Scale))
		}
	}
	return out, nil
}

// AddOfficialTable writes a table in the place of the one in force for the same test, if there is one.
func AddOfficialTable(ctx context.Context, t *sqlite.Tx, of official.Table, source, digest string, importID, at int64) error {
	k := of.Key
	if err := t.Exec(ctx, "UPDATE official_table SET replaced_at = ? WHERE subject = ? AND grade = ? AND year = ? AND test = ? AND replaced_at IS NULL",
		at, k.Subject, k.Grade, k.Year, k.Test); err != nil {
		return err
	}
	id, err := t.Insert(ctx, "INSERT INTO official_table (test, subject, grade, year, source, digest, import_id, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
		k.Test, k.Subject, k.Grade, k.Year, source, digest, importID, at)
	if err != nil {
		return err
	}
	for _, row := range of.Rows {
		var scale any
		if row.Scale != nil {
			scale = int64(*row.Scale)
		}
		if err := t.Exec(ctx, "INSERT INTO official_row (table_id, raw, scale, band, line) VALUES (?, ?, ?, ?, ?)", id, int64(row.Raw), scale, row.Band, row.Line); err != nil {
			return err
		}
	}
	return nil
}
