package compute

import (
	"fmt"
	"io"

	"pineledger/core/blueprint"
	"pineledger/core/points"
)

// BalanceHelp shows the form of compute balance with an example that works.
const BalanceHelp = `What a blueprint plans, what the lines hold, and what is missing.

  {"rows":[{"id":"r1","filter":{…},"count":{"min":3,"max":3}} | {"id":"r2","filter":{…},"points":{"min":8,"max":10}}],
   "lines":[{"id":"i1","standards":["M6.RR.3a"],"kind":"single-choice","depth":2,"difficulty":0.71,"language":"en","passage":null,
             "points":1,"uses":2,"key":"B","tags":["x"],"enemies":["i9"],"hold":false}],
   "standards":[{"code":"M6.RR.3a","parent":null}]}
  filter: any of standards, kinds, depth, difficulty [from, to], language, tags, without

Example:
  echo '{"rows":[{"id":"r1","filter":{"standards":["M6"]},"count":{"min":2,"max":2}}],"lines":[{"id":"i1","standards":["M6"],"kind":"number","points":1}],"standards":[{"code":"M6","parent":null}]}' | pineledger compute balance`

func readTree(n node, r *reading) []blueprint.Standard {
	var out []blueprint.Standard
	for _, s := range n.list(r) {
		m := s.object(r, "code", "parent")
		standard := blueprint.Standard{Code: m["code"].text(r)}
		if !m["parent"].absent() {
			if standard.Parent = m["parent"].text(r); standard.Parent == "" {
				r.refuse(m["parent"].place, `"" is not in the tree`)
			}
		}
		out = append(out, standard)
	}
	return out
}

func readFilter(n node, r *reading) blueprint.Filter {
	m := n.object(r, "standards", "kinds", "depth", "difficulty", "language", "tags", "without")
	f := blueprint.Filter{Standards: m["standards"].texts(r), Kinds: m["kinds"].texts(r), Tags: m["tags"].texts(r), Without: m["without"].texts(r)}
	if !m["depth"].absent() {
		f.Depth = []int{}
		for _, d := range m["depth"].list(r) {
			f.Depth = append(f.Depth, d.integer(r))
		}
	}
	if !m["difficulty"].absent() {
		ends := m["difficulty"].list(r)
		if len(ends) != 2 {
			r.refuse(m["difficulty"].place, "is not a pair [from, to]")
			return f
		}
		f.Difficulty = &[2]int{int(ends[0].decimal(r, 3)), int(ends[1].decimal(r, 3))}
	}
	if !m["language"].absent() {
		if f.Language = m["language"].text(r); f.Language == "" {
			r.refuse(m["language"].place, "is empty; leave it out where nothing is asked")
		}
	}
	return f
}

func readRow(n node, r *reading) blueprint.Row {
	m := n.object(r, "id", "filter", "count", "points")
	row := blueprint.Row{ID: m["id"].text(r), Filter: readFilter(m["filter"], r)}
	plan := m["count"]
	switch {
	case !m["count"].absent() && !m["points"].absent():
		r.refuse(n.place, "gives both count and points")
		return row
	case !m["points"].absent():
		plan, row.ByPoints = m["points"], true
	case m["count"].absent():
		r.refuse(n.place, "gives neither count nor points")
		return row
	}
	ends := plan.object(r, "min", "max")
	if row.ByPoints {
		row.Min, row.Max = pointsOf(ends["min"], r), pointsOf(ends["max"], r)
	} else {
		row.Min, row.Max = points.One*points.Points(ends["min"].integer(r)), points.One*points.Points(ends["max"].integer(r))
	}
	return row
}

func readItem(n node, r *reading) blueprint.Item {
	m := n.object(r, "id", "standards", "kind", "depth", "difficulty", "language", "passage", "points", "uses", "key", "tags", "enemies", "hold")
	it := blueprint.Item{ID: m["id"].text(r), Standards: m["standards"].texts(r), Kind: m["kind"].text(r), Points: pointsOf(m["points"], r), Tags: m["tags"].texts(r)}
	if !m["depth"].absent() {
		if it.Depth = m["depth"].integer(r); it.Depth < 1 || it.Depth > 4 {
			r.refuse(m["depth"].place, "%d is not 1–4", it.Depth)
		}
	}
	if !m["difficulty"].absent() {
		d := int(m["difficulty"].decimal(r, 3))
		if it.Difficulty = &d; d < 0 || d > 1000 {
			r.refuse(m["difficulty"].place, "is not from 0 to 1")
		}
	}
	for name, into := range map[string]*string{"language": &it.Language, "passage": &it.Passage, "key": &it.Key} {
		if !m[name].absent() {
			*into = m[name].text(r)
		}
	}
	if !m["uses"].absent() {
		if it.Uses = m["uses"].integer(r); it.Uses < 0 {
			r.refuse(m["uses"].place, "is negative")
		}
	}
	it.Enemies, it.Hold = m["enemies"].texts(r), m["hold"].boolean(r)
	return it
}

type rowOut struct {
	ID      string        `json:"id"`
	Planned points.Points `json:"planned"`
	Placed  points.Points `json:"placed"`
	Balance points.Points `json:"balance"`
	Lines   []string      `json:"lines"`
}

type balanceOut struct {
	Rows      []rowOut      `json:"rows"`
	Unclaimed []string      `json:"unclaimed"`
	Shortage  points.Points `json:"shortage"`
	Excess    points.Points `json:"excess"`
}

// Balance runs compute balance; errors are *PlaceError.
func Balance(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	o := n.object(r, "rows", "lines", "standards")
	var rows []blueprint.Row
	for _, row := range o["rows"].list(r) {
		rows = append(rows, readRow(row, r))
	}
	var items []blueprint.Item
	for _, line := range o["lines"].list(r) {
		items = append(items, readItem(line, r))
	}
	standards := readTree(o["standards"], r)
	if r.err != nil {
		return nil, r.err
	}
	b, err := balance(standards, rows, items)
	if err != nil {
		return nil, err
	}
	out := balanceOut{Rows: []rowOut{}, Unclaimed: append([]string{}, b.Unclaimed...), Shortage: b.Shortage, Excess: b.Excess}
	for _, row := range b.Rows {
		out.Rows = append(out.Rows, rowOut{row.ID, row.Planned, row.Placed, row.Balance, row.Lines})
	}
	return out, nil
}

func balance(standards []blueprint.Standard, rows []blueprint.Row, items []blueprint.Item) (blueprint.Balance, error) {
	tree, err := blueprint.NewTree(standards)
	if err != nil {
		return blueprint.Balance{}, placed(err)
	}
	b, err := blueprint.Compute(tree, rows, items)
	if err != nil {
		return blueprint.Balance{}, placed(err)
	}
	return b, checkAligned("lines", tree, items)
}

// checkAligned refuses items aligned to standards that the tree lacks.
func checkAligned(list string, tree blueprint.Tree, items []blueprint.Item) error {
	r := &reading{}
	for i, it := range items {
		for j, code := range it.Standards {
			if !tree.Has(code) {
				r.refuse(fmt.Sprintf("%s[%d].standards[%d]", list, i, j), "%q is not in the tree", code)
			}
		}
	}
	return r.err
}
