package roster

import (
	"fmt"
	"slices"
	"time"

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
	Targets  []Target
	Opens    time.Time // zero: not chosen
	Closes   time.Time // zero: not chosen
	Minutes  int       // time limit, 0: none
	Lines    int
	NoKey    []int // lines without a key, counted from 1
	NoAlign  []int // lines aligned to no standard
	WrongKey []int // lines whose key somebody reported as wrong, with the report open
	Sealed   bool
	HasBands bool
	Now      time.Time
	Edition  int // that would go out
	// Elsewhere are students of the targets' sections who had this edition, or a later one, in a section that is no target.
	Elsewhere []int64
	// Settings are what quarrels among them.
	Settings []settings.Quarrel
	// Clashes are other windows that overlap, with how many of the same students.
	Clashes []Clash
}

// Clash is another distribution at the same time for some of the same students.
type Clash struct {
	Title    string
	Students int
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
}

// Preflight checks a plan. Findings come stops first, then in the order of the work.
func Preflight(p Plan) []Finding {
	var out []Finding
	add := func(bad bool, code string, severity Severity, part, format string, args ...any) {
		if bad {
			out = append(out, Finding{code, severity, fmt.Sprintf(format, args...), part})
		}
	}
	add(!p.Sealed, "not-sealed", Stop, "lines", "The assessment is not sealed yet.")
	add(p.Lines == 0, "no-lines", Stop, "lines", "The assessment has no lines.")
	add(len(p.NoKey) > 0, "no-key", Stop, "lines", "Lines without a key: %s.", numbers(p.NoKey))
	add(len(p.Targets) == 0, "no-targets", Stop, "distribution", "No section is chosen.")
	add(p.Opens.IsZero() || p.Closes.IsZero(), "no-window", Stop, "distribution", "The window needs a first and a last time.")
	if !p.Opens.IsZero() && !p.Closes.IsZero() {
		add(!p.Closes.After(p.Opens), "window-order", Stop, "distribution", "The window ends before it begins.")
		add(!p.Closes.After(p.Now), "window-past", Stop, "distribution", "The window is already over.")
		short := p.Closes.After(p.Opens) && p.Minutes > 0 && p.Closes.Sub(p.Opens) < time.Duration(p.Minutes)*time.Minute
		add(short, "window-short", Stop, "distribution", "The window is shorter than the time limit of %d minutes.", p.Minutes)
		add(p.Opens.Before(p.Now) && p.Closes.After(p.Now), "window-begun", Caution, "distribution", "The window has already begun.")
	}
	again, earlier := p.given()
	add(len(again) > 0, "again", Stop, "distribution", "These have it already: %s. Leave them out, or open their door again for who was absent.", listed(again))
	add(len(earlier) > 0, "earlier", Caution, "distribution", "These had an earlier edition: %s.", listed(earlier))
	before := p.elsewhere()
	add(before > 0, "had-elsewhere", Stop, "distribution", "%s had it in another section already: leave them out, or they would get it twice.", count(before, "student"))
	twice := p.twice()
	add(len(twice) > 0, "twice", Stop, "distribution", "%s would get it twice: take one of their sections out.", count(len(twice), "student"))
	none, noTeacher := p.sectionsWithout()
	add(len(none) > 0, "no-students", Caution, "distribution", "Sections without students: %s.", listed(none))
	add(len(noTeacher) > 0, "no-teacher", Caution, "distribution", "Sections without a teacher, whose door nobody can open: %s.", listed(noTeacher))
	add(len(p.NoAlign) > 0, "no-standard", Caution, "lines", "Lines aligned to no standard: %s.", numbers(p.NoAlign))
	add(len(p.WrongKey) > 0, "wrong-key", Caution, "lines", "Lines whose key was reported as wrong, and nobody has answered yet: %s.", numbers(p.WrongKey))
	add(!p.HasBands, "no-bands", Caution, "cuts", "No band set is chosen: results will show points and no bands.")
	for _, q := range p.Settings {
		severity := Caution
		if q.Stop {
			severity = Stop
		}
		add(true, "settings:"+q.Key, severity, "settings", "%s", q.Text)
	}
	for _, c := range p.Clashes {
		add(true, "clash:"+c.Title, Caution, "distribution", "%s also sit %s in this window.", count(c.Students, "student"), c.Title)
	}
	slices.SortStableFunc(out, func(a, b Finding) int { return severityOrder(a) - severityOrder(b) })
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
