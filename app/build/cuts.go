package build

import (
	"cmp"
	"context"
	"fmt"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/cutrows"
)

// ChooseBands sets the band set of an assessment; 0 takes it away.
func (a *Build) ChooseBands(ctx context.Context, v roster.Viewer, id int64, version int, set int64) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.bands", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		version, err := chosenVersion(ctx, tx.Reader, v, *row, set, row.BandSetID, false)
		if err != nil {
			return nil, nil, err
		}
		before := row.BandSetID
		row.BandSetID, row.BandSetVersion, row.OwnRule = set, version, ""
		if err := buildrows.PutOwnBands(ctx, tx, id, nil); err != nil { // its own were in the place of the old set's
			return nil, nil, err
		}
		return map[string]int64{"bandSet": before}, map[string]int64{"bandSet": set}, nil
	})
}

// chosenVersion is the version of a set that an assessment takes by choosing it now; 0 where none is chosen. It refuses a retired set that is
// not chosen already, one that is for something else, and one that the district's lock does not let a school have.
func chosenVersion(ctx context.Context, r store.Reader, v roster.Viewer, row buildrows.Assessment, set, already int64, mastery bool) (int, error) {
	if err := mayLeaveLocked(ctx, r, v, row, set, mastery); err != nil || set == 0 {
		return 0, err
	}
	chosen, err := bandSet(ctx, r, v, set)
	switch {
	case err != nil:
		return 0, err
	case chosen.Retired && set != already:
		return 0, desk.Conflict("%s is retired. Choose another set.", chosen.Name)
	case mastery && chosen.Least == 0:
		return 0, desk.Conflict("%s is for the whole score. Choose a set for mastery by standard.", chosen.Name)
	case !mastery && chosen.Least > 0:
		return 0, desk.Conflict("%s is for mastery by standard. Choose a set for the whole score.", chosen.Name)
	}
	return chosen.Version, nil
}

// ChooseMastery sets the set by which an assessment's results are told standard by standard; 0 takes it away.
func (a *Build) ChooseMastery(ctx context.Context, v roster.Viewer, id int64, version int, set int64) (Sheet, error) {
	return a.change(ctx, v, id, version, "assessment.mastery", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		version, err := chosenVersion(ctx, tx.Reader, v, *row, set, row.MasterySetID, true)
		if err != nil {
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
		if m := s.Scope().For(scopeOf(row)); s.LockedBy != "" && !s.Retired && (s.Least > 0) == mastery && v.MaySee(s.Owned()) && m.Fits && (locked == nil || m.How > nearest.How) {
			locked, nearest = &sets[i], m
		}
	}
	if locked != nil && locked.ID != set {
		return desk.Conflict("%s of the district locked %s %s. Choose that set.", locked.LockedBy, locked.Name, nearest.Why)
	}
	return nil
}

// PutCuts gives an assessment cuts of its own and a rule for them, in the place of its band set's; no bands let it have the set's again, and
// no rule the set's rule.
func (a *Build) PutCuts(ctx context.Context, v roster.Viewer, id int64, version int, bands []band.Band, rule band.Rule) (Sheet, error) {
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
			if err := checkBands(bands, band.Rule(cmp.Or(string(rule), set.Rule))); err != nil {
				return nil, nil, err
			}
			if err := checkSources(ctx, tx.Reader, bands); err != nil {
				return nil, nil, err
			}
		}
		row.OwnRule = ""
		if len(bands) > 0 {
			row.OwnRule = string(rule)
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

// Convertible is an official table with a scale, by whether it fits an assessment's scores.
type Convertible struct {
	cutrows.OfficialTable
	Chosen bool
}

// Conversions lists the official tables that say of every score of a draft which it is on their scale, and the one that is chosen.
func (a *Build) Conversions(ctx context.Context, v roster.Viewer, id int64) ([]Convertible, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	s, err := a.Sheet(ctx, v, id)
	if err != nil {
		return nil, err
	}
	tables, err := cutrows.OfficialTablesFor(ctx, a.Store.Reader, s.Assessment.Subject, s.Assessment.Grades)
	if err != nil {
		return nil, err
	}
	out := []Convertible{}
	for _, t := range tables {
		chosen := t.ID == s.Assessment.ConversionID
		if !chosen && (points.Points(t.Most) != s.Total || !a.converts(ctx, s, t.ID)) {
			continue
		}
		out = append(out, Convertible{t, chosen})
	}
	return out, nil
}

// converts tells whether an official table has every score of a sheet, and a scale.
func (a *Build) converts(ctx context.Context, s Sheet, table int64) bool {
	rows, err := buildrows.Conversion(ctx, a.Store.Reader, table)
	if err != nil || len(rows) == 0 {
		return false
	}
	_, err = s.Layout.Cuts(s.Placed(), band.AtLeast, []band.Band{{Name: "All"}}, rows)
	return err == nil
}

// ChooseConversion says by which official table raw scores are converted to its scale; 0 for none.
func (a *Build) ChooseConversion(ctx context.Context, v roster.Viewer, id int64, version int, table int64) (Sheet, error) {
	sheet, err := a.Sheet(ctx, v, id)
	if err != nil {
		return Sheet{}, err
	}
	return a.change(ctx, v, id, version, "assessment.conversion", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if table > 0 && !a.converts(ctx, sheet, table) {
			return nil, nil, desk.Conflict("That table does not have a scale score for every score of this form.")
		}
		before := row.ConversionID
		row.ConversionID = table
		return map[string]int64{"table": before}, map[string]int64{"table": table}, nil
	})
}
