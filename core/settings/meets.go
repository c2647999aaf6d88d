package settings

import (
	"fmt"
	"strings"
)

// Meets says in a few sentences what a student meets of a setting and those that go with it, as they are in force; "" where
// its name and value say it all.
func (v Values) Meets(key string) string {
	switch key {
	case Minutes, Hours, Breaks, BreakMinutes:
		return v.meetsTime()
	case AccessCode, ManagedOnly:
		return v.meetsDoor()
	case Attempts, Retake, Keep, RetakePenalty, Practice:
		return v.meetsTries()
	case LateWork, LateDays, LatePenalty:
		return v.meetsLate()
	case AfterEach, AtHandIn, Later, LaterWhen, LaterDate, LaterHours, ShowScore:
		return v.meetsFeedback()
	}
	return ""
}

func (v Values) words(key string) string { return byKey[key].Words(v.Of(key)) }

func (v Values) meetsTime() string {
	out := "You have as long as the window lasts."
	if v.Number(Minutes) > 0 {
		out = fmt.Sprintf("You have %s, counted from when you begin. When they are over, your work is handed in.", v.words(Minutes))
	}
	if hours := v.words(Hours); hours != "all day" {
		out += fmt.Sprintf(" You can work from %s; between, your time stands still.", hours)
	}
	if n := v.Number(Breaks); n > 0 {
		out += fmt.Sprintf(" You can take %s, %s.", v.words(Breaks), v.words(BreakMinutes))
	}
	return out
}

func (v Values) meetsDoor() string {
	out := "You begin when your teacher has opened the door."
	if v.Flag(AccessCode) {
		out = "You begin when your teacher has opened the door, with the code that is read out."
	}
	if v.Flag(ManagedOnly) {
		out += " It opens only on a device of the district."
	}
	return out
}

func (v Values) meetsTries() string {
	n := v.Number(Attempts)
	out := "You take it once."
	if n > 1 {
		out = fmt.Sprintf("You can take it up to %d times; %s.", n, v.words(Keep))
		if v.Text(Retake) == "missed" {
			out += " After the first time you get only what was not fully right."
		}
		if p := v.Number(RetakePenalty); p > 0 {
			out += fmt.Sprintf(" Each time after the first takes off %s.", v.words(RetakePenalty))
		}
	}
	if v.Flag(Practice) {
		out += " Once the window is over you can practice with it; nothing of that counts."
	}
	return out
}

func (v Values) meetsLate() string {
	switch v.Text(LateWork) {
	case "refuse":
		return "When the window ends, your work stops. Your teacher decides whether it is handed in."
	case "take":
		return fmt.Sprintf("You can still work for %s after the window ends.", v.words(LateDays))
	case "penalty":
		return fmt.Sprintf("You can still work for %s after the window ends; each day that has begun takes off %s.", v.words(LateDays), v.words(LatePenalty))
	}
	return "When the window ends, your work is handed in as it is."
}

func (v Values) meetsFeedback() string {
	var out []string
	if len(v.Picked(AfterEach)) > 0 {
		out = append(out, fmt.Sprintf("When you leave an item you see %s, and it stays as you answered it.", v.words(AfterEach)))
	}
	out = append(out, fmt.Sprintf("When you hand in you see %s.", v.words(AtHandIn)))
	if when := v.laterInWords(); len(v.Picked(Later)) > 0 && when != "" {
		out = append(out, fmt.Sprintf("%s you see %s.", when, v.words(Later)))
	}
	return strings.Join(out, " ")
}

// laterInWords is when the later feedback comes; "" for never.
func (v Values) laterInWords() string {
	switch v.Text(LaterWhen) {
	case "released":
		return "When your school releases it"
	case "date":
		return "From " + v.words(LaterDate) + " on"
	case "hours":
		if v.Number(LaterHours) == 0 {
			return "When the window has ended"
		}
		return "From " + v.words(LaterHours) + " after the window's end on"
	}
	return ""
}
