package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// Framework is a set of standards.
type Framework struct {
	ID         int64  `db:"id"`
	Identifier string `db:"identifier"`
	Title      string `db:"title"`
	Subject    string `db:"subject"`
	Version    string `db:"version"`
	Changed    string `db:"changed"` // as its file says; "" where it does not
	Standards  int    `db:"standards"`
}

// Frameworks lists the frameworks by title.
func Frameworks(ctx context.Context, r sqlite.Reader) ([]Framework, error) {
	var out []Framework
	err := r.List(ctx, &out, `SELECT f.id, f.identifier, f.title, f.subject, f.version, f.changed,
		(SELECT COUNT(*) FROM standard s WHERE s.framework_id = f.id AND NOT s.retired) AS standards FROM framework f ORDER BY f.title`)
	return out, err
}

// FrameworkCalled gives the framework of an identifier.
func FrameworkCalled(ctx context.Context, r sqlite.Reader, identifier string) (Framework, error) {
	var f Framework
	err := r.Get(ctx, &f, "SELECT id, identifier, title, subject, version, changed FROM framework WHERE identifier = ?", identifier)
	return f, err
}

// Standard is one node of a framework's tree. Everything below it lies in Place … Last.
type Standard struct {
	ID          int64       `db:"id"`
	FrameworkID int64       `db:"framework_id"`
	Identifier  string      `db:"identifier"`
	Code        string      `db:"code"`
	Text        string      `db:"text"`
	Level       string      `db:"level"`
	Grades      sqlite.List `db:"grades"`
	ParentID    int64       `db:"parent_id"`
	Place       int         `db:"place"`
	Last        int         `db:"last"`
	Retired     bool        `db:"retired"` // the framework's newest edition does not hold it
}

const standardColumns = "id, framework_id, identifier, code, text, level, grades, COALESCE(parent_id, 0) AS parent_id, place, last, retired"

// Standards lists a framework from top to bottom, without what is retired.
func Standards(ctx context.Context, r sqlite.Reader, framework int64) ([]Standard, error) {
	var out []Standard
	err := r.List(ctx, &out, "SELECT "+standardColumns+" FROM standard WHERE framework_id = ? AND NOT retired ORDER BY place", framework)
	return out, err
}

// StandardsEver lists a framework with what is retired.
func StandardsEver(ctx context.Context, r sqlite.Reader, framework int64) ([]Standard, error) {
	var out []Standard
	err := r.List(ctx, &out, "SELECT "+standardColumns+" FROM standard WHERE framework_id = ? ORDER BY place", framework)
	return out, err
}

// RetireStandard takes a standard out of its tree. Its digest is emptied, so that an edition that holds it again brings it back.
func RetireStandard(ctx context.Context, t *sqlite.Tx, id int64) error {
	return t.ChangeOne(ctx, "UPDATE standard SET retired = 1, parent_id = NULL, place = -id, last = -id, digest = '' WHERE id = ?", id)
}

// StandardsByCode finds standards by their codes, in any framework.
func StandardsByCode(ctx context.Context, r sqlite.Reader, codes []string) ([]Standard, error) {
	condition, args := sqlite.In("code", codes)
	var out []Standard
	err := r.List(ctx, &out, "SELECT "+standardColumns+" FROM standard WHERE "+condition, args...)
	return out, err
}

// FrameworksOfCodes lists every standard of the frameworks that hold any of the codes.
func FrameworksOfCodes(ctx context.Context, r sqlite.Reader, codes []string) ([]Standard, error) {
	condition, args := sqlite.In("code", codes)
	var out []Standard
	err := r.List(ctx, &out, "SELECT "+standardColumns+` FROM standard WHERE framework_id IN
		(SELECT DISTINCT framework_id FROM standard WHERE `+condition+") ORDER BY framework_id, place", args...)
	return out, err
}

// PutFramework writes a framework and gives its id; changed tells whether anything differs.
func PutFramework(ctx context.Context, t *sqlite.Tx, f Framework) (id int64, changed bool, err error) {
	var old Framework
	err = t.Get(ctx, &old, "SELECT id, identifier, title, subject, version, changed FROM framework WHERE identifier = ?", f.Identifier)
	if err == nil && old.Title == f.Title && old.Subject == f.Subject && old.Version == f.Version && old.Changed == f.Changed {
		return old.ID, false, nil
	}
	id, err = t.PutRow(ctx, `INSERT INTO framework (identifier, title, subject, version, changed) VALUES (?, ?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET title = excluded.title, subject = excluded.subject, version = excluded.version, changed = excluded.changed RETURNING id`,
		f.Identifier, f.Title, f.Subject, f.Version, f.Changed)
	return id, true, err
}

// PutStandard writes a standard and gives its id.
func PutStandard(ctx context.Context, t *sqlite.Tx, s Standard, digest string) (int64, error) {
	var parent any
	if s.ParentID > 0 {
		parent = s.ParentID
	}
	return t.PutRow(ctx, `INSERT INTO standard (framework_id, identifier, code, text, level, grades, parent_id, place, last, digest)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET framework_id = excluded.framework_id, code = excluded.code, text = excluded.text,
			level = excluded.level, grades = excluded.grades, parent_id = excluded.parent_id, place = excluded.place,
			last = excluded.last, retired = 0, digest = excluded.digest RETURNING id`,
		s.FrameworkID, s.Identifier, s.Code, s.Text, s.Level, s.Grades, parent, s.Place, s.Last, digest)
}

const standardKeySelect = "SELECT s.id, s.code, s.identifier, f.subject, s.grades FROM standard s JOIN framework f ON f.id = s.framework_id WHERE s.code <> ''"

// StandardKeys gives every standard that has a code, by its code and by its identifier.
func StandardKeys(ctx context.Context, r sqlite.Reader) (map[string]StandardKey, error) {
	return standardKeys(ctx, r, standardKeySelect)
}

// StandardsCoded gives the standards of some codes.
func StandardsCoded(ctx context.Context, r sqlite.Reader, codes []string) (map[string]StandardKey, error) {
	condition, args := sqlite.In("s.code", codes)
	return standardKeys(ctx, r, standardKeySelect+" AND "+condition, args...)
}

func standardKeys(ctx context.Context, r sqlite.Reader, query string, args ...any) (map[string]StandardKey, error) {
	var rows []StandardKey
	if err := r.List(ctx, &rows, query, args...); err != nil {
		return nil, err
	}
	out := make(map[string]StandardKey, 2*len(rows))
	for _, row := range rows {
		out[row.Code], out[row.Identifier] = row, row
	}
	return out, nil
}

// StandardKey is a standard as items name it.
type StandardKey struct {
	ID         int64       `db:"id"`
	Code       string      `db:"code"`
	Identifier string      `db:"identifier"`
	Subject    string      `db:"subject"`
	Grades     sqlite.List `db:"grades"`
}

// StandardsUnderCodes gives the ids of the standards with any of the codes and of all below them.
func StandardsUnderCodes(ctx context.Context, r sqlite.Reader, codes []string) ([]int64, error) {
	condition, args := sqlite.In("top.code", codes)
	out := []int64{}
	err := r.List(ctx, &out, `SELECT DISTINCT s.id FROM standard top JOIN standard s ON s.framework_id = top.framework_id AND s.place BETWEEN top.place AND top.last
		WHERE `+condition, args...)
	return out, err
}
