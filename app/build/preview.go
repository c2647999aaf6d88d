package build

import (
	"context"
	"slices"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/formats/booklet"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
)

// Printed is an assessment as it stands, with its key, for a booklet and a key on paper.
type Printed struct {
	Assessment   buildrows.Assessment
	Instructions string
	Lines        []booklet.Line // one whose bank allows no printing says so and shows nothing
	Passages     []form.Passage
	Document     *form.Document
	Layout       form.Layout
	Total        points.Points // that each student can earn
	Drawn        bool          // the lines are what one attempt draws
}

// Print gives an assessment for paper: with a seed what one attempt would draw, with 0 all
// lines. What a bank's terms keep from being printed is left out and named.
func (a *Build) Print(ctx context.Context, v roster.Viewer, id, seed int64) (Printed, error) {
	p, err := a.printed(ctx, v, id, seed)
	if err != nil {
		return p, err
	}
	if !v.MayPrint(p.Assessment.Owned()) {
		return Printed{}, desk.Refusal(bank.Verdict{Why: "It is shared with you, but not to be printed."})
	}
	var ids []int64
	for _, l := range p.Lines {
		ids = append(ids, l.ItemID)
	}
	rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, ids)
	if err != nil {
		return p, err
	}
	items, _, err := bankrows.Items(ctx, a.Store.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: ids, Limit: len(ids)})
	if err != nil {
		return p, err
	}
	for _, it := range items {
		verdict := rights.May(bank.Print, it)
		if verdict.May || it.Assessment == id || bankroom.HeldFor(rights.Holds[it.ID], id) {
			continue // its own copies are the assessment's own words
		}
		at := slices.IndexFunc(p.Lines, func(l booklet.Line) bool { return l.ItemID == it.ID })
		p.Lines[at].Refuse, p.Lines[at].Item, p.Lines[at].Key, p.Lines[at].Passage = verdict.Why, item.Item{}, "", ""
	}
	p.Passages = slices.DeleteFunc(p.Passages, func(passage form.Passage) bool {
		return !slices.ContainsFunc(p.Lines, func(l booklet.Line) bool { return l.Passage == passage.Identifier })
	})
	return p, nil
}

// printed reads an assessment as its form would be sealed now.
func (a *Build) printed(ctx context.Context, v roster.Viewer, id, seed int64) (Printed, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Printed{}, err
	}
	f, err := FormOf(ctx, a.Store.Reader, row)
	if err != nil {
		return Printed{}, err
	}
	out := Printed{Assessment: row, Instructions: f.Instructions, Passages: f.Passages, Document: f.Document, Layout: f.Layout, Total: f.Total(), Drawn: seed > 0}
	var given []int
	if seed > 0 {
		given = f.Given(seed)
	}
	for i, l := range f.Lines {
		if given != nil && !slices.Contains(given, i) {
			continue
		}
		out.Lines = append(out.Lines, booklet.Line{Line: l, Key: l.Item.KeyShort()})
	}
	return out, nil
}
