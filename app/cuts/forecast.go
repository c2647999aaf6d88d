// Package cuts is the room where cuts are weighed: what they would do before an assessment is given.
package cuts

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"

	lru "github.com/hashicorp/golang-lru/v2"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/official"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/results"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/cutrows"
)

// Cuts weighs cuts.
type Cuts struct {
	*desk.Desk
	build *build.Build
	// prospects holds what was expected of the forms that people look at, so that a cut that moves is answered at once.
	prospects *lru.Cache[string, prospect]
}

// mostProspects is how many are held; each takes some megabytes where there are many schools.
const mostProspects = 16

// New opens the room, and ends the calibrations that the program left when it stopped.
func New(ctx context.Context, d *desk.Desk, b *build.Build) (*Cuts, error) {
	held, err := lru.New[string, prospect](mostProspects)
	if err != nil {
		return nil, err
	}
	a := &Cuts{d, b, held}
	return a, a.endLeft(ctx)
}

// Assumed are the abilities of students who have no scored work in the subject yet, in logits.
type Assumed struct{ Mean, SD float64 }

// Question is which cuts to weigh.
type Question struct {
	Bands   []band.Band // none: those that stand
	Rule    band.Rule   // "": that which stands
	School  int64       // of which sections are told; 0 for the schools
	Assumed Assumed
}

// Forecast is what cuts would do.
type Forecast struct {
	Cuts       band.Cuts
	Known      predict.Knowledge
	Students   int                 // who will sit, but for those of schools that are too small
	Placed     int                 // of them with scored work in the subject
	SmallOnes  int                 // schools with too few students to be told of
	Off        []official.Off      // cuts that equal nothing official, where there are tables
	Because    string              // why nothing is predicted; "" where something is
	Prediction *predict.Prediction // nil where nothing is predicted
	// Of a form that was given, what these cuts make of the scores; Observed is nil before ten students of a school have such.
	Observed *predict.Tallied
	Schools  []predict.Tallied
	// Groups are the ids of the schools, or of a school's sections, in the order of the prediction's groups.
	Groups []int64
	// Sources are what cuts were taken from.
	Sources []Taken
}

// Taken is a cut that was taken from an official table.
type Taken struct {
	Band     string
	Table    cutrows.OfficialTable
	Official string // the band that begins there
	Raw      points.Points
}

// prospect is what is expected of a form, with what it was made from.
type prospect struct {
	known    predict.Knowledge
	students int
	placed   int
	small    int
	groups   []int64           // whose they are
	expected *predict.Prospect // nil where too little is known
}

// Forecast tells what cuts would do to the students who will sit an assessment.
func (a *Cuts) Forecast(ctx context.Context, v roster.Viewer, id int64, q Question) (Forecast, error) {
	if !v.MayBuild() {
		return Forecast{}, desk.ErrForbidden
	}
	sheet, err := a.build.Sheet(ctx, v, id)
	if err != nil {
		return Forecast{}, err
	}
	if sheet.BandSet == nil {
		return Forecast{}, desk.Conflict("Choose a band set first.")
	}
	bands := q.Bands
	if len(bands) == 0 {
		bands = build.CoreBands(sheet.BandSet.Bands)
	}
	placed := sheet.Placed()
	rule := band.Rule(cmp.Or(string(q.Rule), sheet.BandSet.Rule))
	cuts, err := sheet.Layout.Cuts(placed, rule, bands, sheet.Conversion)
	if err != nil {
		return Forecast{}, build.FromCore(err)
	}
	p, err := a.prospect(ctx, v, ofSheet(sheet), cuts.Grain, q.School, q.Assumed)
	if err != nil {
		return Forecast{}, err
	}
	tables, err := a.tablesFor(ctx, sheet.Assessment.Subject, sheet.Assessment.Grades)
	if err != nil {
		return Forecast{}, err
	}
	out := Forecast{Off: official.Differing(cuts, rule, sheet.Conversion, tables), Cuts: cuts, Known: p.known, Students: p.students, Placed: p.placed, SmallOnes: p.small, Because: because(p, q.School > 0), Groups: p.groups}
	if out.Sources, err = a.sources(ctx, bands); err != nil {
		return out, err
	}
	if p.expected != nil {
		predicted := p.expected.With(cuts)
		out.Prediction = &predicted
	}
	if sheet.Form != nil {
		out.Schools, out.Observed, err = a.observed(ctx, v, sheet.Form.ID, q.School, cuts)
	}
	return out, err
}

// sources tells what cuts were taken from.
func (a *Cuts) sources(ctx context.Context, bands []band.Band) ([]Taken, error) {
	var out []Taken
	for _, b := range bands {
		s := b.Cut.Source
		if s == nil {
			continue
		}
		table, row, err := a.officialTable(ctx, s.Table)
		if errors.Is(err, desk.ErrNotFound) {
			continue // weighed, and nothing that could be kept
		}
		if err != nil {
			return nil, err
		}
		taken := Taken{Band: b.Name, Table: row, Raw: s.Raw}
		for _, r := range table.Rows {
			if r.Raw == s.Raw {
				taken.Official = r.Band
			}
		}
		out = append(out, taken)
	}
	return out, nil
}

// observed is what cuts make of the scores that were got on a sealed form.
func (a *Cuts) observed(ctx context.Context, v roster.Viewer, form, school int64, cuts band.Cuts) ([]predict.Tallied, *predict.Tallied, error) {
	rows, err := cutrows.WhatWasGot(ctx, a.Store.Reader, v.Scope(), form, school)
	if err != nil {
		return nil, nil, err
	}
	var groups []predict.Got
	for i, row := range rows {
		if i == 0 || row.GroupID != rows[i-1].GroupID {
			groups = append(groups, predict.Got{Name: row.Group})
		}
		g := &groups[len(groups)-1]
		g.Scores = append(g.Scores, band.Scored{Raw: points.Points(row.Raw), N: row.N})
	}
	return predict.Observe(cuts, groups)
}

// because says why nothing can be predicted.
func because(p prospect, ofSections bool) string {
	k := p.known
	switch {
	case !k.Enough():
		return fmt.Sprintf("Nothing is predicted: of %s the difficulty of %d is not known. Give an estimate on the item, or let students answer it.",
			desk.Plural(k.Lines(), "line"), k.Unknown)
	case p.students == 0:
		group := "school"
		if ofSections {
			group = "section"
		}
		return fmt.Sprintf("Nothing is predicted: there is no %s with %d students or more who will sit this.", group, results.Fewest)
	}
	return ""
}

// prospect gives what is expected of a form, from memory where nothing that it is made of has changed.
func (a *Cuts) prospect(ctx context.Context, v roster.Viewer, w weighed, grain points.Points, school int64, assumed Assumed) (prospect, error) {
	stamp, err := cutrows.Stamp(ctx, a.Store.Reader)
	if err != nil {
		return prospect{}, err
	}
	distributed, err := cutrows.TargetsVersion(ctx, a.Store.Reader, w.row.ID)
	if err != nil {
		return prospect{}, err
	}
	key := fmt.Sprint(w.row.ID, w.row.Version, w.panel, distributed, stamp, v.Scope(), school, assumed)
	if p, ok := a.prospects.Get(key); ok {
		return p, nil
	}
	p, err := a.expect(ctx, v, w, grain, school, assumed)
	if err == nil {
		a.prospects.Add(key, p)
	}
	return p, err
}

func (a *Cuts) expect(ctx context.Context, v roster.Viewer, w weighed, grain points.Points, school int64, assumed Assumed) (prospect, error) {
	row := w.row
	lines, located, known, err := a.located(ctx, w)
	p := prospect{known: known}
	if err != nil {
		return p, err
	}
	who, err := cutrows.WhoWillSit(ctx, a.Store.Reader, v.Scope(), row.ID, row.Subject, row.Grades, school)
	if err != nil {
		return p, err
	}
	groups, err := a.groups(ctx, who, assumed, &p)
	if err != nil || !known.Enough() || len(groups) == 0 {
		return p, err
	}
	p.expected = predict.Expect(lines, grain, located, groups)
	return p, nil
}

// located gives the lines that every student gets with their places on the scale, and how much is known of those.
func (a *Cuts) located(ctx context.Context, w weighed) ([]band.Line, []predict.Line, predict.Knowledge, error) {
	seen, err := a.seen(ctx, w.lines, w.placed)
	if err != nil {
		return nil, nil, predict.Knowledge{}, err
	}
	model, known := predict.Locate(seen)
	lines, located := forEach(w.layout, w.placed, model)
	return lines, located, known, nil
}

// forEach gives the lines that every student gets, with their places on the scale: one of a pool stands at the pool's mean place.
func forEach(l form.Layout, placed []form.Placed, model []predict.Line) ([]band.Line, []predict.Line) {
	each := l.Each(placed)
	lines, located := make([]band.Line, len(each)), make([]predict.Line, len(each))
	for i, members := range l.Members(placed) {
		lines[i] = band.Line{Points: each[i].Points, Step: each[i].Step}
		located[i] = predict.Middle(model, members, predict.Levels(each[i].Points, each[i].Step))
	}
	return lines, located
}

// pinned is a line's item in its version, with its author's estimate in thousandths.
type pinned struct {
	item, version int64
	difficulty    *int64
}

// weighed is what is weighed: the lines of an assessment as they stand, or as a form has them.
type weighed struct {
	row    buildrows.Assessment
	panel  int64 // that judges them; 0 for none
	layout form.Layout
	placed []form.Placed
	lines  []pinned
}

func ofSheet(sheet build.Sheet) weighed {
	w := weighed{row: sheet.Assessment, layout: sheet.Layout, placed: sheet.Placed(), lines: make([]pinned, len(sheet.Lines))}
	for i, l := range sheet.Lines {
		w.lines[i] = pinned{l.ItemID, l.ID, l.Difficulty}
	}
	return w
}

func ofForm(row buildrows.Assessment, f form.Form) weighed {
	w := weighed{row: row, layout: f.Layout, placed: f.Placed(), lines: make([]pinned, len(f.Lines))}
	for i, l := range f.Lines {
		w.lines[i] = pinned{item: l.ItemID, version: l.VersionID}
		if l.Difficulty != nil {
			w.lines[i].difficulty = new(int64(*l.Difficulty))
		}
	}
	return w
}

// Located gives the lines of a form with their places on the scale, and how much is known of those.
func (a *Cuts) Located(ctx context.Context, f form.Form) ([]band.Line, []predict.Line, predict.Knowledge, error) {
	return a.located(ctx, ofForm(buildrows.Assessment{}, f))
}

// Expect is what can be expected of the students who will sit an assessment on a form that a panel judges. It is nil, with the
// reason, where too little is known.
func (a *Cuts) Expect(ctx context.Context, v roster.Viewer, row buildrows.Assessment, f form.Form, grain points.Points, panel int64) (*predict.Prospect, string, error) {
	w := ofForm(row, f)
	w.panel = panel
	p, err := a.prospect(ctx, v, w, grain, 0, Assumed{SD: 1})
	return p.expected, because(p, false), err
}

// seen gathers what is known of lines: how their items did, in this version, wherever they were given, and what their authors think.
func (a *Cuts) seen(ctx context.Context, lines []pinned, placed []form.Placed) ([]predict.Seen, error) {
	items := make([]int64, len(lines))
	for i, l := range lines {
		items[i] = l.item
	}
	given, err := cutrows.GivenItems(ctx, a.Store.Reader, items)
	if err != nil {
		return nil, err
	}
	sums := map[int64]*sum{}
	for _, g := range given {
		f, err := a.FormByID(ctx, g.FormID)
		if err != nil {
			return nil, err
		}
		if g.Line > len(f.Lines) {
			continue
		}
		s := sums[g.VersionID]
		if s == nil {
			s = &sum{}
			sums[g.VersionID] = s
		}
		s.n += g.N
		s.credit += g.Credit
		s.most += int64(f.Lines[g.Line-1].Points) * int64(g.N)
	}
	scaled, err := a.scaledBy(ctx, lines)
	if err != nil {
		return nil, err
	}
	out := make([]predict.Seen, len(lines))
	for i, l := range lines {
		if c, ok := scaled[l.version]; ok {
			out[i].Scaled = &c.B
		}
		out[i].Levels = predict.Levels(placed[i].Points, placed[i].Step)
		if s := sums[l.version]; s != nil && s.most > 0 {
			out[i].Responses, out[i].Share = s.n, float64(s.credit)/float64(s.most)
		}
		if l.difficulty != nil {
			share := float64(*l.difficulty) / 1000
			out[i].Author = &share
		}
	}
	return out, nil
}

// scaledBy gives, by version, where the newest calibration put lines.
func (a *Cuts) scaledBy(ctx context.Context, lines []pinned) (map[int64]cutrows.Calibrated, error) {
	versions := make([]int64, len(lines))
	for i, l := range lines {
		versions[i] = l.version
	}
	rows, err := cutrows.CalibratedVersions(ctx, a.Store.Reader, versions)
	out := make(map[int64]cutrows.Calibrated, len(rows))
	for _, c := range rows {
		out[c.VersionID] = c
	}
	return out, err
}

// sum is what an item earned of what it could have.
type sum struct {
	n            int
	credit, most int64
}

// groups are the schools with enough students, each with its students' abilities by their latest scored work.
func (a *Cuts) groups(ctx context.Context, who []cutrows.Scored, assumed Assumed, p *prospect) (groups []predict.Group, err error) {
	tables := map[int64]map[int64]float64{}
	for len(who) > 0 {
		end := slices.IndexFunc(who, func(s cutrows.Scored) bool { return s.GroupID != who[0].GroupID })
		if end < 0 {
			end = len(who)
		}
		school := who[:end]
		who = who[end:]
		n, placed := 0, 0
		for _, s := range school {
			n += s.N
			if s.FormID > 0 {
				placed += s.N
			}
		}
		if n < results.Fewest {
			p.small++
			continue
		}
		group := predict.Group{Name: school[0].Group, N: n}
		for _, s := range school {
			share := float64(s.N) / float64(n)
			if s.FormID == 0 {
				for _, w := range predict.Normal(assumed.Mean, assumed.SD) {
					group.Abilities = append(group.Abilities, predict.Weighed{Theta: w.Theta, Weight: share * w.Weight})
				}
				continue
			}
			if tables[s.FormID] == nil {
				if tables[s.FormID], err = a.abilities(ctx, s.FormID); err != nil {
					return nil, err
				}
			}
			group.Abilities = append(group.Abilities, predict.Weighed{Theta: tables[s.FormID][s.Raw], Weight: share})
		}
		p.students += n
		p.placed += placed
		groups = append(groups, group)
		p.groups = append(p.groups, school[0].GroupID)
	}
	return groups, nil
}

// abilities are those that the raw scores of a sealed form speak for. A raw score that its lines cannot add up to, by a
// re-score, speaks for that of the nearest below.
func (a *Cuts) abilities(ctx context.Context, formID int64) (map[int64]float64, error) {
	f, err := a.FormByID(ctx, formID)
	if err != nil {
		return nil, err
	}
	_, located, _, err := a.Located(ctx, f)
	if err != nil {
		return nil, err
	}
	table := predict.Abilities(located)
	out := map[int64]float64{}
	at := 0
	for raw := int64(0); raw <= int64(f.Total()); raw++ {
		for at+1 < len(table) && int64(table[at+1].Raw) <= raw {
			at++
		}
		out[raw] = table[at].Theta
	}
	return out, nil
}
