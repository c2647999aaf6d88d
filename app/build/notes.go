package build

import (
	"encoding/json"
	"fmt"
	"strings"

	"pineledger/core/blueprint"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/store/buildrows"
)

// What the ledger keeps of an assessment's parts is read back for good: by history,
// and by whoever checks the chain. The types here are its words; they stay as they
// are when the fields of the types that the program works with are called otherwise.

// outlineNote is an outline as entries hold it.
type outlineNote struct {
	Title        string   `json:"Title"`
	ShortTitle   string   `json:"ShortTitle"`
	Description  string   `json:"Description"`
	Instructions string   `json:"Instructions"` // older entries hold plain paragraphs
	Subject      string   `json:"Subject"`
	Purpose      string   `json:"Purpose"`
	Language     string   `json:"Language"`
	Year         string   `json:"Year"`
	Course       string   `json:"Course"`
	Grades       []string `json:"Grades"`
	Labels       []string `json:"Labels"`
}

func (o Outline) note() outlineNote {
	return outlineNote(o)
}

func readOutlineNote(entry string) (Outline, error) {
	var n outlineNote
	err := json.Unmarshal([]byte(entry), &n)
	return Outline{Title: n.Title, ShortTitle: n.ShortTitle, Description: n.Description, Instructions: item.Formatted(n.Instructions), Subject: n.Subject,
		Purpose: n.Purpose, Language: n.Language, Year: n.Year, Course: n.Course, Grades: n.Grades, Labels: n.Labels}, err
}

// rowNote is a row of a blueprint as entries hold it; Filter is a document in a text.
type rowNote struct {
	Title    string `json:"Title"`
	Filter   string `json:"Filter"`
	ByPoints bool   `json:"ByPoints"`
	Least    int64  `json:"Least"`
	Most     int64  `json:"Most"`
}

func rowNotes(rows []buildrows.BlueprintRow) ([]rowNote, error) {
	out := make([]rowNote, len(rows))
	for i, r := range rows {
		filter, err := json.Marshal(r.Filter.V)
		if err != nil {
			return nil, err
		}
		out[i] = rowNote{Title: r.Title, Filter: string(filter), ByPoints: r.ByPoints, Least: r.Least, Most: r.Most}
	}
	return out, nil
}

func readRowNotes(entry string) ([]RowInput, error) {
	var notes []rowNote
	if err := json.Unmarshal([]byte(entry), &notes); err != nil {
		return nil, err
	}
	out := make([]RowInput, len(notes))
	for i, n := range notes {
		var filter blueprint.Filter
		if err := json.Unmarshal([]byte(n.Filter), &filter); err != nil {
			return nil, fmt.Errorf("row %d: %w", i+1, err)
		}
		out[i] = RowInput{Title: n.Title, Filter: filter, ByPoints: n.ByPoints, Min: points.Points(n.Least), Max: points.Points(n.Most)}
	}
	return out, nil
}

// linesNote is the lines and their layout as entries hold them.
type linesNote struct {
	Lines []lineNote `json:"lines"`
	form.Layout
}

type lineNote struct {
	ItemID    int64  `json:"ItemID"`
	VersionID int64  `json:"VersionID"`
	Points    int64  `json:"Points"`
	Part      int    `json:"Part,omitempty"`
	Pool      int    `json:"Pool,omitempty"`
	Without   string `json:"without,omitempty"`
}

func noteOfLines(rows []buildrows.LineRow, layout form.Layout) linesNote {
	n := linesNote{Lines: make([]lineNote, len(rows)), Layout: layout}
	for i, r := range rows {
		n.Lines[i] = lineNote{r.ItemID, r.VersionID, r.Points, r.Part, r.Pool, r.Without}
	}
	return n
}

// readLinesNote reads lines; before there were parts and pools, entries held a list alone.
func readLinesNote(entry string) (note linesNote, err error) {
	if strings.HasPrefix(entry, "[") {
		return note, json.Unmarshal([]byte(entry), &note.Lines)
	}
	return note, json.Unmarshal([]byte(entry), &note)
}
