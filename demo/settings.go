package demo

import (
	"context"

	"pineledger/app/give"
	"pineledger/core/settings"
)

// saying is what a place of the demo says of one setting.
type saying struct {
	key   string
	value any
	lock  settings.Lock
}

// set lets a place say something of settings, as a coordinator of the district.
func (g *generator) set(ctx context.Context, p settings.Place, all ...saying) error {
	changes := make([]give.SettingChange, len(all))
	for i, s := range all {
		changes[i] = give.SettingChange{Key: s.key, Value: settings.Raw(s.value), Lock: s.lock}
	}
	_, err := g.app.Give.PutSettings(ctx, g.district, p, changes, nil)
	return err
}

// defaults are what assessments of the district start with.
func (g *generator) defaults(ctx context.Context) error {
	g.clock = g.day(60, 14, 10)
	if err := g.set(ctx, settings.Place{}, saying{settings.Minutes, 60, settings.NoLock}, saying{settings.InReports, true, settings.LockRest}); err != nil {
		return err
	}
	benchmark := settings.Place{Purpose: "benchmark"}
	if err := g.set(ctx, benchmark, saying{settings.Attempts, 1, settings.LockRest}, saying{settings.Later, []string{"right", "goOver"}, settings.NoLock},
		saying{settings.ShowScore, []string{"points", "band"}, settings.NoLock}); err != nil {
		return err
	}
	return g.set(ctx, settings.Place{Purpose: "common formative"}, saying{settings.AtHandIn, []string{"score"}, settings.NoLock})
}
