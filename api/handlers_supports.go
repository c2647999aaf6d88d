package api

import (
	"archive/zip"
	"bytes"
	"cmp"
	"context"
	"strconv"
	"strings"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/supports"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/formats/pnp"
)

func givenSupport(g support.Given) contract.GivenSupport {
	out := contract.GivenSupport{Key: g.Key}
	if s, known := support.ByKey(g.Key); known {
		out.Words = s.Words(g.Value)
	}
	return out
}

func (h *supportHandlers) ListSupports(ctx context.Context, _ contract.ListSupportsRequestObject) (contract.ListSupportsResponseObject, error) {
	if _, err := edge.Who(ctx); err != nil {
		return nil, err
	}
	return contract.ListSupports200JSONResponse(each(support.Catalog, func(s support.Support) contract.Support {
		return contract.Support{Key: s.Key, Group: string(s.Group), Name: s.Name, Short: s.Short, Does: s.Does, By: contract.SupportBy(s.By), Kind: supportKind(s), Feature: s.Feature, Needs: s.Needs}
	})), nil
}

// aheadDays is how far ahead is looked where a request does not say.
const aheadDays = 14

func (h *supportHandlers) ahead(ctx context.Context, days *int) ([]supports.AheadPlace, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return h.app.Supports.Ahead(ctx, v, cmp.Or(value(days), aheadDays))
}

func (h *supportHandlers) ListSupportsAhead(ctx context.Context, r contract.ListSupportsAheadRequestObject) (contract.ListSupportsAheadResponseObject, error) {
	ahead, err := h.ahead(ctx, r.Params.Days)
	return contract.ListSupportsAhead200JSONResponse(each(ahead, func(p supports.AheadPlace) contract.SupportAhead {
		one, _ := support.ByKey(p.Key)
		return contract.SupportAhead{AssessmentId: p.Assessment, Title: p.Title, Opens: p.From, Closes: p.To, SectionId: p.SectionID, Section: p.Section, School: p.School, Key: p.Key,
			Name: p.Name, By: contract.SupportAheadBy(one.By), Students: p.Students, Need: p.Need, Have: p.Have, Lacks: p.Lacks(), Provider: p.Provider}
	})), err
}

func (h *supportHandlers) ExportSupportsAhead(ctx context.Context, r contract.ExportSupportsAheadRequestObject) (contract.ExportSupportsAheadResponseObject, error) {
	ahead, err := h.ahead(ctx, r.Params.Days)
	if err != nil {
		return nil, err
	}
	rows := [][]string{}
	for _, p := range ahead {
		if value(r.Params.Lacking) && !p.Lacks() {
			continue
		}
		rows = append(rows, []string{p.From.Format(time.RFC3339), p.To.Format(time.RFC3339), p.Title, p.School, p.Section, p.Name, strconv.Itoa(p.Students), strconv.Itoa(p.Need), strconv.Itoa(p.Have), p.Provider})
	}
	body, err := csvBody([]string{"Opens", "Closes", "Assessment", "School", "Section", "Support", "Students", "Need", "Have", "Who, or where"}, rows)
	return contract.ExportSupportsAhead200TextcsvResponse{Body: body}, err
}

func supportDistrict(d supports.District) contract.SupportDistrict {
	return contract.SupportDistrict{Grounds: each(d.Grounds, func(g supports.Ground) contract.Ground { return contract.Ground(g) }), Rules: each(d.Rules, ruleOut),
		Subjects: append([]string{}, d.Subjects...), Parts: each(settings.ReadParts, settingOption), MayChange: d.MayChange}
}

func ruleOut(r support.Construct) contract.ConstructRule {
	return contract.ConstructRule{Support: r.Support, Part: r.Part, Subject: r.Subject, Standard: r.Standard, Why: r.Why}
}

func ruleIn(r contract.ConstructRule) support.Construct {
	return support.Construct{Support: r.Support, Part: r.Part, Subject: r.Subject, Standard: r.Standard, Why: r.Why}
}

func (h *supportHandlers) GetSupportDistrict(ctx context.Context, _ contract.GetSupportDistrictRequestObject) (contract.GetSupportDistrictResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Supports.District(ctx, v)
	return contract.GetSupportDistrict200JSONResponse(supportDistrict(d)), err
}

func (h *supportHandlers) PutGrounds(ctx context.Context, r contract.PutGroundsRequestObject) (contract.PutGroundsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Supports.PutGrounds(ctx, v, r.Body.Grounds, r.Body.Was)
	return contract.PutGrounds200JSONResponse(supportDistrict(d)), err
}

func (h *supportHandlers) PutConstructRules(ctx context.Context, r contract.PutConstructRulesRequestObject) (contract.PutConstructRulesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Supports.PutRules(ctx, v, each(r.Body.Rules, ruleIn), each(r.Body.Was, ruleIn))
	return contract.PutConstructRules200JSONResponse(supportDistrict(d)), err
}

// supportKind is the kind of a support's value, as screens ask for it.
func supportKind(s support.Support) contract.SettingKind {
	switch s.Kind.(type) {
	case support.Plain:
		return contract.SettingKind{Type: "flag"}
	case support.Factor:
		return contract.SettingKind{Type: "factor"}
	case support.Language:
		options := each(settings.Languages, settingOption)
		return contract.SettingKind{Type: "language", Options: &options}
	}
	if s.Key == support.OtherSupport {
		return contract.SettingKind{Type: "other"}
	}
	return kindOf(s.Kind)
}

func profileOf(p supports.Profile) contract.Profile {
	return contract.Profile{Today: p.Today, Grounds: append([]string{}, p.Grounds...), Subjects: append([]string{}, p.Subjects...), MayEnter: p.MayEnter, SeesGrounds: p.SeesGrounds,
		Student: contract.Pupil{Id: p.Student.ID, Number: p.Student.Number, Name: p.Student.Name, Grade: p.Student.Grade, Section: p.Student.Section, School: p.Student.School},
		Entries: each(p.Entries, func(e supports.ProfileEntry) contract.ProfileEntry {
			out := contract.ProfileEntry{Id: e.ID, Key: e.Key, Value: e.Value, Ground: e.Ground, Subjects: append([]string{}, e.Subjects...), From: e.From, To: e.To, File: e.Came,
				EnteredBy: e.EnteredBy, EnteredAt: timeOf(e.EnteredAt), EndedBy: e.EndedBy, When: contract.Now}
			if s, known := support.ByKey(e.Key); known {
				out.Name, out.Words, out.By = s.Name, s.Words(e.Value), contract.ProfileEntryBy(s.By)
			}
			switch {
			case e.EndedAt > 0:
				ended := timeOf(e.EndedAt)
				out.EndedAt, out.When = &ended, contract.Ended
			case e.From > p.Today:
				out.When = contract.Later
			case e.To != "" && e.To < p.Today:
				out.When = contract.Past
			}
			return out
		})}
}

func (h *supportHandlers) GetProfile(ctx context.Context, r contract.GetProfileRequestObject) (contract.GetProfileResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Supports.Profile(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetProfile200JSONResponse(profileOf(p)), nil
}

func (h *supportHandlers) EndSupport(ctx context.Context, r contract.EndSupportRequestObject) (contract.EndSupportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Supports.End(ctx, v, r.Id, r.Entry)
	if err != nil {
		return nil, err
	}
	return contract.EndSupport200JSONResponse(profileOf(p)), nil
}

func (h *supportHandlers) EnterSupport(ctx context.Context, r contract.EnterSupportRequestObject) (contract.EnterSupportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	b := r.Body
	entry := supports.Entry{Replaces: value(b.Replaces), Have: support.Have{Key: b.Key, Value: b.Value, Ground: b.Ground, Subjects: b.Subjects, From: b.From, To: b.To}}
	return contract.EnterSupport204Response{}, h.app.Supports.Enter(ctx, v, b.Students, entry)
}

func (h *supportHandlers) ExportProfilesCsv(ctx context.Context, _ contract.ExportProfilesCsvRequestObject) (contract.ExportProfilesCsvResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	var rows [][]string
	err = h.app.Supports.Export(ctx, v, func(e supports.Exported) error {
		for _, have := range e.Haves {
			rows = append(rows, pnp.Cells(e.SourcedID, have))
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	body, err := csvBody(pnp.Head, rows)
	return contract.ExportProfilesCsv200TextcsvResponse{Body: body}, err
}

func (h *supportHandlers) ExportProfiles(ctx context.Context, _ contract.ExportProfilesRequestObject) (contract.ExportProfilesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	err = h.app.Supports.Export(ctx, v, func(e supports.Exported) error {
		file, err := z.Create("profiles/" + strconv.FormatInt(e.ID, 10) + ".xml")
		if err != nil {
			return err
		}
		return pnp.Write(file, e.SourcedID, e.Haves)
	})
	if err != nil {
		return nil, err
	}
	return contract.ExportProfiles200ApplicationzipResponse{Body: &out}, z.Close()
}

func matrixOf(m supports.Matrix) contract.SupportMatrix {
	return contract.SupportMatrix{Students: m.Students, With: m.With, Sent: m.Sent, Day: m.Day, Found: m.Found, MayRule: m.MayRule, Schools: append([]string{}, m.Schools...),
		Columns: each(m.Columns, func(c supports.Column) contract.SupportMatrixColumn {
			return contract.SupportMatrixColumn{Key: c.Key, Group: string(c.Group), Name: c.Name, Short: c.Short, By: contract.SupportMatrixColumnBy(c.By), Students: c.Students, Missing: c.Missing}
		}),
		Rows: each(m.Rows, func(row supports.Row) contract.SupportMatrixRow {
			return contract.SupportMatrixRow{StudentId: row.StudentID, Name: row.Name, Number: row.Number, Section: row.Section, SectionId: row.SectionID, School: row.School, Minutes: row.Minutes, Longer: row.Longer,
				Cells: each(row.Cells, func(c supports.Cell) contract.SupportMatrixCell {
					return contract.SupportMatrixCell{Key: c.Key, Words: c.Words, Short: c.Short, Letters: append([]string{}, c.Letters...), Still: c.Still, Temporary: c.Temporary,
						Source: contract.SupportMatrixCellSource(c.Source), Apart: c.Apart}
				})}
		}),
		Gaps: each(m.Gaps, func(g supports.GapGroup) contract.SupportGap {
			return contract.SupportGap{Letter: g.Letter, Key: g.Key, Title: g.Title, Detail: g.Detail, Lines: append([]int{}, g.Lines...), Sections: g.Sections, Students: len(g.Students),
				Mends: each(g.Mends, func(m support.Mend) contract.SupportGapMends { return contract.SupportGapMends(m) })}
		}),
		Balance: each(m.Balance, func(b supports.Balance) contract.SupportBalance {
			return contract.SupportBalance{Key: b.Key, Name: b.Name, Need: b.Need, Have: b.Have}
		}),
		Places: each(m.Places, func(p supports.Place) contract.SupportPlace {
			return contract.SupportPlace{SectionId: p.SectionID, Section: p.Section, School: p.School, Key: p.Key, Name: p.Name, Need: p.Need, Provider: p.Provider, Have: p.Have}
		}),
		Rulings: each(m.Rulings, func(r supports.RulingMade) contract.SupportRuling {
			return contract.SupportRuling{Key: r.Key, Name: support.Given{Key: r.Key}.Name(), Ruling: contract.SupportRulingRuling(r.Ruling), Reason: r.Reason, By: r.Person, At: timeOf(r.At)}
		}),
		Changes: m.Changes,
		Changing: each(m.Changing, func(c supports.Changing) contract.SupportChanging {
			return contract.SupportChanging{StudentId: c.StudentID, Student: c.Student, Says: c.Says, What: contract.SupportChangingWhat(c.What), Day: c.Day}
		})}
}

func (h *supportHandlers) GetSupportMatrix(ctx context.Context, r contract.GetSupportMatrixRequestObject) (contract.GetSupportMatrixResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	limit := value(p.Limit)
	if limit == 0 {
		limit = supports.PageOfRows
	}
	m, err := h.app.Supports.Matrix(ctx, v, r.Id, supports.MatrixFilter{School: value(p.School), Key: value(p.Key), Words: value(p.Words), Gaps: value(p.Gaps), From: value(p.From), Limit: limit})
	if err != nil {
		return nil, err
	}
	return contract.GetSupportMatrix200JSONResponse(matrixOf(m)), nil
}

func (h *supportHandlers) ExportSupportMatrix(ctx context.Context, r contract.ExportSupportMatrixRequestObject) (contract.ExportSupportMatrixResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	m, err := h.app.Supports.Matrix(ctx, v, r.Id, supports.MatrixFilter{School: value(p.School), Key: value(p.Key), Words: value(p.Words), Gaps: value(p.Gaps)})
	if err != nil {
		return nil, err
	}
	head := []string{"School", "Section", "Number", "Student"}
	for _, c := range m.Columns {
		head = append(head, c.Name)
	}
	missing := map[string]string{}
	for _, g := range m.Gaps {
		missing[g.Letter] = g.Title
	}
	rows := each(m.Rows, func(row supports.Row) []string {
		cells := []string{row.School, row.Section, row.Number, row.Name}
		var why []string
		for _, c := range m.Columns {
			said := ""
			for _, own := range row.Cells {
				if own.Key != c.Key {
					continue
				}
				if said = own.Words; said == "" {
					said = "yes"
				}
				for _, letter := range own.Letters {
					why = append(why, missing[letter])
				}
			}
			cells = append(cells, said)
		}
		minutes := ""
		if row.Minutes > 0 {
			minutes = strconv.Itoa(row.Minutes)
		}
		return append(cells, minutes, strings.Join(why, "; "))
	})
	body, err := csvBody(append(head, "Minutes", "Not yet possible"), rows)
	return contract.ExportSupportMatrix200TextcsvResponse{Body: body}, err
}

func (h *supportHandlers) RuleSupport(ctx context.Context, r contract.RuleSupportRequestObject) (contract.RuleSupportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Supports.Rule(ctx, v, r.Id, r.Key, support.Ruling(r.Body.Ruling), r.Body.Reason)
	if err != nil {
		return nil, err
	}
	return contract.RuleSupport200JSONResponse(matrixOf(m)), nil
}

func (h *supportHandlers) ProvideSupport(ctx context.Context, r contract.ProvideSupportRequestObject) (contract.ProvideSupportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Supports.Provide(ctx, v, r.Id, supports.Provider{SectionID: r.Body.Section, Key: r.Key, Provider: r.Body.Provider, Number: r.Body.Number})
	if err != nil {
		return nil, err
	}
	return contract.ProvideSupport200JSONResponse(matrixOf(m)), nil
}

func (h *supportHandlers) ListMySupports(ctx context.Context, _ contract.ListMySupportsRequestObject) (contract.ListMySupportsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Supports.Mine(ctx, v)
	return contract.ListMySupports200JSONResponse(each(list, func(have support.Have) contract.MySupport {
		said := givenSupport(support.Given{Key: have.Key, Value: have.Value})
		return contract.MySupport{Key: said.Key, Words: said.Words, From: have.From, To: have.To, Subjects: append([]string{}, have.Subjects...)}
	})), err
}

func (h *takeHandlers) AddSupportToday(ctx context.Context, r contract.AddSupportTodayRequestObject) (contract.AddSupportTodayResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if err := h.app.Supports.AddToday(ctx, v, r.Id, r.Student, r.Body.Key, r.Body.Value, r.Body.Reason); err != nil {
		return nil, err
	}
	room, err := h.app.Take.Room(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.AddSupportToday200JSONResponse(roomOf(room)), nil
}
