package cuts

import (
	"context"
	"math"
	"reflect"
	"slices"
	"strings"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/cutrows"
	"pineledger/store/readrows"
)

// History is how the cuts of a sealed form became what they are.
type History struct {
	Edition   int
	SealedAt  int64
	MayChange bool // cuts of record: whoever may send the assessment, and no school where the district locked them
	Versions  []Version
}

// Version is cuts that are or were of record, the ones that were sealed first.
type Version struct {
	ID      int64 // 0: sealed with the form
	At      int64
	By      string // "" for the seal
	Reason  string
	Changed int // results whose band became another
	Bands   []band.Band
	Cuts    band.Cuts
}

// History gives the history of the cuts of an assessment's form; it has no versions before the form is sealed, or without bands.
func (a *Cuts) History(ctx context.Context, v roster.Viewer, id int64) (History, error) {
	sheet, err := a.sheet(ctx, v, id)
	if err != nil || sheet.Form == nil || sheet.BandSet == nil {
		return History{}, err
	}
	out := History{Edition: sheet.Form.Edition, SealedAt: sheet.Form.SealedAt, MayChange: mayRecut(v, sheet) == nil}
	changes, err := cutrows.Records(ctx, a.Store.Reader, sheet.Form.ID)
	if err != nil {
		return out, err
	}
	for _, c := range slices.Insert(changes, 0, cutrows.Record{At: sheet.Form.SealedAt}) {
		f, err := a.FormWithCuts(ctx, sheet.Form.ID, c.ID)
		if err != nil {
			return out, err
		}
		computed, err := f.Cuts()
		if err != nil {
			return out, err
		}
		out.Versions = append(out.Versions, Version{c.ID, c.At, c.By, c.Reason, c.Changed, f.Bands, computed})
	}
	return out, nil
}

func (a *Cuts) sheet(ctx context.Context, v roster.Viewer, id int64) (build.Sheet, error) {
	if !v.MayBuild() {
		return build.Sheet{}, desk.ErrForbidden
	}
	return a.build.Sheet(ctx, v, id)
}

// mayRecut says why a viewer cannot change the cuts of record.
func mayRecut(v roster.Viewer, sheet build.Sheet) error {
	switch set := sheet.BandSet; {
	case !v.MaySend(sheet.Assessment.Owned()):
		return desk.ErrForbidden
	case sheet.Form == nil:
		return desk.Conflict("This assessment is not sealed: change its cuts as they are.")
	case set == nil:
		return desk.Conflict("This form was sealed without bands, so it has no cuts to change.")
	case set.LockedBy != "" && !v.Scope().District:
		return desk.Conflict("%s of the district locked the cuts of %s. A school cannot change them.", set.LockedBy, set.Name)
	}
	return nil
}

// Moved is what other cuts would do to results. Students are named, and schools counted, as far as the viewer may see them.
type Moved struct {
	Cuts     band.Cuts // the others
	Bands    []string
	Moves    [][]int // from the band (row) to the band (column), of all results in scope
	Results  int     // in scope
	Beyond   int     // results outside the scope
	Waiting  int     // for a reader: they have no band yet and get theirs by the new cuts
	Schools  []MovedSchool
	Students []MovedStudent // as many as were asked for
	Changed  int            // in scope
}

// MovedSchool is how a school's results would move.
type MovedSchool struct {
	Name          string
	Results       int
	Higher, Lower int
}

// MovedStudent is one whose band would be another; From and To are places of bands.
type MovedStudent struct {
	cutrows.Holder
	From, To int
}

// MostNamed bounds the students that one answer names; a file holds all.
const MostNamed = 500

// everywhere is the scope of what a change of record touches, whoever makes it.
var everywhere = roster.Scope{District: true}

// Weigh tells who would move from which band to which if an assessment's results had other cuts. It names so many students at most,
// -1 for all. Nothing is kept.
func (a *Cuts) Weigh(ctx context.Context, v roster.Viewer, id int64, bands []band.Band, most int) (Moved, error) {
	sheet, err := a.sheet(ctx, v, id)
	if err != nil {
		return Moved{}, err
	}
	if err := mayRecut(v, sheet); err != nil {
		return Moved{}, err
	}
	before, after, err := a.change(ctx, a.Store.Reader, sheet.Form.ID, bands)
	if err != nil {
		return Moved{}, err
	}
	out := Moved{Cuts: after.cuts, Bands: names(after.form.Bands)}
	if out.Waiting, err = cutrows.Waiting(ctx, a.Store.Reader, sheet.Form.ID); err != nil {
		return out, err
	}
	if out.Results, out.Schools, out.Moves, err = a.moved(ctx, v.Scope(), sheet.Form.ID, before.cuts, after.cuts); err != nil {
		return out, err
	}
	all, _, _, err := a.moved(ctx, everywhere, sheet.Form.ID, before.cuts, after.cuts)
	if err != nil {
		return out, err
	}
	out.Beyond, out.Changed = all-out.Results, otherBand(out.Moves)
	out.Students, err = a.who(ctx, v.Scope(), sheet.Form.ID, before.cuts, after.cuts, most)
	return out, err
}

// otherBand counts who is off the diagonal.
func otherBand(moves [][]int) (n int) {
	for i, row := range moves {
		for k, students := range row {
			if i != k {
				n += students
			}
		}
	}
	return n
}

func names(bands []band.Band) []string {
	out := make([]string, len(bands))
	for i, b := range bands {
		out[i] = b.Name
	}
	return out
}

// cut is a form with its cuts computed.
type cut struct {
	form desk.OfRecord
	cuts band.Cuts
}

// change gives a form with the cuts of record and with others; the bands must be the same, but for where they begin.
func (a *Cuts) change(ctx context.Context, r store.Reader, formID int64, bands []band.Band) (before, after cut, err error) {
	if before.form, err = a.FormOfRecord(ctx, r, formID); err != nil {
		return before, after, err
	}
	if before.cuts, err = before.form.Cuts(); err != nil {
		return before, after, err
	}
	after.form = before.form
	after.form.Bands = bands
	if !slices.Equal(names(before.form.Bands), names(bands)) {
		return before, after, desk.Invalid("/bands", "The bands of a sealed form stay: %s. Only where they begin can change.", strings.Join(names(before.form.Bands), ", "))
	}
	after.cuts, err = after.form.Cuts()
	return before, after, build.FromCore(err)
}

// moved counts, in a scope, the results on a form, how those of each school would move, and how all would.
func (a *Cuts) moved(ctx context.Context, scope roster.Scope, formID int64, before, after band.Cuts) (results int, schools []MovedSchool, moves [][]int, err error) {
	rows, err := cutrows.WhatWasGot(ctx, a.Store.Reader, scope, formID, 0)
	if err != nil {
		return 0, nil, nil, err
	}
	var all []band.Scored
	for len(rows) > 0 {
		s := MovedSchool{Name: rows[0].Group}
		end := slices.IndexFunc(rows, func(g cutrows.Got) bool { return g.GroupID != rows[0].GroupID })
		if end < 0 {
			end = len(rows)
		}
		for _, g := range rows[:end] {
			scored := band.Scored{Raw: points.Points(g.Raw), N: g.N}
			all = append(all, scored)
			one, err := band.Moves(before, after, []band.Scored{scored})
			if err != nil {
				return 0, nil, nil, err
			}
			s.Results += g.N
			for i, row := range one {
				for k, n := range row {
					switch {
					case k > i:
						s.Higher += n
					case k < i:
						s.Lower += n
					}
				}
			}
		}
		results += s.Results
		schools = append(schools, s)
		rows = rows[end:]
	}
	moves, err = band.Moves(before, after, all)
	return results, schools, moves, err
}

// who names, in a scope, students whose band would be another, so many at most, -1 for all.
func (a *Cuts) who(ctx context.Context, scope roster.Scope, formID int64, before, after band.Cuts, most int) ([]MovedStudent, error) {
	held, _, err := a.held(ctx, scope, formID, most, func(raw points.Points) bool {
		from, to := of(before, raw), of(after, raw)
		return from != to
	})
	out := make([]MovedStudent, len(held))
	for i, h := range held {
		out[i] = MovedStudent{h, of(before, points.Points(h.Raw)), of(after, points.Points(h.Raw))}
	}
	return out, err
}

// of is the band of a score that the form can hold, as all kept ones can.
func of(cuts band.Cuts, raw points.Points) int {
	at, err := cuts.Of(raw)
	if err != nil {
		return -1
	}
	return at
}

// held names students whose raw score is among those that are meant, so many at most, -1 for all; and counts them.
func (a *Cuts) held(ctx context.Context, scope roster.Scope, formID int64, most int, meant func(raw points.Points) bool) ([]cutrows.Holder, int, error) {
	rows, err := cutrows.WhatWasGot(ctx, a.Store.Reader, scope, formID, 0)
	if err != nil {
		return nil, 0, err
	}
	var raws []int64
	count := 0
	for _, g := range rows {
		if !meant(points.Points(g.Raw)) {
			continue
		}
		count += g.N
		if !slices.Contains(raws, g.Raw) {
			raws = append(raws, g.Raw)
		}
	}
	if count == 0 {
		return nil, 0, nil
	}
	named, err := cutrows.Holders(ctx, a.Store.Reader, scope, formID, raws, most)
	return named, count, err
}

// Near are the students within one standard error of a cut.
type Near struct {
	Band     string
	Cut      points.Points
	Error    float64 // standard error of a score at the cut, in points
	Count    int     // students
	Students []cutrows.Holder
}

// Near names, for each cut of an assessment's results, the students whose score is within one standard error of it. It is empty
// where too little is known of the lines to tell the error. Of each cut it names so many students at most, -1 for all.
func (a *Cuts) Near(ctx context.Context, v roster.Viewer, id int64, most int) ([]Near, error) {
	sheet, err := a.sheet(ctx, v, id)
	if err != nil || sheet.Form == nil || sheet.Cuts == nil {
		return nil, err
	}
	_, located, known, err := a.located(ctx, ofSheet(sheet))
	if err != nil || !known.Enough() {
		return nil, err
	}
	var out []Near
	for _, start := range sheet.Cuts.Starts[1:] {
		if start.Raw == nil {
			continue
		}
		near := Near{Band: start.Name, Cut: *start.Raw, Error: predict.ErrorAt(located, *start.Raw)}
		near.Students, near.Count, err = a.held(ctx, v.Scope(), sheet.Form.ID, most, func(raw points.Points) bool {
			return math.Abs(float64(raw-*start.Raw))/100 <= near.Error
		})
		if err != nil {
			return nil, err
		}
		out = append(out, near)
	}
	return out, nil
}

// Change is a change of the cuts that results stand on.
type Change struct {
	Bands  []band.Band
	Reason string
	From   int64 // the id of the cuts of record that it was weighed against; 0: the sealed ones
}

// RecutAct is the change of cuts of record, as the ledger names it.
const RecutAct = "assessment.recut"

// RecutNote is what the ledger keeps of it.
type RecutNote struct {
	Schema  int         `json:"schema"` // 1
	Form    int64       `json:"form"`
	Cuts    int64       `json:"cuts"` // id
	Reason  string      `json:"reason"`
	Bands   []band.Band `json:"bands"`
	Results int         `json:"results"`
	Changed int         `json:"changed"` // of them have another band
}

// Recut gives a sealed form other cuts, with a reason. Every final result is scored once more with them; what was computed with
// the cuts before stays beside it.
func (a *Cuts) Recut(ctx context.Context, v roster.Viewer, id int64, c Change) (History, error) {
	sheet, err := a.sheet(ctx, v, id)
	if err != nil {
		return History{}, err
	}
	if err := mayRecut(v, sheet); err != nil {
		return History{}, err
	}
	if c.Reason = strings.TrimSpace(c.Reason); c.Reason == "" {
		return History{}, desk.Invalid("/reason", "Say why the cuts change. Everybody who reads the results sees it.")
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error { return a.recut(ctx, tx, v, sheet, c) })
	if err != nil {
		return History{}, err
	}
	return a.History(ctx, v, id)
}

func (a *Cuts) recut(ctx context.Context, tx *store.Tx, v roster.Viewer, sheet build.Sheet, c Change) error {
	formID := sheet.Form.ID
	before, after, err := a.change(ctx, tx.Reader, formID, c.Bands)
	switch {
	case err != nil:
		return err
	case before.form.CutsID != c.From:
		records, err := cutrows.Records(ctx, tx.Reader, formID)
		if err != nil {
			return err
		}
		return desk.StaleBy(records[len(records)-1].By)
	case reflect.DeepEqual(before.form.Bands, c.Bands):
		return desk.Conflict("These are the cuts that stand. Move one first.")
	}
	rows, err := cutrows.WhatWasGot(ctx, tx.Reader, everywhere, formID, 0)
	if err != nil {
		return err
	}
	note := RecutNote{Schema: 1, Form: formID, Reason: c.Reason, Bands: c.Bands}
	scored := make([]band.Scored, len(rows))
	for i, g := range rows {
		scored[i] = band.Scored{Raw: points.Points(g.Raw), N: g.N}
		note.Results += g.N
	}
	moves, err := band.Moves(before.cuts, after.cuts, scored)
	if err != nil {
		return err
	}
	note.Changed = otherBand(moves)
	now := store.Millis(a.Now())
	note.Cuts, err = cutrows.AddRecord(ctx, tx, cutrows.Record{FormID: formID, Reason: c.Reason, Changed: note.Changed, At: now}, v.PersonID, c.Bands)
	if err != nil {
		return err
	}
	by := readrows.Scoring{Cuts: readrows.Beginnings(after.cuts), CutsID: note.Cuts, At: now, PersonID: v.PersonID}
	if err := readrows.Recut(ctx, tx, formID, by, after.cuts.Of); err != nil {
		return err
	}
	was := RecutNote{Schema: 1, Form: formID, Cuts: before.form.CutsID, Bands: before.form.Bands}
	return a.Record(ctx, tx, v, desk.Act{Name: RecutAct, Thing: "assessment", ID: sheet.Assessment.ID, Title: sheet.Assessment.Title, Before: was, After: note})
}
