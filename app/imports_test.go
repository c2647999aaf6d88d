package app_test

import (
	"archive/zip"
	"context"
	"maps"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/app/record"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/formats/table"
	"pineledger/store/intakerows"
)

func reasons(r intake.ImportReport) []string {
	var out []string
	for _, x := range r.Refusals {
		out = append(out, x.File+" "+x.Field+" "+x.Reason)
	}
	return out
}

func TestTheSameFilesAgainChangeNothing(t *testing.T) {
	w := newWorld(t)
	before, err := w.app.Record.Ledger(w.ctx, w.coordinator, record.LedgerQuery{})
	require.NoError(t, err)
	for kind, path := range map[intake.ImportKind]string{intake.ImportStandards: w.file("calder.json", standards), intake.ImportRoster: w.folder(rosterFiles), intake.ImportItems: w.file("items.csv", itemsFile)} {
		r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: kind, Name: "again", Path: path}, nil)
		require.NoError(t, err)
		assert.Zero(t, r.Counts.New+r.Counts.Changed+r.Counts.Refused, "%s: %+v", kind, r.Counts)
		assert.Positive(t, r.Counts.Unchanged, kind)
	}
	after, err := w.app.Record.Ledger(w.ctx, w.coordinator, record.LedgerQuery{})
	require.NoError(t, err)
	assert.Len(t, after, len(before), "what changed nothing leaves no entry")
}

func TestBadRosterRowsAreRefusedAlone(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(rosterFiles)
	files["users.csv"] += "d,true,,Nameless,1004,,06,1\ne,true,Rosa,Vega,1005,,6th,1\nf,true,Anton,Greco,,,06,1\na,true,Mei,Sato,1001,,06,1234\n"
	files["roles.csv"] += "r10,f,student,s1\nr11,a,wizard,s1\nr12,nobody,student,s1\nr13,a,student,elsewhere\n"
	files["enrollments.csv"] += "e6,c9,a,student\ne7,c1,c,student\n"
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, nil)
	require.NoError(t, err)
	assert.ElementsMatch(t, []string{
		"users.csv givenName is empty",
		`users.csv grades "6th" is not a grade code such as KG, 03 or 11`,
		"users.csv identifier is empty: a student signs in with it and a PIN",
		`users.csv sourcedId "a" is given twice`,
		`roles.csv userSourcedId "f" is not a person that is known`,
		`roles.csv role "wizard" is not a role`,
		`roles.csv userSourcedId "nobody" is not a person that is known`,
		`roles.csv orgSourcedId "elsewhere" is not a school or district that is known`,
		`enrollments.csv classSourcedId "c9" is not a section that is known`,
	}, reasons(r))
	assert.Equal(t, 1, r.Counts.New, "the one good new row comes in")
	assert.Equal(t, 9, r.Refusals[0].Line-1, "lines are those of the file")
}

func TestARosterComesAgainWithMovesAndLeavers(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(rosterFiles)
	files["users.csv"] = strings.Replace(files["users.csv"], "a,true,Mei,Sato,1001", "a,true,Mei,Sato-Ali,1001", 1)
	files["enrollments.csv"] = "sourcedId,status,classSourcedId,userSourcedId,role\ne1,,c1,t1,teacher\ne2,,c2,t2,teacher\ne3,tobedeleted,c1,a,student\ne8,,c2,a,student\ne4,,c1,b,student\ne5,,c2,c,student\n"
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, nil)
	require.NoError(t, err)
	require.Empty(t, r.Refusals)
	assert.Equal(t, 1, r.Counts.New)
	schools, err := w.app.Office.Schools(w.ctx, w.coordinator)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 1}, []int{schools[0].Students, schools[1].Students}, "one student moved")
	v, err := w.app.Office.SignInStudent(w.ctx, "1001", "1234")
	require.NoError(t, err)
	assert.Equal(t, "Mei Sato-Ali", v.Name, "names are not remembered past an import")
}

func TestDemographicsAreKeptBesideThePerson(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(rosterFiles)
	files["demographics.csv"] = "sourcedId,birthDate,sex\na,2015-02-03,female\n"
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, nil)
	require.NoError(t, err)
	assert.Equal(t, 1, r.Counts.New)
	kept, err := intakerows.Demographics(w.ctx, w.store.Reader)
	require.NoError(t, err)
	assert.Equal(t, map[int64]string{w.student.PersonID: `{"birthDate":"2015-02-03","sex":"female"}`}, kept)
}

func TestABadFileChangesNothing(t *testing.T) {
	w := newWorld(t)
	incomplete := maps.Clone(rosterFiles)
	delete(incomplete, "roles.csv")
	for kind, path := range map[intake.ImportKind]string{
		intake.ImportRoster:    w.folder(incomplete),
		intake.ImportStandards: w.file("x.json", `{"CFItems":[]}`),
		intake.ImportItems:     w.file("x.csv", "identifier,stem\nI9,x\n"),
	} {
		r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: kind, Name: "bad", Path: path}, nil)
		assert.Error(t, err, kind)
		assert.Equal(t, "failed", r.State)
		assert.Contains(t, r.Message, "Nothing was changed.")
		kept, err := w.app.Intake.ImportByID(w.ctx, w.coordinator, r.ID)
		require.NoError(t, err)
		assert.Equal(t, r.Message, kept.Message, "the report is kept")
	}
}

func TestBadItemRowsNameTheirField(t *testing.T) {
	w := newWorld(t)
	rows := "identifier,bank,kind,subject,grade,standards,depth,difficulty,stem,choice_1,choice_2,key,passage\n" +
		"I1,Bank,riddle,Mathematics,06,,,,x,a,b,A,\n" +
		"I 4,Bank,number,Mathematics,06,,,,x,,,1,\n" +
		"I5,Bank,single-choice,Mathematics,06,,,,x,a,b,C,\n" +
		"I6,Bank,single-choice,Mathematics,06,X1,,,x,a,b,A,\n" +
		"I7,Bank,single-choice,Mathematics,06,M6,7,,x,a,b,A,\n" +
		"I8,Bank,single-choice,Mathematics,06,M6,,0.7777,x,a,b,A,\n" +
		"I9,Bank,single-choice,Mathematics,06,M6,,,x,a,a,A,\n" +
		"I10,Bank,number,Mathematics,06,M6,,,x,,,twelve,\n" +
		"I11,Bank,number,Mathematics,06,M6,,,x,,,12,P9\n" +
		"I12,Bank,number,,06,,,,x,,,12,\n" +
		"I13,Bank,number,Mathematics,06,M6,,,5 < 7 and <b>more</b>,,,12,\n"
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "items.csv", Path: w.file("items.csv", rows)}, nil)
	require.NoError(t, err)
	assert.Equal(t, []string{
		`items.csv kind "riddle" is not one of single-choice, multiple-choice, true-false, order, match, sort, box-table, text, number, number-line, select-text, menus, short-written, extended-written, examiner`,
		"items.csv identifier must be given, without spaces, in at most 100 characters",
		`items.csv key "C" is not the letter of one of the 2 choices`,
		`items.csv standards "X1" is not a standard that is known; import its framework first`,
		`items.csv depth "7" is not 1, 2, 3 or 4`,
		`items.csv difficulty "0.7777" is not a share of right answers from 0 to 1, with three places at most`,
		"items.csv choice_1 … two choices are the same",
		`items.csv key the key "twelve" is not a number`,
		`items.csv passage_text is empty, and the passage "P9" is not known`,
		"items.csv subject is not said, and no standard tells it; import the file again with a subject for such items",
	}, reasons(r))
	assert.Equal(t, 1, r.Counts.New)
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{Words: "more"})
	require.NoError(t, err)
	require.Len(t, page.Items, 1)
	assert.Equal(t, "5 < 7 and <b>more</b>", page.Items[0].Stem, "plain text stays plain")
}

func TestACancelledImportKeepsNothingButItsReport(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(rosterFiles)
	var users strings.Builder
	users.WriteString(files["users.csv"])
	for i := range 3000 {
		users.WriteString("x" + string(rune('a'+i%26)) + strings.Repeat("y", i/26) + ",true,A,B,,,06,\n")
	}
	files["users.csv"] = users.String()
	ctx, cancel := context.WithCancel(w.ctx)
	r, err := w.app.Intake.Import(ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, func(stage string, c intake.ImportCounts) {
		if c.Read >= 1000 {
			cancel()
		}
	})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Equal(t, "cancelled", r.State)
	kept, err := intakerows.KnownBy(w.ctx, w.store.Reader, "person")
	require.NoError(t, err)
	assert.Len(t, kept, 8)
}

func TestAnImportBehindTheScreenTellsHowItEnded(t *testing.T) {
	w := newWorld(t)
	path := filepath.Join(t.TempDir(), "roster.zip")
	file, err := os.Create(path)
	require.NoError(t, err)
	z := zip.NewWriter(file)
	for name, text := range rosterFiles {
		f, err := z.Create("export/" + name)
		require.NoError(t, err)
		_, err = f.Write([]byte(text))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	require.NoError(t, file.Close())

	_, err = w.app.Intake.StartImport(w.ctx, w.teacher, intake.File{Kind: intake.ImportRoster, Name: "roster.zip", Path: path})
	require.ErrorIs(t, err, desk.ErrForbidden)
	id, err := w.app.Intake.StartImport(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster.zip", Path: path})
	require.NoError(t, err)
	var r intake.ImportReport
	require.Eventually(t, func() bool {
		r, err = w.app.Intake.ImportByID(w.ctx, w.coordinator, id)
		_, gone := os.Stat(path)
		return err == nil && r.State != "running" && os.IsNotExist(gone)
	}, 5*time.Second, 5*time.Millisecond)
	assert.Equal(t, "done", r.State, r.Message)
	assert.Equal(t, 28, r.Counts.Unchanged)
	var conflict *desk.ConflictError
	assert.ErrorAs(t, w.app.Intake.CancelImport(w.coordinator, id), &conflict)
	_, err = w.app.Intake.ImportByID(w.ctx, w.teacher, id)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

func TestRightsFollowAnImport(t *testing.T) {
	w := newWorld(t)
	assert.Len(t, w.teacher.Sections, 1)
	assert.Equal(t, roster.Scope{Schools: []int64{w.principal.Posts[0].SchoolID}}, w.principal.Scope())
}

func TestEachKindOfItemIsReadFromItsRow(t *testing.T) {
	w := newWorld(t)
	const head = "identifier,bank,kind,subject,grade,standards,stem,choice_1,choice_2,choice_3,target_1,target_2,key,credit,joins,slips,line,text\n"
	const rows = `K1,Bank,true-false,Mathematics,06,M6.RR,Is 2 : 4 equal to 1 : 2?,,,,,,true,,,,,
K2,Bank,order,Mathematics,06,M6.RR,From the least.,0.5,0.05,5,,,B;A;C,per-place,,,,
K3,Bank,match,Mathematics,06,M6.RR,Join equal ones.,1/2,3/4,,0.75,0.5,A-2;B-1,per-part,,,,
K4,Bank,sort,Mathematics,06,M6.RR,Sort.,2,3,4,even,odd,A-1;B-2;C-1,per-part,,,,
K5,Bank,box-table,Mathematics,06,M6.RR,Tick.,2,9,,even,square,A-1;B-2,per-part,often,,,
K6,Bank,text,Mathematics,06,M6.RR,What is a shape with three sides called?,,,,,,triangle;a triangle,,,yes,,
K7,Bank,number-line,Mathematics,06,M6.RR,Put 3/4.,,,,,,3/4,,,,0;1;1/4;4,
K8,Bank,select-text,Mathematics,06,M6.RR,Select the ratios.,,,,,,A;C,key-minus,,,,[2 : 3] is a ratio; [two & three] is not; [1 : 4] is.
K9,Bank,menus,Mathematics,06,M6.RR,Choose.,,,,,,B;A,per-part,,,,2 : 4 is [more|as much] as [1 : 2|2 : 1].
`
	w.take(w.coordinator, intake.ImportItems, w.file("kinds.csv", head+rows), 9)
	want := map[string][3]string{
		"K1": {"true", "true", "false"}, "K2": {"B A C", "B,A,C", "A,B,C"}, "K3": {"A–2, B–1", "A T2,B T1", "A T1,B T2"},
		"K4": {"A–1, B–2, C–1", "A T1,B T2,C T1", "A T2"}, "K5": {"A–1, B–2", "A T1,B T2", "A T2"}, "K6": {"triangle or a triangle", "Triangel", "square"}, "K7": {"3/4", "0.75", "0.5"}, "K8": {"A, C", "A,C", "A,B"}, "K9": {"as much, 1 : 2", "B G1,C G2", "A G1,C G2"},
	}
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{Limit: 50})
	require.NoError(t, err)
	met := 0
	for _, row := range page.Items {
		c, ok := want[row.Identifier]
		if !ok {
			continue
		}
		met++
		it, err := w.app.Bank.Item(w.ctx, w.coordinator, row.ID, 0)
		require.NoError(t, err)
		assert.Equal(t, c[0], it.Key, row.Identifier)
		right := it.Document.Score(item.Response{"RESPONSE": strings.Split(c[1], ",")}, 100)
		if row.Identifier == "K6" {
			assert.Equal(t, item.Wrong, right.Outcome, "two letters are no slip")
			right = it.Document.Score(item.Response{"RESPONSE": {"triangl"}}, 100)
		}
		assert.Equal(t, item.Right, right.Outcome, row.Identifier)
		assert.NotEqual(t, item.Right, it.Document.Score(item.Response{"RESPONSE": strings.Split(c[2], ",")}, 100).Outcome, row.Identifier)
	}
	assert.Equal(t, len(want), met)

	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "bad.csv", Path: w.file("bad.csv", head+
		"B1,Bank,true-false,Mathematics,06,M6.RR,x,,,,,,maybe,,,,,\n"+
		"B2,Bank,order,Mathematics,06,M6.RR,x,a,b,c,,,A;B,per-place,,,,\n"+
		"B3,Bank,match,Mathematics,06,M6.RR,x,a,b,,c,d,A-3,per-part,,,,\n"+
		"B4,Bank,match,Mathematics,06,M6.RR,x,a,b,,c,d,A-1;B-1,per-part,once,,,\n"+
		"B5,Bank,sort,Mathematics,06,M6.RR,x,a,b,,c,d,A-1,per-part,seldom,,,\n"+
		"B6,Bank,text,Mathematics,06,M6.RR,x,,,,,,word,,,perhaps,,\n"+
		"B7,Bank,number-line,Mathematics,06,M6.RR,x,,,,,,1,,,,0;1,\n"+
		"B8,Bank,number-line,Mathematics,06,M6.RR,x,,,,,,2,,,,0;1;1/4,\n"+
		"B9,Bank,select-text,Mathematics,06,M6.RR,x,,,,,,A,,,,,one [two and [three]\n"+
		"C1,Bank,menus,Mathematics,06,M6.RR,x,,,,,,A,,,,,one [two|three] and [four|five]\n"+
		"C2,Bank,menus,Mathematics,06,M6.RR,x,,,,,,C,,,,,one [two|three]\n")}, nil)
	require.NoError(t, err)
	var fields []string
	for _, refusal := range r.Refusals {
		fields = append(fields, refusal.Field)
	}
	assert.Equal(t, []string{"key", "key", "key", "key", "joins", "slips", "line", "key", "text", "key", "key"}, fields)
}

func TestWrittenAndRecordedItemsAreReadFromTheirRows(t *testing.T) {
	w := newWorld(t)
	const head = "identifier,bank,kind,subject,grade,standards,stem,key,rows,rubric,directions\n"
	w.take(w.coordinator, intake.ImportItems, w.file("written.csv", head+
		"W1,Bank,short-written,Mathematics,06,M6.RR,Why?,Because 2 : 4 is 1 : 2.,4,,\n"+
		"W2,Bank,extended-written,Mathematics,06,M6.RR,Explain.,,,Reason: 2 two reasons | 1 one | 0 none; Words: 0.5 clear | 0 unclear,\n"+
		"W3,Bank,examiner,Mathematics,06,M6.RR,Which is a circle?,the second one,,,Say: point to the circle.\n"), 3)
	_, short := w.itemNamed("W1")
	assert.Equal(t, 4, short.Document.Body[1].Interaction.Rows)
	_, long := w.itemNamed("W2")
	assert.Equal(t, []any{"rubric: Reason, Words", 10, points.Points(250)}, []any{long.Key, long.Document.Body[1].Interaction.Rows, long.Document.Declarations[0].Rubric.Most()})
	_, examiner := w.itemNamed("W3")
	assert.Equal(t, []string{"the second one", "Say: point to the circle."}, []string{examiner.Key, examiner.Document.Directions})

	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "bad.csv", Path: w.file("bad.csv", head+
		"B1,Bank,short-written,Mathematics,06,M6.RR,Why?,,99,,\n"+
		"B2,Bank,extended-written,Mathematics,06,M6.RR,Why?,,,,\n"+
		"B3,Bank,extended-written,Mathematics,06,M6.RR,Why?,,,Reason 2 two,\n"+
		"B4,Bank,extended-written,Mathematics,06,M6.RR,Why?,,,Reason: two | one,\n"+
		"B5,Bank,examiner,Mathematics,06,M6.RR,Which?,,,,\n")}, nil)
	require.NoError(t, err)
	var fields []string
	for _, refusal := range r.Refusals {
		fields = append(fields, refusal.Field)
	}
	assert.Equal(t, []string{"rows", "rubric", "rubric", "rubric", "key"}, fields)
}

// A workbook is read as a table is, whatever its name.
func TestItemsComeInAWorkbook(t *testing.T) {
	w := newWorld(t)
	path := filepath.Join(t.TempDir(), "upload")
	file, err := os.Create(path)
	require.NoError(t, err)
	require.NoError(t, table.WriteSheet(file, "Items", []string{"identifier", "bank", "kind", "subject", "grade", "standards", "stem", "choice_1", "choice_2", "key"},
		[][]string{{"X1", "Bank", "single-choice", "Mathematics", "06", "M6.RR", "Which is 1 : 3?", "2 : 6", "3 : 6", "A"}, {"X2", "Bank", "single-choice", "Mathematics", "06", "M6.RR", "x", "a", "b", "C"}}))
	require.NoError(t, file.Close())
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "items.xlsx", Path: path}, nil)
	require.NoError(t, err)
	assert.Equal(t, 1, r.Counts.New)
	require.Len(t, r.Refusals, 1)
	assert.Equal(t, intakerows.Remark{Sort: intakerows.Refused, File: "items.xlsx", Line: 3, Field: "key", Reason: `"C" is not the letter of one of the 2 choices`}, r.Refusals[0])
}

func TestHowATypedNumberIsReadComesWithItsRow(t *testing.T) {
	w := newWorld(t)
	w.take(w.coordinator, intake.ImportItems, w.file("numbers.csv", "identifier,bank,kind,subject,grade,standards,stem,key,tolerance,relative,percent,clock,comma\n"+
		"N1,Bank,number,Mathematics,06,M6.RR,How long?,65,,,,yes,\n"+
		"N2,Bank,number,Mathematics,06,M6.RR,What part?,3/4,,,yes,,\n"+
		"N3,Bank,number,Mathematics,06,M6.RR,About?,200,0.1,yes,,,\n"+
		"N4,Bank,number,Mathematics,06,M6.RR,Wie viel?,\"2,5\",,,,,yes\n"), 4)
	for identifier, c := range map[string][2]string{"N1": {"1:05", "1:06"}, "N2": {"75 %", "74 %"}, "N3": {"220", "221"}, "N4": {"2,50", "2.5"}} {
		page, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{Limit: 50})
		require.NoError(t, err)
		for _, row := range page.Items {
			if row.Identifier != identifier {
				continue
			}
			it, err := w.app.Bank.Item(w.ctx, w.coordinator, row.ID, 0)
			require.NoError(t, err)
			assert.Equal(t, item.Right, it.Document.Score(item.Response{"RESPONSE": {c[0]}}, 100).Outcome, identifier)
			assert.Equal(t, item.Wrong, it.Document.Score(item.Response{"RESPONSE": {c[1]}}, 100).Outcome, identifier)
		}
	}
}

// A district that teaches what no list of ours names chooses it all the same.
func TestSubjectsComeFromTheRoster(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(rosterFiles)
	files["courses.csv"] += "h,Harbor history 8,08,Social Studies\n"
	_, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, nil)
	require.NoError(t, err)
	subjects, err := w.app.Subjects(w.ctx, w.teacher)
	require.NoError(t, err)
	assert.Contains(t, subjects, "social studies")
	assert.Contains(t, subjects, "mathematics")
	_, err = w.app.Subjects(w.ctx, w.student)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	in := outline("Harbor history")
	in.Subject = "social studies"
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, in)
	require.NoError(t, err)
	assert.Equal(t, "social studies", s.Assessment.Subject)
}
