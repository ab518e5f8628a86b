package api

import (
	"slices"
	"strings"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// Implement is a row of equal implements.
type Implement struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Kind    string    `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,band,bench,box,table"`
	Mass    *Quantity `json:"mass,omitempty" doc:"of one piece"`
	Height  *Quantity `json:"height,omitempty"`
	Count   int       `json:"count" doc:"pieces, or pairs for dumbbell-pair"`
	Checked bool      `json:"checked" doc:"a table somebody has looked at: four fixed legs, heavy, does not tip"`
	// Details are what is known beyond mass and height.
	Details kit.ImplementDetails `json:"details"`
	RatedG  measure.Mass         `json:"ratedG" doc:"what it may carry; 0 is unknown"`
	Pulls   []BandPull           `json:"pulls" doc:"of a band, measured"`
	Tips    *TableTips           `json:"tips,omitempty" doc:"of a measured table"`
}

// BandPull is what a band pulls with at a stretch.
type BandPull struct {
	StretchMm measure.Length `json:"stretchMm"`
	PullG     measure.Mass   `json:"pullG"`
}

// TableTips is how a measured table takes a row by 100 kg, the body level.
type TableTips struct {
	Allowed bool    `json:"allowed"`
	Factor  float64 `json:"factor" doc:"how many times over it holds; 2 is asked for; 0 when it cannot tip"`
	Why     why.Why `json:"why"`
}

// ImplementInput is what is typed of an implement.
type ImplementInput struct {
	Name    Name   `json:"name"`
	Kind    string `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,band,bench,box,table"`
	Mass    string `json:"mass,omitempty" maxLength:"40" doc:"as typed: 16, 16 kg, 35 lb"`
	Height  string `json:"height,omitempty" maxLength:"40" doc:"as typed: 45 cm, 18 in"`
	Count   int    `json:"count" minimum:"1" maximum:"500"`
	Checked bool   `json:"checked,omitempty"`
	Rated   string `json:"rated,omitempty" maxLength:"40" doc:"what a bench or box may carry"`
	Legs    string `json:"legs,omitempty" enum:"four-leg,glass,folding,extending,one-column,trestle,loose-top" doc:"how a table stands"`
	// Of a table with four fixed legs: its mass, its centre inside the line of the
	// legs, the edge outside it.
	TableMass string `json:"tableMass,omitempty" maxLength:"40"`
	CentreIn  string `json:"centreIn,omitempty" maxLength:"40"`
	EdgeOut   string `json:"edgeOut,omitempty" maxLength:"40"`
	// Of a band: two pulls, or none.
	Stretch1 string `json:"stretch1,omitempty" maxLength:"40"`
	Pull1    string `json:"pull1,omitempty" maxLength:"40"`
	Stretch2 string `json:"stretch2,omitempty" maxLength:"40"`
	Pull2    string `json:"pull2,omitempty" maxLength:"40"`
}

// Object is a row of equal household objects, with their packaging.
type Object struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Use   string   `json:"use" enum:"grip,hug,pack"`
	Mass  Quantity `json:"mass"`
	Count int      `json:"count"`
	// Details are how the mass is known, and what else.
	Details kit.ObjectDetails `json:"details"`
	Weighed
}

// Weighed is what an object weighs, the range it may really have, and how that is
// known.
type Weighed struct {
	MassG  measure.Mass `json:"massG"`
	LowG   measure.Mass `json:"lowG"`
	HighG  measure.Mass `json:"highG"`
	EmptyG measure.Mass `json:"emptyG" doc:"of what is filled in steps; 0 otherwise"`
	StepG  measure.Mass `json:"stepG"`
	Why    *why.Why     `json:"why,omitempty"`
}

// ObjectInput is what is typed of an object.
type ObjectInput struct {
	Name  Name   `json:"name"`
	Use   string `json:"use" enum:"grip,hug,pack" doc:"a hand closes round it; held against the body; only in a container"`
	Mass  string `json:"mass,omitempty" maxLength:"40" doc:"as typed: gross, or net where it is so known"`
	Count int    `json:"count" minimum:"1" maximum:"500"`
	How   string `json:"how,omitempty" enum:"gross,net,volume,kind,weighed" doc:"how the mass is known; missing is gross"`
	What  string `json:"what,omitempty" maxLength:"20" doc:"id in the household table: a package, a substance, a known thing"`
	In    string `json:"in,omitempty" maxLength:"20" doc:"id of the vessel of a substance"`
	// Volume is what is in it, where it is known by that, and else the room it takes.
	Volume string   `json:"volume,omitempty" maxLength:"40" doc:"as typed: 1.5 l, 750 ml"`
	Empty  string   `json:"empty,omitempty" maxLength:"40" doc:"mass of the vessel"`
	Refill bool     `json:"refill,omitempty" doc:"may be filled in steps of 50 ml"`
	Traits []string `json:"traits,omitempty" nullable:"false" enum:"soft,loose,glass,hot,hard-edged" maxItems:"5" doc:"each once"`
}

// Container is something that closes and holds objects.
type Container struct {
	ID   string   `json:"id"`
	Name string   `json:"name"`
	Mass Quantity `json:"mass"`
	Max  Quantity `json:"max" doc:"the most it may weigh packed"`
	// Details are what is known beyond its masses.
	Details  kit.ContainerDetails `json:"details"`
	VolumeMl measure.Volume       `json:"volumeMl" doc:"what goes in; 0 is unknown"`
}

// ContainerInput is what is typed of a container.
type ContainerInput struct {
	Name Name   `json:"name"`
	Mass string `json:"mass" maxLength:"40"`
	Max  string `json:"max" maxLength:"40"`
	// Volume is what goes in.
	Volume string   `json:"volume,omitempty" maxLength:"40"`
	Closed bool     `json:"closed,omitempty"`
	Straps bool     `json:"straps,omitempty"`
	Wear   []string `json:"wear,omitempty" nullable:"false" enum:"front,hand,hips,back" maxItems:"4" doc:"each once"`
}

// newID stands where a row is only looked at.
const newID = ""

// typing reads the typed fields of a row or a request, whose place in the request is at.
type typing struct {
	unit  measure.Unit
	at    string
	wrong *problem.Faults
}

// typed begins to read what was typed in a request's body.
func typed(unit string, wrong *problem.Faults) *typing {
	return &typing{unit: measure.Unit(unit), at: "body.", wrong: wrong}
}

func (t *typing) keep(field, text string, r measure.Reading, err error) *measure.Typed {
	if err != nil {
		t.wrong.Add(t.at+field, err.Error(), text)
		return &measure.Typed{}
	}
	return &r.Typed
}

// good tells whether nothing is wrong with some fields.
func (t *typing) good(fields ...string) bool {
	for _, f := range fields {
		if !t.wrong.Good(t.at + f) {
			return false
		}
	}
	return true
}

func (t *typing) fault(field, message string, value any) { t.wrong.Add(t.at+field, message, value) }

func blankText(text string) bool { return strings.TrimSpace(text) == "" }

func (t *typing) mass(field, text string) *measure.Typed {
	r, err := measure.ReadMass(text, t.unit, measure.MaxLoad)
	return t.keep(field, text, r, err)
}

func (t *typing) maybeMass(field, text string) *measure.Typed {
	if blankText(text) {
		return nil
	}
	return t.mass(field, text)
}

func (t *typing) length(field, text string, most measure.Length) *measure.Typed {
	bare := measure.Centimetre
	if t.unit == measure.Pound {
		bare = measure.Inch
	}
	r, err := measure.ReadLength(text, bare, most)
	return t.keep(field, text, r, err)
}

func (t *typing) volume(field, text string) *measure.Typed {
	r, err := measure.ReadVolume(text, measure.Litre, maxVolume)
	return t.keep(field, text, r, err)
}

const (
	// maxHeight bounds benches, boxes and tables.
	maxHeight measure.Length = 2000
	// maxStretch bounds bands.
	maxStretch measure.Length = 5000
	// maxVolume bounds what household things hold.
	maxVolume measure.Volume = 500_000
)

func wholeOf(t *measure.Typed) int64 {
	n, _ := t.Whole() // it was read before it was kept
	return n
}

// columns gives the three columns of a typed quantity.
func columns(t *measure.Typed) (decimal, unit *string, whole *int64) {
	n, u := wholeOf(t), string(t.Unit)
	return &t.Decimal, &u, &n
}

// implementRow turns what was typed of an implement into its row.
func (t *typing) implementRow(id string, in ImplementInput) store.Implement {
	row := store.Implement{PublicID: id, Name: string(in.Name), Kind: in.Kind, Count: in.Count, Checked: in.Checked}
	d := &row.Details
	if has, known := fieldsOf[in.Kind]; known {
		t.spare("a "+in.Kind, has, map[string]string{"mass": in.Mass, "height": in.Height, "rated": in.Rated, "legs": in.Legs, "tableMass": in.TableMass, "centreIn": in.CentreIn,
			"edgeOut": in.EdgeOut, "stretch1": in.Stretch1, "pull1": in.Pull1, "stretch2": in.Stretch2, "pull2": in.Pull2})
	}
	switch in.Kind {
	case kit.Kettlebell, kit.Dumbbell, kit.DumbbellPair:
		row.MassDecimal, row.MassUnit, row.MassG = columns(t.mass("mass", in.Mass))
		return row
	case kit.Bench, kit.Box, kit.Table:
		row.HeightDecimal, row.HeightUnit, row.HeightMm = columns(t.length("height", in.Height, maxHeight))
		d.Rated = t.maybeMass("rated", in.Rated)
	case kit.Band:
		d.Pulls = t.pulls(in)
	default: // what kind it is says what the rest means
		return row
	}
	if in.Kind == kit.Table {
		d.Legs = in.Legs
		if in.TableMass+in.CentreIn+in.EdgeOut != "" {
			if in.Legs == "" {
				t.fault("legs", "say how the table stands, then its measures count", in.Legs)
			}
			d.TableMass, d.CentreIn = t.mass("tableMass", in.TableMass), t.length("centreIn", in.CentreIn, maxHeight)
			if !blankText(in.EdgeOut) {
				d.EdgeOut = t.length("edgeOut", in.EdgeOut, maxHeight)
			}
		}
	}
	return row
}

// fieldsOf are the typed fields that a kind of implement has.
var fieldsOf = map[string][]string{
	kit.Kettlebell: {"mass"}, kit.Dumbbell: {"mass"}, kit.DumbbellPair: {"mass"}, kit.Bench: {"height", "rated"}, kit.Box: {"height", "rated"},
	kit.Table: {"height", "rated", "legs", "tableMass", "centreIn", "edgeOut"}, kit.Band: {"stretch1", "pull1", "stretch2", "pull2"},
}

// spare refuses what was typed of a thing that does not have it, since it would not be
// kept.
func (t *typing) spare(what string, has []string, fields map[string]string) {
	for field, text := range fields {
		if !slices.Contains(has, field) && !blankText(text) {
			t.fault(field, "this is nothing that "+what+" has here: leave it out", text)
		}
	}
}

// pulls reads the two pulls of a band, or none.
func (t *typing) pulls(in ImplementInput) []kit.TypedPull {
	if blankText(in.Stretch1 + in.Pull1 + in.Stretch2 + in.Pull2) {
		return nil
	}
	out := []kit.TypedPull{
		{Stretch: *t.length("stretch1", in.Stretch1, maxStretch), Pull: *t.mass("pull1", in.Pull1)},
		{Stretch: *t.length("stretch2", in.Stretch2, maxStretch), Pull: *t.mass("pull2", in.Pull2)},
	}
	if t.good("stretch1", "pull1", "stretch2", "pull2") && (wholeOf(&out[1].Stretch) <= wholeOf(&out[0].Stretch) || wholeOf(&out[1].Pull) <= wholeOf(&out[0].Pull)) {
		t.fault("stretch2", "the second is longer than the first and pulls more", in.Stretch2)
	}
	return out
}

// listed gives a list, or nil for an empty one, as it comes back from the database. A
// word that stands twice is a fault.
func (t *typing) listed(field string, words []string) []string {
	if len(words) == 0 {
		return nil
	}
	for i, w := range words {
		if slices.Contains(words[:i], w) {
			t.fault(field, "each once", words)
		}
	}
	return slices.Clone(words)
}

// objectRow turns what was typed of an object into its row; what the household table
// knows is worked out.
func (t *typing) objectRow(id string, in ObjectInput) store.Object {
	row := store.Object{PublicID: id, Name: string(in.Name), UseAs: in.Use, Count: in.Count}
	d := kit.ObjectDetails{How: in.How, What: in.What, In: in.In, Refill: in.Refill, Traits: t.listed("traits", in.Traits)}
	if d.How == kit.ByGross {
		d.How = "" // as it comes back from where nothing was said
	}
	has := []string{"mass", "volume"}
	switch d.How {
	case kit.ByVolume:
		has = []string{"volume", "in"}
	case kit.ByKind:
		has = nil
	}
	t.spare("an object whose mass is known so", has, map[string]string{"mass": in.Mass, "volume": in.Volume, "in": in.In})
	if !in.Refill {
		t.spare("what is not filled in steps", nil, map[string]string{"empty": in.Empty})
	}
	room := "volume"
	switch d.How {
	case kit.ByNet:
		d.Amount = t.mass("mass", in.Mass)
	case kit.ByVolume:
		d.Amount, room = t.volume("volume", in.Volume), ""
	case kit.ByKind:
	case "", kit.ByScale:
		m := t.mass("mass", in.Mass)
		row.MassDecimal, row.MassUnit, row.MassG = m.Decimal, string(m.Unit), wholeOf(m)
	default: // how its mass is known says what the rest means
		return row
	}
	if room != "" && !blankText(in.Volume) {
		d.Volume = t.volume(room, in.Volume)
	}
	d.Empty = t.maybeMass("empty", in.Empty)
	if !t.good("how", "mass", "volume", "empty", "what", "in") {
		return row
	}
	w, known, err := d.Weigh()
	if err != nil {
		field := "what"
		if d.How == kit.ByVolume && d.What != "" && strings.Contains(err.Error(), "what it is in") {
			field = "in"
		}
		t.fault(field, err.Error(), in.What)
		return row
	}
	if known {
		m := measure.Typed{Decimal: measure.Whole(int64(w.Mass)), Unit: measure.Gram}
		row.MassDecimal, row.MassUnit, row.MassG = m.Decimal, string(m.Unit), int64(w.Mass)
	}
	if row.MassG <= 0 || row.MassG > int64(measure.MaxLoad) {
		t.fault("mass", "it must weigh more than nothing and at most 300 kg", in.Mass)
	}
	if err := d.Check(measure.Mass(row.MassG)); err != nil {
		t.fault("empty", err.Error(), in.Empty)
	}
	row.Details = d
	return row
}

// containerRow turns what was typed of a container into its row.
func (t *typing) containerRow(id string, in ContainerInput) store.Container {
	m, most := t.mass("mass", in.Mass), t.mass("max", in.Max)
	d := kit.ContainerDetails{Closed: in.Closed, Straps: in.Straps, Wear: t.listed("wear", in.Wear)}
	if !blankText(in.Volume) {
		d.Volume = t.volume("volume", in.Volume)
	}
	row := store.Container{PublicID: id, Name: string(in.Name), MassDecimal: m.Decimal, MassUnit: string(m.Unit), MassG: wholeOf(m),
		MaxDecimal: most.Decimal, MaxUnit: string(most.Unit), MaxG: wholeOf(most), Details: d}
	if t.good("mass", "max") && row.MaxG <= row.MassG {
		t.fault("max", "packed it weighs more than empty: type the most it may weigh in all", in.Max)
	}
	return row
}

func placeOf(row store.Place, st store.Stock) Place {
	p := Place{ID: row.PublicID, Name: row.Name, Kind: row.Kind, MassUnit: row.MassUnit, Implements: []Implement{}, Objects: []Object{}, Containers: []Container{}, stock: st.Core()}
	for _, i := range st.Implements {
		known := i.Details.Known(kit.Implement{Kind: i.Kind})
		pulls := []BandPull{}
		for _, x := range known.Pulls {
			pulls = append(pulls, BandPull{x.Stretch, x.Force})
		}
		p.Implements = append(p.Implements, Implement{i.PublicID, i.Name, i.Kind, quantity(i.MassDecimal, i.MassUnit, i.MassG),
			quantity(i.HeightDecimal, i.HeightUnit, i.HeightMm), i.Count, i.Checked, i.Details, known.Rated, pulls, tipsOf(known)})
	}
	for _, o := range st.Objects {
		p.Objects = append(p.Objects, Object{o.PublicID, o.Name, o.UseAs, Quantity{o.MassDecimal, o.MassUnit, o.MassG}, o.Count, o.Details, weighed(o)})
	}
	for _, c := range st.Containers {
		p.Containers = append(p.Containers, Container{c.PublicID, c.Name, Quantity{c.MassDecimal, c.MassUnit, c.MassG}, Quantity{c.MaxDecimal, c.MaxUnit, c.MaxG}, c.Details, c.Details.Known(kit.Container{}).Volume})
	}
	return p
}

// tipsOf says how a measured table takes a row.
func tipsOf(i kit.Implement) *TableTips {
	t, ok := i.Tips()
	if !ok {
		return nil
	}
	return &TableTips{t.Allowed, measure.Round(t.Factor, 2), t.Why}
}

// weighed says how the mass of an object is known.
func weighed(o store.Object) Weighed {
	m := measure.Mass(o.MassG)
	known := o.Details.Known(kit.Object{Mass: m})
	out := Weighed{MassG: m, LowG: m, HighG: m, EmptyG: known.Empty, StepG: known.Step}
	if w, ok, err := o.Details.Weigh(); ok && err == nil {
		out.LowG, out.HighG, out.Why = w.Low, w.High, &w.Why
	}
	return out
}

func quantity(decimal, unit *string, whole *int64) *Quantity {
	if decimal == nil || unit == nil || whole == nil {
		return nil
	}
	return &Quantity{*decimal, *unit, *whole}
}
