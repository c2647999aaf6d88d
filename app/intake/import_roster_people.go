package intake

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"sync"

	"pineledger/app/office"
	"pineledger/core/roster"
	"pineledger/formats/oneroster"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/intakerows"
)

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
