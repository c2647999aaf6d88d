package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// ItemReport says that something is wrong with an item.
type ItemReport struct {
	ID         int64  `db:"id"`
	ItemID     int64  `db:"item_id"`
	Identifier string `db:"identifier"`
	Stem       string `db:"stem"`
	Version    int    `db:"version"` // that was seen
	Newest     int    `db:"newest"`
	Fault      string `db:"fault"`
	Words      string `db:"words"`
	PersonID   int64  `db:"person_id"`
	Person     string `db:"person"`
	At         int64  `db:"at"`
	State      string `db:"state"`
	Answer     string `db:"answer"`
	Closer     string `db:"closer"`
	ClosedAt   *int64 `db:"closed_at"`
}

const reportSelect = `SELECT r.id, r.item_id, i.identifier, i.stem, r.version, i.version AS newest, r.fault, r.words, r.person_id, p.given || ' ' || p.family AS person,
	r.at, r.state, r.answer, COALESCE(c.given || ' ' || c.family, '') AS closer, r.closed_at
	FROM item_report r JOIN item i ON i.id = r.item_id JOIN person p ON p.id = r.person_id LEFT JOIN person c ON c.id = r.closed_by`

// OpenReports lists the open reports of all items, the oldest first.
func OpenReports(ctx context.Context, r sqlite.Reader) ([]ItemReport, error) {
	var out []ItemReport
	err := r.List(ctx, &out, reportSelect+" WHERE r.state = 'open' ORDER BY r.at, r.id LIMIT 500")
	return out, err
}

// ReportsOn lists the reports on an item, the newest first.
func ReportsOn(ctx context.Context, r sqlite.Reader, item int64) ([]ItemReport, error) {
	var out []ItemReport
	err := r.List(ctx, &out, reportSelect+" WHERE r.item_id = ? ORDER BY r.id DESC LIMIT 200", item)
	return out, err
}

// OpenReportsOn counts the open reports on an item.
func OpenReportsOn(ctx context.Context, r sqlite.Reader, item int64) (int, error) {
	var n int
	err := r.Get(ctx, &n, "SELECT COUNT(*) FROM item_report WHERE item_id = ? AND state = 'open'", item)
	return n, err
}

// ReportByID gives a report.
func ReportByID(ctx context.Context, r sqlite.Reader, id int64) (ItemReport, error) {
	var out ItemReport
	err := r.Get(ctx, &out, reportSelect+" WHERE r.id = ?", id)
	return out, err
}

// AddItemReport keeps a report.
func AddItemReport(ctx context.Context, t *sqlite.Tx, r ItemReport) error {
	return t.Exec(ctx, "INSERT INTO item_report (item_id, version, fault, words, person_id, at, state) VALUES (?, ?, ?, ?, ?, ?, ?)",
		r.ItemID, r.Version, r.Fault, r.Words, r.PersonID, r.At, r.State)
}

// CloseReport keeps the answer to a report.
func CloseReport(ctx context.Context, t *sqlite.Tx, r ItemReport, by, at int64) error {
	return t.Exec(ctx, "UPDATE item_report SET state = ?, answer = ?, closed_by = ?, closed_at = ? WHERE id = ?", r.State, r.Answer, by, at, r.ID)
}

// ItemComment is what somebody said about an item.
type ItemComment struct {
	ID       int64  `db:"id"`
	ItemID   int64  `db:"item_id"`
	Version  int    `db:"version"`
	PersonID int64  `db:"person_id"`
	Person   string `db:"person"`
	Words    string `db:"words"`
	At       int64  `db:"at"`
}

// ItemComments lists what was said about an item, the oldest first.
func ItemComments(ctx context.Context, r sqlite.Reader, item int64) ([]ItemComment, error) {
	var out []ItemComment
	err := r.List(ctx, &out, `SELECT c.id, c.item_id, c.version, c.person_id, p.given || ' ' || p.family AS person, c.words, c.at
		FROM item_comment c JOIN person p ON p.id = c.person_id WHERE c.item_id = ? ORDER BY c.id LIMIT 500`, item)
	return out, err
}

// AddItemComment keeps a comment.
func AddItemComment(ctx context.Context, t *sqlite.Tx, c ItemComment) error {
	return t.Exec(ctx, "INSERT INTO item_comment (item_id, version, person_id, words, at) VALUES (?, ?, ?, ?, ?)", c.ItemID, c.Version, c.PersonID, c.Words, c.At)
}

// Notice is what somebody is told on Today.
type Notice struct {
	ID       int64  `db:"id"`
	PersonID int64  `db:"person_id"`
	At       int64  `db:"at"`
	Words    string `db:"words"`
	Path     string `db:"path"`
	Until    int64  `db:"until"` // when it is worth telling no more; 0: never
	Mail     bool   `db:"-"`     // it goes to their mailbox too, if they have one
}

// Notices lists what a person has not seen yet and is worth telling at a moment (ms), the newest first.
func Notices(ctx context.Context, r sqlite.Reader, person, now int64) ([]Notice, error) {
	var out []Notice
	err := r.List(ctx, &out, `SELECT id, person_id, at, words, path, until FROM notice
		WHERE person_id = ? AND seen_at IS NULL AND (until = 0 OR until > ?) ORDER BY at DESC, id DESC LIMIT 50`, person, now)
	return out, err
}

// AddNotice tells somebody something.
func AddNotice(ctx context.Context, t *sqlite.Tx, n Notice) error {
	return t.Exec(ctx, `INSERT INTO notice (person_id, at, words, path, until, mail) VALUES (?1, ?2, ?3, ?4, ?5,
		CASE WHEN ?6 AND EXISTS (SELECT 1 FROM person WHERE id = ?1 AND email <> '') THEN 'waiting' ELSE '' END)`, n.PersonID, n.At, n.Words, n.Path, n.Until, n.Mail)
}

// SeeNotice notes that a person has seen a notice.
func SeeNotice(ctx context.Context, t *sqlite.Tx, person, id, at int64) error {
	return t.Exec(ctx, "UPDATE notice SET seen_at = ? WHERE id = ? AND person_id = ? AND seen_at IS NULL", at, id, person)
}
