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

func (r *rosterImport) org(row table.Row) error {
	source, err := oneroster.Need(row, "sourcedId")
	if err != nil {
		return err
	}
	name, err := oneroster.Name(row, "name")
	if err != nil {
		return err
	}
	if err := r.hangs(row, oneroster.Orgs, "district", "school"); err != nil {
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
	t := intakerows.Term{SourcedID: source, Title: row.Get("title"), Kind: row.Get("type")}
	if t.Begins, err = oneroster.Day(row, "startDate"); err != nil {
		return err
	}
	if t.Ends, err = oneroster.Day(row, "endDate"); err != nil {
		return err
	}
	if t.Ends < t.Begins {
		return row.Refuse("endDate", "%q is before the start, %q", t.Ends, t.Begins)
	}
	if err := r.hangs(row, oneroster.AcademicSessions, "term"); err != nil {
		return err
	}
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
	if org := row.Get("orgSourcedId"); org != "" && !r.knowsOrg(org) {
		return row.Refuse("orgSourcedId", "%q is not an organization that is known", org)
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

// knowsOrg tells whether an organization is in the file or here, of whatever type.
func (r *rosterImport) knowsOrg(source string) bool {
	_, inFile := r.above[oneroster.Orgs][source]
	return inFile || r.ids["district"][source] != 0 || r.ids["school"][source] != 0
}

// inTerms refuses a class of no term, or of one that is not known; of a roster without terms nothing is asked.
func (r *rosterImport) inTerms(row table.Row) error {
	const column = "termSourcedIds"
	if !slices.Contains(row.Columns(), column) || !r.pack.Has(oneroster.AcademicSessions) && len(r.known["term"]) == 0 {
		return nil
	}
	terms := oneroster.List(row.Get(column))
	if len(terms) == 0 {
		return row.Refuse(column, "is empty: a class belongs to a term")
	}
	for _, t := range terms {
		if _, known := r.ids["term"][t]; !known {
			return row.Refuse(column, "%q is not a term that is known", t)
		}
	}
	return nil
}

// classTypes of the format; extensions begin with "ext:".
var classTypes = []string{"", "homeroom", "scheduled"}

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
	if kind := row.Get("classType"); !slices.Contains(classTypes, kind) && !strings.HasPrefix(kind, "ext:") {
		return row.Refuse("classType", "%q is not homeroom or scheduled", kind)
	}
	if oneroster.Active(row) {
		if err := r.inTerms(row); err != nil {
			return err
		}
	}
	s := intakerows.SectionRow{SourcedID: source, Grades: grades, Active: oneroster.Active(row)}
	if s.Title, err = oneroster.Name(row, "title"); err != nil {
		return err
	}
	r.schoolOf[source] = school
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
	enabled, err := oneroster.Truth(row, "enabledUser")
	if err != nil {
		return err
	}
	p := &intakerows.PersonRow{SourcedID: source, Number: row.Get("identifier"), Email: strings.ToLower(row.Get("email")), Active: oneroster.Active(row) && enabled}
	if p.Given, err = oneroster.Name(row, "givenName"); err != nil {
		return err
	}
	if p.Family, err = oneroster.Name(row, "familyName"); err != nil {
		return err
	}
	grades, err := oneroster.Grades(row, "grades")
	if err != nil {
		return err
	}
	p.Grades = grades
	if err := r.own(row, source, p.Active); err != nil {
		return err
	}
	digest, password, isStudent := r.app.Digest(row.Whole()), row.Get("password"), r.student[source]
	if password != "" && isStudent && p.Number == "" {
		return row.Refuse("identifier", "is empty: a student signs in with it and a PIN")
	}
	err = r.take(row, "person", source, digest, func(ctx context.Context, tx *store.Tx) (int64, error) {
		return intakerows.PutPerson(ctx, tx, *p, digest)
	})
	if err != nil {
		return err
	}
	if r.pack.Eleven() {
		if err := r.postsOf(row, source); err != nil {
			return err
		}
	}
	if password == "" || r.known["person"][source].Digest == digest {
		return nil
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

// own refuses a user who has the username, the number or the e-mail of another: who signs in with it must be one person.
func (r *rosterImport) own(row table.Row, source string, active bool) error {
	if !active || r.seen["person"][source] {
		return nil
	}
	columns := []string{"username", "email"}
	if r.student[source] {
		columns = []string{"username", "identifier"} // brothers and sisters may share an e-mail
	}
	for _, column := range columns {
		v := strings.ToLower(row.Get(column))
		if v == "" {
			continue
		}
		if other, taken := r.names[column+" "+v]; taken {
			return row.Refuse(column, "%q is that of line %d too", row.Get(column), other)
		}
		r.names[column+" "+v] = row.Line
	}
	return nil
}

// postsOf gives a user of version 1.1 the role that its own row says, at each of its organizations.
func (r *rosterImport) postsOf(row table.Row, source string) error {
	word := row.Get("role")
	role, ok := rosterRoles[word]
	if word == "administrator" {
		role, ok = roster.DistrictCoordinator, true
	}
	if !ok {
		if slices.Contains(otherRoles, word) {
			r.run.aside(row, "role", "%q is a role that has no part here", word)
			return nil
		}
		return row.Refuse("role", "%q is not a role", word)
	}
	for _, org := range oneroster.List(row.Get("orgSourcedIds")) {
		if err := r.post(row, "", source, role, org); err != nil && !errors.Is(err, errGone) {
			return err
		}
	}
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
	return r.post(row, row.Get("sourcedId"), person, role, org)
}

// post gathers the write of a person's role at an organization.
func (r *rosterImport) post(row table.Row, source, person string, role roster.Role, org string) error {
	atDistrict := org == r.district || r.ids["district"][org] != 0
	if _, isSchool := r.ids["school"][org]; !isSchool && !atDistrict {
		if !oneroster.Active(row) {
			return errGone
		}
		return row.Refuse("orgSourcedId", "%q is not a school or district that is known", org)
	}
	if role == roster.DistrictCoordinator && !atDistrict {
		role = roster.SchoolCoordinator
	}
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
	if school, has := row.Get("schoolSourcedId"), r.schoolOf[section]; school != "" && has != "" && school != has {
		return row.Refuse("schoolSourcedId", "%q is another school than that of the class, %q", school, has)
	}
	if oneroster.Active(row) {
		place := strings.Join([]string{section, person, string(role)}, " ")
		if other, twice := r.places[place]; twice {
			return row.Refuse("userSourcedId", "is in this class already, by line %d", other)
		}
		r.places[place] = row.Line
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
