package settings

import (
	"encoding/json"
	"slices"
)

// Keys of the catalog.
const (
	Hours         = "hours"
	Weekdays      = "weekdays"
	DaysOff       = "daysOff"
	Minutes       = "minutes"
	Breaks        = "breaks"
	BreakMinutes  = "breakMinutes"
	AccessCode    = "accessCode"
	ManagedOnly   = "managedOnly"
	Directions    = "directions"
	NotesOnPaper  = "notesOnPaper"
	HiddenAhead   = "hiddenAhead"
	Screen        = "screen"
	ForwardOnly   = "forwardOnly"
	ItemLanguage  = "itemLanguage"
	MixItems      = "mixItems"
	MixChoices    = "mixChoices"
	MarksForLater = "marksForLater"
	Calculator    = "calculator"
	Zoom          = "zoom"
	Colors        = "colors"
	StrikeOut     = "strikeOut"
	LineReader    = "lineReader"
	ScratchPad    = "scratchPad"
	Highlighter   = "highlighter"
	Masking       = "masking"
	AnswerMasking = "answerMasking"
	ReadAloud     = "readAloud"
	EasyType      = "easyType"
	Glossary      = "glossary"
	Dictionary    = "dictionary"
	Spelling      = "spelling"
	TimesTable    = "timesTable"
	Ruler         = "ruler"
	Protractor    = "protractor"
	Attempts      = "attempts"
	Retake        = "retake"
	Keep          = "keep"
	RetakePenalty = "retakePenalty"
	Practice      = "practice"
	LateWork      = "lateWork"
	LateDays      = "lateDays"
	LatePenalty   = "latePenalty"
	AfterEach     = "afterEach"
	AtHandIn      = "atHandIn"
	Later         = "later"
	LaterWhen     = "laterWhen"
	LaterDate     = "laterDate"
	LaterHours    = "laterHours"
	ShowScore     = "showScore"
	InReports     = "inReports"
	Printing      = "printing"
)

// OfLines are the tools that a single line can be answered without: those that can do a part of what it measures. What somebody
// needs to see or to reach a line is never taken away.
var OfLines = []string{Calculator, TimesTable, Dictionary, Glossary, Spelling, ReadAloud, Ruler, Protractor, ScratchPad, Highlighter, StrikeOut}

// Dated are the settings that hold for one year: a copy does not take them along.
var Dated = []string{LaterDate}

// Sets of levels.
var (
	everywhere = Levels
	notBelow   = []Level{District, Purpose, Assessment, Distribution} // one for all who sit it, so that results compare
	calendars  = []Level{District, School}
)

// Reasons why something may not change once somebody has begun, with the way that exists.
const (
	compares  = "It would change the task for some and not for others. Begin a new edition instead."
	longer    = "It may grow longer, not shorter. Give a single student less by closing the door."
	added     = "It may be added, not taken away while people lean on it."
	loosened  = "It may be loosened, not tightened: somebody may be in the middle."
	promised  = "Those who have begun were told otherwise. Send a new edition instead."
	rescoring = "Results stand on it. Look at them and re-score instead."
)

var (
	retakes     = options("all", "all again", "missed", "only what was missed, the rest carried over")
	keeps       = options("best", "the best counts", "last", "the last counts", "mean", "the mean counts")
	calculators = options("none", "none", "basic", "basic: add, take away, times, divide", "percent", "with percent and square root", "scientific", "scientific")
	told        = options("score", "the score", "right", "which answers were right", "key", "the key", "why", "explanations", "goOver", "what to go over again")
	lateWorks   = options("handIn", "handed in by itself at the end", "refuse", "refused: what is not handed in by the end waits for you", "take", "taken in full", "penalty", "taken with a penalty")
	laterWhens  = options("never", "never", "released", "when you release it", "date", "from a day that you choose", "hours", "some hours after the window ends")
	weekdays    = options("mon", "Monday", "tue", "Tuesday", "wed", "Wednesday", "thu", "Thursday", "fri", "Friday", "sat", "Saturday", "sun", "Sunday")
	screens     = options("item", "one item a screen", "page", "all items on one page")
	scores      = options("points", "points", "percent", "percent", "band", "performance band")
)

// Languages names those that are asked for most.
var Languages = options("es", "Spanish", "ar", "Arabic", "zh", "Chinese", "fr", "French", "ht", "Haitian Creole", "pt", "Portuguese", "ru", "Russian", "so", "Somali",
	"tl", "Tagalog", "uk", "Ukrainian", "vi", "Vietnamese")

// Parts of what can be read aloud.
const (
	ReadDirections = "directions"
	ReadQuestions  = "questions"
	ReadPassages   = "passages"
	ReadChoices    = "choices"
	ReadFormulas   = "formulas"
)

// ReadParts names them.
var ReadParts = options(ReadDirections, "directions", ReadQuestions, "questions", ReadPassages, "passages", ReadChoices, "choices", ReadFormulas, "formulas")

// Catalog lists every setting, by groups. It is the only place that knows them.
var Catalog = []Setting{
	{Hours, When, true, "Hours of the day", "Students can work only in these stretches of a school day; between them their time stands still.", Stretches{},
		Raw([]string{}), []Level{District, Purpose, Assessment, Distribution, School, Section}, Begun{}},
	{Minutes, When, true, "Time limit", "How long each student may work, counted only while they can.", Number{0, 24 * 60, "1 minute", "%d minutes", "no limit"},
		Raw(0), everywhere, only(longer, moreTime)},
	{Weekdays, When, false, "Days of the week", "Students can work only on these days.", Picks{weekdays, "none", "every day"},
		Raw([]string{"mon", "tue", "wed", "thu", "fri", "sat", "sun"}), calendars, Begun{}},
	{DaysOff, When, false, "Days without school", "Nobody can work on these days, and they count for no time.", Dates{}, Raw([]string{}), calendars, Begun{}},
	{Breaks, When, false, "Breaks", "How often a student may take a break. The clock stands still and the items are out of sight.", Number{0, 20, "1 break", "%d breaks", "none"},
		Raw(0), everywhere, only(added, moreNumber)},
	{BreakMinutes, When, false, "Length of a break", "After this a break ends by itself and the clock runs again.", Number{0, 240, "1 minute at most", "%d minutes at most", "as long as they need"},
		Raw(10), everywhere, only(longer, moreTime)},

	{AccessCode, Door, true, "Access code", "Students type a code that whoever opens the door reads out. Each section has its own, and it can be changed.", Flag{"asked at the door", "not asked"},
		Raw(false), everywhere, only(loosened, switchedOff)},
	{ManagedOnly, Door, false, "Managed devices only", "The assessment opens only on devices that the district manages.", Flag{"managed devices only", "any device"},
		Raw(false), everywhere, only(loosened, switchedOff)},
	{Directions, Door, false, "Directions before they begin", "Students read this on the first page, below the assessment's own instructions. Their clock has not begun.", Text{2000, "nothing more"},
		Raw(""), everywhere, Begun{}},
	{NotesOnPaper, Door, false, "Notes on paper", "Whether students may write notes on paper. The first page and the room say so.", Flag{"allowed", "not allowed"},
		Raw(true), everywhere, only(added, switchedOn)},
	{HiddenAhead, Door, false, "Ahead of its window", "Whether students see that it comes before its window begins.", Flag{"hidden until it begins", "listed with its date"},
		Raw(false), everywhere, Begun{}},

	{Screen, Work, false, "On a screen", "Whether items come one by one or all on one page.", Choice{screens}, Raw("item"), notBelow, fixed(compares)},
	{ForwardOnly, Work, false, "Going back", "Whether students may go back to an item that they have left.", Flag{"forward only", "back and forth"},
		Raw(false), notBelow, fixed(compares)},
	{ItemLanguage, Work, false, "Language of the items", "Items begin in this language where they have it. A student can go to the original and back.",
		Choice{slices.Concat(options("", "as they are written"), Languages)}, Raw(""), everywhere, Begun{}},
	{MixItems, Work, true, "Order of the items", "Each student gets the items in an order of their own; the items of a passage stay together.", Flag{"mixed, passages stay whole", "as they stand"},
		Raw(false), notBelow, fixed(compares)},
	{MixChoices, Work, false, "Order of the choices", "Each student gets the choices in an order of their own; those that are pinned stay.", Flag{"mixed, pinned ones stay", "as they stand"},
		Raw(false), notBelow, fixed(compares)},

	{Calculator, Tools, true, "Calculator", "The calculator that every student has. A part of the assessment can allow one beside this.", Choice{calculators},
		Raw("none"), notBelow, only(added, onward(calculators))},
	{MarksForLater, Tools, false, "Marks for later", "Students can mark an item to come back to.", Flag{"yes", "no"}, Raw(true), notBelow, only(added, switchedOn)},
	{StrikeOut, Tools, false, "Strike out choices", "Students can strike out choices that they rule out. It changes no answer.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{LineReader, Tools, false, "Line reader", "A bar that keeps the eye on one line of a passage.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{ScratchPad, Tools, false, "Scratch pad", "A page to write and draw on beside the items. It is kept and not scored; staff may look at it.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{Highlighter, Tools, false, "Highlighter", "Students can highlight words of stems and passages. It changes no answer.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{Masking, Tools, false, "Masking", "Students can cover a part of the screen.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{AnswerMasking, Tools, false, "Answer masking", "Choices are covered until a student uncovers them.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{ReadAloud, Tools, false, "Reading aloud", "What the browser reads aloud to everyone, on devices that have a voice.", Picks{ReadParts, "nothing", "everything"}, Raw([]string{}), notBelow,
		only(added, morePicked)},
	{Glossary, Tools, false, "Glossary", "Hard words are explained, where an item has explanations.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{Dictionary, Tools, false, "Dictionary", "A small dictionary for school.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{Spelling, Tools, false, "Spelling help", "The browser marks words that are not spelled right in written answers.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{TimesTable, Tools, false, "Multiplication table", "A table of products from 1 to 12.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{Ruler, Tools, false, "Ruler", "A ruler that students move and turn over a picture.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{Protractor, Tools, false, "Protractor", "A protractor that students move and turn over a picture.", Flag{"yes", "no"}, Raw(false), notBelow, only(added, switchedOn)},
	{EasyType, Tools, false, "Letters and spacing", "Students can set letters, words and lines farther apart.", Flag{"yes", "no"}, Raw(true), notBelow, only(added, switchedOn)},
	{Zoom, Tools, false, "Larger print", "Students can make everything larger.", Flag{"yes", "no"}, Raw(true), notBelow, only(added, switchedOn)},
	{Colors, Tools, false, "Colors", "Students can choose a darker or a softer ground.", Flag{"yes", "no"}, Raw(true), notBelow, only(added, switchedOn)},

	{Attempts, Tries, true, "Attempts", "How often each student may take it.", Number{1, 10, "one, with no retake", "%d", ""}, Raw(1), everywhere, only(added, moreNumber)},
	{Retake, Tries, false, "What a retake asks", "Either everything again, or only what was not fully right.", Choice{retakes}, Raw("all"), notBelow, fixed(compares)},
	{Keep, Tries, false, "Which attempt counts", "Of several attempts, the one that is the result.", Choice{keeps}, Raw("best"), notBelow, fixed(rescoring)},
	{RetakePenalty, Tries, false, "Taken off for each retake", "Percent of the total that every attempt after the first loses, never below 0.", Number{0, 100, "1% of the total", "%d%% of the total", "nothing"},
		Raw(0), notBelow, only("It may be lowered, not raised: those who have begun were told otherwise.", lessNumber)},
	{Practice, Tries, false, "Practice afterwards", "Once the window is over, students may take it again for themselves. Nothing of it counts.", Flag{"yes", "no"},
		Raw(false), everywhere, Begun{}},
	{LateWork, Tries, true, "Late work", "What becomes of work that is not handed in when the window ends.", Choice{lateWorks}, Raw("handIn"), everywhere, fixed(promised)},
	{LateDays, Tries, false, "Days for late work", "For how many days after the window late work is taken.", Number{1, 60, "1 day", "%d days", ""},
		Raw(7), everywhere, only(longer, moreNumber)},
	{LatePenalty, Tries, false, "Taken off for each late day", "Percent of the total that late work loses for each day that has begun, never below 0.", Number{0, 100, "1% of the total", "%d%% of the total", "nothing"},
		Raw(10), everywhere, only("It may be lowered, not raised: those who have begun were told otherwise.", lessNumber)},

	{AfterEach, Feedback, false, "Feedback after each item", "What students see when they leave an item, which they then cannot change.", Picks{told[1:4], "nothing", ""},
		Raw([]string{}), notBelow, fixed(compares)},
	{AtHandIn, Feedback, true, "Feedback at hand-in", "What students see as soon as they hand in.", Picks{told, "that it came in, nothing more", ""},
		Raw([]string{}), notBelow, Begun{}},
	{Later, Feedback, true, "Feedback later", "What students see from a later moment on.", Picks{told, "nothing", ""}, Raw([]string{}), notBelow, Begun{}},
	{LaterWhen, Feedback, false, "When the later feedback comes", "The moment from which students see it.", Choice{laterWhens}, Raw("released"), notBelow, Begun{}},
	{LaterDate, Feedback, false, "Day of the later feedback", "Counts where feedback comes from a day that you choose. A new day takes effect at once, also backward.", Moment{"not set"},
		Raw(""), notBelow, Begun{}},
	{LaterHours, Feedback, false, "Hours until the later feedback", "Counts where feedback comes some hours after the window ends.", Number{0, 24 * 60, "1 hour", "%d hours", "at once"},
		Raw(24), notBelow, Begun{}},
	{ShowScore, Feedback, false, "How a score is told", "How a student's own score is put, wherever feedback shows it.", Picks{scores, "not at all", ""},
		Raw([]string{"points"}), notBelow, Begun{}},

	{InReports, Reports, true, "Counts in reports", "Results are part of every summary unless this is switched off.", Flag{"yes", "no"}, Raw(true), notBelow, Begun{}},
	{Printing, Reports, false, "Printing by students", "Whether a student can print a page of theirs from the browser.", Flag{"allowed", "not allowed"}, Raw(false), notBelow, Begun{}},
}

var byKey = func() map[string]Setting {
	out := map[string]Setting{}
	for _, s := range Catalog {
		out[s.Key] = s
	}
	return out
}()

// ByKey gives a setting; false where there is none.
func ByKey(key string) (Setting, bool) {
	s, ok := byKey[key]
	return s, ok
}

// Values are what is in force, by key. What is missing is the setting's default.
type Values map[string]json.RawMessage

// Of gives a value as it is in force, its default where there is none.
func (v Values) Of(key string) json.RawMessage { return byKey[key].orDefault(v[key]) }

func valueOf[T any](v Values, key string) T { return read[T](v.Of(key)) }

// has tells whether a list picks something.
func (v Values) has(key, one string) bool { return slices.Contains(valueOf[[]string](v, key), one) }
