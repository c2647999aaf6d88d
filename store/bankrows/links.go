package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// StandardLink says what a standard is to another; both by identifier.
type StandardLink struct {
	From string `db:"from_identifier"`
	To   string `db:"to_identifier"`
	Kind string `db:"kind"`
}

// LinksBroughtBy lists the links that a framework's file brought.
func LinksBroughtBy(ctx context.Context, r sqlite.Reader, framework string) ([]StandardLink, error) {
	var out []StandardLink
	err := r.List(ctx, &out, `SELECT l.from_identifier, l.to_identifier, l.kind FROM standard_link l JOIN framework f ON f.id = l.framework_id WHERE f.identifier = ?`, framework)
	return out, err
}

// PutLinks replaces the links that a framework's file brought.
func PutLinks(ctx context.Context, t *sqlite.Tx, framework int64, links []StandardLink) error {
	if err := t.Exec(ctx, "DELETE FROM standard_link WHERE framework_id = ?", framework); err != nil {
		return err
	}
	for _, l := range links {
		if err := t.Exec(ctx, "INSERT INTO standard_link (framework_id, from_identifier, to_identifier, kind) VALUES (?, ?, ?, ?)", framework, l.From, l.To, l.Kind); err != nil {
			return err
		}
	}
	return nil
}

// LinkedStandard is a standard beside one that it is linked to.
type LinkedStandard struct {
	ID          int64  `db:"id"` // one of those that were asked for
	Code        string `db:"code"`
	OtherID     int64  `db:"other_id"`
	OtherCode   string `db:"other_code"`
	OtherText   string `db:"other_text"`
	FrameworkID int64  `db:"framework_id"` // of the other
	Framework   string `db:"framework"`
	Kind        string `db:"kind"`
	Forward     bool   `db:"forward"` // from the one that was asked for to the other
}

// LinksOf lists the standards that some standards are linked to, either way.
func LinksOf(ctx context.Context, r sqlite.Reader, standards []int64) ([]LinkedStandard, error) {
	var out []LinkedStandard
	err := r.List(ctx, &out, `SELECT s.id, s.code, o.id AS other_id, o.code AS other_code, o.text AS other_text, f.id AS framework_id, f.title AS framework, l.kind, l.forward FROM standard s
		JOIN (SELECT from_identifier AS mine, to_identifier AS other, kind, 1 AS forward FROM standard_link
			UNION SELECT to_identifier, from_identifier, kind, 0 FROM standard_link) l ON l.mine = s.identifier
		JOIN standard o ON o.identifier = l.other JOIN framework f ON f.id = o.framework_id
		WHERE s.id IN (SELECT value FROM json_each(?)) ORDER BY s.place, o.place`, sqlite.JsonIDs(standards))
	return out, err
}

// AlignedTo counts, for each standard of a framework, the items of some banks that
// are aligned to it itself.
func AlignedTo(ctx context.Context, r sqlite.Reader, framework int64, banks []int64) (map[int64]int, error) {
	var rows []struct {
		ID    int64 `db:"id"`
		Count int   `db:"n"`
	}
	err := r.List(ctx, &rows, `SELECT x.standard_id AS id, COUNT(*) AS n FROM standard s JOIN alignment_standard x ON x.standard_id = s.id JOIN item i ON i.alignment_id = x.alignment_id
		WHERE s.framework_id = ? AND i.bank_id IN (SELECT value FROM json_each(?)) GROUP BY x.standard_id`, framework, sqlite.JsonIDs(banks))
	out := map[int64]int{}
	for _, row := range rows {
		out[row.ID] = row.Count
	}
	return out, err
}

// ItemsAlignedTo gives the ids of the items that are aligned to a standard itself.
func ItemsAlignedTo(ctx context.Context, r sqlite.Reader, standard int64) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, "SELECT i.id FROM alignment_standard x JOIN item i ON i.alignment_id = x.alignment_id AND i.assessment_id IS NULL WHERE x.standard_id = ? ORDER BY i.id", standard)
	return out, err
}

// StandardByID gives a standard.
func StandardByID(ctx context.Context, r sqlite.Reader, id int64) (Standard, error) {
	var s Standard
	err := r.Get(ctx, &s, "SELECT "+standardColumns+" FROM standard WHERE id = ?", id)
	return s, err
}

// CodesElsewhere tells which codes other frameworks use.
func CodesElsewhere(ctx context.Context, r sqlite.Reader, framework string) (map[string]bool, error) {
	var codes []string
	err := r.List(ctx, &codes, "SELECT s.code FROM standard s JOIN framework f ON f.id = s.framework_id WHERE f.identifier <> ? AND s.code <> ''", framework)
	out := make(map[string]bool, len(codes))
	for _, c := range codes {
		out[c] = true
	}
	return out, err
}
