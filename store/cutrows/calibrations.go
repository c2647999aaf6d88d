package cutrows

import (
	"context"

	"pineledger/core/attempt"
	"pineledger/store/sqlite"
)

// States of a calibration.
const (
	CalibrationRunning   = "running"
	CalibrationDone      = "done"
	CalibrationFailed    = "failed"
	CalibrationCancelled = "cancelled"
)

// Calibration puts the items of a subject on one scale.
type Calibration struct {
	ID        int64  `db:"id"`
	Subject   string `db:"subject"`
	State     string `db:"state"`
	Why       string `db:"why"` // it failed
	Attempts  int    `db:"attempts"`
	Items     int    `db:"items"` // versions on the scale
	Drifted   int    `db:"drifted"`
	StartedAt int64  `db:"started_at"`
	EndedAt   *int64 `db:"ended_at"`
	By        string `db:"by"`
}

const calibrationSelect = `SELECT c.id, c.subject, c.state, c.why, c.attempts, c.started_at, c.ended_at, p.given || ' ' || p.family AS by,
	(SELECT COUNT(*) FROM calibrated x WHERE x.calibration_id = c.id) AS items,
	(SELECT COUNT(*) FROM calibrated x WHERE x.calibration_id = c.id AND x.was IS NOT NULL) AS drifted
	FROM calibration c JOIN person p ON p.id = c.person_id`

// CalibrationByID gives one.
func CalibrationByID(ctx context.Context, r sqlite.Reader, id int64) (c Calibration, err error) {
	return c, r.Get(ctx, &c, calibrationSelect+" WHERE c.id = ?", id)
}

// NewestCalibration is the last one of a subject, however it ended; ErrNotFound before the first.
func NewestCalibration(ctx context.Context, r sqlite.Reader, subject string) (c Calibration, err error) {
	return c, r.Get(ctx, &c, calibrationSelect+" WHERE c.subject = ? ORDER BY c.id DESC LIMIT 1", subject)
}

// AddCalibration notes that one begins.
func AddCalibration(ctx context.Context, t *sqlite.Tx, subject string, person, at int64) (int64, error) {
	return t.Insert(ctx, "INSERT INTO calibration (subject, state, started_at, person_id) VALUES (?, ?, ?, ?)", subject, CalibrationRunning, at, person)
}

// EndCalibration notes how one ended.
func EndCalibration(ctx context.Context, t *sqlite.Tx, id int64, state, why string, attempts int, at int64) error {
	return t.Exec(ctx, "UPDATE calibration SET state = ?, why = ?, attempts = ?, ended_at = ? WHERE id = ?", state, why, attempts, at, id)
}

// EndLeftCalibrations ends those that were running when the program stopped.
func EndLeftCalibrations(ctx context.Context, t *sqlite.Tx, why string, at int64) error {
	return t.Exec(ctx, "UPDATE calibration SET state = ?, why = ?, ended_at = ? WHERE state = ?", CalibrationFailed, why, at, CalibrationRunning)
}

// Calibrated is where a version of an item lies.
type Calibrated struct {
	VersionID int64    `db:"version_id"`
	B         float64  `db:"b"` // logits
	SE        float64  `db:"se"`
	Infit     float64  `db:"infit"`
	Outfit    float64  `db:"outfit"`
	N         int      `db:"n"`
	Was       *float64 `db:"was"` // the year before, where it has drifted
}

// AddCalibrated keeps where a version lies by a calibration.
func AddCalibrated(ctx context.Context, t *sqlite.Tx, calibration int64, c Calibrated) error {
	return t.Exec(ctx, "INSERT INTO calibrated (calibration_id, version_id, b, se, infit, outfit, n, was) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
		calibration, c.VersionID, c.B, c.SE, c.Infit, c.Outfit, c.N, c.Was)
}

// CalibratedVersions are where versions lie by the newest calibration of their subject that is done; those that are on no scale are left out.
func CalibratedVersions(ctx context.Context, r sqlite.Reader, versions []int64) (out []Calibrated, err error) {
	var w sqlite.Where
	in, args := sqlite.In("x.version_id", versions)
	w.Add(in, args...)
	w.Add("x.calibration_id IN (SELECT MAX(id) FROM calibration WHERE state = 'done' GROUP BY subject)")
	return out, r.List(ctx, &out, "SELECT x.version_id, x.b, x.se, x.infit, x.outfit, x.n, x.was FROM calibrated x"+w.String(), w.Args...)
}

// OnScale is where a version of an item lies, with the calibration that says so.
type OnScale struct {
	Calibrated
	Version int   `db:"version"`
	At      int64 `db:"at"`
}

// ScaleOf lists where the versions of an item lie, the newest version first.
func ScaleOf(ctx context.Context, r sqlite.Reader, item int64) (out []OnScale, err error) {
	return out, r.List(ctx, &out, `SELECT x.version_id, x.b, x.se, x.infit, x.outfit, x.n, x.was, v.number AS version, c.ended_at AS at
		FROM item_version v JOIN calibrated x ON x.version_id = v.id JOIN calibration c ON c.id = x.calibration_id
		WHERE v.item_id = ? AND c.id IN (SELECT MAX(id) FROM calibration WHERE state = 'done' GROUP BY subject) ORDER BY v.number DESC`, item)
}

// GivenForm is a form of a subject that was given, in a school year.
type GivenForm struct {
	FormID   int64  `db:"form_id"`
	Year     string `db:"year"`
	Attempts int    `db:"attempts"` // with a final result
}

// GivenForms lists the forms of a subject with results, the oldest first.
func GivenForms(ctx context.Context, r sqlite.Reader, subject string) (out []GivenForm, err error) {
	return out, r.List(ctx, &out, `SELECT f.id AS form_id, a.year, COUNT(*) AS attempts FROM assessment a JOIN form f ON f.assessment_id = a.id
		JOIN attempt t ON t.form_id = f.id AND `+sqlite.InReports+` JOIN result x ON x.attempt_id = t.id AND x.final = 1
		WHERE a.subject = ? GROUP BY f.id ORDER BY f.id`, subject)
}

// EachCredits walks what each student earned on a form, line by line, of final results. It ends with the error of see.
func EachCredits(ctx context.Context, r sqlite.Reader, form int64, see func([]attempt.LineCredit) error) error {
	rows, err := r.Query(ctx, "SELECT x.credits FROM attempt t JOIN result x ON x.attempt_id = t.id AND x.final = 1 WHERE t.form_id = ? AND "+sqlite.InReports, form)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var packed []byte
		if err := rows.Scan(&packed); err != nil {
			return err
		}
		if err := see(sqlite.UnpackCredits(packed)); err != nil {
			return err
		}
	}
	return rows.Err()
}
