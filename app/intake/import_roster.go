package intake

import (
	"archive/zip"
	"context"
	"encoding/json"
	"errors"
	"io/fs"
	"os"
	"slices"
	"strconv"
	"strings"
	"sync"

	"pineledger/app/desk"
	"pineledger/app/office"
	"pineledger/core/roster"
	"pineledger/formats/oneroster"
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
	kept     map[int64]string // demographics by person
	ctx      context.Context  // of the one import that this value lives for
}

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
		seen: map[string]map[string]bool{}, student: map[string]bool{}, ctx: ctx}
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
			return run.take(ctx, bad, func() error { return step.take(row) })
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
		return nil, nil, desk.Conflict("The file is neither a folder nor a zip that can be opened (%v)", err)
	}
	return &z.Reader, func() { z.Close() }, nil
}

// findStudents reads the roles ahead: whether a user's password is a PIN depends on them.
func (r *rosterImport) findStudents() error {
	return r.pack.Each(oneroster.Roles, func(row table.Row, bad *table.RowError) error {
		if bad == nil && row.Get("role") == "student" {
			r.student[row.Get("userSourcedId")] = true
		}
		return nil
	})
}

// take compares a row that has a source id and gathers its write. put gives the
// row's id; it may look other ids up, since their rows are written before.
func (r *rosterImport) take(row table.Row, tableName, source, digest string, put func(context.Context, *store.Tx) (int64, error)) error {
	if r.seen[tableName][source] {
		return row.Refuse("sourcedId", "%q is given twice", source)
	}
	r.seen[tableName][source] = true
	old, exists := r.known[tableName][source]
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
		return "", row.Refuse(column, "%q is not a %s that is known", source, tableName)
	}
	return source, nil
}

func (r *rosterImport) org(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	name, err := oneroster.Need(row, "name")
	if err != nil {
		return err
	}
	digest := r.app.Digest(row.Whole())
	switch row.Get("type") {
	case "district":
		r.district = source
		return r.take(row, "district", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
			return intakerows.PutDistrict(ctx, tx, source, name, defaultZone, digest)
		})
	case "school":
		active := oneroster.Active(row)
		return r.take(row, "school", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
			return intakerows.PutSchool(ctx, tx, source, name, active, digest)
		})
	case "state", "national", "local", "department":
		r.run.aside(row, "type", "%q: only districts and schools are kept", row.Get("type"))
		return nil
	}
	return row.Refuse("type", "%q is not a type of organization", row.Get("type"))
}

func (r *rosterImport) session(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	t := intakerows.Term{SourcedID: source, Title: row.Get("title"), Kind: row.Get("type"), Begins: row.Get("startDate"), Ends: row.Get("endDate")}
	ends, err := strconv.Atoi(row.Get("schoolYear"))
	if err != nil || ends < 1900 || ends > 2200 {
		return row.Refuse("schoolYear", "%q is not the year in which a school year ends, such as 2027", row.Get("schoolYear"))
	}
	t.Year = strconv.Itoa(ends-1) + "–" + strconv.Itoa(ends)[2:]
	digest := r.app.Digest(row.Whole())
	return r.take(row, "term", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		id, err := intakerows.PutTerm(ctx, tx, t, digest)
		if err == nil && t.Kind == "schoolYear" {
			err = intakerows.SetYear(ctx, tx, t.Year)
		}
		return id, err
	})
}

func (r *rosterImport) course(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	grades, err := oneroster.Grades(row, "grades")
	if err != nil {
		return err
	}
	var subjects []string
	for _, s := range oneroster.List(row.Get("subjects")) {
		subjects = append(subjects, desk.SubjectCode(s))
	}
	c := intakerows.Course{SourcedID: source, Title: row.Get("title"), Code: row.Get("courseCode"), Subjects: subjects, Grades: grades}
	digest := r.app.Digest(row.Whole())
	return r.take(row, "course", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		return intakerows.PutCourse(ctx, tx, c, digest)
	})
}

func (r *rosterImport) class(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	school, err := r.refer(row, "schoolSourcedId", "school")
	if err != nil {
		return err
	}
	course, err := r.refer(row, "courseSourcedId", "course")
	if err != nil {
		return err
	}
	grades, err := oneroster.Grades(row, "grades")
	if err != nil {
		return err
	}
	s := intakerows.SectionRow{SourcedID: source, Title: row.Get("title"), Active: oneroster.Active(row)}
	if len(grades) > 0 {
		s.Grade = grades[0]
	}
	digest := r.app.Digest(row.Whole())
	return r.take(row, "section", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		s.SchoolID, s.Course = r.ids["school"][school], r.ids["course"][course]
		return intakerows.PutSection(ctx, tx, s, digest)
	})
}

func (r *rosterImport) user(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	p := &intakerows.PersonRow{SourcedID: source, Number: row.Get("identifier"), Email: strings.ToLower(row.Get("email")),
		Active: oneroster.Active(row) && row.Get("enabledUser") != "false"}
	if p.Given, err = oneroster.Need(row, "givenName"); err != nil {
		return err
	}
	if p.Family, err = oneroster.Need(row, "familyName"); err != nil {
		return err
	}
	grades, err := oneroster.Grades(row, "grades")
	if err != nil {
		return err
	}
	if len(grades) > 0 {
		p.Grade = grades[0]
	}
	digest, password, isStudent := r.app.Digest(row.Whole()), row.Get("password"), r.student[source]
	if password != "" && isStudent && p.Number == "" {
		return row.Refuse("identifier", "is empty: a student signs in with it and a PIN")
	}
	err = r.take(row, "person", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		return intakerows.PutPerson(ctx, tx, *p, digest)
	})
	if err != nil || password == "" || r.known["person"][source].Digest == digest {
		return err
	}
	if isStudent {
		p.Secret = r.app.office.HashPIN(p.Number, password)
		return nil
	}
	r.hashing = append(r.hashing, func() (err error) {
		p.Secret, err = office.HashPassword(password)
		return err
	})
	return nil
}

// hashPasswords works on all processors: each hash is slow on purpose.
func (r *rosterImport) hashPasswords() error {
	if len(r.hashing) == 0 {
		return nil
	}
	r.run.begin("passwords")
	errs := make([]error, len(r.hashing))
	var wait sync.WaitGroup
	limit := make(chan struct{}, 2)
	for i, hash := range r.hashing {
		limit <- struct{}{}
		wait.Go(func() {
			errs[i] = hash()
			<-limit
		})
	}
	wait.Wait()
	return errors.Join(errs...)
}

// roles of the format that Pine Ledger tells apart; others are left aside.
var rosterRoles = map[string]roster.Role{
	"districtAdministrator": roster.DistrictCoordinator,
	"siteAdministrator":     roster.SchoolCoordinator,
	"principal":             roster.SchoolCoordinator,
	"teacher":               roster.Teacher,
	"aide":                  roster.Proctor,
	"proctor":               roster.Proctor,
	"student":               roster.Student,
}

var otherRoles = []string{"counselor", "guardian", "parent", "relative", "systemAdministrator"}

func (r *rosterImport) role(row table.Row) error {
	person, err := r.refer(row, "userSourcedId", "person")
	if err != nil {
		return err
	}
	role, ok := rosterRoles[row.Get("role")]
	if !ok {
		if slices.Contains(otherRoles, row.Get("role")) {
			r.run.aside(row, "role", "%q is a role that has no part here", row.Get("role"))
			return nil
		}
		return row.Refuse("role", "%q is not a role", row.Get("role"))
	}
	org, err := oneroster.Need(row, "orgSourcedId")
	if err != nil {
		return err
	}
	atDistrict := org == r.district || r.ids["district"][org] != 0
	if _, isSchool := r.ids["school"][org]; !isSchool && !atDistrict {
		return row.Refuse("orgSourcedId", "%q is not a school or district that is known", org)
	}
	if role == roster.DistrictCoordinator && !atDistrict {
		role = roster.SchoolCoordinator
	}
	source := row.Get("sourcedId")
	if source == "" {
		source = strings.Join([]string{person, string(role), org}, ":")
	}
	digest, active := r.app.Digest(row.Whole()), oneroster.Active(row)
	return r.take(row, "post", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		if !active {
			return 0, intakerows.RemovePost(ctx, tx, source)
		}
		return 0, intakerows.PutPost(ctx, tx, source, r.ids["person"][person], string(role), r.ids["school"][org], digest)
	})
}

func (r *rosterImport) enrollment(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	section, err := r.refer(row, "classSourcedId", "section")
	if err != nil {
		return err
	}
	person, err := r.refer(row, "userSourcedId", "person")
	if err != nil {
		return err
	}
	role, ok := rosterRoles[row.Get("role")]
	if !ok || role != roster.Student && role != roster.Teacher && role != roster.Proctor {
		return row.Refuse("role", "%q is not a role in a class", row.Get("role"))
	}
	digest, active := r.app.Digest(row.Whole()), oneroster.Active(row)
	return r.take(row, "enrolment", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		return 0, intakerows.PutEnrolment(ctx, tx, source, r.ids["section"][section], r.ids["person"][person], string(role), active, digest)
	})
}

// demographic keeps the row's own columns beside the person, as they came.
func (r *rosterImport) demographic(row table.Row) error {
	person, err := r.refer(row, "sourcedId", "person")
	if err != nil {
		return err
	}
	fields := map[string]string{}
	for _, column := range row.Columns() {
		if v := row.Get(column); v != "" && column != "sourcedId" && column != "status" && column != "dateLastModified" {
			fields[column] = v
		}
	}
	data, err := json.Marshal(fields)
	if err != nil {
		return err
	}
	old, err := r.demographics()
	if err != nil {
		return err
	}
	kept, had := old[r.ids["person"][person]]
	if !r.run.compare(intakerows.Known{Digest: kept}, had, string(data)) {
		return nil
	}
	r.run.later(func(ctx context.Context, tx *store.Tx) error {
		return intakerows.PutDemographics(ctx, tx, r.ids["person"][person], string(data))
	})
	return nil
}

// demographics are the ones kept, read once.
func (r *rosterImport) demographics() (map[int64]string, error) {
	if r.kept == nil {
		var err error
		if r.kept, err = intakerows.Demographics(r.ctx, r.app.Store.Reader); err != nil {
			return nil, err
		}
	}
	return r.kept, nil
}
