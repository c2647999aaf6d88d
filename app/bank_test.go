package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/intakerows"
)

// written keeps a new item in a bank and gives its id.
func (w *world) written(v roster.Viewer, bankName, identifier, stem string) int64 {
	w.Helper()
	d, err := w.app.Writing.BeginItem(w.ctx, v, item.SingleChoice, 0)
	require.NoError(w, err)
	it := item.NewChoice(item.SingleChoice, stem, []string{"ebb", "flood"}, []int{0}, item.AllOrNothing)
	meta := bankroom.ItemMeta{Identifier: identifier, Bank: bankName, Subject: "mathematics", Grade: "06", Standards: []string{"M6.RR"}, Depth: 1, Language: "en", Tags: []string{}}
	d, err = w.app.Writing.PutItemDraft(w.ctx, v, d.ID, d.Version, it, meta)
	require.NoError(w, err)
	require.Empty(w, d.Problems)
	id, err := w.app.Writing.KeepItem(w.ctx, v, d.ID, d.Version)
	require.NoError(w, err)
	return id
}

func (w *world) finds(v roster.Viewer, in bankroom.ItemSearch) []string {
	w.Helper()
	page, err := w.app.Bank.Items(w.ctx, v, in)
	require.NoError(w, err)
	out := []string{}
	for _, it := range page.Items {
		out = append(out, it.Identifier)
	}
	if in.Cursor == "" && in.Limit == 0 {
		assert.Equal(w, len(out), page.Total, "what is counted is what is found")
	}
	return out
}

// What lies in a bank that is not open to a person does not exist for them: not in
// search, counts, page, tray, line, draft, tag or export.
func TestABankThatIsNotOpenHidesItsItems(t *testing.T) {
	w := newWorld(t)
	_, err := w.app.Bank.AddBank(w.ctx, w.principal, bank.Group, 0, bankroom.BankInput{Name: "Rate writers"})
	require.NoError(t, err)
	secret := w.written(w.principal, "Rate writers", "G1", "Which tide falls?")
	own, err := w.app.Writing.BeginItem(w.ctx, w.principal, item.Number, 0)
	require.NoError(t, err)
	assert.NotEqual(t, "Rate writers", own.Meta.Bank)

	assert.Contains(t, w.finds(w.principal, bankroom.ItemSearch{}), "G1")
	assert.Equal(t, []string{"G1"}, w.finds(w.principal, bankroom.ItemSearch{Words: "tid"}))
	assert.Contains(t, w.finds(w.coordinator, bankroom.ItemSearch{}), "G1", "the district's coordinators keep groups' banks")
	assert.NotContains(t, w.finds(w.teacher, bankroom.ItemSearch{}), "G1")
	assert.Empty(t, w.finds(w.teacher, bankroom.ItemSearch{Words: "tide"}))
	assert.Empty(t, w.finds(w.teacher, bankroom.ItemSearch{Only: []int64{secret}}))
	for name, ask := range map[string]func() error{
		"page":     func() error { _, err := w.app.Bank.Item(w.ctx, w.teacher, secret, 0); return err },
		"versions": func() error { _, err := w.app.Bank.ItemVersions(w.ctx, w.teacher, secret); return err },
		"changes":  func() error { _, err := w.app.Bank.ItemChanges(w.ctx, w.teacher, secret, 1, 1); return err },
		"uses":     func() error { _, err := w.app.Bank.ItemUses(w.ctx, w.teacher, secret); return err },
		"comments": func() error { _, err := w.app.Bank.Comment(w.ctx, w.teacher, secret, "x"); return err },
		"report":   func() error { return w.app.Word.ReportItem(w.ctx, w.teacher, secret, 0, "unclear", "x") },
		"tag": func() error {
			return w.app.Bank.TagItems(w.ctx, w.teacher, []int64{secret}, "mine", bank.Tag{Scope: bank.ForPerson, ScopeID: w.teacher.PersonID}, nil)
		},
		"hold": func() error { _, err := w.app.Word.ItemHolds(w.ctx, w.teacher, secret); return err },
	} {
		assert.ErrorIs(t, ask(), desk.ErrNotFound, name)
	}
	for _, f := range must(w.app.Bank.Frameworks(w.ctx, w.teacher)) {
		for _, n := range must(w.app.Bank.Standards(w.ctx, w.teacher, f.ID, bankroom.ItemSearch{Words: "tide"})) {
			assert.Zero(t, n.Items, n.Code)
		}
	}
	// One's own bank is closed even to the district's coordinators.
	w.written(w.principal, own.Meta.Bank, "O1", "Which tide rises?")
	assert.Contains(t, w.finds(w.principal, bankroom.ItemSearch{Words: "rises"}), "O1")
	assert.Empty(t, w.finds(w.coordinator, bankroom.ItemSearch{Words: "rises"}))
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// An item goes on with its holds: only those who may know see it, and it goes only
// where it is held for, until it is let go or the day has passed.
func TestAHeldItemIsOfferedToNobodyElse(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id := s.Lines[0].ItemID
	theirs, err := w.app.Build.StartAssessment(w.ctx, w.principal, outline("A quiz"))
	require.NoError(t, err)
	place := func(v roster.Viewer, s build.Sheet) error {
		now, err := w.app.Build.Sheet(w.ctx, v, s.Assessment.ID)
		require.NoError(t, err)
		_, err = w.app.Build.PutLines(w.ctx, v, s.Assessment.ID, now.Assessment.Version, []build.LineInput{{ItemID: id, Points: points.One}})
		return err
	}
	require.NoError(t, place(w.principal, theirs), "free to all at first")
	_, err = w.app.Build.PutLines(w.ctx, w.principal, theirs.Assessment.ID, theirs.Assessment.Version+1, nil)
	require.NoError(t, err)

	assert.ErrorIs(t, w.app.Word.HoldItems(w.ctx, w.principal, bankroom.HoldInput{Items: []int64{id}, Until: "2026-12-01"}), desk.ErrForbidden, "not theirs to hold")
	require.NoError(t, w.app.Word.HoldItems(w.ctx, w.coordinator, bankroom.HoldInput{Items: []int64{id}, AssessmentID: s.Assessment.ID, Until: "2026-10-20", Reason: "for the fall"}))
	var conflict *desk.ConflictError
	assert.ErrorAs(t, w.app.Word.HoldItems(w.ctx, w.second, bankroom.HoldInput{Items: []int64{id}, Until: "2026-12-01"}), &conflict, "one hold at a time")

	all := w.finds(w.coordinator, bankroom.ItemSearch{})
	assert.Len(t, all, 3)
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bankroom.ItemSearch{Only: []int64{id}})
	require.NoError(t, err)
	require.NotNil(t, page.Items[0].Held)
	assert.Equal(t, "Fall", page.Items[0].Held.Assessment)
	for _, v := range []roster.Viewer{w.principal, w.teacher} {
		assert.Len(t, w.finds(v, bankroom.ItemSearch{}), 2, v.Name)
		_, err = w.app.Bank.Item(w.ctx, v, id, 0)
		assert.ErrorIs(t, err, desk.ErrNotFound)
	}
	_, err = w.app.Bank.PickItems(w.ctx, w.principal, []int64{id})
	assert.ErrorIs(t, err, desk.ErrNotFound)
	assert.ErrorContains(t, place(w.principal, theirs), "no such item")
	assert.NoError(t, place(w.coordinator, s), "it goes where it is held for")
	other, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Another"))
	require.NoError(t, err)
	assert.ErrorContains(t, place(w.coordinator, other), "on hold for another assessment")

	w.now = time.Date(2026, 10, 20, 20, 0, 0, 0, time.UTC)
	assert.Len(t, w.finds(w.teacher, bankroom.ItemSearch{}), 2, "the last day counts")
	w.now = time.Date(2026, 10, 22, 6, 0, 0, 0, time.UTC)
	assert.Len(t, w.finds(w.teacher, bankroom.ItemSearch{}), 3, "the day has passed")
	require.NoError(t, w.app.Word.HoldItems(w.ctx, w.coordinator, bankroom.HoldInput{Items: []int64{id}, Until: "2026-12-01"}), "and it can be held anew")
	assert.Len(t, w.finds(w.teacher, bankroom.ItemSearch{}), 2)
	require.NoError(t, w.app.Word.LetGo(w.ctx, w.coordinator, []int64{id}))
	assert.Len(t, w.finds(w.teacher, bankroom.ItemSearch{}), 3)
	history, err := w.app.Word.ItemHolds(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Len(t, history, 2)
	for _, in := range []bankroom.HoldInput{{Items: []int64{id}}, {Items: []int64{id}, Until: "tomorrow"}, {Items: []int64{id}, Until: "2026-10-01"}} {
		var invalid *desk.InvalidError
		assert.ErrorAs(t, w.app.Word.HoldItems(w.ctx, w.coordinator, in), &invalid, "%+v", in)
	}
}

// A tag neither shows nor matches outside those it is for.
func TestTagsAreForWhomTheyAreFor(t *testing.T) {
	w := newWorld(t)
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bankroom.ItemSearch{})
	require.NoError(t, err)
	id, other := page.Items[0].ID, page.Items[1].ID
	mine := bank.Tag{Scope: bank.ForPerson, ScopeID: w.teacher.PersonID}
	require.NoError(t, w.app.Bank.TagItems(w.ctx, w.teacher, []int64{id, other}, "Bell work, tides", mine, nil))
	school := bank.Tag{Scope: bank.ForSchool, ScopeID: w.principal.Posts[0].SchoolID}
	require.NoError(t, w.app.Bank.TagItems(w.ctx, w.principal, []int64{id}, "bell work", school, nil))
	require.NoError(t, w.app.Bank.TagItems(w.ctx, w.coordinator, []int64{id}, "bell work; rates", bank.Tag{Scope: bank.ForEveryone}, nil))

	assert.Len(t, w.finds(w.teacher, bankroom.ItemSearch{Tags: []string{"bell-work"}}), 2)
	assert.Len(t, w.finds(w.coordinator, bankroom.ItemSearch{Tags: []string{"bell-work"}}), 1)
	assert.Empty(t, w.finds(w.principal, bankroom.ItemSearch{Tags: []string{"tides"}}))
	counts := func(v roster.Viewer) map[string]int {
		list, err := w.app.Bank.ItemTags(w.ctx, v, bankroom.ItemSearch{})
		require.NoError(t, err)
		out := map[string]int{}
		for _, c := range list {
			out[c.Name+" "+c.Scope] = c.Count
		}
		return out
	}
	assert.Equal(t, 2, counts(w.teacher)["bell-work person"])
	assert.Equal(t, 1, counts(w.coordinator)["bell-work school"])
	assert.NotContains(t, counts(w.coordinator), "bell-work person")
	detail, err := w.app.Bank.Item(w.ctx, w.otherTeacher, id, 0)
	require.NoError(t, err)
	for _, tag := range detail.Tags {
		assert.NotEqual(t, "person", tag.Scope)
	}

	// Only who may: outside one's reach, and everyone's by a teacher.
	var invalid *desk.InvalidError
	assert.ErrorAs(t, w.app.Bank.TagItems(w.ctx, w.teacher, []int64{id}, "x", bank.Tag{Scope: bank.ForEveryone}, nil), &invalid)
	assert.ErrorAs(t, w.app.Bank.TagItems(w.ctx, w.principal, []int64{id}, "x", mine, nil), &invalid)
	assert.ErrorAs(t, w.app.Bank.TagItems(w.ctx, w.principal, []int64{id}, " , ", school, nil), &invalid)

	// Renamed wherever it stands; under the name of another the two become one.
	tags, err := w.app.Bank.Tags(w.ctx, w.teacher)
	require.NoError(t, err)
	for _, tag := range tags {
		if tag.Name == "tides" {
			tags, err = w.app.Bank.RenameTag(w.ctx, w.teacher, tag.ID, "Bell work")
			require.NoError(t, err)
		}
	}
	names := []string{}
	for _, tag := range tags {
		if tag.Scope == "person" {
			names = append(names, tag.Name)
			assert.Equal(t, 2, tag.Items)
		} else if tag.Name == "rates" {
			_, err := w.app.Bank.RenameTag(w.ctx, w.teacher, tag.ID, "x")
			assert.ErrorIs(t, err, desk.ErrForbidden)
		}
	}
	assert.Equal(t, []string{"bell-work"}, names)
	for _, tag := range detail.Tags {
		require.NoError(t, w.app.Bank.TagItems(w.ctx, w.coordinator, []int64{id}, "", bank.Tag{}, []int64{tag.ID}))
	}
	assert.Empty(t, w.finds(w.coordinator, bankroom.ItemSearch{Tags: []string{"rates"}}), "taken off")
}

// A report reaches who may mend the item, with what holds it; its answer reaches who
// reported, and whoever uses the item.
func TestAReportIsAnswered(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.Build.StartAssessment(w.ctx, w.principal, outline("A quiz"))
	require.NoError(t, err)
	id := w.written(w.coordinator, "Bank", "R1", "Which tide falls?")
	_, err = w.app.Build.PutLines(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: id, Points: points.One}})
	require.NoError(t, err)
	require.NoError(t, w.app.Word.ReportItem(w.ctx, w.teacher, id, 1, "wrong key", "It is the ebb."))
	var invalid *desk.InvalidError
	assert.ErrorAs(t, w.app.Word.ReportItem(w.ctx, w.teacher, id, 1, "ugly", "x"), &invalid)
	assert.ErrorAs(t, w.app.Word.ReportItem(w.ctx, w.teacher, id, 1, "other", "  "), &invalid)
	assert.ErrorAs(t, w.app.Word.ReportItem(w.ctx, w.teacher, id, 99, "other", "x"), &invalid, "no such version")
	assert.ErrorIs(t, w.app.Word.ReportItem(w.ctx, w.student, id, 1, "other", "x"), desk.ErrForbidden)

	today, err := w.app.Today(w.ctx, w.coordinator)
	require.NoError(t, err)
	require.Len(t, today.Reports, 1)
	report := today.Reports[0]
	assert.Equal(t, []string{"wrong key", "It is the ebb.", "A quiz"}, []string{report.Fault, report.Words, report.Uses[0].Title})
	theirs, err := w.app.Today(w.ctx, w.principal)
	require.NoError(t, err)
	assert.Empty(t, theirs.Reports, "not theirs to mend")
	assert.ErrorIs(t, w.app.Word.CloseReport(w.ctx, w.principal, report.ID, true, "x"), desk.ErrForbidden)

	require.NoError(t, w.app.Word.CloseReport(w.ctx, w.coordinator, report.ID, true, "The key is the ebb now."))
	var conflict *desk.ConflictError
	assert.ErrorAs(t, w.app.Word.CloseReport(w.ctx, w.coordinator, report.ID, false, "x"), &conflict)
	for _, v := range []roster.Viewer{w.teacher, w.principal} {
		today, err := w.app.Today(w.ctx, v)
		require.NoError(t, err)
		require.Len(t, today.Notices, 1, v.Name)
		assert.Contains(t, today.Notices[0].Words, "The key is the ebb now.")
		require.NoError(t, w.app.Word.SeeNotice(w.ctx, w.coordinator, today.Notices[0].ID), "another's notice stays")
		require.NoError(t, w.app.Word.SeeNotice(w.ctx, v, today.Notices[0].ID))
		today, err = w.app.Today(w.ctx, v)
		require.NoError(t, err)
		assert.Empty(t, today.Notices)
	}
	list, err := w.app.Word.ItemReports(w.ctx, w.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, "mended", list[0].State)
}

func TestBanksAreMadeAndKept(t *testing.T) {
	w := newWorld(t)
	var invalid *desk.InvalidError
	_, err := w.app.Bank.AddBank(w.ctx, w.principal, bank.District, 0, bankroom.BankInput{Name: "x"})
	assert.ErrorAs(t, err, &invalid)
	_, err = w.app.Bank.AddBank(w.ctx, w.principal, bank.School, 999, bankroom.BankInput{Name: "x"})
	assert.ErrorAs(t, err, &invalid)
	_, err = w.app.Bank.AddBank(w.ctx, w.principal, bank.Group, 0, bankroom.BankInput{Name: "Bank"})
	assert.ErrorContains(t, err, "a bank with this name already")
	list, err := w.app.Bank.AddBank(w.ctx, w.principal, bank.Group, 0, bankroom.BankInput{Name: "Rate writers"})
	require.NoError(t, err)
	var group bankroom.BankListed
	for _, b := range list {
		if b.Name == "Rate writers" {
			group = b
		}
	}
	assert.Equal(t, bank.Keeper, group.Standing, "who makes it keeps it")
	_, err = w.app.Bank.PutBank(w.ctx, w.principal, group.ID, group.Version, bankroom.BankInput{Name: "Rate writers"})
	assert.ErrorContains(t, err, "needs a keeper")
	keeper := bankroom.MemberInput{PersonID: w.principal.PersonID, Standing: bank.Keeper}
	_, err = w.app.Bank.PutBank(w.ctx, w.principal, group.ID, group.Version, bankroom.BankInput{Name: "Rate writers", NoPrint: true, Members: []bankroom.MemberInput{keeper, {PersonID: w.teacher.PersonID, Standing: bank.Reader}}})
	require.NoError(t, err)
	_, err = w.app.Bank.PutBank(w.ctx, w.principal, group.ID, group.Version, bankroom.BankInput{Name: "Other", Members: []bankroom.MemberInput{keeper}})
	assert.ErrorIs(t, err, store.ErrStale)
	_, err = w.app.Bank.PutBank(w.ctx, w.otherTeacher, group.ID, 2, bankroom.BankInput{Name: "Other", Members: []bankroom.MemberInput{keeper}})
	assert.ErrorIs(t, err, desk.ErrNotFound, "not open to them")
	_, err = w.app.Bank.PutBank(w.ctx, w.teacher, group.ID, 2, bankroom.BankInput{Name: "Other", Members: []bankroom.MemberInput{keeper}})
	assert.ErrorIs(t, err, desk.ErrForbidden, "a reader of it")
	seen := must(w.app.Bank.Banks(w.ctx, w.teacher))
	assert.Equal(t, []string{"Bank", "Rate writers"}, []string{seen[0].Name, seen[1].Name})
	assert.Empty(t, seen[1].Members, "only keepers see who is in it")
	people, err := w.app.Bank.StaffNamed(w.ctx, w.principal, "vesna")
	require.NoError(t, err)
	require.Len(t, people, 1)
	assert.Equal(t, w.teacher.PersonID, people[0].ID)
}

// An import takes nothing over that is not the importer's to change, and fills no
// bank that they do not write in.
func TestAnImportKeepsToItsRights(t *testing.T) {
	w := newWorld(t)
	own, err := w.app.Writing.BeginItem(w.ctx, w.principal, item.Number, 0)
	require.NoError(t, err)
	w.written(w.principal, own.Meta.Bank, "P1", "Which tide falls?")
	_, err = w.app.Bank.AddBank(w.ctx, w.coordinator, bank.Given, 0, bankroom.BankInput{Name: "Lantern"})
	require.NoError(t, err)
	file := func(identifier, bankName, stem string) string {
		return w.file("more.csv", "identifier,bank,kind,stem,choice_1,choice_2,key,standards,subject,grade\n"+strings.Join([]string{identifier, bankName, "single-choice", stem, "a", "b", "A", "M6.RR", "mathematics", "06"}, ",")+"\n")
	}
	refused := func(path string) intakerows.Remark {
		r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "more.csv", Path: path}, nil)
		require.NoError(t, err)
		require.Len(t, r.Refusals, 1)
		return r.Refusals[0]
	}
	r := refused(file("P1", "Bank", "Mine now?"))
	assert.Equal(t, "identifier", r.Field)
	r = refused(file("P2", own.Meta.Bank, "Into another's bank"))
	if assert.Equal(t, "bank", r.Field) {
		assert.Contains(t, r.Reason, "do not write in")
	}
	w.take(w.coordinator, intake.ImportItems, file("L1", "Lantern", "A given one"), 1)
	report, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "more.csv", Path: file("L1", "Lantern", "A newer given one")}, nil)
	require.NoError(t, err)
	assert.Equal(t, 1, report.Counts.Changed, "given items are renewed by import alone")
	id := must(w.app.Bank.Items(w.ctx, w.coordinator, bankroom.ItemSearch{Words: "newer given"})).Items[0].ID
	_, err = w.app.Writing.BeginItem(w.ctx, w.coordinator, "", id)
	assert.ErrorIs(t, err, desk.ErrForbidden, "and never written anew")
}

// Versions, what changed, where it is used, and what those who looked said of it.
func TestAnItemsPage(t *testing.T) {
	w := newWorld(t)
	id := w.written(w.coordinator, "Bank", "V1", "Which tide falls?")
	require.NoError(t, w.app.Bank.TagItems(w.ctx, w.coordinator, []int64{id}, "by hand", bank.Tag{Scope: bank.ForEveryone}, nil))
	d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, "", id)
	require.NoError(t, err)
	assert.Equal(t, []string{"by-hand"}, d.Meta.Tags)
	d.Document.Body[0].HTML = "<p>Which tide rises?</p>"
	d.Document.Declarations[0].Correct = []string{"B"}
	d.Meta.Tags = []string{"tide"}
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, d.Document, d.Meta)
	require.NoError(t, err)
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)

	page, err := w.app.Bank.Item(w.ctx, w.teacher, id, 0)
	require.NoError(t, err)
	assert.Equal(t, []any{2, "B", "Ines Okafor"}, []any{page.Number, page.Key, page.Owner})
	require.Len(t, page.Tags, 1)
	assert.Equal(t, "tide", page.Tags[0].Name, "a tag that its author took off is off")
	assert.True(t, page.Rights[bank.See].May)
	assert.False(t, page.Rights[bank.Place].May)
	first, err := w.app.Bank.Item(w.ctx, w.teacher, id, 1)
	require.NoError(t, err)
	assert.Equal(t, "A", first.Key)
	_, err = w.app.Bank.Item(w.ctx, w.teacher, id, 3)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	versions, err := w.app.Bank.ItemVersions(w.ctx, w.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, 2, versions[0].Number)
	changes, err := w.app.Bank.ItemChanges(w.ctx, w.teacher, id, 1, 2)
	require.NoError(t, err)
	whats := []string{}
	for _, c := range changes {
		whats = append(whats, c.What)
	}
	assert.Equal(t, []string{"stem", "key", "tags"}, whats)
	said, err := w.app.Bank.Comment(w.ctx, w.teacher, id, " Clearer now. ")
	require.NoError(t, err)
	assert.Equal(t, []string{"Clearer now."}, []string{said[0].Words})
	today, err := w.app.Today(w.ctx, w.coordinator)
	require.NoError(t, err)
	assert.Contains(t, today.Notices[0].Words, "commented on V1")
}

func TestSearchesAreKept(t *testing.T) {
	w := newWorld(t)
	_, err := w.app.Bank.SaveSearch(w.ctx, w.teacher, "Tides", "words=tide")
	require.NoError(t, err)
	kept, err := w.app.Bank.SaveSearch(w.ctx, w.teacher, "Tides", "words=tides")
	require.NoError(t, err)
	require.Len(t, kept, 1)
	assert.Equal(t, "words=tides", kept[0].Query)
	assert.Empty(t, must(w.app.Bank.SavedSearches(w.ctx, w.principal)), "one's own")
	require.Len(t, must(w.app.Bank.DropSearch(w.ctx, w.principal, kept[0].ID)), 0)
	assert.Len(t, must(w.app.Bank.SavedSearches(w.ctx, w.teacher)), 1, "another's stays")
	assert.Empty(t, must(w.app.Bank.DropSearch(w.ctx, w.teacher, kept[0].ID)))
}
