package app_test

import (
	"bytes"
	"context"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"pineledger/app"
	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/give"
	"pineledger/app/intake"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// world is a small district on a real database: two schools, each with a section
// of two students, and a bank of three items.
type world struct {
	*testing.T
	ctx   context.Context
	app   *app.App
	store *store.Store
	now   time.Time

	coordinator, second, principal, teacher, otherTeacher, student, otherStudent roster.Viewer
}

var standards = `{"CFDocument":{"identifier":"doc","title":"Calder","subject":["Mathematics"]},"CFItems":[
	{"identifier":"m6","humanCodingScheme":"M6","fullStatement":"Grade 6","educationLevel":["06"]},
	{"identifier":"rr","humanCodingScheme":"M6.RR","fullStatement":"Ratio"},{"identifier":"fs","humanCodingScheme":"M6.FS","fullStatement":"Figures"}],
	"CFAssociations":[{"associationType":"isChildOf","originNodeURI":{"identifier":"rr"},"destinationNodeURI":{"identifier":"m6"}},
	{"associationType":"isChildOf","originNodeURI":{"identifier":"fs"},"destinationNodeURI":{"identifier":"m6"}}]}`

var rosterFiles = map[string]string{
	"orgs.csv":             "sourcedId,name,type\nd,Tamarack Bay,district\ns1,Quarry Road,school\ns2,Breakwater,school\n",
	"academicSessions.csv": "sourcedId,title,type,startDate,endDate,schoolYear\ny,Year,schoolYear,2026-08-24,2027-06-11,2027\n",
	"courses.csv":          "sourcedId,title,grades,subjects\nm,Mathematics 6,06,Mathematics\n",
	"classes.csv":          "sourcedId,title,grades,courseSourcedId,schoolSourcedId\nc1,6-A,06,m,s1\nc2,6-B,06,m,s2\n",
	"users.csv": "sourcedId,enabledUser,givenName,familyName,identifier,email,grades,password\n" +
		"co,true,Ines,Okafor,,ines@x.example,,a long password\nco2,true,Tomás,Lindqvist,,tomas@x.example,,\npr,true,Ada,Hale,,ada@x.example,,\n" +
		"t1,true,Vesna,Dlamini,,vesna@x.example,,\nt2,true,Petr,Ramos,,petr@x.example,,\n" +
		"a,true,Mei,Sato,1001,,06,1234\nb,true,Noor,Ali,1002,,06,4321\nc,true,Hugo,Costa,1003,,06,1111\n",
	"roles.csv": "sourcedId,userSourcedId,role,orgSourcedId\nr1,co,districtAdministrator,d\nr2,co2,districtAdministrator,d\nr3,pr,principal,s1\n" +
		"r4,t1,teacher,s1\nr5,t2,teacher,s2\nr6,a,student,s1\nr7,b,student,s1\nr8,c,student,s2\nr9,t1,guardian,s1\n",
	"enrollments.csv": "sourcedId,classSourcedId,userSourcedId,role\ne1,c1,t1,teacher\ne2,c2,t2,teacher\ne3,c1,a,student\ne4,c1,b,student\ne5,c2,c,student\n",
}

const itemsFile = "identifier,bank,kind,subject,grade,standards,depth,difficulty,stem,choice_1,choice_2,choice_3,key,credit,passage,passage_title,passage_text\n" +
	"I1,Bank,single-choice,Mathematics,06,M6.RR,1,0.7,Which is 1 : 2?,2 : 4,3 : 4,,A,,,,\n" +
	"I2,Bank,number,Mathematics,06,M6.FS,2,0.55,\"How many square meters?\",,,,12;12.0,,P1,The dock,The dock is 3 m by 4 m.\n" +
	"I3,Bank,multiple-choice,Mathematics,06,M6.RR;M6.FS,2,,Which are even?,2,3,4,A;C,per-choice,,,\n"

// founded is the database of a world, made once: it is the same for all until a test does something in it.
var founded struct {
	sync.Once
	database []byte
}

// found makes a world out of its files, and gives its database.
func found(t *testing.T) []byte {
	t.Helper()
	founded.Do(func() {
		dir := t.TempDir()
		w := &world{T: t, ctx: context.Background(), now: worldBegins}
		var err error
		w.store, err = store.Open(w.ctx, dir)
		require.NoError(t, err)
		w.restart()
		system := roster.Viewer{Name: "system", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}
		w.take(system, intake.ImportStandards, w.file("calder.json", standards), 3)
		w.take(system, intake.ImportRoster, w.folder(rosterFiles), 8+8+5+2+1+1+3)
		w.take(system, intake.ImportItems, w.file("items.csv", itemsFile), 3)
		require.NoError(t, w.permit("the district’s own"))
		w.app.Close()
		require.NoError(t, w.store.Close())
		founded.database, err = os.ReadFile(filepath.Join(dir, "pineledger.db"))
		require.NoError(t, err)
	})
	require.NotEmpty(t, founded.database, "the test that made the world failed")
	return founded.database
}

// permit notes of every passage that it may be used, "" that nobody knows.
func (w *world) permit(permission string) error {
	return w.store.Write(w.ctx, func(tx *store.Tx) error { return tx.Exec(w.ctx, "UPDATE passage SET permission = ?", permission) })
}

var worldBegins = time.Date(2026, 10, 13, 15, 0, 0, 0, time.UTC)

// newWorld runs its test beside others.
func newWorld(t *testing.T) *world {
	t.Helper()
	t.Parallel()
	return anotherWorld(t)
}

// anotherWorld is one more for a test that has one.
func anotherWorld(t *testing.T) *world {
	t.Helper()
	w := &world{T: t, ctx: context.Background(), now: worldBegins}
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pineledger.db"), found(t), 0o600))
	var err error
	w.store, err = store.Open(w.ctx, dir)
	require.NoError(t, err)
	t.Cleanup(func() {
		w.app.Close()
		require.NoError(t, w.store.Close())
	})
	w.restart()
	for name, into := range map[string]*roster.Viewer{"Ines": &w.coordinator, "Tomás": &w.second, "Ada": &w.principal, "Vesna": &w.teacher, "Petr": &w.otherTeacher, "Mei": &w.student, "Hugo": &w.otherStudent} {
		*into = w.person(name)
	}
	return w
}

// restart makes the application anew over the same store, as after a stop.
func (w *world) restart() {
	var err error
	w.app, err = app.New(w.ctx, app.Config{Store: w.store, Secret: bytes.Repeat([]byte{1}, 32), Now: func() time.Time { return w.now }, Log: slog.New(slog.DiscardHandler)})
	require.NoError(w, err)
}

func (w *world) file(name, text string) string {
	path := filepath.Join(w.TempDir(), name)
	require.NoError(w, os.WriteFile(path, []byte(text), 0o600))
	return path
}

func (w *world) folder(files map[string]string) string {
	dir := w.TempDir()
	for name, text := range files {
		require.NoError(w, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	return dir
}

// take imports and expects so many new rows.
func (w *world) take(v roster.Viewer, kind intake.ImportKind, path string, wantNew int) intake.ImportReport {
	w.Helper()
	r, err := w.app.Intake.Import(w.ctx, v, intake.File{Kind: kind, Name: filepath.Base(path), Path: path}, nil)
	require.NoError(w, err)
	require.Empty(w, r.Refusals)
	require.Equal(w, wantNew, r.Counts.New, "new rows of %s: %+v", kind, r.Counts)
	return r
}

func (w *world) person(given string) roster.Viewer {
	w.Helper()
	for _, role := range []roster.Role{roster.DistrictCoordinator, roster.SchoolCoordinator, roster.Teacher, roster.Student} {
		people, err := officerows.PeopleToTry(w.ctx, w.store.Reader, role, 50)
		require.NoError(w, err)
		for _, p := range people {
			if strings.HasPrefix(p.Name, given+" ") {
				v, err := w.app.Viewer(w.ctx, p.ID)
				require.NoError(w, err)
				return v
			}
		}
	}
	w.Fatalf("nobody is called %s", given)
	return roster.Viewer{}
}

func outline(title string) build.Outline {
	return build.Outline{Title: title, Subject: "mathematics", Grades: []string{"06"}, Purpose: "benchmark", Language: "en", Instructions: "<p>Think.</p><script>x</script>"}
}

// draft makes a draft with the three items.
func (w *world) draft() build.Sheet {
	w.Helper()
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(w, err)
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{})
	require.NoError(w, err)
	var lines []build.LineInput
	for i := len(page.Items) - 1; i >= 0; i-- { // newest first
		lines = append(lines, build.LineInput{ItemID: page.Items[i].ID, Points: points.One})
	}
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines)
	require.NoError(w, err)
	return s
}

func (w *world) sealed() build.Sheet {
	w.Helper()
	return w.seal(w.draft())
}

// seal gives a draft two bands and seals it.
func (w *world) seal(s build.Sheet) build.Sheet {
	w.Helper()
	half := points.Points(5000)
	set, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, build.BandSetInput{Name: "Bands", Bands: []band.Band{{Name: "Launching"}, {Name: "On course", Cut: band.Cut{Percent: &half}}}})
	require.NoError(w, err)
	s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(w, err)
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(w, err)
	return s
}

// sent makes a sealed assessment and sends it to both sections.
func (w *world) sent() build.Sheet {
	w.Helper()
	s := w.send(w.sealed(), func(officerows.Section) bool { return true })
	w.now = w.now.Add(time.Hour) // 9 in the morning there
	return s
}

// setting lets an assessment say something of a setting.
func (w *world) setting(id int64, key string, value any) give.SettingsView {
	w.Helper()
	view, err := w.set(w.coordinator, settings.Place{Assessment: id}, key, value, settings.NoLock)
	require.NoError(w, err)
	return view
}

// set lets a place say something of a setting; nil is nothing.
func (w *world) set(v roster.Viewer, p settings.Place, key string, value any, lock settings.Lock) (give.SettingsView, error) {
	w.Helper()
	view, err := w.app.Give.Settings(w.ctx, v, p)
	if err != nil {
		return view, err
	}
	change := give.SettingChange{Key: key, Lock: lock}
	if value != nil {
		change.Value = settings.Raw(value)
	}
	for _, s := range view.Settings {
		if s.Key == key && s.Here != nil {
			change.Was = s.Here.Value
		}
	}
	return w.app.Give.PutSettings(w.ctx, v, p, []give.SettingChange{change}, nil)
}

// choose adds a section to those that are chosen.
func choose(in *give.DistributionInput, section int64) {
	if len(in.Whom.Entries) == 0 {
		in.Whom = roster.ToSections(section)
		return
	}
	in.Whom.Entries[0].Sections = append(in.Whom.Entries[0].Sections, section)
}

// send sends a sealed assessment to the sections that fit.
func (w *world) send(s build.Sheet, fits func(officerows.Section) bool) build.Sheet {
	w.Helper()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(w, err)
	in := give.DistributionInput{Waves: give.OneWave("2026-10-13T08:00", "2026-10-16T16:00")}
	w.setting(s.Assessment.ID, settings.Minutes, 50)
	for _, c := range view.Candidates {
		if fits(c) {
			choose(&in, c.ID)
		}
	}
	view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(w, err)
	if len(in.Whom.Entries[0].Sections) == len(view.Candidates) {
		for _, f := range view.Findings { // supports that wait for somebody are what some tests are about
			require.Equal(w, "supports", f.Code, f.Text)
		}
	}
	reasons := map[string]string{}
	for _, f := range view.Findings {
		reasons[f.Code] = "agreed"
	}
	s, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, reasons)
	require.NoError(w, err)
	return s
}

// sittingOf gives the sitting that a teacher sees.
func (w *world) sittingOf(v roster.Viewer) giverows.Sitting {
	w.Helper()
	list, err := w.app.Take.Sittings(w.ctx, v)
	require.NoError(w, err)
	require.Len(w, list, 1)
	return list[0]
}

// atWork opens the door of a teacher's sitting and lets a student begin.
func (w *world) atWork(teacher, student roster.Viewer) (giverows.Sitting, takeroom.TakeView) {
	w.Helper()
	sitting := w.sittingOf(teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, teacher, sitting.ID, attempt.Open)
	require.NoError(w, err)
	begun, err := w.app.Take.Begin(w.ctx, student, sitting.ID, takeroom.Entry{})
	require.NoError(w, err)
	return sitting, begun
}

func answer(line int, number int64, values ...string) takeroom.Answered {
	return takeroom.Answered{Line: line, Number: number, Response: item.Response{"RESPONSE": values}}
}
