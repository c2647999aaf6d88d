package build

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/band"
	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// Sheet is an assessment opened: everything its screens show.
type Sheet struct {
	Assessment buildrows.Assessment
	MayChange  bool // by right; a sealed one still wants a new edition first
	MaySend    bool // and say with whom it is shared
	MayCopy    bool
	MayPrint   bool
	Lines      []SheetLine
	Layout     form.Layout
	Worth      []points.Points // of each part of the layout
	Pools      []SheetPool
	Each       int // lines that each student gets
	Total      points.Points
	Rows       []SheetRow
	Shortage   points.Points
	Excess     points.Points
	BandSet    *buildrows.BandSet
	NewerBands []string // what the newest version of the set would change; nil on a sealed form and where the cuts are its own
	Cuts       *band.Cuts
	CutsFault  string // why the cuts cannot be computed on this form, if so
	// Reported are the values that are reported for ranges of scores; ReportedFault says what they leave out on the lines as they stand.
	Reported      []band.Reported
	ReportedFault string
	Conversion    []band.Conversion // of raw scores to another scale; none where there is no such
	Form          *buildrows.Form
	Sittings      []giverows.Sitting
	Prepared      int // sections that it is to be sent to next, in scope
	Differs       int // settings that are not as its purpose says
	Supported     int // students who take it and have supports in their profiles, in scope
	Parts         []Part
	Faults        []string            // what keeps it from being sealed
	Document      *buildrows.Document // that is keyed, without its data
	Key           []KeyRow            // its questions
	Incomplete    int                 // lines that lack something
	Unsettled     int                 // parts and pools that cannot be sealed as they are
	CopiedFrom    *buildrows.Assessment
	Link          *buildrows.Link        // for those who share it; nil without one
	Forms         []buildrows.Assessment // twin forms, this one among them; none where there is one form
}

// SheetLine is a line with the blueprint row that claims it.
type SheetLine struct {
	buildrows.Line
	Step    points.Points
	Passage string
	Row     int // place in Rows, -1 for none
	Credit  item.CreditRule
	// Cautions are what to look at before it is sealed, each a sentence.
	Cautions []string
}

// SheetPool is what a pool holds and where what it gives counts.
type SheetPool struct {
	form.Pool
	Lines  int
	Points points.Points // of what each student gets
	Counts []int         // for each blueprint row, how many of what it gives are claimed
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

// Sheet opens an assessment.
func (a *Build) Sheet(ctx context.Context, v roster.Viewer, id int64) (Sheet, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Sheet{}, err
	}
	owned := row.Owned()
	s := Sheet{Assessment: row, MayChange: v.MayChange(owned), MaySend: v.MaySend(owned), MayCopy: v.MayCopy(owned), MayPrint: v.MayPrint(owned)}
	lines, err := buildrows.Lines(ctx, a.Store.Reader, id)
	if err != nil {
		return s, err
	}
	if err := a.fillLines(ctx, &s, lines); err != nil {
		return s, err
	}
	if row.DocumentHash != "" {
		if s.Key, err = keyOf(lines); err != nil {
			return s, err
		}
	}
	if err := a.fillBalance(ctx, &s, lines); err != nil {
		return s, err
	}
	if row.State.IsSealed() {
		f, err := buildrows.FormOf(ctx, a.Store.Reader, id, row.Edition)
		if err != nil {
			return s, err
		}
		s.Form = &f
	}
	if err := a.fillCuts(ctx, &s); err != nil {
		return s, err
	}
	if err := a.fillReported(ctx, &s); err != nil {
		return s, err
	}
	book, err := giverows.BookOf(ctx, a.Store.Reader, []int64{id})
	if err != nil {
		return s, err
	}
	usual := settings.Place{Purpose: s.Assessment.Purpose}
	s.Differs = len(settings.Changes(book.Values(usual), book.Values(settings.Place{Purpose: usual.Purpose, Assessment: id})))
	if s.Supported, err = giverows.WithSupports(ctx, a.Store.Reader, v.Scope(), id); err != nil {
		return s, err
	}
	if s.Sittings, err = giverows.Sittings(ctx, a.Store.Reader, v.Scope(), giverows.SittingFilter{AssessmentID: id, Limit: 1000}); err != nil {
		return s, err
	}
	s.Sittings = giverows.ByRoom(s.Sittings)
	if s.Prepared, err = giverows.Prepared(ctx, a.Store.Reader, v.Scope(), id); err != nil {
		return s, err
	}
	s.Parts = s.spine()
	if !v.MayBuild() {
		s.Parts = []Part{s.linesPart()} // who only looks has no work to find their way through
		s.Assessment.Shares = nil       // nor needs to know who else looks
	}
	return s, a.fillKin(ctx, v, &s)
}

// fillKin names an assessment's document, what it was copied from and its twin forms, as far as the viewer may see them.
func (a *Build) fillKin(ctx context.Context, v roster.Viewer, s *Sheet) error {
	if hash := s.Assessment.DocumentHash; hash != "" {
		doc, err := buildrows.DocumentNamed(ctx, a.Store.Reader, hash)
		if err != nil {
			return err
		}
		s.Document = &doc
	}
	if from := s.Assessment.CopiedFrom; from > 0 {
		row, err := desk.Assessment(ctx, a.Store.Reader, v, from)
		switch {
		case err == nil:
			s.CopiedFrom = &row
		case !errors.Is(err, desk.ErrNotFound):
			return err
		}
	}
	if s.MaySend {
		link, err := buildrows.LinkOf(ctx, a.Store.Reader, s.Assessment.ID)
		switch {
		case err == nil:
			s.Link = &link
		case !errors.Is(err, desk.ErrNotFound):
			return err
		}
	}
	if s.Assessment.FormLetter == "" {
		return nil
	}
	forms, err := buildrows.TwinForms(ctx, a.Store.Reader, cmp.Or(s.Assessment.TwinOf, s.Assessment.ID))
	for _, f := range forms {
		if v.MaySee(f.Owned()) {
			s.Forms = append(s.Forms, f)
		}
	}
	return err
}

func (a *Build) fillLines(ctx context.Context, s *Sheet, lines []buildrows.Line) error {
	titles, err := passageTitles(ctx, a.Store.Reader, lines)
	if err != nil {
		return err
	}
	if len(lines) == 0 {
		s.Faults = append(s.Faults, "There are no lines yet.")
	}
	s.Layout = s.Assessment.Layout.V
	scope := assessment.Scope{Subject: s.Assessment.Subject, Grades: s.Assessment.Grades}
	for i, l := range lines {
		it, err := item.Read([]byte(l.Document))
		if err != nil {
			return err
		}
		if problems := it.Check(); len(problems) > 0 {
			s.Incomplete++
			s.Faults = append(s.Faults, fmt.Sprintf("Line %d: %s.", i+1, problems[0].Reason))
		}
		p := points.Points(l.Points)
		cautions := scope.LineCautions(l.Subject, l.Grade, l.WrongKey)
		s.Lines = append(s.Lines, SheetLine{Line: l, Step: it.Step(p), Passage: titles[l.PassageID], Row: -1, Credit: it.Credit, Cautions: cautions})
	}
	placed := s.Placed()
	faults := s.Layout.Faults(placed)
	s.Faults, s.Unsettled = append(s.Faults, faults...), len(faults)
	s.Total, s.Worth = s.Layout.Worth(placed)
	each := s.Layout.Each(placed)
	s.Each = len(each)
	for i, p := range s.Layout.Pools {
		pool := SheetPool{Pool: p}
		for _, l := range lines {
			if l.Pool == i+1 {
				pool.Lines++
			}
		}
		for _, l := range each {
			if l.Pool == i+1 {
				pool.Points += l.Points
			}
		}
		s.Pools = append(s.Pools, pool)
	}
	return nil
}

// Placed is what the layout must know of the lines.
func (s *Sheet) Placed() []form.Placed {
	out := make([]form.Placed, len(s.Lines))
	for i, l := range s.Lines {
		out[i] = form.Placed{Part: l.Part, Pool: l.Line.Pool, Points: points.Points(l.Points), Step: l.Step}
		if l.PassageID > 0 {
			out[i].Passage = fmt.Sprint(l.PassageID)
		}
	}
	return out
}

func passageTitles(ctx context.Context, r store.Reader, lines []buildrows.Line) (map[int64]string, error) {
	var ids []int64
	for _, l := range lines {
		if l.PassageID > 0 && !slices.Contains(ids, l.PassageID) {
			ids = append(ids, l.PassageID)
		}
	}
	passages, err := bankrows.Passages(ctx, r, ids)
	titles := map[int64]string{}
	for _, p := range passages {
		titles[p.ID] = p.Title
	}
	return titles, err
}

func (a *Build) fillBalance(ctx context.Context, s *Sheet, lines []buildrows.Line) error {
	rows, err := buildrows.Blueprint(ctx, a.Store.Reader, s.Assessment.ID)
	if err != nil {
		return err
	}
	b, err := balance(ctx, a.Store.Reader, rows, lines, s.Layout)
	if err != nil {
		return err
	}
	for k := range s.Pools {
		for _, row := range b.Rows {
			s.Pools[k].Counts = append(s.Pools[k].Counts, row.Pools[k])
		}
	}
	s.Shortage, s.Excess = b.Shortage, b.Excess
	for i, row := range rows {
		sheetRow := SheetRow{Title: row.Title, Filter: row.Filter.V, ByPoints: row.ByPoints, Min: points.Points(row.Least), Max: points.Points(row.Most), Balance: b.Rows[i]}
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

func lineID(l buildrows.Line) string { return fmt.Sprint(l.ItemID) }

// lineItem is what a blueprint must know of a line.
func lineItem(l buildrows.Line) blueprint.Item {
	it := blueprint.Item{ID: lineID(l), Standards: desk.Codes(l.Standards), Kind: l.Kind, Depth: l.Depth, Language: l.Language, Points: points.Points(l.Points), Tags: desk.Codes(l.Tags), Bank: l.Bank}
	if l.Difficulty != nil {
		d := int(*l.Difficulty)
		it.Difficulty = &d
	}
	return it
}

// balance asks the core how stored rows and lines stand.
func balance(ctx context.Context, r store.Reader, rows []buildrows.BlueprintRow, lines []buildrows.Line, layout form.Layout) (blueprint.Balance, error) {
	plans := make([]blueprint.Row, len(rows))
	var codes []string
	for i, row := range rows {
		plans[i] = blueprint.Row{ID: fmt.Sprint("row ", i+1), Filter: row.Filter.V, ByPoints: row.ByPoints, Min: points.Points(row.Least), Max: points.Points(row.Most)}
		codes = append(codes, plans[i].Filter.Standards...)
	}
	items := make([]blueprint.Item, len(lines))
	for i, l := range lines {
		items[i] = lineItem(l)
	}
	tree, err := treeOf(ctx, r, codes)
	if err != nil {
		return blueprint.Balance{}, err
	}
	pools := make([]blueprint.Pool, len(layout.Pools))
	for i, p := range layout.Pools {
		pools[i].Choose = p.Choose
	}
	for i, l := range lines {
		if l.Pool > 0 {
			pools[l.Pool-1].Lines = append(pools[l.Pool-1].Lines, i)
		}
	}
	b, err := blueprint.Compute(tree, plans, items, pools...)
	var place *blueprint.PlaceError
	if errors.As(err, &place) {
		return b, FromCore(&band.PlaceError{Place: place.Place, Reason: place.Reason})
	}
	return b, err
}

// treeOf gives the trees of the frameworks that hold the codes.
func treeOf(ctx context.Context, r store.Reader, codes []string) (blueprint.Tree, error) {
	standards, err := bankrows.FrameworksOfCodes(ctx, r, codes)
	if err != nil {
		return blueprint.Tree{}, err
	}
	byID := map[int64]bankrows.Standard{}
	for _, s := range standards {
		byID[s.ID] = s
	}
	var nodes []blueprint.Standard
	for _, s := range standards {
		if s.Code != "" {
			above := byID[s.ParentID]
			for above.Code == "" && above.ParentID > 0 { // a heading without a code
				above = byID[above.ParentID]
			}
			nodes = append(nodes, blueprint.Standard{Code: s.Code, Parent: above.Code})
		}
	}
	return blueprint.NewTree(nodes)
}

// fillReported reads the values that are reported for scores, and what they leave out on the lines as they stand.
func (a *Build) fillReported(ctx context.Context, s *Sheet) (err error) {
	if s.Form != nil {
		f, err := a.FormByID(ctx, s.Form.ID)
		s.Reported = f.Reported
		return err
	}
	if s.Reported, err = buildrows.ReportedValues(ctx, a.Store.Reader, s.Assessment.ID); err != nil || len(s.Reported) == 0 || len(s.Lines) == 0 {
		return err
	}
	var place *band.PlaceError
	if errors.As(checkReported(*s, s.Reported), &place) {
		s.ReportedFault = desk.Sentence(place.Reason)
		s.Faults = append(s.Faults, "Reported values: "+s.ReportedFault)
	}
	return nil
}

// checkReported holds ranges against the scores that the lines as they stand can add up to.
func checkReported(s Sheet, ranges []band.Reported) error {
	sums, err := s.Layout.Cuts(s.Placed(), band.AtLeast, []band.Band{{Name: "All"}}, nil)
	if err != nil {
		return err
	}
	return band.CheckReported(ranges, sums.Total, sums.Grain)
}

// fillCuts computes the cuts on the lines as they stand.
func (a *Build) fillCuts(ctx context.Context, s *Sheet) error {
	if s.Assessment.BandSetID == 0 {
		return nil
	}
	set, err := buildrows.BandsOf(ctx, a.Store.Reader, s.Assessment)
	if err != nil {
		return err
	}
	s.BandSet = &set
	if s.Form != nil { // sealed: the bands as they were then, whatever has become of the set
		f, err := a.FormOfRecord(ctx, a.Store.Reader, s.Form.ID)
		if err != nil {
			return err
		}
		set.Name, set.Rule, set.Bands = f.BandSet, string(f.Rule), bandRows(f.Bands)
		cuts, err := f.Cuts()
		s.Cuts, s.Conversion = &cuts, f.Conversion
		return err
	}
	if !set.Own && set.Version > set.Stands {
		newest, err := buildrows.BandSetByID(ctx, a.Store.Reader, set.ID)
		if err != nil {
			return err
		}
		s.NewerBands = band.Changes(CoreBands(set.Bands), CoreBands(newest.Bands))
		if newest.Rule != set.Rule {
			s.NewerBands = append(s.NewerBands, "Percent cuts become scores by another rule.")
		}
	}
	if id := s.Assessment.ConversionID; id > 0 {
		if s.Conversion, err = buildrows.Conversion(ctx, a.Store.Reader, id); err != nil {
			return err
		}
	}
	cuts, err := s.Layout.Cuts(s.Placed(), band.Rule(set.Rule), CoreBands(set.Bands), s.Conversion)
	var place *band.PlaceError
	if errors.As(err, &place) {
		s.CutsFault = desk.Sentence(place.Reason)
		if strings.HasPrefix(place.Place, "conversion") {
			s.CutsFault = "The table of scale scores does not fit these lines: " + place.Reason + ". Choose another, or none."
		}
		return nil
	}
	s.Cuts = &cuts
	return err
}
