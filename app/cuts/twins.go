package cuts

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/official"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/roster"
)

// TwinForm is a twin form with where the cuts of the form that is looked at would lie on it.
type TwinForm struct {
	ID     int64
	Letter string
	Total  points.Points
	Cuts   []TwinCut
}

// TwinCut is a cut on a twin form.
type TwinCut struct {
	Band    string
	Percent *points.Points // the raw score of the same percent; nil where no score reaches the band
	Ability *points.Points // the one that students are expected to get who are expected to get the cut; nil where that is not known
}

// Twins lays the cuts of an assessment on its twin forms, itself among them: by the same percent and by the same ability. It is empty
// where there is one form, or no cuts.
func (a *Cuts) Twins(ctx context.Context, v roster.Viewer, id int64) ([]TwinForm, error) {
	sheet, err := a.sheet(ctx, v, id)
	if err != nil || sheet.Cuts == nil || sheet.BandSet == nil {
		return nil, err
	}
	rule := band.Rule(sheet.BandSet.Rule)
	_, from, known, err := a.located(ctx, ofSheet(sheet))
	if err != nil {
		return nil, err
	}
	var out []TwinForm
	for _, form := range sheet.Forms {
		twin, err := a.build.Sheet(ctx, v, form.ID)
		if err != nil {
			return nil, err
		}
		if len(twin.Lines) == 0 {
			continue
		}
		sums, err := twin.Layout.Cuts(twin.Placed(), rule, []band.Band{{Name: "All"}}, nil)
		if err != nil {
			return nil, desk.Conflict("Form %s cannot be added up yet: %s", form.FormLetter, err)
		}
		_, to, alike, err := a.located(ctx, ofSheet(twin))
		if err != nil {
			return nil, err
		}
		t := TwinForm{ID: form.ID, Letter: form.FormLetter, Total: sums.Total}
		for _, start := range sheet.Cuts.Starts[1:] {
			cut := TwinCut{Band: start.Name}
			if start.Raw != nil && *start.Raw <= sheet.Cuts.Total {
				share := official.Cut{Raw: *start.Raw, Of: sheet.Cuts.Total}
				cut.Percent = new(share.On(sums.Total, sums.Grain, rule))
				if theta, ok := predict.AbilityAt(from, *start.Raw); ok && known.Enough() && alike.Enough() {
					cut.Ability = new(band.Reached(predict.Expected(to, theta), sums.Grain, rule))
				}
			}
			t.Cuts = append(t.Cuts, cut)
		}
		out = append(out, t)
	}
	return out, nil
}
