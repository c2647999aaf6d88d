package settings_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/settings"
)

func TestWhatABookSaysOfAPlace(t *testing.T) {
	b := settings.NewBook()
	place := settings.Place{Purpose: "benchmark", Assessment: 7, Distribution: 3, School: 2, Section: 9}
	scopes := place.Scopes()
	require.Len(t, scopes, 7)
	put := func(scope settings.Scope, key string, value any) {
		b.Put(scope, key, settings.Stand{Value: settings.Raw(value)})
	}
	put(settings.Scope{Level: settings.District}, settings.Minutes, 60)
	put(settings.Scope{Level: settings.Purpose, Purpose: "benchmark"}, settings.Minutes, 50)
	put(settings.Scope{Level: settings.Purpose, Purpose: "practice"}, settings.Attempts, 5)
	put(settings.Scope{Level: settings.School, Thing: 2}, settings.Minutes, 45)
	put(settings.Scope{Level: settings.School, Assessment: 7, Thing: 2}, settings.Minutes, 40)
	put(settings.Scope{Level: settings.School, Assessment: 8, Thing: 2}, settings.Minutes, 30)
	put(settings.Scope{Level: settings.Section, Assessment: 7, Thing: 8}, settings.Minutes, 20)

	at := b.At(place)
	require.Len(t, at, 1)
	assert.Equal(t, "40", string(at[settings.Minutes].Value), "what a school says for this assessment comes before what it says for all")
	assert.Len(t, at[settings.Minutes].Trail, 3, "and is one level with it")
	other := place
	other.Assessment = 9
	assert.Equal(t, "45", string(b.At(other)[settings.Minutes].Value))
	assert.Equal(t, "50", string(b.At(settings.Place{Purpose: "benchmark", Assessment: 7})[settings.Minutes].Value))
	assert.Equal(t, "60", string(b.At(settings.Place{})[settings.Minutes].Value))

	put(settings.Scope{Level: settings.Section, Assessment: 7, Thing: 9}, settings.Minutes, 0)
	assert.NotContains(t, b.Values(place), settings.Minutes, "what is the default is not kept")
	b.Drop(settings.Scope{Level: settings.Section, Assessment: 7, Thing: 9}, settings.Minutes)
	assert.Equal(t, 40, b.Values(place).Number(settings.Minutes))

	after := b.With(func(b *settings.Book) {
		b.Put(settings.Scope{Level: settings.District}, settings.Minutes, settings.Stand{Value: settings.Raw(60), Lock: settings.LockRest})
	})
	changes := settings.Changes(b.Values(place), after.Values(place))
	require.Len(t, changes, 1)
	assert.Equal(t, settings.Change{Key: settings.Minutes, Before: settings.Raw(40), After: settings.Raw(60)}, changes[0], "a lock that stops a school")
	require.NoError(t, settings.MayChange(changes))
	assert.Error(t, settings.MayChange(settings.Changes(after.Values(place), b.Values(place))))
	_, locked := b.Said(settings.Scope{Level: settings.District}, settings.Minutes)
	assert.True(t, locked)
	kept, _ := b.Said(settings.Scope{Level: settings.District}, settings.Minutes)
	assert.Equal(t, settings.NoLock, kept.Lock, "the book itself stayed")
}

func TestWhichScopesSpeakForAPlace(t *testing.T) {
	levels := func(p settings.Place) (out []settings.Level) {
		for _, s := range p.Scopes() {
			out = append(out, s.Level)
		}
		return out
	}
	for name, c := range map[string]struct {
		place settings.Place
		want  []settings.Level
	}{
		"nothing named":               {settings.Place{}, []settings.Level{settings.District}},
		"an assessment":               {settings.Place{Assessment: 1}, []settings.Level{settings.District, settings.Assessment}},
		"its distribution":            {settings.Place{Assessment: 1, Distribution: 1}, []settings.Level{settings.District, settings.Assessment, settings.Distribution}},
		"a school for all":            {settings.Place{School: 1}, []settings.Level{settings.District, settings.School}},
		"a school for one assessment": {settings.Place{Assessment: 1, School: 1}, []settings.Level{settings.District, settings.Assessment, settings.School, settings.School}},
		"a section":                   {settings.Place{Assessment: 1, Section: 1}, []settings.Level{settings.District, settings.Assessment, settings.Section}},
	} {
		assert.Equal(t, c.want, levels(c.place), name)
	}
}

func TestWhatABookDoesNotSay(t *testing.T) {
	b := settings.NewBook()
	district := settings.Scope{Level: settings.District}
	said := func(scope settings.Scope, key string) bool { _, ok := b.Said(scope, key); return ok }
	assert.False(t, said(district, settings.Minutes), "nothing stands anywhere")
	b.Put(district, settings.Minutes, settings.Stand{Value: settings.Raw(50), Lock: settings.LockRest})
	assert.True(t, said(district, settings.Minutes))
	assert.False(t, said(district, settings.Hours), "another setting")
	assert.False(t, said(district, "wings"), "no setting at all")
	assert.False(t, said(settings.Scope{Level: settings.School, Thing: 1}, settings.Minutes), "another scope")
	assert.Empty(t, b.Shut(settings.Place{}), "a lock that lets accommodations pass")
	b.Put(district, settings.Minutes, settings.Stand{Value: settings.Raw(50), Lock: settings.LockAlso})
	assert.Equal(t, []string{settings.Minutes}, b.Shut(settings.Place{}))
}
