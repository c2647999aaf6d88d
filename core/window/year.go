package window

import "time"

// AYearLater is a moment in the next year: 52 weeks later, on the same day of the week at the same time by the clock on the wall. Where
// there is no school on that day, it is the next one of the school days, which are in order; after the last of them the day stays.
func AYearLater(at time.Time, days []string, zone *time.Location) time.Time {
	local := at.In(zone)
	then := time.Date(local.Year(), local.Month(), local.Day()+52*7, local.Hour(), local.Minute(), local.Second(), local.Nanosecond(), zone)
	i := startOf(days, then.Format(time.DateOnly))
	if i == len(days) {
		return then
	}
	day, err := time.ParseInLocation(time.DateOnly, days[i], zone)
	if err != nil {
		return then
	}
	return time.Date(day.Year(), day.Month(), day.Day(), local.Hour(), local.Minute(), local.Second(), local.Nanosecond(), zone)
}
