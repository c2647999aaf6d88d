package compute

import (
	"encoding/json"
	"io"
	"slices"

	"pineledger/core/settings"
)

// SettingsHelp shows the form of compute settings with an example that works.
const SettingsHelp = `Which value of each setting is in force, and why.

  {"levels":["district",…],                                    from the most general to the most particular
   "keys":["minutes",…],
   "values":[{"level":"district","key":"minutes","value":60,   any JSON value
              "lock":"settings"|"all","by":"…"}],              lock and by may be left out
   "accommodations":[{"key":"minutes","value":90}]}            may be left out; they are the level "student"

Example:
  echo '{"levels":["district","school"],"keys":["minutes"],"values":[{"level":"district","key":"minutes","value":60,"lock":"settings"},{"level":"school","key":"minutes","value":45}]}' | pineledger compute settings`

type settingOut struct {
	Key      string          `json:"key"`
	Value    json.RawMessage `json:"value"`
	From     *settings.Level `json:"from"`
	LockedAt *settings.Level `json:"lockedAt"`
	Trail    []stepOut       `json:"trail"`
}

type stepOut struct {
	Level settings.Level  `json:"level"`
	Value json.RawMessage `json:"value"`
	Lock  settings.Lock   `json:"lock,omitempty"`
	By    string          `json:"by,omitempty"`
	State settings.State  `json:"state"`
}

// stands are what the levels say of one key.
type stands map[string][]settings.Stand

// add puts a stand at its level's place; false where the level has one.
func (s stands) add(key string, order []string, stand settings.Stand) bool {
	place := func(level settings.Level) int { return slices.Index(order, string(level)) }
	at, found := slices.BinarySearchFunc(s[key], stand, func(a, b settings.Stand) int { return place(a.Level) - place(b.Level) })
	if !found {
		s[key] = slices.Insert(s[key], at, stand)
	}
	return !found
}

// names reads a list of names, each of which may stand once.
func names(n node, r *reading) []string {
	var out []string
	for _, e := range n.list(r) {
		name := e.text(r)
		if slices.Contains(out, name) {
			r.refuse(e.place, "%q is listed twice", name)
		}
		out = append(out, name)
	}
	return out
}

// anything gives any JSON value that is there.
func (n node) anything(r *reading) json.RawMessage {
	if !n.given {
		r.refuse(n.place, "is missing")
		return nil
	}
	out, err := json.Marshal(n.value)
	if err != nil {
		r.refuse(n.place, "is no JSON value")
	}
	return out
}

func readSettings(n node, r *reading) (keys []string, all stands) {
	o := n.object(r, "levels", "keys", "values", "accommodations")
	levels := names(o["levels"], r)
	if at := slices.Index(levels, string(settings.Student)); at >= 0 {
		r.refuse(o["levels"].place, "%q is the level of accommodations", settings.Student)
	}
	keys, all = names(o["keys"], r), stands{}
	order := append(slices.Clone(levels), string(settings.Student))
	put := func(m map[string]node, s settings.Stand) {
		key := m["key"].text(r)
		s.Value = m["value"].anything(r)
		if !slices.Contains(keys, key) {
			r.refuse(m["key"].place, "%q is not one of the keys", key)
		} else if !all.add(key, order, s) {
			r.refuse(m["key"].place, "%q has a value at this level already", key)
		}
	}
	for _, e := range o["values"].list(r) {
		m := e.object(r, "level", "key", "value", "lock", "by")
		s := settings.Stand{Level: settings.Level(m["level"].text(r))}
		if !slices.Contains(levels, string(s.Level)) {
			r.refuse(m["level"].place, "%q is not one of the levels", s.Level)
		}
		if lock := m["lock"]; !lock.absent() {
			if s.Lock = settings.Lock(lock.text(r)); s.Lock != settings.LockRest && s.Lock != settings.LockAlso {
				r.refuse(lock.place, "%q is neither %q nor %q", s.Lock, settings.LockRest, settings.LockAlso)
			}
		}
		if by := m["by"]; !by.absent() {
			s.By = by.text(r)
		}
		put(m, s)
	}
	if accommodations := o["accommodations"]; !accommodations.absent() {
		for _, e := range accommodations.list(r) {
			put(e.object(r, "key", "value"), settings.Stand{Level: settings.Student})
		}
	}
	return keys, all
}

// Settings runs compute settings; errors are *PlaceError.
func Settings(input io.Reader) (any, error) {
	n, err := parse(input)
	if err != nil {
		return nil, err
	}
	r := &reading{}
	keys, all := readSettings(n, r)
	if r.err != nil {
		return nil, r.err
	}
	out := []settingOut{}
	for _, key := range keys {
		res := settings.Resolve(all[key])
		s := settingOut{Key: key, Value: res.Value, Trail: []stepOut{}}
		if res.From != "" {
			s.From = &res.From
		}
		if res.LockedAt != "" {
			s.LockedAt = &res.LockedAt
		}
		for _, step := range res.Trail {
			s.Trail = append(s.Trail, stepOut{step.Level, step.Value, step.Lock, step.By, step.State})
		}
		out = append(out, s)
	}
	return map[string]any{"settings": out}, nil
}
