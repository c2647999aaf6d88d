package read

import (
	"context"
	"slices"
	"sort"
	"strconv"
	"strings"

	"pineledger/app/desk"
	"pineledger/app/take"
	"pineledger/core/band"
	"pineledger/core/bank"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/results"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/cutrows"
	"pineledger/store/giverows"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
)

// Results lists the distributions that a member of staff may read results of.
func (a *Read) Results(ctx context.Context, v roster.Viewer) ([]readrows.ResultListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	return readrows.Results(ctx, a.Store.Reader, v.Scope(), 100)
}

// ResultHead is what every page of a distribution's results says at its top.
type ResultHead struct {
	readrows.ResultListed
	Edition     int
	Fingerprint string
	Total       points.Points
	BandSet     string
	Cuts        *band.Cuts        // nil without bands
	Recut       *cutrows.Record   // what changed the cuts last; nil where they are those that were sealed
	Reported    []band.Reported   // values that are reported for ranges of scores
	Conversion  []band.Conversion // of raw scores to another scale
	Lines       []ResultLine
	// KeysClosed: stems and keys are left out, for the viewer's classes have yet to sit it.
	KeysClosed bool
	// NotComparable is how many results in scope are in no summary, since a support broke what is measured.
	NotComparable int
}

// ResultLine is a line as results head it.
type ResultLine struct {
	Number     int
	ItemID     int64
	Identifier string
	Stem       string
	Standards  []string
	Points     points.Points
	Key        string
}

func (a *Read) resultHead(ctx context.Context, v roster.Viewer, distribution int64) (ResultHead, form.Form, error) {
	if !v.MayReadKeys() {
		return ResultHead{}, form.Form{}, desk.ErrForbidden
	}
	row, err := readrows.ResultByID(ctx, a.Store.Reader, v.Scope(), distribution)
	if err != nil {
		return ResultHead{}, form.Form{}, err
	}
	sealed, err := buildrows.FormByID(ctx, a.Store.Reader, row.FormID)
	if err != nil {
		return ResultHead{}, form.Form{}, err
	}
	recorded, err := a.FormOfRecord(ctx, a.Store.Reader, row.FormID)
	f := recorded.Form
	if err != nil {
		return ResultHead{}, f, err
	}
	h := ResultHead{ResultListed: row, Edition: f.Edition, Fingerprint: sealed.Fingerprint, Total: f.Total(), BandSet: f.BandSet, Reported: f.Reported, Conversion: f.Conversion}
	if len(f.Bands) > 0 {
		cuts, err := f.Cuts()
		if err != nil {
			return h, f, err
		}
		h.Cuts = &cuts
	}
	if recorded.CutsID > 0 {
		records, err := cutrows.Records(ctx, a.Store.Reader, row.FormID)
		if err != nil {
			return h, f, err
		}
		h.Recut = &records[len(records)-1]
	}
	if h.NotComparable, err = readrows.NotComparable(ctx, a.Store.Reader, v.Scope(), distribution); err != nil {
		return h, f, err
	}
	h.KeysClosed = !v.MayReadKeysBefore(a.Now().UnixMilli() >= row.ClosesAt, row.KeysOpen)
	for i, l := range f.Lines {
		if h.KeysClosed {
			h.Lines = append(h.Lines, ResultLine{Number: i + 1, Standards: l.Standards, Points: l.Points})
			continue
		}
		h.Lines = append(h.Lines, ResultLine{Number: i + 1, ItemID: l.ItemID, Identifier: l.Identifier, Stem: l.Item.Stem(), Standards: l.Standards, Points: l.Points, Key: l.Item.KeyShort()})
	}
	return h, f, nil
}

// Group is a row of results: a section, a school or all together.
type Group struct {
	SchoolID, SectionID int64 // 0 in a row of a school or of all
	School, Section     string
	results.Group
	Mean int64 // tenths of a percent of the total; -1 without a final result
}

// ByBand is a distribution by band and by standard.
type ByBand struct {
	Head    ResultHead
	Parent  string // the standard whose children the strands are
	Strands []form.Strand
	Rows    []Group // sections
	Schools []Group
	All     Group
	// Beside are the whole schools of these sections and, with SchoolID 0, the whole district, for who sees a part of them only.
	Beside []Group
}

// ResultsByBand counts bands and sums credit under the children of a standard
// ("" lets the form choose) for each section, school and all in scope.
func (a *Read) ResultsByBand(ctx context.Context, v roster.Viewer, distribution int64, parent string) (ByBand, error) {
	head, f, err := a.resultHead(ctx, v, distribution)
	if err != nil {
		return ByBand{}, err
	}
	if parent == "" {
		parent = f.Top()
	}
	out := ByBand{Head: head, Parent: parent, Strands: f.Under(parent)}
	if err := a.fillGroups(ctx, &out, v.Scope(), f); err != nil || v.Scope().District {
		return out, err
	}
	whole := ByBand{Head: head, Strands: out.Strands}
	err = a.fillGroups(ctx, &whole, roster.Scope{District: true}, f)
	out.beside(whole)
	return out, err
}

// fillGroups reads what is in a scope and groups it.
func (a *Read) fillGroups(ctx context.Context, b *ByBand, scope roster.Scope, f form.Form) error {
	distribution := b.Head.DistributionID
	sittings, err := giverows.Sittings(ctx, a.Store.Reader, scope, giverows.SittingFilter{DistributionID: distribution, Limit: 5000})
	if err != nil {
		return err
	}
	counts, err := readrows.BandCounts(ctx, a.Store.Reader, scope, distribution)
	if err != nil {
		return err
	}
	tallies, err := readrows.LineTallies(ctx, a.Store.Reader, scope, distribution)
	if err != nil {
		return err
	}
	b.group(f, sittings, counts, tallies)
	return nil
}

// beside takes from the whole what may stand beside the part that is seen. The district stands
// beside the schools that are told, too: what is left of it must not be too few either.
func (b *ByBand) beside(whole ByBand) {
	told := b.newGroup()
	for _, school := range whole.Schools {
		at := slices.IndexFunc(b.Schools, func(g Group) bool { return g.SchoolID == school.SchoolID })
		switch {
		case at < 0:
		case school.MayStandBeside(b.Schools[at].Group):
			b.Beside = append(b.Beside, school)
			told.Add(school.Group)
		default:
			told.Add(b.Schools[at].Group)
		}
	}
	if whole.All.MayStandBeside(told.Group) {
		b.Beside = append(b.Beside, whole.All)
	}
}

func (b *ByBand) newGroup() Group {
	bands := 0
	if b.Head.Cuts != nil {
		bands = len(b.Head.Cuts.Starts)
	}
	return Group{Group: results.NewGroup(max(1, bands), len(b.Strands))}
}

// group fills the rows of sections and adds them up to schools and to all.
func (b *ByBand) group(f form.Form, sittings []giverows.Sitting, counts []readrows.BandCount, tallies []readrows.LineTally) {
	at := map[int64]int{}
	home := map[int64]int{} // where the row of a section is: those who made it up count in it
	for _, s := range sittings {
		if i, has := home[s.SectionID]; has {
			at[s.ID] = i
			continue
		}
		home[s.SectionID] = len(b.Rows)
		g := b.newGroup()
		g.SchoolID, g.School, g.SectionID, g.Section = s.SchoolID, s.School, s.SectionID, s.Section
		at[s.ID] = len(b.Rows)
		b.Rows = append(b.Rows, g)
	}
	for _, c := range counts {
		g := &b.Rows[at[c.SittingID]]
		switch {
		case !c.Final:
			g.Waiting += c.N
		case c.Band == nil:
			g.Final(c.N, -1, points.Points(c.Raw))
		default:
			g.Final(c.N, int(*c.Band), points.Points(c.Raw))
		}
	}
	for _, t := range tallies {
		b.Rows[at[t.SittingID]].Line(b.Strands, t.Line-1, f.Lines[t.Line-1].Points, t.N, points.Points(t.Credit))
	}
	b.All = b.newGroup()
	schools := map[int64]int{}
	for i := range b.Rows {
		row := &b.Rows[i]
		k, ok := schools[row.SchoolID]
		if !ok {
			k = len(b.Schools)
			schools[row.SchoolID] = k
			g := b.newGroup()
			g.SchoolID, g.School = row.SchoolID, row.School
			b.Schools = append(b.Schools, g)
		}
		b.Schools[k].Add(row.Group)
		b.All.Add(row.Group)
		row.Mean = row.MeanTenths(b.Head.Total)
	}
	for i := range b.Schools {
		b.Schools[i].Mean = b.Schools[i].MeanTenths(b.Head.Total)
	}
	b.All.Mean = b.All.MeanTenths(b.Head.Total)
}

// MatrixQuery narrows and orders the matrix.
type MatrixQuery struct {
	readrows.MatrixFilter
	Sort   string // "student", "section", "raw", or a line's number; "-" before it turns it round
	Offset int
	Limit  int // 0: all
}

// Matrix is students × lines, with what the filter leaves.
type Matrix struct {
	Head  ResultHead
	Rows  []readrows.MatrixRow // the page
	Total int                  // rows that the filter leaves
	Lines []results.Line       // over those rows
}

// Matrix gives a page of students × lines.
func (a *Read) Matrix(ctx context.Context, v roster.Viewer, distribution int64, q MatrixQuery) (Matrix, error) {
	head, f, err := a.resultHead(ctx, v, distribution)
	if err != nil {
		return Matrix{}, err
	}
	rows, err := readrows.Matrix(ctx, a.Store.Reader, v.Scope(), distribution, q.MatrixFilter)
	if err != nil {
		return Matrix{}, err
	}
	if err := sortMatrix(rows, q.Sort, len(f.Lines)); err != nil {
		return Matrix{}, err
	}
	m := Matrix{Head: head, Total: len(rows), Lines: summarize(f, rows)}
	from := min(max(q.Offset, 0), len(rows))
	to := len(rows)
	if q.Limit > 0 {
		to = min(from+q.Limit, len(rows))
	}
	m.Rows = rows[from:to]
	return m, nil
}

func sortMatrix(rows []readrows.MatrixRow, by string, lines int) error {
	key, backward := strings.CutPrefix(by, "-")
	var less func(x, y readrows.MatrixRow) bool
	switch line, err := strconv.Atoi(key); {
	case key == "" || key == "student":
		less = func(x, y readrows.MatrixRow) bool { return false } // they come by name
		if backward {
			less = func(x, y readrows.MatrixRow) bool { return x.Student < y.Student }
		}
	case key == "section":
		less = func(x, y readrows.MatrixRow) bool {
			return x.School < y.School || x.School == y.School && x.Section < y.Section
		}
	case key == "raw":
		less = func(x, y readrows.MatrixRow) bool { return x.Raw < y.Raw }
	case err == nil && line >= 1 && line <= lines:
		less = func(x, y readrows.MatrixRow) bool { return x.Credits[line-1].Credit < y.Credits[line-1].Credit }
	default:
		return desk.Invalid("/sort", "%q is not student, section, raw or the number of a line.", by)
	}
	sort.SliceStable(rows, func(i, j int) bool {
		if backward {
			return less(rows[j], rows[i])
		}
		return less(rows[i], rows[j])
	})
	return nil
}

func summarize(f form.Form, rows []readrows.MatrixRow) []results.Line {
	lines := results.NewLines(len(f.Lines))
	for _, r := range rows {
		if r.Apart {
			continue
		}
		for i := range f.Lines {
			lines.Count(i, r.Credits[i].Credit, r.Credits[i].Outcome)
		}
	}
	return lines.Of(func(i int) points.Points { return f.Lines[i].Points })
}

// Trail is where one student's score comes from.
type Trail struct {
	Head    ResultHead
	Student readrows.MatrixRow
	Attempt takerows.Attempt
	Percent int64  // tenths; -1 while something waits for a reader
	Value   string // that is reported for the score; "" where none is
	Scale   *points.Points
	Lines   []TrailLine
	// Scorings are all of the attempt, the oldest first: each says what the score and the band were by it.
	Scorings []readrows.Scoring
}

// TrailLine is one line's derivation: response, key, rule, points, credit.
type TrailLine struct {
	ResultLine
	Version  int
	Rule     item.CreditRule
	Response []string // as the student saw the choices: letters, or what was typed
	Saved    int64    // when the answer came to disk, 0 without one
	Credit   item.Credit
}

// Trail gives a score's derivation, computed again from the kept responses and
// the sealed form. It fails when that gives another score than the one kept.
func (a *Read) Trail(ctx context.Context, v roster.Viewer, distribution, attemptID int64) (Trail, error) {
	head, f, err := a.resultHead(ctx, v, distribution)
	if err != nil {
		return Trail{}, err
	}
	row, attempt, err := readrows.ScoreInScope(ctx, a.Store.Reader, v.Scope(), attemptID)
	if err != nil {
		return Trail{}, err
	}
	if attempt.FormID != head.FormID {
		return Trail{}, desk.ErrNotFound
	}
	if head.KeysClosed {
		return Trail{}, desk.Refusal(bank.Verdict{Why: "Answers and keys open when the window is over, or when a coordinator opens them."})
	}
	scorings, err := readrows.Scorings(ctx, a.Store.Reader, attemptID)
	if err != nil {
		return Trail{}, err
	}
	kept := scorings[len(scorings)-1]
	answers, err := takerows.AnswersBy(ctx, a.Store.Reader, attemptID, kept.ID)
	if err != nil {
		return Trail{}, err
	}
	used, err := a.FormWithCuts(ctx, kept.FormID, kept.CutsID)
	if err != nil {
		return Trail{}, err
	}
	score, err := take.ScoreAnswers(used.Form, answers, attempt)
	if err != nil {
		return Trail{}, err
	}
	if score.Raw != kept.Raw || score.Band != kept.Band || score.Final != kept.Final {
		return Trail{}, desk.Conflict("The kept score of %s does not follow from the kept answers; run pineledger verify.", row.Student)
	}
	t := Trail{Head: head, Student: row, Attempt: attempt, Percent: -1, Scorings: scorings}
	if row.Final {
		t.Percent = points.Tenths(row.Raw, head.Total)
		t.Value, t.Scale = band.ReportedOf(head.Reported, row.Raw), band.ScaleOf(head.Conversion, row.Raw)
	}
	saved := map[int]takerows.SavedAnswer{}
	for _, answer := range answers {
		saved[answer.Line] = answer
	}
	for i, l := range f.Lines {
		line := TrailLine{ResultLine: head.Lines[i], Version: l.Version, Rule: l.Item.Credit, Credit: score.Credits[i], Response: []string{}}
		if answer, ok := saved[i+1]; ok {
			line.Response, line.Saved = l.Item.ResponseShort(answer.Response.V), answer.SavedAt
		}
		t.Lines = append(t.Lines, line)
	}
	return t, nil
}
