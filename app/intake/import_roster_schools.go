package intake

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"pineledger/app/desk"
	"pineledger/formats/oneroster"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/intakerows"
)

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

// mostPeriods bounds the names of the periods of a class, in bytes.
const mostPeriods = 200

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
	s := intakerows.SectionRow{SourcedID: source, Grades: grades, Active: oneroster.Active(row), Periods: strings.Join(oneroster.List(row.Get("periods")), ",")}
	if len(s.Periods) > mostPeriods {
		return row.Refuse("periods", "has more than %d characters", mostPeriods)
	}
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
