package demo

import (
	"fmt"
	"slices"
	"strings"
)

// joinedItems are written items that are answered otherwise than by choosing or
// typing a number. Choices stand as they are offered; the key is written beside them.
func joinedItems() []draftItem {
	items := slices.Concat(trueOrFalse, toOrder, toMatch, toSort, toTick, toType, toPut, toSelect, toMenu)
	for i := range items {
		it := &items[i]
		it.subject = subjectOf(it.standard)
		it.grade = gradeOf(it.standard)
		it.identifier = fmt.Sprintf("%s-J%02d", slug(it.standard), i+1)
	}
	return items
}

func yesNo(standard string, depth int, p float64, stem string, right bool) draftItem {
	return draftItem{kind: "true-false", standard: standard, depth: depth, p: p, stem: stem, key: fmt.Sprint(right)}
}

var trueOrFalse = []draftItem{
	yesNo("S5.EW.1", 1, .81, "True or false: when it is summer in the northern half of the earth, it is winter in the southern half.", true),
	yesNo("S5.EW.1", 2, .62, "True or false: summer is warmer because the earth is nearer to the sun then.", false),
	yesNo("S5.EW.2", 1, .74, "True or false: most of the water on earth is salt water.", true),
	yesNo("S6.EN.1", 2, .58, "True or false: a metal bench feels colder than a wooden one in the same shade because the metal has a lower temperature.", false),
	yesNo("S7.MT.1", 1, .77, "True or false: a nail that rusts has gone through a chemical change.", true),
	yesNo("S8.FM.1", 2, .49, "True or false: a boat that moves at a steady speed in a straight line has no forces acting on it.", false),
	yesNo("M6.NP.2a", 1, .71, "True or false: −7 is greater than −4.", false),
	yesNo("M4.FR.1", 1, .68, "True or false: 2/3 and 8/12 are equal.", true),
	yesNo("M6.EX.1", 2, .57, "True or false: 2 + 3 × 4 is 20.", false),
	yesNo("M6.FS.1", 2, .55, "True or false: a triangle and a parallelogram with the same base and the same height have the same area.", false),
}

func order(standard string, depth int, p float64, credit, stem, key string, choices ...string) draftItem {
	return draftItem{kind: "order", standard: standard, depth: depth, p: p, credit: credit, stem: stem, offered: choices, key: key}
}

var toOrder = []draftItem{
	order("M6.NP.2a", 2, .61, "per-place", "Put the depths of four divers in order, the deepest first: the surface is 0.", "B;D;A;C", "−4.5 m", "−12 m", "−0.5 m", "−5 m"),
	order("M4.FR.1", 2, .54, "longest-run", "Put the fractions in order, the least first.", "C;A;D;B", "1/2", "3/4", "1/3", "2/3"),
	order("M4.NP.1", 1, .72, "per-place", "Put the numbers in order, the greatest first.", "D;B;C;A", "4,098", "4,809", "4,089 + 10", "4,890"),
	order("M6.RR.2", 2, .52, "longest-run", "Put the boats in order of speed, the slowest first.", "B;C;A", "30 km in 2 hours", "20 km in 2 hours", "36 km in 3 hours"),
	order("S5.EW.2", 2, .66, "longest-run", "A drop of water goes from the sea to the sea again. Put its steps in order, beginning in the sea.", "C;A;D;B", "It cools and gathers in a cloud.", "It runs down a river.", "It rises as vapor in the sun.", "It falls as rain."),
	order("S5.LV.1", 1, .75, "per-place", "Energy passes along a food chain of the bay. Put it in order, beginning with what takes up sunlight.", "B;D;A;C", "herring", "kelp", "seal", "small shrimp"),
	order("S7.EW.1", 2, .58, "longest-run", "A cliff shows four layers that were never turned over. Put them in order of age, the oldest first.", "D;B;A;C", "third from the bottom", "second from the bottom", "top", "bottom"),
	order("S8.EN.1", 2, .5, "longest-run", "Four waves travel equally fast. Put them in order of rate, the lowest first.", "C;A;D;B", "4 m from crest to crest", "1 m from crest to crest", "9 m from crest to crest", "2 m from crest to crest"),
	order("S5.EW.1", 1, .78, "per-place", "Put the times of one day in order, the earliest first.", "C;A;D;B", "noon", "midnight at its end", "sunrise", "sunset"),
	order("M6.RR.3b", 2, .56, "longest-run", "Put the lengths in order, the shortest first.", "B;D;A;C", "0.5 m", "45 mm", "0.06 km", "12 cm"),
}

func pairs(kind, standard string, depth int, p float64, joins, stem, key string, choices, targets []string) draftItem {
	return draftItem{kind: kind, standard: standard, depth: depth, p: p, credit: "per-part", joins: joins, stem: stem, offered: choices, targets: targets, key: key}
}

var toMatch = []draftItem{
	pairs("match", "M4.FR.1", 1, .7, "", "Match each fraction to one that is equal to it. One is left over.", "A-2;B-4;C-1", []string{"1/2", "2/3", "3/4"}, []string{"9/12", "5/10", "3/5", "4/6"}),
	pairs("match", "M6.RR.1a", 2, .6, "", "Match each ratio to its simplest form. One is left over.", "A-3;B-1;C-4", []string{"6 : 8", "10 : 4", "9 : 27"}, []string{"5 : 2", "2 : 3", "3 : 4", "1 : 3"}),
	pairs("match", "M6.EX.2", 2, .57, "", "Match each sentence to its expression. One is left over.", "A-4;B-1;C-2", []string{"five more than n", "five times n", "n shared among five"}, []string{"5n", "n ÷ 5", "5 − n", "n + 5"}),
	pairs("match", "M6.RR.3a", 2, .62, "often", "Match each percent of a number to what it comes to. A number may be used more than once.", "A-2;B-2;C-1", []string{"50% of 30", "25% of 60", "10% of 120"}, []string{"12", "15", "20"}),
	pairs("match", "S6.LV.1", 1, .69, "", "Match each part of a cell to what it does. One is left over.", "A-3;B-1;C-4", []string{"membrane", "nucleus", "chloroplast"}, []string{"holds the plan of the cell", "digs for food", "lets things in and out", "makes sugar from light"}),
	pairs("match", "S5.MT.1", 1, .73, "", "Match each test to the property that it shows. One is left over.", "A-2;B-4;C-1", []string{"hold a magnet to it", "stir it in water", "put it on a balance"}, []string{"mass", "magnetism", "color", "solubility"}),
	pairs("match", "S8.EN.1", 2, .55, "", "Match each word for a wave to its meaning. One is left over.", "A-3;B-2;C-1", []string{"wavelength", "amplitude", "frequency"}, []string{"waves each second", "height above rest", "from crest to crest", "depth of the sea"}),
	pairs("match", "S6.EN.1", 2, .58, "", "Match each case to the way heat travels. One is left over.", "A-1;B-3;C-2", []string{"a spoon in hot soup", "sunlight on a deck", "warm air over a stove"}, []string{"conduction", "convection", "radiation", "reflection of sound"}),
	pairs("match", "S7.LV.1", 2, .6, "", "Match each pair of living things to how they depend on each other. One is left over.", "A-2;B-1;C-4", []string{"seal and herring", "anemone and the small fish it shelters", "kelp bed losing its urchin eaters"}, []string{"both gain", "one eats the other", "neither notices", "urchins spread and the bed shrinks"}),
	pairs("match", "R5.VW.1", 1, .71, "", "Match each word to a word of nearly the same meaning. One is left over.", "A-3;B-1;C-2", []string{"swift", "vast", "timid"}, []string{"huge", "shy", "fast", "loud"}),
}

var toSort = []draftItem{
	pairs("sort", "M6.NP.3", 1, .76, "", "Sort the numbers.", "A-1;B-2;C-1;D-2;E-1", []string{"11", "9", "2", "15", "13"}, []string{"prime", "not prime"}),
	pairs("sort", "M6.NP.2a", 1, .74, "", "Sort the readings of a thermometer by whether water freezes at them.", "A-1;B-2;C-1;D-2", []string{"−3 °C", "4 °C", "−0.5 °C", "12 °C"}, []string{"it freezes", "it does not"}),
	pairs("sort", "M6.RR.1b", 2, .58, "", "Sort the ratios by the one they are equal to.", "A-1;B-2;C-1;D-2", []string{"4 : 6", "9 : 12", "10 : 15", "15 : 20"}, []string{"2 : 3", "3 : 4"}),
	pairs("sort", "M4.FS.1", 2, .6, "", "Sort the rectangles by their area.", "A-1;B-1;C-2;D-2", []string{"3 m by 8 m", "4 m by 6 m", "5 m by 7 m", "1 m by 35 m"}, []string{"24 square meters", "35 square meters"}),
	pairs("sort", "S7.MT.1", 2, .66, "", "Sort the changes.", "A-2;B-1;C-2;D-1;E-1", []string{"wood burns", "ice melts", "iron rusts", "glass breaks", "salt dissolves"}, []string{"physical change", "chemical change"}),
	pairs("sort", "S5.LV.1", 1, .73, "", "Sort the living things of the bay by where they get their food.", "A-1;B-2;C-2;D-1", []string{"eelgrass", "crab", "heron", "kelp"}, []string{"make their own", "eat others"}),
	pairs("sort", "S5.MT.1", 1, .75, "", "Sort the things by whether a magnet pulls them.", "A-1;B-2;C-2;D-1", []string{"iron nail", "copper wire", "wooden oar", "steel hook"}, []string{"pulled", "not pulled"}),
	pairs("sort", "S6.EW.1", 2, .57, "", "Sort the signs by the weather that they usually bring.", "A-1;B-2;C-1;D-2", []string{"falling pressure", "rising pressure", "warm moist air pushed up", "sinking dry air"}, []string{"clouds and rain", "clear sky"}),
	pairs("sort", "S8.LV.1", 2, .59, "", "Sort what a gull has by how it came by it.", "A-1;B-2;C-1;D-2", []string{"the shape of its beak", "a scar from a net", "the color of its feathers", "knowing when the ferry is fed from"}, []string{"passed on by its parents", "got in its own life"}),
	pairs("sort", "S8.FM.1", 2, .56, "", "Sort the cases by whether the forces are balanced.", "A-1;B-2;C-1;D-2", []string{"a boat at rest at the quay", "a boat that speeds up", "a ferry at steady speed in a straight line", "a boat that turns"}, []string{"balanced", "not balanced"}),
}

var toTick = []draftItem{
	pairs("box-table", "M6.NP.3", 2, .6, "often", "Tick every box that is true.", "A-1;A-2;B-2;C-1;C-2;C-3", []string{"12", "9", "30"}, []string{"divides by 2", "divides by 3", "divides by 5"}),
	pairs("box-table", "M6.NP.2a", 1, .72, "once", "Tick for each number where it lies.", "A-1;B-2;C-3;D-1", []string{"−6", "0", "5", "−1/2"}, []string{"below zero", "zero", "above zero"}),
	pairs("box-table", "M4.FR.1", 2, .63, "once", "Is the fraction less than, equal to or greater than 1/2?", "A-1;B-2;C-3;D-1", []string{"3/8", "4/8", "5/8", "2/6"}, []string{"less", "equal", "greater"}),
	pairs("box-table", "M4.NP.1", 1, .7, "once", "To which hundred is the number rounded?", "A-1;B-2;C-2;D-3", []string{"349", "351", "449", "450"}, []string{"300", "400", "500"}),
	pairs("box-table", "S5.MT.1", 1, .74, "once", "Tick the state of each at the temperature of a classroom.", "A-1;B-2;C-3;D-1", []string{"chalk", "milk", "air", "brass"}, []string{"solid", "liquid", "gas"}),
	pairs("box-table", "S5.LV.1", 2, .58, "often", "Tick every box that is true.", "A-1;B-2;C-2;C-3;D-2", []string{"kelp", "shrimp", "gull", "whale that eats shrimp"}, []string{"makes its own food", "eats others", "can fly"}),
	pairs("box-table", "S6.LV.1", 2, .55, "often", "Tick the cells that have each part.", "A-1;A-2;A-3;B-1;B-2", []string{"leaf cell of eelgrass", "muscle cell of a crab"}, []string{"membrane", "nucleus", "cell wall"}),
	pairs("box-table", "S7.MT.1", 2, .61, "once", "What kind of change is it?", "A-1;B-2;C-1;D-2", []string{"fog forms over the bay", "a match burns", "a rope is cut", "bread is baked"}, []string{"physical", "chemical"}),
	pairs("box-table", "S5.EW.1", 2, .53, "once", "What does it come from?", "A-1;B-2;C-3", []string{"day and night", "the seasons", "high and low tide, above all"}, []string{"the earth turns", "the earth's tilt as it goes round the sun", "the pull of the moon"}),
	pairs("box-table", "M6.RR.2", 2, .6, "once", "Which is the better price for one kilogram?", "A-1;B-2;C-3", []string{"here $6 for 2 kg, there $10 for 3 kg", "here $9 for 2 kg, there $12 for 3 kg", "here $8 for 2 kg, there $12 for 3 kg"}, []string{"here", "there", "no difference"}),
}

func point(standard string, depth int, p float64, line, key, tolerance, stem string) draftItem {
	return draftItem{kind: "number-line", standard: standard, depth: depth, p: p, line: line, key: key, tolerance: tolerance, stem: stem}
}

var toPut = []draftItem{
	point("M3.FR.1a", 1, .72, "0;1;1/4;4", "3/4", "", "Put a point at three quarters."),
	point("M3.FR.1b", 2, .6, "0;1;1/6;6", "1/3", "", "Put a point at one third. The line is divided into sixths."),
	point("M4.FR.1", 2, .58, "0;2;1/8;8", "5/4", "", "Put a point at a fraction that is equal to 10/8."),
	point("M4.FR.2", 2, .56, "0;2;1/5;5", "7/5", "", "Put a point at 3/5 + 4/5."),
	point("M4.NP.1", 2, .63, "3000;4000;50;10", "3400", "", "Put a point at 3,438 rounded to the nearest hundred."),
	point("M5.NP.2", 1, .66, "0;2;0.1;5", "1.3", "", "Put a point at 2.1 − 0.8."),
	point("M6.NP.2a", 1, .74, "-10;10;1;5", "-7", "", "Put a point at −7."),
	point("M6.NP.2b", 2, .57, "-10;10;1;5", "-4;4", "", "Put a point at a number whose distance from zero is 4."),
	point("M6.RR.3a", 2, .55, "0;200;5;8", "70", "5", "A bar stands for 200 seats. Put a point at about 35 percent of it: five seats more or less will do."),
	point("M7.NP.1", 2, .54, "-12;12;1;6", "-3", "", "Put a point at −9 + 6."),
}

func selecting(standard string, depth int, p float64, key, stem, running string) draftItem {
	return draftItem{kind: "select-text", standard: standard, depth: depth, p: p, credit: "key-minus", key: key, stem: stem, running: running}
}

var toSelect = []draftItem{
	selecting("R3.VW.1", 1, .7, "B;D", "Select the two words that tell what a gale is.", "The gale was a [long] and [strong], [gray] [wind] that kept the [boats] at home."),
	selecting("R3.LT.1", 2, .62, "C", "Select the sentence that shows that Anni is proud.", "[Anni pulled the oars in.] [The dock was wet.] [She lifted her chin and looked to see who had watched.] [A gull cried.]"),
	selecting("R4.IT.2", 2, .55, "A", "Select the sentence that gives the main idea.", "[Eelgrass shelters many young animals of the bay.] [Small crabs hide between its blades.] [Herring fasten their eggs to it.] [Young salmon rest there on their way to the sea.]"),
	selecting("R4.IT.1", 1, .68, "B;C", "Select the two details that explain why the ferry was late.", "[The ferry is painted white.] [Fog lay on the water until nine.] [One engine had to be started twice.] [Sixty people were on board.]"),
	selecting("R4.VW.1", 1, .66, "C", "Select the word that means nearly the same as “huge”.", "The [old] captain saw an [empty] deck and an [enormous] wave behind the [narrow] bridge."),
	selecting("R6.IT.1", 2, .58, "B;D", "Select the two sentences that are evidence that the harbor has become cleaner.", "[Many people swim there now.] [The count of bacteria fell by half in four years.] [The mayor likes the new pier.] [Oysters, which die in foul water, have come back.]"),
	selecting("R6.VW.1", 2, .57, "B", "Select the words that tell what a “sounding” is.", "The mate took a sounding, [in the early morning], [a measure of how deep the water is], [with a line of rope], and [wrote it on the chart]."),
	selecting("R7.VW.1", 2, .54, "A;C", "Select the two groups of words that are not meant word for word.", "[The fog swallowed the pier] and [the bell rang every minute], while [the harbor held its breath] until [the ferry was tied up]."),
	selecting("R7.LT.2", 2, .52, "B", "Select the sentence in which the setting makes the conflict worse.", "[Two brothers shared one boat.] [The tide was turning, and in ten minutes neither could leave the island.] [Each wanted to steer.] [Their mother had painted it blue.]"),
	selecting("R8.IT.2", 2, .49, "C", "Select the sentence that gives an opinion as if it were a fact.", "[The bridge opened in 1962.] [Forty thousand cars cross it each day.] [Everyone knows that a tunnel would be uglier.] [Repairs cost two million dollars last year.]"),
}

func menu(standard string, depth int, p float64, key, running string) draftItem {
	return draftItem{kind: "menus", standard: standard, depth: depth, p: p, credit: "per-part", key: key, stem: "Choose from the menus so that the sentence is true.", running: running}
}

var toMenu = []draftItem{
	menu("S5.EW.1", 1, .72, "B;A", "It is day on the side of the earth that faces [the moon|the sun], and it takes about [24 hours|a year] until it is day there again."),
	menu("S5.EW.2", 1, .68, "A;B", "When vapor cools it [condenses|evaporates], and drops that grow heavy fall as [fog|rain]."),
	menu("S6.EN.1", 2, .6, "A;B", "Heat flows from the [warmer|colder] body to the other until both have the same [mass|temperature]."),
	menu("S6.EW.1", 2, .55, "B;A", "Air that is warmed becomes [denser|less dense] and [rises|sinks]."),
	menu("S7.MT.1", 2, .61, "A;B", "When ice melts the substance [stays the same|becomes another], so melting is a [chemical|physical] change."),
	menu("S8.EN.1", 2, .52, "B;A", "If waves keep their speed and come more often, their frequency is [lower|higher] and their length is [shorter|longer]."),
	menu("M6.NP.2a", 1, .73, "B;A", "The number −3 is [greater than|less than] 2, and it is [greater than|less than] −8."),
	menu("M6.RR.2", 2, .59, "C;A", "A ferry that sails 48 km in 3 hours sails [12 km|144 km|16 km] in one hour and [80 km|64 km|53 km] in five hours."),
	menu("M4.FR.1", 2, .62, "B;C", "The fraction 1/2 is equal to [2/3|3/6|5/8] and to [1/4|6/10|4/8]."),
	menu("M6.DC.1", 2, .57, "A;B", "The mean of 4, 6, 6 and 8 is [6|8|24], and if 8 becomes 12 the mean is [6|7|10]."),
}

func word(standard string, depth int, p float64, slips bool, stem string, accepted ...string) draftItem {
	return draftItem{kind: "text", standard: standard, depth: depth, p: p, slips: slips, stem: stem, key: strings.Join(accepted, ";")}
}

var toType = []draftItem{
	word("S5.EW.2", 1, .67, true, "What is the change of water into vapor called?", "evaporation", "evaporating"),
	word("S6.LV.1", 1, .64, true, "Which part of a cell holds its plan? Type one word.", "nucleus", "the nucleus"),
	word("S5.MT.1", 1, .7, false, "Which state of matter keeps its shape and its volume? Type one word.", "solid", "solids"),
	word("S8.FM.1", 1, .62, true, "What is the force called that slows a sled on the sand? Type one word.", "friction"),
	word("S7.EW.1", 1, .58, true, "What is the trace of a living thing of long ago in stone called?", "fossil", "a fossil"),
	word("S8.EN.1", 2, .52, true, "How many waves pass each second: what is this called? Type one word.", "frequency"),
	word("M6.FS.1", 1, .6, true, "What is a figure with four sides, of which opposite ones are parallel, called?", "parallelogram", "a parallelogram"),
	word("M6.DC.2", 1, .63, true, "What is the middle value of a set of data in order called?", "median", "the median"),
	word("M4.FR.2", 1, .59, true, "What is the number below the line of a fraction called?", "denominator", "the denominator"),
	word("S7.LV.1", 2, .5, true, "What is an animal called that hunts others for food?", "predator", "a predator"),
}
