package intake

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/formats/itemrows"
	"pineledger/formats/qti"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/intakerows"
)

// itemImport compares an items file (docs/formats.md) with the bank.
type itemImport struct {
	app       *Intake
	run       *importRun
	viewer    roster.Viewer
	standards map[string]bankrows.StandardKey
	known     map[string]intakerows.Known
	passages  map[string]intakerows.Known
	passageID map[string]int64
	seen      map[string]bool
	twins     *importTwins
	banks     map[string]int64 // by name, once they are written
	arriving  int64            // the bank where what is new lies until the import is done
	arrived   map[arrival][]int64
	arrivedAs []arrival          // in the order of the file
	tags      map[int64][]string // everyone's, by item
	fills     map[string]bool    // by bank name: whether the importer may put items there
	assumed   assumptions
}

// arrival is where items belong that have arrived.
type arrival struct{ bank, tags string }

// itemColumns are those that every items table has.
var itemColumns = []string{"identifier", "bank", "kind", "stem", "key", "standards", "subject", "grade"}

// readItems reads items from a table (CSV or a sheet) or from a QTI package.
func (a *Intake) readItems(ctx context.Context, run *importRun, v roster.Viewer, name, path string) error {
	im := &itemImport{app: a, run: run, viewer: v, passageID: map[string]int64{}, seen: map[string]bool{}, fills: map[string]bool{}, banks: map[string]int64{},
		arrived: map[arrival][]int64{}}
	var err error
	if im.arriving, err = bankrows.BankOfArrivals(ctx, a.Store.Reader); err != nil {
		return err
	}
	if im.standards, err = bankrows.StandardKeys(ctx, a.Store.Reader); err != nil {
		return err
	}
	if err := im.assume(run.file.Assume); err != nil {
		return err
	}
	if im.known, err = intakerows.KnownBy(ctx, a.Store.Reader, "item"); err != nil {
		return err
	}
	if im.passages, err = intakerows.KnownBy(ctx, a.Store.Reader, "passage"); err != nil {
		return err
	}
	im.twins = newImportTwins(len(im.known))
	if im.tags, err = bankrows.EveryonesTags(ctx, a.Store.Reader); err != nil {
		return err
	}
	for source, k := range im.passages {
		im.passageID[source] = k.ID
	}
	run.begin("items")
	if err := im.read(ctx, name, path); err != nil {
		return err
	}
	run.notes = append(run.notes, im.assumed.remarks(name)...)
	if len(run.arrivals) > 0 {
		run.later(im.settle)
	}
	return nil
}

// read tells archives from tables by what the file is, not by how it is called.
func (im *itemImport) read(ctx context.Context, name, path string) error {
	z, err := zip.OpenReader(path)
	if err != nil {
		if ending := strings.ToLower(filepath.Ext(name)); ending == ".csv" || ending == ".txt" || ending == "" {
			return im.readTable(ctx, name, path)
		}
		return desk.Conflict("%s: %s", name, qti.NotAZip(path, err))
	}
	if err := z.Close(); err != nil {
		return err
	}
	return im.app.archive(ctx, path, name, func(from io.Reader) error { return im.takeArchive(ctx, name, from) })
}

func (im *itemImport) readTable(ctx context.Context, name, path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	defer file.Close()
	rows, err := table.NewReader(name, file, itemColumns...)
	if err != nil {
		return err
	}
	return im.each(ctx, rows)
}

func (im *itemImport) each(ctx context.Context, rows *table.Reader) error {
	return rows.Each(func(row table.Row, bad *table.RowError) error {
		return im.run.take(ctx, bad, func() error { return im.take(ctx, row) })
	})
}

func (im *itemImport) take(ctx context.Context, row table.Row) error {
	identifier := row.Get("identifier")
	if row.Get("complete") == bankroom.InPackagesAlone {
		im.run.aside(row, "complete", "its kind comes in packages alone; import the package for it")
		return nil
	}
	switch {
	case identifier == "" || len(identifier) > 100 || strings.ContainsAny(identifier, " \t"):
		return row.Refuse("identifier", "must be given, without spaces, in at most 100 characters")
	case im.seen[identifier]:
		return row.Refuse("identifier", "%q is given twice", identifier)
	}
	im.seen[identifier] = true
	v, err := im.version(row)
	if err != nil {
		return err
	}
	bankName := im.bankOf(row.Get("bank"), "", identifier)
	if bankName == "" {
		return row.Refuse("bank", "is empty")
	}
	if err := im.passage(row, bankName); err != nil {
		return err
	}
	return im.put(ctx, v, bankName, row.Get("passage"), func(field, format string, args ...any) error { return row.Refuse(field, format, args...) })
}

// put gathers the write of an item that is new or has changed. It refuses what the
// importer may not change, and banks that are not open to them.
func (im *itemImport) put(ctx context.Context, v bankrows.NewVersion, bankName, passage string, refuse refusing) error {
	v.Digest = im.app.bank.ItemDigest(v, bankName, passage)
	old, exists := im.known[v.Identifier]
	var before bankrows.Item
	if exists && old.Digest != v.Digest {
		var err error
		if before, err = im.mayReplace(ctx, old.ID, v.Identifier, refuse); err != nil {
			return err
		}
	}
	if !exists {
		if err := im.mayFill(ctx, bankName, refuse); err != nil {
			return err
		}
	}
	if exists && old.Digest == v.Digest {
		return im.tag(old.ID, v)
	}
	im.run.compare(old, exists, v.Digest)
	if !exists {
		im.arrive(v, bankName, passage)
		return im.note(ctx, v)
	}
	im.run.later(func(ctx context.Context, tx *store.Tx) (err error) {
		v.ItemID = old.ID
		if v.Number, v.TagsDropped, err = nextVersion(ctx, tx, before, v.TagList); err != nil {
			return err
		}
		if v.BankID, err = im.bank(ctx, tx, bankName); err != nil {
			return err
		}
		v.PassageID = im.passageID[passage]
		v.At = store.Millis(im.app.Now())
		_, err = bankrows.PutItem(ctx, tx, v)
		return err
	})
	return nil
}

// arrive gathers the write of a new item, which settle moves to its bank.
func (im *itemImport) arrive(v bankrows.NewVersion, bankName, passage string) {
	im.run.arrive(func(ctx context.Context, tx *store.Tx) error {
		v.BankID, v.Arriving = im.arriving, true
		v.PassageID = im.passageID[passage]
		v.At = store.Millis(im.app.Now())
		id, err := bankrows.PutItem(ctx, tx, v)
		if err != nil {
			return fmt.Errorf("item %s: %w", v.Identifier, err)
		}
		im.twins.ids[v.Identifier] = id
		to := arrival{bankName, strings.Join(v.TagList, " ")}
		if len(im.arrived[to]) == 0 {
			im.arrivedAs = append(im.arrivedAs, to)
		}
		im.arrived[to] = append(im.arrived[to], id)
		return nil
	})
}

// settle moves everything that has arrived to where it belongs.
func (im *itemImport) settle(ctx context.Context, tx *store.Tx) error {
	for _, to := range im.arrivedAs {
		id, err := im.bank(ctx, tx, to.bank)
		if err != nil {
			return err
		}
		if err := bankrows.SettleItems(ctx, tx, id, strings.Fields(to.tags), im.arrived[to]); err != nil {
			return err
		}
	}
	return bankrows.SettleMedia(ctx, tx)
}

// tag puts the tags of a row on an item that is otherwise as it was; those that
// people have put on since stay.
func (im *itemImport) tag(id int64, v bankrows.NewVersion) error {
	fresh := slices.DeleteFunc(slices.Clone(v.TagList), func(name string) bool { return slices.Contains(im.tags[id], name) })
	if len(fresh) == 0 {
		im.run.counts.Unchanged++
		return nil
	}
	im.run.counts.Changed++
	im.run.later(func(ctx context.Context, tx *store.Tx) error {
		return bankrows.PutEveryonesTags(ctx, tx, id, fresh, nil)
	})
	return nil
}

// bank gives the id of the bank of a name, made if it is new.
func (im *itemImport) bank(ctx context.Context, tx *store.Tx, name string) (int64, error) {
	if id, known := im.banks[name]; known {
		return id, nil
	}
	id, err := bankrows.BankNamed(ctx, tx, name, string(bank.District))
	im.banks[name] = id
	return id, err
}

// refusing refuses a row or file for one of its fields.
type refusing func(field, format string, args ...any) error

// mayReplace gives the item that a file brings a new version of.
func (im *itemImport) mayReplace(ctx context.Context, id int64, identifier string, refuse refusing) (bankrows.Item, error) {
	row, err := bankrows.ItemByID(ctx, im.app.Store.Reader, id)
	if err != nil {
		return row, err
	}
	rights, err := im.app.bank.RightsTo(ctx, im.app.Store.Reader, im.viewer, []int64{id})
	if err != nil {
		return row, err
	}
	b := rights.Banks.By[row.BankID]
	if rights.May(bank.Change, row).May || b.Kind == bank.Given && rights.May(bank.Keep, row).May {
		return row, nil
	}
	return row, refuse("identifier", "%q is the identifier of an item that is not yours to change; give yours another one", identifier)
}

// mayFill tells whether an importer may put items into the bank of a name: one
// that they write in, a given one that they keep, or a new one.
func (im *itemImport) mayFill(ctx context.Context, name string, refuse refusing) error {
	may, known := im.fills[name]
	if !known {
		row, err := bankrows.BankCalled(ctx, im.app.Store.Reader, name)
		switch {
		case errors.Is(err, store.ErrNotFound):
			may = true
		case err != nil:
			return err
		default:
			open, err := bankroom.BanksFor(ctx, im.app.Store.Reader, im.viewer)
			if err != nil {
				return err
			}
			b, seen := open.By[row.ID]
			may = seen && (bank.May(im.viewer, bank.Write, b, bank.Item{}).May || b.Kind == bank.Given && bank.May(im.viewer, bank.Keep, b, bank.Item{}).May)
		}
		im.fills[name] = may
	}
	if !may {
		return refuse("bank", "%q is a bank that you do not write in; name another one", name)
	}
	return nil
}

// nextVersion numbers the version after the newest, and tells which of everyone's
// tags it no longer brings. Tags that people have put on since stay.
func nextVersion(ctx context.Context, tx *store.Tx, before bankrows.Item, tags []string) (number int, dropped []string, err error) {
	newest, err := bankrows.NewestVersions(ctx, tx.Reader, []int64{before.ID})
	if err != nil || len(newest) == 0 {
		return 0, nil, fmt.Errorf("the newest version of %s: %w", before.Identifier, err)
	}
	for _, tag := range desk.Codes(newest[0].Tags) {
		if !slices.Contains(tags, tag) {
			dropped = append(dropped, tag)
		}
	}
	return newest[0].Number + 1, dropped, nil
}

// version reads a row into an item with its metadata.
func (im *itemImport) version(row table.Row) (bankrows.NewVersion, error) {
	var v bankrows.NewVersion
	it, err := itemrows.ReadItem(row)
	if err != nil {
		return v, err
	}
	if problems := it.Check(); len(problems) > 0 {
		return v, row.Refuse(itemrows.FieldOf(problems[0]), "%s", problems[0].Reason)
	}
	if v, err = bankroom.VersionOf(it, row.Get("identifier"), im.viewer); err != nil {
		return v, err
	}
	v.Subject, v.Grade, v.Course, v.Language = desk.SubjectCode(row.Get("subject")), row.Get("grade"), row.Get("course"), row.Get("language")
	var standards []bankrows.StandardKey
	for _, code := range itemrows.Split(row.Get("standards")) {
		s, ok := im.standards[code]
		if !ok {
			return v, row.Refuse("standards", "%q is not a standard that is known; import its framework first", code)
		}
		standards, v.Standards = append(standards, s), append(v.Standards, s.ID)
	}
	v.Codes = strings.Join(itemrows.Split(row.Get("standards")), " ")
	if err := im.fill(&v, standards, func(field, format string, args ...any) error { return row.Refuse(field, format, args...) }); err != nil {
		return v, err
	}
	v.TagList = bankroom.TagNames(itemrows.Split(row.Get("tags")))
	if d := row.Get("depth"); d != "" {
		if v.Depth, err = strconv.Atoi(d); err != nil || v.Depth < 1 || v.Depth > 4 {
			return v, row.Refuse("depth", "%q is not 1, 2, 3 or 4", d)
		}
	}
	v.Difficulty, err = difficulty(row)
	return v, err
}

func difficulty(row table.Row) (*int64, error) {
	text := row.Get("difficulty")
	d, ok := bank.ReadDifficulty(text)
	if !ok {
		return d, row.Refuse("difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", text)
	}
	return d, nil
}

// passage takes in the passage of a row, whose text stands in the first row that names it.
func (im *itemImport) passage(row table.Row, bankName string) error {
	identifier, text := row.Get("passage"), row.Get("passage_text")
	_, known := im.passageID[identifier]
	switch {
	case identifier == "":
		return nil
	case text == "" && !known:
		return row.Refuse("passage_text", "is empty, and the passage %q is not known", identifier)
	case text == "":
		return nil
	}
	p := bankrows.Passage{Identifier: identifier, Title: row.Get("passage_title"), Body: item.Clean(item.Formatted(text))}
	if p.Title == "" {
		return row.Refuse("passage_title", "is empty")
	}
	im.putPassage(p, bankName)
	return nil
}

// putPassage gathers the write of a passage that is new or has changed.
func (im *itemImport) putPassage(p bankrows.Passage, bankName string) {
	identifier := p.Identifier
	digest := im.app.Digest(p.Title, p.Body)
	old, exists := im.passages[identifier]
	if exists && old.Digest == digest {
		return
	}
	bankroom.Measured(&p)
	if p.Language == "" {
		p.Language = "en"
	}
	p.OwnerID, p.ChangedAt = im.viewer.PersonID, store.Millis(im.app.Now())
	im.passages[identifier] = intakerows.Known{ID: im.passageID[identifier], Digest: digest}
	im.passageID[identifier] += 0 // known from here on; its id comes with the write
	if !exists {
		im.run.arrive(func(ctx context.Context, tx *store.Tx) (err error) {
			p.BankID = im.arriving
			im.passageID[identifier], err = bankrows.AddPassage(ctx, tx, p, digest)
			return err
		})
	}
	im.run.later(func(ctx context.Context, tx *store.Tx) (err error) {
		if p.BankID, err = im.bank(ctx, tx, bankName); err != nil {
			return err
		}
		if !exists {
			return bankrows.SettlePassage(ctx, tx, p.BankID, im.passageID[identifier])
		}
		im.passageID[identifier], err = bankrows.PutPassage(ctx, tx, p, digest)
		return err
	})
}
