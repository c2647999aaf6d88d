package roster

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"pineledger/core/points"
	"pineledger/core/settings"
)

// Target is a section that a distribution would reach.
type Target struct {
	SectionID int64
	Section   string
	School    string
	Teachers  int
	Students  []int64 // those not left out
	Had       int     // the newest edition that it was given; 0 for none
}

// Plan is a distribution before it goes out.
type Plan struct {
	Targets     []Target
	Waves       []PlannedWave
	NoWave      []string // sections that are in no wave
	Nowhere     []string // students who are named, and are in no section
	NoSignIn    int      // students who have no way to sign in
	Lines       int
	NoKey       []int    // lines without a key, counted from 1
	NoAlign     []int    // lines aligned to no standard
	WrongKey    []int    // lines whose key somebody reported as wrong, with the report open
	Unpermitted []string // passages of which nobody has noted that they may be used
	Sealed      bool
	HasBands    bool
	Now         time.Time
	Edition     int // that would go out
	// Elsewhere are students of the targets' sections who had this edition, or a later one, in a section that is no target.
	Elsewhere []int64
	// Settings are what quarrels among them.
	Settings []settings.Quarrel
	// Clashes are other windows that overlap, with how many of the same students.
	Clashes []Clash
	Seen    []Seen // lines that students have met before this year
	Held    []int  // lines whose item is on hold for something else
	Unmet   Unmet
	// Languages are those in which sections are to have it and it is not all written.
	Languages []PlannedLanguage
	Form      PlannedForm   // what goes out, where it has twin forms
	Twins     []PlannedForm // that go out with it
}

// PlannedForm is a twin form before it goes out.
type PlannedForm struct {
	Assessment int64
	Letter     string
	Out        bool // it was sent on its own
	Forbidden  bool // who sends may not send this one
	Prepared   bool // somebody has chosen whom it goes to on its own
	Total      points.Points
	Expected   int   // thousandths of the points that students are expected to get; 0: not known
	Plan       *Plan // its lines and bands alone
}

// EqualForms is by how many thousandths of the points twin forms may differ in what students are expected to get.
const EqualForms = 30

// twinFindings are those of a twin form.
func (p Plan) twinFindings(f PlannedForm) []Finding {
	var out []Finding
	add := func(bad bool, code string, severity Severity, format string, args ...any) {
		if bad {
			out = append(out, Finding{Code: code + ":" + f.Letter, Severity: severity, Text: "Form " + f.Letter + " " + fmt.Sprintf(format, args...), Part: "distribution"})
		}
	}
	add(f.Out, "form-out", Stop, "was sent on its own already. Send this form alone.")
	add(f.Forbidden, "form-others", Stop, "is not yours to send.")
	add(f.Prepared, "form-prepared", Caution, "is being prepared on its own. What was chosen there gives way.")
	add(f.Total != p.Form.Total, "form-points", Caution, "is worth %s points, form %s %s.", f.Total, p.Form.Letter, p.Form.Total)
	if by := f.Expected - p.Form.Expected; f.Expected > 0 && p.Form.Expected > 0 && max(by, -by) > EqualForms {
		add(true, "form-harder", Caution, "is expected to bring %.1f %% of its points, form %s %.1f %%.", float64(f.Expected)/10, p.Form.Letter, float64(p.Form.Expected)/10)
	}
	for _, own := range Preflight(*f.Plan) {
		if own.Part == "lines" || own.Part == "cuts" {
			own.Code, own.Text, own.Assessment = own.Code+":"+f.Letter, "Form "+f.Letter+": "+own.Text, f.Assessment
			out = append(out, own)
		}
	}
	return out
}

// PlannedLanguage is a language other than the form's in which some are to have it.
type PlannedLanguage struct {
	Tag      string
	Name     string
	Lacks    []string // what is not written in it, each a few words
	Students int      // who are to have it
}

// Unmet is what students cannot be given yet of their supports, but for time that a window does not hold.
type Unmet struct {
	What     []string // the titles of what is missing, those that concern most first
	Students int      // whom any of it concerns
}

// AddClashes adds clashes of one wave to those of others.
func (p *Plan) AddClashes(more []Clash) {
	for _, c := range more {
		if at := slices.IndexFunc(p.Clashes, func(o Clash) bool { return o.Title == c.Title }); at >= 0 {
			p.Clashes[at].Students += c.Students
			p.Clashes[at].Minutes = max(p.Clashes[at].Minutes, c.Minutes)
		} else {
			p.Clashes = append(p.Clashes, c)
		}
	}
}

// PlannedWave is a wave before it goes out.
type PlannedWave struct {
	Name     string
	Opens    time.Time // zero: not chosen
	Closes   time.Time // zero: not chosen
	Students int
	Minutes  int      // time limit, 0: none
	Holds    int      // minutes of its hours and days
	Lost     []string // school days of the week in it without school, as "Jan 12"
	// Longer are those who have more time than the wave holds.
	Longer Longer
}

// Longer is the longest time of students, and how many have more than there is.
type Longer struct{ Minutes, Students int }

// Seen is a line whose item students were given earlier this year.
type Seen struct {
	Line     int // counted from 1
	Students int
}

// Clash is another distribution at the same time for some of the same students.
type Clash struct {
	Title    string
	Students int
	Minutes  int // its time limit, the longest of them; 0: none
}

// Severity of a finding: a stop must be mended, a caution may be accepted with a reason.
type Severity string

const (
	Stop    Severity = "stop"
	Caution Severity = "caution"
)

// Finding is one thing that preflight says. Code is stable, for accepting it.
type Finding struct {
	Code     string
	Severity Severity
	Text     string
	Part     string // the part of the assessment where it is mended
	// Assessment is whose part that is; 0: of the one that goes out.
	Assessment int64
	Students   int // whom it concerns; 0: all, or not students
}

// Preflight checks a plan. Findings come stops first, then in the order of the work.
func Preflight(p Plan) []Finding {
	var out []Finding
	add := func(bad bool, code string, severity Severity, part, format string, args ...any) {
		if bad {
			out = append(out, Finding{Code: code, Severity: severity, Text: fmt.Sprintf(format, args...), Part: part})
		}
	}
	of := func(students int) {
		if students > 0 {
			out[len(out)-1].Students = students
		}
	}
	add(!p.Sealed, "not-sealed", Stop, "lines", "The assessment is not sealed yet.")
	add(p.Lines == 0, "no-lines", Stop, "lines", "The assessment has no lines.")
	add(len(p.NoKey) > 0, "no-key", Stop, "lines", "Lines without a key: %s.", numbers(p.NoKey))
	add(len(p.Targets) == 0, "no-targets", Stop, "distribution", "Nobody gets it: no section is chosen, or everybody in it is left out.")
	add(len(p.NoWave) > 0, "no-wave", Stop, "distribution", "In no wave: %s. Put their schools into one, or add a wave for all others.", listed(p.NoWave))
	for i, w := range p.Waves {
		out = append(out, w.findings(i, len(p.Waves), p.Now)...)
	}
	again, earlier := p.given()
	add(len(again) > 0, "again", Stop, "distribution", "These have it already: %s. Leave them out, or open their door again for who was absent.", listed(again))
	add(len(earlier) > 0, "earlier", Caution, "distribution", "These had an earlier edition: %s.", listed(earlier))
	add(len(p.Nowhere) > 0, "nowhere", Caution, "distribution", "In no section, so they get no seat: %s.", listed(p.Nowhere))
	before := p.elsewhere()
	add(before > 0, "had-elsewhere", Stop, "distribution", "%s had it in another section already: leave them out, or they would get it twice.", count(before, "student"))
	twice := p.twice()
	add(len(twice) > 0, "twice", Stop, "distribution", "%s would get it twice: take one of their sections out.", count(len(twice), "student"))
	none, noTeacher := p.sectionsWithout()
	add(len(none) > 0, "no-students", Caution, "distribution", "Sections without students: %s.", listed(none))
	add(len(noTeacher) > 0, "no-teacher", Caution, "distribution", "Sections without a teacher, whose door nobody can open: %s.", listed(noTeacher))
	if p.NoSignIn > 0 {
		add(true, "no-sign-in", Caution, "distribution", "%s cannot sign in yet: the rosters give them no PIN.", count(p.NoSignIn, "student"))
		of(p.NoSignIn)
	}
	add(len(p.Held) > 0, "held", Caution, "lines", "Lines whose items are on hold for something else: %s.", numbers(p.Held))
	if len(p.Seen) > 0 {
		lines, most := make([]int, len(p.Seen)), 0
		for i, l := range p.Seen {
			lines[i], most = l.Line, max(most, l.Students)
		}
		add(true, "seen", Caution, "lines", "Lines that some of them were given this year already: %s.", numbers(lines))
		of(most)
	}
	add(len(p.NoAlign) > 0, "no-standard", Caution, "lines", "Lines aligned to no standard: %s.", numbers(p.NoAlign))
	if len(p.Unpermitted) > 0 {
		add(true, "permission", Caution, "lines", "Nobody has noted that these passages may be used, on a screen or on paper: %s.", first(3, p.Unpermitted))
	}
	add(len(p.WrongKey) > 0, "wrong-key", Caution, "lines", "Lines whose key was reported as wrong, and nobody has answered yet: %s.", numbers(p.WrongKey))
	if p.Unmet.Students > 0 {
		add(true, "supports", Caution, "supports", "%s cannot be given all of their supports yet: %s.", count(p.Unmet.Students, "student"), first(3, p.Unmet.What))
		of(p.Unmet.Students)
	}
	for _, l := range p.Languages {
		add(true, "language:"+l.Tag, Caution, "lines", "For %s it begins in %s, and not all of it is written so: %s.", count(l.Students, "student"), l.Name, first(3, l.Lacks))
		of(l.Students)
	}
	add(!p.HasBands, "no-bands", Caution, "cuts", "No band set is chosen: results will show points and no bands.")
	for _, f := range p.Twins {
		out = append(out, p.twinFindings(f)...)
	}
	for _, q := range p.Settings {
		severity := Caution
		if q.Stop {
			severity = Stop
		}
		add(true, "settings:"+q.Key, severity, "settings", "%s", q.Text)
	}
	for _, c := range p.Clashes {
		sit := "sit"
		if c.Students == 1 {
			sit = "sits"
		}
		long := ""
		if c.Minutes > 0 {
			long = fmt.Sprintf(", which takes %d minutes more", c.Minutes)
		}
		add(true, "clash:"+c.Title, Caution, "distribution", "%s also %s %s in this window%s.", count(c.Students, "student"), sit, c.Title, long)
		of(c.Students)
	}
	slices.SortStableFunc(out, func(a, b Finding) int { return severityOrder(a) - severityOrder(b) })
	return out
}

// findings are those of the i-th of n waves. Codes of a single one say no number.
func (w PlannedWave) findings(i, n int, now time.Time) []Finding {
	var out []Finding
	name, code := "The window", func(c string) string { return c }
	if n > 1 {
		if name = w.Name; name == "" {
			name = fmt.Sprintf("Wave %d", i+1)
		}
		code = func(c string) string { return fmt.Sprintf("%s:%d", c, i+1) }
	}
	add := func(bad bool, c string, severity Severity, students int, format string, args ...any) {
		if bad {
			out = append(out, Finding{Code: code(c), Severity: severity, Text: name + " " + fmt.Sprintf(format, args...), Part: "distribution", Students: students})
		}
	}
	if w.Opens.IsZero() || w.Closes.IsZero() {
		add(true, "no-window", Stop, w.Students, "needs a first and a last time.")
		return out
	}
	add(!w.Closes.After(w.Opens), "window-order", Stop, w.Students, "ends before it begins.")
	add(!w.Closes.After(now), "window-past", Stop, w.Students, "is already over.")
	if !w.Closes.After(w.Opens) {
		return out
	}
	add(w.Opens.Before(now) && w.Closes.After(now), "window-begun", Caution, w.Students, "has already begun.")
	add(w.Minutes > 0 && w.Holds < w.Minutes, "window-short", Stop, w.Students, "is shorter than the time limit of %d minutes.", w.Minutes)
	if w.Holds >= w.Minutes && w.Longer.Students > 0 {
		add(true, "window-longer", Stop, w.Longer.Students, "is too short for %s with more time: up to %d minutes, and it holds %d.", count(w.Longer.Students, "student"), w.Longer.Minutes, w.Holds)
	}
	if len(w.Lost) > 0 {
		add(true, "lost", Caution, w.Students, "loses %s: no school. Move its end, or leave it so.", listed(w.Lost))
	}
	return out
}

func severityOrder(f Finding) int {
	if f.Severity == Stop {
		return 0
	}
	return 1
}

// elsewhere counts who is in a target and had the assessment in a section that is none.
func (p Plan) elsewhere() int {
	had := map[int64]bool{}
	for _, s := range p.Elsewhere {
		had[s] = true
	}
	n := 0
	for _, t := range p.Targets {
		for _, s := range t.Students {
			if had[s] {
				n, had[s] = n+1, false
			}
		}
	}
	return n
}

// twice lists students who are in more than one target.
func (p Plan) twice() []int64 {
	seen := map[int64]int{}
	var out []int64
	for _, t := range p.Targets {
		for _, s := range t.Students {
			if seen[s]++; seen[s] == 2 {
				out = append(out, s)
			}
		}
	}
	return out
}

// given names the sections that were given this edition, and those that had only one before it.
func (p Plan) given() (again, earlier []string) {
	for _, t := range p.Targets {
		switch name := t.School + " " + t.Section; {
		case t.Had == 0:
		case t.Had >= p.Edition:
			again = append(again, name)
		default:
			earlier = append(earlier, name)
		}
	}
	return again, earlier
}

func (p Plan) sectionsWithout() (students, teacher []string) {
	for _, t := range p.Targets {
		name := t.School + " " + t.Section
		if len(t.Students) == 0 {
			students = append(students, name)
		}
		if t.Teachers == 0 {
			teacher = append(teacher, name)
		}
	}
	return students, teacher
}

// count writes "1 student", "2 students".
func count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

func numbers(ns []int) string {
	var out []string
	for _, n := range ns {
		out = append(out, fmt.Sprint(n))
	}
	return listed(out)
}

// listed names five at most and counts the rest.
func listed(names []string) string {
	const most = 5
	text := ""
	for i, n := range names {
		if i == most {
			return text + fmt.Sprintf(" and %d more", len(names)-most)
		}
		if i > 0 {
			text += ", "
		}
		text += n
	}
	return text
}

// first says the first few of some phrases and counts the rest.
func first(n int, phrases []string) string {
	if len(phrases) <= n {
		return strings.Join(phrases, "; ")
	}
	return fmt.Sprintf("%s; and %d more", strings.Join(phrases[:n], "; "), len(phrases)-n)
}

// Stops counts the findings that must be mended.
func Stops(findings []Finding) int {
	n := 0
	for _, f := range findings {
		if f.Severity == Stop {
			n++
		}
	}
	return n
}

// Unaccepted lists the cautions without a reason.
func Unaccepted(findings []Finding, reasons map[string]string) []Finding {
	var out []Finding
	for _, f := range findings {
		if f.Severity == Caution && reasons[f.Code] == "" {
			out = append(out, f)
		}
	}
	return out
}
