package bank

import (
	"context"
	"errors"
	"slices"
	"sort"
	"sync"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// mostItems is the largest page of a search.
const mostItems = 200

// ItemSearch is a search of the bank as a person asks for it. Zero values do not restrict.
type ItemSearch struct {
	Words                        string
	Standard                     int64 // with everything below it
	Unaligned                    bool
	Unlinked                     bool // not what is aligned to linked standards of other frameworks
	Passage                      int64
	Tags                         []string // any of these names
	Owner                        int64
	DifficultyFrom, DifficultyTo *int // thousandths
	UsesFrom, UsesTo             *int
	UsedSince, NotUsedSince      string // dates, "2026-10-13"
	Kinds, Subjects, Grades      []string
	Courses, Languages           []string
	Eases, Banks                 []string
	Depths                       []int
	Only                         []int64
	Sort                         bankrows.ItemSort
	Cursor                       string
	Limit                        int
}

// asWritten gives what people write the way in which it is kept.
func asWritten(list []string, kept func(string) string) []string {
	var out []string
	for _, v := range list {
		out = append(out, kept(v))
	}
	return out
}

// query turns a search into one of the store, within what its viewer may find.
func (a *Bank) query(ctx context.Context, v roster.Viewer, in ItemSearch) (bankrows.ItemQuery, error) {
	in.Subjects, in.Grades = asWritten(in.Subjects, desk.SubjectCode), asWritten(in.Grades, func(g string) string {
		code, ok := roster.ReadGrade(g)
		if !ok {
			return g // which finds nothing, and is said so
		}
		return code
	})
	q := bankrows.ItemQuery{Words: in.Words, Alone: in.Unaligned, PassageID: in.Passage, OwnerID: in.Owner, DifficultyFrom: in.DifficultyFrom, DifficultyTo: in.DifficultyTo,
		UsesFrom: in.UsesFrom, UsesTo: in.UsesTo, Only: in.Only, Kinds: in.Kinds, Subjects: in.Subjects, Grades: in.Grades, Courses: in.Courses,
		Languages: in.Languages, Eases: in.Eases, Banks: in.Banks, Depths: in.Depths, Sort: in.Sort, Cursor: in.Cursor, Limit: in.Limit}
	if q.Limit <= 0 || q.Limit > mostItems {
		q.Limit = mostItems
	}
	var err error
	if q.Scope, err = a.ItemScope(ctx, a.Store.Reader, v); err != nil {
		return q, err
	}
	if q.Common, err = bankrows.CommonWords(ctx, a.Store.Reader, in.Words); err != nil {
		return q, err
	}
	if in.Standard > 0 {
		if q.Standards, err = bankrows.StandardsUnder(ctx, a.Store.Reader, in.Standard); err != nil {
			return q, err
		}
		if !in.Unlinked {
			if q.Standards, _, err = a.withLinked(ctx, q.Standards); err != nil {
				return q, err
			}
		}
	}
	if len(in.Tags) > 0 {
		if q.TagIDs, err = a.tagIDs(ctx, v, in.Tags); err != nil {
			return q, err
		}
	}
	for _, since := range []struct {
		date, pointer string
		into          *int64
	}{{in.UsedSince, "/usedSince", &q.UsedSince}, {in.NotUsedSince, "/notUsedSince", &q.NotUsedSince}} {
		if since.date == "" {
			continue
		}
		day, err := a.StartOfDay(ctx, since.date)
		if err != nil {
			return q, desk.Invalid(since.pointer, "%q is not a date like 2026-10-13.", since.date)
		}
		*since.into = store.Millis(day)
	}
	return q, nil
}

// tagIDs finds the tags with these names that exist for a viewer.
func (a *Bank) tagIDs(ctx context.Context, v roster.Viewer, names []string) ([]int64, error) {
	tags, err := tagsFor(ctx, a.Store.Reader, v)
	ids := []int64{}
	for _, t := range tags {
		if slices.Contains(names, t.Name) {
			ids = append(ids, t.ID)
		}
	}
	return ids, err
}

// FacetCount is how many items a search would find with one more value chosen.
type FacetCount struct {
	Value string
	Count int
}

// FoundItem is an item of a search with where its words were found, what of its
// tags exists for the viewer, and the hold that the viewer may know of.
type FoundItem struct {
	bankrows.Item
	Hit  *bankrows.Hit
	Tags []bankrows.Tag
	Held *bankrows.Hold
}

// ItemPage is a page of a search. Facets come by their name; each counts under
// the other facets' choices, so that one sees what choosing more would give.
type ItemPage struct {
	Items  []FoundItem
	Total  int
	Next   string
	Facets map[string][]FacetCount
	Links  []bankrows.LinkedStandard // through which a search by standard finds more
}

// Items searches the bank.
func (a *Bank) Items(ctx context.Context, v roster.Viewer, in ItemSearch) (ItemPage, error) {
	if !v.MayReadKeys() {
		return ItemPage{}, desk.ErrForbidden
	}
	q, err := a.query(ctx, v, in)
	if err != nil {
		return ItemPage{}, err
	}
	// The first page carries total and facets, which are counted beside it.
	var groups []bankrows.FacetGroup
	var counting sync.WaitGroup
	var countErr error
	if q.Cursor == "" {
		counting.Go(func() { groups, countErr = bankrows.ItemFacets(ctx, a.Store.Reader, q) })
	}
	items, next, err := bankrows.Items(ctx, a.Store.Reader, q)
	page := ItemPage{Next: next}
	if err == nil {
		page.Items, err = a.Found(ctx, v, q.Words, items)
	}
	counting.Wait()
	if err := errors.Join(err, countErr); err != nil || q.Cursor != "" {
		return page, err
	}
	page.Total, page.Facets = countFacets(groups, q)
	if in.Standard > 0 {
		under, err := bankrows.StandardsUnder(ctx, a.Store.Reader, in.Standard)
		if err != nil {
			return page, err
		}
		page.Links, err = throughLinks(ctx, a.Store.Reader, under)
		return page, err
	}
	return page, nil
}

// ItemIDs gives the ids of the first items that a search finds, to act on all of them at once.
func (a *Bank) ItemIDs(ctx context.Context, v roster.Viewer, in ItemSearch) ([]int64, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	q, err := a.query(ctx, v, in)
	if err != nil {
		return nil, err
	}
	q.Limit, q.Cursor = MostTagged, ""
	return bankrows.ItemIDs(ctx, a.Store.Reader, q)
}

// Found adds to the items of a page what lists show beside them.
func (a *Bank) Found(ctx context.Context, v roster.Viewer, words string, items []bankrows.Item) ([]FoundItem, error) {
	ids, sets := make([]int64, len(items)), []int64{}
	for i, it := range items {
		ids[i] = it.ID
		if !slices.Contains(sets, it.TagSetID) {
			sets = append(sets, it.TagSetID)
		}
	}
	hits, err := bankrows.ItemHits(ctx, a.Store.Reader, words, ids)
	if err != nil {
		return nil, err
	}
	tags, err := bankrows.TagSetMembers(ctx, a.Store.Reader, sets)
	if err != nil {
		return nil, err
	}
	holds, err := bankrows.HoldsOf(ctx, a.Store.Reader, v.PersonID, store.Millis(a.Now()), ids)
	if err != nil {
		return nil, err
	}
	out := make([]FoundItem, len(items))
	for i, it := range items {
		out[i] = FoundItem{Item: it, Tags: seenTags(v, tags[it.TagSetID])}
		if at := slices.IndexFunc(hits, func(h bankrows.Hit) bool { return h.ItemID == it.ID }); at >= 0 {
			out[i].Hit = &hits[at]
		}
		if h, held := holds[it.ID]; held {
			out[i].Held = &h
		}
	}
	return out, nil
}

func seenTags(v roster.Viewer, tags []bankrows.Tag) []bankrows.Tag {
	return slices.DeleteFunc(slices.Clone(tags), func(t bankrows.Tag) bool { return !bank.SeesTag(v, coreTag(t)) })
}

var facetNames = [8]string{"kind", "subject", "grade", "course", "depth", "language", "ease", "bank"}

// facetValue reads a group's value of each facet, in the order of facetNames.
func facetValue(g bankrows.FacetGroup) [8]string {
	return [8]string{g.Kind, g.Subject, g.Grade, g.Course, depthName(g.Depth), g.Language, g.Ease, g.Bank}
}

func depthName(d int) string {
	if d == 0 {
		return ""
	}
	return string(rune('0' + d))
}

func countFacets(groups []bankrows.FacetGroup, q bankrows.ItemQuery) (total int, out map[string][]FacetCount) {
	var depths []string
	for _, d := range q.Depths {
		depths = append(depths, depthName(d))
	}
	chosen := [8][]string{q.Kinds, q.Subjects, q.Grades, q.Courses, depths, q.Languages, q.Eases, q.Banks}
	counts := [8]map[string]int{}
	for f := range counts {
		counts[f] = map[string]int{}
	}
	for _, g := range groups {
		values := facetValue(g)
		missed, at := 0, -1
		for f, want := range chosen {
			if len(want) > 0 && !slices.Contains(want, values[f]) {
				missed, at = missed+1, f
			}
		}
		switch missed {
		case 0:
			total += g.Count
			for f := range counts {
				counts[f][values[f]] += g.Count
			}
		case 1:
			counts[at][values[at]] += g.Count // would be found if this facet let it
		}
	}
	out = map[string][]FacetCount{}
	for f, name := range facetNames {
		list := []FacetCount{}
		for value, n := range counts[f] {
			if value != "" {
				list = append(list, FacetCount{value, n})
			}
		}
		sort.Slice(list, func(i, j int) bool { return list[i].Value < list[j].Value })
		out[name] = list
	}
	return total, out
}

// TagCount is a tag with how many found items carry it.
type TagCount struct {
	bankrows.Tag
	Count int
}

// mostTagCounts are listed at once.
const mostTagCounts = 40

// ItemTags counts what a search finds by tag, the most frequent first. The tags
// that are chosen do not narrow the counts of the others.
func (a *Bank) ItemTags(ctx context.Context, v roster.Viewer, in ItemSearch) ([]TagCount, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	in.Tags = nil
	q, err := a.query(ctx, v, in)
	if err != nil {
		return nil, err
	}
	tags, err := tagsFor(ctx, a.Store.Reader, v)
	if err != nil || len(tags) == 0 {
		return nil, err
	}
	sets, err := bankrows.ItemTagSets(ctx, a.Store.Reader, q)
	if err != nil {
		return nil, err
	}
	counts, err := a.countTags(ctx, sets)
	if err != nil {
		return nil, err
	}
	out := []TagCount{}
	for _, t := range tags {
		if counts[t.ID] > 0 {
			out = append(out, TagCount{t, counts[t.ID]})
		}
	}
	slices.SortStableFunc(out, func(x, y TagCount) int { return y.Count - x.Count })
	return out[:min(len(out), mostTagCounts)], nil
}

// StandardNode is a standard with how many found items are aligned to it or below it.
type StandardNode struct {
	bankrows.Standard
	Items int
}

// Frameworks lists the frameworks that are known.
func (a *Bank) Frameworks(ctx context.Context, v roster.Viewer) ([]bankrows.Framework, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	return bankrows.Frameworks(ctx, a.Store.Reader)
}

// Standards lists a framework from top to bottom, and counts at each standard what
// a search finds there and below. The standard that is chosen does not narrow the
// counts. Who may not look into banks sees a framework without counts.
func (a *Bank) Standards(ctx context.Context, v roster.Viewer, framework int64, in ItemSearch) ([]StandardNode, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	standards, err := bankrows.Standards(ctx, a.Store.Reader, framework)
	if err != nil {
		return nil, err
	}
	in.Standard = 0
	q, err := a.query(ctx, v, in)
	if err != nil {
		return nil, err
	}
	counts, err := bankrows.ItemAlignments(ctx, a.Store.Reader, q)
	if err != nil {
		return nil, err
	}
	sets, err := bankrows.AlignedSets(ctx, a.Store.Reader, framework)
	if err != nil {
		return nil, err
	}
	return countItems(standards, sets, counts), nil
}

// countItems counts each item once at every standard at or above its alignments.
// sets comes set by set.
func countItems(standards []bankrows.Standard, sets []bankrows.AlignedSet, counts []bankrows.SetCount) []StandardNode {
	out := make([]StandardNode, len(standards))
	ids := make(map[int64]int, len(standards)) // id → index
	for i, s := range standards {
		out[i].Standard = s
		ids[s.ID] = i
	}
	found := make(map[int64]int, len(counts))
	for _, c := range counts {
		found[c.SetID] = c.Count
	}
	lastSet := make([]int64, len(standards))
	for _, x := range sets {
		n := found[x.SetID]
		if n == 0 {
			continue
		}
		for i, ok := ids[x.StandardID]; ok; i, ok = ids[out[i].ParentID] {
			if lastSet[i] == x.SetID {
				break // counted here and so everywhere above
			}
			lastSet[i] = x.SetID
			out[i].Items += n
		}
	}
	return out
}
