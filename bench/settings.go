package main

import (
	"context"
	"errors"
	"fmt"
	"maps"

	"pineledger/core/settings"
)

// measureSettings resolves every setting for the sections of a district, where each level says something of many.
func measureSettings(context.Context, *bench) error {
	const sections, perSchool = 3000, 30
	book := settings.NewBook()
	put := func(scope settings.Scope, keys ...string) {
		for _, key := range keys {
			s, _ := settings.ByKey(key)
			value := s.Default
			if key == settings.Minutes {
				value = settings.Raw(60)
			}
			book.Put(scope, key, settings.Stand{Value: value})
		}
	}
	var all []string
	for _, s := range settings.Catalog {
		all = append(all, s.Key)
	}
	put(settings.Scope{Level: settings.District}, all...)
	put(settings.Scope{Level: settings.Purpose, Purpose: "benchmark"}, all[:20]...)
	put(settings.Scope{Level: settings.Assessment, Assessment: 1}, all[10:30]...)
	places := make([]settings.Place, sections)
	for i := range places {
		school := int64(i/perSchool + 1)
		places[i] = settings.Place{Purpose: "benchmark", Assessment: 1, Distribution: 1, School: school, Section: int64(i + 1)}
		put(settings.Scope{Level: settings.School, Assessment: 1, Thing: school}, settings.Hours, settings.Minutes)
		if i%10 == 0 {
			put(settings.Scope{Level: settings.Section, Assessment: 1, Thing: int64(i + 1)}, settings.Minutes)
		}
	}
	took, err := median(5, func() error {
		for _, p := range places {
			book.Values(p)
		}
		return nil
	})
	if err != nil {
		return err
	}
	one := book.Values(places[0])
	var kept settings.Values
	bare, err := median(5, func() error {
		for range places {
			kept = maps.Clone(one)
		}
		if len(kept) != len(one) {
			return errors.New("a copy lacks something")
		}
		return nil
	})
	if err != nil {
		return err
	}
	beside(fmt.Sprintf("%d settings in force at %d sections", len(all), sections), took, bare, " (aim: 50 ms)")
	return nil
}
