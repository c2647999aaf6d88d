package attempt

import "strings"

// codeLetters are capitals that look like no other.
const codeLetters = "ACDEFHJKMNPRTUVWXY"

// CodeLength is how long an access code is.
const CodeLength = 6

// NewCode makes an access code; pick gives a number below n, each as likely.
func NewCode(pick func(n int) int) string {
	out := make([]byte, CodeLength)
	for i := range out {
		out[i] = codeLetters[pick(len(codeLetters))]
	}
	return string(out)
}

// SameCode tells whether what was typed is a code; blanks and small letters do not matter.
func SameCode(typed, code string) bool {
	return code != "" && strings.ToUpper(strings.Join(strings.Fields(typed), "")) == code
}
