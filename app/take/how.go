package take

import (
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/settings"
)

// How is what the settings in force mean to who works.
type How struct {
	Directions   string // "" for none
	Notes        bool   // on paper
	Code         bool   // it is asked at the door
	OnePage      bool   // all items on one page
	ForwardOnly  bool
	AfterEach    []string // what is told when an item is left for good
	Marks        bool
	Calculator   string // none, basic or percent
	StrikeOut    bool
	LineReader   bool
	ScratchPad   bool
	Zoom         bool
	Colors       bool
	Printing     bool
	Breaks       int // that there are
	BreaksLeft   int
	BreakMinutes int // 0: as long as they need
	Tries        int
	Penalty      int // percent of the total that a retake loses
}

// howOf is how a form is worked on. Questions of a document stand all beside it, as the document has them.
func howOf(f form.Form, v settings.Values, rests int) How {
	breaks := v.Number(settings.Breaks)
	out := How{Directions: v.Text(settings.Directions), Notes: v.Flag(settings.NotesOnPaper), Code: v.Flag(settings.AccessCode), OnePage: v.Text(settings.Screen) == "page",
		ForwardOnly: v.Flag(settings.ForwardOnly), AfterEach: v.Picked(settings.AfterEach), Marks: v.Flag(settings.MarksForLater), Calculator: v.Text(settings.Calculator),
		StrikeOut: v.Flag(settings.StrikeOut), LineReader: v.Flag(settings.LineReader), ScratchPad: v.Flag(settings.ScratchPad), Zoom: v.Flag(settings.Zoom), Colors: v.Flag(settings.Colors),
		Printing: v.Flag(settings.Printing), Breaks: breaks, BreaksLeft: max(0, breaks-rests), BreakMinutes: v.Number(settings.BreakMinutes), Tries: v.Number(settings.Attempts), Penalty: v.Number(settings.RetakePenalty)}
	if f.Document != nil {
		out.OnePage, out.ForwardOnly, out.AfterEach = false, false, nil
	}
	return out
}

// LeftForGood tells whether an item that is left stays as it is answered.
func (h How) LeftForGood() bool { return h.ForwardOnly || len(h.AfterEach) > 0 }

// orderOf are the lines of an attempt in the order in which its student gets them, as places: those that it was given, nil for all.
func orderOf(f form.Form, given []int, v settings.Values, seed int64) []int {
	if v.Flag(settings.MixItems) && f.Document == nil {
		return f.Order(given, seed)
	}
	return given
}

// shownTo is a line's item as a student gets it.
func shownTo(f form.Form, at int, v settings.Values, seed int64) item.Shown {
	l := f.Lines[at]
	shown := l.Item.Shown(l.Language)
	if v.Flag(settings.MixChoices) && f.Document == nil {
		return shown.Mixed(func(n, k int) []int { return attempt.MixedOf(n, seed, at+1, k) })
	}
	return shown
}
