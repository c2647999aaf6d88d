// Package itemrows reads items from the rows of a sheet, one way a kind.
package itemrows

import (
	"html"
	"strconv"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/table"
)

// rowReaders read the columns that make an item of each kind.
var rowReaders = map[item.Kind]func(table.Row) (item.Item, error){
	item.SingleChoice:   readChoices,
	item.MultipleChoice: readChoices,
	item.TrueFalse:      readTrueFalse,
	item.Order:          readChoices,
	item.Match:          readPairs,
	item.Sort:           readPairs,
	item.BoxTable:       readPairs,
	item.Text:           readText,
	item.Number:         readNumber,
	item.NumberLine:     readNumberLine,
	item.SelectText:     readSelectText,
	item.Menus:          readMenus,
	item.ShortWritten:   readWritten,
	item.LongWritten:    readWritten,
	item.Examiner:       readExaminer,
}

func ReadItem(row table.Row) (item.Item, error) {
	kind := item.Kind(row.Get("kind"))
	read, ok := rowReaders[kind]
	if !ok {
		var names []string
		for _, k := range item.Kinds() {
			if rowReaders[k] != nil { // the others come in packages
				names = append(names, string(k))
			}
		}
		return item.Item{}, row.Refuse("kind", "%q is not one of %s", kind, strings.Join(names, ", "))
	}
	return read(row)
}

// numbered gives the cells of columns such as choice_1, choice_2, …
func numbered(row table.Row, prefix string) []string {
	var out []string
	for _, column := range row.Columns() {
		if strings.HasPrefix(column, prefix) && row.Get(column) != "" {
			out = append(out, item.Formatted(row.Get(column)))
		}
	}
	return out
}

// letterPlace is the place that a letter names: A is 0. ok is false beyond n.
func letterPlace(letter string, n int) (place int, ok bool) {
	for i := range n {
		if item.Label(i) == letter {
			return i, true
		}
	}
	return 0, false
}

func credit(row table.Row) item.CreditRule {
	if rule := row.Get("credit"); rule != "" {
		return item.CreditRule(rule)
	}
	return item.AllOrNothing
}

// readChoices reads single and multiple choice, whose key names the right
// choices, and put in order, whose key names all of them in the right order.
func readChoices(row table.Row) (item.Item, error) {
	kind, choices := item.Kind(row.Get("kind")), numbered(row, "choice_")
	var keys []int
	for _, letter := range Split(row.Get("key")) {
		at, ok := letterPlace(letter, len(choices))
		if !ok {
			return item.Item{}, row.Refuse("key", "%q is not the letter of one of the %d choices", letter, len(choices))
		}
		keys = append(keys, at)
	}
	stem := item.Formatted(row.Get("stem"))
	if kind == item.Order {
		return item.NewOrder(stem, choices, keys, credit(row)), nil
	}
	return item.NewChoice(kind, stem, choices, keys, credit(row)), nil
}

func readTrueFalse(row table.Row) (item.Item, error) {
	right, err := strconv.ParseBool(row.Get("key"))
	if err != nil {
		return item.Item{}, row.Refuse("key", "%q is not true or false", row.Get("key"))
	}
	return item.NewTrueFalse(item.Formatted(row.Get("stem")), right), nil
}

// readPairs reads match, sort and box-table, whose key joins letters of choices
// to numbers of targets: "A-2;B-1". joins says how often: "once" or "often".
func readPairs(row table.Row) (item.Item, error) {
	kind, choices, targets := item.Kind(row.Get("kind")), numbered(row, "choice_"), numbered(row, "target_")
	var key []item.Pair
	for _, pair := range Split(row.Get("key")) {
		letter, number, _ := strings.Cut(pair, "-")
		from, ok := letterPlace(strings.TrimSpace(letter), len(choices))
		to, err := strconv.Atoi(strings.TrimSpace(number))
		if !ok || err != nil || to < 1 || to > len(targets) {
			return item.Item{}, row.Refuse("key", "%q does not join the letter of one of the %d choices to the number of one of the %d targets, such as A-1", pair, len(choices), len(targets))
		}
		key = append(key, item.Pair{Choice: from, Target: to - 1})
	}
	perChoice, perTarget, err := joins(row, kind)
	if err != nil {
		return item.Item{}, err
	}
	return item.NewPairs(kind, item.Formatted(row.Get("stem")), choices, targets, key, perChoice, perTarget, credit(row)), nil
}

// joins reads how often things may be joined. Where a kind leaves it open, "once"
// holds: a target of a match takes one choice, a row of a table one box.
func joins(row table.Row, kind item.Kind) (perChoice, perTarget int, err error) {
	often := false
	switch row.Get("joins") {
	case "", "once":
	case "often":
		often = true
	default:
		return 0, 0, row.Refuse("joins", "%q is not once or often", row.Get("joins"))
	}
	switch {
	case kind == item.Sort:
		return 1, 0, nil
	case kind == item.Match && !often:
		return 1, 1, nil
	case kind == item.BoxTable && often:
		return 0, 0, nil
	default:
		return 1, 0, nil
	}
}

// flags reads columns that hold yes or no; an empty one is no.
func flags(row table.Row, columns map[string]*bool) error {
	for column, into := range columns {
		switch row.Get(column) {
		case "", "no":
		case "yes":
			*into = true
		default:
			return row.Refuse(column, "%q is not yes or no", row.Get(column))
		}
	}
	return nil
}

func readText(row table.Row) (item.Item, error) {
	key := item.TextKey{}
	if err := flags(row, map[string]*bool{"case_matters": &key.CaseMatters, "slips": &key.Slips}); err != nil {
		return item.Item{}, err
	}
	return item.NewText(item.Formatted(row.Get("stem")), Split(row.Get("key")), key), nil
}

func readNumber(row table.Row) (item.Item, error) {
	key := item.NumberKey{Tolerance: row.Get("tolerance"), Units: Split(row.Get("units"))}
	if err := flags(row, map[string]*bool{"relative": &key.Relative, "percent": &key.Percent, "clock": &key.Clock, "comma": &key.Comma}); err != nil {
		return item.Item{}, err
	}
	return item.NewNumber(item.Formatted(row.Get("stem")), Split(row.Get("key")), key, row.Get("unit")), nil
}

// readNumberLine reads the line as "from;to;step;labels": labels says that every
// so many steps bear their number, each one when left out.
func readNumberLine(row table.Row) (item.Item, error) {
	parts := Split(row.Get("line"))
	if len(parts) < 3 || len(parts) > 4 {
		return item.Item{}, row.Refuse("line", "%q is not from;to;step or from;to;step;labels", row.Get("line"))
	}
	line := item.Line{From: parts[0], To: parts[1], Step: parts[2], Labels: 1}
	if len(parts) == 4 {
		labels, err := strconv.Atoi(parts[3])
		if err != nil || labels < 1 {
			return item.Item{}, row.Refuse("line", "%q is not a number of steps", parts[3])
		}
		line.Labels = labels
	}
	return item.NewNumberLine(item.Formatted(row.Get("stem")), line, Split(row.Get("key")), row.Get("tolerance")), nil
}

// readSelectText reads a text with what can be selected in brackets: "The [tide]
// [rose]." The key names them by letter, in the order of the text.
func readSelectText(row table.Row) (item.Item, error) {
	between, inside, err := brackets(row)
	if err != nil {
		return item.Item{}, err
	}
	var runs []item.Run
	for i, text := range between {
		if text != "" {
			runs = append(runs, item.Run{HTML: text})
		}
		if i < len(inside) {
			runs = append(runs, item.Run{HTML: inside[i], Selectable: true})
		}
	}
	n := len(inside)
	var keys []int
	for _, letter := range Split(row.Get("key")) {
		at, ok := letterPlace(letter, n)
		if !ok {
			return item.Item{}, row.Refuse("key", "%q is not the letter of one of the %d brackets", letter, n)
		}
		keys = append(keys, at)
	}
	return item.NewSelectText(item.Formatted(row.Get("stem")), runs, keys, 0, credit(row)), nil
}

// readMenus reads a text with the words of each menu in brackets, parted by bars:
// "The tide [rises|falls]." The key has a letter for each menu, in their order.
func readMenus(row table.Row) (item.Item, error) {
	between, inside, err := brackets(row)
	if err != nil {
		return item.Item{}, err
	}
	keys := Split(row.Get("key"))
	if len(keys) != len(inside) {
		return item.Item{}, row.Refuse("key", "has %d letters for %d menus", len(keys), len(inside))
	}
	var list []item.Menu
	for i, words := range inside {
		menu := item.Menu{Words: strings.Split(words, "|")}
		right, ok := letterPlace(keys[i], len(menu.Words))
		if !ok {
			return item.Item{}, row.Refuse("key", "%q is not the letter of one of the %d words of menu %d", keys[i], len(menu.Words), i+1)
		}
		menu.Right = right
		list = append(list, menu)
	}
	return item.NewMenus(item.Formatted(row.Get("stem")), between, list, credit(row)), nil
}

// defaultRows is the height of a box to write in where a row does not say.
var defaultRows = map[item.Kind]int{item.ShortWritten: 3, item.LongWritten: 10}

// readWritten reads a written item. Its rubric is a trait after another:
// "Evidence: 2 two facts | 1 one fact | 0 none; Order: 1 clear | 0 unclear".
func readWritten(row table.Row) (item.Item, error) {
	kind := item.Kind(row.Get("kind"))
	rows := defaultRows[kind]
	if text := row.Get("rows"); text != "" {
		n, err := strconv.Atoi(text)
		if err != nil || n < 1 || n > 60 {
			return item.Item{}, row.Refuse("rows", "%q is not 1 to 60 lines", text)
		}
		rows = n
	}
	rubric, err := readRubric(row)
	if err != nil {
		return item.Item{}, err
	}
	return item.NewWritten(kind, item.Formatted(row.Get("stem")), rows, rubric, Split(row.Get("key"))), nil
}

func readRubric(row table.Row) (*item.Rubric, error) {
	var out item.Rubric
	for _, text := range Split(row.Get("rubric")) {
		name, levels, ok := strings.Cut(text, ":")
		if !ok {
			return nil, row.Refuse("rubric", "%q is not a trait and its levels, such as Order: 1 clear | 0 unclear", text)
		}
		t := item.Trait{Name: strings.TrimSpace(name)}
		for _, level := range strings.Split(levels, "|") {
			worth, does, _ := strings.Cut(strings.TrimSpace(level), " ")
			p, err := points.Parse(worth)
			if err != nil {
				return nil, row.Refuse("rubric", "the points %q of %s: %s", worth, t.Name, err)
			}
			t.Levels = append(t.Levels, item.Level{Points: p, Text: strings.TrimSpace(does)})
		}
		out.Traits = append(out.Traits, t)
	}
	if out.Traits == nil {
		return nil, nil
	}
	return &out, nil
}

func readExaminer(row table.Row) (item.Item, error) {
	return item.NewExaminer(item.Formatted(row.Get("stem")), item.Formatted(row.Get("directions")), row.Get("key")), nil
}

// brackets parts the column text at its brackets: what stands between (one more
// than there are brackets) and what stands inside.
func brackets(row table.Row) (between, inside []string, err error) {
	rest := html.EscapeString(row.Get("text"))
	for {
		before, after, found := strings.Cut(rest, "[")
		between = append(between, before)
		if !found {
			return between, inside, nil
		}
		in, behind, closed := strings.Cut(after, "]")
		if !closed || strings.Contains(in, "[") {
			return nil, nil, row.Refuse("text", "a bracket is not closed")
		}
		inside = append(inside, in)
		rest = behind
	}
}

// FieldOf names the column where a problem of an item is mended.
func FieldOf(p item.Problem) string {
	switch {
	case strings.HasPrefix(p.Place, "choices"):
		return "choice_1 …"
	case strings.HasPrefix(p.Place, "targets"):
		return "target_1 …"
	case strings.Contains(p.Place, "tolerance"):
		return "tolerance"
	case strings.Contains(p.Place, "rubric"):
		return "rubric"
	case strings.HasPrefix(p.Place, "declarations"):
		return "key"
	case p.Place == "body":
		return "stem"
	}
	return p.Place
}

// Split parts a cell with several values at semicolons.
func Split(cell string) []string {
	var out []string
	for _, v := range strings.Split(cell, ";") {
		if v = strings.TrimSpace(v); v != "" {
			out = append(out, v)
		}
	}
	return out
}
