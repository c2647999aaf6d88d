package form

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"pineledger/core/points"
	"pineledger/core/settings"
)

// Changes says in sentences what differs between two editions, as coordinators would tell each other.
func Changes(before, after Form) []string {
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	if before.Title != after.Title {
		say("The title was %q and is %q.", before.Title, after.Title)
	}
	if before.Instructions != after.Instructions {
		say("The instructions changed.")
	}
	if !reflect.DeepEqual(before.Document, after.Document) {
		say("The document changed.")
	}
	out = append(out, lineChanges(before.Lines, after.Lines)...)
	if !reflect.DeepEqual(before.Layout, after.Layout) {
		say("Parts or pools changed.")
	}
	if was, is := before.Total(), after.Total(); was != is {
		say("The total was %s and is %s points.", was, is)
	}
	switch {
	case before.BandSet != after.BandSet:
		say("The band set was %s and is %s.", orNone(before.BandSet), orNone(after.BandSet))
	case before.Rule != after.Rule || !reflect.DeepEqual(before.Bands, after.Bands):
		say("The cuts of %s changed.", orNone(after.BandSet))
	}
	if !reflect.DeepEqual(before.Mastery, after.Mastery) {
		say("Mastery by standard was told by %s and is by %s.", before.Mastery.name(), after.Mastery.name())
	}
	if !slices.Equal(before.Conversion, after.Conversion) {
		say("The conversion of raw scores to the scale changed.")
	}
	if !slices.Equal(before.Reported, after.Reported) {
		say("The values that are reported for scores changed.")
	}
	if !reflect.DeepEqual(passages(before), passages(after)) {
		say("A passage changed.")
	}
	return out
}

func orNone(name string) string {
	if name == "" {
		return "none"
	}
	return name
}

// passages are the texts by identifier, whatever their order.
func passages(f Form) map[string]string {
	out := map[string]string{}
	for _, p := range f.Passages {
		out[p.Identifier] = p.Title + "\n" + p.Body
	}
	return out
}

func lineChanges(before, after []Line) []string {
	var out []string
	at := func(lines []Line, item int64) int {
		return slices.IndexFunc(lines, func(l Line) bool { return l.ItemID == item })
	}
	for i, l := range before {
		if at(after, l.ItemID) < 0 {
			out = append(out, fmt.Sprintf("Line %d, %s, was taken off.", i+1, l.Identifier))
		}
	}
	for i, l := range after {
		k := at(before, l.ItemID)
		if k < 0 {
			out = append(out, fmt.Sprintf("Line %d, %s, is new, worth %s.", i+1, l.Identifier, worth(l.Points)))
			continue
		}
		was := before[k]
		if was.VersionID != l.VersionID {
			out = append(out, fmt.Sprintf("Line %d, %s: version %d was %d.", i+1, l.Identifier, l.Version, was.Version))
		}
		if !slices.Equal(was.Without, l.Without) {
			out = append(out, fmt.Sprintf("Line %d, %s: answered %s, was %s.", i+1, l.Identifier, l.tools(), was.tools()))
		}
		if was.Points != l.Points {
			out = append(out, fmt.Sprintf("Line %d, %s: worth %s, was %s.", i+1, l.Identifier, worth(l.Points), worth(was.Points)))
		}
	}
	if reordered(before, after) {
		out = append(out, "Lines stand in another order.")
	}
	return out
}

// tools says with which tools a line is answered.
func (l Line) tools() string {
	var names []string
	for _, tool := range l.Without {
		one, _ := settings.ByKey(tool)
		names = append(names, strings.ToLower(one.Name))
	}
	if len(names) == 0 {
		return "with every tool"
	}
	return "without " + strings.Join(names, ", ")
}

func worth(p points.Points) string {
	if p == points.One {
		return "1 point"
	}
	return p.String() + " points"
}

// reordered tells whether the lines that both have follow each other in another order.
func reordered(before, after []Line) bool {
	common := func(lines, others []Line) []int64 {
		var out []int64
		for _, l := range lines {
			if slices.ContainsFunc(others, func(o Line) bool { return o.ItemID == l.ItemID }) {
				out = append(out, l.ItemID)
			}
		}
		return out
	}
	return !slices.Equal(common(before, after), common(after, before))
}
