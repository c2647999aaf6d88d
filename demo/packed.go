package demo

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/picture"
	"pineledger/formats/qti"
)

// packed is an item that comes to the demo in a package: with a picture, in parts,
// in two languages, written, or recorded by an adult.
type packed struct {
	standard string
	depth    int
	p        string // share of right answers, "" where nobody has answered yet
	item     item.Item
}

// shelfOf tells how the items refer to a drawing once it is on the media shelf.
type shelfOf map[string]drawing

func (s shelfOf) put(d drawing) item.Picture {
	clean, err := picture.Read([]byte(d.svg))
	if err != nil {
		panic(fmt.Errorf("%s %w", d.name, err)) // drawn by this program
	}
	source := "/media/" + digest(clean.Data)
	s[source] = d
	return item.Picture{Source: source, Alt: d.alt, Width: d.width, Height: d.height}
}

// img is a drawing within a text.
func (s shelfOf) img(d drawing) string {
	p := s.put(d)
	return fmt.Sprintf(`<p><img src="%s" alt="%s" width="%d" height="%d"></p>`, p.Source, p.Alt, p.Width, p.Height)
}

// writePackage writes the items of the package as QTI 3.0.
func writePackage(dir string) (string, error) {
	shelf := shelfOf{}
	items := slices.Concat(severalRight(), toMark(shelf), inParts(), shortAnswers(), essays(), faceToFace(shelf), inTwoLanguages())
	path := filepath.Join(dir, "bank.qti.zip")
	file, err := os.OpenFile(path, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return "", err
	}
	w := qti.NewWriter(file, func(source string) (string, []byte, error) { return shelf[source].name, []byte(shelf[source].svg), nil })
	for i, it := range items {
		meta := qti.Meta{Standards: []string{it.standard}, Subject: subjectOf(it.standard), Grade: gradeOf(it.standard), Bank: bankName, Depth: it.depth, Difficulty: it.p, Language: "en"}
		if it.item.Kind == item.Examiner {
			meta.Tags = []string{"face-to-face"}
		}
		if err := w.Write(qti.Writing{Identifier: fmt.Sprintf("%s-K%03d", slug(it.standard), i+1), Item: it.item, Meta: meta}); err != nil {
			return "", err
		}
	}
	if err := w.Close(); err != nil {
		return "", err
	}
	return path, file.Close()
}

func area(shape string, at ...int) item.Area { return item.Area{Shape: shape, At: at} }

// among makes a spot item whose areas are seen; right is the place of the key.
func among(stem string, p item.Picture, right int, names []string, areas []item.Area) item.Item {
	it := item.NewSpot(stem, p, nil)
	in := it.Body[1].Interaction
	for i, a := range areas {
		in.Choices = append(in.Choices, item.Choice{ID: item.Label(i), HTML: names[i], Area: &a})
	}
	it.Declarations[0].Correct = []string{item.Label(right)}
	return it
}

func toMark(shelf shelfOf) []packed {
	spot := func(standard string, depth int, p, stem string, d drawing, areas ...item.Area) packed {
		return packed{standard, depth, p, item.NewSpot(stem, shelf.put(d), areas)}
	}
	onGrid := func(x, y int) item.Area {
		left, top := gridAt(x, y)
		return area(item.Circle, left, top, 18)
	}
	emptyGrid := grid("grid.svg", "A grid with numbers 0 to 6 along the bottom and 0 to 6 up the left side")
	temperature, degree := thermometer()
	waves, crests := wave()
	var tops []item.Area
	for _, c := range crests {
		tops = append(tops, area(item.Circle, c[0], c[1], 20))
	}
	herons, months := bars("herons.svg", "A bar graph of herons counted: March 4, April 7, May 9, June 6", []string{"March", "April", "May", "June"}, []int{4, 7, 9, 6})
	seals, places := bars("seals.svg", "A bar graph of seals counted: pier 3, reef 8, sandbar 5", []string{"pier", "reef", "sandbar"}, []int{3, 8, 5})
	layers := draw("layers.svg", "A cliff with four layers of rock, one above the other", 400, 260, box(20, 20, 360, 50, sand), box(20, 70, 360, 60, wood), box(20, 130, 360, 50, "#b9c4b2"), box(20, 180, 360, 60, "#6d7f86"))
	cycle := draw("water.svg", "The sea at the lower left, a cloud above, rain below the cloud on the right, and a river that runs to the sea", 480, 300,
		box(0, 0, 480, 220, sky), box(0, 220, 240, 80, water), figure("#a7b98e", 240, 300, 240, 240, 480, 150, 480, 300), disc(200, 70, 34, "#ffffff"), disc(240, 60, 40, "#ffffff"), disc(282, 72, 32, "#ffffff"),
		stroke(380, 60, 370, 120, 3, water), stroke(400, 60, 390, 120, 3, water), stroke(420, 60, 410, 120, 3, water), stroke(440, 180, 240, 260, 8, water))
	web := draw("web.svg", "Four living things with arrows from one to the next: kelp to urchin, urchin to crab, crab to otter", 460, 120,
		box(10, 30, 80, 50, "#cfe3c4"), caption(50, 61, 18, "kelp"), stroke(92, 55, 128, 55, 4, ink), box(130, 30, 80, 50, sand), caption(170, 61, 18, "urchin"), stroke(212, 55, 248, 55, 4, ink),
		box(250, 30, 80, 50, sand), caption(290, 61, 18, "crab"), stroke(332, 55, 368, 55, 4, ink), box(370, 30, 80, 50, sand), caption(410, 61, 18, "otter"))
	cell := draw("cell.svg", "A round cell with a large dark body near its middle and small bodies around it", 320, 320, disc(160, 160, 140, "#e7f0df"), disc(180, 140, 44, "#7c6a92"),
		disc(80, 130, 14, mark), disc(110, 230, 14, mark), disc(230, 240, 14, mark), disc(90, 190, 8, water))
	triangle := draw("triangle.svg", "A triangle with a square corner at the lower left", 340, 260, figure("#ffffff", 40, 220, 300, 220, 40, 40), box(40, 200, 20, 20, "#ffffff"))
	return []packed{
		spot("M5.FS.2", 1, ".74", "Mark the point (3, 4).", emptyGrid, onGrid(3, 4)),
		spot("M5.FS.2", 2, ".63", "A buoy is at (1, 2). A boat is 4 to the right of it and 3 up. Mark the boat.", grid("buoy.svg", "A grid with numbers 0 to 6 along the bottom and 0 to 6 up the left side, with a dot where 1 along and 2 up meet", func() string {
			x, y := gridAt(1, 2)
			return disc(x, y, 8, mark)
		}()), onGrid(5, 5)),
		spot("M6.NP.2a", 1, ".69", "Mark −3 degrees on the thermometer.", temperature, area(item.Rectangle, 60, degree(-3)-5, 150, degree(-3)+5)),
		spot("M6.NP.2b", 2, ".55", "It is −4 degrees and gets 6 degrees warmer. Mark the temperature then.", temperature, area(item.Rectangle, 60, degree(2)-5, 150, degree(2)+5)),
		{"M5.DC.1", 1, ".88", among("Mark the month in which the most herons were counted.", shelf.put(herons), 2, []string{"March", "April", "May", "June"}, months)},
		{"M5.DC.1", 2, ".71", among("Mark the place where 3 seals fewer were counted than at the reef.", shelf.put(seals), 2, []string{"pier", "reef", "sandbar"}, places)},
		{"S7.EW.1", 1, ".76", among("The layers of this cliff were never turned over. Mark the oldest one.", shelf.put(layers), 3, []string{"top layer", "second layer", "third layer", "bottom layer"},
			[]item.Area{area(item.Rectangle, 20, 20, 380, 70), area(item.Rectangle, 20, 70, 380, 130), area(item.Rectangle, 20, 130, 380, 180), area(item.Rectangle, 20, 180, 380, 240)})},
		{"S5.EW.2", 1, ".79", among("Mark where water vapor has turned into droplets that have not fallen yet.", shelf.put(cycle), 1, []string{"sea", "cloud", "rain", "river"},
			[]item.Area{area(item.Rectangle, 0, 222, 230, 298), area(item.Rectangle, 164, 18, 316, 108), area(item.Rectangle, 362, 54, 428, 126), area(item.Polygon, 240, 250, 440, 170, 440, 190, 240, 270)})},
		{"S5.LV.1", 1, ".81", among("The arrows show who is eaten by whom. Mark the living thing that takes up energy from sunlight.", shelf.put(web), 0, []string{"kelp", "urchin", "crab", "otter"},
			[]item.Area{area(item.Rectangle, 10, 30, 90, 80), area(item.Rectangle, 130, 30, 210, 80), area(item.Rectangle, 250, 30, 330, 80), area(item.Rectangle, 370, 30, 450, 80)})},
		spot("S6.LV.1", 1, ".72", "Mark the nucleus, which holds the instructions of the cell.", cell, area(item.Circle, 180, 140, 46)),
		spot("S8.EN.1", 1, ".83", "Mark a crest of the wave.", waves, tops...),
		spot("M8.FS.1", 1, ".77", "Mark the hypotenuse of the triangle.", triangle, area(item.Polygon, 28, 40, 52, 30, 314, 212, 300, 236)),
	}
}

func oneOf(stem string, right int, choices ...string) item.Item {
	return item.NewChoice(item.SingleChoice, stem, choices, []int{right}, item.AllOrNothing)
}

func numeric(stem, right, unit string) item.Item {
	return item.NewNumber(stem, []string{right}, item.NumberKey{}, unit)
}

// severalRight are items with more than one right choice.
func severalRight() []packed {
	several := func(standard string, p, stem string, credit item.CreditRule, right []int, choices ...string) packed {
		return packed{standard, 2, p, item.NewChoice(item.MultipleChoice, stem, choices, right, credit)}
	}
	return []packed{
		several("M4.FR.1", ".57", "Which fractions are equal to 1/2?", item.KeyMinus, []int{0, 3}, "4/8", "2/3", "3/5", "6/12", "5/8"),
		several("M6.NP.3", ".55", "Which numbers are common factors of 24 and 36?", item.PerChoice, []int{0, 2, 4}, "4", "9", "6", "8", "12"),
		several("M6.NP.3", ".58", "Which numbers are multiples of both 4 and 6?", item.KeyMinus, []int{1, 3}, "18", "12", "16", "36", "20"),
		several("M7.NP.1", ".52", "Which products are less than zero?", item.PerChoice, []int{0, 3}, "−3 × 5", "−2 × −4", "6 × 0", "7 × −1"),
		several("M8.NP.1", ".49", "Which are equal to 2 to the sixth power?", item.KeyMinus, []int{1, 2}, "12", "64", "8 × 8", "36"),
		several("S5.MT.1", ".68", "Which of these are properties of a substance, whatever its amount?", item.KeyMinus, []int{0, 2}, "the temperature at which it melts", "its mass", "its density", "its volume"),
		several("S6.EW.1", ".56", "Which of these go with a low-pressure area?", item.PerChoice, []int{1, 2}, "sinking air", "rising air", "clouds", "clear skies that last"),
		several("S8.LV.1", ".54", "Which of these can a gull pass on to its young?", item.KeyMinus, []int{0, 1}, "the shape of its beak", "the color of its feathers", "a scar on its leg", "a broken wing that has healed"),
	}
}

// inParts are items of two parts, the second of which counts only with the first.
func inParts() []packed {
	both := func(standard string, p, stem string, first, second item.Item) packed {
		return packed{standard, 2, p, item.NewParts(stem, []item.Item{first, second}, []int{-1, 0}, item.PerPart)}
	}
	two := func(stem string, right []int, choices ...string) item.Item {
		return item.NewChoice(item.MultipleChoice, stem, choices, right, item.KeyMinus)
	}
	return []packed{
		both("M6.RR.2", ".61", "A ferry sails 36 kilometers in 3 hours.", numeric("How many kilometers does it sail in one hour?", "12", "km"), numeric("How many kilometers does it sail in 5 hours at this speed?", "60", "km")),
		both("M6.RR.3a", ".57", "Of 250 seats on a ferry, 40% are taken.", numeric("How many seats are taken?", "100", "seats"), numeric("How many are free?", "150", "seats")),
		both("M4.OP.2", ".59", "50 students go to the harbor in vans that hold 8 each.", oneOf("Which division tells about it?", 1, "8 ÷ 50", "50 ÷ 8", "50 ÷ 50", "58 ÷ 8"), numeric("How many vans are needed so that all can go?", "7", "vans")),
		both("M5.FR.1", ".55", "One half of a sail is sewn on Monday and one third of it on Tuesday.", numeric("What is the least common denominator of 1/2 and 1/3?", "6", ""), numeric("What part of the sail is sewn by then?", "5/6", "")),
		both("M6.DC.1", ".62", "Four boats caught 4, 7, 7 and 10 baskets of crab.", numeric("How many baskets is that in all?", "28", "baskets"), numeric("What is the mean?", "7", "baskets")),
		both("M6.EX.3", ".66", "A rope of unknown length is tied to one of 9 meters; together they are 15 meters: x + 9 = 15.", oneOf("What is done to both sides to find x?", 0, "Subtract 9.", "Add 9.", "Divide by 9.", "Multiply by 15."), numeric("What is x?", "6", "")),
		both("M8.EX.2", ".51", "A line goes through (0, 2) and (4, 10).", numeric("How far does it rise from x = 0 to x = 4?", "8", ""), numeric("What is its slope?", "2", "")),
		both("S5.EW.1", ".54", "In Tamarack Bay, July is warmer than January.", oneOf("Why?", 2, "The earth is nearer to the sun in July.", "The sea is nearer in July.", "Sunlight falls more steeply in July.", "The sun gives off more light in July."),
			two("Which two observations go with that?", []int{0, 3}, "The sun stands higher at noon in July.", "The moon is brighter in July.", "The tides are higher in July.", "Daylight lasts longer in July.")),
		both("S7.MT.1", ".63", "An iron chain left on the dock turns red and flaky.", oneOf("What kind of change is that?", 1, "A physical change", "A chemical change", "No change at all"),
			oneOf("What shows it?", 0, "A new substance has formed.", "The chain is in another place.", "The chain has another shape.", "The chain is colder.")),
		both("R5.VW.1", ".67", "Read: “The skipper was taciturn. She spoke three words all morning, and two of them were to the dog.”", oneOf("What does taciturn mean here?", 3, "easily angered", "fond of animals", "short of sleep", "given to saying little"),
			oneOf("Which words tell?", 1, "the skipper was", "she spoke three words all morning", "and two of them", "to the dog")),
	}
}

func levels(texts ...string) []item.Level {
	var out []item.Level
	for i, t := range texts {
		out = append(out, item.Level{Points: points.Points(len(texts)-1-i) * points.One, Text: t})
	}
	return out
}

func shortAnswers() []packed {
	short := func(standard string, depth int, stem, example string, texts ...string) packed {
		return packed{standard, depth, "", item.NewWritten(item.ShortWritten, stem, 4, &item.Rubric{Traits: []item.Trait{{Name: "Answer", Levels: levels(texts...)}}}, []string{example})}
	}
	return []packed{
		short("M6.RR.1b", 2, "Are 6 : 9 and 10 : 15 equal ratios? Say how you know.", "Yes. Both are 2 : 3 in simplest form.", "says yes with a reason that holds", "says yes without a reason", "says no, or nothing about the ratios"),
		short("M4.FR.1", 2, "Mei says 3/4 is greater than 5/6 because quarters are larger than sixths. Is she right? Explain.", "No. 3/4 is 9/12 and 5/6 is 10/12.", "says no and compares the fractions rightly", "says no without comparing", "says yes"),
		short("M6.NP.2a", 2, "Why is −8 less than −3? Use a number line or a thermometer in your answer.", "On a thermometer −8 is farther below 0 than −3, so it is colder, that is, less.", "explains by the place below zero", "only repeats that it is less", "does not answer"),
		short("M6.DC.2", 2, "The ages on a boat are 9, 10, 10, 11 and 60. Is the mean or the median the better typical age? Say why.", "The median, 10: the age of 60 pulls the mean up to 20.", "chooses the median and names the 60", "chooses the median without a reason", "chooses the mean"),
		short("M8.EX.2", 2, "What does a slope of 0 tell about a line? Give an example from a boat trip.", "It is level: the boat's distance does not change while it is moored.", "says level and gives an example that fits", "says level only", "anything else"),
		short("S5.EW.2", 1, "A puddle on the dock is gone the next morning. Where has the water gone?", "It has evaporated into the air as water vapor.", "says that it evaporated into the air", "says that it dried without saying where", "says that it is no longer anywhere"),
		short("S6.EN.1", 2, "A cup of cocoa stands on a cold rail. What happens to heat, and when does it stop?", "Heat flows from the cocoa to the rail and air until all have the same temperature.", "tells the direction and the end", "tells one of them", "tells neither"),
		short("S7.LV.1", 2, "Sea otters eat urchins, and urchins eat kelp. What may happen to kelp if the otters leave?", "There will be more urchins, which eat more kelp, so there is less kelp.", "follows it from otters to urchins to kelp", "says less kelp without the step between", "says more kelp or no change"),
		short("S8.FM.1", 2, "A boat moves at a steady speed in a straight line. What can you say of the forces on it?", "They are balanced: the push of the motor equals the drag of the water.", "says balanced and names two forces", "says balanced only", "says that there is no force"),
		short("R4.IT.2", 2, "In one sentence, say what the main idea of an article you read this week was and one detail that supports it.", "The article said that eelgrass shelters young fish; it told of a count of herring in one bed.", "gives a main idea and a detail that supports it", "gives one of them", "gives neither"),
	}
}

func essays() []packed {
	essay := func(standard, stem, example string, traits ...item.Trait) packed {
		return packed{standard, 3, "", item.NewWritten(item.LongWritten, stem, 12, &item.Rubric{Traits: traits}, []string{example})}
	}
	reasons := item.Trait{Name: "Reasons", Levels: levels("two reasons or more, each explained", "two reasons, one of them explained", "one reason", "no reason")}
	evidence := item.Trait{Name: "Evidence", Levels: levels("facts or words of the text that fit every point", "some that fit", "none that fits")}
	order := item.Trait{Name: "Order", Levels: levels("a reader can follow it from beginning to end", "a reader loses the thread in places", "thoughts stand side by side")}
	steps := item.Trait{Name: "Steps", Levels: levels("every step is there and right", "one step is missing or wrong", "more than one is", "no step is right")}
	words := item.Trait{Name: "Words of the subject", Levels: levels("used rightly", "some used rightly", "none used rightly")}
	return []packed{
		essay("R5.LT.2", "Think of a story in which somebody changes. Explain how they change and what makes them change.", "At first Jonah hides from the sea …", evidence, order),
		essay("R5.IT.3", "A writer says the old pier should be kept. What reasons would make you believe it? Write the argument.", "The pier should stay, first because …", reasons, order),
		essay("R6.IT.1", "Does Tamarack Bay need a night ferry? Take a side and support it.", "A night ferry would help the cannery workers …", reasons, evidence),
		essay("R7.LT.2", "Explain how the place where a story happens shapes its conflict. Use one story you know well.", "In the story the storm shuts the family in …", evidence, order),
		essay("R8.IT.2", "Find an argument about the sea that leaves something out. Say what it leaves out and why that matters.", "The leaflet says that all nets are the same …", reasons, evidence),
		essay("M6.EX.2", "A skiff costs 8 dollars to rent and 3 dollars for each hour. Write an expression, say what each part means, and use it for a trip that you plan.", "8 + 3h: the 8 is paid once …", steps, words),
		essay("M7.RR.2", "A ticket of 20 dollars goes up by 10 percent and then down by 10 percent. Is it 20 dollars again? Show and explain.", "No: it goes up to 22 and then down by 2.20 to 19.80 …", steps, words),
		essay("S5.EW.1", "Explain to a younger child why there are tides.", "The moon pulls on the water …", words, order),
		essay("S7.EW.1", "A cliff holds sea shells high above the water. Tell the history of that place as the layers show it.", "Long ago the place lay under the sea …", evidence, words),
		essay("S8.LV.1", "Mussels on a beaten shore have thicker shells than those in the harbor. Explain how that may have come about over many generations.", "Mussels with thicker shells lived longer …", steps, words),
	}
}

// faceToFace is a set for kindergarten, which an adult records.
func faceToFace(shelf shelfOf) []packed {
	ask := func(standard, shown, directions, right string) packed {
		return packed{standard, 1, "", item.NewExaminer(shown, "<p>"+directions+"</p>", right)}
	}
	shapes := draw("shapes.svg", "A circle, a square, a triangle and a long rectangle in a row", 520, 150, disc(70, 75, 45, water), box(150, 30, 90, 90, sand), figure("#cfe3c4", 280, 120, 380, 120, 330, 30), box(410, 50, 100, 50, wood))
	corners := draw("corners.svg", "A shape with four sides, a shape with three sides and a shape with six sides", 420, 150, box(20, 30, 90, 90, water), figure(sand, 150, 120, 250, 120, 200, 30), figure("#cfe3c4", 320, 30, 370, 30, 400, 75, 370, 120, 320, 120, 290, 75))
	scene := draw("scene.svg", "A boat on the water, a gull above it, a fish below it and a pier beside it", 480, 300, box(0, 160, 480, 140, water), figure(wood, 160, 150, 320, 150, 290, 190, 190, 190), stroke(240, 150, 240, 70, 4, ink),
		figure("#ffffff", 240, 74, 240, 130, 300, 130), disc(240, 36, 14, "#ffffff"), figure(mark, 220, 250, 270, 235, 270, 265), box(410, 110, 30, 130, wood))
	groups := draw("groups.svg", "A box with five shells on the left and a box with three shells on the right", 460, 170, box(10, 10, 210, 150, "#ffffff"), box(240, 10, 210, 150, "#ffffff"),
		disc(50, 50, 18, sand), disc(110, 50, 18, sand), disc(170, 50, 18, sand), disc(80, 115, 18, sand), disc(140, 115, 18, sand), disc(290, 80, 18, sand), disc(345, 80, 18, sand), disc(400, 80, 18, sand))
	return []packed{
		ask("MK.CC.1", shelf.img(dots("six.svg", 6, water)), "Say: “How many dots are there?” Let the child touch them.", "six"),
		ask("MK.CC.1", shelf.img(dots("nine.svg", 9, sand)), "Say: “How many dots are there?” Let the child touch them.", "nine"),
		ask("MK.CC.1", shelf.img(dots("twelve.svg", 12, "#cfe3c4")), "Say: “How many dots are there?” Let the child touch them.", "twelve"),
		ask("MK.CC.2", shelf.img(groups), "Say: “Show me the box with more shells.”", "points to the left box"),
		ask("MK.CC.2", shelf.img(groups), "Say: “How many more shells are in this box?” and point to the left one.", "two"),
		ask("MK.FS.1", shelf.img(shapes), "Say: “Show me the circle.”", "points to the first shape"),
		ask("MK.FS.1", shelf.img(shapes), "Say: “Show me the triangle.”", "points to the third shape"),
		ask("MK.FS.1", shelf.img(corners), "Say: “Which shape has six sides?”", "points to the last shape"),
		ask("MK.FS.2", shelf.img(scene), "Say: “What is above the boat?”", "the gull, the bird, or points to it"),
		ask("MK.FS.2", shelf.img(scene), "Say: “What is below the boat?”", "the fish, or points to it"),
	}
}
