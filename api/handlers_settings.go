package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/give"
	"pineledger/core/settings"
)

func placeIn(p contract.SettingsPlace) settings.Place {
	return settings.Place{Purpose: value(p.Purpose), Assessment: value(p.Assessment), Distribution: value(p.Distribution), School: value(p.School), Section: value(p.Section)}
}

func placeOf(p settings.Place) contract.SettingsPlace {
	out := contract.SettingsPlace{}
	if p.Purpose != "" {
		out.Purpose = &p.Purpose
	}
	for id, into := range map[*int64]**int64{&p.Assessment: &out.Assessment, &p.Distribution: &out.Distribution, &p.School: &out.School, &p.Section: &out.Section} {
		if *id > 0 {
			*into = id
		}
	}
	return out
}

func settingOption(o settings.Option) contract.SettingOption {
	return contract.SettingOption{Value: o.Value, Words: o.Words}
}

func kindOf(k settings.Kind) contract.SettingKind {
	options := func(list ...settings.Option) *[]contract.SettingOption {
		out := each(list, settingOption)
		return &out
	}
	switch k := k.(type) {
	case settings.Flag:
		return contract.SettingKind{Type: "flag", Options: options(settings.Option{Value: "true", Words: k.On}, settings.Option{Value: "false", Words: k.Off})}
	case settings.Number:
		return contract.SettingKind{Type: "number", Least: &k.Least, Most: &k.Most}
	case settings.Choice:
		return contract.SettingKind{Type: "choice", Options: options(k.Options...)}
	case settings.Picks:
		return contract.SettingKind{Type: "picks", Options: options(k.Options...)}
	case settings.Stretches:
		return contract.SettingKind{Type: "hours"}
	case settings.Dates:
		return contract.SettingKind{Type: "days"}
	case settings.Moment:
		return contract.SettingKind{Type: "moment"}
	case settings.Text:
		return contract.SettingKind{Type: "text", Most: &k.Most}
	}
	panic("a kind of setting that the contract does not know")
}

func settingOf(s give.SettingView) contract.Setting {
	out := contract.Setting{Key: s.Key, Group: string(s.Group), Common: s.Common, Name: s.Name, Does: s.Does, Kind: kindOf(s.Kind), Value: s.Value, Words: s.Words(s.Value),
		From: contract.SettingLevel(s.From), LockedAt: contract.SettingLevel(s.LockedAt), LockedBy: s.LockedBy, Lock: contract.SettingLock(s.Lock),
		Usual: s.Usual, UsualWords: s.Words(s.Usual), Differs: s.Differs, MayChange: s.MayChange, WhyNot: s.WhyNot, Begun: s.Setting.Begun.Says(), Meets: s.Meets}
	if out.Value == nil {
		out.Value = s.Default
	}
	if out.Usual == nil {
		out.Usual = s.Default
	}
	if s.Here != nil {
		out.Here = &contract.SettingSaid{Value: s.Here.Value, Lock: contract.SettingLock(s.Here.Lock)}
	}
	out.Steps = each(s.Trail, func(step settings.Step) contract.SettingStep {
		one := contract.SettingStep{Level: contract.SettingLevel(step.Level), Words: s.Words(step.Value), Lock: contract.SettingLock(step.Lock), By: step.By, State: contract.SettingStepState(step.State)}
		if !step.At.IsZero() {
			at := step.At.UTC()
			one.At = &at
		}
		return one
	})
	return out
}

func settingsOf(v give.SettingsView) contract.Settings {
	out := contract.Settings{Place: placeOf(v.Place), Level: contract.SettingLevel(v.Place.Own().Level), Purpose: v.Purpose, Begun: v.Begun, MayChange: v.MayChange, WhyNot: v.WhyNot,
		Settings: each(v.Settings, settingOf), Undo: each(v.Wrote, settingsRowOf),
		Where: each(v.Where, func(w give.Where) contract.SettingsWhere {
			return contract.SettingsWhere{DistributionId: w.DistributionID, SchoolId: w.SchoolID, School: w.School, SectionId: w.SectionID, Section: w.Section}
		}),
		Quarrels: each(v.Quarrels, func(q settings.Quarrel) contract.SettingQuarrel {
			return contract.SettingQuarrel{Key: q.Key, With: q.With, Text: q.Text, Stop: q.Stop}
		})}
	if !v.Released.IsZero() {
		at := v.Released.UTC()
		out.ReleasedAt = &at
	}
	return out
}

func settingsRowOf(r give.SettingsRow) contract.SettingsRow {
	return contract.SettingsRow{Level: contract.SettingLevel(r.Level), Purpose: &r.Purpose, Assessment: &r.Assessment, Thing: &r.Thing, Key: r.Key, Before: saidOf(r.Before), After: saidOf(r.After)}
}

func settingsRowIn(r contract.SettingsRow) give.SettingsRow {
	return give.SettingsRow{Level: settings.Level(r.Level), Purpose: value(r.Purpose), Assessment: value(r.Assessment), Thing: value(r.Thing), Key: r.Key, Before: saidIn(r.Before), After: saidIn(r.After)}
}

func saidIn(s *contract.SettingSaid) *give.SettingSaid {
	if s == nil {
		return nil
	}
	return &give.SettingSaid{Value: s.Value, Lock: settings.Lock(s.Lock)}
}

func saidOf(s *give.SettingSaid) *contract.SettingSaid {
	if s == nil {
		return nil
	}
	return &contract.SettingSaid{Value: s.Value, Lock: contract.SettingLock(s.Lock)}
}

func settingChange(c contract.SettingChange) give.SettingChange {
	return give.SettingChange{Key: c.Key, Value: value(c.Value), Lock: settings.Lock(c.Lock), Was: value(c.Was)}
}

func (h *giveHandlers) GetSettings(ctx context.Context, r contract.GetSettingsRequestObject) (contract.GetSettingsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	view, err := h.app.Give.Settings(ctx, v, placeIn(contract.SettingsPlace{Purpose: p.Purpose, Assessment: p.Assessment, Distribution: p.Distribution, School: p.School, Section: p.Section}))
	if err != nil {
		return nil, err
	}
	return contract.GetSettings200JSONResponse(settingsOf(view)), nil
}

func (h *giveHandlers) PutSettings(ctx context.Context, r contract.PutSettingsRequestObject) (contract.PutSettingsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.Give.PutSettings(ctx, v, placeIn(r.Body.Place), each(r.Body.Changes, settingChange), r.Body.Keep)
	if err != nil {
		return nil, err
	}
	return contract.PutSettings200JSONResponse(settingsOf(view)), nil
}

func (h *giveHandlers) LookAtSettings(ctx context.Context, r contract.LookAtSettingsRequestObject) (contract.LookAtSettingsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	affected, err := h.app.Give.LookAtSettings(ctx, v, placeIn(r.Body.Place), each(r.Body.Changes, settingChange), r.Body.Keep)
	if err != nil {
		return nil, err
	}
	return contract.LookAtSettings200JSONResponse(each(affected, func(a give.Affected) contract.SettingsReach {
		return contract.SettingsReach{AssessmentId: a.Assessment, Title: a.Title, State: a.State, Sections: a.Sections, Begun: a.Begun, Stays: a.Stays, Why: a.Why,
			Changes: each(a.Changes, func(c settings.Change) contract.SettingWords {
				name, before, after := give.Said(c)
				return contract.SettingWords{Name: name, Before: before, After: after}
			})}
	})), nil
}

func (h *giveHandlers) UndoSettings(ctx context.Context, r contract.UndoSettingsRequestObject) (contract.UndoSettingsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.Give.UndoSettings(ctx, v, placeIn(r.Body.Place), each(r.Body.Rows, settingsRowIn))
	if err != nil {
		return nil, err
	}
	return contract.UndoSettings200JSONResponse(settingsOf(view)), nil
}
