package main

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"pineledger/app/bank"
	"pineledger/app/intake"
	"pineledger/core/ledger"
	"pineledger/core/roster"
	"pineledger/formats/compute"
	"pineledger/formats/table"
	"pineledger/store"
)

// operator is who works at the command line: whoever can read the database.
var operator = roster.Viewer{Name: "Command line", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}

func importCommand() *cobra.Command {
	var dir, report string
	var older, look bool
	var assume intake.Assumed
	c := &cobra.Command{Use: "import standards|roster|items|tables|profiles FILE", Short: "Import standards (a CASE file), a roster (a OneRoster zip or folder), items (a QTI package, CSV or XLSX) the state's tables (CSV or XLSX) or accommodations (CSV, XML or a zip of XML)",
		Args: cobra.ExactArgs(2), ValidArgs: []string{"standards", "roster", "items", "tables", "profiles"}, RunE: func(c *cobra.Command, args []string) (err error) {
			if !slices.Contains(c.ValidArgs, args[0]) {
				return usageError{fmt.Errorf("%q is not standards, roster, items, tables or profiles", args[0])}
			}
			o, err := openWhenFree(c.Context(), c.ErrOrStderr(), dir)
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, o.close()) }()
			last := ""
			file := intake.File{Kind: intake.ImportKind(args[0]), Name: filepath.Base(args[1]), Path: args[1], Assume: assume, Older: older, Look: look}
			result, err := o.app.Intake.Import(c.Context(), operator, file, func(stage string, counts intake.ImportCounts) {
				if stage != last {
					fmt.Fprintln(c.ErrOrStderr(), "reading", stage)
					last = stage
				}
			})
			if report != "" {
				err = errors.Join(err, writeReport(report, result))
			}
			if err != nil {
				return err
			}
			n := result.Counts
			fmt.Fprintf(c.OutOrStdout(), "Read %d: new %d, changed %d, unchanged %d, refused %d, left aside %d\n", n.Read, n.New, n.Changed, n.Unchanged, n.Refused, n.Aside)
			say(c.OutOrStdout(), result.Refusals, report == "")
			say(c.OutOrStdout(), result.Notes, report == "")
			return nil
		}}
	dataFlag(c, &dir)
	c.Flags().BoolVar(&look, "look", false, "read the file and report, and keep nothing")
	c.Flags().BoolVar(&older, "older", false, "let an older edition of standards take the place of a newer one")
	c.Flags().StringVar(&report, "report", "", "write what was refused, left aside or assumed to this CSV file")
	for name, into := range map[string]*string{"subject": &assume.Subject, "grade": &assume.Grade, "bank": &assume.Bank, "standard": &assume.Standard, "year": &assume.Year} {
		c.Flags().StringVar(into, name, "", "the "+name+" of items or tables that do not say it")
	}
	return c
}

// say prints remarks, the first of them only where they are not in a report.
func say(out io.Writer, list []intake.Remark, short bool) {
	for i, r := range list {
		if i == 20 && short {
			fmt.Fprintf(out, "… and %d more; --report FILE keeps them all\n", len(list)-i)
			return
		}
		at := r.File
		if r.Line > 0 {
			at = fmt.Sprintf("%s line %d", r.File, r.Line)
		}
		fmt.Fprintf(out, "%s, %s: %s\n", at, r.Field, r.Reason)
	}
}

func exportCommand() *cobra.Command {
	var dir string
	var q bank.ItemSearch
	c := &cobra.Command{Use: "export items FILE", Short: "Export items as a QTI 3.0 package", Args: cobra.ExactArgs(2), ValidArgs: []string{"items"}, RunE: func(c *cobra.Command, args []string) error {
		if args[0] != "items" {
			return usageError{fmt.Errorf("%q cannot be exported; items can", args[0])}
		}
		o, err := openWhenFree(c.Context(), c.ErrOrStderr(), dir)
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, o.close()) }()
		file, err := os.Create(args[1])
		if err != nil {
			return err
		}
		x, err := o.app.Bank.ExportItems(c.Context(), operator, q, file)
		if err := errors.Join(err, file.Close()); err != nil {
			return err
		}
		fmt.Fprintf(c.OutOrStdout(), "Items exported to %s: %d\n", args[1], x.Items)
		if n := len(x.LeftOut); n > 0 {
			fmt.Fprintf(c.OutOrStdout(), "Left out because they may not be copied: %d; %s in the package lists them\n", n, bank.LeftOutName)
		}
		return nil
	}}
	dataFlag(c, &dir)
	for name, into := range map[string]*[]string{"kind": &q.Kinds, "subject": &q.Subjects, "grade": &q.Grades, "bank": &q.Banks, "language": &q.Languages} {
		c.Flags().StringSliceVar(into, name, nil, "only of this "+name+"; may be given several times")
	}
	c.Flags().StringVar(&q.Words, "words", "", "only with these words in stem and choices")
	return c
}

func writeReport(path string, r intake.ImportReport) error {
	file, err := os.Create(path)
	if err != nil {
		return err
	}
	var rows [][]string
	for _, x := range slices.Concat(r.Refusals, r.Notes) {
		rows = append(rows, []string{x.File, fmt.Sprint(x.Line), x.Field, x.Reason, string(x.Sort)})
	}
	if err := table.Write(file, intake.ReportHead, rows); err != nil {
		return err
	}
	return file.Close()
}

func verifyCommand() *cobra.Command {
	var dir string
	var papers []string
	c := &cobra.Command{Use: "verify", Short: "Check the ledger's chain, every seal and every score", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) (err error) {
		marks := make([]ledger.Mark, len(papers))
		for i, paper := range papers {
			if marks[i], err = ledger.ReadMark(paper); err != nil {
				return err
			}
		}
		if info, err := os.Stat(filepath.Join(dir, store.DatabaseFile)); err != nil || info.Size() == 0 {
			return fmt.Errorf("there is no database in %s", dir) // and none is made
		}
		o, err := openWhenFree(c.Context(), c.ErrOrStderr(), dir)
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, o.store.Close(), o.lock.Release()) }() // it leaves the anchor as it is
		v, err := o.app.Record.Verify(c.Context(), marks...)
		if err != nil {
			return err
		}
		fmt.Fprintf(c.OutOrStdout(), "the chain of %d entries holds, and its anchor at entry %d; %d sealed forms match their fingerprints;\n"+
			"%d attempts are there, %d scorings follow from answers and forms, %d results and their tallies follow from scorings\n",
			v.Entries, v.Anchored, v.Forms, v.Attempts, v.Scorings, v.Results)
		for _, m := range marks {
			fmt.Fprintf(c.OutOrStdout(), "Entry %d matches the printed one\n", m.Number)
		}
		return nil
	}}
	dataFlag(c, &dir)
	c.Flags().StringArrayVar(&papers, "paper", nil, "a printed entry: its number and its hash, or the hash's first 32 digits")
	return c
}

func rebuildCommand() *cobra.Command {
	var dir string
	c := &cobra.Command{Use: "rebuild", Short: "Recompute all results and tallies from the scorings", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) (err error) {
		o, err := openWhenFree(c.Context(), c.ErrOrStderr(), dir)
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, o.close()) }()
		seats, err := o.app.Take.Rebuild(c.Context())
		if err != nil {
			return err
		}
		fmt.Fprintf(c.OutOrStdout(), "Recomputed %d results and their tallies\n", seats)
		return nil
	}}
	dataFlag(c, &dir)
	return c
}

func coordinatorCommand() *cobra.Command {
	var dir, given, family, email string
	c := &cobra.Command{Use: "coordinator", Short: "Add a district coordinator; the password is read from standard input", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) (err error) {
		o, err := openWhenFree(c.Context(), c.ErrOrStderr(), dir)
		if err != nil {
			return err
		}
		defer func() { err = errors.Join(err, o.close()) }()
		password, err := bufio.NewReader(c.InOrStdin()).ReadString('\n')
		if err != nil && err != io.EOF {
			return err
		}
		if err := o.app.Office.AddCoordinator(c.Context(), given, family, email, strings.TrimRight(password, "\r\n")); err != nil {
			return err
		}
		fmt.Fprintf(c.OutOrStdout(), "%s %s can sign in as %s\n", given, family, email)
		return nil
	}}
	dataFlag(c, &dir)
	c.Flags().StringVar(&given, "given", "", "given name")
	c.Flags().StringVar(&family, "family", "", "family name")
	c.Flags().StringVar(&email, "email", "", "e-mail")
	return c
}

func computeCommand() *cobra.Command {
	c := group(&cobra.Command{Use: "compute", Short: "Run a computation of the core: JSON in, JSON out"})
	for _, w := range []struct {
		name, help string
		run        func(io.Reader) (any, error)
	}{{"cuts", compute.CutsHelp, compute.Cuts}, {"band", compute.BandHelp, compute.Band}, {"balance", compute.BalanceHelp, compute.Balance}, {"draw", compute.DrawHelp, compute.Draw},
		{"clock", compute.ClockHelp, compute.Clock}, {"settings", compute.SettingsHelp, compute.Settings}, {"stats", compute.StatsHelp, compute.Stats}, {"predict", compute.PredictHelp, compute.Predict},
		{"ability", compute.AbilityHelp, compute.Ability}, {"panel", compute.PanelHelp, compute.Panel}} {
		short, _, _ := strings.Cut(w.help, "\n")
		c.AddCommand(&cobra.Command{Use: w.name, Short: short, Long: w.help, Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
			result, err := w.run(c.InOrStdin())
			if err != nil {
				return err
			}
			return json.NewEncoder(c.OutOrStdout()).Encode(result)
		}})
	}
	short, _, _ := strings.Cut(compute.ScoreHelp, "\n")
	c.AddCommand(&cobra.Command{Use: "score", Short: short, Long: compute.ScoreHelp, Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
		lines, err := compute.Score(c.InOrStdin())
		if err != nil {
			return err
		}
		_, err = c.OutOrStdout().Write(lines)
		return err
	}})
	return c
}
