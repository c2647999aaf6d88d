package compute_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/formats/compute"
)

func TestSettings(t *testing.T) {
	assert.JSONEq(t, `{"settings":[
		{"key":"minutes","value":90,"from":"student","lockedAt":"district","trail":[
			{"level":"district","value":60,"lock":"settings","by":"Ines Okafor","state":"overridden"},
			{"level":"section","value":null,"state":"stopped"},
			{"level":"student","value":90,"state":"inForce"}]},
		{"key":"mixItems","value":[{"a":1.50}],"from":"school","lockedAt":null,"trail":[
			{"level":"district","value":"<b>","state":"overridden"},{"level":"school","value":[{"a":1.50}],"state":"inForce"}]},
		{"key":"code","value":null,"from":null,"lockedAt":null,"trail":[]}]}`,
		run(t, compute.Settings, `{"levels":["district","school","section"],"keys":["minutes","mixItems","code"],"values":[
			{"level":"section","key":"minutes","value":null},{"level":"school","key":"mixItems","value":[{"a":1.50}]},
			{"level":"district","key":"minutes","value":60,"lock":"settings","by":"Ines Okafor"},{"level":"district","key":"mixItems","value":"<b>"}],
			"accommodations":[{"key":"minutes","value":90}]}`))
	assert.JSONEq(t, `{"settings":[]}`, run(t, compute.Settings, `{"levels":[],"keys":[],"values":[]}`))
}

func TestSettingsThatCannotBe(t *testing.T) {
	for in, says := range map[string]string{
		`{"levels":["a","a"],"keys":["k"],"values":[]}`:                                                                `levels[1]: "a" is listed twice`,
		`{"levels":["a","student"],"keys":["k"],"values":[]}`:                                                          `levels: "student" is the level of accommodations`,
		`{"levels":["a"],"keys":["k","k"],"values":[]}`:                                                                `keys[1]: "k" is listed twice`,
		`{"levels":["a"],"keys":["k"],"values":[{"level":"b","key":"k","value":1}]}`:                                   `values[0].level: "b" is not one of the levels`,
		`{"levels":["a"],"keys":["k"],"values":[{"level":"a","key":"x","value":1}]}`:                                   `values[0].key: "x" is not one of the keys`,
		`{"levels":["a"],"keys":["k"],"values":[{"level":"a","key":"k"}]}`:                                             `values[0].value: is missing`,
		`{"levels":["a"],"keys":["k"],"values":[{"level":"a","key":"k","value":1,"lock":"tight"}]}`:                    `values[0].lock: "tight" is neither "settings" nor "all"`,
		`{"levels":["a"],"keys":["k"],"values":[{"level":"a","key":"k","value":1},{"level":"a","key":"k","value":2}]}`: `values[1].key: "k" has a value at this level already`,
		`{"levels":["a"],"keys":["k"],"values":[],"accommodations":[{"key":"k","value":1},{"key":"k","value":2}]}`:     `accommodations[1].key: "k" has a value at this level already`,
		`{"levels":["a"],"keys":["k"],"values":[],"locks":[]}`:                                                         `locks: is not a known key`,
		`{"keys":["k"],"values":[]}`:                                                                                   `levels: is not a list`,
	} {
		_, err := compute.Settings(strings.NewReader(in))
		assert.EqualError(t, err, says, in)
	}
}
