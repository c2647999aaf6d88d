package buildrows

import (
	"pineledger/core/blueprint"
	"pineledger/core/draw"
)

// DrawQuestion is what a person asks a draw for.
type DrawQuestion struct {
	Mode      draw.Mode     `json:"mode"`
	Seed      int64         `json:"seed"`
	Forms     int           `json:"forms"`
	Keep      bool          `json:"keep"`   // lines that stand already stay
	Row       int           `json:"row"`    // only this row of the blueprint, from 1; 0: all
	Simple    *SimpleDraw   `json:"simple"` // instead of the blueprint
	Target    *draw.Target  `json:"target"` // mean difficulty
	Passages  draw.Passages `json:"passages"`
	KeySpread *int          `json:"keySpread"`
	NotSince  string        `json:"notSince"` // not what these grades were given since this day
	Banks     []string      `json:"banks"`    // names; none: all that are open
	Anchors   []int64       `json:"anchors"`  // of the lines, in common to all forms
	Meeting   bool          `json:"meeting"`  // items that must not meet may
	Copies    bool          `json:"copies"`   // near copies may meet
}

// SimpleDraw is a question in a sentence.
type SimpleDraw struct {
	Total      int         `json:"total"`
	Kinds      []KindCount `json:"kinds"`
	Standards  []string    `json:"standards"`
	Depth      []int       `json:"depth"`
	Difficulty *[2]int     `json:"difficulty"`
	Tags       []string    `json:"tags"`
}

// KindCount is how many items of one kind.
type KindCount struct {
	Kind  string `json:"kind"`
	Count int    `json:"count"`
}

// DrawAnswer is what came of a draw, as it is kept.
type DrawAnswer struct {
	Rows     []DrawnRow     `json:"rows"`
	Forms    []DrawnForm    `json:"forms"`
	Aims     draw.Aims      `json:"aims"`
	Bound    *draw.Aims     `json:"bound"`
	Shortage []DrawShortage `json:"shortage"`
	Because  string         `json:"because"`
	Uneven   []draw.Uneven  `json:"uneven"`
	Pool     int            `json:"pool"`     // items that serve any row
	Apart    int            `json:"apart"`    // of them, near copies counted once
	Estimate *int           `json:"estimate"` // for difficulties that are not known; nil where none was needed
	Millis   int64          `json:"millis"`
	Message  string         `json:"message"` // why it failed
}

// DrawnRow is a row that was asked for, with how many items of the pool serve it.
type DrawnRow struct {
	Title    string           `json:"title"`
	Filter   blueprint.Filter `json:"filter"`
	ByPoints bool             `json:"byPoints"`
	Min      int64            `json:"min"`
	Max      int64            `json:"max"`
	Pool     int              `json:"pool"`
	Apart    int              `json:"apart"` // of the pool, near copies counted once
}

// DrawnForm is one form, its items in the order in which they would be placed.
type DrawnForm struct {
	Items []DrawnItem `json:"items"`
	Mean  *int        `json:"mean"`
}

// DrawnItem is an item of a form with the place of the row that claims it.
type DrawnItem struct {
	ItemID     int64    `json:"itemId"`
	Identifier string   `json:"identifier"`
	Stem       string   `json:"stem"`
	Kind       string   `json:"kind"`
	Standards  []string `json:"standards"`
	Difficulty *int     `json:"difficulty"`
	Depth      int      `json:"depth"`
	Uses       int      `json:"uses"`
	Passage    int64    `json:"passage"`
	Row        int      `json:"row"`
	Stays      bool     `json:"stays"` // a line already
}

// DrawShortage is a set of rows that is short, with the items they want at once.
type DrawShortage struct {
	Rows      []int    `json:"rows"`
	Need      int      `json:"need"`
	Have      int      `json:"have"`
	Contested []string `json:"contested"` // identifiers, the first of them
}
