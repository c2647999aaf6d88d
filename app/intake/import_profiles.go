package intake

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path"
	"slices"
	"strings"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/formats/pnp"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/officerows"
)

// ProfileReader is the name of the reader of profiles that runs aside.
const ProfileReader = "profiles"

// Bounds of a zip of profiles.
const (
	mostProfileFiles = 50_000
	mostProfileBytes = 256 << 20 // of all files, opened
)

// foundEntry is what the reader of profiles finds: an entry of a student, or what is wrong with a row or file.
type foundEntry struct {
	File    string     `json:"file"`
	Student string     `json:"student"`
	Entry   *pnp.Entry `json:"entry,omitempty"`
	Field   string     `json:"field,omitempty"`
	Reason  string     `json:"reason,omitempty"` // "" where there is an entry
	Line    int        `json:"line"`
}

// ReadProfiles is the reader of profiles: a CSV, one XML file, or a zip of many. It writes entry after entry, as JSON.
func ReadProfiles(from, name string, out io.Writer) error {
	pieces := json.NewEncoder(out)
	if z, err := zip.OpenReader(from); err == nil {
		defer z.Close()
		return readProfileZip(&z.Reader, pieces)
	}
	file, err := os.Open(from)
	if err != nil {
		return err
	}
	defer file.Close()
	return readProfileFile(bufio.NewReader(file), name, pieces)
}

func readProfileZip(z *zip.Reader, pieces *json.Encoder) error {
	if len(z.File) > mostProfileFiles {
		return fmt.Errorf("it holds more than %d files", mostProfileFiles)
	}
	left := int64(mostProfileBytes)
	for _, f := range z.File {
		if f.FileInfo().IsDir() || strings.HasPrefix(path.Base(f.Name), ".") || path.Base(f.Name) == "imsmanifest.xml" {
			continue
		}
		if left -= int64(f.UncompressedSize64); left < 0 {
			return fmt.Errorf("it opens into more than %d MB", mostProfileBytes>>20)
		}
		r, err := f.Open()
		if err != nil {
			return fmt.Errorf("%s: %w", f.Name, err)
		}
		err = readProfileFile(bufio.NewReader(io.LimitReader(r, pnp.MostBytes+1)), f.Name, pieces)
		r.Close()
		if err != nil {
			if err := pieces.Encode(foundEntry{File: f.Name, Field: "file", Reason: err.Error()}); err != nil {
				return err
			}
		}
	}
	return nil
}

// readProfileFile reads XML, or a table.
func readProfileFile(r *bufio.Reader, name string, pieces *json.Encoder) error {
	head, err := r.Peek(512)
	if err != nil && !errors.Is(err, io.EOF) {
		return err
	}
	if !bytes.HasPrefix(bytes.TrimLeft(bytes.TrimPrefix(head, []byte("\xef\xbb\xbf")), " \t\r\n"), []byte("<")) {
		return pnp.ReadCSV(name, r, func(row pnp.Row, bad *table.RowError) error {
			if bad != nil {
				return pieces.Encode(foundEntry{File: name, Line: bad.Line, Field: bad.Field, Reason: bad.Reason})
			}
			return pieces.Encode(foundEntry{File: name, Line: row.Line, Student: row.Student, Entry: &row.Entry})
		})
	}
	profiles, err := pnp.Read(r)
	if err != nil {
		return err
	}
	for _, p := range profiles {
		student := p.Student
		if student == "" { // a file of one student is named by the roster id
			student = strings.TrimSuffix(path.Base(name), path.Ext(name))
		}
		for _, e := range p.Entries {
			if err := pieces.Encode(foundEntry{File: name, Line: e.Line, Student: student, Entry: &e}); err != nil {
				return err
			}
		}
	}
	return nil
}

// profileImport takes profiles in: it adds what a student has not, and puts what is other in the place of what was. What a file
// does not name stays.
type profileImport struct {
	app      *Intake
	run      *importRun
	viewer   roster.Viewer
	subjects []string
	grounds  []string
	today    string
	students map[string]student
	taken    map[int64][]support.Have // of the file, by student
	touched  []int64
}

type student struct {
	id     int64
	name   string
	stands []officerows.ProfileEntry
}

func (a *Intake) readProfiles(ctx context.Context, run *importRun, v roster.Viewer, name, from string) error {
	im := &profileImport{app: a, run: run, viewer: v, students: map[string]student{}, taken: map[int64][]support.Have{}}
	var err error
	if im.subjects, err = officerows.Subjects(ctx, a.Store.Reader); err != nil {
		return err
	}
	if im.grounds, err = officerows.Grounds(ctx, a.Store.Reader); err != nil {
		return err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	im.today = a.Now().In(zone).Format(time.DateOnly)
	run.begin("profiles")
	take := func(from io.Reader) error { return im.gather(ctx, from) }
	if a.Aside != nil {
		err = a.Aside.Stream(ctx, ProfileReader, from, name, take)
	} else {
		r, out := io.Pipe()
		go func() { out.CloseWithError(ReadProfiles(from, name, out)) }()
		defer r.Close()
		err = take(r)
	}
	if err != nil || len(im.touched) == 0 {
		return err
	}
	run.later(func(ctx context.Context, tx *store.Tx) error {
		sittings, err := a.Reapply(ctx, tx, im.touched)
		run.sittings = sittings
		return err
	})
	return nil
}

func (im *profileImport) gather(ctx context.Context, from io.Reader) error {
	pieces := json.NewDecoder(from)
	for {
		var p foundEntry
		if err := pieces.Decode(&p); errors.Is(err, io.EOF) {
			return nil
		} else if err != nil {
			return err
		}
		var bad *table.RowError
		if p.Entry == nil {
			bad = &table.RowError{File: p.File, Line: p.Line, Field: p.Field, Reason: p.Reason}
		}
		if err := im.run.take(ctx, bad, func() error { return im.take(ctx, p) }); err != nil {
			return err
		}
	}
}

// take compares an entry with what its student has.
func (im *profileImport) take(ctx context.Context, p foundEntry) error {
	refuse := func(field, format string, args ...any) error {
		return &table.RowError{File: p.File, Line: p.Line, Field: field, Reason: fmt.Sprintf(format, args...)}
	}
	note := func(field, text string) {
		im.run.notes = remark(im.run.notes, "aside", &table.RowError{File: p.File, Line: p.Line, Field: field, Reason: text})
	}
	s, err := im.find(ctx, p.Student)
	if errors.Is(err, desk.ErrNotFound) {
		return refuse("student", "%q is no student of the rosters, by roster id or number", p.Student)
	} else if err != nil {
		return err
	}
	have, err := p.Entry.Check(im.subjects)
	if err != nil {
		return refuse(p.Entry.Feature, "%s", err)
	}
	if have.Ground != "" && !slices.Contains(im.grounds, have.Ground) {
		return refuse("ground", "%q is none of the district's grounds, which are %s", have.Ground, strings.Join(im.grounds, ", "))
	}
	if err := support.CheckAll(append(sameKey(im.taken[s.id], have.Key), have)); err != nil {
		return refuse(p.Entry.Feature, "%s: %s", s.name, err)
	}
	im.taken[s.id] = append(im.taken[s.id], have)
	if p.Entry.Note != "" {
		note(p.Entry.Feature, p.Entry.Note)
	}
	switch {
	case have.To != "" && have.To < im.today:
		note("to", fmt.Sprintf("%s of %s has ended on %s; it is kept, and gives nothing now", have.Name(), s.name, have.To))
	case have.From > im.today:
		note("from", fmt.Sprintf("%s of %s begins on %s", have.Name(), s.name, have.From))
	}
	im.put(s, have, p.File)
	return nil
}

func sameKey(list []support.Have, key string) []support.Have {
	var out []support.Have
	for _, h := range list {
		if h.Key == key {
			out = append(out, h)
		}
	}
	return out
}

// put gathers the write of an entry that is new, or other than one that it meets.
func (im *profileImport) put(s student, have support.Have, file string) {
	var replaced []officerows.ProfileEntry
	for _, old := range s.stands {
		if old.Key != have.Key {
			continue
		}
		if sameEntry(old.Have, have) {
			im.run.counts.Unchanged++
			return
		}
		if support.CheckAll([]support.Have{old.Have, have}) != nil {
			replaced = append(replaced, old)
		}
	}
	act := desk.Act{Name: "profile.add", Thing: "student", ID: s.id, Title: s.name, After: support.NoteOf(have, file)}
	if len(replaced) > 0 {
		act.Name, act.Before = "profile.change", support.NoteOf(replaced[0].Have, replaced[0].Came)
		im.run.counts.Changed++
	} else {
		im.run.counts.New++
	}
	if !slices.Contains(im.touched, s.id) {
		im.touched = append(im.touched, s.id)
	}
	im.run.later(func(ctx context.Context, tx *store.Tx) error {
		at := store.Millis(im.app.Now())
		for _, old := range replaced {
			if err := officerows.EndInProfile(ctx, tx, old.ID, im.viewer, at); err != nil && !errors.Is(err, desk.ErrStale) {
				return err
			}
		}
		if _, err := officerows.AddToProfile(ctx, tx, s.id, have, file, im.viewer, at); err != nil {
			return err
		}
		return im.app.Record(ctx, tx, im.viewer, act)
	})
}

func sameEntry(a, b support.Have) bool {
	return a.Key == b.Key && string(a.Value) == string(b.Value) && a.Ground == b.Ground && a.From == b.From && a.To == b.To && slices.Equal(a.Subjects, b.Subjects)
}

// find gives a student of the rosters with what stands in the profile.
func (im *profileImport) find(ctx context.Context, id string) (student, error) {
	if s, known := im.students[id]; known {
		return s, nil
	}
	var s student
	var err error
	if s.id, s.name, err = officerows.PupilNamed(ctx, im.app.Store.Reader, id); err != nil {
		return s, err
	}
	if s.stands, err = officerows.StandingOf(ctx, im.app.Store.Reader, s.id); err != nil {
		return s, err
	}
	im.students[id] = s
	return s, nil
}
