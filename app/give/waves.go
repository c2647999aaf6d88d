package give

import (
	"fmt"
	"strings"
	"time"

	"pineledger/app/desk"
	"pineledger/core/settings"
	"pineledger/core/window"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// WaveInput is a wave as a person types it. Opens and Closes are in the district's zone, "" while not chosen.
type WaveInput struct {
	Name          string
	Opens, Closes string
	Schools       []int64
	Sections      []int64
}

// OneWave is a single window for all.
func OneWave(opens, closes string) []WaveInput { return []WaveInput{{Opens: opens, Closes: closes}} }

// WaveView is a wave with who is in it and what its days are.
type WaveView struct {
	WaveInput
	SchoolNames  []string
	SectionCount int
	Students     int
	Days         []DayView
	Hours        string // of its days, in words; "" for all day
}

// DayView is a day of a wave.
type DayView struct {
	Date string
	// Spans are its stretches in minutes of the day.
	Spans    [][2]int
	Off      bool // no school
	Expected int  // students, each on one of the wave's school days
}

// wavesOf reads waves; it refuses times that cannot be, and schools that are in two waves.
func wavesOf(in []WaveInput, zone *time.Location) (window.Waves, error) {
	out := window.Waves{Schema: window.WavesSchema, Waves: []window.Wave{}}
	if len(in) > window.MostWaves {
		return out, desk.Invalid("/waves", "Make at most %d waves.", window.MostWaves)
	}
	for i, w := range in {
		from, err := desk.ParseLocal(fmt.Sprintf("/waves/%d/opens", i), w.Opens, zone)
		if err != nil {
			return out, err
		}
		to, err := desk.ParseLocal(fmt.Sprintf("/waves/%d/closes", i), w.Closes, zone)
		if err != nil {
			return out, err
		}
		out.Waves = append(out.Waves, window.Wave{Name: strings.TrimSpace(w.Name), From: from.UTC(), To: to.UTC(), Schools: w.Schools, Sections: w.Sections})
	}
	if at, err := out.Fault(); err != nil {
		return out, desk.Invalid(fmt.Sprintf("/waves/%d", at), "%s", err)
	}
	return out, nil
}

// checkWaves refuses waves of schools and sections that who asks cannot choose.
func (w *resolved) checkWaves(waves window.Waves) error {
	schools, sections := map[int64]bool{}, map[int64]bool{}
	for _, s := range w.sections {
		schools[s.SchoolID], sections[s.ID] = true, true
	}
	for i, wave := range waves.Waves {
		for k, id := range wave.Schools {
			if !schools[id] {
				return desk.Invalid(fmt.Sprintf("/waves/%d/schools/%d", i, k), "A school of this wave has no section that this assessment fits, or is not yours.")
			}
		}
		for k, id := range wave.Sections {
			if !sections[id] {
				return desk.Invalid(fmt.Sprintf("/waves/%d/sections/%d", i, k), "A section of this wave is not one of this assessment's grades and subject.")
			}
		}
	}
	return nil
}

// wavesShown are the waves of a distribution, with who of those that it goes to is in each.
func wavesShown(book *settings.Book, row buildrows.Assessment, d giverows.Distribution, whom *resolved, zone *time.Location) []WaveView {
	names := whom.names()
	waves := d.Waves.Waves
	if len(waves) == 0 {
		waves = []window.Wave{{}}
	}
	out := make([]WaveView, len(waves))
	places := make([]settings.Place, len(waves))
	for i, w := range waves {
		out[i].WaveInput = WaveInput{w.Name, desk.FormatLocal(w.From, zone), desk.FormatLocal(w.To, zone), w.Schools, w.Sections}
		places[i] = settings.Place{Purpose: row.Purpose, Assessment: row.ID, Distribution: d.ID}
		for _, s := range w.Schools {
			out[i].SchoolNames = append(out[i].SchoolNames, names.schools[s])
		}
	}
	all := window.Waves{Waves: waves}
	for _, s := range whom.sections {
		at := all.Of(s.SchoolID, s.ID)
		if n := len(whom.seating.Students[s.ID]); at >= 0 && n > 0 {
			out[at].SectionCount, out[at].Students = out[at].SectionCount+1, out[at].Students+n
			places[at].School = s.SchoolID // its hours stand for those of the wave
		}
	}
	for i, w := range waves {
		values := book.Values(places[i])
		out[i].Days = daysShown(values.Timetable(zone), w, out[i].Students, zone)
		out[i].Hours = hoursOf(values)
	}
	return out
}

// daysShown are the days of a wave, with its students spread evenly over its school days.
func daysShown(table window.Timetable, w window.Wave, students int, zone *time.Location) []DayView {
	if !w.Dated() {
		return nil
	}
	school := table.SchoolDays(w.Window())
	expected := map[string]int{}
	for i, day := range school {
		expected[day] = students*(i+1)/len(school) - students*i/len(school)
	}
	var out []DayView
	for _, d := range table.Days(w.Window()) {
		v := DayView{Date: d.Date, Off: d.Off, Expected: expected[d.Date], Spans: [][2]int{}}
		for _, s := range d.Spans {
			v.Spans = append(v.Spans, [2]int{minuteOfDay(s.From, d.Date, zone), minuteOfDay(s.To, d.Date, zone)})
		}
		out = append(out, v)
	}
	return out
}

// minuteOfDay is the minute of a date at which a moment is on the wall clock; the midnight after it is 1440.
func minuteOfDay(at time.Time, date string, zone *time.Location) int {
	local := at.In(zone)
	if local.Format(time.DateOnly) != date {
		return 24 * 60
	}
	return local.Hour()*60 + local.Minute()
}

// hoursOf says the hours of the day in words; "" where there are none.
func hoursOf(values settings.Values) string {
	one, known := settings.ByKey(settings.Hours)
	if !known || values[settings.Hours] == nil {
		return ""
	}
	return one.Words(values[settings.Hours])
}
