package buildrows

import (
	"context"

	"pineledger/store/bankrows"
	"pineledger/store/sqlite"
)

// Draw is a draw as it was asked for and what came of it.
type Draw struct {
	ID           int64                     `db:"id"`
	AssessmentID int64                     `db:"assessment_id"`
	PersonID     int64                     `db:"person_id"`
	Person       string                    `db:"person"`
	At           int64                     `db:"at"`
	Question     sqlite.JSON[DrawQuestion] `db:"question"`
	Seed         int64                     `db:"seed"`
	State        string                    `db:"state"`
	Answer       sqlite.JSON[*DrawAnswer]  `db:"answer"` // nil while it runs
	PlacedAt     *int64                    `db:"placed_at"`
}

const drawSelect = `SELECT d.id, d.assessment_id, d.person_id, COALESCE(p.given || ' ' || p.family, '') AS person, d.at, d.question, d.seed, d.state, d.answer, d.placed_at
	FROM draw d LEFT JOIN person p ON p.id = d.person_id`

// AddDraw notes a draw that begins.
func AddDraw(ctx context.Context, t *sqlite.Tx, d Draw) (int64, error) {
	return t.Insert(ctx, "INSERT INTO draw (assessment_id, person_id, at, question, seed, state) VALUES (?, ?, ?, ?, ?, ?)",
		d.AssessmentID, d.PersonID, d.At, d.Question, d.Seed, d.State)
}

// EndDraw keeps what came of a draw.
func EndDraw(ctx context.Context, t *sqlite.Tx, id int64, state string, answer DrawAnswer) error {
	return t.Exec(ctx, "UPDATE draw SET state = ?, answer = ? WHERE id = ?", state, sqlite.JSON[DrawAnswer]{V: answer}, id)
}

// PlacedDraw notes that a draw was placed.
func PlacedDraw(ctx context.Context, t *sqlite.Tx, id, at int64) error {
	return t.Exec(ctx, "UPDATE draw SET placed_at = ? WHERE id = ?", at, id)
}

// AbandonDraws ends draws that a stopped program left.
func AbandonDraws(ctx context.Context, t *sqlite.Tx) error {
	return t.Exec(ctx, "UPDATE draw SET state = 'stopped' WHERE state = 'running'")
}

// DrawByID gives a draw.
func DrawByID(ctx context.Context, r sqlite.Reader, id int64) (Draw, error) {
	var d Draw
	err := r.Get(ctx, &d, drawSelect+" WHERE d.id = ?", id)
	return d, err
}

// Draws lists an assessment's draws, the newest first.
func Draws(ctx context.Context, r sqlite.Reader, assessment int64) ([]Draw, error) {
	var out []Draw
	err := r.List(ctx, &out, drawSelect+" WHERE d.assessment_id = ? ORDER BY d.id DESC LIMIT 30", assessment)
	return out, err
}

// PoolItem is what a draw must know of an item of the bank.
type PoolItem struct {
	ID         int64  `db:"id"`
	Identifier string `db:"identifier"`
	VersionID  int64  `db:"version_id"`
	Kind       string `db:"kind"`
	Stem       string `db:"stem"`
	Standards  string `db:"standards"`
	Depth      int    `db:"depth"`
	Difficulty *int64 `db:"difficulty"`
	Language   string `db:"language"`
	PassageID  int64  `db:"passage_id"`
	Uses       int    `db:"uses"`
	KeyShort   string `db:"key_short"`
	Tags       string `db:"tags"` // everyone's, separated by spaces
	BankID     int64  `db:"bank_id"`
	Bank       string `db:"bank"`
	OwnerID    int64  `db:"owner_id"`
}

// PoolItems reads what a draw can choose from, in the order of the items' ids, so
// that the same pool and seed draw the same.
func PoolItems(ctx context.Context, r sqlite.Reader, q bankrows.ItemQuery) ([]PoolItem, error) {
	w := q.Conditions()
	q.Facets(&w)
	var out []PoolItem
	err := r.List(ctx, &out, `SELECT i.id, i.identifier, i.version_id, i.kind, i.stem, v.standards, i.depth, i.difficulty, i.language, COALESCE(i.passage_id, 0) AS passage_id,
			i.uses, v.key_short, COALESCE((SELECT GROUP_CONCAT(t.name, ' ') FROM tag_set_tag m JOIN tag t ON t.id = m.tag_id AND t.scope = 'everyone' WHERE m.tag_set_id = i.tag_set_id), '') AS tags,
			i.bank_id, b.name AS bank, i.owner_id
		FROM item i JOIN item_version v ON v.id = i.version_id JOIN bank b ON b.id = i.bank_id`+w.String()+" ORDER BY i.id LIMIT ?", append(w.Args, q.Limit)...)
	return out, err
}

// PoolGroup is so many items that a blueprint cannot tell apart.
type PoolGroup struct {
	Standards  string `db:"standards"`
	Kind       string `db:"kind"`
	Depth      int    `db:"depth"`
	Difficulty *int64 `db:"difficulty"` // where it is asked for
	Language   string `db:"language"`
	Tags       string `db:"tags"` // everyone's, separated by spaces
	BankID     int64  `db:"bank_id"`
	Bank       string `db:"bank"`
	Own        bool   `db:"own"` // of the person who asks, where that is asked for
	Count      int    `db:"n"`
}

// PoolGroups counts what a blueprint can choose from, so that a large bank is walked along an
// index and not read. Groups are parted by difficulty and by whether a person owns them (0 for
// nobody) only where that is asked for: neither is in the index.
func PoolGroups(ctx context.Context, r sqlite.Reader, q bankrows.ItemQuery, byDifficulty bool, owner int64) ([]PoolGroup, error) {
	w := q.Conditions()
	q.Facets(&w)
	difficulty, own := "NULL", "0"
	if byDifficulty {
		difficulty = "i.difficulty"
	}
	var args []any
	if owner > 0 {
		own, args = "i.owner_id = ?", []any{owner}
	}
	out := []PoolGroup{}
	err := r.List(ctx, &out, `SELECT v.standards, g.kind, g.depth, g.difficulty, g.language, g.bank_id, b.name AS bank, g.own, g.n,
			COALESCE((SELECT GROUP_CONCAT(t.name, ' ') FROM tag_set_tag m JOIN tag t ON t.id = m.tag_id AND t.scope = 'everyone' WHERE m.tag_set_id = g.tag_set_id), '') AS tags
		FROM (SELECT i.alignment_id, i.kind, i.depth, `+difficulty+` AS difficulty, i.language, i.tag_set_id, i.bank_id, `+own+` AS own, COUNT(*) AS n, MIN(i.id) AS id
			FROM item i INDEXED BY item_facets`+w.String()+` GROUP BY 1, 2, 3, 4, 5, 6, 7, 8) g
		JOIN item one ON one.id = g.id JOIN item_version v ON v.id = one.version_id JOIN bank b ON b.id = g.bank_id`, append(args, w.Args...)...)
	return out, err
}

// GivenSince lists the items that students of any of the grades were
// given in a window that closed after a moment (ms).
func GivenSince(ctx context.Context, r sqlite.Reader, grades []string, since int64) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, `SELECT DISTINCT l.item_id FROM line l JOIN assessment a ON a.id = l.assessment_id
			JOIN distribution d ON d.assessment_id = a.id AND d.state = 'sent' AND d.closes_at > ?
		WHERE EXISTS (SELECT 1 FROM json_each(a.grades) g JOIN json_each(?) wanted ON wanted.value = g.value)`, since, sqlite.List(grades))
	return out, err
}

// HostilePair is two items that must not meet.
type HostilePair struct {
	ItemID     int64  `db:"item_id"` // of whom is asked
	OtherID    int64  `db:"other_id"`
	Identifier string `db:"identifier"` // the other's
	Stem       string `db:"stem"`
	Reason     string `db:"reason"`
	BankID     int64  `db:"bank_id"`
}

// HostileTo lists the pairs of some items, from either side.
func HostileTo(ctx context.Context, r sqlite.Reader, items []int64) ([]HostilePair, error) {
	var out []HostilePair
	err := r.List(ctx, &out, `SELECT h.item_id, h.other_id, i.identifier, i.stem, h.reason, i.bank_id FROM
			(SELECT item_id, other_id, reason FROM hostile WHERE item_id IN (SELECT value FROM json_each(?))
			UNION ALL SELECT other_id, item_id, reason FROM hostile WHERE other_id IN (SELECT value FROM json_each(?))) h
		JOIN item i ON i.id = h.other_id ORDER BY h.item_id, h.other_id`, sqlite.JsonIDs(items), sqlite.JsonIDs(items))
	return out, err
}

// PutHostile keeps a pair that must not meet.
func PutHostile(ctx context.Context, t *sqlite.Tx, a, b int64, reason string, person, at int64) error {
	return t.Exec(ctx, "INSERT OR REPLACE INTO hostile (item_id, other_id, reason, person_id, at) VALUES (?, ?, ?, ?, ?)", min(a, b), max(a, b), reason, person, at)
}

// EndHostile lets a pair meet again.
func EndHostile(ctx context.Context, t *sqlite.Tx, a, b int64) error {
	return t.Exec(ctx, "DELETE FROM hostile WHERE item_id = ? AND other_id = ?", min(a, b), max(a, b))
}

// ItemIDByIdentifier finds an item by its identifier.
func ItemIDByIdentifier(ctx context.Context, r sqlite.Reader, identifier string) (int64, error) {
	var id int64
	err := r.Get(ctx, &id, "SELECT id FROM item WHERE identifier = ?", identifier)
	return id, err
}
