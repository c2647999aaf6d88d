package demo

import (
	"strings"

	"pineledger/core/item"
)

// bilingual is a single choice with the same key in English and Spanish.
type bilingual struct {
	standard string
	depth    int
	p        string
	english  []string // the question, then the choices
	spanish  []string
	right    int
}

// inTwoLanguages are items with a Spanish variant.
func inTwoLanguages() []packed {
	var out []packed
	for _, b := range bothLanguages {
		it := oneOf(b.english[0], b.right, b.english[1:]...)
		explain(&it, b.standard)
		it.Variants = []item.Variant{{Language: "es", Body: oneOf(b.spanish[0], b.right, b.spanish[1:]...).Body}}
		out = append(out, packed{b.standard, b.depth, b.p, it})
	}
	return out
}

// explained are words of an item with what they mean, in English and in Spanish, by its standard.
var explained = map[string][3]string{
	"M3.FS.1":  {"perimeter", "the way around a shape", "el camino alrededor de una figura"},
	"M4.NP.1":  {"rounded", "made into the nearest number that is easier to use", "llevado al número más cercano y fácil de usar"},
	"M5.FS.1":  {"volume", "how much room is inside", "cuánto espacio hay dentro"},
	"M6.RR.1a": {"ratio", "how many of one for how many of another", "cuántos de uno por cuántos de otro"},
	"M6.DC.1":  {"mean", "what each would have if all were shared evenly", "lo que tendría cada uno si se repartiera por igual"},
	"S5.LV.1":  {"sunlight", "the light of the sun", "la luz del sol"},
}

// explain gives an item a glossary.
func explain(it *item.Item, standard string) {
	e, has := explained[standard]
	if !has {
		return
	}
	it.Body[0].HTML = strings.Replace(it.Body[0].HTML, e[0], `<span data-catalog-idref="word-1">`+e[0]+`</span>`, 1)
	it.Cards = []item.Card{{Catalog: "word-1", Support: item.GlossaryCard, Language: "en", HTML: "<p>" + e[1] + "</p>"}, {Catalog: "word-1", Support: item.TranslationCard, Language: "es", HTML: "<p>" + e[2] + "</p>"}}
}

var bothLanguages = []bilingual{
	{"M3.OP.1a", 1, ".84", []string{"A shelf holds 4 rows of 6 jars. How many jars is that?", "10", "18", "24", "46"}, []string{"Un estante tiene 4 filas de 6 frascos. ¿Cuántos frascos son?", "10", "18", "24", "46"}, 2},
	{"M3.OP.1b", 1, ".78", []string{"30 shells are shared equally among 5 children. How many does each get?", "5", "6", "25", "35"}, []string{"Se reparten 30 conchas por igual entre 5 niños. ¿Cuántas recibe cada uno?", "5", "6", "25", "35"}, 1},
	{"M3.FS.1", 1, ".71", []string{"A square has sides of 7 cm. What is its perimeter?", "14 cm", "28 cm", "49 cm", "11 cm"}, []string{"Un cuadrado tiene lados de 7 cm. ¿Cuál es su perímetro?", "14 cm", "28 cm", "49 cm", "11 cm"}, 1},
	{"M3.FR.1b", 2, ".62", []string{"Which fraction is the greatest?", "1/8", "1/3", "1/6", "1/4"}, []string{"¿Qué fracción es la mayor?", "1/8", "1/3", "1/6", "1/4"}, 1},
	{"M4.NP.1", 1, ".73", []string{"What is 6,482 rounded to the nearest hundred?", "6,000", "6,400", "6,500", "6,480"}, []string{"¿Cuánto es 6,482 redondeado a la centena más cercana?", "6,000", "6,400", "6,500", "6,480"}, 2},
	{"M4.OP.1", 1, ".69", []string{"What is 23 × 14?", "322", "92", "312", "37"}, []string{"¿Cuánto es 23 × 14?", "322", "92", "312", "37"}, 0},
	{"M4.FR.1", 1, ".66", []string{"Which fraction is equal to 2/5?", "2/10", "4/10", "5/2", "4/5"}, []string{"¿Qué fracción es igual a 2/5?", "2/10", "4/10", "5/2", "4/5"}, 1},
	{"M4.FR.2", 1, ".75", []string{"What is 3/8 + 2/8?", "5/16", "6/8", "1/8", "5/8"}, []string{"¿Cuánto es 3/8 + 2/8?", "5/16", "6/8", "1/8", "5/8"}, 3},
	{"M4.MS.1", 1, ".68", []string{"How many centimeters are 3 meters?", "30", "300", "3,000", "103"}, []string{"¿Cuántos centímetros son 3 metros?", "30", "300", "3,000", "103"}, 1},
	{"M5.NP.1", 1, ".70", []string{"What is 4.7 × 10?", "0.47", "4.70", "47", "470"}, []string{"¿Cuánto es 4.7 × 10?", "0.47", "4.70", "47", "470"}, 2},
	{"M5.NP.2", 1, ".64", []string{"What is 3.5 + 0.25?", "3.75", "6", "3.30", "0.60"}, []string{"¿Cuánto es 3.5 + 0.25?", "3.75", "6", "3.30", "0.60"}, 0},
	{"M5.FR.2", 2, ".61", []string{"What is 1/4 of 20?", "4", "5", "16", "80"}, []string{"¿Cuánto es 1/4 de 20?", "4", "5", "16", "80"}, 1},
	{"M5.FS.1", 2, ".65", []string{"A box is 5 cm long, 4 cm wide and 3 cm high. What is its volume?", "12 cubic centimeters", "20 cubic centimeters", "47 cubic centimeters", "60 cubic centimeters"},
		[]string{"Una caja mide 5 cm de largo, 4 cm de ancho y 3 cm de alto. ¿Cuál es su volumen?", "12 centímetros cúbicos", "20 centímetros cúbicos", "47 centímetros cúbicos", "60 centímetros cúbicos"}, 3},
	{"M6.RR.1a", 1, ".63", []string{"There are 8 gulls and 12 ducks. What is the ratio of gulls to ducks in simplest form?", "3 : 2", "2 : 3", "8 : 20", "4 : 5"}, []string{"Hay 8 gaviotas y 12 patos. ¿Cuál es la razón de gaviotas a patos en su forma más simple?", "3 : 2", "2 : 3", "8 : 20", "4 : 5"}, 1},
	{"M6.RR.3a", 2, ".58", []string{"What is 25% of 80?", "20", "25", "55", "60"}, []string{"¿Cuánto es el 25 % de 80?", "20", "25", "55", "60"}, 0},
	{"M6.NP.2a", 1, ".67", []string{"Which number is the least?", "−2", "0", "−9", "4"}, []string{"¿Qué número es el menor?", "−2", "0", "−9", "4"}, 2},
	{"M6.EX.3", 1, ".72", []string{"If x − 6 = 11, what is x?", "5", "17", "66", "11"}, []string{"Si x − 6 = 11, ¿cuánto vale x?", "5", "17", "66", "11"}, 1},
	{"M6.DC.1", 2, ".60", []string{"What is the mean of 2, 4 and 9?", "4", "5", "7", "15"}, []string{"¿Cuál es la media de 2, 4 y 9?", "4", "5", "7", "15"}, 1},
	{"S5.EW.2", 1, ".80", []string{"Where is most of the water on earth?", "in the seas", "in rivers", "in clouds", "in lakes"}, []string{"¿Dónde está la mayor parte del agua de la Tierra?", "en los mares", "en los ríos", "en las nubes", "en los lagos"}, 0},
	{"S5.LV.1", 1, ".76", []string{"Which living thing makes its own food from sunlight?", "a crab", "a gull", "a herring", "eelgrass"}, []string{"¿Qué ser vivo produce su propio alimento con la luz del sol?", "un cangrejo", "una gaviota", "un arenque", "la zostera marina"}, 3},
}
