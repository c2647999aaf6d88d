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
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// BandSetInput is what a person types of a band set.
type BandSetInput struct {
	Name    string
	Subject string // "" for any
	Grades  []string
	Course  string // "" for any
	Year    string // "" for any
	Purpose string // "" for any
	Rule    band.Rule
	Bands   []band.Band
	Least   points.Points // it is for mastery by standard, told from so many points on; 0 for the whole score
	Locked  bool          // no school may have other cuts; the district alone may say so
	Version int           // the one that was read; 0 for a new set
}

// OfferedSet is a set with how well it fits an assessment.
type OfferedSet struct {
	buildrows.BandSet
	Match band.Match // of the assessment that was named
}

// BandSets lists the sets that a builder may see, of those that fit an assessment the nearest first; with assessment 0 by name.
func (a *Plans) BandSets(ctx context.Context, v roster.Viewer, assessment int64) ([]OfferedSet, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	var wanted *band.Scope
	if assessment > 0 {
		row, err := desk.Assessment(ctx, a.Store.Reader, v, assessment)
		if err != nil {
			return nil, err
		}
		wanted = new(scopeOf(row))
	}
	sets, err := buildrows.BandSets(ctx, a.Store.Reader)
	if err != nil {
		return nil, err
	}
	out := []OfferedSet{}
	for _, s := range sets {
		if !v.MaySee(owned(s)) {
			continue
		}
		offered := OfferedSet{BandSet: s}
		if wanted != nil {
			offered.Match = s.Scope().For(*wanted)
		}
		out = append(out, offered)
	}
	slices.SortStableFunc(out, func(a, b OfferedSet) int {
		return cmp.Or(compareBool(b.Match.Fits, a.Match.Fits), cmp.Compare(b.Match.How, a.Match.How))
	})
	return out, nil
}

func compareBool(a, b bool) int {
	switch {
	case a == b:
		return 0
	case b:
		return -1
	}
	return 1
}

// scopeOf is what an assessment wants a set for.
func scopeOf(row buildrows.Assessment) band.Scope {
	return band.Scope{Subject: row.Subject, Grades: row.Grades, Course: row.Course, Year: row.Year, Purpose: row.Purpose}
}

func owned(s buildrows.BandSet) roster.Owned {
	return roster.Owned{OwnerID: s.OwnerID, SchoolID: s.SchoolID}
}

// bandSet gives a set that a viewer may see.
func bandSet(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (buildrows.BandSet, error) {
	s, err := buildrows.BandSetByID(ctx, r, id)
	if err == nil && !v.MaySee(owned(s)) {
		err = desk.ErrNotFound
	}
	return s, err
}

// BandSet gives one set.
func (a *Plans) BandSet(ctx context.Context, v roster.Viewer, id int64) (buildrows.BandSet, error) {
	return bandSet(ctx, a.Store.Reader, v, id)
}

// BandSetUse is an assessment that uses a set.
type BandSetUse = buildrows.BandSetUse

// mostUses bounds the uses that are listed.
const mostUses = 200

// BandSetUses lists the assessments that use a set; those that the viewer may not open are told by whose they are, without their id.
func (a *Plans) BandSetUses(ctx context.Context, v roster.Viewer, id int64) ([]BandSetUse, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	if _, err := bandSet(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	uses, err := buildrows.BandSetUses(ctx, a.Store.Reader, id, mostUses)
	for i, u := range uses {
		if !v.MaySee(roster.Owned{OwnerID: u.OwnerID, SchoolID: u.SchoolID}) {
			uses[i].AssessmentID, uses[i].Title = 0, "an assessment of another school"
		}
	}
	return uses, err
}

// PutBandSet makes a set (id 0) or changes one.
func (a *Plans) PutBandSet(ctx context.Context, v roster.Viewer, id int64, in BandSetInput) (buildrows.BandSet, error) {
	if !v.MayBuild() {
		return buildrows.BandSet{}, desk.ErrForbidden
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s := buildrows.BandSet{ID: id, SchoolID: v.HomeSchool(), OwnerID: v.PersonID}
		var before any
		var old buildrows.BandSet
		if id > 0 {
			var err error
			if old, err = bandSet(ctx, tx.Reader, v, id); err != nil {
				return err
			}
			if !v.MayChange(owned(old)) {
				return desk.ErrForbidden
			}
			if old.Version != in.Version {
				return desk.StaleBy(old.ChangedBy)
			}
			s, before = old, old.Bands
		}
		if err := in.check(); err != nil {
			return err
		}
		s.Name, s.Subject, s.Grades, s.Rule, s.Least, s.Bands = in.Name, in.Subject, in.Grades, string(in.Rule), int64(in.Least), bandRows(in.Bands)
		s.Course, s.Year, s.Purpose = strings.TrimSpace(in.Course), strings.TrimSpace(in.Year), strings.TrimSpace(in.Purpose)
		s.ChangedAt, s.ChangedBy = store.Millis(a.Now()), v.Name
		if (in.Least > 0) != (old.Least > 0) && id > 0 {
			return desk.Invalid("/least", "A set for the whole score stays one, and one for mastery by standard too. Make another set.")
		}
		switch {
		case in.Locked == (s.LockedBy != ""):
		case !v.Scope().District:
			return desk.Invalid("/locked", "Only the district can lock or unlock a band set.")
		case in.Locked:
			s.LockedBy = v.Name
		default:
			s.LockedBy = ""
		}
		name, err := "bandSet.change", error(nil)
		if id == 0 {
			name = "bandSet.add"
			id, err = buildrows.AddBandSet(ctx, tx, s)
		} else {
			err = buildrows.ChangeBandSet(ctx, tx, s)
		}
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: name, Thing: "bandSet", ID: id, Title: s.Name, Before: before, After: in.Bands})
	})
	if err != nil {
		return buildrows.BandSet{}, err
	}
	return buildrows.BandSetByID(ctx, a.Store.Reader, id)
}

// ChooseBands sets the band set of an assessment; 0 takes it away.
func (a *Build) ChooseBands(ctx context.Context, v roster.Viewer, id int64, version int, set int64) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.bands", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		version := 0
		if set > 0 {
			chosen, err := bandSet(ctx, tx.Reader, v, set)
			if err != nil {
				return nil, nil, err
			}
			if err := mayChoose(chosen, row.BandSetID, false); err != nil {
				return nil, nil, err
			}
			version = chosen.Version
		}
		if err := mayLeaveLocked(ctx, tx.Reader, v, *row, set, false); err != nil {
			return nil, nil, err
		}
		before := row.BandSetID
		row.BandSetID, row.BandSetVersion = set, version
		if err := buildrows.PutOwnBands(ctx, tx, id, nil); err != nil { // its own were in the place of the old set's
			return nil, nil, err
		}
		return map[string]int64{"bandSet": before}, map[string]int64{"bandSet": set}, nil
	})
}

// mayChoose refuses a retired set that is not chosen already, and one that is for something else.
func mayChoose(chosen buildrows.BandSet, already int64, mastery bool) error {
	switch {
	case chosen.Retired && chosen.ID != already:
		return desk.Conflict("%s is retired. Choose another set.", chosen.Name)
	case mastery && chosen.Least == 0:
		return desk.Conflict("%s is for the whole score. Choose a set for mastery by standard.", chosen.Name)
	case !mastery && chosen.Least > 0:
		return desk.Conflict("%s is for mastery by standard. Choose a set for the whole score.", chosen.Name)
	}
	return nil
}

// ChooseMastery sets the set by which an assessment's results are told standard by standard; 0 takes it away.
func (a *Build) ChooseMastery(ctx context.Context, v roster.Viewer, id int64, version int, set int64) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.mastery", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		version := 0
		if set > 0 {
			chosen, err := bandSet(ctx, tx.Reader, v, set)
			if err != nil {
				return nil, nil, err
			}
			if err := mayChoose(chosen, row.MasterySetID, true); err != nil {
				return nil, nil, err
			}
			version = chosen.Version
		}
		if err := mayLeaveLocked(ctx, tx.Reader, v, *row, set, true); err != nil {
			return nil, nil, err
		}
		before := row.MasterySetID
		row.MasterySetID, row.MasterySetVersion = set, version
		return map[string]int64{"bandSet": before}, map[string]int64{"bandSet": set}, nil
	})
}

// Mastery is what an assessment can tell standard by standard.
type Mastery struct {
	Set      *buildrows.BandSet // nil where none is chosen
	Newer    bool               // the set has another version than the one that stands
	Told     []form.Told        // each standard that a line is aligned to or lies under
	Possible int                // of them with points enough
}

// Mastery tells what an assessment can report by standard: of a sealed one as it was sealed, of a draft as it stands.
func (a *Build) Mastery(ctx context.Context, v roster.Viewer, id int64) (Mastery, error) {
	if !v.MayBuild() {
		return Mastery{}, desk.ErrForbidden
	}
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Mastery{}, err
	}
	var out Mastery
	var f form.Form
	if row.State == assessment.Draft {
		f, err = FormOf(ctx, a.Store.Reader, row)
	} else {
		var sealed buildrows.Form
		if sealed, err = buildrows.FormOf(ctx, a.Store.Reader, row.ID, row.Edition); err == nil {
			f, err = a.FormByID(ctx, sealed.ID)
		}
	}
	if err != nil || f.Mastery == nil {
		return out, err
	}
	set, err := buildrows.MasteryOf(ctx, a.Store.Reader, row)
	if err != nil {
		return out, err
	}
	set.Name, set.Rule, set.Least, set.Bands = f.Mastery.Set, string(f.Mastery.Rule), int64(f.Mastery.Least), bandRows(f.Mastery.Bands)
	out.Set, out.Newer = &set, row.State == assessment.Draft && set.Version > set.Stands
	out.Told, err = f.Tells()
	for _, t := range out.Told {
		if t.Cuts != nil {
			out.Possible++
		}
	}
	return out, FromCore(err)
}

// mayLeaveLocked refuses a school another set where the district has locked one for what the assessment is.
func mayLeaveLocked(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, set int64, mastery bool) error {
	if v.Scope().District {
		return nil
	}
	sets, err := buildrows.BandSets(ctx, r)
	if err != nil {
		return err
	}
	var locked *buildrows.BandSet
	var nearest band.Match
	for i, s := range sets {
		if m := s.Scope().For(scopeOf(row)); s.LockedBy != "" && !s.Retired && (s.Least > 0) == mastery && v.MaySee(owned(s)) && m.Fits && (locked == nil || m.How > nearest.How) {
			locked, nearest = &sets[i], m
		}
	}
	if locked != nil && locked.ID != set {
		return desk.Conflict("%s of the district locked %s %s. Choose that set.", locked.LockedBy, locked.Name, nearest.Why)
	}
	return nil
}

// RetireBandSet takes a set out of what is offered, or offers it again. Where it is used it stays.
func (a *Plans) RetireBandSet(ctx context.Context, v roster.Viewer, id int64, retired bool) (buildrows.BandSet, error) {
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := bandSet(ctx, tx.Reader, v, id)
		switch {
		case err != nil:
			return err
		case !v.MayChange(owned(s)):
			return desk.ErrForbidden
		case s.Retired == retired:
			return nil
		}
		act, at := "bandSet.restore", (*int64)(nil)
		if retired {
			act, at = "bandSet.retire", new(store.Millis(a.Now()))
		}
		if err := buildrows.RetireBandSet(ctx, tx, id, at); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: act, Thing: "bandSet", ID: id, Title: s.Name, Before: s.Retired, After: retired})
	})
	if err != nil {
		return buildrows.BandSet{}, err
	}
	return buildrows.BandSetByID(ctx, a.Store.Reader, id)
}

// PutCuts gives an assessment cuts of its own, in the place of its band set's; none lets it have the set's again.
func (a *Build) PutCuts(ctx context.Context, v roster.Viewer, id int64, version int, bands []band.Band) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.cuts", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if row.BandSetID == 0 {
			return nil, nil, desk.Conflict("Choose a band set first. The cuts of this assessment take the place of its cuts.")
		}
		set, err := buildrows.BandsOf(ctx, tx.Reader, *row)
		if err != nil {
			return nil, nil, err
		}
		if set.LockedBy != "" && !v.Scope().District && len(bands) > 0 {
			return nil, nil, desk.Conflict("%s of the district locked the cuts of %s. This assessment cannot have others.", set.LockedBy, set.Name)
		}
		if len(bands) > 0 {
			if err := checkBands(bands, band.Rule(set.Rule)); err != nil {
				return nil, nil, err
			}
		}
		return CoreBands(set.Bands), bands, buildrows.PutOwnBands(ctx, tx, id, bandRows(bands))
	})
}

// mostReported bounds the ranges of scores, and mostReportedValue the letters of what is reported for one.
const (
	mostReported      = 200
	mostReportedValue = 60
)

// PutReported says what is reported for ranges of scores; none lets scores speak for themselves. The ranges hold every score that the lines as
// they stand can add up to just once.
func (a *Build) PutReported(ctx context.Context, v roster.Viewer, id int64, version int, ranges []band.Reported) (Sheet, error) {
	sheet, err := a.Sheet(ctx, v, id)
	if err != nil {
		return Sheet{}, err
	}
	if len(ranges) > mostReported {
		return Sheet{}, desk.Invalid("/reported", "There can be at most %d ranges.", mostReported)
	}
	for i := range ranges {
		if ranges[i].Value = strings.TrimSpace(ranges[i].Value); len([]rune(ranges[i].Value)) > mostReportedValue {
			return Sheet{}, desk.Invalid(fmt.Sprintf("/reported/%d/value", i), "A value has at most %d letters.", mostReportedValue)
		}
	}
	return a.change(ctx, v, id, version, "assessment.reported", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if len(ranges) > 0 {
			if err := checkReported(sheet, ranges); err != nil { // at this version the lines are those that were read
				return nil, nil, FromCore(err)
			}
		}
		return sheet.Reported, ranges, buildrows.PutReportedValues(ctx, tx, id, ranges)
	})
}

// check says what of the set no form can take.
func (in *BandSetInput) check() error {
	in.Name = strings.TrimSpace(in.Name)
	if in.Name == "" || len(in.Name) > 200 {
		return desk.Invalid("/name", "A band set needs a name of at most 200 characters.")
	}
	if in.Rule == "" {
		in.Rule = band.AtLeast
	}
	if in.Least < 0 || in.Least > mostLeast {
		return desk.Invalid("/least", "The least number of points of a standard is from 0 to %s.", mostLeast)
	}
	for i, b := range in.Bands {
		if in.Least > 0 && i > 0 && b.Cut.Percent == nil {
			return desk.Invalid(fmt.Sprintf("/bands/%d/cut", i), "Cuts of mastery are percents: standards have different numbers of points.")
		}
	}
	return checkBands(in.Bands, in.Rule)
}

// mostLeast bounds the points that mastery asks of a standard.
const mostLeast = 100 * points.One

// mostBands bounds a set: more steps of one ramp cannot be told apart.
const mostBands = 8

// checkBands asks the core, on a form of one point, what of bands no form can take.
func checkBands(bands []band.Band, rule band.Rule) error {
	if len(bands) < 2 || len(bands) > mostBands {
		return desk.Invalid("/bands", "A band set has 2 to %d bands.", mostBands)
	}
	_, err := band.Compute(band.Form{Lines: []band.Line{{Points: points.One}}, Rule: rule, Bands: bands})
	return FromCore(err)
}

// FromCore turns the place that the core refuses into a field of the input.
func FromCore(err error) error {
	var place *band.PlaceError
	if !errors.As(err, &place) {
		return err
	}
	pointer := "/" + strings.NewReplacer(".", "/", "[", "/", "]", "").Replace(place.Place)
	return desk.Invalid(pointer, "%s", desk.Sentence(place.Reason))
}

func bandRows(bands []band.Band) []buildrows.Band {
	out := make([]buildrows.Band, len(bands))
	for i, b := range bands {
		out[i] = buildrows.Band{Name: b.Name, Percent: optional(b.Cut.Percent), Raw: optional(b.Cut.Raw), Of: optional(b.Cut.Of)}
	}
	return out
}

// CoreBands are stored bands as the core takes them.
func CoreBands(rows []buildrows.Band) []band.Band {
	out := make([]band.Band, len(rows))
	for i, r := range rows {
		out[i] = band.Band{Name: r.Name, Cut: band.Cut{Percent: present(r.Percent), Raw: present(r.Raw), Of: present(r.Of)}}
	}
	return out
}

func optional(p *points.Points) *int64 {
	if p == nil {
		return nil
	}
	return new(int64(*p))
}

func present(n *int64) *points.Points {
	if n == nil {
		return nil
	}
	p := points.Points(*n)
	return &p
}
