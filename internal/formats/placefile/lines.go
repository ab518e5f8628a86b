package placefile

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"nimbleanvil/internal/core/kit"
)

// ParseLines reads what a place has as somebody writes it down, a line a thing or a row
// of them: "2 bells 8, 12, 16 kg", "bench 45 cm", "rucksack .8 kg up to 15 kg 20 l",
// "tins 400 g x20". Bare numbers take the unit of the place. What it cannot place is said,
// never left out.
func ParseLines(text, place string) Parsed {
	var p Parsed
	for i, line := range strings.Split(text, "\n") {
		if line = strings.TrimSpace(line); line == "" {
			continue
		}
		rows, wrong := readLine(line)
		if wrong != "" {
			p.Fault(Mistake{Line: i + 1, Message: wrong, Value: line})
			continue
		}
		for _, r := range rows {
			if len(p.Rows) == MaxRows {
				p.Fault(Mistake{Line: i + 1, Message: fmt.Sprintf("at most %d things", MaxRows)})
				return p
			}
			r.Place = place
			p.Rows, p.Lines = append(p.Rows, r), append(p.Lines, i+1)
		}
	}
	return p
}

// The words by which the kinds of a line are known, in the singular; two words are looked
// for before one.
var lineKinds = []struct{ words, item, kind string }{
	{"pair of dumbbells", kit.ImplementRow, kit.DumbbellPair},
	{"pairs of dumbbells", kit.ImplementRow, kit.DumbbellPair},
	{"dumbbell pair", kit.ImplementRow, kit.DumbbellPair},
	{"kettlebell", kit.ImplementRow, kit.Kettlebell},
	{"bell", kit.ImplementRow, kit.Kettlebell},
	{"dumbbell", kit.ImplementRow, kit.Dumbbell},
	{"barbell", kit.ImplementRow, kit.Barbell},
	{"bar", kit.ImplementRow, kit.Barbell},
	{"band", kit.ImplementRow, kit.Band},
	{"bench", kit.ImplementRow, kit.Bench},
	{"box", kit.ImplementRow, kit.Box},
	{"step", kit.ImplementRow, kit.Box},
	{"table", kit.ImplementRow, kit.Table},
	{"plate", kit.ImplementRow, kit.Plate},
	{"door frame", kit.ImplementRow, kit.Post},
	{"post", kit.ImplementRow, kit.Post},
	{"mat", kit.ImplementRow, kit.Mat},
	{"pad", kit.ImplementRow, kit.Mat},
	{"wall", kit.ImplementRow, kit.Wall},
	{"wedge", kit.ImplementRow, kit.Wedge},
	{"smooth floor", kit.ImplementRow, kit.SmoothFloor},
	{"foot hold", kit.ImplementRow, kit.FootHold},
	{"rucksack", kit.ContainerRow, ""},
	{"backpack", kit.ContainerRow, ""},
	{"bag", kit.ContainerRow, ""},
	{"crate", kit.ContainerRow, ""},
	{"suitcase", kit.ContainerRow, ""},
}

// number is a quantity or a list of them with one unit; the unit ends at a word's end.
var (
	number = regexp.MustCompile(`(?i)(^|[\s(])(up to |max\.? |carries )?` +
		`((?:\d+(?:[.,]\d+)?|[.,]\d+)(?:\s*(?:, |/| and | )\s*(?:\d+(?:[.,]\d+)?|[.,]\d+))*)` +
		`\s*(kg|g|lbs?|oz|mm|cm|m|in|ml|l)?(?:$|[\s,;)])`)
	apart   = regexp.MustCompile(`\s*(?:, |/| and | )\s*`)
	times   = regexp.MustCompile(`(?i)(?:^|\s)(?:(\d+)\s*[x×](?:\s|$)|[x×]\s*(\d+)(?:$|[\s,;]))`)
	first   = regexp.MustCompile(`^(\d+)\s+(\pL+)`)
	setUpTo = regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|m|in)\b`)
	units   = regexp.MustCompile(`(?i)^(kg|g|lbs?|oz|mm|cm|m|in|ml|l)$`)
)

// readLine gives the rows of a line, or what is wrong with it.
func readLine(line string) ([]Row, string) {
	line = strings.Join(strings.Fields(line), " ")
	count := ""
	if m := times.FindStringSubmatchIndex(line); m != nil {
		s := times.FindStringSubmatch(line)
		count, line = s[1]+s[2], line[:m[0]]+" "+line[m[1]:]
	} else if m := first.FindStringSubmatch(line); m != nil && !units.MatchString(m[2]) {
		count, line = m[1], line[len(m[1]):]
	}
	said := map[string][]string{}
	if m := setUpTo.FindStringSubmatchIndex(line); m != nil { // a bench that is set
		s := setUpTo.FindStringSubmatch(line)
		said["height"], said["highest"] = []string{s[1] + " " + s[3]}, []string{s[2] + " " + s[3]}
		line = line[:m[0]] + " " + line[m[1]:]
	}
	for {
		m := number.FindStringSubmatchIndex(line)
		if m == nil {
			break
		}
		part := func(n int) string {
			if m[2*n] < 0 {
				return ""
			}
			return line[m[2*n]:m[2*n+1]]
		}
		unit := strings.ToLower(part(4))
		sort := map[string]string{"mm": "height", "cm": "height", "m": "height", "in": "height", "ml": "volume", "l": "volume"}[unit]
		if sort == "" {
			sort = "mass"
		}
		if part(2) != "" {
			sort = "most"
		}
		if said[sort] != nil {
			return nil, "two " + sort + " numbers that are not one list: give each thing a line of its own"
		}
		for _, n := range apart.Split(part(3), -1) {
			said[sort] = append(said[sort], strings.TrimSpace(n+" "+unit))
		}
		line = line[:m[0]] + " " + line[m[1]:]
	}
	name := strings.Trim(strings.Join(strings.Fields(line), " "), " ,;:.()")
	if name == "" {
		return nil, "say what it is: bell, dumbbell, bench, rucksack, tins"
	}
	return rowsOf(name, count, said)
}

// rowsOf gives each mass of a line, or height, a row of its own.
func rowsOf(name, count string, said map[string][]string) ([]Row, string) {
	row := Row{Name: name, Item: kit.ObjectRow, Count: count}
	plain := " " + strings.ToLower(name) + " "
	for _, k := range lineKinds {
		if strings.Contains(plain, " "+k.words+" ") || strings.Contains(plain, " "+k.words+"s ") ||
			strings.Contains(plain, " "+k.words+"es ") {
			row.Item, row.Kind = k.item, k.kind
			break
		}
	}
	row.Name = singular(name)
	for sort, texts := range said {
		if len(texts) > 1 && (sort != "mass" || row.Item != kit.ImplementRow) {
			return nil, "several numbers of one thing: only the masses of bells and dumbbells are listed in a line"
		}
		row.put(sort, texts[0])
	}
	if row.Item == kit.ObjectRow {
		row.Use = kit.Pack
		if row.Mass == "" && row.Volume != "" { // a bottle by what goes in
			row.How, row.What, row.In = kit.ByVolume, "water", "bottle"
		}
	}
	masses := said["mass"]
	if len(masses) < 2 || row.Item != kit.ImplementRow {
		return []Row{row}, ""
	}
	if n, _ := strconv.Atoi(count); n == len(masses) {
		row.Count = "" // three bells 8, 12, 16: one of each
	} else if n > 1 {
		return nil, fmt.Sprintf("%s pieces and %d masses: give each mass a line of its own", count, len(masses))
	}
	var out []Row
	for _, m := range masses {
		r := row
		r.Mass = m
		out = append(out, r)
	}
	return out, ""
}

// put writes a number where its kind of thing has it. Where it has none it stays where it
// would be looked for, so that the row is refused by name.
func (r *Row) put(sort, text string) {
	standing := slices.Contains([]string{kit.Bench, kit.Box, kit.Table}, r.Kind)
	switch {
	case sort == "most" && standing:
		r.Rated = text
	case sort == "most":
		r.Max = text
	case sort == "highest":
		r.Highest = text
	case sort == "height" || sort == "mass" && standing && !strings.ContainsAny(text, "abcdefghijklmnopqrstuvwxyz"):
		r.Height = text // a bare number of a bench is how high it is
	case sort == "volume":
		r.Volume = text
	default:
		r.Mass = text
	}
}

// singular gives "Kettlebell" for "kettlebells" and leaves what it does not know.
func singular(name string) string {
	words := strings.Fields(name)
	last := words[len(words)-1]
	switch {
	case len(words) > 1 || len(last) < 4:
	case strings.HasSuffix(last, "ches") || strings.HasSuffix(last, "xes"):
		last = last[:len(last)-2]
	case strings.HasSuffix(last, "s") && !strings.HasSuffix(last, "ss"):
		last = last[:len(last)-1]
	}
	words[len(words)-1] = last
	letters := []rune(strings.Join(words, " "))
	return string(unicode.ToUpper(letters[0])) + string(letters[1:])
}
