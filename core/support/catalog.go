package support

import (
	"encoding/json"
	"slices"

	"pineledger/core/settings"
)

// Keys of the catalog.
const (
	ExtraTime     = "extraTime"
	ExtraMinutes  = "extraMinutes"
	Breaks        = "breaks"
	SeveralDays   = "severalDays"
	ReadAloud     = "readAloud"
	InLanguage    = "language"
	Directions    = "directions"
	LargePrint    = "largePrint"
	Zoom          = "zoom"
	Colors        = "colors"
	EasyType      = "easyType"
	LineReader    = "lineReader"
	Masking       = "masking"
	AnswerMasking = "answerMasking"
	OneItem       = "oneItem"
	LessMotion    = "lessMotion"
	Glossary      = "glossary"
	PaperBooklet  = "paperBooklet"
	LargeBooklet  = "largeBooklet"
	AdultReads    = "adultReads"
	Calculator    = "calculator"
	TimesTable    = "timesTable"
	Dictionary    = "dictionary"
	WordList      = "wordList"
	Spelling      = "spelling"
	Scribe        = "scribe"
	Speech        = "speech"
	SwitchOrKeys  = "switchOrKeys"
	OwnRoom       = "ownRoom"
	SmallGroup    = "smallGroup"
	Seat          = "seat"
	OtherSupport  = "other"
)

// Ways of colors.
const (
	LightOnDark  = "light-on-dark"
	DarkOnYellow = "dark-on-yellow"
	DarkOnBlue   = "dark-on-blue"
)

func options(pairs ...string) []settings.Option {
	var out []settings.Option
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, settings.Option{Value: pairs[i], Words: pairs[i+1]})
	}
	return out
}

var (
	prints      = options("1.5", "one and a half times", "2", "twice as large", "3", "three times", "4", "four times")
	colorings   = options(LightOnDark, "light on dark", DarkOnYellow, "dark on yellow", DarkOnBlue, "dark on pale blue")
	calculators = options("basic", "basic", "percent", "with percent and square root", "scientific", "scientific")
)

// Catalog lists every support, by groups. It is the only place that knows them.
var Catalog = []Support{
	{ExtraTime, When, "Extra time", "Extra time", "The time limit is so many times longer.", ByItself, Factor{}, "additional-testing-time", "A window that is long enough.", nil},
	{ExtraMinutes, When, "Extra minutes", "Minutes", "So many minutes are added to the time limit.", ByItself, settings.Number{Least: 1, Most: 480, One: "1 minute more", Many: "%d minutes more"}, "additional-testing-time",
		"A window that is long enough.", nil},
	{Breaks, When, "Breaks", "Breaks", "The student may take so many breaks; the clock stands still meanwhile.", ByItself, settings.Number{Least: 1, Most: 20, One: "1 break", Many: "%d breaks"}, "breaks", "", moreBreaks},
	{SeveralDays, When, "Several days", "Several days", "The work goes on where it stopped on another day of the window.", ByItself, settings.Number{Least: 2, Most: 10, Many: "over %d days"}, "",
		"A window of as many school days.", nil},

	{ReadAloud, Shown, "Read aloud", "Read aloud", "The browser reads aloud, and marks the words as it goes.", ByItself, settings.Picks{Options: settings.ReadParts, All: "everything"}, "spoken",
		"A device with a voice and headphones; words for every picture.", moreRead},
	{InLanguage, Shown, "Another language", "Language", "Items are shown in this language, beside the original.", ByItself, Language{}, "item-translation", "Every line and passage in this language.", nil},
	{Directions, Shown, "Directions in another language", "Directions", "Buttons and directions of the screen are in this language.", ByItself, Language{}, "", "Directions in this language.", nil},
	{LargePrint, Shown, "Large print", "Large print", "Everything is larger from the start.", ByItself, settings.Choice{Options: prints}, "magnification", "", on(settings.Zoom)},
	{Zoom, Shown, "Zoom", "Zoom", "The student can make everything up to four times as large.", ByItself, Plain{}, "", "", on(settings.Zoom)},
	{Colors, Shown, "Colors", "Colors", "Other colors from the start.", ByItself, settings.Choice{Options: colorings}, "text-appearance", "", on(settings.Colors)},
	{EasyType, Shown, "Easier letters and spacing", "Letters", "Letters, lines and words stand farther apart, in a face with open shapes.", ByItself, Plain{}, "", "", on(settings.EasyType)},
	{LineReader, Shown, "Line reader", "Line reader", "A bar keeps the eye on one line.", ByItself, Plain{}, "line-reader", "", on(settings.LineReader)},
	{Masking, Shown, "Masking", "Mask", "The student covers what is not looked at.", ByItself, Plain{}, "", "", on(settings.Masking)},
	{AnswerMasking, Shown, "Answer masking", "Answers masked", "Choices are covered until the student uncovers them.", ByItself, Plain{}, "answer-masking", "", on(settings.AnswerMasking)},
	{OneItem, Shown, "One item a screen", "One item", "Items come one by one.", ByItself, Plain{}, "", "", oneByOne},
	{LessMotion, Shown, "Less motion", "Less motion", "Nothing on the screen moves by itself.", ByItself, Plain{}, "", "", nil},
	{Glossary, Shown, "Glossary", "Glossary", "Hard words of an item are explained, also in the student's language.", ByItself, Plain{}, "keyword-translation", "Items with a glossary.", on(settings.Glossary)},
	{PaperBooklet, Shown, "Paper booklet", "Paper", "The student works on a printed booklet.", OnPaper, Plain{}, "", "A booklet, printed in time.", nil},
	{LargeBooklet, Shown, "Large-print booklet", "Large booklet", "The student works on a booklet in large print.", OnPaper, Plain{}, "", "A large-print booklet, printed in time.", nil},
	{AdultReads, Shown, "Read by an adult", "Adult reads", "An adult reads to the student.", ByPerson, settings.Picks{Options: settings.ReadParts, All: "everything"}, "", "An adult, and a room where it disturbs nobody.", nil},

	{Calculator, Answering, "Calculator", "Calculator", "A calculator on the screen.", ByItself, settings.Choice{Options: calculators}, "calculator-on-screen", "Lines that do not measure calculating.", moreCalculator},
	{TimesTable, Answering, "Multiplication table", "Times table", "A multiplication table on the screen.", ByItself, Plain{}, "", "Lines that do not measure multiplying.", on(settings.TimesTable)},
	{Dictionary, Answering, "Dictionary", "Dictionary", "A small dictionary on the screen.", ByItself, Plain{}, "dictionary-on-screen", "", on(settings.Dictionary)},
	{WordList, Answering, "Word list", "Word list", "A list of words in two languages, without explanations, on paper.", OnPaper, Plain{}, "", "The list, in the student's language.", nil},
	{Spelling, Answering, "Spelling help", "Spelling", "The browser marks words that are not spelled right.", ByItself, Plain{}, "", "Lines that do not measure spelling.", on(settings.Spelling)},
	{Scribe, Answering, "Scribe", "Scribe", "An adult writes down what the student says or points at.", ByPerson, Plain{}, "scribe", "An adult for this student alone.", nil},
	{Speech, Answering, "Answers in speech", "Speech", "The student answers aloud; an adult types it.", ByPerson, Plain{}, "", "An adult, and a room where it disturbs nobody.", nil},
	{SwitchOrKeys, Answering, "Switch or keys", "Switch or keys", "Everything can be reached with one or two keys or switches.", ByItself, settings.Choice{Options: options("one", "one switch, it steps by itself", "two", "two switches: step and choose")},
		"", "A switch that acts as a key.", nil},

	{OwnRoom, Where, "Own room", "Own room", "The student works alone in a room.", ByPerson, Plain{}, "", "A room and an adult.", nil},
	{SmallGroup, Where, "Small group", "Small group", "The student works in a small group.", ByPerson, Plain{}, "", "A room and an adult for the group.", nil},
	{Seat, Where, "Preferred seat", "Seat", "The student sits where it suits them.", ByPerson, settings.Text{Most: 80}, "", "A seat, kept free.", nil},
	{OtherSupport, Where, "Another support", "Other", "What a file named and this program does not know. Somebody has to see to it.", ByPerson, otherKind{}, "", "Somebody who knows what it is.", nil},
}

// changes are the settings that a lock on keeps a support away.
var changes = map[string][]string{
	ExtraTime: {settings.Minutes}, ExtraMinutes: {settings.Minutes}, Breaks: {settings.Breaks}, ReadAloud: {settings.ReadAloud}, LargePrint: {settings.Zoom}, Zoom: {settings.Zoom},
	Colors: {settings.Colors}, EasyType: {settings.EasyType}, LineReader: {settings.LineReader}, Masking: {settings.Masking}, AnswerMasking: {settings.AnswerMasking}, OneItem: {settings.Screen},
	Glossary: {settings.Glossary}, Calculator: {settings.Calculator}, TimesTable: {settings.TimesTable}, Dictionary: {settings.Dictionary}, Spelling: {settings.Spelling},
}

// on switches a tool on.
func on(setting string) func(settings.Values, json.RawMessage) {
	return func(v settings.Values, _ json.RawMessage) { v[setting] = settings.Raw(true) }
}

func oneByOne(v settings.Values, _ json.RawMessage) { v[settings.Screen] = settings.Raw("item") }

// moreBreaks gives the student's breaks where everyone has fewer.
func moreBreaks(v settings.Values, value json.RawMessage) {
	var n int
	if json.Unmarshal(value, &n) == nil && n > v.Number(settings.Breaks) {
		v[settings.Breaks] = value
	}
}

// moreCalculator gives the one of two calculators that does more.
func moreCalculator(v settings.Values, value json.RawMessage) {
	does := func(kind string) int {
		return slices.IndexFunc(calculators, func(o settings.Option) bool { return o.Value == kind })
	}
	if does(text(value)) > does(v.Text(settings.Calculator)) {
		v[settings.Calculator] = value
	}
}

// moreRead reads what everyone hears and what the student hears.
func moreRead(v settings.Values, value json.RawMessage) {
	var own []string
	if json.Unmarshal(value, &own) != nil {
		return
	}
	all := []string{}
	for _, o := range settings.ReadParts {
		if slices.Contains(own, o.Value) || slices.Contains(v.Picked(settings.ReadAloud), o.Value) {
			all = append(all, o.Value)
		}
	}
	v[settings.ReadAloud] = settings.Raw(all)
}
