package app_test

import (
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/unicode"

	"pineledger/app/intake"
	"pineledger/core/roster"
	"pineledger/store/officerows"
)

// fullRoster is a roster with every column that its rows are checked by.
var fullRoster = map[string]string{
	"orgs.csv":             "sourcedId,name,type,parentSourcedId\nst,Calder,state,\nd,Tamarack Bay,district,st\ns1,Quarry Road,school,d\ns2,Breakwater,school,d\n",
	"academicSessions.csv": "sourcedId,title,type,startDate,endDate,schoolYear,parentSourcedId\ny,Year,schoolYear,2026-08-24,2027-06-11,2027,\nf,Fall,term,2026-08-24,2026-12-18,2027,y\n",
	"courses.csv":          "sourcedId,title,grades,subjects,orgSourcedId\nm,Mathematics 3 and 4,\"03,04\",Mathematics,d\n",
	"classes.csv":          "sourcedId,title,grades,courseSourcedId,schoolSourcedId,classType,termSourcedIds\nc1,3/4-A,\"03,04\",m,s1,scheduled,f\nc2,4-B,04,m,s2,homeroom,\"y,f\"\n",
	"users.csv": "sourcedId,enabledUser,username,givenName,familyName,identifier,email,grades,password\n" +
		"t1,true,vesna,Vesna,Dlamini,,vesna@y.example,,\na,true,mei,Mei,Sato,2001,home@y.example,\"03,04\",1234\nb,true,noor,Noor,Ali,2002,home@y.example,04,4321\n",
	"roles.csv":       "sourcedId,userSourcedId,role,orgSourcedId\nr1,t1,teacher,s1\nr2,a,student,s1\nr3,b,student,s1\n",
	"enrollments.csv": "sourcedId,classSourcedId,schoolSourcedId,userSourcedId,role\ne1,c1,s1,t1,teacher\ne2,c1,s1,a,student\ne3,c1,s1,b,student\n",
}

func (w *world) roster(files map[string]string) intake.ImportReport {
	w.Helper()
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, nil)
	require.NoError(w, err)
	return r
}

// Each kind of bad row is refused alone, by its field.
func TestBadRowsOfARosterAreNamed(t *testing.T) {
	w := newWorld(t)
	long := strings.Repeat("o", 201)
	for _, c := range []struct{ name, file, row, want string }{
		{"unknown parent", "orgs.csv", "s9,Elsewhere,school,d9", `parentSourcedId "d9" is not in orgs.csv and not known`},
		{"a cycle of one", "orgs.csv", "s9,Elsewhere,school,s9", `parentSourcedId "s9" is above itself`},
		{"end before start", "academicSessions.csv", "w,Winter,term,2027-03-01,2027-01-04,2027,y", `endDate "2027-01-04" is before the start, "2027-03-01"`},
		{"another way to write dates", "academicSessions.csv", "w,Winter,term,01/04/2027,2027-03-01,2027,y", `startDate "01/04/2027" is not a date such as 2026-09-01`},
		{"no day of the calendar", "academicSessions.csv", "w,Winter,term,2027-02-30,2027-03-01,2027,y", `startDate "2027-02-30" is not a day of the calendar`},
		{"unknown parent of a term", "academicSessions.csv", "w,Winter,term,2027-01-04,2027-03-01,2027,y9", `parentSourcedId "y9" is not in academicSessions.csv and not known`},
		{"unknown org of a course", "courses.csv", "n,Reading,04,Reading,d9", `orgSourcedId "d9" is not an organization that is known`},
		{"unknown term", "classes.csv", "c9,4-C,04,m,s1,scheduled,f9", `termSourcedIds "f9" is not a term that is known`},
		{"empty term", "classes.csv", "c9,4-C,04,m,s1,scheduled,", `termSourcedIds is empty: a class belongs to a term`},
		{"unknown type of a class", "classes.csv", "c9,4-C,04,m,s1,club,f", `classType "club" is not homeroom or scheduled`},
		{"a username twice", "users.csv", "x,true,MEI,Hugo,Costa,2003,,04,1111", `username "MEI" is that of line 3 too`},
		{"an e-mail of staff twice", "users.csv", "x,true,hugo,Hugo,Costa,,Vesna@y.example,,", `email "Vesna@y.example" is that of line 2 too`},
		{"yes as truth", "users.csv", "x,yes,hugo,Hugo,Costa,2003,,04,1111", `enabledUser "yes" is not true or false`},
		{"a name without end", "users.csv", "x,true,hugo," + long + ",Costa,2003,,04,1111", "givenName is longer than 200 letters"},
		{"a place at another school", "enrollments.csv", "e9,c1,s2,b,student", `schoolSourcedId "s2" is another school than that of the class, "s1"`},
		{"a place twice", "enrollments.csv", "e9,c1,s1,b,student", "userSourcedId is in this class already, by line 4"},
	} {
		files := maps.Clone(fullRoster)
		files[c.file] += c.row + "\n"
		assert.Equal(t, []string{c.file + " " + c.want}, reasons(w.roster(files)), c.name)
	}
	files := maps.Clone(fullRoster)
	files["orgs.csv"] += "s8,North,school,s9\ns9,South,school,s8\n"
	assert.Equal(t, []string{`orgs.csv parentSourcedId "s8" is above itself`, `orgs.csv parentSourcedId "s9" is above itself`}, reasons(w.roster(files)))
	files["orgs.csv"] = "sourcedId,name,type,parentSourcedId\ns1,Quarry Road,school,d\nd,Tamarack Bay,district,st\nst,Calder,state,\ns2,Breakwater,school,d\n"
	assert.Empty(t, reasons(w.roster(files)), "what it hangs on may come later in the file")
}

func TestSeveralGradesAreKept(t *testing.T) {
	w := newWorld(t)
	require.Empty(t, reasons(w.roster(fullRoster)))
	for grade, want := range map[string][]string{"03": {"3/4-A"}, "04": {"3/4-A", "4-B"}, "05": nil} {
		list, err := officerows.Sections(w.ctx, w.store.Reader, roster.Scope{District: true}, officerows.SectionFilter{Audience: &roster.Audience{Grades: []string{grade}}})
		require.NoError(t, err)
		var titles []string
		for _, s := range list {
			titles = append(titles, s.Title)
		}
		slices.Sort(titles)
		assert.Equal(t, want, titles, grade)
	}
}

// What a source takes out and was never here makes nobody, and the same file again changes nothing.
func TestTakingOutWhatIsNotHereChangesNothing(t *testing.T) {
	w := newWorld(t)
	require.Empty(t, reasons(w.roster(fullRoster)))
	gone := map[string]string{
		"manifest.csv":    "propertyName,value\nmanifest.version,1.0\noneroster.version,1.2\nfile.users,delta\nfile.roles,delta\nfile.enrollments,delta\nfile.classes,delta\nfile.orgs,absent\nfile.courses,absent\n",
		"users.csv":       "sourcedId,status,enabledUser,givenName,familyName,identifier,grades\nb,tobedeleted,true,Noor,Ali,2002,04\nz,tobedeleted,true,Nobody,Here,2009,04\n",
		"roles.csv":       "sourcedId,status,userSourcedId,role,orgSourcedId\nr3,tobedeleted,b,student,s1\nr9,tobedeleted,z,student,s1\n",
		"classes.csv":     "sourcedId,status,title,grades,courseSourcedId,schoolSourcedId\nc9,tobedeleted,Gone,04,m9,s1\n",
		"enrollments.csv": "sourcedId,status,classSourcedId,userSourcedId,role\ne3,tobedeleted,c1,b,student\ne9,tobedeleted,c9,z,student\n",
	}
	people := func() (n int) {
		require.NoError(t, w.store.Reader.Get(w.ctx, &n, "SELECT COUNT(*) FROM person"))
		return n
	}
	before := people()
	r := w.roster(gone)
	assert.Empty(t, reasons(r))
	assert.Equal(t, []int{7, 0, 3, 4}, []int{r.Counts.Read, r.Counts.New, r.Counts.Changed, r.Counts.Unchanged})
	r = w.roster(gone)
	assert.Empty(t, reasons(r))
	assert.Equal(t, []int{7, 0, 0, 7}, []int{r.Counts.Read, r.Counts.New, r.Counts.Changed, r.Counts.Unchanged})
	assert.Equal(t, before, people())
}

// Version 1.1 has the roles of people in their own rows.
func TestARosterOfVersionElevenComesIn(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(fullRoster)
	delete(files, "roles.csv")
	files["manifest.csv"] = "propertyName,value\noneroster.version,1.1\nfile.orgs,bulk\nfile.academicSessions,bulk\nfile.courses,bulk\nfile.classes,bulk\nfile.users,bulk\nfile.enrollments,bulk\n"
	files["users.csv"] = "sourcedId,status,enabledUser,orgSourcedIds,role,username,givenName,familyName,identifier,email,grades,password\n" +
		"h,active,true,d,administrator,ada,Ada,Hale,,ada@y.example,,\np,active,true,s1,administrator,ida,Ida,Berg,,ida@y.example,,\n" +
		"t1,active,true,\"s1,s2\",teacher,vesna,Vesna,Dlamini,,vesna@y.example,,\na,active,true,s1,student,mei,Mei,Sato,2001,,04,1234\nb,active,true,s1,student,noor,Noor,Ali,2002,,04,1234\ng,active,true,s1,guardian,gia,Gia,Sato,,gia@y.example,,\n"
	r := w.roster(files)
	assert.Empty(t, reasons(r))
	assert.Equal(t, 2, r.Counts.Aside, "the state and the guardian")
	var posts []struct {
		Given string `db:"given"`
		Role  string `db:"role"`
		At    string `db:"school"`
	}
	require.NoError(t, w.store.Reader.List(w.ctx, &posts, `SELECT p.given, o.role, COALESCE(s.name, '') AS school FROM post o JOIN person p ON p.id = o.person_id
		LEFT JOIN school s ON s.id = o.school_id WHERE p.sourced_id IN ('h', 'p', 't1', 'a', 'g') AND p.given <> 'Petr' ORDER BY p.given, school`))
	var got []string
	for _, p := range posts {
		got = append(got, p.Given+" "+p.Role+" "+p.At)
	}
	assert.Equal(t, []string{"Ada district-coordinator ", "Ida school-coordinator Quarry Road", "Mei student Quarry Road", "Vesna teacher Breakwater", "Vesna teacher Quarry Road"}, got)
	r = w.roster(files)
	assert.Equal(t, []int{0, 0}, []int{r.Counts.New, r.Counts.Changed}, "the same file again changes nothing")
}

func TestRostersInOtherLettersAndWithOtherMarks(t *testing.T) {
	w := newWorld(t)
	dir := t.TempDir()
	for name, text := range fullRoster {
		if name == "orgs.csv" || name == "roles.csv" {
			text = strings.ReplaceAll(text, ",", ";")
		}
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(text)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(out), 0o600))
	}
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: dir}, nil)
	require.NoError(t, err)
	assert.Empty(t, reasons(r))
	assert.Zero(t, w.roster(fullRoster).Counts.Changed, "it says the same")
}
