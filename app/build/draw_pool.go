package build

import (
	"cmp"
	"context"
	"errors"
	"maps"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/bank"
	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
)

// drawRequest turns a question into one of the core, with the pool read.
func (a *Draws) drawRequest(ctx context.Context, v roster.Viewer, row buildrows.Assessment, q DrawQuestion) (askedDraw, error) {
	lines, err := buildrows.Lines(ctx, a.Store.Reader, row.ID)
	if err != nil {
		return askedDraw{}, err
	}
	rows, err := a.drawRows(ctx, row, q)
	if err != nil {
		return askedDraw{}, err
	}
	p, err := a.pool(ctx, v, row, rows, lines, q)
	if err != nil {
		return askedDraw{}, err
	}
	asked := askedDraw{known: p.known, at: map[string]int{}, request: draw.Request{Items: p.items, Tree: p.tree, Mode: q.Mode, Seed: uint64(q.Seed)}}
	plan := &asked.request.Plan
	*plan = draw.Plan{Forms: q.Forms, Difficulty: q.Target, Passages: q.Passages, KeySpread: q.KeySpread, ForbidMeeting: true, Estimate: p.estimate(rows)}
	if q.Simple == nil {
		plan.Rows = coreRows(rows)
	}
	if err := a.standing(ctx, row, q, lines, &asked.request); err != nil {
		return asked, err
	}
	for _, id := range plan.Exclude {
		p.exclude[id] = true
	}
	plan.Exclude = slices.Sorted(maps.Keys(p.exclude))
	if q.Simple != nil {
		spread, err := spread(*q.Simple, p, q.Seed)
		if err != nil {
			return asked, err
		}
		rows, asked.answer.Uneven = spread.rows, spread.uneven
		plan.Rows = coreRows(rows)
	}
	for i, r := range rows {
		asked.at[rowName(i)] = i
		drawn := DrawnRow{Title: cmp.Or(r.Title, rowTitle(r.Filter)), Filter: r.Filter, ByPoints: r.ByPoints, Min: int64(r.Min), Max: int64(r.Max)}
		drawn.Pool, drawn.Apart = p.serving(r)
		asked.answer.Rows = append(asked.answer.Rows, drawn)
	}
	asked.answer.Pool, asked.answer.Apart = p.serving(rows...)
	asked.answer.Estimate = plan.Estimate
	return asked, nil
}

func coreRows(rows []RowInput) (out []blueprint.Row) {
	for i, r := range rows {
		out = append(out, blueprint.Row{ID: rowName(i), Filter: r.Filter, ByPoints: r.ByPoints, Min: r.Min, Max: r.Max})
	}
	return out
}

// standing says what becomes of the lines that stand: those to be kept are fixed,
// or in common to all forms; the others are not drawn again. A question in a
// sentence comes on top of them, and a draw for one row keeps the lines that this row claims.
func (a *Draws) standing(ctx context.Context, row buildrows.Assessment, q DrawQuestion, lines []buildrows.Line, r *draw.Request) error {
	plan := &r.Plan
	ofRow := map[string]bool{}
	if q.Simple == nil && q.Keep {
		stored, err := buildrows.Blueprint(ctx, a.Store.Reader, row.ID)
		if err != nil {
			return err
		}
		layout := row.Layout.V
		b, err := balance(ctx, a.Store.Reader, stored, lines, layout)
		if err != nil {
			return err
		}
		if q.Row > 0 {
			b.Rows = b.Rows[q.Row-1 : q.Row]
			for _, id := range b.Rows[0].Lines {
				ofRow[id] = true
			}
		}
		// A row that is over already stays so; the draw fills what the others lack.
		for i, held := range b.Rows {
			drawn := &plan.Rows[i]
			drawn.Max = max(drawn.Max, held.Placed)
			// What pools give to a row stays theirs; the draw is for the rest.
			for k, n := range held.Pools {
				given := points.One
				if drawn.ByPoints {
					given = poolPoints(lines, k+1)
				}
				given *= points.Points(n)
				drawn.Min, drawn.Max = max(0, drawn.Min-given), drawn.Max-given
			}
		}
	}
	for i, l := range lines {
		key := itemKey(l.ItemID)
		meets := slices.ContainsFunc(plan.Rows, func(row blueprint.Row) bool { return r.Tree.Meets(row.Filter, r.Items[i]) }) // lines come first in the pool
		switch {
		case slices.Contains(q.Anchors, l.ItemID) && l.Own:
			return desk.Invalid("/anchors", "Line %d is an own copy of this assessment and cannot be in common with other forms.", i+1)
		case slices.Contains(q.Anchors, l.ItemID) && l.Pool > 0:
			return desk.Invalid("/anchors", "Line %d stands in a pool and cannot be in common with other forms.", i+1)
		case slices.Contains(q.Anchors, l.ItemID):
			plan.Anchors = append(plan.Anchors, key)
		case q.Simple == nil && q.Keep && meets && l.Pool == 0 && (q.Row == 0 || ofRow[key]):
			plan.Fixed = append(plan.Fixed, key)
		default:
			plan.Exclude = append(plan.Exclude, key)
			if stays := q.Simple != nil || q.Row > 0 || q.Keep; stays {
				for _, it := range r.Items[len(lines):] {
					if blueprint.Apart(r.Items[i], it) {
						plan.Exclude = append(plan.Exclude, it.ID)
					}
				}
			}
		}
	}
	return nil
}

// poolPoints is what a line of a pool is worth.
func poolPoints(lines []buildrows.Line, pool int) points.Points {
	at := slices.IndexFunc(lines, func(l buildrows.Line) bool { return l.Pool == pool })
	return points.Points(lines[at].Points)
}

// drawRows are the rows that a draw is to fill.
func (a *Draws) drawRows(ctx context.Context, row buildrows.Assessment, q DrawQuestion) ([]RowInput, error) {
	if q.Simple != nil {
		return []RowInput{{Filter: within(*q.Simple)}}, nil // as wide as the question, for the pool
	}
	stored, err := buildrows.Blueprint(ctx, a.Store.Reader, row.ID)
	if err != nil {
		return nil, err
	}
	if len(stored) == 0 {
		return nil, desk.Invalid("/row", "There is no blueprint yet. Make one, or ask a simple question.")
	}
	if q.Row < 0 || q.Row > len(stored) {
		return nil, desk.Invalid("/row", "There is no row %d.", q.Row)
	}
	var out []RowInput
	for i, r := range stored {
		if q.Row > 0 && q.Row != i+1 {
			continue
		}
		out = append(out, RowInput{Title: r.Title, Filter: r.Filter.V, ByPoints: r.ByPoints, Min: points.Points(r.Least), Max: points.Points(r.Most)})
	}
	return out, nil
}

// within is the filter that all items of a simple question meet.
func within(s SimpleDraw) blueprint.Filter {
	f := blueprint.Filter{Difficulty: s.Difficulty}
	if len(s.Depth) > 0 {
		f.Depth = s.Depth
	}
	if len(s.Tags) > 0 {
		f.Tags = s.Tags
	}
	if len(s.Standards) > 0 {
		f.Standards = s.Standards
	}
	return f
}

type spreadRows struct {
	rows   []RowInput
	uneven []draw.Uneven
}

func spread(s SimpleDraw, p *itemPool, seed int64) (spreadRows, error) {
	filter := within(s)
	filter.Standards = nil
	question := draw.Question{Total: s.Total, Standards: s.Standards, Within: filter, Seed: uint64(seed)}
	for _, k := range s.Kinds {
		question.Kinds = append(question.Kinds, draw.KindShare{Kinds: []string{k.Kind}, Count: k.Count})
	}
	even, err := question.Spread(p.tree, slices.DeleteFunc(slices.Clone(p.items), func(it blueprint.Item) bool { return p.exclude[it.ID] }))
	if err != nil {
		return spreadRows{}, placeError(err)
	}
	out := spreadRows{uneven: even.Uneven}
	for _, r := range even.Rows {
		out.rows = append(out.rows, RowInput{Title: rowTitle(r.Filter), Filter: r.Filter, Min: r.Min, Max: r.Max})
	}
	return out, nil
}

// rowTitle names a row by what it asks for.
func rowTitle(f blueprint.Filter) string {
	parts := slices.Concat(f.Standards, f.Kinds)
	if len(parts) == 0 {
		return "Any item"
	}
	return strings.Join(parts, ", ")
}

// itemPool is what there is to choose from for an assessment.
type itemPool struct {
	items   []blueprint.Item
	known   map[string]DrawnItem
	tree    blueprint.Tree
	exclude map[string]bool // what is not to be drawn: given to these grades too lately, or standing already
}

// pool reads the items that the viewer may place on an assessment and that could
// serve any of the rows, and the lines that stand.
func (a *Draws) pool(ctx context.Context, v roster.Viewer, row buildrows.Assessment, rows []RowInput, lines []buildrows.Line, q DrawQuestion) (*itemPool, error) {
	query, tree, err := a.poolQuery(ctx, v, row, rows, q)
	if err != nil {
		return nil, err
	}
	found, err := buildrows.PoolItems(ctx, a.Store.Reader, query)
	if err != nil {
		return nil, err
	}
	if len(found) == mostDrawPool {
		return nil, desk.Conflict("More than %d items would have to be looked at. Narrow the rows or the banks.", mostDrawPool)
	}
	ids := make([]int64, len(found))
	for i, it := range found {
		ids[i] = it.ID
	}
	rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	p := &itemPool{tree: tree, known: map[string]DrawnItem{}, exclude: map[string]bool{}}
	for _, l := range lines {
		p.addLine(l, q.Copies)
	}
	for _, it := range found {
		key := itemKey(it.ID)
		if _, stands := p.known[key]; stands {
			continue
		}
		if !rights.MayPlaceOn(bankrows.Item{ID: it.ID, BankID: it.BankID, OwnerID: it.OwnerID}, row.ID).May {
			continue
		}
		p.addItem(it, q.Copies)
	}
	if !q.Meeting {
		if err := a.addHostile(ctx, p); err != nil {
			return nil, err
		}
	}
	return p, a.excludeGiven(ctx, p, row, q)
}

// poolQuery narrows the bank to the assessment's subject and language, and to the
// rows' standards, or where a row names none, to its grades.
func (a *Draws) poolQuery(ctx context.Context, v roster.Viewer, row buildrows.Assessment, rows []RowInput, q DrawQuestion) (bankrows.ItemQuery, blueprint.Tree, error) {
	query := bankrows.ItemQuery{Subjects: []string{row.Subject}, Languages: []string{row.Language}, Banks: q.Banks, Limit: mostDrawPool}
	var codes []string
	open := false
	for _, r := range rows {
		codes = append(codes, r.Filter.Standards...)
		open = open || len(r.Filter.Standards) == 0
		if r.Filter.Language != "" {
			query.Languages = append(query.Languages, r.Filter.Language)
		}
	}
	known, err := bankrows.StandardsCoded(ctx, a.Store.Reader, codes)
	if err != nil {
		return query, blueprint.Tree{}, err
	}
	for _, code := range codes {
		if _, ok := known[code]; !ok {
			return query, blueprint.Tree{}, desk.Invalid("/standards", "There is no standard %q.", code)
		}
	}
	if query.Scope, err = a.bank.ItemScope(ctx, a.Store.Reader, v); err != nil {
		return query, blueprint.Tree{}, err
	}
	if open {
		query.Grades = row.Grades
	} else if query.Standards, err = bankrows.StandardsUnderCodes(ctx, a.Store.Reader, codes); err != nil {
		return query, blueprint.Tree{}, err
	}
	tree, err := treeOf(ctx, a.Store.Reader, codes)
	return query, tree, err
}

func (p *itemPool) addLine(l buildrows.Line, copies bool) {
	it := lineItem(l)
	it.Passage = passageKey(l.PassageID)
	it.Key = l.KeyShort
	it.Kin = kin(l.Stem, l.PassageID, copies)
	p.items = append(p.items, it)
	p.known[it.ID] = DrawnItem{ItemID: l.ItemID, Identifier: l.Identifier, Stem: l.Stem, Kind: l.Kind, Standards: desk.Codes(l.Standards), Difficulty: it.Difficulty, Depth: l.Depth, Passage: l.PassageID, Stays: true}
}

func (p *itemPool) addItem(i buildrows.PoolItem, copies bool) {
	it := poolItem(i)
	it.Kin = kin(i.Stem, i.PassageID, copies)
	p.items = append(p.items, it)
	p.known[it.ID] = DrawnItem{ItemID: i.ID, Identifier: i.Identifier, Stem: i.Stem, Kind: i.Kind, Standards: it.Standards, Difficulty: it.Difficulty, Depth: i.Depth, Uses: i.Uses, Passage: i.PassageID}
}

// kin names an item's near copies. What hangs on a passage asks about that passage and has none.
func kin(stem string, passage int64, copies bool) string {
	if copies || passage > 0 {
		return ""
	}
	return bank.Kin(stem)
}

// poolItem is what a blueprint must know of an item of the bank.
func poolItem(i buildrows.PoolItem) blueprint.Item {
	it := blueprint.Item{ID: itemKey(i.ID), Standards: strings.Fields(i.Standards), Kind: i.Kind, Depth: i.Depth, Language: i.Language, Passage: passageKey(i.PassageID),
		Points: points.One, Tags: strings.Fields(i.Tags), Bank: i.Bank, Uses: i.Uses, Key: i.KeyShort}
	if i.Difficulty != nil {
		d := int(*i.Difficulty)
		it.Difficulty = &d
	}
	return it
}

func passageKey(id int64) string {
	if id == 0 {
		return ""
	}
	return itemKey(id)
}

func (a *Draws) addHostile(ctx context.Context, p *itemPool) error {
	ids := make([]int64, len(p.items))
	for i, it := range p.items {
		ids[i] = p.known[it.ID].ItemID
	}
	pairs, err := buildrows.HostileTo(ctx, a.Store.Reader, ids)
	if err != nil {
		return err
	}
	of := map[string][]string{}
	for _, h := range pairs {
		of[itemKey(h.ItemID)] = append(of[itemKey(h.ItemID)], itemKey(h.OtherID))
	}
	for i := range p.items {
		p.items[i].Enemies = of[p.items[i].ID]
	}
	return nil
}

// excludeGiven keeps out what the assessment's grades were given since a day.
func (a *Draws) excludeGiven(ctx context.Context, p *itemPool, row buildrows.Assessment, q DrawQuestion) error {
	if q.NotSince == "" {
		return nil
	}
	day, err := a.StartOfDay(ctx, q.NotSince)
	if err != nil {
		return desk.Invalid("/notSince", "%q is not a date like 2026-10-13.", q.NotSince)
	}
	given, err := buildrows.GivenSince(ctx, a.Store.Reader, row.Grades, store.Millis(day))
	if err != nil {
		return err
	}
	for _, id := range given {
		if it, ok := p.known[itemKey(id)]; ok && !it.Stays {
			p.exclude[itemKey(id)] = true
		}
	}
	return nil
}

// serving counts the items of the pool that serve one of these rows, and how many they are when near copies count once.
func (p *itemPool) serving(rows ...RowInput) (n, apart int) {
	seen := map[string]bool{}
	for _, it := range p.items {
		if p.exclude[it.ID] || !slices.ContainsFunc(rows, func(r RowInput) bool { return p.tree.Meets(r.Filter, it) }) {
			continue
		}
		n++
		if it.Kin == "" || !seen[it.Kin] {
			apart++
		}
		seen[it.Kin] = true
	}
	return n, apart
}

// estimate is what stands for difficulties that are not known: the mean of those of the items that serve a row.
func (p *itemPool) estimate(rows []RowInput) *int {
	return draw.Estimate(slices.DeleteFunc(slices.Clone(p.items), func(it blueprint.Item) bool {
		return !slices.ContainsFunc(rows, func(r RowInput) bool { return p.tree.Meets(r.Filter, it) })
	}))
}

// Pools gives for each row of an assessment's blueprint how many items could serve it.
func (a *Draws) Pools(ctx context.Context, v roster.Viewer, id int64) ([]int, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	out := []int{}
	stored, err := buildrows.Blueprint(ctx, a.Store.Reader, id)
	if err != nil || len(stored) == 0 {
		return out, err
	}
	rows, err := a.drawRows(ctx, row, DrawQuestion{})
	if err != nil {
		return nil, err
	}
	counted, err := a.poolCounts(ctx, v, row, rows)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		out = append(out, counted.serving(r.Filter))
	}
	return out, nil
}

// placeError turns the core's refusal of a place into a field's.
func placeError(err error) error {
	var place *blueprint.PlaceError
	if errors.As(err, &place) {
		return FromCore(&band.PlaceError{Place: place.Place, Reason: place.Reason})
	}
	return err
}
