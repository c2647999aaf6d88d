package window

import (
	"fmt"
	"strings"
	"time"
	"unicode/utf8"
)

// NamedDay is a day without school.
type NamedDay struct {
	Date string // as 2026-11-30
	Name string // "" where it has none
}

// Bounds of days without school.
const (
	MostDays    = 400
	mostRun     = 120 // days from the first to the last of a line
	mostDayName = 80  // characters
)

// dayForms are how days are written: 2026-11-30, 11/30/2026, Nov 30, 2026.
var dayForms = []string{time.DateOnly, "1/2/2006", "Jan 2 2006", "January 2 2006"}

// ReadDays reads days without school as they are typed or pasted from a table: a line each, a day or a first and a last one, and what it is,
// parted by tabs, semicolons or commas, such as "2026-12-24 to 2027-01-01, Winter break". Saturdays and Sundays between are passed over,
// as are empty lines and a first line that names columns. The error is a *LineFault.
func ReadDays(text string) ([]NamedDay, error) {
	var out []NamedDay
	known := map[string]bool{}
	for i, line := range strings.Split(text, "\n") {
		fault := func(words string, args ...any) error { return &LineFault{i + 1, fmt.Sprintf(words, args...)} }
		if strings.TrimSpace(line) == "" {
			continue
		}
		first, rest, ok := cutDay(line)
		if !ok {
			if i == 0 && !strings.ContainsAny(line, "0123456789") {
				continue // it names the columns
			}
			return nil, fault("it begins with no day, such as 2026-12-24 or 12/24/2026.")
		}
		last, name, ok := cutDay(strings.TrimPrefix(strings.TrimPrefix(rest, "to "), "- "))
		if !ok {
			last, name = first, rest
		}
		if name = strings.TrimSpace(name); utf8.RuneCountInString(name) > mostDayName {
			return nil, fault("say what it is in at most %d characters.", mostDayName)
		}
		switch run := last.Sub(first); {
		case run < 0:
			return nil, fault("the last day is before the first.")
		case run > mostRun*24*time.Hour:
			return nil, fault("it runs over more than %d days. Write what is in it a line each.", mostRun)
		}
		out = append(out, weekdays(first, last, name, known)...)
		if len(out) > MostDays {
			return nil, fault("there are at most %d days.", MostDays)
		}
	}
	return out, nil
}

// DaysBetween are the days from a first to a last one, Saturdays and Sundays left out, all of one name. It refuses a run that is too long.
func DaysBetween(first, last time.Time, name string) ([]NamedDay, error) {
	if last.Before(first) || last.Sub(first) > mostRun*24*time.Hour {
		return nil, Refusal(fmt.Sprintf("%q does not last from one day to another, at most %d days later.", name, mostRun))
	}
	return weekdays(first, last, name, map[string]bool{}), nil
}

// weekdays are the days from a first to a last one, Saturdays and Sundays left out, that are not known yet.
func weekdays(first, last time.Time, name string, known map[string]bool) []NamedDay {
	var out []NamedDay
	for d := first; !d.After(last); d = d.AddDate(0, 0, 1) {
		date := d.Format(time.DateOnly)
		if d.Weekday() == time.Saturday || d.Weekday() == time.Sunday || known[date] {
			continue
		}
		known[date] = true
		out = append(out, NamedDay{date, name})
	}
	return out
}

// cutDay takes a day from the beginning of a line, with what parts it from the rest.
func cutDay(line string) (day time.Time, rest string, ok bool) {
	line = strings.TrimLeft(line, " \t,;\"–-")
	for n := min(len(line), len("September 30, 2026")); n >= len("1/1/2026"); n-- {
		if n < len(line) && !strings.ContainsRune(" \t,;\"–-\r", rune(line[n])) && line[n] < 0x80 {
			continue
		}
		text := strings.Join(strings.Fields(strings.ReplaceAll(line[:n], ",", " ")), " ")
		for _, form := range dayForms {
			if t, err := time.Parse(form, text); err == nil {
				return t, strings.TrimLeft(line[n:], " \t,;\"–\r"), true
			}
		}
	}
	return time.Time{}, line, false
}
