package compute_test

import (
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/formats/compute"
)

const ten = `[[1,0],[0,1],[1,1],[0,0],[1,0],[0,1],[1,0],[1,1],[0,0],[1,0]]`

func TestStats(t *testing.T) {
	assert.Equal(t, `{"n":2,"mean":null,"sd":null,"alpha":null,"sem":null,"csem":null,"alphaIfDropped":null,"lines":null,"rasch":null,`+
		`"reasons":[{"at":"n","because":"2 students are too few: nothing is computed for fewer than 10"}]}`, run(t, compute.Stats, `{"max":[1,2],"credits":[[1,0.5],[0,2]],"rasch":true}`))
	out := run(t, compute.Stats, `{"max":[1,1],"credits":`+ten+`,"rasch":true}`)
	assert.Contains(t, out, `"csem":[{"raw":0,"csem":0},{"raw":1,"csem":1},{"raw":2,"csem":0}]`)
	assert.Contains(t, out, `"rasch":{"b":[-0.34657359`, "half the logit of 4 to 2")
	assert.Contains(t, run(t, compute.Stats, `{"max":[1,1],"credits":`+ten+`}`), `"rasch":null`)
	parts := run(t, compute.Stats, `{"max":[2,1],"credits":`+ten+`,"rasch":true}`)
	assert.Contains(t, parts, `"rasch":null`)
	assert.Contains(t, parts, `{"at":"rasch","because":"line 0 gives parts of its points"}`)
	all := strings.ReplaceAll(ten[:len(ten)-1], "]", ",1]") + "]"
	assert.Contains(t, run(t, compute.Stats, `{"max":[1,1,1],"credits":`+all+`,"rasch":true}`), `{"at":"rasch.b[2]","because":"everybody got it right, or nobody"}`)
}

func TestPredict(t *testing.T) {
	assert.Equal(t, `{"lines":[{"b":0}],"groups":[{"name":"a","n":2,"mean":0.5,"sd":0.5,"bands":[{"name":"low","share":0.5,"count":1,"low":0,"high":2},{"name":"high","share":0.5,"count":1,"low":0,"high":2}],`+
		`"near":[{"band":"high","share":1}],"accuracy":0.5,"consistency":0.5,"kappa":0,"distribution":[{"raw":0,"share":0.5},{"raw":1,"share":0.5}]}],`+
		`"all":{"n":2,"mean":0.5,"sd":0.5,"bands":[{"name":"low","share":0.5,"count":1,"low":0,"high":2},{"name":"high","share":0.5,"count":1,"low":0,"high":2}],`+
		`"near":[{"band":"high","share":1}],"accuracy":0.5,"consistency":0.5,"kappa":0,"distribution":[{"raw":0,"share":0.5},{"raw":1,"share":0.5}]}}`,
		run(t, compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","thetas":[0,0]}]`)))
}

func predicted(lines, groups string) string {
	return `{"cuts":{"lines":[{"points":1}],"bands":[{"name":"low"},{"name":"high","cut":{"raw":1}}]},"lines":` + lines + `,"groups":` + groups + `}`
}

func TestAbility(t *testing.T) {
	out := run(t, compute.Ability, `{"lines":[{"points":2,"b":0,"levels":[0,1,2]}]}`)
	assert.Contains(t, out, `{"table":[{"raw":0,"theta":-`)
	assert.Contains(t, out, `{"raw":2,"theta":`)
}

const judged = `{"method":"angoff","lines":[{"points":1},{"points":2,"step":1}],"rule":"nearest","cuts":["On course","Beyond"],"rounds":[{"judges":[%s]}]}`

func TestPanel(t *testing.T) {
	assert.Equal(t, `{"booklet":null,"rounds":[{"cuts":[{"name":"On course","judges":[{"judge":"J1","value":1.5}],"mean":1.5,"median":1.5,"sd":null,"se":null,"low":1.5,"high":1.5,"theta":null,"raw":2,"percent":66.7},`+
		`{"name":"Beyond","judges":[{"judge":"J1","value":1.5}],"mean":1.5,"median":1.5,"sd":null,"se":null,"low":1.5,"high":1.5,"theta":null,"raw":2,"percent":66.7}],`+
		`"lines":[{"mean":[0.5,0.5],"sd":[null,null]},{"mean":[0.5,0.5],"sd":[null,null]}]}],"cautions":[{"kind":"order","round":1,"judge":"J1","cuts":["On course","Beyond"]}]}`,
		run(t, compute.Panel, strings.Replace(judged, "%s", `{"judge":"J1","ratings":[[0.5,0.5],[0.5,0.5]]}`, 1)))
	out := run(t, compute.Panel, `{"method":"orderedItems","lines":[{"points":1,"b":1},{"points":1,"b":-1}],"rule":"atLeast","cuts":["On course"],"responseProbability":0.5,"rounds":[{"judges":[{"judge":"J1","marks":[1]}]}]}`)
	assert.Contains(t, out, `"booklet":[{"line":1,"level":1,"location":-`)
	assert.Contains(t, out, `"lines":null`)
}

func TestWhatCannotBeForecastIsNamedByItsPlace(t *testing.T) {
	angoff := func(judges string) string { return strings.Replace(judged, "%s", judges, 1) }
	for _, c := range []struct {
		f        func(io.Reader) (any, error)
		in, want string
	}{
		{compute.Stats, `{"max":[],"credits":[]}`, "max: has no line"},
		{compute.Stats, `{"max":[0],"credits":[]}`, "max[0]: 0 is not above 0"},
		{compute.Stats, `{"max":[1],"credits":[[1,1]]}`, "credits[0]: has 2, and there are 1 lines"},
		{compute.Stats, `{"max":[1],"credits":[[1.5]]}`, "credits[0][0]: 1.5 is not from 0 to 1"},
		{compute.Stats, `{"max":[1],"credits":[[0.123]]}`, "credits[0][0]: 0.123 has more than 2 decimal places"},
		{compute.Stats, `{"max":[1],"credits":[[1]],"omitted":[]}`, "omitted: has 0, and there are 1 students"},
		{compute.Stats, `{"max":[1],"credits":[[1]],"omitted":[[null]]}`, "omitted[0][0]: is not true or false"},
		{compute.Predict, predicted(`[]`, `[{"name":"a","thetas":[0]}]`), "lines: has 0, and there are 1 lines in cuts.lines"},
		{compute.Predict, predicted(`[{"b":0,"p":0.5}]`, `[{"name":"a","thetas":[0]}]`), "lines[0]: give one of b and p"},
		{compute.Predict, predicted(`[{}]`, `[{"name":"a","thetas":[0]}]`), "lines[0]: give one of b and p"},
		{compute.Predict, predicted(`[{"p":1}]`, `[{"name":"a","thetas":[0]}]`), "lines[0].p: 1 is not between 0 and 1"},
		{compute.Predict, predicted(`[{"b":10.1}]`, `[{"name":"a","thetas":[0]}]`), "lines[0].b: 10.1 is not from -10 to 10"},
		{compute.Predict, predicted(`[{"b":0,"levels":[0,0.5,1]}]`, `[{"name":"a","thetas":[0]}]`), "lines[0].levels: have 0.5, which is not a multiple of the step 1"},
		{compute.Predict, predicted(`[{"b":0}]`, `[]`), "groups: has no group"},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","thetas":[]}]`), "groups[0].thetas: has no ability"},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","thetas":[0],"n":1}]`), "groups[0].n: is the number of the thetas and is not given beside them"},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","n":0,"ability":{"mean":0,"sd":1}}]`), "groups[0].n: 0 is not from 1 to 100000000"},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","n":1.5,"ability":{"mean":0,"sd":1}}]`), "groups[0].n: 1.5 has more than 0 decimal places"},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","n":1,"ability":{"mean":0,"sd":-1}}]`), "groups[0].ability.sd: -1 is not from 0 to 1000"},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a","thetas":[0]},{"name":"a","thetas":[0]}]`), `groups[1].name: "a" is used twice`},
		{compute.Predict, predicted(`[{"b":0}]`, `[{"name":"a"}]`), "groups[0]: give one of ability and thetas"},
		{compute.Predict, `{"cuts":{"lines":[{"points":1}],"bands":[]},"lines":[],"groups":[]}`, "cuts.bands: at least one band is needed"},
		{compute.Ability, `{"lines":[]}`, "lines: has no line"},
		{compute.Ability, `{"lines":[{"points":0,"b":0}]}`, "lines[0].points: 0 is not above 0"},
		{compute.Ability, `{"lines":[{"points":1000000,"b":0,"levels":[0,0.01,1000000]}]}`, "lines: have more than 100000 possible scores"},
		{compute.Panel, `{"method":"vote","lines":[],"rule":"atLeast","cuts":["a"],"rounds":[]}`, `method: "vote" is not angoff or orderedItems`},
		{compute.Panel, `{"method":"angoff","lines":[{"points":1}],"cuts":["a"],"rounds":[]}`, "rule: is not a text"},
		{compute.Panel, `{"method":"angoff","lines":[{"points":1}],"rule":"nearest","cuts":[],"rounds":[]}`, "cuts: has no cut"},
		{compute.Panel, `{"method":"angoff","lines":[{"points":1}],"rule":"nearest","cuts":["a","a"],"rounds":[]}`, `cuts[1]: "a" is not a name of its own`},
		{compute.Panel, `{"method":"angoff","lines":[{"points":1}],"rule":"nearest","cuts":["a"],"rounds":[]}`, "rounds: has no round"},
		{compute.Panel, angoff(``), "rounds[0].judges: has no judge"},
		{compute.Panel, angoff(`{"judge":"J1","ratings":[[0.5,0.5]]}`), "rounds[0].judges[0].ratings: has 1, and there are 2 cuts"},
		{compute.Panel, angoff(`{"judge":"J1","ratings":[[0.5],[0.5,0.5]]}`), "rounds[0].judges[0].ratings[0]: has 1, and there are 2 lines"},
		{compute.Panel, angoff(`{"judge":"J1","ratings":[[0.5,1.01],[0.5,0.5]]}`), "rounds[0].judges[0].ratings[0][1]: 1.01 is not from 0 to 1"},
		{compute.Panel, angoff(`{"judge":"J1","ratings":[[0.5,0.505],[0.5,0.5]]}`), "rounds[0].judges[0].ratings[0][1]: 0.505 has more than 2 decimal places"},
		{compute.Panel, angoff(`{"judge":"J1","marks":[1,1]}`), "rounds[0].judges[0].marks: has no place with angoff: give ratings"},
		{compute.Panel, angoff(`{"judge":"J1","ratings":[[0,0],[1,1]]},{"judge":"J1","ratings":[[0,0],[1,1]]}`), `rounds[0].judges[1].judge: "J1" is not a judge of its own`},
		{compute.Panel, `{"method":"orderedItems","lines":[{"points":1}],"rule":"nearest","cuts":["a"],"rounds":[{"judges":[]}]}`, "lines[0].b: is not a number"},
		{compute.Panel, `{"method":"orderedItems","lines":[{"points":1,"b":0}],"rule":"nearest","cuts":["a"],"rounds":[{"judges":[{"judge":"J1","marks":[2]}]}]}`, "rounds[0].judges[0].marks[0]: 2 is not from 1 to 1"},
		{compute.Panel, `{"method":"orderedItems","lines":[{"points":1,"b":0}],"rule":"nearest","cuts":["a"],"responseProbability":0.4,"rounds":[{"judges":[{"judge":"J1","marks":[1]}]}]}`, "responseProbability: 0.4 is not from 0.5 to 0.9"},
	} {
		_, err := c.f(strings.NewReader(c.in))
		assert.EqualError(t, err, c.want)
	}
}
