package demo

import (
	"archive/zip"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strconv"
	"strings"
)

// The schools of Tamarack Bay Unified, by what they teach.
var (
	elementaries = []string{"Heron Point Elementary", "Saltgrass Elementary", "North Jetty Elementary", "Pilot House Elementary", "Cannery Row Elementary", "Gull Ledge Elementary"}
	middles      = []string{"Quarry Road Middle", "Breakwater Middle", "Cedar Landing Middle"}
	highs        = []string{"Tamarack Bay High"}
)

// usual is about how many students the district has with 150 sections.
const usual = 3000

// Password is every demo coordinator's; it protects nothing that is not made up.
const Password = "tamarack bay ferry"

// rosterFile writes the district's people as a OneRoster 1.2 zip.
type rosterFile struct {
	r                *rand.Rand
	given, family    []string
	used             map[string]bool
	users, roles     [][]string
	classes, courses [][]string
	enrollments      [][]string
	demographics     [][]string
	people           int
	years            map[string]bool
}

func writeRoster(dir string, r *rand.Rand, students int, endYear int) (string, error) {
	f := &rosterFile{r: r, given: names("given"), family: names("family"), used: map[string]bool{}}
	f.begin()
	orgs := [][]string{orgsHead, {"tbu", "", "", "Tamarack Bay Unified District", "district", "TBU", ""}}
	f.person("co-1", "Ines", "Okafor", "districtAdministrator", "tbu", Password)
	f.person("co-2", "Tomás", "Lindqvist", "districtAdministrator", "tbu", Password)
	school := 0
	for _, kind := range []struct {
		names  []string
		grades []string
		share  int // of a thousand students, each grade in each school
		fill   func(org string, grade string, students int)
	}{
		{elementaries, []string{"KG", "01", "02", "03", "04", "05"}, 14, f.elementary},
		{middles, []string{"06", "07", "08"}, 26, f.middle},
		{highs, []string{"09", "10", "11", "12"}, 60, f.high},
	} {
		for _, name := range kind.names {
			school++
			org := fmt.Sprintf("s-%02d", school)
			orgs = append(orgs, []string{org, "", "", name, "school", strings.ToUpper(org), "tbu"})
			given, family := f.name()
			f.person("sc-"+org, given, family, "principal", org, Password)
			for _, grade := range kind.grades {
				f.course(grade)
				kind.fill(org, grade, max(2, students*kind.share/1000))
			}
		}
	}
	sessions := [][]string{sessionsHead,
		{"year", "", "", fmt.Sprintf("School year %d–%d", endYear-1, endYear%100), "schoolYear", fmt.Sprintf("%d-08-24", endYear-1), fmt.Sprintf("%d-06-11", endYear), "", strconv.Itoa(endYear)},
		{"fall", "", "", "Fall semester", "semester", fmt.Sprintf("%d-08-24", endYear-1), fmt.Sprintf("%d-12-18", endYear-1), "year", strconv.Itoa(endYear)},
		{"spring", "", "", "Spring semester", "semester", fmt.Sprintf("%d-01-04", endYear), fmt.Sprintf("%d-06-11", endYear), "year", strconv.Itoa(endYear)}}
	return f.write(dir, orgs, sessions)
}

var (
	orgsHead     = []string{"sourcedId", "status", "dateLastModified", "name", "type", "identifier", "parentSourcedId"}
	sessionsHead = []string{"sourcedId", "status", "dateLastModified", "title", "type", "startDate", "endDate", "parentSourcedId", "schoolYear"}
)

// begin writes the head rows.
func (f *rosterFile) begin() {
	f.users = [][]string{{"sourcedId", "status", "dateLastModified", "enabledUser", "username", "userIds", "givenName", "familyName", "middleName", "identifier", "email", "sms", "phone", "agentSourcedIds", "grades", "password"}}
	f.roles = [][]string{{"sourcedId", "status", "dateLastModified", "userSourcedId", "roleType", "role", "beginDate", "endDate", "orgSourcedId", "userProfileSourcedId"}}
	f.courses = [][]string{{"sourcedId", "status", "dateLastModified", "schoolYearSourcedId", "title", "courseCode", "grades", "orgSourcedId", "subjects", "subjectCodes"}}
	f.classes = [][]string{{"sourcedId", "status", "dateLastModified", "title", "grades", "courseSourcedId", "classCode", "classType", "location", "schoolSourcedId", "termSourcedIds", "subjects", "subjectCodes", "periods"}}
	f.enrollments = [][]string{{"sourcedId", "status", "dateLastModified", "classSourcedId", "schoolSourcedId", "userSourcedId", "role", "primary", "beginDate", "endDate"}}
	f.demographics = [][]string{{"sourcedId", "status", "dateLastModified", "birthDate", "sex"}}
}

func (f *rosterFile) write(dir string, orgs, sessions [][]string) (string, error) {
	path := filepath.Join(dir, "tamarack-bay.oneroster.zip")
	file, err := os.OpenFile(path, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return "", err
	}
	z := &zipFile{zip: zip.NewWriter(file)}
	z.table("manifest.csv", [][]string{{"propertyName", "value"}, {"manifest.version", "1.0"}, {"oneroster.version", "1.2"}, {"file.orgs", "bulk"}, {"file.academicSessions", "bulk"},
		{"file.courses", "bulk"}, {"file.classes", "bulk"}, {"file.users", "bulk"}, {"file.roles", "bulk"}, {"file.enrollments", "bulk"}, {"file.demographics", "bulk"}})
	z.table("orgs.csv", orgs)
	z.table("academicSessions.csv", sessions)
	z.table("courses.csv", f.courses)
	z.table("classes.csv", f.classes)
	z.table("users.csv", f.users)
	z.table("roles.csv", f.roles)
	z.table("enrollments.csv", f.enrollments)
	z.table("demographics.csv", f.demographics)
	return path, errors.Join(z.err, z.zip.Close(), file.Close())
}

// name makes a name that nobody has yet, as long as there are such.
func (f *rosterFile) name() (given, family string) {
	for range 50 {
		given, family = pick(f.r, f.given...), pick(f.r, f.family...)
		if !f.used[given+" "+family] {
			break
		}
	}
	f.used[given+" "+family] = true
	return given, family
}

func (f *rosterFile) person(id, given, family, role, org, password string) {
	email := ascii(given) + "." + ascii(family) + "." + id + "@tamarackbay.example"
	if strings.HasPrefix(id, "co-") {
		email = ascii(given) + "." + ascii(family) + "@tamarackbay.example"
	}
	f.users = append(f.users, []string{id, "", "", "true", email, "", given, family, "", "", email, "", "", "", "", password})
	f.roles = append(f.roles, []string{"r-" + id, "", "", id, "primary", role, "", "", org, ""})
}

var toASCII = strings.NewReplacer("á", "a", "é", "e", "í", "i", "ó", "o", "ú", "u", "ã", "a", "ê", "e", "č", "c", "ř", "r", "ý", "y", "ö", "o", "ı", "i", "ñ", "n", " ", "", "-", "")

func ascii(s string) string {
	var out strings.Builder
	for _, c := range toASCII.Replace(strings.ToLower(s)) {
		if c >= 'a' && c <= 'z' {
			out.WriteRune(c)
		}
	}
	return out.String()
}

func gradeName(grade string) string {
	if grade == "KG" {
		return "K"
	}
	return strings.TrimPrefix(grade, "0")
}

// course makes a grade's courses once.
func (f *rosterFile) course(grade string) {
	if f.years == nil {
		f.years = map[string]bool{}
	}
	if f.years[grade] {
		return
	}
	f.years[grade] = true
	add := func(id, title, subjects string) {
		f.courses = append(f.courses, []string{id + "-" + grade, "", "", "year", title + " " + gradeName(grade), strings.ToUpper(id) + gradeName(grade), grade, "tbu", subjects, ""})
	}
	switch {
	case grade == "KG" || grade < "06":
		add("home", "Homeroom", "Mathematics,Reading,Science")
	case grade < "09":
		add("math", "Mathematics", "Mathematics")
		add("read", "Reading and science", "Reading,Science")
	default:
		add("math", "Mathematics", "Mathematics")
	}
}

func (f *rosterFile) elementary(org, grade string, students int) {
	f.sections(org, grade, "home", f.students(org, grade, students), 2, func(n int) string { return gradeName(grade) + "-" + num(n+1) })
}

func (f *rosterFile) middle(org, grade string, students int) {
	group := f.students(org, grade, students)
	f.sections(org, grade, "math", group, 3, func(n int) string { return gradeName(grade) + "-" + string(rune('A'+n)) + " Mathematics" })
	f.sections(org, grade, "read", group, 3, func(n int) string { return gradeName(grade) + "-" + string(rune('A'+n)) + " Reading" })
}

func (f *rosterFile) high(org, grade string, students int) {
	f.sections(org, grade, "math", f.students(org, grade, students), 6, func(n int) string { return gradeName(grade) + "-" + num(n+1) + " Mathematics" })
}

// students makes the students of a grade in a school.
func (f *rosterFile) students(org, grade string, n int) []string {
	var out []string
	for range n {
		f.people++
		id := fmt.Sprintf("st-%05d", f.people)
		given, family := f.name()
		number := fmt.Sprintf("%06d", 100_000+f.people)
		pin := fmt.Sprintf("%04d", f.r.IntN(10_000))
		f.users = append(f.users, []string{id, "", "", "true", number, "", given, family, "", number, "", "", "", "", grade, pin})
		f.roles = append(f.roles, []string{"r-" + id, "", "", id, "primary", "student", "", "", org, ""})
		f.demographics = append(f.demographics, []string{id, "", "", fmt.Sprintf("%d-%02d-%02d", birthYear(grade), between(f.r, 1, 12), between(f.r, 1, 28)), pick(f.r, "female", "male")})
		out = append(out, id)
	}
	return out
}

func birthYear(grade string) int {
	n, err := strconv.Atoi(grade)
	if err != nil {
		n = 0 // KG
	}
	return 2021 - n
}

// sections parts students evenly over sections with a teacher each; a section
// holds thirty at most, so larger districts have more of them.
func (f *rosterFile) sections(org, grade, course string, students []string, atLeast int, title func(int) string) {
	n := max(atLeast, (len(students)+29)/30)
	for s := range n {
		var group []string
		for i := s; i < len(students); i += n {
			group = append(group, students[i])
		}
		id := strings.Join([]string{"c", org, grade, course, num(s + 1)}, "-")
		family := f.teacher(id, org)
		name := title(s)
		if course == "home" {
			name += " " + family
		}
		f.class(id, org, grade, course, name, group)
	}
}

// oneSection puts all students into one section with a teacher.
func (f *rosterFile) oneSection(org, grade, course, name string, students []string) {
	id := strings.Join([]string{"c", org, grade, course}, "-")
	f.teacher(id, org)
	f.class(id, org, grade, course, name, students)
}

// teacher makes a class's teacher and gives the family name.
func (f *rosterFile) teacher(class, org string) string {
	given, family := f.name()
	f.person("te-"+class, given, family, "teacher", org, "")
	return family
}

func (f *rosterFile) class(id, org, grade, course, name string, students []string) {
	f.classes = append(f.classes, []string{id, "", "", name, grade, course + "-" + grade, "", "scheduled", "", org, "year", "", "", ""})
	f.enrollments = append(f.enrollments, []string{"e-te-" + id, "", "", id, org, "te-" + id, "teacher", "true", "", ""})
	for _, s := range students {
		f.enrollments = append(f.enrollments, []string{"e-" + id + "-" + s, "", "", id, org, s, "student", "", "", ""})
	}
}
