package intake

import (
	"context"
	"errors"
	"fmt"
	"os"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/formats/table"
	"pineledger/run/jobs"
	"pineledger/store"
	"pineledger/store/intakerows"
	"pineledger/store/sqlite"
)

// ImportKind is what a file brings.
type ImportKind string

const (
	ImportStandards ImportKind = "standards" // CASE 1.1 JSON
	ImportRoster    ImportKind = "roster"    // OneRoster 1.2 CSV, a zip or a folder
	ImportItems     ImportKind = "items"     // our CSV, see docs/formats.md
	ImportTables    ImportKind = "tables"    // what a state publishes of its tests, CSV or XLSX
	ImportProfiles  ImportKind = "profiles"  // accommodations: CSV, an Access for All profile, or a zip of them
)

// ImportReport is how an import stands or ended.
type ImportReport struct {
	ID       int64
	Kind     ImportKind
	File     string
	State    string // running, done, failed, cancelled, looked
	Stage    string // what is being read, while running
	Message  string
	Counts   ImportCounts
	Refusals []Remark
	Notes    []Remark // what was left aside or taken for granted
	Started  time.Time
	Ended    time.Time
}

// mostRemarks of each sort are kept with a report; all are counted.
const mostRemarks = 5000

// ReportHead names the columns of a report as CSV.
var ReportHead = []string{"file", "line", "field", "reason", "what"}

// File is a file that is to come in.
type File struct {
	Kind ImportKind
	Name string // as its user calls it
	Path string // where it lies: a file or a folder
	// For items and official tables that do not say it themselves; "" where nothing is to be taken for granted.
	Assume Assumed
	// Look reads the file and reports what it would bring, and keeps nothing.
	Look bool
	// Older lets an older edition of standards take the place of a newer one.
	Older bool
}

// Assumed is what is taken for granted of items that do not say it; of tables the subject, grade and year.
type Assumed struct{ Subject, Grade, Bank, Standard, Year string }

// importRun is an import while it runs. It reads and compares without holding the
// one writer, so that students' answers are saved meanwhile, and gathers what to
// write. What is new and can lie where nobody sees it arrives in steps; everything
// else is written in one transaction, which also brings to light what has arrived.
type importRun struct {
	report   ImportReport // as it began
	counts   ImportCounts
	file     File
	refusals []Remark
	notes    []Remark
	sittings []int64 // where something else is in force for somebody who works
	arrivals []write
	writes   []write
	stage    string
	progress func(stage string, counts ImportCounts)
}

// write is one thing that an import writes.
type write func(context.Context, *store.Tx) error

func (r *importRun) begin(stage string) {
	r.stage = stage
	r.progress(stage, r.counts)
}

// take counts a row, refuses it when it is bad or f says so, and tells how far
// things are from time to time. Its error ends the import.
func (r *importRun) take(ctx context.Context, bad *table.RowError, f func() error) error {
	r.counts.Read++
	if r.counts.Read%500 == 0 {
		r.progress(r.stage, r.counts)
		if err := ctx.Err(); err != nil {
			return err
		}
	}
	if bad == nil {
		err := f()
		if err == nil {
			return nil
		}
		if !errors.As(err, &bad) {
			return err
		}
	}
	r.refuse(bad)
	return nil
}

func (r *importRun) refuse(e *table.RowError) {
	r.counts.Refused++
	r.refusals = remark(r.refusals, intakerows.Refused, e)
}

// aside counts a row of a sort that is not kept here, and says which and why.
func (r *importRun) aside(row table.Row, field, format string, args ...any) {
	r.counts.Aside++
	r.notes = remark(r.notes, intakerows.Aside, row.Refuse(field, format, args...))
}

func remark(list []Remark, sort intakerows.Sort, e *table.RowError) []Remark {
	if len(list) < mostRemarks {
		list = append(list, Remark{Sort: sort, File: e.File, Line: e.Line, Field: e.Field, Reason: e.Reason})
	}
	return list
}

// arrive gathers a write that nobody sees before the import is done.
func (r *importRun) arrive(f write) { r.arrivals = append(r.arrivals, f) }

// later gathers a write of the one transaction at the end.
func (r *importRun) later(f write) { r.writes = append(r.writes, f) }

// compare counts a row as new, changed or unchanged and tells whether to write it.
func (r *importRun) compare(known intakerows.Known, exists bool, digest string) bool {
	switch {
	case !exists:
		r.counts.New++
	case known.Digest != digest:
		r.counts.Changed++
	default:
		r.counts.Unchanged++
		return false
	}
	return true
}

// Import reads a file or folder and writes what is new or changed, all or
// nothing. A bad row is refused alone; an error means that the file as a whole
// was refused and changed nothing. progress may be nil.
func (a *Intake) Import(ctx context.Context, v roster.Viewer, file File, progress func(string, ImportCounts)) (ImportReport, error) {
	if !v.MayImport() {
		return ImportReport{}, desk.ErrForbidden
	}
	id, err := a.noteImport(ctx, v, file)
	if err != nil {
		return ImportReport{}, err
	}
	run := &importRun{report: ImportReport{ID: id, Kind: file.Kind, File: file.Name, Started: a.Now()}, file: file, progress: progress}
	if progress == nil {
		run.progress = func(string, ImportCounts) {}
	}
	failure := a.carryOut(ctx, v, run)
	report, err := a.endImport(ctx, run, failure)
	return report, errors.Join(failure, err)
}

func (a *Intake) noteImport(ctx context.Context, v roster.Viewer, file File) (id int64, err error) {
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		id, err = intakerows.AddImport(ctx, tx, intakerows.Import{Kind: string(file.Kind), File: file.Name, State: "running", PersonID: v.PersonID, StartedAt: store.Millis(a.Now())})
		return err
	})
	return id, err
}

// carryOut reads a file and writes what it changes.
func (a *Intake) carryOut(ctx context.Context, v roster.Viewer, run *importRun) error {
	err := a.readImport(ctx, run, v)
	if err == nil && run.file.Look {
		return a.dropArrivals(context.WithoutCancel(ctx))
	}
	if err == nil {
		run.begin("writing")
		err = a.inSteps(ctx, run.arrivals, func() { run.progress(run.stage, run.counts) })
	}
	if err == nil {
		if err = a.writeImport(ctx, run, v); err == nil && a.OnChange != nil && len(run.sittings) > 0 {
			a.OnChange(run.sittings)
		}
	}
	if err != nil {
		return errors.Join(err, a.dropArrivals(context.WithoutCancel(ctx)))
	}
	if run.file.Kind == ImportRoster && a.TakeIn != nil {
		// The rosters are in whatever comes of this.
		if err := a.TakeIn(context.WithoutCancel(ctx)); err != nil {
			a.Log.Error("who came later could not be taken into what is out", "error", err)
		}
	}
	return nil
}

// endImport keeps how an import ended, also when who waited for it has gone.
func (a *Intake) endImport(ctx context.Context, run *importRun, failure error) (ImportReport, error) {
	report := run.report
	report.State, report.Ended, report.Counts, report.Refusals, report.Notes = "done", a.Now(), run.counts, run.refusals, run.notes
	switch {
	case errors.Is(failure, context.Canceled):
		report.State, report.Message = "cancelled", "Cancelled; nothing was changed."
	case failure != nil:
		report.State, report.Message = "failed", desk.Sentence(failure.Error())+" Nothing was changed."
		report.Refusals = remark(report.Refusals, intakerows.Refused, wholeFile(run.file.Name, failure))
	case run.file.Look:
		report.State, report.Message = "looked", "This was a look: nothing was kept."
	}
	a.ForgetViewers()
	ctx = context.WithoutCancel(ctx)
	return report, a.Store.Write(ctx, func(tx *store.Tx) error {
		return intakerows.EndImport(ctx, tx, intakerows.Import{ID: report.ID, State: report.State, Message: report.Message, Counts: sqlite.JSON[ImportCounts]{V: report.Counts},
			EndedAt: new(store.Millis(report.Ended))}, slices.Concat(report.Refusals, report.Notes))
	})
}

// wholeFile says why a file was refused as a whole, at the row that made it so where there is one.
func wholeFile(name string, failure error) *table.RowError {
	why := table.RowError{File: name, Field: "file", Reason: failure.Error()}
	var row *table.RowError
	if errors.As(failure, &row) {
		why = *row
	}
	why.Reason += "; nothing was changed"
	return &why
}

// readImport gathers what a file would change.
func (a *Intake) readImport(ctx context.Context, run *importRun, v roster.Viewer) error {
	name, path := run.file.Name, run.file.Path
	switch run.file.Kind {
	case ImportStandards:
		return a.readStandards(ctx, run, name, path)
	case ImportRoster:
		return a.readRoster(ctx, run, path)
	case ImportItems:
		return a.readItems(ctx, run, v, name, path)
	case ImportTables:
		return a.readTables(ctx, run, name, path)
	case ImportProfiles:
		return a.readProfiles(ctx, run, v, name, path)
	}
	return fmt.Errorf("%q is not standards, roster, items, tables or profiles", run.file.Kind)
}

func (a *Intake) writeImport(ctx context.Context, run *importRun, v roster.Viewer) error {
	if len(run.writes) == 0 {
		return nil
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		for i, write := range run.writes {
			if err := write(ctx, tx); err != nil {
				return err
			}
			if i%500 == 0 && ctx.Err() != nil {
				return ctx.Err()
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "import." + string(run.report.Kind), Thing: "import", ID: run.report.ID, Title: run.report.File, After: run.counts})
	})
}

// importing is the kind of work of imports that run behind a screen: one at a time.
var importing = jobs.Kind{Name: "import", Most: 1}

// StartImport begins an import behind the screen and gives its id. It takes over
// the file and removes it at the end.
func (a *Intake) StartImport(ctx context.Context, v roster.Viewer, file File) (int64, error) {
	if !v.MayImport() {
		return 0, desk.ErrForbidden
	}
	place, ok := a.Jobs.Take(importing)
	if !ok {
		return 0, desk.Conflict("Another import is running; wait for it or cancel it.")
	}
	id, err := a.noteImport(ctx, v, file)
	if err != nil {
		place.Give()
		return 0, err
	}
	run := &importRun{report: ImportReport{ID: id, Kind: file.Kind, File: file.Name, State: "running", Started: a.Now()}, file: file}
	place.Start(ctx, id, func(ctx context.Context, job *jobs.Job) error {
		run.progress = func(stage string, counts ImportCounts) {
			soFar := run.report
			soFar.Stage, soFar.Counts = stage, counts
			job.Tell(soFar)
		}
		return a.carryOut(ctx, v, run)
	}, func(ctx context.Context, failure error) {
		if _, err := a.endImport(ctx, run, failure); err != nil {
			a.Log.Error("how an import ended could not be kept", "import", id, "error", err)
		}
		if failure != nil {
			a.Log.Info("import ended with an error", "import", id, "error", failure)
		}
		if err := os.Remove(file.Path); err != nil {
			a.Log.Warn("uploaded file was not removed", "error", err)
		}
	})
	return id, nil
}

// CancelImport stops a running import; nothing of it is kept but its report.
func (a *Intake) CancelImport(v roster.Viewer, id int64) error {
	if !v.MayImport() {
		return desk.ErrForbidden
	}
	job, ok := a.Jobs.Find(importing, id)
	if !ok {
		return desk.Conflict("This import has already ended.")
	}
	job.Stop()
	return nil
}

// ImportByID gives an import as it stands, with what it refused.
func (a *Intake) ImportByID(ctx context.Context, v roster.Viewer, id int64) (ImportReport, error) {
	if !v.MayImport() {
		return ImportReport{}, desk.ErrForbidden
	}
	if job, running := a.Jobs.Find(importing, id); running {
		if soFar, told := job.Told().(ImportReport); told {
			return soFar, nil
		}
	}
	row, err := intakerows.ImportByID(ctx, a.Store.Reader, id)
	if err != nil {
		return ImportReport{}, err
	}
	report := importReport(row)
	remarks, err := intakerows.Remarks(ctx, a.Store.Reader, id)
	for _, r := range remarks {
		if r.Sort == intakerows.Refused {
			report.Refusals = append(report.Refusals, r)
		} else {
			report.Notes = append(report.Notes, r)
		}
	}
	return report, err
}

// Imports lists the latest imports.
func (a *Intake) Imports(ctx context.Context, v roster.Viewer) ([]ImportReport, error) {
	if !v.MayImport() {
		return nil, desk.ErrForbidden
	}
	rows, err := intakerows.Imports(ctx, a.Store.Reader, 30)
	if err != nil {
		return nil, err
	}
	out := make([]ImportReport, len(rows))
	for i, row := range rows {
		out[i] = importReport(row)
	}
	return out, nil
}

func importReport(row intakerows.Import) ImportReport {
	r := ImportReport{Counts: row.Counts.V, ID: row.ID, Kind: ImportKind(row.Kind), File: row.File, State: row.State, Message: row.Message, Started: store.Time(row.StartedAt)}
	if row.EndedAt != nil {
		r.Ended = store.Time(*row.EndedAt)
	}
	return r
}
