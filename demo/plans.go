package demo

import (
	"context"
	"time"

	"pineledger/app/give"
	"pineledger/core/roster"
)

// planned gives the district its days without school, and a draft that goes out in waves later in winter.
func (g *generator) planned(ctx context.Context, assessment int64) error {
	week := func(weeks, day int) time.Time { return g.monday(-weeks).AddDate(0, 0, day) }
	var off []give.DayOff
	for _, weeks := range []int{3, 4} {
		for day := range 5 {
			off = append(off, give.DayOff{Day: week(weeks, day).Format(time.DateOnly), Name: "Winter break"})
		}
	}
	off = append(off, give.DayOff{Day: week(6, 1).Format(time.DateOnly), Name: "Snow"}, give.DayOff{Day: week(7, 0).Format(time.DateOnly), Name: "Harbor Day"})
	if err := g.app.Give.PutDaysOff(ctx, g.district, 0, off, nil); err != nil {
		return err
	}
	view, err := g.app.Give.Distribution(ctx, g.district, assessment)
	if err != nil {
		return err
	}
	var schools []int64
	for _, c := range view.Candidates {
		if len(schools) == 0 || schools[len(schools)-1] != c.SchoolID {
			schools = append(schools, c.SchoolID)
		}
	}
	at := func(weeks, day, hour, minute int) string {
		d := week(weeks, day)
		return time.Date(d.Year(), d.Month(), d.Day(), hour, minute, 0, 0, d.Location()).Format("2006-01-02T15:04")
	}
	waves := []give.WaveInput{{Opens: at(6, 0, 8, 15), Closes: at(6, 4, 11, 30)}}
	if len(schools) > 1 {
		waves[0].Name, waves[0].Schools = "Wave 1", schools[:1]
		waves = append(waves, give.WaveInput{Name: "Wave 2", Opens: at(6, 2, 8, 45), Closes: at(7, 1, 11, 30)})
	}
	_, err = g.app.Give.PutDistribution(ctx, g.district, assessment, give.DistributionInput{Waves: waves, Whom: roster.Whom{Entries: []roster.Entry{{}}, Follow: true}})
	return err
}
