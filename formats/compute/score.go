package compute

import (
	"archive/zip"
	"bufio"
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/qti"
)

// ScoreHelp shows the form of compute score with an example that works.
const ScoreHelp = `What responses earn, a line of JSON each.

  first line: {"items":[{"identifier":"i1","points":2,"item":{…}}]}   the item documents; points are 1 when left out
         or:  {"package":"items.zip"}                                 a QTI package (3.0, 2.2 or 2.1); points are the item's own
  then:       {"item":"i1","response":{"RESPONSE":["A","C"]}}         values as strings, pairs as "A T1"
  out:        {"item":"i1","credit":1.5,"max":2,"omitted":false,"parts":[{"response":"RESPONSE","credit":1.5,"max":2}],"why":"…"}

Example:
  printf '%s\n' '{"items":[{"identifier":"i1","item":{"schema":1,"kind":"single-choice","body":[{"html":"Which?"},{"interaction":{"response":"RESPONSE","maxChoices":1,"choices":[{"id":"A","html":"a"},{"id":"B","html":"b"}]}}],"declarations":[{"response":"RESPONSE","correct":["B"]}],"credit":"all-or-nothing"}}]}' '{"item":"i1","response":{"RESPONSE":["B"]}}' | pineledger compute score`

type scoredItem struct {
	Identifier string         `json:"identifier"`
	Points     *points.Points `json:"points"`
	Item       item.Item      `json:"item"`
	refused    error          // why it cannot be scored: an error only where a response asks for it
}

type scorePart struct {
	Response string        `json:"response"`
	Credit   points.Points `json:"credit"`
	Max      points.Points `json:"max"`
}

type scoreLine struct {
	Item    string        `json:"item"`
	Credit  points.Points `json:"credit"`
	Max     points.Points `json:"max"`
	Omitted bool          `json:"omitted"`
	Parts   []scorePart   `json:"parts"`
	Why     string        `json:"why"`
}

// mostLine bounds a line of the input.
const mostLine = 64 << 20

// Score reads items and then responses, a line each, and gives a line each. The
// error is a *PlaceError; then nothing of the output may be used.
func Score(in io.Reader) (json.RawMessage, error) {
	lines := bufio.NewScanner(in)
	lines.Buffer(make([]byte, 1<<16), mostLine)
	if !lines.Scan() {
		return nil, errors.Join(&PlaceError{"", "is empty"}, lines.Err())
	}
	items, err := readScored(lines.Bytes())
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	encode := json.NewEncoder(&out)
	encode.SetEscapeHTML(false)
	for n := 2; lines.Scan(); n++ {
		if len(bytes.TrimSpace(lines.Bytes())) == 0 {
			continue
		}
		var given struct {
			Item     string        `json:"item"`
			Response item.Response `json:"response"`
		}
		place := fmt.Sprintf("line %d", n)
		if err := strictly(lines.Bytes(), &given); err != nil {
			return nil, &PlaceError{place, err.Error()}
		}
		it, ok := items[given.Item]
		switch {
		case !ok:
			return nil, &PlaceError{place + ".item", fmt.Sprintf("%q is not one of the items", given.Item)}
		case it.refused != nil:
			return nil, &PlaceError{place + ".item", fmt.Sprintf("%q cannot be scored: %s", given.Item, it.refused)}
		}
		if err := it.Item.Accepts(given.Response); err != nil {
			return nil, &PlaceError{place + ".response", err.Error()}
		}
		if err := encode.Encode(scoreOf(it, given.Response)); err != nil {
			return nil, err
		}
	}
	if err := lines.Err(); err != nil {
		return nil, &PlaceError{"", err.Error()}
	}
	return out.Bytes(), nil
}

func scoreOf(it scoredItem, r item.Response) scoreLine {
	c := it.Item.Score(r, *it.Points)
	line := scoreLine{Item: it.Identifier, Credit: c.Credit, Max: c.Max, Omitted: c.Outcome == item.Omitted, Parts: []scorePart{}, Why: c.Why}
	for _, p := range it.Item.PartCredits(r, *it.Points) {
		line.Parts = append(line.Parts, scorePart(p))
	}
	return line
}

func readScored(line []byte) (map[string]scoredItem, error) {
	var first struct {
		Package string       `json:"package"`
		Items   []scoredItem `json:"items"`
	}
	if err := strictly(line, &first); err != nil {
		return nil, &PlaceError{"line 1", err.Error()}
	}
	if first.Package != "" {
		if first.Items != nil {
			return nil, &PlaceError{"line 1", "names a package and items; one of them is wanted"}
		}
		return readPackage(first.Package)
	}
	out := map[string]scoredItem{}
	for i, it := range first.Items {
		place := fmt.Sprintf("items[%d]", i)
		if it.Points == nil {
			one := points.One
			it.Points = &one
		}
		it.Item = it.Item.Cleaned()
		problems := it.Item.Check()
		switch {
		case it.Identifier == "":
			return nil, &PlaceError{place + ".identifier", "is empty"}
		case out[it.Identifier].Identifier != "":
			it.refused = &PlaceError{place + ".identifier", fmt.Sprintf("%q is used twice", it.Identifier)}
		case *it.Points <= 0:
			it.refused = &PlaceError{place + ".points", it.Points.String() + " is not above 0"}
		case it.Item.Schema != item.Schema:
			it.refused = &PlaceError{place + ".item.schema", fmt.Sprintf("%d is not %d", it.Item.Schema, item.Schema)}
		case len(problems) > 0:
			it.refused = &PlaceError{place + ".item." + problems[0].Place, problems[0].Reason}
		}
		out[it.Identifier] = it
	}
	return out, nil
}

// readPackage reads the items of a QTI package. One that cannot be read is an
// error only when a response asks for it.
func readPackage(path string) (map[string]scoredItem, error) {
	z, err := zip.OpenReader(path)
	if err != nil {
		return nil, &PlaceError{"package", qti.NotAZip(path, err).Error()}
	}
	defer z.Close()
	p, err := qti.Open(&z.Reader, func(_ string, data []byte) (item.Picture, error) {
		return item.Picture{Source: fmt.Sprintf("/media/%x", sha256.Sum256(data)), Width: 1, Height: 1}, nil
	})
	if err != nil {
		return nil, &PlaceError{"package", err.Error()}
	}
	out := map[string]scoredItem{}
	return out, p.Each(func(f qti.Found, refused *qti.Refusal) error {
		it := scoredItem{Identifier: f.Identifier, Points: &f.Points, Item: f.Item}
		if f.Parts != nil {
			it.Item = *f.Parts
		}
		if refused != nil {
			it.refused = refused
		}
		if _, twice := out[f.Identifier]; twice {
			it.refused = errors.New("it is in the package twice")
		}
		out[f.Identifier] = it
		return nil
	})
}

// strictly decodes one value and refuses keys that are not known.
func strictly(data []byte, into any) error {
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return fmt.Errorf("is not what is wanted: %w", err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return errors.New("holds something after the JSON value")
	}
	return nil
}
