package intake

import (
	"archive/zip"
	"context"
	"errors"
	"io/fs"
	"os"
	"slices"

	"pineledger/app/desk"
	"pineledger/formats/oneroster"
	"pineledger/formats/qti"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/intakerows"
)

// defaultZone is the zone of a new district until it sets its own; the roster
// format does not carry one.
const defaultZone = "America/Los_Angeles"

// rosterImport compares a OneRoster package with what is there. Rows refer to each
// other by source ids; ids holds those that are known or about to be written.
type rosterImport struct {
	app      *Intake
	run      *importRun
	pack     *oneroster.Package
	known    map[string]map[string]intakerows.Known
	ids      map[string]map[string]int64
	seen     map[string]map[string]bool
	district string
	student  map[string]bool // user source ids that have a student's role
	hashing  []func() error
	kept     map[int64]string             // demographics by person
	above    map[string]map[string]string // of orgs and terms: what each of the file hangs on
	schoolOf map[string]string            // of classes of the file
	names    map[string]int               // usernames, numbers and e-mails in use, with the line of their user
	places   map[string]int               // of people in classes, with their line
	ctx      context.Context              // of the one import that this value lives for
}

// errGone says that a row takes out what is not here, or hangs on such a thing: nothing is to be done.
var errGone = errors.New("what the row takes out is not here")

// readRoster compares a zip or a folder with what is there.
func (a *Intake) readRoster(ctx context.Context, run *importRun, path string) error {
	files, done, err := openPackage(path)
	if err != nil {
		return err
	}
	defer done()
	pack, err := oneroster.Open(files)
	if err != nil {
		return err
	}
	r := &rosterImport{app: a, run: run, pack: pack, known: map[string]map[string]intakerows.Known{}, ids: map[string]map[string]int64{},
		seen: map[string]map[string]bool{}, student: map[string]bool{}, above: map[string]map[string]string{}, schoolOf: map[string]string{},
		names: map[string]int{}, places: map[string]int{}, ctx: ctx}
	for _, t := range []string{"district", "school", "term", "course", "section", "person", "post", "enrolment"} {
		if r.known[t], err = intakerows.KnownBy(ctx, a.Store.Reader, t); err != nil {
			return err
		}
		r.ids[t], r.seen[t] = make(map[string]int64, len(r.known[t])), map[string]bool{}
		for source, k := range r.known[t] {
			r.ids[t][source] = k.ID
		}
	}
	if err := r.findStudents(); err != nil {
		return err
	}
	for _, file := range []string{oneroster.Orgs, oneroster.AcademicSessions} {
		if err := r.findParents(file); err != nil {
			return err
		}
	}
	for _, step := range []struct {
		file string
		take func(table.Row) error
	}{
		{oneroster.Orgs, r.org}, {oneroster.AcademicSessions, r.session}, {oneroster.Courses, r.course}, {oneroster.Classes, r.class},
		{oneroster.Users, r.user}, {oneroster.Roles, r.role}, {oneroster.Enrollments, r.enrollment}, {oneroster.Demographics, r.demographic},
	} {
		if !pack.Has(step.file) {
			continue
		}
		run.begin(step.file)
		err := pack.Each(step.file, func(row table.Row, bad *table.RowError) error {
			return run.take(ctx, bad, func() error {
				err := step.take(row)
				if errors.Is(err, errGone) {
					run.counts.Unchanged++
					return nil
				}
				return err
			})
		})
		if err != nil {
			return err
		}
	}
	return r.hashPasswords()
}

func openPackage(path string) (fs.FS, func(), error) {
	info, err := os.Stat(path)
	if err != nil {
		return nil, nil, err
	}
	if info.IsDir() {
		return os.DirFS(path), func() {}, nil
	}
	z, err := zip.OpenReader(path)
	if err != nil {
		return nil, nil, desk.Conflict("A roster is a folder or a zip, and %s", qti.NotAZip(path, err))
	}
	return &z.Reader, func() { z.Close() }, nil
}

// findStudents reads the roles ahead: whether a user's password is a PIN depends on them.
func (r *rosterImport) findStudents() error {
	file, column := oneroster.Roles, "userSourcedId"
	if r.pack.Eleven() {
		file, column = oneroster.Users, "sourcedId"
	}
	if !r.pack.Has(file) {
		return nil
	}
	return r.pack.Each(file, func(row table.Row, bad *table.RowError) error {
		if bad == nil && row.Get("role") == "student" {
			r.student[row.Get(column)] = true
		}
		return nil
	})
}

// findParents reads ahead on what the rows of a file hang: it may come later in the file.
func (r *rosterImport) findParents(file string) error {
	parents := map[string]string{}
	r.above[file] = parents
	if !r.pack.Has(file) {
		return nil
	}
	return r.pack.Each(file, func(row table.Row, bad *table.RowError) error {
		if bad == nil {
			parents[row.Get("sourcedId")] = row.Get("parentSourcedId")
		}
		return nil
	})
}

// hangs refuses a row whose parent is not known, or that is above itself.
func (r *rosterImport) hangs(row table.Row, file string, tables ...string) error {
	parents, parent := r.above[file], row.Get("parentSourcedId")
	if _, inFile := parents[parent]; parent != "" && !inFile && !slices.ContainsFunc(tables, func(t string) bool { return r.ids[t][parent] != 0 }) {
		return row.Refuse("parentSourcedId", "%q is not in %s and not known", parent, file)
	}
	source := row.Get("sourcedId")
	for at, steps := parent, 0; at != "" && steps <= len(parents); at, steps = parents[at], steps+1 {
		if at == source {
			return row.Refuse("parentSourcedId", "%q is above itself", source)
		}
	}
	return nil
}

// take compares a row that has a source id and gathers its write. put gives the
// row's id; it may look other ids up, since their rows are written before.
func (r *rosterImport) take(row table.Row, tableName, source, digest string, put func(context.Context, *store.Tx) (int64, error)) error {
	if r.seen[tableName][source] {
		return row.Refuse("sourcedId", "%q is given twice", source)
	}
	r.seen[tableName][source] = true
	old, exists := r.known[tableName][source]
	if !exists && !oneroster.Active(row) {
		return errGone
	}
	if !r.run.compare(old, exists, digest) {
		return nil
	}
	r.ids[tableName][source] = old.ID
	r.run.later(func(ctx context.Context, tx *store.Tx) error {
		id, err := put(ctx, tx)
		r.ids[tableName][source] = id
		return err
	})
	return nil
}

// refer checks that a row's reference is known.
func (r *rosterImport) refer(row table.Row, column, tableName string) (string, error) {
	source, err := oneroster.Need(row, column)
	if err != nil {
		return "", err
	}
	if _, ok := r.ids[tableName][source]; !ok {
		if !oneroster.Active(row) {
			return "", errGone
		}
		return "", row.Refuse(column, "%q is not a %s that is known", source, tableName)
	}
	return source, nil
}
