package bankrows

import (
	"context"

	"pineledger/core/attempt"
	"pineledger/store/sqlite"
)

// VersionListed is a version of an item in its history.
type VersionListed struct {
	ID       int64  `db:"id"`
	Number   int    `db:"number"`
	AuthorID int64  `db:"author_id"`
	Author   string `db:"author"` // "" before there were people
	At       int64  `db:"at"`
}

// VersionsOf lists an item's versions, the newest first.
func VersionsOf(ctx context.Context, r sqlite.Reader, item int64) ([]VersionListed, error) {
	var out []VersionListed
	err := r.List(ctx, &out, `SELECT v.id, v.number, v.author_id, COALESCE(p.given || ' ' || p.family, '') AS author, v.at
		FROM item_version v LEFT JOIN person p ON p.id = v.author_id WHERE v.item_id = ? ORDER BY v.number DESC`, item)
	return out, err
}

// VersionNumbered gives one version of an item.
func VersionNumbered(ctx context.Context, r sqlite.Reader, item int64, number int) (ItemVersion, error) {
	var v ItemVersion
	err := r.Get(ctx, &v, versionSelect+" WHERE v.item_id = ? AND v.number = ?", item, number)
	return v, err
}

// OriginOf tells which item and version an item was copied from.
type OriginOf struct {
	ItemID     int64  `db:"item_id"`
	Identifier string `db:"identifier"`
	Number     int    `db:"number"`
}

// Origin gives the version that an item was copied from.
func Origin(ctx context.Context, r sqlite.Reader, version int64) (OriginOf, error) {
	var o OriginOf
	err := r.Get(ctx, &o, "SELECT v.item_id, i.identifier, v.number FROM item_version v JOIN item i ON i.id = v.item_id WHERE v.id = ?", version)
	return o, err
}

// ItemUse is a place of an item on a draft or on a sealed form, with what the
// right to know of it depends on.
type ItemUse struct {
	AssessmentID int64       `db:"assessment_id"`
	FormID       int64       `db:"form_id"` // 0 on a draft
	Title        string      `db:"title"`
	Year         string      `db:"year"`
	Grades       sqlite.List `db:"grades"`
	State        string      `db:"state"`
	SchoolID     int64       `db:"school_id"`
	OwnerID      int64       `db:"owner_id"`
	Owner        string      `db:"owner"`
	Edition      int         `db:"edition"`
	Line         int         `db:"line"`
	Version      int         `db:"version"`
	Points       int64       `db:"points"` // hundredths; 0 on a sealed form, whose document has them
	SealedAt     *int64      `db:"sealed_at"`
	FirstOpens   *int64      `db:"first_opens"`
	Students     int         `db:"students"` // have begun
}

// UsesOf lists where an item is or was used, the newest first.
func UsesOf(ctx context.Context, r sqlite.Reader, item int64) ([]ItemUse, error) {
	var out []ItemUse
	err := r.List(ctx, &out, `SELECT a.id AS assessment_id, 0 AS form_id, a.title, a.year, a.grades, a.state, a.school_id, a.owner_id,
			COALESCE(p.given || ' ' || p.family, '') AS owner, a.edition, l.position + 1 AS line, v.number AS version, l.points,
			NULL AS sealed_at, NULL AS first_opens, 0 AS students
		FROM line l JOIN assessment a ON a.id = l.assessment_id AND a.state = 'draft' AND a.deleted_at IS NULL JOIN item_version v ON v.id = l.item_version_id
			LEFT JOIN person p ON p.id = a.owner_id WHERE l.item_id = ?
		UNION ALL SELECT a.id, f.id, a.title, a.year, a.grades, a.state, a.school_id, a.owner_id, COALESCE(p.given || ' ' || p.family, ''), f.edition, l.line, v.number, 0,
			f.sealed_at, (SELECT MIN(d.opens_at) FROM distribution d WHERE d.form_id = f.id AND d.state = 'sent'),
			COALESCE((SELECT SUM(s.students) FROM form_seen s WHERE s.form_id = f.id), 0)
		FROM form_line l JOIN form f ON f.id = l.form_id JOIN assessment a ON a.id = f.assessment_id JOIN item_version v ON v.id = l.item_version_id
			LEFT JOIN person p ON p.id = a.owner_id WHERE l.item_id = ?
		ORDER BY 14 IS NOT NULL, 14 DESC, 1 DESC LIMIT 500`, item, item)
	return out, err
}

// Seen is how many students of a grade began a form with an item in a school year.
type Seen struct {
	Year     string `db:"year"`
	Grade    string `db:"grade"`
	Students int    `db:"students"`
}

// SeenOf sums an item's exposure by year and grade.
func SeenOf(ctx context.Context, r sqlite.Reader, item int64) ([]Seen, error) {
	var out []Seen
	err := r.List(ctx, &out, `SELECT s.year, s.grade, SUM(s.students) AS students FROM form_line l JOIN form_seen s ON s.form_id = l.form_id
		WHERE l.item_id = ? GROUP BY s.year, s.grade ORDER BY s.year DESC, s.grade`, item)
	return out, err
}

// CountSeen notes that a student at a sitting has begun its form, under the
// grade of the section and the assessment's school year.
func CountSeen(ctx context.Context, t *sqlite.Tx, form, sitting int64) error {
	return t.Exec(ctx, `INSERT INTO form_seen (form_id, year, grade, students)
		SELECT f.id, a.year, c.grade, 1 FROM form f JOIN assessment a ON a.id = f.assessment_id JOIN sitting g ON g.id = ? JOIN section c ON c.id = g.section_id
		WHERE f.id = ? ON CONFLICT (form_id, year, grade) DO UPDATE SET students = students + 1`, sitting, form)
}

// FormLine is an item on a sealed form.
type FormLine struct{ ItemID, VersionID int64 }

// AddFormLines notes which items a sealed form holds, so that they find it.
func AddFormLines(ctx context.Context, t *sqlite.Tx, form int64, lines []FormLine) error {
	for i, l := range lines {
		if err := t.Exec(ctx, "INSERT INTO form_line (form_id, line, item_id, item_version_id) VALUES (?, ?, ?, ?)", form, i+1, l.ItemID, l.VersionID); err != nil {
			return err
		}
	}
	return nil
}

// CreditsOfForm gives the credits of every scored attempt at a form, in no order.
func CreditsOfForm(ctx context.Context, r sqlite.Reader, form int64) ([][]attempt.LineCredit, error) {
	var packed [][]byte
	err := r.List(ctx, &packed, "SELECT x.credits FROM result x JOIN attempt t ON t.id = x.attempt_id WHERE t.form_id = ? AND "+sqlite.InReports, form)
	out := make([][]attempt.LineCredit, len(packed))
	for i, p := range packed {
		out[i] = sqlite.UnpackCredits(p)
	}
	return out, err
}
