package store

import "context"

// Framework is a set of standards.
type Framework struct {
	ID         int64  `db:"id"`
	Identifier string `db:"identifier"`
	Title      string `db:"title"`
	Subject    string `db:"subject"`
	Version    string `db:"version"`
	Standards  int    `db:"standards"`
}

// Frameworks lists the frameworks by title.
func (r Reader) Frameworks(ctx context.Context) ([]Framework, error) {
	var out []Framework
	err := r.list(ctx, &out, `SELECT f.id, f.identifier, f.title, f.subject, f.version,
		(SELECT COUNT(*) FROM standard s WHERE s.framework_id = f.id) AS standards FROM framework f ORDER BY f.title`)
	return out, err
}

// Standard is one node of a framework's tree. Everything below it lies in Place … Last.
type Standard struct {
	ID          int64  `db:"id"`
	FrameworkID int64  `db:"framework_id"`
	Identifier  string `db:"identifier"`
	Code        string `db:"code"`
	Text        string `db:"text"`
	Level       string `db:"level"`
	Grades      string `db:"grades"` // JSON array
	ParentID    int64  `db:"parent_id"`
	Place       int    `db:"place"`
	Last        int    `db:"last"`
}

const standardColumns = "id, framework_id, identifier, code, text, level, grades, COALESCE(parent_id, 0) AS parent_id, place, last"

// Standards lists a framework from top to bottom.
func (r Reader) Standards(ctx context.Context, framework int64) ([]Standard, error) {
	var out []Standard
	err := r.list(ctx, &out, "SELECT "+standardColumns+" FROM standard WHERE framework_id = ? ORDER BY place", framework)
	return out, err
}

// StandardsByCode finds standards by their codes, in any framework.
func (r Reader) StandardsByCode(ctx context.Context, codes []string) ([]Standard, error) {
	condition, args := in("code", codes)
	var out []Standard
	err := r.list(ctx, &out, "SELECT "+standardColumns+" FROM standard WHERE "+condition, args...)
	return out, err
}

// FrameworksOfCodes lists every standard of the frameworks that hold any of the codes.
func (r Reader) FrameworksOfCodes(ctx context.Context, codes []string) ([]Standard, error) {
	condition, args := in("code", codes)
	var out []Standard
	err := r.list(ctx, &out, "SELECT "+standardColumns+` FROM standard WHERE framework_id IN
		(SELECT DISTINCT framework_id FROM standard WHERE `+condition+") ORDER BY framework_id, place", args...)
	return out, err
}

// PutFramework writes a framework and gives its id; changed tells whether anything differs.
func (t *Tx) PutFramework(ctx context.Context, f Framework) (id int64, changed bool, err error) {
	var old Framework
	err = t.get(ctx, &old, "SELECT id, identifier, title, subject, version FROM framework WHERE identifier = ?", f.Identifier)
	if err == nil && old.Title == f.Title && old.Subject == f.Subject && old.Version == f.Version {
		return old.ID, false, nil
	}
	id, err = t.putRow(ctx, `INSERT INTO framework (identifier, title, subject, version) VALUES (?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET title = excluded.title, subject = excluded.subject, version = excluded.version RETURNING id`,
		f.Identifier, f.Title, f.Subject, f.Version)
	return id, true, err
}

// PutStandard writes a standard and gives its id.
func (t *Tx) PutStandard(ctx context.Context, s Standard, digest string) (int64, error) {
	var parent any
	if s.ParentID > 0 {
		parent = s.ParentID
	}
	return t.putRow(ctx, `INSERT INTO standard (framework_id, identifier, code, text, level, grades, parent_id, place, last, digest)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET framework_id = excluded.framework_id, code = excluded.code, text = excluded.text,
			level = excluded.level, grades = excluded.grades, parent_id = excluded.parent_id, place = excluded.place,
			last = excluded.last, digest = excluded.digest RETURNING id`,
		s.FrameworkID, s.Identifier, s.Code, s.Text, s.Level, s.Grades, parent, s.Place, s.Last, digest)
}

const standardKeySelect = "SELECT s.id, s.code, s.identifier, f.subject, s.grades FROM standard s JOIN framework f ON f.id = s.framework_id WHERE s.code <> ''"

// StandardKeys gives every standard that has a code, by its code and by its identifier.
func (r Reader) StandardKeys(ctx context.Context) (map[string]StandardKey, error) {
	return r.standardKeys(ctx, standardKeySelect)
}

// StandardsCoded gives the standards of some codes.
func (r Reader) StandardsCoded(ctx context.Context, codes []string) (map[string]StandardKey, error) {
	condition, args := in("s.code", codes)
	return r.standardKeys(ctx, standardKeySelect+" AND "+condition, args...)
}

func (r Reader) standardKeys(ctx context.Context, query string, args ...any) (map[string]StandardKey, error) {
	var rows []StandardKey
	if err := r.list(ctx, &rows, query, args...); err != nil {
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
	ID         int64  `db:"id"`
	Code       string `db:"code"`
	Identifier string `db:"identifier"`
	Subject    string `db:"subject"`
	Grades     string `db:"grades"` // JSON
}

// StandardsUnderCodes gives the ids of the standards with any of the codes and of all below them.
func (r Reader) StandardsUnderCodes(ctx context.Context, codes []string) ([]int64, error) {
	condition, args := in("top.code", codes)
	out := []int64{}
	err := r.list(ctx, &out, `SELECT DISTINCT s.id FROM standard top JOIN standard s ON s.framework_id = top.framework_id AND s.place BETWEEN top.place AND top.last
		WHERE `+condition, args...)
	return out, err
}
