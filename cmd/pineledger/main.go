// Command pineledger serves Pine Ledger and does its chores. It only wires the
// parts together.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"
	_ "time/tzdata" // the district's zone, on machines that have none

	"github.com/spf13/cobra"

	"pineledger/app"
	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/intake"
	"pineledger/app/office"
	"pineledger/formats/compute"
	"pineledger/run/aside"
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
	var usage usageError
	if errors.As(err, &place) || errors.As(err, &usage) || strings.HasPrefix(err.Error(), "unknown command") { // cobra's own has no type
		os.Exit(2)
	}
	if errors.Is(err, compute.ErrUnsettled) {
		os.Exit(3)
	}
	os.Exit(1)
}

func root() *cobra.Command {
	c := &cobra.Command{Use: "pineledger", Short: "Common benchmark assessments for a district, from item bank to results",
		SilenceUsage: true, SilenceErrors: true, DisableSuggestions: true}
	c.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return usageError{err} })
	c.AddCommand(serveCommand(), demoCommand(), importCommand(), exportCommand(), verifyCommand(), rebuildCommand(), coordinatorCommand(), asideCommand(), computeCommand(), standinCommand())
	usage(c)
	return c
}

// usageError is a command line that cannot be meant. It ends with 2, as wrong input of a computation does.
type usageError struct{ error }

// usage makes wrong arguments of all commands usage errors.
func usage(c *cobra.Command) {
	if check := c.Args; check != nil {
		c.Args = func(c *cobra.Command, args []string) error {
			if err := check(c, args); err != nil {
				return usageError{fmt.Errorf("%s: %w", c.CommandPath(), err)}
			}
			return nil
		}
	}
	for _, inner := range c.Commands() {
		usage(inner)
	}
}

// group is a command that only holds others: alone it shows its help, and what it does not hold is refused.
func group(c *cobra.Command) *cobra.Command {
	c.Args = cobra.ArbitraryArgs
	c.RunE = func(c *cobra.Command, args []string) error {
		if len(args) == 0 {
			return c.Help()
		}
		var names []string
		for _, inner := range c.Commands() {
			names = append(names, inner.Name())
		}
		return usageError{fmt.Errorf("unknown command %q for %q; there are %s", args[0], c.CommandPath(), strings.Join(names, ", "))}
	}
	return c
}

// asideCommand is the program as it is started by itself, to read a file of a stranger.
func asideCommand() *cobra.Command {
	readers := map[string]aside.Reader{build.DocumentReader: build.ReadDocument, bank.MediaReader: bank.ReadMedia}
	files := map[string]aside.FileReader{intake.ArchiveReader: intake.ReadArchive, intake.ProfileReader: intake.ReadProfiles}
	return &cobra.Command{Use: aside.Command + " NAME [PATH FILE]", Hidden: true, Args: cobra.RangeArgs(1, 3), RunE: func(c *cobra.Command, args []string) error {
		out, said := c.OutOrStdout(), c.ErrOrStderr()
		if read, known := readers[args[0]]; known && len(args) == 1 {
			os.Exit(aside.Serve(read, c.InOrStdin(), out, said))
		}
		if read, known := files[args[0]]; known && len(args) == 3 {
			os.Exit(aside.ServeFile(read, args[1], args[2], out, said))
		}
		return fmt.Errorf("there is no reader %q", args)
	}}
}

// opened is a data folder with the application over it, locked for this program.
type opened struct {
	store *store.Store
	app   *app.App
	lock  *store.Lock
}

// open opens a data folder; where another program works in it, that is an error.
func open(ctx context.Context, dir string) (*opened, error) {
	lock, err := store.LockFolder(dir)
	if err != nil {
		return nil, fmt.Errorf("data folder %s: %w", dir, err)
	}
	o, err := openLocked(ctx, dir)
	if err != nil {
		return nil, errors.Join(err, lock.Release())
	}
	o.lock = lock
	return o, nil
}

// openWhenFree is open for chores: they wait until the program that works in the
// folder has ended, or until they are stopped.
func openWhenFree(ctx context.Context, say io.Writer, dir string) (*opened, error) {
	ticker := time.NewTicker(200 * time.Millisecond)
	defer ticker.Stop()
	for first := true; ; first = false {
		o, err := open(ctx, dir)
		if !errors.Is(err, store.ErrLocked) {
			return o, err
		}
		if first {
			fmt.Fprintf(say, "Another Pine Ledger is using %s. Waiting for it to finish; press Ctrl-C to give up.\n", dir)
		}
		select {
		case <-ctx.Done():
			return nil, err
		case <-ticker.C:
		}
	}
}

func openLocked(ctx context.Context, dir string) (*opened, error) {
	secret, err := office.LoadSecret(dir)
	if err != nil {
		return nil, fmt.Errorf("data folder %s: %w", dir, err)
	}
	s, err := store.Open(ctx, dir)
	if err != nil {
		return nil, err
	}
	a, err := app.New(ctx, app.Config{Store: s, Secret: secret, Aside: &aside.Program{}})
	if err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return &opened{store: s, app: a}, nil
}

// close waits for work behind the screens, anchors the ledger and lets the folder go.
func (o *opened) close() error {
	o.app.Close()
	return errors.Join(o.app.Record.PutAnchor(context.Background()), o.store.Close(), o.lock.Release())
}

func dataFlag(c *cobra.Command, dir *string) {
	c.Flags().StringVar(dir, "data", "data", "folder of the database")
}

func defaultDemoDir() string { return filepath.Join("data", "demo") }
