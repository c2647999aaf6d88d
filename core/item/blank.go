package item

// Blank begins an item of a kind: a place to answer with nothing in it yet. An
// unknown kind gives an item without a kind.
func Blank(kind Kind) Item {
	none := []string{"", "", "", ""}
	var it Item
	switch kind {
	case SingleChoice, MultipleChoice:
		it = NewChoice(kind, "", none, nil, AllOrNothing)
	case TrueFalse:
		it = NewTrueFalse("", true)
		it.Declarations[0].Correct = nil
	case Order:
		it = NewOrder("", none[:3], nil, PerPlace)
	case Match:
		it = NewPairs(kind, "", none[:3], none[:3], nil, 1, 1, PerPart)
	case Sort:
		it = NewPairs(kind, "", none, none[:2], nil, 1, 0, PerPart)
	case BoxTable:
		it = NewPairs(kind, "", none[:3], none[:2], nil, 1, 0, PerPart)
	case Text:
		it = NewText("", nil, TextKey{})
	case Number:
		it = NewNumber("", nil, NumberKey{}, "")
	case NumberLine:
		it = NewNumberLine("", Line{From: "0", To: "10", Step: "1", Labels: 1}, nil, "")
	case SelectText:
		it = NewSelectText("", []Run{{HTML: "Write the text and mark what can be selected.", Selectable: true}}, nil, 0, AllOrNothing)
	case Menus:
		it = NewMenus("", []string{"", ""}, []Menu{{Words: none[:2], Right: -1}}, PerPart)
	case Spot:
		it = NewSpot("", Picture{}, nil)
	case Parts:
		it = NewParts("", []Item{Blank(SingleChoice), Blank(SingleChoice)}, []int{-1, 0}, PerPart)
	case ShortWritten:
		it = NewWritten(kind, "", 3, nil, nil)
	case LongWritten:
		it = NewWritten(kind, "", 10, &Rubric{Traits: []Trait{{Levels: []Level{{Points: 200}, {Points: 100}, {}}}}}, nil)
	case Examiner:
		it = NewExaminer("", "", "")
		it.Declarations[0].Correct = nil
	}
	return it
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
