package window

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"
)

// Bell is a period of a school's day.
type Bell struct {
	Name    string // "1", "Advisory"
	Weekday time.Weekday
	Stretch
}

// Bells are the periods of a school's week, by weekday and time.
type Bells []Bell

// Bounds of bell times.
const (
	MostBells      = 200
	mostBellName   = 40 // characters
	bellAhead      = 5 * time.Minute
	bellNextWithin = 10 * time.Minute
	bellPause      = 15 * time.Minute // between two periods of one lesson
)

// LineFault tells what is wrong with a line of what was typed or pasted; lines count from 1.
type LineFault struct {
	Line int
	Text string
}

func (f *LineFault) Error() string { return fmt.Sprintf("Line %d: %s", f.Line, f.Text) }

var shortDays = []string{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"}

// ReadBells reads bell times as they are typed or pasted from a table: a period a line, its name, its days, when it begins and ends,
// parted by commas or tabs, such as "2, Mon-Thu, 9:10 am, 10:00 am". Days are names or their first three letters, in ranges or
// side by side; no days are Monday to Friday. A first line that names columns and empty lines are passed over. The error is a *LineFault.
func ReadBells(text string) (Bells, error) {
	var out Bells
	at := map[int]int{} // the line that each came from
	for i, line := range strings.Split(text, "\n") {
		fault := func(words string, args ...any) error { return &LineFault{i + 1, fmt.Sprintf(words, args...)} }
		if strings.TrimSpace(line) == "" {
			continue
		}
		sep := ","
		if strings.Contains(line, "\t") {
			sep = "\t"
		}
		cells := strings.Split(line, sep)
		for k := range cells {
			cells[k] = strings.TrimSpace(cells[k])
		}
		if len(out) == 0 && strings.EqualFold(cells[0], "period") {
			continue
		}
		if len(cells) == 3 {
			cells = slices.Insert(cells, 1, "Mon-Fri")
		}
		if len(cells) != 4 {
			return nil, fault("write the period, its days, its beginning and its end, such as 2, Mon-Fri, 9:10 am, 10:00 am.")
		}
		if cells[0] == "" || utf8.RuneCountInString(cells[0]) > mostBellName {
			return nil, fault("a period has a name of at most %d characters.", mostBellName)
		}
		days, err := bellDays(cells[1])
		if err != nil {
			return nil, fault("%s", err)
		}
		hours := Stretch{}
		for k, into := range []*string{&hours.From, &hours.To} {
			t, err := bellTime(cells[2+k])
			if err != nil {
				return nil, fault("%s", err)
			}
			*into = t
		}
		if hours.To <= hours.From {
			return nil, fault("the period ends before it begins.")
		}
		for _, d := range days {
			for k, other := range out {
				if other.Weekday == d && hours.From < other.To && other.From < hours.To {
					return nil, fault("it overlaps the period %q of line %d on %s.", other.Name, at[k], d)
				}
			}
			at[len(out)] = i + 1
			out = append(out, Bell{cells[0], d, hours})
		}
		if len(out) > MostBells {
			return nil, fault("a week has at most %d periods.", MostBells)
		}
	}
	slices.SortFunc(out, func(a, b Bell) int { return cmp.Or(cmp.Compare(a.Weekday, b.Weekday), strings.Compare(a.From, b.From)) })
	return out, nil
}

func bellDays(text string) ([]time.Weekday, error) {
	var out []time.Weekday
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == ';' || r == '/' || r == '+' }) {
		from, to, isRange := strings.Cut(strings.ReplaceAll(part, "–", "-"), "-")
		first, err := bellDay(from)
		if err != nil {
			return nil, err
		}
		last := first
		if isRange {
			if last, err = bellDay(to); err != nil {
				return nil, err
			}
		}
		for d := first; ; d = (d + 1) % 7 {
			if !slices.Contains(out, d) {
				out = append(out, d)
			}
			if d == last {
				break
			}
		}
	}
	if len(out) == 0 {
		return nil, Refusal("say on which days, such as Mon-Fri.")
	}
	return out, nil
}

func bellDay(text string) (time.Weekday, error) {
	for i, short := range shortDays {
		if len(text) >= len(short) && strings.HasPrefix(strings.ToLower(time.Weekday(i).String()), strings.ToLower(text)) {
			return time.Weekday(i), nil
		}
	}
	return 0, Refusal(fmt.Sprintf("%q is no day of the week, such as Mon.", text))
}

func bellTime(text string) (string, error) {
	text = strings.ToUpper(strings.ReplaceAll(text, " ", ""))
	for _, layout := range []string{"15:04", "3:04PM"} {
		if t, err := time.Parse(layout, text); err == nil {
			return t.Format("15:04"), nil
		}
	}
	return "", Refusal(fmt.Sprintf("%q is no time of day, such as 9:10 am or 13:05.", strings.ToLower(text)))
}

// String writes bell times as ReadBells reads them, a period that is at one time on several days in one line.
func (b Bells) String() string {
	type period struct {
		name string
		Stretch
	}
	var order []period
	days := map[period][]time.Weekday{}
	for _, one := range b {
		p := period{one.Name, one.Stretch}
		if days[p] == nil {
			order = append(order, p)
		}
		days[p] = append(days[p], one.Weekday)
	}
	var out strings.Builder
	for _, p := range order {
		fmt.Fprintf(&out, "%s, %s, %s, %s\n", p.name, daysSaid(days[p]), timeSaid(p.From), timeSaid(p.To))
	}
	return out.String()
}

// daysSaid names days that stand in order, three and more in a row as a range.
func daysSaid(days []time.Weekday) string {
	var out []string
	for i := 0; i < len(days); {
		end := i
		for end+1 < len(days) && days[end+1] == days[end]+1 {
			end++
		}
		if end-i >= 2 {
			out = append(out, shortDays[days[i]]+"-"+shortDays[days[end]])
		} else {
			for _, d := range days[i : end+1] {
				out = append(out, shortDays[d])
			}
		}
		i = end + 1
	}
	return strings.Join(out, " ")
}

func timeSaid(clock string) string {
	t, err := time.Parse("15:04", clock)
	if err != nil {
		return clock
	}
	return t.Format("3:04 pm")
}

// For gives the period for which a door is opened at a moment, and when it ends. Where one of those in which the section meets, own,
// is on or about to begin, it is that one, to the end of the last that follows within a quarter of an hour; else whichever is.
// false: none.
func (b Bells) For(at time.Time, zone *time.Location, own []string) (Bell, time.Time, bool) {
	mine := b.named(own)
	first, ends, on := mine.around(at, zone)
	if !on {
		return b.around(at, zone)
	}
	for _, next := range mine { // by weekday and time
		if from, to := next.on(ends.In(zone)); next.Weekday == first.Weekday && !from.Before(ends) && !from.After(ends.Add(bellPause)) {
			ends = to
		}
	}
	return first, ends, true
}

// named are the bells of some periods, by their names or as "Period 3" for 3.
func (b Bells) named(own []string) Bells {
	var out Bells
	for _, one := range b {
		if slices.ContainsFunc(own, func(name string) bool {
			name = strings.TrimSpace(name)
			return name != "" && (strings.EqualFold(name, one.Name) || strings.EqualFold("Period "+name, one.Name) || strings.EqualFold(name, "Period "+one.Name))
		}) {
			out = append(out, one)
		}
	}
	return out
}

// around gives the period that is on five minutes later, since nobody opens a door for the last minutes of a period, or else the next
// that begins within ten minutes.
func (b Bells) around(at time.Time, zone *time.Location) (Bell, time.Time, bool) {
	soon := at.Add(bellAhead)
	var next Bell
	var begins, ends time.Time
	for _, one := range b {
		from, to := one.on(soon.In(zone))
		if one.Weekday != soon.In(zone).Weekday() {
			continue
		}
		if !soon.Before(from) && soon.Before(to) {
			return one, to, true
		}
		if from.After(soon) && !from.After(at.Add(bellNextWithin)) && (begins.IsZero() || from.Before(begins)) {
			next, begins, ends = one, from, to
		}
	}
	return next, ends, !begins.IsZero()
}

// on is when a period is on a day.
func (b Bell) on(day time.Time) (from, to time.Time) {
	first, last, err := b.minutes()
	if err != nil {
		return time.Time{}, time.Time{}
	}
	y, m, d := day.Date()
	return time.Date(y, m, d, 0, first, 0, 0, day.Location()), time.Date(y, m, d, 0, last, 0, 0, day.Location())
}
