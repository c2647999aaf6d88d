package draw

import (
	"errors"
	"fmt"

	"pineledger/core/blueprint"
)

// check refuses what cannot be meant.
func (r Request) check() error {
	plan := r.Plan
	if err := under("blueprint.", blueprint.CheckRows(r.Tree, plan.Rows)); err != nil {
		return err
	}
	if err := blueprint.CheckItems("items", r.Items); err != nil {
		return err
	}
	rules := plan.Passages
	switch {
	case r.Mode != "" && r.Mode != Best && r.Mode != Random:
		return refuse("mode", "%q is neither best nor random", r.Mode)
	case plan.Forms < 0 || plan.Forms > MostForms:
		return refuse("blueprint.forms", "%d is not 1–%d", plan.Forms, MostForms)
	case plan.Total != nil && *plan.Total < 0:
		return refuse("blueprint.total", "%d is negative", *plan.Total)
	case plan.KeySpread != nil && *plan.KeySpread < 0:
		return refuse("blueprint.keySpread", "%d is negative", *plan.KeySpread)
	case rules.Max != nil && *rules.Max < 0:
		return refuse("blueprint.passages.max", "%d is negative", *rules.Max)
	case rules.ItemsMin < 0:
		return refuse("blueprint.passages.itemsMin", "%d is negative", rules.ItemsMin)
	case rules.ItemsMax < 0 || rules.ItemsMax > 0 && rules.ItemsMax < rules.ItemsMin:
		return refuse("blueprint.passages.itemsMax", "%d is below itemsMin", rules.ItemsMax)
	}
	if t := plan.Difficulty; t != nil {
		if t.Target < 0 || t.Target > 1000 {
			return refuse("blueprint.difficulty.target", "is not from 0 to 1")
		}
		if t.Tolerance < 0 || t.Tolerance > 1000 {
			return refuse("blueprint.difficulty.tolerance", "is not from 0 to 1")
		}
	}
	if e := plan.Estimate; e != nil && (*e < 0 || *e > 1000) {
		return refuse("blueprint.estimate", "is not from 0 to 1")
	}
	return r.checkShared()
}

func (r Request) checkShared() error {
	known, excluded := map[string]blueprint.Item{}, asSet(r.Plan.Exclude)
	for _, it := range r.Items {
		known[it.ID] = it
	}
	for _, list := range []struct {
		name string
		ids  []string
	}{{"fixed", r.Plan.Fixed}, {"anchors", r.Plan.Anchors}} {
		for i, id := range list.ids {
			place := fmt.Sprintf("blueprint.%s[%d]", list.name, i)
			it, ok := known[id]
			switch {
			case !ok:
				return refuse(place, "%q is not among the items", id)
			case it.Hold:
				return refuse(place, "%q is on hold", id)
			case excluded[id]:
				return refuse(place, "%q is excluded", id)
			}
		}
	}
	return nil
}

// under puts a place below another.
func under(prefix string, err error) error {
	var place *blueprint.PlaceError
	if errors.As(err, &place) {
		return &blueprint.PlaceError{Place: prefix + place.Place, Reason: place.Reason}
	}
	return err
}
