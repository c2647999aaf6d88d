package item

// NewChoice makes a single or multiple choice item from formatted text; keys are
// places in choices. What comes out still wants Check.
func NewChoice(kind Kind, stem string, choices []string, keys []int, credit CreditRule) Item {
	in := Interaction{Response: "RESPONSE"}
	if kind == SingleChoice {
		in.MaxChoices = 1
	}
	for i, c := range choices {
		in.Choices = append(in.Choices, Choice{ID: Label(i), HTML: c})
	}
	d := Declaration{Response: "RESPONSE"}
	for _, k := range keys {
		d.Correct = append(d.Correct, Label(k))
	}
	return build(kind, stem, in, d, credit)
}

// NewNumber makes a typed number item.
func NewNumber(stem string, keys []string, key NumberKey, unit string) Item {
	return build(Number, stem, Interaction{Response: "RESPONSE", Unit: unit},
		Declaration{Response: "RESPONSE", Correct: keys, Number: &key}, AllOrNothing)
}

func build(kind Kind, stem string, in Interaction, d Declaration, credit CreditRule) Item {
	return Item{
		Schema:       Schema,
		Kind:         kind,
		Body:         []Block{{HTML: stem}, {Interaction: &in}},
		Declarations: []Declaration{d},
		Credit:       credit,
	}.Cleaned()
}
