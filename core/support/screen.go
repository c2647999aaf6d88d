package support

// Screen is how a student's screen is when they begin; they may change it as far as their tools let them.
type Screen struct {
	Print    string // how many times as large, "" for as usual
	Colors   string // "" for the usual ones
	EasyType bool
	Language string // in which items are shown, "" for their own
	Speaks   string // language of buttons and directions, "" for the student's choice
	Still    bool   // nothing moves by itself
	Switch   string // "" none, one or two
}

// ScreenOf reads what supports say of the screen.
func ScreenOf(given []Given) Screen {
	return Screen{Print: valueOf[string](given, LargePrint), Colors: valueOf[string](given, Colors), EasyType: Has(given, EasyType), Language: valueOf[string](given, InLanguage),
		Speaks: valueOf[string](given, Directions), Still: Has(given, LessMotion), Switch: valueOf[string](given, SwitchOrKeys)}
}
