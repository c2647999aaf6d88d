package build

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

// Whose a band set is: it is seen by all who build, by those of a school and the district, or by one person.
type Whose string

const (
	OfDistrict Whose = "district"
	OfSchool   Whose = "school"
	OfPerson   Whose = "person"
)

// WhoseIs tells whose a set is.
func WhoseIs(s buildrows.BandSet) Whose {
	switch {
	case s.Alone:
		return OfPerson
	case s.SchoolID > 0:
		return OfSchool
	}
	return OfDistrict
}

// BandSetInput is what a person types of a band set.
type BandSetInput struct {
	// Whose is "" for that of who makes the set: their school's, or the district's. A set stays whose it is.
	Whose   Whose
	School  int64 // of a school's set made by the district; 0 for one's own
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
		if !v.MaySee(s.Owned()) {
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

// bandSet gives a set that a viewer may see.
func bandSet(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (buildrows.BandSet, error) {
	s, err := buildrows.BandSetByID(ctx, r, id)
	if err == nil && !v.MaySee(s.Owned()) {
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
		if id == 0 {
			if err := in.belong(ctx, tx.Reader, v, &s); err != nil {
				return err
			}
		} else {
			var err error
			if old, err = bandSet(ctx, tx.Reader, v, id); err != nil {
				return err
			}
			if !v.MayChange(old.Owned()) {
				return desk.ErrForbidden
			}
			if old.Version != in.Version {
				return desk.StaleBy(old.ChangedBy)
			}
			s, before = old, old.Bands
			if in.Whose != "" && in.Whose != WhoseIs(old) {
				return desk.Invalid("/whose", "A set stays whose it is. Copy it for somebody else.")
			}
		}
		if err := in.check(); err != nil {
			return err
		}
		if err := checkSources(ctx, tx.Reader, in.Bands); err != nil {
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
		case in.Locked && WhoseIs(s) != OfDistrict:
			return desk.Invalid("/locked", "Only a set of the district can be locked for its schools. Copy this one for the district.")
		case in.Locked:
			s.LockedBy, s.LockedAt = v.Name, new(s.ChangedAt)
		default:
			s.LockedBy, s.LockedAt = "", nil
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

// belong says whose a new set is.
func (in *BandSetInput) belong(ctx context.Context, r store.Reader, v roster.Viewer, s *buildrows.BandSet) error {
	switch in.Whose {
	case "":
		return nil
	case OfPerson:
		s.Alone = true
	case OfSchool:
		if s.SchoolID = cmp.Or(in.School, s.SchoolID); s.SchoolID == 0 {
			return desk.Invalid("/school", "Choose the school that the set belongs to.")
		}
		if _, err := officerows.SchoolNamed(ctx, r, s.SchoolID); err != nil {
			return err
		}
	case OfDistrict:
		s.SchoolID = 0
	}
	if !v.MaySend(s.Owned()) {
		return desk.Invalid("/whose", "You can make band sets for yourself and for your school. Ask a district coordinator for one of the district.")
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
		case !v.MayChange(s.Owned()):
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

// checkSources refuses a cut that says it was taken from a row that no official table has.
func checkSources(ctx context.Context, r store.Reader, bands []band.Band) error {
	for i, b := range bands {
		if b.Cut.Source == nil {
			continue
		}
		stands, err := buildrows.SourceStands(ctx, r, *b.Cut.Source)
		if err != nil {
			return err
		}
		if !stands {
			return desk.Invalid(fmt.Sprintf("/bands/%d/cut", i), "No official table has the row that this cut was taken from.")
		}
	}
	return nil
}

// mostBands bounds a set: more steps of one ramp cannot be told apart.
const mostBands = 8

// mostScale is above any scale score.
const mostScale = 1_000_000 * points.One

// checkBands asks the core, on a form of one point, what of bands no form can take.
func checkBands(bands []band.Band, rule band.Rule) error {
	if len(bands) < 2 || len(bands) > mostBands {
		return desk.Invalid("/bands", "A band set has 2 to %d bands.", mostBands)
	}
	form := band.Form{Lines: []band.Line{{Points: points.One}}, Rule: rule, Bands: bands}
	if slices.ContainsFunc(bands, func(b band.Band) bool { return b.Cut.Scale != nil }) {
		form.Conversion = []band.Conversion{{}, {Raw: points.One, Scale: mostScale}} // each form has its own
	}
	_, err := band.Compute(form)
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
		out[i] = buildrows.BandOf(b)
	}
	return out
}

// CoreBands are stored bands as the core takes them.
func CoreBands(rows []buildrows.Band) []band.Band {
	out := make([]band.Band, len(rows))
	for i, r := range rows {
		out[i] = r.Core()
	}
	return out
}
