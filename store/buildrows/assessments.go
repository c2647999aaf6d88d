// Package buildrows keeps assessments: lines, blueprints, draws, band sets, documents,
// sealed forms and shares.
package buildrows

import (
	"context"
	"slices"
	"time"

	"pineledger/core/assessment"
	"pineledger/core/bank"
	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/roster"
	"pineledger/store/bankrows"
	"pineledger/store/sqlite"
)

// Assessment is an assessment's outline and state.
type Assessment struct {
	ID             int64            `db:"id"`
	Title          string           `db:"title"`
	ShortTitle     string           `db:"short_title"`
	Description    string           `db:"description"`
	Instructions   string           `db:"instructions"`
	Subject        string           `db:"subject"`
	Grades         sqlite.List      `db:"grades"`
	Purpose        string           `db:"purpose"`
	Language       string           `db:"language"`
	Year           string           `db:"year"`
	State          assessment.State `db:"state"`
	Edition        int              `db:"edition"`
	BandSetID      int64            `db:"band_set_id"`      // 0: none chosen
	BandSetVersion int              `db:"band_set_version"` // the one whose cuts stand
	// The set for mastery by standard; 0: none chosen.
	MasterySetID      int64                    `db:"mastery_set_id"`
	MasterySetVersion int                      `db:"mastery_set_version"`
	ConversionID      int64                    `db:"conversion_table_id"` // the official table that says which raw score is which on its scale; 0 for none
	OwnRule           string                   `db:"own_rule"`            // of its own cuts; "" as its set has it
	SchoolID          int64                    `db:"school_id"`
	OwnerID           int64                    `db:"owner_id"`
	Version           int                      `db:"version"`
	ChangedAt         int64                    `db:"changed_at"`
	ChangedBy         string                   `db:"changed_by"`
	CopiedFrom        int64                    `db:"copied_from"`   // 0: from none
	TwinOf            int64                    `db:"twin_of"`       // the assessment with form A; 0: it is one itself, or there are no forms
	FormLetter        string                   `db:"form_letter"`   // "" where there is one form
	DocumentHash      string                   `db:"document_hash"` // of the document that is keyed, "" for none
	Course            string                   `db:"course"`
	Labels            sqlite.List              `db:"labels"`
	Layout            sqlite.JSON[form.Layout] `db:"layout"`
	Shelved           bool                     `db:"shelved"` // put away

	Shares []Share `db:"-"` // where the assessment was read by itself
}

// Owned is what rights depend on.
func (a Assessment) Owned() roster.Owned {
	return roster.Owned{OwnerID: a.OwnerID, SchoolID: a.SchoolID, Shares: coreShares(a.Shares)}
}

// Shown is the state as people see it.
func (a Assessment) Shown() assessment.State {
	if a.Shelved {
		return assessment.Shelved
	}
	return a.State
}

const assessmentSelect = `SELECT a.id, a.title, a.short_title, a.description, a.instructions, a.subject, a.grades, a.purpose, a.language, a.year, a.state,
	a.edition, COALESCE(a.band_set_id, 0) AS band_set_id, a.band_set_version, COALESCE(a.mastery_set_id, 0) AS mastery_set_id, a.mastery_set_version, COALESCE(a.conversion_table_id, 0) AS conversion_table_id, a.own_rule, a.school_id, a.owner_id, a.version, a.changed_at, a.changed_by,
	COALESCE(a.copied_from, 0) AS copied_from, COALESCE(a.twin_of, 0) AS twin_of, a.form_letter, COALESCE(a.document_hash, '') AS document_hash, a.course, a.labels, a.layout,
	a.shelved_at IS NOT NULL AS shelved`

// AssessmentListed is an assessment with what a list shows beside it.
type AssessmentListed struct {
	Assessment
	Owner  string `db:"owner"`
	Lines  int    `db:"lines"`
	Points int64  `db:"points"`
}

// AssessmentFilter narrows a list of assessments. Zero values do not restrict.
type AssessmentFilter struct {
	Words                                      string // in the title or the short one
	Grade, Subject, Course, Year, State, Label string
	OwnerID                                    int64
	OpenedFirst                                bool // what the person opened last comes first; else what was changed last
	Limit                                      int
}

// Assessments lists what a viewer sees: of the district and of their schools by post,
// and what is shared with them. It is Viewer.MaySee as a query.
func Assessments(ctx context.Context, r sqlite.Reader, v roster.Viewer, f AssessmentFilter) ([]AssessmentListed, error) {
	var w sqlite.Where
	w.Add("a.deleted_at IS NULL")
	if f.State == string(assessment.Shelved) {
		w.Add("a.shelved_at IS NOT NULL")
		f.State = ""
	} else {
		w.Add("a.shelved_at IS NULL")
	}
	if !v.Scope().District {
		seen, args := seenBy(v)
		w.Add(seen, args...)
	}
	if f.Words != "" {
		like := "%" + sqlite.EscapeLike(f.Words) + "%"
		w.Add(`(a.title LIKE ? ESCAPE '\' OR a.short_title LIKE ? ESCAPE '\')`, like, like)
	}
	for _, c := range []struct{ condition, value string }{{"a.subject = ?", f.Subject}, {"a.course = ?", f.Course}, {"a.year = ?", f.Year}, {"a.state = ?", f.State},
		{"EXISTS (SELECT 1 FROM json_each(a.grades) g WHERE g.value = ?)", f.Grade}, {"EXISTS (SELECT 1 FROM json_each(a.labels) l WHERE l.value = ?)", f.Label}} {
		if c.value != "" {
			w.Add(c.condition, c.value)
		}
	}
	if f.OwnerID > 0 {
		w.Add("a.owner_id = ?", f.OwnerID)
	}
	order := "a.changed_at DESC, a.id DESC"
	if f.OpenedFirst {
		order = "COALESCE(o.at, 0) DESC, " + order
	}
	var out []AssessmentListed
	person := v.PersonID
	err := r.List(ctx, &out, assessmentSelect+`, COALESCE(p.given || ' ' || p.family, '') AS owner,
			(SELECT COUNT(*) FROM line l WHERE l.assessment_id = a.id) AS lines,
			(SELECT COALESCE(SUM(l.points), 0) FROM line l WHERE l.assessment_id = a.id) AS points
		FROM assessment a LEFT JOIN person p ON p.id = a.owner_id LEFT JOIN assessment_opened o ON o.assessment_id = a.id AND o.person_id = ?`+w.String()+
		" ORDER BY "+order+" LIMIT ?", append(append([]any{person}, w.Args...), f.Limit)...)
	return out, err
}

// seenBy is the condition for what somebody without the whole district sees.
func seenBy(v roster.Viewer) (string, []any) {
	schools := v.Scope().Schools
	condition, args := "s.person_id = ?", []any{v.PersonID}
	or := func(more string, with ...any) { condition, args = condition+" OR "+more, append(args, with...) }
	coordinated, list := sqlite.In("s.school_id", schools)
	or("s.person_id = 0 AND "+coordinated, list...)
	for _, p := range v.Posts {
		if p.Role == roster.Teacher {
			or("s.person_id = 0 AND s.subject = '' AND s.teachers = 1 AND s.school_id = ?", p.SchoolID)
		}
	}
	for _, d := range v.Departments {
		or("s.person_id = 0 AND s.subject = ? AND s.school_id IN (0, ?)", d.Subject, d.SchoolID)
	}
	seen := "EXISTS (SELECT 1 FROM assessment_share s WHERE s.assessment_id = a.id AND (" + condition + "))"
	if !v.MayBuild() {
		return seen, args
	}
	own, posts := sqlite.In("a.school_id", append([]int64{0}, schools...))
	return "(" + own + " OR " + seen + ")", append(posts, args...)
}

// Opened notes that a person has opened an assessment.
func Opened(ctx context.Context, t *sqlite.Tx, person, assessment, at int64) error {
	return t.Exec(ctx, "INSERT INTO assessment_opened (person_id, assessment_id, at) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET at = excluded.at", person, assessment, at)
}

// Purposes lists what assessments are for, in the district's order.
func Purposes(ctx context.Context, r sqlite.Reader) ([]string, error) {
	var out []string
	err := r.List(ctx, &out, "SELECT name FROM purpose ORDER BY position")
	return out, err
}

// PutPurposes replaces the district's list.
func PutPurposes(ctx context.Context, t *sqlite.Tx, names []string) error {
	if err := t.Exec(ctx, "DELETE FROM purpose"); err != nil {
		return err
	}
	for i, name := range names {
		if err := t.Exec(ctx, "INSERT INTO purpose (name, position) VALUES (?, ?)", name, i); err != nil {
			return err
		}
	}
	return nil
}

// AssessmentByID gives an assessment with whom it is shared with.
func AssessmentByID(ctx context.Context, r sqlite.Reader, id int64) (Assessment, error) {
	var a Assessment
	if err := r.Get(ctx, &a, assessmentSelect+" FROM assessment a WHERE a.id = ? AND a.deleted_at IS NULL", id); err != nil {
		return a, err
	}
	var err error
	a.Shares, err = Shares(ctx, r, id)
	return a, err
}

// AddAssessment writes a new draft.
func AddAssessment(ctx context.Context, t *sqlite.Tx, a Assessment) (int64, error) {
	return t.Insert(ctx, `INSERT INTO assessment (title, short_title, description, instructions, subject, grades, purpose, language, year,
			state, edition, band_set_id, band_set_version, mastery_set_id, mastery_set_version, conversion_table_id, own_rule, school_id, owner_id, version, changed_at, changed_by, copied_from, twin_of, form_letter, document_hash, course, labels, layout)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, 'draft', 1, ?, ?, ?, ?, ?, ?, ?, ?, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		a.Title, a.ShortTitle, a.Description, a.Instructions, a.Subject, a.Grades, a.Purpose, a.Language, a.Year,
		sqlite.OptionalID(a.BandSetID), a.BandSetVersion, sqlite.OptionalID(a.MasterySetID), a.MasterySetVersion, sqlite.OptionalID(a.ConversionID), a.OwnRule, a.SchoolID, a.OwnerID, a.ChangedAt, a.ChangedBy, sqlite.OptionalID(a.CopiedFrom), sqlite.OptionalID(a.TwinOf), a.FormLetter, optionalText(a.DocumentHash), a.Course, a.Labels, a.Layout)
}

// ChangeAssessment writes outline, band set, state and edition of the given
// version and counts the version up; ErrStale when it has another by now.
func ChangeAssessment(ctx context.Context, t *sqlite.Tx, a Assessment) error {
	return t.ChangeOne(ctx, `UPDATE assessment SET title = ?, short_title = ?, description = ?, instructions = ?, subject = ?, grades = ?, purpose = ?,
			language = ?, year = ?, state = ?, edition = ?, band_set_id = ?, band_set_version = ?, mastery_set_id = ?, mastery_set_version = ?, conversion_table_id = ?, own_rule = ?, form_letter = ?, document_hash = ?, course = ?, labels = ?, layout = ?, version = version + 1, changed_at = ?, changed_by = ?
		WHERE id = ? AND version = ?`,
		a.Title, a.ShortTitle, a.Description, a.Instructions, a.Subject, a.Grades, a.Purpose, a.Language, a.Year, a.State, a.Edition, sqlite.OptionalID(a.BandSetID), a.BandSetVersion, sqlite.OptionalID(a.MasterySetID), a.MasterySetVersion, sqlite.OptionalID(a.ConversionID), a.OwnRule, a.FormLetter, optionalText(a.DocumentHash), a.Course, a.Labels, a.Layout,
		a.ChangedAt, a.ChangedBy, a.ID, a.Version)
}

// SetAssessmentState moves the state without counting as an edit.
func SetAssessmentState(ctx context.Context, t *sqlite.Tx, id int64, state assessment.State) error {
	return t.Exec(ctx, "UPDATE assessment SET state = ? WHERE id = ?", state, id)
}

// Shelve puts an assessment away at a moment (ms), or brings it back.
func Shelve(ctx context.Context, t *sqlite.Tx, id, at int64, away bool) error {
	if !away {
		return t.Exec(ctx, "UPDATE assessment SET shelved_at = NULL WHERE id = ?", id)
	}
	return t.Exec(ctx, "UPDATE assessment SET shelved_at = ? WHERE id = ?", at, id)
}

// Delete takes an assessment out of every list at a moment (ms), and ends the holds for it. Its rows stay,
// since the ledger speaks of them.
func Delete(ctx context.Context, t *sqlite.Tx, id, at int64) error {
	if err := t.Exec(ctx, "UPDATE assessment SET deleted_at = ? WHERE id = ?", at, id); err != nil {
		return err
	}
	if err := t.Exec(ctx, "DELETE FROM assessment_link WHERE assessment_id = ?", id); err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE hold SET ended_at = ? WHERE assessment_id = ? AND ended_at IS NULL", at, id)
}

// FinishedAssessments lists those that are out and whose windows are all over.
func FinishedAssessments(ctx context.Context, r sqlite.Reader, now time.Time) ([]Assessment, error) {
	var out []Assessment
	err := r.List(ctx, &out, assessmentSelect+` FROM assessment a WHERE a.state = 'out'
		AND NOT EXISTS (SELECT 1 FROM distribution d JOIN sitting g ON g.distribution_id = d.id WHERE d.assessment_id = a.id AND g.ends_at > ?)`, sqlite.Millis(now))
	return out, err
}

// BlueprintRow is one plan; Least and Most are hundredths.
type BlueprintRow struct {
	Title    string                        `db:"title"`
	Filter   sqlite.JSON[blueprint.Filter] `db:"filter"`
	ByPoints bool                          `db:"by_points"`
	Least    int64                         `db:"least"`
	Most     int64                         `db:"most"`
}

// Blueprint lists an assessment's rows.
func Blueprint(ctx context.Context, r sqlite.Reader, assessment int64) ([]BlueprintRow, error) {
	var out []BlueprintRow
	if err := r.List(ctx, &out, "SELECT title, filter, by_points, least, most FROM blueprint_row WHERE assessment_id = ? ORDER BY position", assessment); err != nil {
		return nil, err
	}
	return out, NameBanks(ctx, r, filtersOf(out))
}

// PutBlueprint replaces an assessment's rows.
func PutBlueprint(ctx context.Context, t *sqlite.Tx, assessment int64, rows []BlueprintRow) error {
	if err := t.Exec(ctx, "DELETE FROM blueprint_row WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	stored := slices.Clone(rows)
	if err := IdentifyBanks(ctx, t.Reader, filtersOf(stored)); err != nil {
		return err
	}
	for i, row := range stored {
		if err := t.Exec(ctx, "INSERT INTO blueprint_row (assessment_id, position, title, filter, by_points, least, most) VALUES (?, ?, ?, ?, ?, ?, ?)",
			assessment, i, row.Title, row.Filter, row.ByPoints, row.Least, row.Most); err != nil {
			return err
		}
	}
	return nil
}

// Line is an item's place on an assessment with the version it pins.
type Line struct {
	bankrows.ItemVersion
	Points   int64  `db:"points"`
	Part     int    `db:"part"` // of the layout, counted from 1; 0 for none
	Pool     int    `db:"pool"`
	Without  string `db:"without"` // the tools that it is answered without, spaces between
	NewestID int64  `db:"newest_id"`
	Bank     string `db:"bank"` // of an own copy the one that it was copied from
	Subject  string `db:"subject"`
	Grade    string `db:"grade"`
	WrongKey bool   `db:"wrong_key"` // an open report on the item, or on what it was copied from, says that its key is wrong
	// Of an own copy:
	Own              bool   `db:"own"`
	Unconfirmed      bool   `db:"unconfirmed"` // its alignment
	OriginID         int64  `db:"origin_id"`   // item
	OriginIdentifier string `db:"origin_identifier"`
	OriginNumber     int    `db:"origin_number"`
	Editor           string `db:"editor"` // who changed it last
}

// Lines lists an assessment's lines in order.
func Lines(ctx context.Context, r sqlite.Reader, assessment int64) ([]Line, error) {
	var out []Line
	err := r.List(ctx, &out, `SELECT l.points, l.part, l.pool, l.without, v.id, v.item_id, i.identifier, v.number, i.version AS newest, v.document, v.kind, v.stem,
			v.key_short, v.depth, v.difficulty, v.language, COALESCE(v.passage_id, 0) AS passage_id, v.standards,
			COALESCE((SELECT GROUP_CONCAT(t.name, ' ') FROM tag_set_tag m JOIN tag t ON t.id = m.tag_id AND t.scope = 'everyone' WHERE m.tag_set_id = i.tag_set_id), '') AS tags,
			i.version_id AS newest_id, i.assessment_id IS NOT NULL AS own, i.unconfirmed, COALESCE(ov.item_id, 0) AS origin_id, COALESCE(oi.identifier, '') AS origin_identifier, COALESCE(ob.name, b.name) AS bank,
			i.subject, i.grade, EXISTS (SELECT 1 FROM item_report r WHERE r.item_id IN (i.id, ov.item_id) AND r.state = 'open' AND r.fault = ?) AS wrong_key,
			COALESCE(ov.number, 0) AS origin_number, CASE WHEN i.assessment_id IS NULL THEN '' ELSE COALESCE(p.given || ' ' || p.family, '') END AS editor
		FROM line l JOIN item_version v ON v.id = l.item_version_id JOIN item i ON i.id = l.item_id
			JOIN bank b ON b.id = i.bank_id
			LEFT JOIN item_version ov ON ov.id = i.origin_version_id LEFT JOIN item oi ON oi.id = ov.item_id LEFT JOIN bank ob ON ob.id = oi.bank_id LEFT JOIN person p ON p.id = v.author_id
		WHERE l.assessment_id = ? ORDER BY l.position`, bank.WrongKey, assessment)
	return out, err
}

// LinePlace is what a layout must know of a line.
type LinePlace struct {
	Points int64 `db:"points"`
	Part   int   `db:"part"`
	Pool   int   `db:"pool"`
}

// LinePlaces lists them for an assessment, in the order of its lines.
func LinePlaces(ctx context.Context, r sqlite.Reader, assessment int64) ([]LinePlace, error) {
	var out []LinePlace
	err := r.List(ctx, &out, "SELECT points, part, pool FROM line WHERE assessment_id = ? ORDER BY position", assessment)
	return out, err
}

// LineRow is a line to be written.
type LineRow struct {
	ItemID, VersionID, Points int64
	Part, Pool                int `json:",omitempty"`
	Without                   string
}

// Row is the line as it would be written again.
func (l Line) Row() LineRow {
	return LineRow{ItemID: l.ItemID, VersionID: l.ID, Points: l.Points, Part: l.Part, Pool: l.Pool, Without: l.Without}
}

// PutLines replaces an assessment's lines.
func PutLines(ctx context.Context, t *sqlite.Tx, assessment int64, lines []LineRow) error {
	if err := t.Exec(ctx, "DELETE FROM line WHERE assessment_id = ?", assessment); err != nil {
		return err
	}
	for i, l := range lines {
		if err := t.Exec(ctx, "INSERT INTO line (assessment_id, position, item_id, item_version_id, points, part, pool, without) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
			assessment, i, l.ItemID, l.VersionID, l.Points, l.Part, l.Pool, l.Without); err != nil {
			return err
		}
	}
	return nil
}

// Form is a sealed edition of an assessment.
type Form struct {
	ID           int64  `db:"id"`
	AssessmentID int64  `db:"assessment_id"`
	Edition      int    `db:"edition"`
	Fingerprint  string `db:"fingerprint"`
	Document     string `db:"document"`
	SealedAt     int64  `db:"sealed_at"`
}

// AddForm keeps a sealed form for good.
func AddForm(ctx context.Context, t *sqlite.Tx, f Form, by int64) (int64, error) {
	return t.Insert(ctx, "INSERT INTO form (assessment_id, edition, fingerprint, document, sealed_at, sealed_by) VALUES (?, ?, ?, ?, ?, ?)",
		f.AssessmentID, f.Edition, f.Fingerprint, f.Document, f.SealedAt, by)
}

// FormByID gives a sealed form.
func FormByID(ctx context.Context, r sqlite.Reader, id int64) (Form, error) {
	var f Form
	err := r.Get(ctx, &f, "SELECT id, assessment_id, edition, fingerprint, document, sealed_at FROM form WHERE id = ?", id)
	return f, err
}

// FormOf gives the form of an assessment's edition.
func FormOf(ctx context.Context, r sqlite.Reader, assessment int64, edition int) (Form, error) {
	var f Form
	err := r.Get(ctx, &f, "SELECT id, assessment_id, edition, fingerprint, document, sealed_at FROM form WHERE assessment_id = ? AND edition = ?", assessment, edition)
	return f, err
}

// TitlesLike lists the titles that begin with a text.
func TitlesLike(ctx context.Context, r sqlite.Reader, begin string) ([]string, error) {
	var out []string
	err := r.List(ctx, &out, `SELECT title FROM assessment WHERE title LIKE ? ESCAPE '\'`, sqlite.EscapeLike(begin)+"%")
	return out, err
}

// TwinForms lists the forms of the assessment that holds form A, in the order of their letters.
func TwinForms(ctx context.Context, r sqlite.Reader, formA int64) ([]Assessment, error) {
	var out []Assessment
	err := r.List(ctx, &out, assessmentSelect+" FROM assessment a WHERE (a.id = ? OR a.twin_of = ?) AND a.deleted_at IS NULL ORDER BY a.form_letter", formA, formA)
	return out, err
}

// FormsOf lists the sealed forms of an assessment without their documents, the newest edition first.
func FormsOf(ctx context.Context, r sqlite.Reader, assessment int64) ([]Form, error) {
	var out []Form
	err := r.List(ctx, &out, "SELECT id, assessment_id, edition, fingerprint, sealed_at FROM form WHERE assessment_id = ? ORDER BY edition DESC", assessment)
	return out, err
}
