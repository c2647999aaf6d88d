package item_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/item"
)

func TestFormulasStayReadableInOneLine(t *testing.T) {
	for h, want := range map[string]string{
		"<p>The area is 4<sup>2</sup> m<sup>2</sup>.</p>":                                                        "The area is 4² m².",
		"H<sub>2</sub>O and x<sub>i</sub>":                                                                       "H₂O and x_i",
		"the 3<sup>rd</sup> tide":                                                                                "the 3rd tide",
		"<math><msup><mn>4</mn><mn>2</mn></msup><mo>=</mo><mn>16</mn></math>":                                    "4²=16",
		"<math><msup><mi>x</mi><mrow><mi>a</mi><mo>+</mo><mn>1</mn></mrow></msup></math>":                        "x^(a+1)",
		"<math><mfrac><mn>3</mn><mn>4</mn></mfrac></math> of a mile":                                             "3/4 of a mile",
		"<math><mn>2</mn><mfrac><mn>1</mn><mn>2</mn></mfrac></math> cups":                                        "2 1/2 cups",
		"<math><mfrac><mrow><mi>a</mi><mo>+</mo><mi>b</mi></mrow><mn>2</mn></mfrac></math>":                      "(a+b)/2",
		"<math><msqrt><mn>49</mn></msqrt></math>":                                                                "√49",
		"<math><mroot><mn>8</mn><mn>3</mn></mroot></math>":                                                       "³√8",
		"<math><msubsup><mi>x</mi><mn>1</mn><mn>2</mn></msubsup></math>":                                         "x₁²",
		"<math><mfrac><msup><mn>3</mn><mn>2</mn></msup><mn>5</mn></mfrac></math>":                                "3²/5",
		`<math><semantics><mn>7</mn><annotation encoding="application/x-tex">7</annotation></semantics></math>!`: "7!",
		"<p>plain &lt; text</p><p>and more</p>":                                                                  "plain < text and more",
		"<math><msup><mn>4</mn></msup></math>":                                                                   "4",
	} {
		assert.Equal(t, want, item.PlainText(h), h)
	}
}
