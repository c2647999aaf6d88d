package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/core/band"
	"pineledger/core/blueprint"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// States of an assessment.
const (
	Draft  = "draft"
	Sealed = "sealed"
	Out    = "out"
	Closed = "closed"
)

// Outline is what a person types of an assessment.
type Outline struct {
	Title, ShortTitle, Description, Instructions, Subject, Purpose, Language, Year string
	Grades                                                                         []string
}

// Sheet is an assessment opened: everything its screens show.
type Sheet struct {
	Assessment store.Assessment
	MayChange  bool // by right; a sealed one still wants a new edition first
	Lines      []SheetLine
	Total      points.Points
	Rows       []SheetRow
	Shortage   points.Points
	Excess     points.Points
	BandSet    *store.BandSet
	Cuts       *band.Cuts
	CutsFault  string // why the cuts cannot be computed on this form, if so
	Form       *store.Form
	Sittings   []store.Sitting
	Parts      []Part
	Faults     []string // what keeps it from being sealed
}

// SheetLine is a line with the blueprint row that claims it.
type SheetLine struct {
	store.Line
	Step    points.Points
	Passage string
	Row     int // place in Rows, -1 for none
	Credit  item.CreditRule
}

// SheetRow is a blueprint row with its balance.
type SheetRow struct {
	Title    string
	Filter   blueprint.Filter
	ByPoints bool
	Min, Max points.Points
	Balance  blueprint.RowBalance
}

// Part is one part of an assessment's spine.
type Part struct {
	Name   string
	State  string // in words
	Status string // done, wanting, untouched
}

// Assessments lists what a builder may see.
func (a *App) Assessments(ctx context.Context, v roster.Viewer, words string) ([]store.AssessmentListed, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	return a.store.Assessments(ctx, v.Scope(), words, 200)
}

// StartAssessment makes a blank draft.
func (a *App) StartAssessment(ctx context.Context, v roster.Viewer, in Outline) (Sheet, error) {
	if !v.MayBuild() {
		return Sheet{}, ErrForbidden
	}
	d, err := a.District(ctx)
	if err != nil {
		return Sheet{}, err
	}
	if in.Year == "" {
		in.Year = d.Year
	}
	if err := in.check(); err != nil {
		return Sheet{}, err
	}
	var id int64
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		row := store.Assessment{SchoolID: v.HomeSchool(), OwnerID: v.PersonID, ChangedAt: store.Millis(a.now()), ChangedBy: v.Name}
		in.write(&row)
		id, err = tx.AddAssessment(ctx, row)
		if err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "assessment.start", thing: "assessment", id: id, title: in.Title, after: in})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

// Purposes and languages that an outline may name.
var (
	Purposes  = []string{"benchmark", "common formative", "practice"}
	Languages = []string{"en", "es"}
)

func (o *Outline) check() error {
	var e InvalidError
	add := func(bad bool, pointer, format string, args ...any) {
		if bad {
			e.Fields = append(e.Fields, FieldError{pointer, fmt.Sprintf(format, args...)})
		}
	}
	o.Title, o.ShortTitle = strings.TrimSpace(o.Title), strings.TrimSpace(o.ShortTitle)
	add(o.Title == "" || len(o.Title) > 200, "/title", "A title of at most 200 characters is needed.")
	add(len(o.ShortTitle) > 60, "/shortTitle", "The short title has at most 60 characters.")
	add(len(o.Description) > 5000, "/description", "The description has at most 5,000 characters.")
	add(len(o.Instructions) > 20_000, "/instructions", "The instructions have at most 20,000 characters.")
	add(o.Subject == "", "/subject", "Choose a subject.")
	add(len(o.Grades) == 0, "/grades", "Choose one grade at least.")
	add(!slices.Contains(Purposes, o.Purpose), "/purpose", "Choose one of the purposes: %s.", strings.Join(Purposes, ", "))
	add(!slices.Contains(Languages, o.Language), "/language", "Choose one of the languages: %s.", strings.Join(Languages, ", "))
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}

func (o *Outline) write(row *store.Assessment) {
	row.Title, row.ShortTitle, row.Description, row.Instructions = o.Title, o.ShortTitle, o.Description, strings.TrimSpace(o.Instructions)
	row.Subject, row.Grades, row.Purpose, row.Language, row.Year = subjectCode(o.Subject), jsonList(o.Grades), o.Purpose, o.Language, o.Year
	if row.ShortTitle == "" {
		row.ShortTitle = row.Title
		if len(row.ShortTitle) > 60 {
			row.ShortTitle = strings.ToValidUTF8(row.ShortTitle[:60], "")
		}
	}
}

// assessment gives one that a viewer may see.
func assessment(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (store.Assessment, error) {
	row, err := r.AssessmentByID(ctx, id)
	if err == nil && !v.MaySee(row.Owned()) {
		err = ErrNotFound
	}
	return row, err
}

// change is one edit of an assessment at the version that was read. edit changes
// the row or what hangs on it and gives the ledger's before and after.
func (a *App) change(ctx context.Context, v roster.Viewer, id int64, version int, name string, edit func(*store.Tx, *store.Assessment) (before, after any, err error)) (Sheet, error) {
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		switch {
		case !v.MayChange(row.Owned()):
			return ErrForbidden
		case row.Version != version:
			return staleBy(row.ChangedBy)
		}
		before, after, err := edit(tx, &row)
		if err != nil {
			return err
		}
		row.ChangedAt, row.ChangedBy = store.Millis(a.now()), v.Name
		if err := tx.ChangeAssessment(ctx, row); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: name, thing: "assessment", id: id, title: row.Title, before: before, after: after})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

func mustBeDraft(row *store.Assessment) error {
	if row.State != Draft {
		return conflict("Edition %d is sealed. Begin a new edition to change it.", row.Edition)
	}
	return nil
}

// PutOutline changes the outline.
func (a *App) PutOutline(ctx context.Context, v roster.Viewer, id int64, version int, in Outline) (Sheet, error) {
	if err := in.check(); err != nil {
		return Sheet{}, err
	}
	return a.change(ctx, v, id, version, "assessment.outline", func(_ *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		before := row.Title
		in.write(row)
		return map[string]string{"title": before}, in, nil
	})
}

// LineInput is a line as a person arranges it.
type LineInput struct {
	ItemID    int64
	VersionID int64 // 0: the one that is placed, or else the newest
	Points    points.Points
}

// Bounds of an assessment.
const (
	mostLines  = 300
	mostPoints = 100 * points.One
)

// PutLines replaces the lines: placing, ordering, points, taking off and undo are
// all one list. A line that stays keeps its pinned version.
func (a *App) PutLines(ctx context.Context, v roster.Viewer, id int64, version int, in []LineInput) (Sheet, error) {
	if err := checkLines(in); err != nil {
		return Sheet{}, err
	}
	return a.change(ctx, v, id, version, "assessment.lines", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		old, err := tx.Lines(ctx, id)
		if err != nil {
			return nil, nil, err
		}
		rows, err := pin(ctx, tx, old, in)
		if err != nil {
			return nil, nil, err
		}
		before := make([]store.LineRow, len(old))
		for i, l := range old {
			before[i] = store.LineRow{ItemID: l.ItemID, VersionID: l.ID, Points: l.Points}
		}
		return before, rows, tx.PutLines(ctx, id, rows)
	})
}

func checkLines(in []LineInput) error {
	if len(in) > mostLines {
		return invalid("/lines", "An assessment has %d lines at most.", mostLines)
	}
	at := map[int64]int{}
	for i, l := range in {
		if l.Points <= 0 || l.Points > mostPoints {
			return invalid(fmt.Sprintf("/lines/%d/points", i), "Line %d: points must be more than 0 and at most %s.", i+1, mostPoints)
		}
		if first, twice := at[l.ItemID]; twice {
			return invalid(fmt.Sprintf("/lines/%d", i), "Line %d: this item is already line %d.", i+1, first)
		}
		at[l.ItemID] = i + 1
	}
	return nil
}

// pin gives each line the version it asks for, holds, or would get anew.
func pin(ctx context.Context, tx *store.Tx, old []store.Line, in []LineInput) ([]store.LineRow, error) {
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
	newest := map[int64]int64{}
	versions, err := tx.NewestVersions(ctx, fresh)
	if err != nil {
		return nil, err
	}
	for _, version := range versions {
		newest[version.ItemID] = version.ID
	}
	rows := make([]store.LineRow, len(in))
	for i, l := range in {
		version := held[l.ItemID]
		if version == 0 {
			version = newest[l.ItemID]
		}
		if l.VersionID > 0 && l.VersionID != version {
			ok, err := tx.IsVersionOf(ctx, l.VersionID, l.ItemID)
			if err != nil {
				return nil, err
			}
			if ok {
				version = l.VersionID
			}
		}
		if version == 0 {
			return nil, invalid(fmt.Sprintf("/lines/%d/itemId", i), "Line %d: there is no such item.", i+1)
		}
		rows[i] = store.LineRow{ItemID: l.ItemID, VersionID: version, Points: int64(l.Points)}
	}
	return rows, nil
}

// RowInput is a blueprint row as a person types it.
type RowInput struct {
	Title    string
	Filter   blueprint.Filter
	ByPoints bool
	Min, Max points.Points
}

// PutBlueprint replaces the blueprint.
func (a *App) PutBlueprint(ctx context.Context, v roster.Viewer, id int64, version int, in []RowInput) (Sheet, error) {
	if len(in) > 200 {
		return Sheet{}, invalid("/rows", "A blueprint has 200 rows at most.")
	}
	return a.change(ctx, v, id, version, "assessment.blueprint", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		rows := make([]store.BlueprintRow, len(in))
		for i, r := range in {
			filter, err := json.Marshal(r.Filter)
			if err != nil {
				return nil, nil, err
			}
			rows[i] = store.BlueprintRow{Title: strings.TrimSpace(r.Title), Filter: string(filter), ByPoints: r.ByPoints, Least: int64(r.Min), Most: int64(r.Max)}
		}
		if _, err := balance(ctx, tx.Reader, rows, nil); err != nil {
			return nil, nil, err
		}
		before, err := tx.Blueprint(ctx, id)
		if err != nil {
			return nil, nil, err
		}
		return before, rows, tx.PutBlueprint(ctx, id, rows)
	})
}

// ChooseBands sets the band set of an assessment; 0 takes it away.
func (a *App) ChooseBands(ctx context.Context, v roster.Viewer, id int64, version int, set int64) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.bands", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if set > 0 {
			if _, err := bandSet(ctx, tx.Reader, v, set); err != nil {
				return nil, nil, err
			}
		}
		before := row.BandSetID
		row.BandSetID = set
		return map[string]int64{"bandSet": before}, map[string]int64{"bandSet": set}, nil
	})
}

// Sheet opens an assessment.
func (a *App) Sheet(ctx context.Context, v roster.Viewer, id int64) (Sheet, error) {
	row, err := assessment(ctx, a.store.Reader, v, id)
	if err != nil {
		return Sheet{}, err
	}
	s := Sheet{Assessment: row, MayChange: v.MayChange(row.Owned())}
	lines, err := a.store.Lines(ctx, id)
	if err != nil {
		return s, err
	}
	if err := a.fillLines(ctx, &s, lines); err != nil {
		return s, err
	}
	if err := a.fillBalance(ctx, &s, lines); err != nil {
		return s, err
	}
	if err := a.fillCuts(ctx, &s); err != nil {
		return s, err
	}
	if row.State != Draft {
		f, err := a.store.FormOf(ctx, id, row.Edition)
		if err != nil && !errors.Is(err, ErrNotFound) {
			return s, err
		}
		s.Form = &f
	}
	if s.Sittings, err = a.store.Sittings(ctx, v.Scope(), store.SittingFilter{AssessmentID: id, Limit: 1000}); err != nil {
		return s, err
	}
	s.Parts = s.spine()
	return s, nil
}

func (a *App) fillLines(ctx context.Context, s *Sheet, lines []store.Line) error {
	titles, err := passageTitles(ctx, a.store.Reader, lines)
	if err != nil {
		return err
	}
	if len(lines) == 0 {
		s.Faults = append(s.Faults, "There are no lines yet.")
	}
	for i, l := range lines {
		it, err := item.Read([]byte(l.Document))
		if err != nil {
			return err
		}
		if problems := it.Check(); len(problems) > 0 {
			s.Faults = append(s.Faults, fmt.Sprintf("Line %d: %s.", i+1, problems[0].Reason))
		}
		p := points.Points(l.Points)
		s.Total += p
		s.Lines = append(s.Lines, SheetLine{Line: l, Step: it.Step(p), Passage: titles[l.PassageID], Row: -1, Credit: it.Credit})
	}
	return nil
}

func passageTitles(ctx context.Context, r store.Reader, lines []store.Line) (map[int64]string, error) {
	var ids []int64
	for _, l := range lines {
		if l.PassageID > 0 && !slices.Contains(ids, l.PassageID) {
			ids = append(ids, l.PassageID)
		}
	}
	passages, err := r.Passages(ctx, ids)
	titles := map[int64]string{}
	for _, p := range passages {
		titles[p.ID] = p.Title
	}
	return titles, err
}

func (a *App) fillBalance(ctx context.Context, s *Sheet, lines []store.Line) error {
	rows, err := a.store.Blueprint(ctx, s.Assessment.ID)
	if err != nil {
		return err
	}
	b, err := balance(ctx, a.store.Reader, rows, lines)
	if err != nil {
		return err
	}
	s.Shortage, s.Excess = b.Shortage, b.Excess
	for i, row := range rows {
		sheetRow := SheetRow{Title: row.Title, ByPoints: row.ByPoints, Min: points.Points(row.Least), Max: points.Points(row.Most), Balance: b.Rows[i]}
		if err := json.Unmarshal([]byte(row.Filter), &sheetRow.Filter); err != nil {
			return err
		}
		s.Rows = append(s.Rows, sheetRow)
		for _, id := range b.Rows[i].Lines {
			for at := range s.Lines {
				if lineID(s.Lines[at].Line) == id {
					s.Lines[at].Row = i
				}
			}
		}
	}
	return nil
}

func lineID(l store.Line) string { return fmt.Sprint(l.ItemID) }

// balance asks the core how stored rows and lines stand.
func balance(ctx context.Context, r store.Reader, rows []store.BlueprintRow, lines []store.Line) (blueprint.Balance, error) {
	plans := make([]blueprint.Row, len(rows))
	var codes []string
	for i, row := range rows {
		plans[i] = blueprint.Row{ID: fmt.Sprint("row ", i+1), ByPoints: row.ByPoints, Min: points.Points(row.Least), Max: points.Points(row.Most)}
		if err := json.Unmarshal([]byte(row.Filter), &plans[i].Filter); err != nil {
			return blueprint.Balance{}, err
		}
		codes = append(codes, plans[i].Filter.Standards...)
	}
	items := make([]blueprint.Item, len(lines))
	for i, l := range lines {
		items[i] = blueprint.Item{ID: lineID(l), Standards: strings.Fields(l.Standards), Kind: l.Kind, Depth: l.Depth, Language: l.Language,
			Points: points.Points(l.Points), Tags: strings.Fields(l.Tags)}
		if l.Difficulty.Valid {
			d := int(l.Difficulty.Int64)
			items[i].Difficulty = &d
		}
	}
	tree, err := treeOf(ctx, r, codes)
	if err != nil {
		return blueprint.Balance{}, err
	}
	b, err := blueprint.Compute(tree, plans, items)
	var place *blueprint.PlaceError
	if errors.As(err, &place) {
		return b, fromCore(&band.PlaceError{Place: place.Place, Reason: place.Reason})
	}
	return b, err
}

// treeOf gives the trees of the frameworks that hold the codes.
func treeOf(ctx context.Context, r store.Reader, codes []string) (blueprint.Tree, error) {
	standards, err := r.FrameworksOfCodes(ctx, codes)
	if err != nil {
		return blueprint.Tree{}, err
	}
	byID := map[int64]string{}
	for _, s := range standards {
		byID[s.ID] = s.Code
	}
	var nodes []blueprint.Standard
	for _, s := range standards {
		if s.Code != "" {
			nodes = append(nodes, blueprint.Standard{Code: s.Code, Parent: byID[s.ParentID]})
		}
	}
	return blueprint.NewTree(nodes)
}

// fillCuts computes the cuts on the lines as they stand.
func (a *App) fillCuts(ctx context.Context, s *Sheet) error {
	if s.Assessment.BandSetID == 0 {
		return nil
	}
	set, err := a.store.BandSetByID(ctx, s.Assessment.BandSetID)
	if err != nil {
		return err
	}
	s.BandSet = &set
	lines := make([]band.Line, len(s.Lines))
	for i, l := range s.Lines {
		lines[i] = band.Line{Points: points.Points(l.Points), Step: l.Step}
	}
	cuts, err := band.Compute(band.Form{Lines: lines, Rule: band.Rule(set.Rule), Bands: CoreBands(set.Bands)})
	var place *band.PlaceError
	if errors.As(err, &place) {
		s.CutsFault = sentence(place.Reason)
		return nil
	}
	s.Cuts = &cuts
	return err
}
