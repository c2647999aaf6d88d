// Command pineledger serves Pine Ledger and does its chores. It only wires the
// parts together.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	_ "time/tzdata" // the district's zone, on machines that have none

	"github.com/spf13/cobra"

	"pineledger/app"
	"pineledger/formats/compute"
	"pineledger/store"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	err := root().ExecuteContext(ctx)
	stop()
	if err == nil {
		return
	}
	fmt.Fprintln(os.Stderr, err)
	var place *compute.PlaceError
	if errors.As(err, &place) {
		os.Exit(2)
	}
	if errors.Is(err, compute.ErrUnsettled) {
		os.Exit(3)
	}
	os.Exit(1)
}

func root() *cobra.Command {
	c := &cobra.Command{Use: "pineledger", Short: "Common benchmark assessments for a district, from item bank to results",
		SilenceUsage: true, SilenceErrors: true}
	c.AddCommand(serveCommand(), demoCommand(), importCommand(), exportCommand(), verifyCommand(), coordinatorCommand(), computeCommand())
	return c
}

// opened is a data folder with the application over it.
type opened struct {
	store *store.Store
	app   *app.App
}

func open(ctx context.Context, dir string) (*opened, error) {
	secret, err := app.LoadSecret(dir)
	if err != nil {
		return nil, fmt.Errorf("data folder %s: %w", dir, err)
	}
	s, err := store.Open(ctx, dir)
	if err != nil {
		return nil, err
	}
	a, err := app.New(ctx, app.Config{Store: s, Secret: secret})
	if err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return &opened{s, a}, nil
}

func dataFlag(c *cobra.Command, dir *string) {
	c.Flags().StringVar(dir, "data", "data", "folder of the database")
}

func defaultDemoDir() string { return filepath.Join("data", "demo") }
