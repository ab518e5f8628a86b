package kit

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"unicode/utf8"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
)

// Sorts of thing that a place has.
const (
	ImplementRow = "implement"
	ObjectRow    = "object"
	ContainerRow = "container"
)

// The words that a row may use.
var (
	RowItems = []string{ImplementRow, ObjectRow, ContainerRow}
	Kinds    = []string{
		Kettlebell, Dumbbell, DumbbellPair, Barbell, Band, Bench, Box, Table,
		Plate, Post, Mat, Wall, SmoothFloor, FootHold, Wedge, Door,
	}
	Uses = []string{Grip, Hug, Pack}
	Hows = []string{ByGross, ByNet, ByVolume, ByKind, ByScale}
	Worn = []string{InFront, InHand, OnHips, OnBack}
)

// Bounds of a row.
const (
	MaxCount = 500
	// MaxHeight bounds benches, boxes and tables, MaxStretch bands, MaxVolume what
	// household things hold.
	MaxHeight  measure.Length = 2000
	MaxStretch measure.Length = 5000
	MaxVolume  measure.Volume = 500_000
	maxTyped                  = 40 // characters of a field
)

// Row is a row of equal things of a place as somebody types it: quantities as text, what
// the thing does not have left empty. Forms, files and the demo all bring rows, and Check
// is the only judge of them.
type Row struct {
	Item string
	// Name was read before, as every name is.
	Name string
	// Of an implement.
	Kind, Height, Rated, Legs    string
	Highest                      string
	Points                       []string
	TableMass, CentreIn, EdgeOut string
	Stretch1, Pull1              string
	Stretch2, Pull2              string
	Checked                      bool
	// Of an object.
	Use, How, What, In, Empty string
	Refill                    bool
	Traits                    []string
	// Of a container.
	Max            string
	Closed, Straps bool
	Wear           []string
	// Of several: Count is 1 for a container.
	Mass, Volume string
	Count        int
}

// Thing is what a row comes to: quantities with their units, and of an object known by
// the household table its mass worked out.
type Thing struct {
	Item, Name, Kind, Use string
	Count                 int
	Checked               bool
	Mass, Max, Height     *measure.Typed
	Implement             ImplementDetails
	Object                ObjectDetails
	Container             ContainerDetails
}

// MassG is its mass in grams, 0 for none.
func (t Thing) MassG() measure.Mass { return measure.Mass(whole(t.Mass)) }

// has names the typed fields that each sort of thing has besides its name and count; of
// implements by kind.
var has = map[string][]string{
	Kettlebell: {"mass"}, Dumbbell: {"mass"}, DumbbellPair: {"mass"}, Barbell: {"mass"},
	Bench: {"height", "highest", "rated"}, Box: {"height", "rated"},
	Plate: {"mass", "height"}, Wedge: {"height"}, FootHold: {"rated", "checked"}, Door: {"points"},
	Post: {}, Mat: {}, Wall: {}, SmoothFloor: {},
	Table:        {"height", "rated", "legs", "tableMass", "centreIn", "edgeOut", "checked"},
	Band:         {"stretch1", "pull1", "stretch2", "pull2"},
	ObjectRow:    {"mass", "volume", "in", "what", "how", "empty", "refill", "traits", "use"},
	ContainerRow: {"mass", "max", "volume", "closed", "straps", "wear"},
}

// Check reads a row whose place takes bare numbers as unit, kg or lb. Everything wrong is
// said at once, each field by its name here in camel case.
func (r Row) Check(unit measure.Unit) (Thing, fault.List) {
	c := &rowChecker{row: r, unit: unit}
	c.out = Thing{Item: r.Item, Name: r.Name, Count: r.Count}
	if r.Name == "" {
		c.faults.Add("name", "type a name: something that can be read")
	}
	least := int64(1)
	if r.Item == ImplementRow && slices.Contains(Granted, r.Kind) {
		least = 0 // there is none
	}
	c.faults.Within("count", int64(r.Count), least, MaxCount)
	c.short()
	switch r.Item {
	case ImplementRow:
		c.implement()
	case ObjectRow:
		c.object()
	case ContainerRow:
		c.container()
	default:
		c.oneOf("item", r.Item, RowItems)
	}
	slices.SortStableFunc(c.faults, func(a, b fault.Fault) int { return cmp.Compare(a.Path, b.Path) })
	return c.out, c.faults
}

type rowChecker struct {
	row    Row
	unit   measure.Unit
	out    Thing
	faults fault.List
}

func (c *rowChecker) add(field, message string, value any) { c.faults.Note(field, message, value) }

func (c *rowChecker) oneOf(field, word string, words []string) bool {
	ok := slices.Contains(words, word)
	if !ok {
		c.add(field, "one of "+strings.Join(words, ", "), word)
	}
	return ok
}

// texts are the typed fields by name.
func (r Row) texts() map[string]string {
	return map[string]string{
		"kind":      r.Kind,
		"use":       r.Use,
		"mass":      r.Mass,
		"max":       r.Max,
		"height":    r.Height,
		"rated":     r.Rated,
		"highest":   r.Highest,
		"legs":      r.Legs,
		"tableMass": r.TableMass,
		"centreIn":  r.CentreIn,
		"edgeOut":   r.EdgeOut,
		"stretch1":  r.Stretch1,
		"pull1":     r.Pull1,
		"stretch2":  r.Stretch2,
		"pull2":     r.Pull2,
		"how":       r.How,
		"what":      r.What,
		"in":        r.In,
		"volume":    r.Volume,
		"empty":     r.Empty,
	}
}

// spare refuses what was typed of a thing that does not have it, since it would not be
// kept.
func (c *rowChecker) spare(what string, has ...string) {
	texts := c.row.texts()
	for _, field := range slices.Sorted(maps.Keys(texts)) {
		if !slices.Contains(has, field) && !isBlank(texts[field]) {
			c.add(field, "this is nothing that "+what+" has here: leave it out", texts[field])
		}
	}
	for field, said := range map[string]bool{"checked": c.row.Checked, "refill": c.row.Refill, "closed": c.row.Closed, "straps": c.row.Straps,
		"traits": len(c.row.Traits) > 0, "wear": len(c.row.Wear) > 0, "points": len(c.row.Points) > 0} {
		if said && !slices.Contains(has, field) {
			c.add(field, "this is nothing that "+what+" has here: leave it out", nil)
		}
	}
}

func isBlank(text string) bool { return strings.TrimSpace(text) == "" }

// short refuses texts that nobody types.
func (c *rowChecker) short() {
	for field, text := range c.row.texts() {
		if utf8.RuneCountInString(text) > maxTyped {
			c.add(field, "at most 40 characters", text)
		}
	}
}

// typed keeps a quantity that was read, or says what is wrong with it.
func (c *rowChecker) typed(field, text string, read func() (measure.Reading, error)) *measure.Typed {
	r, err := read()
	if err != nil {
		c.add(field, err.Error(), text)
		return nil
	}
	return &r.Typed
}

func (c *rowChecker) mass(field, text string) *measure.Typed {
	return c.typed(
		field,
		text,
		func() (measure.Reading, error) { return measure.ReadMass(text, c.unit, measure.MaxLoad) },
	)
}

func (c *rowChecker) length(field, text string, most measure.Length) *measure.Typed {
	return c.typed(
		field,
		text,
		func() (measure.Reading, error) { return measure.ReadLength(text, c.unit.OfLength(), most) },
	)
}

func (c *rowChecker) volume(field, text string) *measure.Typed {
	return c.typed(
		field,
		text,
		func() (measure.Reading, error) { return measure.ReadVolume(text, measure.Litre, MaxVolume) },
	)
}

// maybe reads what may be left out.
func maybe(field, text string, read func(field, text string) *measure.Typed) *measure.Typed {
	if isBlank(text) {
		return nil
	}
	return read(field, text)
}

// listed gives a list of words, nil for an empty one, as it comes back from where it is
// kept. Each stands once.
func (c *rowChecker) listed(field string, words, known []string) []string {
	for i, w := range words {
		c.oneOf(field, w, known)
		if slices.Contains(words[:i], w) {
			c.add(field, "each once", words)
		}
	}
	if len(words) == 0 {
		return nil
	}
	return slices.Clone(words)
}

func (c *rowChecker) implement() {
	r, d := c.row, &c.out.Implement
	if !c.oneOf("kind", r.Kind, Kinds) {
		return // what kind it is says what the rest means
	}
	c.out.Kind, c.out.Checked = r.Kind, r.Checked
	c.spare("a "+r.Kind, append([]string{"kind"}, has[r.Kind]...)...)
	height := func(field, text string) *measure.Typed { return c.length(field, text, MaxHeight) }
	switch r.Kind {
	case Kettlebell, Dumbbell, DumbbellPair, Barbell:
		c.out.Mass = c.mass("mass", r.Mass)
	case Band:
		d.Pulls = c.pulls()
	case Bench, Box:
		c.out.Height, d.Rated = height("height", r.Height), maybe("rated", r.Rated, c.mass)
		d.Highest = maybe("highest", r.Highest, height)
		if c.out.Height != nil && d.Highest != nil && whole(d.Highest) <= whole(c.out.Height) {
			c.add(
				"highest",
				"a bench that is set goes higher than its lowest: leave it out of one that is not",
				r.Highest,
			)
		}
	case Plate:
		c.out.Mass, c.out.Height = c.mass("mass", r.Mass), maybe("height", r.Height, height)
	case Wedge:
		c.out.Height = maybe("height", r.Height, height)
	case FootHold:
		d.Rated = maybe("rated", r.Rated, c.mass)
	case Door:
		if d.Points = c.listed("points", r.Points, Points); len(r.Points) == 0 {
			c.add("points", "say where a band may be anchored: "+strings.Join(Points, ", "), nil)
		}
	case Table:
		c.out.Height, d.Rated = height("height", r.Height), maybe("rated", r.Rated, c.mass)
		if r.Legs != "" && c.oneOf("legs", r.Legs, body.TableKinds) {
			d.Legs = r.Legs
		}
		if isBlank(r.TableMass + r.CentreIn + r.EdgeOut) {
			return
		}
		if r.Legs == "" {
			c.add("legs", "say how the table stands, then its measures count", r.Legs)
		}
		d.TableMass, d.CentreIn = c.mass("tableMass", r.TableMass), height("centreIn", r.CentreIn)
		d.EdgeOut = maybe("edgeOut", r.EdgeOut, height)
	}
}

// pulls reads the two pulls of a band, or none.
func (c *rowChecker) pulls() []TypedPull {
	r := c.row
	if isBlank(r.Stretch1 + r.Pull1 + r.Stretch2 + r.Pull2) {
		return nil
	}
	s1, p1 := c.length("stretch1", r.Stretch1, MaxStretch), c.mass("pull1", r.Pull1)
	s2, p2 := c.length("stretch2", r.Stretch2, MaxStretch), c.mass("pull2", r.Pull2)
	if s1 == nil || p1 == nil || s2 == nil || p2 == nil {
		return nil
	}
	if whole(s2) <= whole(s1) || whole(p2) <= whole(p1) {
		c.add("stretch2", "the second is longer than the first and pulls more", r.Stretch2)
	}
	return []TypedPull{{*s1, *p1}, {*s2, *p2}}
}

func (c *rowChecker) object() {
	r := c.row
	if c.oneOf("use", r.Use, Uses) {
		c.out.Use = r.Use
	}
	d := ObjectDetails{
		How:    r.How,
		What:   r.What,
		In:     r.In,
		Refill: r.Refill,
		Traits: c.listed("traits", r.Traits, Traits),
	}
	if r.How == ByGross {
		d.How = "" // as it comes back from where nothing was said
	}
	if r.How != "" && !c.oneOf("how", r.How, Hows) {
		return // how its mass is known says what the rest means
	}
	gone := []string{"in"}
	switch d.How {
	case ByVolume:
		gone = []string{"mass"}
	case ByKind:
		gone = []string{"in", "mass", "volume"}
	}
	if !r.Refill {
		gone = append(gone, "empty")
	}
	fields := slices.DeleteFunc(slices.Clone(has[ObjectRow]), func(f string) bool { return slices.Contains(gone, f) })
	c.spare("an object whose mass is known so", fields...)
	switch d.How {
	case ByNet:
		d.Amount = c.mass("mass", r.Mass)
	case ByVolume:
		d.Amount = c.volume("volume", r.Volume)
	case "", ByScale:
		c.out.Mass = c.mass("mass", r.Mass)
	}
	if d.How != ByVolume {
		d.Volume = maybe("volume", r.Volume, c.volume)
	}
	d.Empty = maybe("empty", r.Empty, c.mass)
	if c.faults.Good("mass", "volume", "empty", "what", "in") {
		c.weigh(d)
	}
	c.out.Object = d
}

// weigh works out the mass of an object that the household table knows.
func (c *rowChecker) weigh(d ObjectDetails) {
	w, known, err := d.Weigh()
	if err != nil {
		field := "what"
		if d.How == ByVolume && strings.Contains(err.Error(), "what it is in") {
			field = "in"
		}
		c.add(field, err.Error(), c.row.What)
		return
	}
	if known {
		c.out.Mass = &measure.Typed{Decimal: measure.Whole(int64(w.Mass)), Unit: measure.Gram}
	}
	if m := c.out.MassG(); m <= 0 || m > measure.MaxLoad {
		c.add("mass", "it must weigh more than nothing and at most 300 kg", c.row.Mass)
	}
	if err := d.Check(c.out.MassG()); err != nil {
		c.add("empty", err.Error(), c.row.Empty)
	}
}

func (c *rowChecker) container() {
	r := c.row
	c.spare("a container", has[ContainerRow]...)
	if r.Count > 1 {
		c.add("count", "a container stands alone: give every one a row of its own", r.Count)
	}
	c.out.Mass, c.out.Max = c.mass("mass", r.Mass), c.mass("max", r.Max)
	c.out.Container = ContainerDetails{
		Closed: r.Closed,
		Straps: r.Straps,
		Wear:   c.listed("wear", r.Wear, Worn),
		Volume: maybe("volume", r.Volume, c.volume),
	}
	if c.out.Mass != nil && c.out.Max != nil && whole(c.out.Max) <= whole(c.out.Mass) {
		c.add("max", "packed it weighs more than empty: type the most it may weigh in all", r.Max)
	}
}

// Row gives a thing as it would be typed: checking it gives the same thing again.
func (t Thing) Row() Row {
	r := Row{
		Item:    t.Item,
		Name:    t.Name,
		Kind:    t.Kind,
		Use:     t.Use,
		Count:   t.Count,
		Checked: t.Checked,
		Mass:    text(t.Mass),
		Max:     text(t.Max),
		Height:  text(t.Height),
	}
	switch t.Item {
	case ImplementRow:
		d := t.Implement
		r.Rated, r.Legs, r.TableMass = text(d.Rated), d.Legs, text(d.TableMass)
		r.CentreIn, r.EdgeOut, r.Highest, r.Points = text(d.CentreIn), text(d.EdgeOut), text(d.Highest), d.Points
		if len(d.Pulls) == 2 {
			r.Stretch1, r.Pull1 = text(&d.Pulls[0].Stretch), text(&d.Pulls[0].Pull)
			r.Stretch2, r.Pull2 = text(&d.Pulls[1].Stretch), text(&d.Pulls[1].Pull)
		}
	case ObjectRow:
		d := t.Object
		r.How, r.What, r.In = d.How, d.What, d.In
		r.Volume, r.Empty, r.Refill, r.Traits = text(d.Volume), text(d.Empty), d.Refill, d.Traits
		switch d.How { // what its mass is known by says what was typed for it
		case ByNet:
			r.Mass = text(d.Amount)
		case ByVolume:
			r.Mass, r.Volume = "", text(d.Amount)
		case ByKind:
			r.Mass = ""
		}
	case ContainerRow:
		d := t.Container
		r.Volume, r.Closed, r.Straps, r.Wear = text(d.Volume), d.Closed, d.Straps, d.Wear
	}
	return r
}

// text gives a quantity as it would be typed, nothing for none.
func text(t *measure.Typed) string {
	if t == nil {
		return ""
	}
	return measure.Write(*t)
}

// Item names a thing of a place, for whoever reads an id elsewhere.
type Item struct {
	ID   string            `json:"id"`
	Name string            `json:"name"`
	Kind string            `json:"kind"` // of implement, or object or container
	Mass *measure.Quantity `json:"mass,omitempty"`
	// Count is how many single pieces there are; none in what was written before it was kept.
	Count int `json:"count,omitempty"`
}

// ItemOf names a thing.
func (t Thing) ItemOf(id string) Item {
	kind := t.Item
	if t.Item == ImplementRow {
		kind = t.Kind
	}
	i := Item{ID: id, Name: t.Name, Kind: kind, Count: t.Count}
	if kind == DumbbellPair {
		i.Count *= 2
	}
	if t.Mass != nil {
		q := measure.QuantityOf(*t.Mass)
		i.Mass = &q
	}
	return i
}
