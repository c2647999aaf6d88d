package take

import (
	"cmp"
	"slices"

	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/settings"
	"pineledger/core/support"
)

// How is what the settings and supports in force mean to who works.
type How struct {
	Directions   string // "" for none
	Notes        bool   // on paper
	Code         bool   // it is asked at the door
	OnePage      bool   // all items on one page
	ForwardOnly  bool
	AfterEach    []string // what is told when an item is left for good
	Printing     bool
	Breaks       int // that there are
	BreaksLeft   int
	BreakMinutes int // 0: as long as they need
	Tries        int
	Penalty      int // percent of the total that a retake loses
	Tools        Tools
	Begins       support.Screen  // how the screen is when they begin
	Supports     []support.Given // that are theirs
}

// Tools are those that a student has.
type Tools struct {
	Marks         bool
	Calculator    string // none, basic, percent or scientific
	StrikeOut     bool
	LineReader    bool
	ScratchPad    bool
	Zoom          bool
	Colors        bool
	EasyType      bool
	Highlighter   bool
	Masking       bool
	AnswerMasking bool
	ReadAloud     []string // the parts that are read
	Glossary      bool
	Dictionary    bool
	Spelling      bool
	TimesTable    bool
	Ruler         bool
	Protractor    bool
}

// howOf is how a student works on a form. Questions of a document stand all beside it, as the document has them.
func howOf(f form.Form, terms attempt.Terms, rests int) How {
	v := terms.Settings()
	breaks := v.Number(settings.Breaks)
	out := How{Directions: v.Text(settings.Directions), Notes: v.Flag(settings.NotesOnPaper), Code: v.Flag(settings.AccessCode), OnePage: v.Text(settings.Screen) == "page",
		ForwardOnly: v.Flag(settings.ForwardOnly), AfterEach: v.Picked(settings.AfterEach), Printing: v.Flag(settings.Printing), Breaks: breaks, BreaksLeft: max(0, breaks-rests),
		BreakMinutes: v.Number(settings.BreakMinutes), Tries: v.Number(settings.Attempts), Penalty: v.Number(settings.RetakePenalty), Tools: toolsOf(v),
		Begins: support.ScreenOf(terms.Supports), Supports: terms.Supports}
	out.Begins.Language = cmp.Or(out.Begins.Language, v.Text(settings.ItemLanguage))
	if f.Withholds() {
		out.OnePage = false // one bar of tools for all lines could not differ from line to line
	}
	if f.Document != nil {
		out.OnePage, out.ForwardOnly, out.AfterEach = false, false, nil
	}
	return out
}

func toolsOf(v settings.Values) Tools {
	return Tools{Marks: v.Flag(settings.MarksForLater), Calculator: v.Text(settings.Calculator), StrikeOut: v.Flag(settings.StrikeOut), LineReader: v.Flag(settings.LineReader),
		ScratchPad: v.Flag(settings.ScratchPad), Zoom: v.Flag(settings.Zoom), Colors: v.Flag(settings.Colors), EasyType: v.Flag(settings.EasyType), Highlighter: v.Flag(settings.Highlighter),
		Masking: v.Flag(settings.Masking), AnswerMasking: v.Flag(settings.AnswerMasking), ReadAloud: v.Picked(settings.ReadAloud), Glossary: v.Flag(settings.Glossary),
		Dictionary: v.Flag(settings.Dictionary), Spelling: v.Flag(settings.Spelling), TimesTable: v.Flag(settings.TimesTable), Ruler: v.Flag(settings.Ruler), Protractor: v.Flag(settings.Protractor)}
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

// withheld are the tools that who works under terms answers a line, counted from 0, without: not what a coordinator lets them have
// although it breaks what is measured, nor a calculator that everyone has in every part.
func withheld(f form.Form, at int, terms attempt.Terms) []string {
	everyone := terms.Setup.Settings.Text(settings.Calculator) != "none" && !slices.Contains(f.Lines[at].Without, settings.Calculator)
	return slices.DeleteFunc(f.Withheld(at), func(tool string) bool {
		return support.LetAnyway(terms.Supports, tool) || tool == settings.Calculator && everyone
	})
}

// shownTo is a line's item as a student gets it.
func shownTo(f form.Form, at int, v settings.Values, seed int64) item.Shown {
	l := f.Lines[at]
	shown := l.Item.Shown(l.Language)
	if !v.Flag(settings.Glossary) {
		shown.Glossary = nil
	}
	if v.Flag(settings.MixChoices) && f.Document == nil {
		return shown.Mixed(func(n, k int) []int { return attempt.MixedOf(n, seed, at+1, k) })
	}
	return shown
}
