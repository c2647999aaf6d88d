// Package panels is the room of standard setting: judges say, line by line or by a place in a booklet, where a cut lies, round by
// round, and a chair leads them.
package panels

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/build"
	"pineledger/app/cuts"
	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/roster"
	"pineledger/run/events"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/panelrows"
)

// Panels leads panels of judges.
type Panels struct {
	*desk.Desk
	plans *build.Plans
	cuts  *cuts.Cuts
	told  *events.Hub // who has a panel open
}

// New opens the room.
func New(d *desk.Desk, p *build.Plans, c *cuts.Cuts) *Panels {
	return &Panels{d, p, c, events.New()}
}

// Bounds of a panel.
const (
	mostJudges = 60
	mostRounds = 8
	mostListed = 200
)

// Listed is a panel as a list shows it.
type Listed struct {
	panelrows.Panel
	Chairs bool // the viewer leads it
	Judges bool // the viewer is one of its judges
}

// Listed lists the panels that a viewer leads or could, and those that they judge in, the newest first.
func (a *Panels) Listed(ctx context.Context, v roster.Viewer) ([]Listed, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	judging, err := panelrows.PanelsOfJudge(ctx, a.Store.Reader, v.PersonID)
	if err != nil {
		return nil, err
	}
	out := make([]Listed, len(judging))
	for i, p := range judging {
		out[i] = Listed{p, v.MayChange(p.Owned()), true}
	}
	if !v.MayBuild() {
		return out, nil
	}
	all, err := panelrows.Panels(ctx, a.Store.Reader, mostListed)
	if err != nil {
		return nil, err
	}
	for _, p := range all {
		if v.MaySee(p.Owned()) && !slices.ContainsFunc(judging, func(j panelrows.Panel) bool { return j.ID == p.ID }) {
			out = append(out, Listed{p, v.MayChange(p.Owned()), false})
		}
	}
	slices.SortFunc(out, func(x, y Listed) int { return int(y.ID - x.ID) })
	return out, nil
}

// Beginning is what a chair says of a new panel.
type Beginning struct {
	Assessment  int64
	Title       string // "" takes that of the assessment
	Method      panel.Method
	Probability float64 // of ordered items, 0.5 to 0.9; 0 for two thirds
	Judges      []int64 // persons
}

// Begin makes a panel for the sealed form of an assessment, or for the lines of a draft as they stand.
func (a *Panels) Begin(ctx context.Context, v roster.Viewer, in Beginning) (Opened, error) {
	if !v.MayBuild() {
		return Opened{}, desk.ErrForbidden
	}
	row, err := desk.Assessment(ctx, a.Store.Reader, v, in.Assessment)
	if err != nil {
		return Opened{}, err
	}
	p := panelrows.Panel{Title: strings.TrimSpace(in.Title), AssessmentID: row.ID, Method: in.Method, Probability: in.Probability, SchoolID: v.HomeSchool(), ChairID: v.PersonID}
	if p.Title == "" {
		p.Title = row.Title
	}
	if p.Probability == 0 {
		p.Probability = 2. / 3
	}
	f, err := a.judged(ctx, row, &p)
	if err != nil {
		return Opened{}, err
	}
	places, err := a.places(ctx, p, f)
	if err != nil {
		return Opened{}, err
	}
	if err := a.mayJudge(ctx, in.Judges); err != nil {
		return Opened{}, err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		p.At = store.Millis(a.Now())
		if p.ID, err = panelrows.Add(ctx, tx, p, f, places); err != nil {
			return err
		}
		for _, person := range in.Judges {
			if err := a.invite(ctx, tx, v, p, person); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "panel.begin", Thing: "panel", ID: p.ID, Title: p.Title, After: Note{Schema: 1, Assessment: row.ID, Edition: p.Edition, Method: p.Method, Judges: in.Judges}})
	})
	if err != nil {
		return Opened{}, err
	}
	return a.Open(ctx, v, p.ID)
}

// Note is what the ledger keeps of an act of a panel.
type Note struct {
	Schema     int          `json:"schema"` // 1
	Assessment int64        `json:"assessment,omitempty"`
	Edition    int          `json:"edition,omitempty"`
	Method     panel.Method `json:"method,omitempty"`
	Round      int          `json:"round,omitempty"`
	Training   bool         `json:"training,omitempty"`
	Judges     []int64      `json:"judges,omitempty"` // persons
	Why        string       `json:"why,omitempty"`
	Digest     string       `json:"digest,omitempty"` // of all that a judge gave in a round
	By         string       `json:"by,omitempty"`     // mean or median
	BandSet    int64        `json:"bandSet,omitempty"`
}

// judged is the form that a panel judges: the sealed one, and of a draft its lines as they stand.
func (a *Panels) judged(ctx context.Context, row buildrows.Assessment, p *panelrows.Panel) (f form.Form, err error) {
	if row.State == assessment.Draft {
		f, err = build.FormOf(ctx, a.Store.Reader, row)
	} else {
		var sealed buildrows.Form
		if sealed, err = buildrows.FormOf(ctx, a.Store.Reader, row.ID, row.Edition); err == nil {
			f, err = a.FormByID(ctx, sealed.ID)
		}
		p.Edition = row.Edition
	}
	switch {
	case err != nil:
		return f, err
	case len(f.Lines) == 0:
		return f, desk.Conflict("%s has no lines yet. A panel judges lines.", row.Title)
	case len(f.Pools) > 0:
		return f, desk.Conflict("%s draws lines from pools, so students get different ones. A panel judges a form that is the same for all.", row.Title)
	case len(f.Bands) < 2:
		return f, desk.Conflict("%s has no bands. Choose a band set first: the panel says where its bands begin.", row.Title)
	}
	return f, nil
}

// places are where the lines lie for a panel of ordered items.
func (a *Panels) places(ctx context.Context, p panelrows.Panel, f form.Form) ([]float64, error) {
	switch {
	case p.Method == panel.ByRatings:
		return nil, nil
	case p.Method != panel.ByMarks:
		return nil, desk.Invalid("/method", "Choose ratings of each line, or marks in a booklet of ordered items.")
	case p.Probability < 0.5 || p.Probability > 0.9:
		return nil, desk.Invalid("/probability", "The chance of reaching an entry is from 50%% to 90%%.")
	}
	_, located, known, err := a.cuts.Located(ctx, f)
	if err != nil {
		return nil, err
	}
	if known.Unknown > 0 {
		return nil, desk.Conflict("A booklet of ordered items goes by difficulty, and of %s none is known. Give an estimate on the item, let students answer it, or let judges rate each line.",
			desk.Plural(known.Unknown, "line"))
	}
	out := make([]float64, len(located))
	for i, l := range located {
		out[i] = l.B
	}
	return out, nil
}

// mayJudge refuses judges who are no staff, or named twice.
func (a *Panels) mayJudge(ctx context.Context, persons []int64) error {
	if len(persons) > mostJudges {
		return desk.Invalid("/judges", "A panel has at most %d judges.", mostJudges)
	}
	for i, person := range persons {
		pointer := fmt.Sprintf("/judges/%d", i)
		if slices.Contains(persons[:i], person) {
			return desk.Invalid(pointer, "This judge is named twice.")
		}
		who, err := a.Viewer(ctx, person)
		if errors.Is(err, desk.ErrNotFound) || err == nil && !who.IsStaff() {
			return desk.Invalid(pointer, "Only members of staff judge.")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (a *Panels) invite(ctx context.Context, tx *store.Tx, v roster.Viewer, p panelrows.Panel, person int64) error {
	if err := panelrows.AddJudge(ctx, tx, p.ID, person); err != nil {
		return err
	}
	return a.tell(ctx, tx, person, p, fmt.Sprintf("%s asks you to judge in a panel: %s.", v.Name, p.Title))
}

// tell puts words on a judge's Today.
func (a *Panels) tell(ctx context.Context, tx *store.Tx, person int64, p panelrows.Panel, words string) error {
	return bankrows.AddNotice(ctx, tx, bankrows.Notice{PersonID: person, At: store.Millis(a.Now()), Words: words, Path: fmt.Sprintf("/panels/%d", p.ID)})
}

// Opened is a panel as its chair sees it.
type Opened struct {
	panelrows.Panel
	MayLead bool
	Cuts    []string // the bands above the first
	Lines   []form.Line
	Total   points.Points
	Judges  []panelrows.Judge
	Rounds  []Told
	Notes   []panelrows.Note
	// Because says why no shares of students stand beside the rounds' cuts; "" where some do.
	Because string
}

// Told is a round with what came of it.
type Told struct {
	panelrows.Round
	Name   string
	Result panel.Round
	Works  []Standing // judge by judge, as in Opened.Judges
	Shares []predict.Share
}

// Standing is how far a judge is in a round.
type Standing struct {
	Given, Of int
	Done      bool
}

// opened is a panel with what it needs to be computed.
type opened struct {
	panelrows.Panel
	form   form.Form
	task   *panel.Task
	judges []panelrows.Judge
	rounds []panelrows.Round
}

// read reads a panel, whoever asks.
func (a *Panels) read(ctx context.Context, r store.Reader, id int64) (o opened, err error) {
	if o.Panel, err = panelrows.ByID(ctx, r, id); err != nil {
		return o, err
	}
	if o.form, err = panelrows.Form(ctx, r, id); err != nil {
		return o, err
	}
	if o.judges, err = panelrows.Judges(ctx, r, id); err != nil {
		return o, err
	}
	if o.rounds, err = panelrows.Rounds(ctx, r, id); err != nil {
		return o, err
	}
	places, err := panelrows.Places(ctx, r, id)
	if err != nil {
		return o, err
	}
	lines := make([]band.Line, len(o.form.Lines))
	o.task = &panel.Task{Method: o.Method, Cuts: len(o.form.Bands) - 1, Probability: o.Probability}
	for i, l := range o.form.Lines {
		lines[i] = band.Line{Points: l.Points, Step: l.Item.Step(l.Points)}
		if o.Method == panel.ByMarks {
			o.task.Lines = append(o.task.Lines, predict.Line{B: places[i], Levels: predict.Levels(l.Points, lines[i].Step)})
		}
	}
	o.task.Form, err = panel.NewForm(lines, o.form.Rule)
	return o, err
}

// cutNames are the bands above the first.
func (o opened) cutNames() []string {
	out := make([]string, o.task.Cuts)
	for i, b := range o.form.Bands[1:] {
		out[i] = b.Name
	}
	return out
}

// given is all that the judges of a panel gave, and which rounds they are done with.
type given struct {
	values []panelrows.Given
	done   []panelrows.Done
}

func allGiven(ctx context.Context, r store.Reader, id int64) (g given, err error) {
	if g.values, err = panelrows.AllGiven(ctx, r, id); err != nil {
		return g, err
	}
	g.done, err = panelrows.AllDone(ctx, r, id)
	return g, err
}

// works gathers what each judge gave in a round, in the order of the judges.
func (o opened) works(round int, all given) []panel.Work {
	out := make([]panel.Work, len(o.judges))
	at := map[int64]int{}
	for i, j := range o.judges {
		out[i], at[j.PersonID] = o.task.Empty(), i
		out[i].Done = slices.Contains(all.done, panelrows.Done{Round: round, PersonID: j.PersonID})
	}
	for _, g := range all.values {
		if g.Round == round {
			put(out[at[g.PersonID]], g)
		}
	}
	return out
}

func put(w panel.Work, g panelrows.Given) {
	if g.Line < 0 {
		w.Marks[g.Cut] = g.Value
	} else {
		w.Ratings[g.Cut][g.Line] = g.Value
	}
}

// bands are the form's bands with cuts that a round came to.
func (o opened) bands(raw func(c panel.Cut) points.Points, cuts []panel.Cut) []band.Band {
	out := slices.Clone(o.form.Bands)
	for i, c := range cuts {
		out[i+1].Cut = band.Cut{Raw: new(raw(c)), Of: new(o.task.Form.Total)}
	}
	return out
}

// Open gives a panel to who may see it as its chair does. A judge who may not gets 404, as a stranger does.
func (a *Panels) Open(ctx context.Context, v roster.Viewer, id int64) (Opened, error) {
	o, err := a.read(ctx, a.Store.Reader, id)
	if err != nil {
		return Opened{}, err
	}
	if !v.MayBuild() || !v.MaySee(o.Owned()) {
		return Opened{}, desk.ErrNotFound
	}
	out := Opened{Panel: o.Panel, MayLead: v.MayChange(o.Owned()), Cuts: o.cutNames(), Lines: o.form.Lines, Total: o.task.Form.Total, Judges: o.judges}
	all, err := allGiven(ctx, a.Store.Reader, id)
	if err != nil {
		return out, err
	}
	if out.Notes, err = panelrows.Notes(ctx, a.Store.Reader, id); err != nil {
		return out, err
	}
	for _, r := range o.rounds {
		works := o.works(r.Number, all)
		told := Told{Round: r, Name: roundName(r, o), Result: o.task.Round(works)}
		for _, w := range works {
			s := Standing{Done: w.Done}
			s.Given, s.Of = w.Given()
			told.Works = append(told.Works, s)
		}
		if told.Shares, out.Because, err = a.shares(ctx, o, told.Result.Cuts); err != nil {
			return out, err
		}
		out.Rounds = append(out.Rounds, told)
	}
	return out, nil
}

// shares are the parts of all students who will sit that would be in each band with the cuts of a round; none, with the reason, where
// too little is known of them.
func (a *Panels) shares(ctx context.Context, o opened, cuts []panel.Cut) ([]predict.Share, string, error) {
	if len(cuts) == 0 {
		return nil, "", nil
	}
	row, err := buildrows.AssessmentByID(ctx, a.Store.Reader, o.AssessmentID)
	if err != nil {
		return nil, "", err
	}
	chair, err := a.Viewer(ctx, o.ChairID) // judges are told of the same students as their chair
	if err != nil {
		return nil, "", err
	}
	prospect, because, err := a.cuts.Expect(ctx, chair, row, o.form, o.task.Form.Grain, o.ID)
	if err != nil || prospect == nil {
		return nil, because, err
	}
	computed, err := o.form.Layout.Cuts(o.form.Placed(), o.form.Rule, o.bands(func(c panel.Cut) points.Points { return c.Raw }, cuts), nil)
	if err != nil {
		return nil, "", err
	}
	return prospect.With(computed).All.Bands, "", nil
}
