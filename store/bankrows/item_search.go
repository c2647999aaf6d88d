package bankrows

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"pineledger/store/sqlite"
)

// ItemSort orders a search.
type ItemSort string

const (
	NewestFirst   ItemSort = "newest"
	HardestFirst  ItemSort = "difficulty"
	EasiestFirst  ItemSort = "easiest"
	MostUsed      ItemSort = "uses"
	LastUsed      ItemSort = "lastUse"
	LongestUnused ItemSort = "unused"
)

// sortKeys give each order one number to page by, largest first.
var sortKeys = map[ItemSort]string{
	NewestFirst:   "i.changed_at",
	HardestFirst:  "-COALESCE(i.difficulty, 1001)",
	EasiestFirst:  "COALESCE(i.difficulty, -1)",
	MostUsed:      "i.uses",
	LastUsed:      "i.last_used",
	LongestUnused: "-i.last_used",
}

// ItemScope is how far a search reaches. Its zero value reaches nothing.
type ItemScope struct {
	All   bool    // everything, for the program itself
	Banks []int64 // the banks that who asks may look into
	Held  []int64 // items on hold that who asks may not know of
}

// ItemQuery is a search of the bank. Zero values do not restrict, but for Scope.
type ItemQuery struct {
	Scope          ItemScope
	Words          string
	Common         bool    // the words are in many items, see CommonWords: it changes how is searched, not what is found
	Standards      []int64 // aligned to any of these; what lies below is already among them
	Alone          bool    // aligned to nothing
	PassageID      int64
	TagIDs         []int64 // any of these
	OwnerID        int64
	DifficultyFrom *int
	DifficultyTo   *int
	UsesFrom       *int
	UsesTo         *int
	UsedSince      int64 // ms
	NotUsedSince   int64
	Only           []int64 // these ids
	Not            []int64 // not these ids
	// Facets: any of the values of each.
	Kinds, Subjects, Grades, Courses, Languages, Eases, Banks []string
	Depths                                                    []int
	Sort                                                      ItemSort
	Cursor                                                    string // of the page before
	Limit                                                     int
}

// Conditions other than facets.
func (q ItemQuery) Conditions() sqlite.Where {
	var w sqlite.Where
	q.Scope.add(&w)
	if match := matchWords(q.Words); match != "" {
		id := "i.id"
		if q.Common {
			id = "+i.id" // an index is walked, rather than each of many items looked up
		}
		w.Add(id+" IN (SELECT rowid FROM item_words WHERE item_words MATCH ?)", match)
	}
	if q.Alone {
		w.Add("i.alignment_id = ?", emptySet)
	}
	if q.Standards != nil {
		w.Add("i.alignment_id IN (SELECT alignment_id FROM alignment_standard WHERE standard_id IN (SELECT value FROM json_each(?)))", sqlite.JsonIDs(q.Standards))
	}
	if q.PassageID > 0 {
		w.Add("i.passage_id = ?", q.PassageID)
	}
	if q.TagIDs != nil {
		w.Add("i.tag_set_id IN (SELECT tag_set_id FROM tag_set_tag WHERE tag_id IN (SELECT value FROM json_each(?)))", sqlite.JsonIDs(q.TagIDs))
	}
	if q.OwnerID > 0 {
		w.Add("i.owner_id = ?", q.OwnerID)
	}
	for _, bound := range []struct {
		condition string
		value     *int
	}{{"i.difficulty >= ?", q.DifficultyFrom}, {"i.difficulty <= ?", q.DifficultyTo}, {"i.uses >= ?", q.UsesFrom}, {"i.uses <= ?", q.UsesTo}} {
		if bound.value != nil {
			w.Add(bound.condition, *bound.value)
		}
	}
	if q.UsedSince > 0 {
		w.Add("i.last_used >= ?", q.UsedSince)
	}
	if q.NotUsedSince > 0 {
		w.Add("i.last_used < ?", q.NotUsedSince)
	}
	if q.Only != nil {
		w.Add("i.id IN (SELECT value FROM json_each(?))", sqlite.JsonIDs(q.Only))
	}
	if len(q.Not) > 0 {
		w.Add("i.id NOT IN (SELECT value FROM json_each(?))", sqlite.JsonIDs(q.Not))
	}
	return w
}

// matchWords turns typed words into a query that finds all of them, the last one
// also while it is being typed.
func matchWords(words string) string {
	var out []string
	for _, word := range strings.Fields(words) {
		out = append(out, `"`+strings.ReplaceAll(word, `"`, `""`)+`"`)
	}
	if len(out) == 0 {
		return ""
	}
	return strings.Join(out, " ") + "*"
}

// manyItems is from how many on it is faster to walk an index than to look each up.
const manyItems = 8_000

// CommonWords tells whether words are in many items.
func CommonWords(ctx context.Context, r sqlite.Reader, words string) (bool, error) {
	match := matchWords(words)
	if match == "" {
		return false, nil
	}
	var n int
	err := r.Get(ctx, &n, "SELECT COUNT(*) FROM (SELECT 1 FROM item_words WHERE item_words MATCH ? LIMIT ?)", match, manyItems)
	return n == manyItems, err
}

func (q ItemQuery) Facets(w *sqlite.Where) {
	facet := func(column string, values []string) {
		if len(values) > 0 {
			condition, args := sqlite.In(column, values)
			w.Add(condition, args...)
		}
	}
	facet("i.kind", q.Kinds)
	facet("i.subject", q.Subjects)
	facet("i.grade", q.Grades)
	facet("i.course", q.Courses)
	facet("i.language", q.Languages)
	facet("i.ease", q.Eases)
	if len(q.Banks) > 0 {
		condition, args := sqlite.In("name", q.Banks)
		w.Add("i.bank_id IN (SELECT id FROM bank WHERE "+condition+")", args...)
	}
	if len(q.Depths) > 0 {
		condition, args := sqlite.In("i.depth", q.Depths)
		w.Add(condition, args...)
	}
}

// Items gives a page of a search and the cursor of the next, "" at the end. The
// page is found on its narrow rows first, and only its items are read whole.
func Items(ctx context.Context, r sqlite.Reader, q ItemQuery) (items []Item, next string, err error) {
	w := q.Conditions()
	q.Facets(&w)
	key, ok := sortKeys[q.Sort]
	if !ok {
		key = sortKeys[NewestFirst]
	}
	if value, id, ok := readCursor(q.Cursor); ok {
		w.Add("("+key+", i.id) < (?, ?)", value, id)
	}
	var rows []struct {
		Item
		Key int64 `db:"key"`
	}
	query := "SELECT page.key, " + itemColumns + " FROM (SELECT i.id, " + key + " AS key FROM item i" + w.String() +
		" ORDER BY " + key + " DESC, i.id DESC LIMIT ?) page JOIN item i ON i.id = page.id" + itemJoins + " ORDER BY page.key DESC, i.id DESC"
	err = r.List(ctx, &rows, query, append(w.Args, q.Limit)...)
	for _, row := range rows {
		items = append(items, row.Item)
	}
	if len(rows) == q.Limit && q.Limit > 0 {
		last := rows[len(rows)-1]
		next = fmt.Sprintf("%d.%d", last.Key, last.ID)
	}
	return items, next, err
}

// ItemIDs gives the ids of what a search finds, without order.
func ItemIDs(ctx context.Context, r sqlite.Reader, q ItemQuery) ([]int64, error) {
	w := q.Conditions()
	q.Facets(&w)
	out := []int64{}
	err := r.List(ctx, &out, "SELECT i.id FROM item i"+w.String()+" LIMIT ?", append(w.Args, q.Limit)...)
	return out, err
}

// CountItems counts what a search finds.
func CountItems(ctx context.Context, r sqlite.Reader, q ItemQuery) (int, error) {
	w := q.Conditions()
	q.Facets(&w)
	var n int
	err := r.Get(ctx, &n, "SELECT COUNT(*) FROM item i"+w.String(), w.Args...)
	return n, err
}

func readCursor(cursor string) (value, id int64, ok bool) {
	a, b, found := strings.Cut(cursor, ".")
	value, err1 := strconv.ParseInt(a, 10, 64)
	id, err2 := strconv.ParseInt(b, 10, 64)
	return value, id, found && err1 == nil && err2 == nil
}

// FacetGroup counts the items that share all their facets.
type FacetGroup struct {
	Kind     string `db:"kind"`
	Subject  string `db:"subject"`
	Grade    string `db:"grade"`
	Course   string `db:"course"`
	Depth    int    `db:"depth"`
	Language string `db:"language"`
	Ease     string `db:"ease"`
	Bank     string `db:"bank"`
	Count    int    `db:"n"`
}

// ItemFacets groups what a search without its facets finds.
func ItemFacets(ctx context.Context, r sqlite.Reader, q ItemQuery) ([]FacetGroup, error) {
	w := q.Conditions()
	var out []FacetGroup
	err := r.List(ctx, &out, `SELECT g.kind, g.subject, g.grade, g.course, g.depth, g.language, g.ease, b.name AS bank, g.n FROM
		(SELECT i.subject, i.grade, i.course, i.kind, i.depth, i.language, i.ease, i.bank_id, COUNT(*) AS n FROM item i`+w.String()+`
			GROUP BY i.subject, i.grade, i.course, i.kind, i.depth, i.language, i.ease, i.bank_id) g JOIN bank b ON b.id = g.bank_id`, w.Args...)
	return out, err
}

// SetCount is how many found items share a set of standards, or of tags.
type SetCount struct {
	SetID int64 `db:"set_id"`
	Count int   `db:"n"`
}

// ItemAlignments groups what a search finds by the standards it is aligned to.
func ItemAlignments(ctx context.Context, r sqlite.Reader, q ItemQuery) ([]SetCount, error) {
	return itemSets(ctx, r, q, "i.alignment_id")
}

// ItemTagSets groups what a search finds by the tags it carries.
func ItemTagSets(ctx context.Context, r sqlite.Reader, q ItemQuery) ([]SetCount, error) {
	return itemSets(ctx, r, q, "i.tag_set_id")
}

func itemSets(ctx context.Context, r sqlite.Reader, q ItemQuery, column string) ([]SetCount, error) {
	w := q.Conditions()
	q.Facets(&w)
	walk := ""
	if (q.Words == "" || q.Common) && q.Only == nil && q.PassageID == 0 {
		walk = " INDEXED BY item_facets" // the planner would take the shorter index and look up every row
	}
	var out []SetCount
	err := r.List(ctx, &out, "SELECT "+column+" AS set_id, COUNT(*) AS n FROM item i"+walk+w.String()+" GROUP BY "+column, w.Args...)
	return out, err
}

// HitBegins and HitEnds stand around each word that a search found.
const (
	HitBegins = "\x02"
	HitEnds   = "\x03"
)

// Hit shows where an item holds the words of a search: the surroundings of the hit
// in each text. Choices and Passage are "" without one there.
type Hit struct {
	ItemID  int64  `db:"item_id"`
	Stem    string `db:"stem"`
	Choices string `db:"choices"`
	Passage string `db:"passage"`
}

// ItemHits marks the words of a search in the items of a page.
func ItemHits(ctx context.Context, r sqlite.Reader, words string, items []int64) ([]Hit, error) {
	match := matchWords(words)
	if match == "" || len(items) == 0 {
		return nil, nil
	}
	var out []Hit
	err := r.List(ctx, &out, `SELECT rowid AS item_id, snippet(item_words, 1, char(2), char(3), '…', 14) AS stem,
			snippet(item_words, 2, char(2), char(3), '…', 12) AS choices, snippet(item_words, 3, char(2), char(3), '…', 12) AS passage
		FROM item_words WHERE item_words MATCH ? AND rowid BETWEEN ? AND ? AND +rowid IN (SELECT value FROM json_each(?))`,
		match, slices.Min(items), slices.Max(items), sqlite.JsonIDs(items)) // one walk over the range; "rowid IN" would search anew for each
	for i := range out {
		if !strings.Contains(out[i].Choices, HitBegins) {
			out[i].Choices = ""
		}
		if !strings.Contains(out[i].Passage, HitBegins) {
			out[i].Passage = ""
		}
	}
	return out, err
}

func (s ItemScope) add(w *sqlite.Where) {
	if s.All {
		return
	}
	condition, args := sqlite.In("i.bank_id", s.Banks)
	w.Add(condition, args...)
	if len(s.Held) > 0 {
		w.Add("i.id NOT IN (SELECT value FROM json_each(?))", sqlite.JsonIDs(s.Held))
	}
}
