package compute_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
	"pineledger/formats/compute"
	"pineledger/formats/qti"
)

// firstLine is the items as the first line gives them.
func firstLine(t *testing.T, items map[string]item.Item) string {
	t.Helper()
	type entry struct {
		Identifier string    `json:"identifier"`
		Points     float64   `json:"points"`
		Item       item.Item `json:"item"`
	}
	var list []entry
	for id, it := range items {
		list = append(list, entry{id, 2, it})
	}
	data, err := json.Marshal(map[string]any{"items": list})
	require.NoError(t, err)
	return string(data)
}

func TestScoresOfResponses(t *testing.T) {
	items := firstLine(t, map[string]item.Item{
		"many":  item.NewChoice(item.MultipleChoice, "Which?", []string{"a", "b", "c", "d"}, []int{0, 2}, item.PerChoice),
		"order": item.NewOrder("Order.", []string{"x", "y", "z"}, []int{2, 0, 1}, item.PerPlace),
		"match": item.NewPairs(item.Match, "Match.", []string{"a", "b", "c"}, []string{"p", "q", "r"}, []item.Pair{{Choice: 0, Target: 1}, {Choice: 1, Target: 0}, {Choice: 2, Target: 2}}, 1, 1, item.PerPart),
		"word":  item.NewText("Word?", []string{"tide"}, item.TextKey{}),
	})
	out, err := compute.Score(strings.NewReader(items + `
{"item":"many","response":{"RESPONSE":["A"]}}
{"item":"order","response":{"RESPONSE":["C","B","A"]}}
{"item":"match","response":{"RESPONSE":["A T2","B T3"]}}

{"item":"word","response":{"RESPONSE":["  TIDE"]}}
{"item":"word","response":{}}
`))
	require.NoError(t, err)
	lines := strings.Split(strings.TrimSpace(string(out)), "\n")
	require.Len(t, lines, 5)
	assert.Equal(t, `{"item":"many","credit":1.5,"max":2,"omitted":false,"parts":[{"response":"RESPONSE","credit":1.5,"max":2}],"why":"Chose A; the keys are A, C. 3 of 4 choices judged right."}`, lines[0])
	for i, want := range []string{`"credit":1.5`, `"credit":0.67`, `"credit":0.67`, `"credit":2`, `"credit":0,"max":2,"omitted":true`} {
		assert.Contains(t, lines[i], want)
	}
}

func TestWhatCannotBeScoredIsNamedByItsPlace(t *testing.T) {
	good := firstLine(t, map[string]item.Item{"a": item.NewTrueFalse("Is it?", true)})
	const asked = "\n" + `{"item":"x","response":{}}`
	for _, c := range []struct{ in, want string }{
		{"", "input: is empty"},
		{"[]", "line 1: is not what is wanted"},
		{`{"parcel":"items.zip"}`, `unknown field "parcel"`},
		{`{"items":[{"identifier":"","item":{"schema":1}}]}`, "items[0].identifier: is empty"},
		{`{"items":[{"identifier":"x","points":0,"item":{"schema":1}}]}` + asked, "items[0].points: 0 is not above 0"},
		{`{"items":[{"identifier":"x","item":{"schema":2}}]}` + asked, "items[0].item.schema: 2 is not 1"},
		{`{"items":[{"identifier":"x","item":{"schema":1,"kind":"riddle"}}]}` + asked, `items[0].item.kind: "riddle" is not a kind of item`},
		{good + "\n{", "line 2: is not what is wanted"},
		{good + "\n" + `{"item":"b","response":{}}`, `line 2.item: "b" is not one of the items`},
		{good + "\n" + `{"item":"a","response":{"RESPONSE":["maybe"]}}`, `line 2.response: response RESPONSE names "maybe"`},
		{good + "\n" + `{"item":"a","response":{},"more":1}`, `unknown field "more"`},
	} {
		out, err := compute.Score(strings.NewReader(c.in))
		var place *compute.PlaceError
		require.ErrorAs(t, err, &place, c.in)
		assert.ErrorContains(t, err, c.want)
		assert.Nil(t, out)
	}
}

// A package of QTI is scored by the rules that it brings, on its own scale.
func TestScoresOfAPackage(t *testing.T) {
	path := filepath.Join(t.TempDir(), "items.zip")
	file, err := os.Create(path)
	require.NoError(t, err)
	w := qti.NewWriter(file, nil)
	choice := item.NewChoice(item.MultipleChoice, "Which?", []string{"a", "b", "c", "d"}, []int{0, 2}, item.PerChoice)
	menus := item.NewMenus("Choose.", []string{"The ", " is ", "."}, []item.Menu{{Words: []string{"a", "b"}, Right: 1}, {Words: []string{"c", "d"}, Right: 0}}, item.PerPart)
	parts := item.NewParts("Both.", []item.Item{item.NewTrueFalse("It rains.", true), item.NewNumber("How many?", []string{"3"}, item.NumberKey{}, "")}, []int{-1, 0}, item.PerPart)
	for id, it := range map[string]item.Item{"many": choice, "menus": menus, "parts": parts} {
		require.NoError(t, w.Write(qti.Writing{Identifier: id, Item: it}))
	}
	require.NoError(t, w.Close())
	require.NoError(t, file.Close())

	out, err := compute.Score(strings.NewReader(`{"package":"` + path + `"}
{"item":"many","response":{"RESPONSE":["A"]}}
{"item":"menus","response":{"RESPONSE_G1":["B"],"RESPONSE_G2":["D"]}}
{"item":"parts","response":{"RESPONSE1":["true"],"RESPONSE2":["4"]}}
{"item":"parts","response":{"RESPONSE2":["3"]}}
{"item":"parts","response":{}}
`))
	require.NoError(t, err)
	var got []string
	for line := range strings.Lines(string(out)) {
		line = line[:strings.Index(line, `,"why"`)]
		got = append(got, line)
	}
	assert.Equal(t, []string{
		`{"item":"many","credit":0.75,"max":1,"omitted":false,"parts":[{"response":"RESPONSE","credit":0.75,"max":1}]`,
		`{"item":"menus","credit":1,"max":2,"omitted":false,"parts":[{"response":"RESPONSE_G1","credit":1,"max":1},{"response":"RESPONSE_G2","credit":0,"max":1}]`,
		`{"item":"parts","credit":1,"max":2,"omitted":false,"parts":[{"response":"RESPONSE1","credit":1,"max":1},{"response":"RESPONSE2","credit":0,"max":1}]`,
		`{"item":"parts","credit":0,"max":2,"omitted":false,"parts":[{"response":"RESPONSE1","credit":0,"max":1},{"response":"RESPONSE2","credit":0,"max":1}]`,
		`{"item":"parts","credit":0,"max":2,"omitted":true,"parts":[{"response":"RESPONSE1","credit":0,"max":1},{"response":"RESPONSE2","credit":0,"max":1}]`,
	}, got)

	// What cannot be scored is no matter where nobody asks for it.
	sound := firstLine(t, map[string]item.Item{"a": item.NewTrueFalse("Is it?", true)})
	out, err = compute.Score(strings.NewReader(strings.Replace(sound, `"items":[`, `"items":[{"identifier":"x","item":{"schema":1,"kind":"riddle"}},`, 1) + "\n" + `{"item":"a","response":{"RESPONSE":["true"]}}`))
	require.NoError(t, err)
	assert.Contains(t, string(out), `"credit":2`)

	empty, odd, cut := filepath.Join(t.TempDir(), "empty.zip"), filepath.Join(t.TempDir(), "odd.zip"), filepath.Join(t.TempDir(), "cut.zip")
	whole, err := os.ReadFile(path)
	require.NoError(t, err)
	for name, data := range map[string][]byte{empty: nil, odd: []byte("identifier,stem"), cut: whole[:len(whole)/2]} {
		require.NoError(t, os.WriteFile(name, data, 0o600))
	}
	for first, want := range map[string]string{
		`{"package":"none.zip"}`:                        "package: open none.zip",
		`{"package":"` + empty + `"}`:                   "package: the file is empty",
		`{"package":"` + odd + `"}`:                     "package: the file is not a zip",
		`{"package":"` + cut + `"}`:                     "package: the zip is damaged",
		`{"package":"` + path + `","items":[]}`:         "names a package and items",
		`{"package":"` + path + "\"}\n{\"item\":\"x\"}": `"x" is not one of the items`,
	} {
		_, err := compute.Score(strings.NewReader(first))
		assert.ErrorContains(t, err, want)
	}
}
