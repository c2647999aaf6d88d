package compute_test

import (
	"encoding/json"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/compute"
)

func run(t *testing.T, f func(io.Reader) (any, error), in string) string {
	t.Helper()
	out, err := f(strings.NewReader(in))
	require.NoError(t, err)
	data, err := json.Marshal(out)
	require.NoError(t, err)
	return string(data)
}

const form = `{"lines":[{"points":18,"step":1}],"bands":[{"name":"Launching"},{"name":"On course","cut":{"percent":70}},{"name":"Beyond","cut":{"raw":20,"of":19}}]}`

func TestCuts(t *testing.T) {
	assert.Equal(t, `{"total":18,"grain":1,"bands":[{"name":"Launching","raw":0,"percent":0.0},{"name":"On course","raw":13,"percent":72.2},{"name":"Beyond","raw":20,"percent":111.1}],`+
		`"cautions":[{"kind":"aboveTotal","bands":["Beyond"]},{"kind":"otherTotal","bands":["Beyond"]}]}`, run(t, compute.Cuts, form))
	assert.Contains(t, run(t, compute.Cuts, `{"lines":[{"points":1}],"conversion":[{"raw":0,"scale":300},{"raw":1,"scale":310}],"bands":[{"name":"a"},{"name":"b","cut":{"scale":311}}]}`),
		`{"name":"b","raw":null,"percent":null}`)
}

func TestBand(t *testing.T) {
	assert.Equal(t, `{"bands":["Launching","On course"]}`, run(t, compute.Band, `{"cuts":`+form+`,"scores":[12.5,13]}`))
}

const clockIn = `"windowFrom":"2026-11-30T09:00:00Z","windowTo":"2026-11-30T15:00:00Z","events":[{"at":"2026-11-30T09:00:00Z","what":"open"},{"at":"2026-11-30T09:05:00Z","what":"begin"},{"at":"2026-12-01T09:05:00Z","what":"begin"}],"now":`

func TestClock(t *testing.T) {
	assert.Equal(t, `{"state":"working","workedSeconds":1800,"leftSeconds":3600,"endsAt":"2026-11-30T10:35:00Z","because":"limit"}`,
		run(t, compute.Clock, `{"minutes":60,"factor":1.5,`+clockIn+`"2026-11-30T09:35:00Z"}`))
	assert.Equal(t, `{"state":"notBegun","workedSeconds":0,"leftSeconds":null,"endsAt":null,"because":null}`,
		run(t, compute.Clock, `{"minutes":null,"factor":9,`+clockIn+`"2026-11-30T09:04:59Z"}`))
	assert.Equal(t, `{"state":"over","workedSeconds":3600,"leftSeconds":0,"endsAt":"2026-11-30T10:05:00Z","because":"limit"}`,
		run(t, compute.Clock, `{"minutes":60,`+clockIn+`"2026-12-02T09:35:00Z"}`), "what a student does after the end is ignored")
}

func TestBalance(t *testing.T) {
	assert.Equal(t, `{"rows":[{"id":"r1","planned":2,"placed":1,"balance":-1,"lines":["i1"]},{"id":"r2","planned":1.5,"placed":2,"balance":0,"lines":["i2"]}],"unclaimed":["i3"],"shortage":1,"excess":0}`,
		run(t, compute.Balance, `{"rows":[{"id":"r1","filter":{"standards":["M6"],"depth":[2]},"count":{"min":2,"max":2}},{"id":"r2","filter":{"difficulty":[0.4,0.5]},"points":{"min":1.5,"max":3}}],
			"lines":[{"id":"i1","standards":["M6.RR"],"kind":"number","depth":2,"difficulty":null,"points":1},{"id":"i2","standards":[],"kind":"text","difficulty":0.45,"points":2},{"id":"i3","kind":"match","points":1}],
			"standards":[{"code":"M6","parent":null},{"code":"M6.RR","parent":"M6"}]}`))
}

func TestWhatIsWrongIsNamedByItsPlace(t *testing.T) {
	for _, c := range []struct {
		f        func(io.Reader) (any, error)
		in, want string
	}{
		{compute.Clock, `{"minutes":0,` + clockIn + `"2026-11-30T09:35:00Z"}`, "minutes: 0 is not above 0 and at most 10,000,000"},
		{compute.Clock, `{"minutes":60,"factor":0.99,` + clockIn + `"2026-11-30T09:35:00Z"}`, "factor: is not 1 to 4"},
		{compute.Clock, `{"minutes":60,"factor":1.005,` + clockIn + `"2026-11-30T09:35:00Z"}`, "factor: 1.005 has more than 2 decimal places"},
		{compute.Clock, `{"minutes":60,"extraMinutes":-1,` + clockIn + `"2026-11-30T09:35:00Z"}`, "extraMinutes: is not 0 to 10,000,000"},
		{compute.Clock, `{"minutes":60,` + clockIn + `"2026-11-30 09:35"}`, `now: "2026-11-30 09:35" is not a moment such as 2026-11-30T09:00:00Z`},
		{compute.Clock, `{"minutes":60,"windowFrom":"2026-11-30T09:00:00Z","windowTo":"2026-11-30T09:00:00Z","events":[],"now":"2026-11-30T09:35:00Z"}`, "windowTo: is not after the window's beginning"},
		{compute.Clock, `{"minutes":60,"windowFrom":"2026-11-30T09:00:00Z","windowTo":"2026-11-30T10:00:00Z","events":[{"at":"2026-11-30T09:00:00Z","what":"begin"}],"now":"2026-11-30T09:35:00Z"}`, "events[0]: begin: the door is not open"},
		{compute.Clock, `{"minutes":60,"windowFrom":"2026-11-30T09:00:00Z","windowTo":"2026-11-30T10:00:00Z","events":[{"at":"2026-11-30T09:50:00Z","what":"open"},{"at":"2026-11-30T09:40:00Z","what":"begin"}],"now":"2026-11-30T09:35:00Z"}`, "events[1].at: comes before the event before it"},
		{compute.Clock, `{"minutes":60,"windowFrom":"2026-11-30T09:00:00Z","windowTo":"2026-11-30T10:00:00Z","events":[{"at":"2026-11-30T09:50:00Z","what":"sing"}],"now":"2026-11-30T09:35:00Z"}`, `events[0].what: "sing" is none of [open pause close begin rest resume handIn]`},
		{compute.Cuts, `{`, "input: is not JSON: unexpected EOF"},
		{compute.Cuts, `{} {}`, "input: something follows the JSON value"},
		{compute.Cuts, `{"lines":[],"bands":[],"more":1}`, "more: is not a known key"},
		{compute.Cuts, `{"lines":[{"points":1.005}],"bands":[]}`, "lines[0].points: 1.005 has more than 2 decimal places"},
		{compute.Cuts, `{"lines":[{"points":"1"}],"bands":[]}`, "lines[0].points: is not a number"},
		{compute.Cuts, `{"lines":[{"points":1,"step":0}],"bands":[]}`, "lines[0].step: 0 is not above 0"},
		{compute.Cuts, `{"lines":[{"points":1}],"bands":[{"name":"a"},{"name":"a","cut":{"raw":1}}]}`, `bands[1].name: "a" is used twice`},
		{compute.Band, `{"cuts":{"lines":[{"points":0}],"bands":[{"name":"a"}]},"scores":[]}`, "cuts.lines[0].points: 0 is not above 0"},
		{compute.Band, `{"cuts":{"lines":[{"points":1}],"bands":[{"name":"a"}]},"scores":[0,2]}`, "scores[1]: 2 is not between 0 and the total 1"},
		{compute.Balance, `{"rows":[{"id":"a","filter":{"depth":[5]},"count":{"min":1,"max":1}}],"lines":[],"standards":[]}`, "rows[0].filter.depth: 5 is not 1–4"},
		{compute.Balance, `{"rows":[{"id":"a","filter":{}}],"lines":[],"standards":[]}`, "rows[0]: gives neither count nor points"},
		{compute.Balance, `{"rows":[{"id":"a","filter":{},"count":{"min":1.5,"max":2}}],"lines":[],"standards":[]}`, "rows[0].count.min: 1.5 has more than 0 decimal places"},
		{compute.Balance, `{"rows":[],"lines":[{"id":"a","kind":"number","points":1,"standards":["X"]}],"standards":[]}`, `lines[0].standards[0]: "X" is not in the tree`},
		{compute.Balance, `{"rows":[],"lines":[{"id":"a","kind":"riddle","points":1}],"standards":[]}`, `lines[0].kind: "riddle" is not a kind of item`},
	} {
		_, err := c.f(strings.NewReader(c.in))
		assert.EqualError(t, err, c.want)
	}
}

const pool = `"items":[{"id":"i1","kind":"number","points":1,"uses":3,"difficulty":0.601},{"id":"i2","kind":"number","points":1,"difficulty":0.6},{"id":"i3","kind":"text","points":2.5,"hold":true}],"standards":[]`

func TestDraw(t *testing.T) {
	assert.Equal(t, `{"feasible":true,"forms":[{"items":[{"id":"i1","row":"r1"},{"id":"i2","row":"r1"}],"meanDifficulty":0.601}],"objective":{"difficulty":1,"spread":0,"uses":3},"bound":{"difficulty":1,"spread":0,"uses":3},"seed":7}`,
		run(t, compute.Draw, `{`+pool+`,"blueprint":{"rows":[{"id":"r1","filter":{},"count":{"min":2,"max":2}}],"difficulty":{"target":0.6}},"seed":7}`))
	assert.Contains(t, run(t, compute.Draw, `{`+pool+`,"blueprint":{"rows":[{"id":"r1","filter":{},"count":{"min":1,"max":1}}]},"mode":"random","budgetMs":100}`), `"bound":null,"seed":0}`)
	assert.Equal(t, `{"feasible":false,"shortage":[{"rows":["r2"],"need":2.5,"have":0}],"because":"the pool has too few items for these rows"}`,
		run(t, compute.Draw, `{`+pool+`,"blueprint":{"rows":[{"id":"r1","filter":{},"count":{"min":1,"max":2}},{"id":"r2","filter":{"kinds":["text"]},"points":{"min":2.5,"max":3}}]}}`))
}

func TestADrawThatCannotBeMeantIsRefused(t *testing.T) {
	for blueprint, want := range map[string]string{
		`{"rows":[],"fixed":["i3"]}`:                                             `blueprint.fixed[0]: "i3" is on hold`,
		`{"rows":[],"forms":0}`:                                                  `blueprint.forms: 0 is not 1–26`,
		`{"rows":[],"passages":{"itemsMax":0}}`:                                  `blueprint.passages.itemsMax: 0 leaves no room; for no passages give max 0`,
		`{"rows":[],"difficulty":{"target":1.2}}`:                                `blueprint.difficulty.target: is not from 0 to 1`,
		`{"rows":[{"id":"r","filter":{"depth":[5]},"count":{"min":1,"max":1}}]}`: `blueprint.rows[0].filter.depth: 5 is not 1–4`,
		`{"rows":[],"more":1}`:                                                   `blueprint.more: is not a known key`,
	} {
		_, err := compute.Draw(strings.NewReader(`{` + pool + `,"blueprint":` + blueprint + `}`))
		assert.EqualError(t, err, want)
	}
	_, err := compute.Draw(strings.NewReader(`{` + pool + `,"blueprint":{"rows":[]},"mode":"lucky"}`))
	assert.EqualError(t, err, `mode: "lucky" is neither best nor random`)
}
