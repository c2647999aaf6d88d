package build

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
)

// Outline is what a person types of an assessment.
type Outline struct {
	Title, ShortTitle, Description, Instructions, Subject, Purpose, Language, Year, Course string
	Grades, Labels                                                                         []string
}

// mostListed bounds a list of assessments; filters find the others.
const mostListed = 200

// Assessments lists what a builder may see, and for teachers what is shared with them.
func (a *Build) Assessments(ctx context.Context, v roster.Viewer, f buildrows.AssessmentFilter) ([]buildrows.AssessmentListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	f.Limit = mostListed
	return a.Listed(ctx, v, f)
}

// Listed lists assessments. What one with pools is worth to a student is less than its lines are together.
func (a *Build) Listed(ctx context.Context, v roster.Viewer, f buildrows.AssessmentFilter) ([]buildrows.AssessmentListed, error) {
	list, err := buildrows.Assessments(ctx, a.Store.Reader, v, f)
	if err != nil {
		return nil, err
	}
	for i := range list {
		l := list[i].Assessment.Layout.V
		if len(l.Pools) == 0 {
			continue
		}
		places, err := buildrows.LinePlaces(ctx, a.Store.Reader, list[i].ID)
		if err != nil {
			return nil, err
		}
		placed := make([]form.Placed, len(places))
		for k, p := range places {
			placed[k] = form.Placed{Part: p.Part, Pool: p.Pool, Points: points.Points(p.Points)}
		}
		total, _ := l.Worth(placed)
		list[i].Points = int64(total)
	}
	return list, nil
}

// StartAssessment makes a blank draft.
func (a *Build) StartAssessment(ctx context.Context, v roster.Viewer, in Outline) (Sheet, error) {
	if !v.MayBuild() {
		return Sheet{}, desk.ErrForbidden
	}
	d, err := a.District(ctx)
	if err != nil {
		return Sheet{}, err
	}
	if in.Year == "" {
		in.Year = d.Year
	}
	if err := a.checkOutline(ctx, &in, ""); err != nil {
		return Sheet{}, err
	}
	var id int64
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		row := buildrows.Assessment{SchoolID: v.HomeSchool(), OwnerID: v.PersonID, ChangedAt: store.Millis(a.Now()), ChangedBy: v.Name}
		in.write(&row)
		id, err = buildrows.AddAssessment(ctx, tx, row)
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "assessment.start", Thing: "assessment", ID: id, Title: in.Title, After: in.note()})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

// mostShortTitle is how many letters a student's list has room for.
const mostShortTitle = 60

// checkOutline says what is wrong with an outline. The purpose is one of the district's list, or
// the one that the assessment has.
func (a *Build) checkOutline(ctx context.Context, o *Outline, purpose string) error {
	purposes, err := buildrows.Purposes(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	if purpose != "" {
		purposes = append(purposes, purpose)
	}
	return o.check(purposes)
}

func (o *Outline) check(purposes []string) error {
	var e desk.InvalidError
	add := func(bad bool, pointer, format string, args ...any) {
		if bad {
			e.Add(pointer, fmt.Sprintf(format, args...))
		}
	}
	o.Title, o.ShortTitle = strings.TrimSpace(o.Title), strings.TrimSpace(o.ShortTitle)
	add(o.Title == "" || utf8.RuneCountInString(o.Title) > 200, "/title", "A title of at most 200 characters is needed.")
	add(utf8.RuneCountInString(o.ShortTitle) > mostShortTitle, "/shortTitle", "The short title has at most 60 characters.")
	add(utf8.RuneCountInString(o.Description) > 5000, "/description", "The description has at most 5,000 characters.")
	add(utf8.RuneCountInString(o.Instructions) > 20_000, "/instructions", "The instructions have at most 20,000 characters.")
	o.Instructions = desk.CleanBlocks(o.Instructions)
	add(o.Subject == "", "/subject", "Choose a subject.")
	add(len(o.Grades) == 0, "/grades", "Choose one grade at least.")
	for _, g := range o.Grades {
		add(!slices.Contains(desk.Grades, g), "/grades", "%q is not a grade from K to 12.", g)
	}
	add(!slices.Contains(purposes, o.Purpose), "/purpose", "Choose one of the purposes: %s.", strings.Join(purposes, ", "))
	add(utf8.RuneCountInString(o.Course) > 100, "/course", "A course has at most 100 characters.")
	o.Labels = desk.TidyLabels(o.Labels)
	add(len(o.Labels) > desk.MostLabels, "/labels", "An assessment has %d labels at most.", desk.MostLabels)
	for _, l := range o.Labels {
		add(utf8.RuneCountInString(l) > desk.MostLabel, "/labels", "The label %q is longer than %d characters.", l, desk.MostLabel)
	}
	add(!slices.Contains(desk.Languages, o.Language), "/language", "Choose one of the languages: %s.", strings.Join(desk.Languages, ", "))
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}

func (o *Outline) write(row *buildrows.Assessment) {
	row.Course, row.Labels = strings.TrimSpace(o.Course), o.Labels
	row.Title, row.ShortTitle, row.Description, row.Instructions = o.Title, o.ShortTitle, o.Description, o.Instructions
	row.Subject, row.Grades, row.Purpose, row.Language, row.Year = desk.SubjectCode(o.Subject), o.Grades, o.Purpose, o.Language, o.Year
	if row.ShortTitle == "" {
		row.ShortTitle = row.Title
		if letters := []rune(row.Title); len(letters) > mostShortTitle {
			row.ShortTitle = string(letters[:mostShortTitle-1]) + "…"
		}
	}
}

// change is one edit of an assessment at the version that was read. edit changes
// the row or what hangs on it and gives the ledger's before and after.
func (a *Build) change(ctx context.Context, v roster.Viewer, id int64, version int, name string, edit func(*store.Tx, *buildrows.Assessment) (before, after any, err error)) (Sheet, error) {
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := toChange(ctx, tx, v, id, version)
		if err != nil {
			return err
		}
		before, after, err := edit(tx, &row)
		if err != nil {
			return err
		}
		row.ChangedAt, row.ChangedBy = store.Millis(a.Now()), v.Name
		if err := buildrows.ChangeAssessment(ctx, tx, row); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: name, Thing: "assessment", ID: id, Title: row.Title, Before: before, After: after})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

// toChange gives an assessment that a viewer may change, at the version that they read.
func toChange(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64, version int) (buildrows.Assessment, error) {
	row, err := desk.Assessment(ctx, tx.Reader, v, id)
	switch {
	case err != nil:
		return row, err
	case !v.MayChange(row.Owned()):
		return row, desk.ErrForbidden
	case row.Version != version:
		return row, desk.StaleBy(row.ChangedBy)
	}
	return row, nil
}

// PutOutline changes the outline.
func (a *Build) PutOutline(ctx context.Context, v roster.Viewer, id int64, version int, in Outline) (Sheet, error) {
	was, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Sheet{}, err
	}
	if err := a.checkOutline(ctx, &in, was.Purpose); err != nil {
		return Sheet{}, err
	}
	return a.change(ctx, v, id, version, "assessment.outline", func(_ *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		before := row.Title
		in.write(row)
		return map[string]string{"title": before}, in.note(), nil
	})
}

// LineInput is a line as a person arranges it.
type LineInput struct {
	ItemID     int64
	VersionID  int64 // 0: the one that is placed, or else the newest
	Points     points.Points
	Part, Pool int      // of the layout, counted from 1; 0 for none
	Without    []string // the tools that it is answered without
}

// Bounds of an assessment.
const (
	mostLines  = 300
	mostPoints = 100 * points.One
)

// PutLines replaces the lines: placing, ordering, points, taking off and undo are
// all one list. A line that stays keeps its pinned version, its part, its pool and the tools that it is answered without.
func (a *Build) PutLines(ctx context.Context, v roster.Viewer, id int64, version int, in []LineInput) (Sheet, error) {
	return a.putLines(ctx, v, id, version, in, nil)
}

// PutLayout replaces the lines together with the parts and pools that they stand in.
func (a *Build) PutLayout(ctx context.Context, v roster.Viewer, id int64, version int, in []LineInput, layout form.Layout) (Sheet, error) {
	if err := checkLayout(&layout, in); err != nil {
		return Sheet{}, err
	}
	return a.putLines(ctx, v, id, version, in, &layout)
}

func (a *Build) putLines(ctx context.Context, v roster.Viewer, id int64, version int, in []LineInput, layout *form.Layout) (Sheet, error) {
	if err := checkLines(in); err != nil {
		return Sheet{}, err
	}
	return a.change(ctx, v, id, version, "assessment.lines", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		old, err := buildrows.Lines(ctx, tx.Reader, id)
		if err != nil {
			return nil, nil, err
		}
		rows, err := a.pin(ctx, tx, v, id, old, in)
		if err != nil {
			return nil, nil, err
		}
		before := row.Layout.V
		after := before
		if layout == nil {
			rows = settled(after, standing(rows, old))
		} else {
			after = *layout
		}
		row.Layout.V = after
		return noteOfLines(lineRows(old), before), noteOfLines(rows, after), buildrows.PutLines(ctx, tx, id, rows)
	})
}

// standing gives rows the parts, pools and tools that their lines have.
func standing(rows []buildrows.LineRow, old []buildrows.Line) []buildrows.LineRow {
	for i, r := range rows {
		if at := slices.IndexFunc(old, func(l buildrows.Line) bool { return l.ItemID == r.ItemID }); at >= 0 {
			rows[i].Part, rows[i].Pool, rows[i].Without = old[at].Part, old[at].Pool, old[at].Without
		}
	}
	return rows
}

func checkLines(in []LineInput) error {
	if len(in) > mostLines {
		return desk.Invalid("/lines", "An assessment has %d lines at most.", mostLines)
	}
	at := map[int64]int{}
	for i, l := range in {
		if l.Points <= 0 || l.Points > mostPoints {
			return desk.Invalid(fmt.Sprintf("/lines/%d/points", i), "Line %d: points must be more than 0 and at most %s.", i+1, mostPoints)
		}
		if first, twice := at[l.ItemID]; twice {
			return desk.Invalid(fmt.Sprintf("/lines/%d", i), "Line %d: this item is already line %d.", i+1, first)
		}
		at[l.ItemID] = i + 1
		for k, tool := range l.Without {
			if !slices.Contains(settings.OfLines, tool) || slices.Contains(l.Without[:k], tool) {
				return desk.Invalid(fmt.Sprintf("/lines/%d/without/%d", i, k), "Line %d: %q is no tool that a line can be answered without, or stands there twice.", i+1, tool)
			}
		}
	}
	return nil
}

// pin gives each line the version it asks for, holds, or would get anew.
// What is placed anew must be open to the viewer and not on hold for others.
func (a *Build) pin(ctx context.Context, tx *store.Tx, v roster.Viewer, assessment int64, old []buildrows.Line, in []LineInput) ([]buildrows.LineRow, error) {
	held := map[int64]int64{}
	for _, l := range old {
		held[l.ItemID] = l.ID
	}
	var fresh []int64
	for _, l := range in {
		if held[l.ItemID] == 0 {
			fresh = append(fresh, l.ItemID)
		}
	}
	if err := a.mayPlace(ctx, tx, v, assessment, fresh, in); err != nil {
		return nil, err
	}
	newest := map[int64]int64{}
	versions, err := bankrows.NewestVersions(ctx, tx.Reader, fresh)
	if err != nil {
		return nil, err
	}
	for _, version := range versions {
		newest[version.ItemID] = version.ID
	}
	rows := make([]buildrows.LineRow, len(in))
	for i, l := range in {
		version := held[l.ItemID]
		if version == 0 {
			version = newest[l.ItemID]
		}
		if l.VersionID > 0 && l.VersionID != version {
			ok, err := bankrows.IsVersionOf(ctx, tx.Reader, l.VersionID, l.ItemID)
			if err != nil {
				return nil, err
			}
			if ok {
				version = l.VersionID
			}
		}
		if version == 0 {
			return nil, desk.Invalid(fmt.Sprintf("/lines/%d/itemId", i), "Line %d: there is no such item.", i+1)
		}
		rows[i] = buildrows.LineRow{ItemID: l.ItemID, VersionID: version, Points: int64(l.Points), Part: l.Part, Pool: l.Pool, Without: strings.Join(l.Without, " ")}
	}
	return rows, nil
}

func (a *Build) mayPlace(ctx context.Context, tx *store.Tx, v roster.Viewer, assessment int64, fresh []int64, in []LineInput) error {
	if len(fresh) == 0 {
		return nil
	}
	rights, err := a.bank.RightsTo(ctx, tx.Reader, v, fresh)
	if err != nil {
		return err
	}
	items, _, err := bankrows.Items(ctx, tx.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: fresh, Limit: len(fresh)})
	if err != nil {
		return err
	}
	var e desk.InvalidError
	for _, it := range items {
		at := slices.IndexFunc(in, func(l LineInput) bool { return l.ItemID == it.ID })
		switch verdict := rights.MayPlaceOn(it, assessment); {
		case verdict.May:
		case !rights.May(bank.See, it).May:
			e.Add(fmt.Sprintf("/lines/%d/itemId", at), fmt.Sprintf("Line %d: there is no such item.", at+1))
		default:
			e.Add(fmt.Sprintf("/lines/%d/itemId", at), fmt.Sprintf("Line %d, %s: %s", at+1, it.Identifier, verdict.Why))
		}
	}
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}
