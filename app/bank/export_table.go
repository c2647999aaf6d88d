package bank

import (
	"bytes"
	"context"
	"fmt"
	"html"
	"reflect"
	"strconv"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/formats/itemrows"
	"pineledger/formats/table"
	"pineledger/store/bankrows"
)

// mostInTable bounds the items of a table; packages go further.
const mostInTable = 20_000

// columnsOfTable stand before the choices and targets, in this order.
var columnsOfTable = []string{"identifier", "bank", "kind", "subject", "grade", "course", "standards", "depth", "difficulty", "language", "tags",
	"passage", "passage_title", "passage_text", "stem", "key", "credit", "joins", "line", "text", "case_matters", "slips", "tolerance", "relative", "percent", "clock",
	"comma", "rows", "rubric", "directions", "unit", "units", "complete", "forms"}

// InPackagesAlone is what the column complete says of an item that a table cannot
// hold whole: its metadata can be read, and an import leaves it aside.
const InPackagesAlone = "no, comes in packages alone"

// ExportTable writes what a search finds as the table that comes in again. write
// gets the head and the rows: it makes a CSV or a sheet of them.
func (a *Bank) ExportTable(ctx context.Context, v roster.Viewer, in ItemSearch, write func(head []string, rows [][]string) error) (int, error) {
	if !v.MayBuild() {
		return 0, desk.ErrForbidden
	}
	q, err := a.query(ctx, v, in)
	if err != nil {
		return 0, err
	}
	if err := a.copiesOnly(ctx, v, &q); err != nil {
		return 0, err
	}
	var cells []map[string]string
	told := map[int64]bool{} // passages whose text has been written
	for q.Limit, q.Cursor = mostItems, ""; ; {
		items, next, err := bankrows.Items(ctx, a.Store.Reader, q)
		if err != nil {
			return 0, err
		}
		page, err := a.tablePage(ctx, items, told)
		if err != nil {
			return 0, err
		}
		if cells = append(cells, page...); len(cells) > mostInTable {
			return 0, desk.Invalid("", "A table holds %d items at most; narrow the search, or export them as a package.", mostInTable)
		}
		if next == "" {
			break
		}
		q.Cursor = next
	}
	head, rows := inColumns(cells)
	return len(rows), write(head, rows)
}

// inColumns lays cells out, with as many choices and targets as any item has.
func inColumns(cells []map[string]string) (head []string, rows [][]string) {
	head = append(head, columnsOfTable...)
	for _, prefix := range []string{"choice_", "target_"} {
		most := 0
		for _, c := range cells {
			for n := most + 1; ; n++ {
				if _, has := c[prefix+strconv.Itoa(n)]; !has {
					break
				}
				most = n
			}
		}
		for n := 1; n <= most; n++ {
			head = append(head, prefix+strconv.Itoa(n))
		}
	}
	for _, c := range cells {
		row := make([]string, len(head))
		for i, column := range head {
			row[i] = c[column]
		}
		rows = append(rows, row)
	}
	return head, rows
}

func (a *Bank) tablePage(ctx context.Context, items []bankrows.Item, told map[int64]bool) ([]map[string]string, error) {
	ids := make([]int64, len(items))
	for i, it := range items {
		ids[i] = it.ID
	}
	versions, err := bankrows.NewestVersions(ctx, a.Store.Reader, ids)
	if err != nil {
		return nil, err
	}
	documents := map[int64]string{}
	for _, v := range versions {
		documents[v.ItemID] = v.Document
	}
	var out []map[string]string
	for _, row := range items {
		it, err := item.Read([]byte(documents[row.ID]))
		if err != nil {
			return nil, fmt.Errorf("%s: %w", row.Identifier, err)
		}
		c := itemCells(it)
		c["complete"] = "yes"
		if !comesBack(it, c) {
			c["complete"], c["stem"] = InPackagesAlone, it.Stem()
		}
		if err := a.metaCells(ctx, row, c, told); err != nil {
			return nil, err
		}
		out = append(out, c)
	}
	return out, nil
}

func (a *Bank) metaCells(ctx context.Context, row bankrows.Item, c map[string]string, told map[int64]bool) error {
	tags, err := everyonesTags(ctx, a.Store.Reader, row)
	if err != nil {
		return err
	}
	c["identifier"], c["bank"], c["kind"], c["subject"], c["grade"], c["course"] = row.Identifier, row.Bank, row.Kind, row.Subject, row.Grade, row.Course
	c["standards"], c["tags"], c["language"], c["forms"] = strings.Join(desk.Codes(row.Standards), ";"), strings.Join(tags, ";"), row.Language, strconv.Itoa(row.Uses)
	if row.Depth > 0 {
		c["depth"] = strconv.Itoa(row.Depth)
	}
	if row.Difficulty != nil {
		c["difficulty"] = Thousandths(*row.Difficulty)
	}
	if row.PassageID == 0 {
		return nil
	}
	list, err := bankrows.Passages(ctx, a.Store.Reader, []int64{row.PassageID})
	if err != nil || len(list) == 0 {
		return fmt.Errorf("the passage of %s: %w", row.Identifier, err)
	}
	c["passage"], c["passage_title"] = list[0].Identifier, list[0].Title
	if !told[row.PassageID] {
		told[row.PassageID] = true
		c["passage_text"] = cell(list[0].Body)
	}
	return nil
}

// comesBack tells whether the cells make the same item when they are read.
func comesBack(it item.Item, c map[string]string) bool {
	head, rows := inColumns([]map[string]string{c})
	for i, column := range head {
		if column == "kind" {
			rows[0][i] = string(it.Kind)
		}
	}
	var file bytes.Buffer
	if err := table.Write(&file, head, rows); err != nil {
		return false
	}
	reader, err := table.NewReader("", &file)
	if err != nil {
		return false
	}
	row, err := reader.Next()
	if err != nil {
		return false
	}
	again, err := itemrows.ReadItem(row)
	return err == nil && reflect.DeepEqual(again.Tidied(), it.Tidied())
}

// cell writes a formatted text so that it is read as the same: plain where it is
// plain, and otherwise beginning with a tag or an empty comment.
func cell(h string) string {
	plain := item.PlainText(h)
	switch {
	case !strings.HasPrefix(plain, "<") && item.Clean(item.Formatted(plain)) == h:
		return plain
	case strings.HasPrefix(h, "<"):
		return h
	}
	return "<!---->" + h
}

// itemCells writes an item's own columns. What they cannot hold is found by reading
// them again.
func itemCells(it item.Item) map[string]string {
	c := map[string]string{}
	if len(it.Body) != 2 || it.Body[1].Interaction == nil || len(it.Declarations) != 1 {
		return c
	}
	in, d := it.Body[1].Interaction, it.Declarations[0]
	c["stem"], c["key"], c["unit"], c["directions"] = cell(it.Body[0].HTML), strings.Join(d.Correct, ";"), in.Unit, cell(it.Directions)
	if it.Credit != item.AllOrNothing && it.Credit != item.ByReader {
		c["credit"] = string(it.Credit)
	}
	switch it.Kind {
	case item.SingleChoice, item.MultipleChoice, item.Order:
		numberedCells(c, "choice_", in.Choices)
	case item.TrueFalse:
		c["key"] = strings.ToLower(it.KeyShort())
	case item.Match, item.Sort, item.BoxTable:
		pairCells(c, it.Kind, in, d)
	case item.Text:
		flagCells(c, map[string]bool{"case_matters": d.Text.CaseMatters, "slips": d.Text.Slips})
	case item.Number:
		c["tolerance"], c["units"] = d.Number.Tolerance, strings.Join(d.Number.Units, ";")
		flagCells(c, map[string]bool{"relative": d.Number.Relative, "percent": d.Number.Percent, "clock": d.Number.Clock, "comma": d.Number.Comma})
	case item.NumberLine:
		c["tolerance"] = d.Number.Tolerance
		c["line"] = strings.Join([]string{in.Line.From, in.Line.To, in.Line.Step, strconv.Itoa(in.Line.Labels)}, ";")
	case item.SelectText:
		c["text"] = bracketed(in.Choices, func(ch item.Choice) string { return ch.HTML })
	case item.Menus:
		menuCells(c, in, d)
	case item.ShortWritten, item.LongWritten:
		c["rows"], c["rubric"] = strconv.Itoa(in.Rows), rubricCell(d.Rubric)
	}
	return c
}

func numberedCells(c map[string]string, prefix string, choices []item.Choice) {
	for i, ch := range choices {
		c[prefix+strconv.Itoa(i+1)] = cell(ch.HTML)
	}
}

func flagCells(c map[string]string, flags map[string]bool) {
	for column, on := range flags {
		if on {
			c[column] = "yes"
		}
	}
}

func pairCells(c map[string]string, kind item.Kind, in *item.Interaction, d item.Declaration) {
	numberedCells(c, "choice_", in.Choices)
	numberedCells(c, "target_", in.Targets)
	var key []string
	for _, pair := range d.Correct {
		key = append(key, strings.Replace(pair, " T", "-", 1))
	}
	c["key"] = strings.Join(key, ";")
	// A row of a table with any number of boxes; a target of a match that takes any number.
	anyRow := len(in.Choices) > 0 && in.Choices[0].Most == 0
	anyTarget := len(in.Targets) > 0 && in.Targets[0].Most == 0
	if anyRow || anyTarget && kind == item.Match {
		c["joins"] = "often"
	}
}

// bracketed writes a text with what can be selected in brackets.
func bracketed(runs []item.Choice, inside func(item.Choice) string) string {
	var out strings.Builder
	for _, r := range runs {
		if r.Plain {
			out.WriteString(html.UnescapeString(r.HTML))
		} else {
			out.WriteString("[" + html.UnescapeString(inside(r)) + "]")
		}
	}
	return out.String()
}

func menuCells(c map[string]string, in *item.Interaction, d item.Declaration) {
	words := map[string][]string{} // by menu
	place := map[string]int{}      // of a word in its menu
	for _, ch := range in.Choices {
		place[ch.ID] = len(words[ch.In])
		words[ch.In] = append(words[ch.In], ch.HTML)
	}
	c["text"] = bracketed(in.Targets, func(t item.Choice) string { return strings.Join(words[t.ID], "|") })
	var key []string
	for _, pair := range d.Correct {
		id, _, _ := strings.Cut(pair, " ")
		key = append(key, item.Label(place[id]))
	}
	c["key"] = strings.Join(key, ";")
}

func rubricCell(r *item.Rubric) string {
	if r == nil {
		return ""
	}
	var traits []string
	for _, t := range r.Traits {
		var levels []string
		for _, l := range t.Levels {
			levels = append(levels, strings.TrimSpace(l.Points.String()+" "+l.Text))
		}
		traits = append(traits, t.Name+": "+strings.Join(levels, " | "))
	}
	return strings.Join(traits, "; ")
}
