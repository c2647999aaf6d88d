// Package app puts the rooms of the application together. Each room holds use cases,
// one file a step of the job: it checks the right of who asks, calls the core, stores,
// and writes the ledger entry, all in one transaction. Rooms stand in the order of the
// work, and each knows only those before it.
package app

import (
	"context"

	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/cuts"
	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/intake"
	"pineledger/app/office"
	"pineledger/app/panels"
	"pineledger/app/read"
	"pineledger/app/record"
	"pineledger/app/supports"
	"pineledger/app/take"
)

// App is the application over one open store. It is safe for concurrent use.
type App struct {
	*desk.Desk
	Office   *office.Office
	Bank     *bank.Bank
	Shelf    *bank.Shelf
	Word     *bank.Word
	Writing  *bank.Writing
	Intake   *intake.Intake
	Build    *build.Build
	Draws    *build.Draws
	Plans    *build.Plans
	Cuts     *cuts.Cuts
	Panels   *panels.Panels
	Give     *give.Give
	Supports *supports.Supports
	Take     *take.Take
	Read     *read.Read
	Record   *record.Record
}

// Config is what an App is made of.
type Config = desk.Config

// New makes the application.
func New(ctx context.Context, c Config) (*App, error) {
	d, err := desk.New(c)
	if err != nil {
		return nil, err
	}
	a := &App{Desk: d, Office: office.New(d), Give: nil, Read: read.New(d), Record: record.New(d)}
	a.Bank, a.Shelf, a.Word, a.Writing = bank.New(d)
	if a.Intake, err = intake.New(ctx, d, a.Office, a.Bank); err != nil {
		return nil, err
	}
	if a.Build, a.Draws, a.Plans, err = build.New(ctx, d, a.Bank, a.Writing); err != nil {
		return nil, err
	}
	if a.Cuts, err = cuts.New(ctx, d, a.Build); err != nil {
		return nil, err
	}
	a.Panels = panels.New(d, a.Plans, a.Cuts)
	a.Supports = supports.New(d, a.Build)
	a.Give = give.New(d, a.Build, a.Supports)
	a.Take = take.New(d, a.Supports)
	a.Give.OnChange, a.Supports.OnChange = a.Take.TermsChanged, a.Take.TermsChanged
	a.Intake.Reapply, a.Intake.OnChange, a.Intake.TakeIn = a.Supports.Reapply, a.Take.TermsChanged, a.Give.TakeIn
	return a, nil
}
