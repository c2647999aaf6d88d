package cuts

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/official"
	"pineledger/core/roster"
	"pineledger/store/cutrows"
)

// OfficialTables lists what the state publishes of its tests, the newest years first.
func (a *Cuts) OfficialTables(ctx context.Context, v roster.Viewer) ([]cutrows.OfficialTable, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	return cutrows.OfficialTables(ctx, a.Store.Reader)
}

// OfficialTable is a table opened.
type OfficialTable struct {
	cutrows.OfficialTable
	Rows   []official.Row
	Cuts   []official.Cut
	Before map[string]official.Cut // by band, of the table beside it
	Others []cutrows.OfficialTable // of other years for the same subject and grade
}

// OfficialTable opens a table, with the cuts of another beside its own where one is named.
func (a *Cuts) OfficialTable(ctx context.Context, v roster.Viewer, id, beside int64) (OfficialTable, error) {
	var out OfficialTable
	if !v.MayBuild() {
		return out, desk.ErrForbidden
	}
	t, row, err := a.officialTable(ctx, id)
	if err != nil {
		return out, err
	}
	out = OfficialTable{OfficialTable: row, Rows: t.Rows, Cuts: t.Cuts()}
	all, err := cutrows.OfficialTablesFor(ctx, a.Store.Reader, t.Subject, []string{t.Grade})
	if err != nil {
		return out, err
	}
	for _, other := range all {
		if other.ID != id {
			out.Others = append(out.Others, other)
		}
	}
	if beside > 0 {
		other, _, err := a.officialTable(ctx, beside)
		if err != nil {
			return out, err
		}
		out.Before = map[string]official.Cut{}
		for _, c := range other.Cuts() {
			out.Before[c.Band] = c
		}
	}
	return out, nil
}

func (a *Cuts) officialTable(ctx context.Context, id int64) (official.Table, cutrows.OfficialTable, error) {
	row, err := cutrows.OfficialTableByID(ctx, a.Store.Reader, id)
	if err != nil {
		return official.Table{}, row, err
	}
	rows, err := cutrows.OfficialRows(ctx, a.Store.Reader, id)
	return official.Table{Key: row.Key(), ID: id, Rows: rows}, row, err
}

// tablesFor are, for each of some grades, the tables of the newest year that have bands.
func (a *Cuts) tablesFor(ctx context.Context, subject string, grades []string) ([]official.Table, error) {
	rows, err := cutrows.OfficialTablesFor(ctx, a.Store.Reader, subject, grades)
	if err != nil {
		return nil, err
	}
	newest := map[string]string{}
	var out []official.Table
	for _, row := range rows { // the newest years come first
		if row.Bands < 2 {
			continue // it converts to a scale and has no cuts
		}
		if newest[row.Grade] == "" {
			newest[row.Grade] = row.Year
		}
		if row.Year != newest[row.Grade] {
			continue
		}
		t, _, err := a.officialTable(ctx, row.ID)
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}
