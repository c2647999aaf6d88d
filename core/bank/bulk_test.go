package bank_test

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/bank"
)

func TestAChangeToManyItems(t *testing.T) {
	meta := bank.Meta{Bank: "Bank", Subject: "mathematics", Grade: "06", Language: "en", Depth: 1, Standards: []string{"M6.RR.1", "M6.RR.2"}}
	some := func(s string) *string { return &s }
	depth := 2
	cases := []struct {
		name   string
		change bank.MetaChange
		whats  []string
		after  []string
	}{
		{"nothing", bank.MetaChange{}, nil, meta.Standards},
		{"what it is already", bank.MetaChange{Grade: some("06"), Align: []string{"M6.RR.1"}, Unalign: []string{"M7"}}, nil, meta.Standards},
		{"one thing", bank.MetaChange{Grade: some("07")}, []string{"grade"}, meta.Standards},
		{"emptied", bank.MetaChange{Course: some(""), Subject: some("science")}, []string{"subject"}, meta.Standards},
		{"aligned and unaligned", bank.MetaChange{Depth: &depth, Align: []string{"M7.RR.1"}, Unalign: []string{"M6.RR.1"}}, []string{"depth of knowledge", "standards"}, []string{"M6.RR.2", "M7.RR.1"}},
	}
	for _, c := range cases {
		after, differences := c.change.Apply(meta)
		var whats []string
		for _, d := range differences {
			whats = append(whats, d.What)
		}
		assert.Equal(t, c.whats, whats, c.name)
		assert.Equal(t, c.after, after.Standards, c.name)
	}
	assert.Equal(t, []string{"M6.RR.1", "M6.RR.2"}, meta.Standards, "what is given stays as it was")
}

func TestAChangeOfAnythingIsNotEmpty(t *testing.T) {
	assert.True(t, bank.MetaChange{}.IsEmpty())
	assert.True(t, bank.MetaChange{Align: []string{}, Unalign: []string{}}.IsEmpty())
	for field := range reflect.TypeFor[bank.MetaChange]().NumField() {
		var c bank.MetaChange
		f := reflect.ValueOf(&c).Elem().Field(field)
		if f.Kind() == reflect.Pointer {
			f.Set(reflect.New(f.Type().Elem()))
		} else {
			f.Set(reflect.ValueOf([]string{"M6.RR.1"}))
		}
		assert.False(t, c.IsEmpty(), reflect.TypeFor[bank.MetaChange]().Field(field).Name)
	}
}

// The same change again changes nothing more.
func TestAChangeIsDoneOnce(t *testing.T) {
	code := rapid.SliceOfDistinct(rapid.SampledFrom([]string{"A", "B", "C", "D"}), rapid.ID)
	text := rapid.Ptr(rapid.SampledFrom([]string{"", "x", "y"}), true)
	rapid.Check(t, func(t *rapid.T) {
		meta := bank.Meta{Grade: "x", Standards: code.Draw(t, "standards")}
		off := code.Draw(t, "off")
		change := bank.MetaChange{Grade: text.Draw(t, "grade"), Course: text.Draw(t, "course"), Unalign: off}
		once, _ := change.Apply(meta)
		twice, differences := change.Apply(once)
		assert.Equal(t, once, twice)
		assert.Empty(t, differences)
		for _, s := range off {
			assert.NotContains(t, once.Standards, s)
		}
	})
}
