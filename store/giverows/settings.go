package giverows

import (
	"context"
	"encoding/json"
	"time"

	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

type settingRow struct {
	AssessmentID int64          `db:"assessment_id"`
	Level        settings.Level `db:"level"`
	ThingID      int64          `db:"thing_id"`
	Purpose      string         `db:"purpose"`
	Key          string         `db:"key"`
	Value        string         `db:"value"`
	Lock         settings.Lock  `db:"lock"`
	Person       string         `db:"person"`
	At           int64          `db:"at"`
}

func (r settingRow) scope() settings.Scope {
	return settings.Scope{Level: r.Level, Purpose: r.Purpose, Assessment: r.AssessmentID, Thing: r.ThingID}
}

// BookOf reads what the levels say of some assessments: their own values, and those that are for all.
func BookOf(ctx context.Context, r sqlite.Reader, assessments []int64) (*settings.Book, error) {
	condition, args := sqlite.In("assessment_id", append([]int64{0}, assessments...))
	var rows []settingRow
	if err := r.List(ctx, &rows, "SELECT assessment_id, level, thing_id, purpose, key, value, lock, person, at FROM setting WHERE "+condition, args...); err != nil {
		return nil, err
	}
	book := settings.NewBook()
	for _, row := range rows {
		s := settings.Stand{Value: json.RawMessage(row.Value), Lock: row.Lock, By: row.Person}
		if row.At > 0 {
			s.At = sqlite.Time(row.At)
		}
		book.Put(row.scope(), row.Key, s)
	}
	return book, nil
}

// PutSetting writes what a scope says of a setting.
func PutSetting(ctx context.Context, t *sqlite.Tx, scope settings.Scope, key string, s settings.Stand, by int64) error {
	return t.Exec(ctx, `INSERT INTO setting (assessment_id, level, thing_id, purpose, key, value, lock, person_id, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
		ON CONFLICT (assessment_id, level, thing_id, purpose, key) DO UPDATE SET value = excluded.value, lock = excluded.lock,
			person_id = excluded.person_id, person = excluded.person, at = excluded.at`,
		scope.Assessment, scope.Level, scope.Thing, scope.Purpose, key, string(s.Value), s.Lock, by, s.By, sqlite.OptionalMillis(s.At))
}

// DropSetting lets a scope say nothing of a setting any more.
func DropSetting(ctx context.Context, t *sqlite.Tx, scope settings.Scope, key string) error {
	return t.Exec(ctx, "DELETE FROM setting WHERE assessment_id = ? AND level = ? AND thing_id = ? AND purpose = ? AND key = ?",
		scope.Assessment, scope.Level, scope.Thing, scope.Purpose, key)
}

// CopySettings gives an assessment what another says of itself, but for some keys.
func CopySettings(ctx context.Context, t *sqlite.Tx, from, to int64, but []string) error {
	left, args := sqlite.In("key", but)
	return t.Exec(ctx, `INSERT INTO setting (assessment_id, level, thing_id, purpose, key, value, lock, person_id, person, at)
		SELECT ?, level, thing_id, purpose, key, value, lock, person_id, person, at FROM setting WHERE assessment_id = ? AND level = 'assessment' AND NOT `+left,
		append([]any{to, from}, args...)...)
}

// TakeSettings lets an assessment say of its settings what another says, at every level; what the other says for one of its distributions
// is said for one of its own.
func TakeSettings(ctx context.Context, t *sqlite.Tx, from, to Distribution) error {
	if err := t.Exec(ctx, "DELETE FROM setting WHERE assessment_id = ?", to.AssessmentID); err != nil {
		return err
	}
	return t.Exec(ctx, `INSERT INTO setting (assessment_id, level, thing_id, purpose, key, value, lock, person_id, person, at)
		SELECT ?3, level, CASE WHEN level = 'distribution' THEN ?4 ELSE thing_id END, purpose, key, value, lock, person_id, person, at
		FROM setting WHERE assessment_id = ?1 AND (level <> 'distribution' OR thing_id = ?2)`, from.AssessmentID, from.ID, to.AssessmentID, to.ID)
}

// Sat is a sitting as settings see it.
type Sat struct {
	SittingID      int64                      `db:"id"`
	DistributionID int64                      `db:"distribution_id"`
	AssessmentID   int64                      `db:"assessment_id"`
	Title          string                     `db:"title"`
	Purpose        string                     `db:"purpose"`
	SchoolID       int64                      `db:"school_id"`
	School         string                     `db:"school"`
	SectionID      int64                      `db:"section_id"`
	Section        string                     `db:"section"`
	OpensAt        int64                      `db:"opens_at"`
	ClosesAt       int64                      `db:"closes_at"`
	Setup          sqlite.JSON[attempt.Setup] `db:"setup"`
	RoomID         int64                      `db:"room_id"` // that it shares; 0: a room of its own
	Makeup         bool                       `db:"makeup"`
	Seats          int                        `db:"seats"`
	Begun          int                        `db:"begun"` // attempts, of whatever state
	Working        int                        `db:"working"`
}

// Place is what its settings are asked for.
func (s Sat) Place() settings.Place {
	return settings.Place{Purpose: s.Purpose, Assessment: s.AssessmentID, Distribution: s.DistributionID, School: s.SchoolID, Section: s.SectionID}
}

const satSelect = `SELECT g.id, g.distribution_id, d.assessment_id, a.title, a.purpose, g.school_id, c.name AS school, g.section_id, s.title AS section,
	g.opens_at, g.closes_at, g.setup, COALESCE(g.room_id, 0) AS room_id, g.makeup,
	(SELECT COUNT(*) FROM seat WHERE seat.sitting_id = g.id) AS seats,
	(SELECT COUNT(*) FROM attempt t WHERE t.sitting_id = g.id) AS begun,
	(SELECT COUNT(*) FROM attempt t WHERE t.sitting_id = g.id AND t.state = 'working') AS working
	FROM sitting g JOIN distribution d ON d.id = g.distribution_id JOIN assessment a ON a.id = d.assessment_id
	JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id`

// SatBy lists the sittings that a scope speaks for. Where it speaks for all assessments, those that are over at a moment (ms) are
// left out: they stay as they were.
func SatBy(ctx context.Context, r sqlite.Reader, scope settings.Scope, now int64) ([]Sat, error) {
	var w sqlite.Where
	if scope.Assessment > 0 {
		w.Add("d.assessment_id = ?", scope.Assessment)
	} else {
		w.Add("g.ends_at > ?", now)
	}
	switch scope.Level {
	case settings.Purpose:
		w.Add("a.purpose = ?", scope.Purpose)
	case settings.Distribution:
		w.Add("g.distribution_id = ?", scope.Thing)
	case settings.School:
		w.Add("g.school_id = ?", scope.Thing)
	case settings.Section:
		w.Add("g.section_id = ?", scope.Thing)
	}
	var out []Sat
	err := r.List(ctx, &out, satSelect+w.String()+" ORDER BY g.id", w.Args...)
	return out, err
}

// SetSetup keeps what is in force at a sitting, and its window.
func SetSetup(ctx context.Context, t *sqlite.Tx, sitting int64, setup attempt.Setup) error {
	if err := t.Exec(ctx, "UPDATE sitting SET setup = ?, opens_at = ?, closes_at = ?, ends_at = ? WHERE id = ?", sqlite.JSON[attempt.Setup]{V: setup},
		sqlite.Millis(setup.Opens), sqlite.Millis(setup.Closes), sqlite.Millis(setup.Ends), sitting); err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE distribution SET in_reports = ?2 WHERE id = (SELECT distribution_id FROM sitting WHERE id = ?1) AND in_reports <> ?2",
		sitting, setup.Settings.Flag(settings.InReports))
}

// Where is a section that an assessment was sent to, or is to go to.
type Where struct {
	SittingID      int64  `db:"id"` // 0: it has not been sent
	DistributionID int64  `db:"distribution_id"`
	SchoolID       int64  `db:"school_id"`
	School         string `db:"school"`
	SectionID      int64  `db:"section_id"`
	Section        string `db:"section"`
}

// SentTo lists where an assessment was sent, in scope, by school and section.
func SentTo(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64) ([]Where, error) {
	var w sqlite.Where
	w.Add("d.assessment_id = ? AND g.makeup = 0", assessment)
	officerows.InScope(&w, scope)
	var out []Where
	err := r.List(ctx, &out, `SELECT g.id, g.distribution_id, g.school_id, c.name AS school, g.section_id, s.title AS section
		FROM sitting g JOIN distribution d ON d.id = g.distribution_id JOIN section s ON s.id = g.section_id JOIN school c ON c.id = g.school_id`+
		w.String()+" ORDER BY c.name, s.title, g.id", w.Args...)
	return out, err
}

// GoesTo lists where an assessment is to go and has not been sent, in scope, by school and section.
func GoesTo(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64) ([]Where, error) {
	var w sqlite.Where
	w.Add("d.assessment_id = ? AND d.state = 'draft'", assessment)
	w.Add("NOT EXISTS (SELECT 1 FROM sitting g JOIN distribution o ON o.id = g.distribution_id WHERE o.assessment_id = d.assessment_id AND g.section_id = s.id)")
	officerows.InScope(&w, scope)
	var out []Where
	err := r.List(ctx, &out, `SELECT 0 AS id, d.id AS distribution_id, s.school_id, c.name AS school, s.id AS section_id, s.title AS section
		FROM distribution_section x JOIN distribution d ON d.id = x.distribution_id JOIN section s ON s.id = x.section_id JOIN school c ON c.id = s.school_id`+
		w.String()+" ORDER BY c.name, s.title", w.Args...)
	return out, err
}

// Release sets when feedback was released to the students of an assessment; the zero time takes it back. It gives the sittings.
func Release(ctx context.Context, t *sqlite.Tx, assessment int64, at time.Time) ([]int64, error) {
	var out []int64
	if err := t.List(ctx, &out, "SELECT g.id FROM sitting g JOIN distribution d ON d.id = g.distribution_id WHERE d.assessment_id = ?", assessment); err != nil {
		return nil, err
	}
	return out, t.Exec(ctx, "UPDATE distribution SET released_at = ? WHERE assessment_id = ? AND state = 'sent'", sqlite.OptionalMillis(at), assessment)
}

// ReleasedAt is when feedback of an assessment was released; the zero time: it was not.
func ReleasedAt(ctx context.Context, r sqlite.Reader, assessment int64) (time.Time, error) {
	var at *int64
	err := r.Get(ctx, &at, "SELECT MAX(released_at) FROM distribution WHERE assessment_id = ?", assessment)
	return sqlite.OptionalTime(at), err
}

// SetCode keeps the code that opens a sitting.
func SetCode(ctx context.Context, t *sqlite.Tx, sitting int64, code string) error {
	return t.Exec(ctx, "UPDATE sitting SET code = ? WHERE id = ?", code, sitting)
}
