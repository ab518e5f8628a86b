package studio

import (
	"context"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Place is where kit is, with what it has.
type Place struct {
	ID         string      `json:"id"`
	Name       string      `json:"name"`
	Kind       string      `json:"kind" enum:"hall,flat"`
	MassUnit   string      `json:"massUnit" enum:"kg,lb"`
	Retired    bool        `json:"retired,omitempty" doc:"put away"`
	Implements []Implement `json:"implements"`
	Objects    []Object    `json:"objects"`
	Containers []Container `json:"containers"`
	// stock is the same as the core computes with, library the one it is taught by.
	stock   kit.Stock
	library *moves.Library
	// things are the same once more, by id in the order they were made.
	things []named
}

// named is a thing of a place with its id.
type named struct {
	id string
	kit.Thing
}

// PlaceInput is what is typed of a place.
type PlaceInput struct {
	Name     names.Name `json:"name"`
	Kind     string     `json:"kind" enum:"hall,flat"`
	MassUnit string     `json:"massUnit" enum:"kg,lb" doc:"what a bare number means here"`
}

// Implement is a row of equal implements.
type Implement struct {
	ID      string            `json:"id"`
	Name    string            `json:"name"`
	Kind    string            `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,barbell,band,bench,box,table,plate,post,mat,wall,smooth-floor,foot-hold,wedge,door"`
	Mass    *measure.Quantity `json:"mass,omitempty" doc:"of one piece"`
	Height  *measure.Quantity `json:"height,omitempty"`
	Count   int               `json:"count" doc:"pieces, or pairs for dumbbell-pair; 0 of a wall, post or mat: there is none"`
	Checked bool              `json:"checked" doc:"somebody has looked at it: a table with four fixed legs, heavy, that does not tip; a hold for the feet that gives way to nobody"`
	// Details are what is known beyond mass and height.
	Details kit.ImplementDetails `json:"details"`
	RatedG  measure.Mass         `json:"ratedG" doc:"what it may carry; 0 is unknown"`
	Pulls   []BandPull           `json:"pulls" doc:"of a band, measured"`
	Highest measure.Length       `json:"highestMm" doc:"of a bench whose height is set; 0 of any other"`
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
	Name    names.Name `json:"name"`
	Kind    string     `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,barbell,band,bench,box,table,plate,post,mat,wall,smooth-floor,foot-hold,wedge,door"`
	Mass    string     `json:"mass,omitempty" maxLength:"40" doc:"as typed: 16, 16 kg, 35 lb"`
	Height  string     `json:"height,omitempty" maxLength:"40" doc:"as typed: 45 cm, 18 in"`
	Count   int        `json:"count" minimum:"0" maximum:"500" doc:"0 of a wall, post or mat says that there is none"`
	Checked bool       `json:"checked,omitempty"`
	Highest string     `json:"highest,omitempty" maxLength:"40" doc:"of a bench whose height is set; height is its lowest"`
	Points  []string   `json:"points,omitempty" nullable:"false" enum:"top,middle,foot" maxItems:"3" doc:"of a door, where a band may be anchored; each once"`
	Rated   string     `json:"rated,omitempty" maxLength:"40" doc:"what a bench or box may carry"`
	Legs    string     `json:"legs,omitempty" enum:"four-leg,glass,folding,extending,one-column,trestle,loose-top" doc:"how a table stands"`
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

// Row gives it as a row of the place.
func (in ImplementInput) Row() kit.Row {
	return kit.Row{
		Item:      kit.ImplementRow,
		Name:      string(in.Name),
		Kind:      in.Kind,
		Mass:      in.Mass,
		Height:    in.Height,
		Count:     in.Count,
		Checked:   in.Checked,
		Highest:   in.Highest,
		Points:    in.Points,
		Rated:     in.Rated,
		Legs:      in.Legs,
		TableMass: in.TableMass,
		CentreIn:  in.CentreIn,
		EdgeOut:   in.EdgeOut,
		Stretch1:  in.Stretch1,
		Pull1:     in.Pull1,
		Stretch2:  in.Stretch2,
		Pull2:     in.Pull2,
	}
}

// Object is a row of equal household objects, with their packaging.
type Object struct {
	ID    string           `json:"id"`
	Name  string           `json:"name"`
	Use   string           `json:"use" enum:"grip,hug,pack"`
	Mass  measure.Quantity `json:"mass"`
	Count int              `json:"count"`
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
	Name  names.Name `json:"name"`
	Use   string     `json:"use" enum:"grip,hug,pack" doc:"a hand closes round it; held against the body; only in a container"`
	Mass  string     `json:"mass,omitempty" maxLength:"40" doc:"as typed: gross, or net where it is so known"`
	Count int        `json:"count" minimum:"1" maximum:"500"`
	How   string     `json:"how,omitempty" enum:"gross,net,volume,kind,weighed" doc:"how the mass is known; missing is gross"`
	What  string     `json:"what,omitempty" maxLength:"20" doc:"id in the household table: a package, a substance, a known thing"`
	In    string     `json:"in,omitempty" maxLength:"20" doc:"id of the vessel of a substance"`
	// Volume is what is in it, where it is known by that, and else the room it takes.
	Volume string   `json:"volume,omitempty" maxLength:"40" doc:"as typed: 1.5 l, 750 ml"`
	Empty  string   `json:"empty,omitempty" maxLength:"40" doc:"mass of the vessel"`
	Refill bool     `json:"refill,omitempty" doc:"may be filled in steps of 50 ml"`
	Traits []string `json:"traits,omitempty" nullable:"false" enum:"soft,loose,glass,hot,hard-edged,sharp" maxItems:"6" doc:"each once"`
}

// Row gives it as a row of the place.
func (in ObjectInput) Row() kit.Row {
	return kit.Row{
		Item:   kit.ObjectRow,
		Name:   string(in.Name),
		Use:    in.Use,
		Mass:   in.Mass,
		Count:  in.Count,
		How:    in.How,
		What:   in.What,
		In:     in.In,
		Volume: in.Volume,
		Empty:  in.Empty,
		Refill: in.Refill,
		Traits: in.Traits,
	}
}

// Container is something that closes and holds objects.
type Container struct {
	ID   string           `json:"id"`
	Name string           `json:"name"`
	Mass measure.Quantity `json:"mass"`
	Max  measure.Quantity `json:"max" doc:"the most it may weigh packed"`
	// Details are what is known beyond its masses.
	Details  kit.ContainerDetails `json:"details"`
	VolumeMl measure.Volume       `json:"volumeMl" doc:"what goes in; 0 is unknown"`
}

// ContainerInput is what is typed of a container.
type ContainerInput struct {
	Name names.Name `json:"name"`
	Mass string     `json:"mass" maxLength:"40"`
	Max  string     `json:"max" maxLength:"40"`
	// Volume is what goes in.
	Volume string   `json:"volume,omitempty" maxLength:"40"`
	Closed bool     `json:"closed,omitempty"`
	Straps bool     `json:"straps,omitempty"`
	Wear   []string `json:"wear,omitempty" nullable:"false" enum:"front,hand,hips,back" maxItems:"4" doc:"each once"`
}

// Row gives it as a row of the place.
func (in ContainerInput) Row() kit.Row {
	return kit.Row{
		Item:   kit.ContainerRow,
		Name:   string(in.Name),
		Mass:   in.Mass,
		Max:    in.Max,
		Count:  1,
		Volume: in.Volume,
		Closed: in.Closed,
		Straps: in.Straps,
		Wear:   in.Wear,
	}
}

// Places reads every place that is not retired with what it has.
func (s Studio) Places(ctx context.Context) ([]Place, error) {
	rows, err := s.store.Places(ctx, s.scope)
	if err != nil {
		return nil, err
	}
	stocks, err := s.stocksOf(ctx, rows)
	out := []Place{}
	for _, r := range rows {
		out = append(out, placeOf(r, stocks[r.ID]))
	}
	return out, err
}

func (s Studio) stocksOf(ctx context.Context, rows []store.Place) (map[int64]store.Stock, error) {
	ids := make([]int64, 0, len(rows))
	for _, r := range rows {
		ids = append(ids, r.ID)
	}
	return s.store.Stocks(ctx, s.scope, ids)
}

// Place reads one place with what it has.
func (s Studio) Place(ctx context.Context, id string) (Place, error) {
	row, err := s.store.Place(ctx, s.scope, id)
	if err != nil {
		return Place{}, err
	}
	p, err := s.place(ctx, row)
	p.stock = p.stock.Until(ctx)
	return p, err
}

func (s Studio) place(ctx context.Context, row store.Place) (Place, error) {
	st, err := s.store.Stock(ctx, s.scope, row.ID)
	if err != nil {
		return Place{}, err
	}
	p := placeOf(row, st)
	p.library, err = s.libraryOf(ctx, st.LibraryStamp)
	return p, err
}

// PutPlace makes or changes a place.
func (s Studio) PutPlace(ctx context.Context, id string, in PlaceInput) (Place, error) {
	err := s.store.PutPlace(ctx, s.scope,
		store.Place{PublicID: id, Name: string(in.Name), Kind: in.Kind, MassUnit: in.MassUnit})
	if err != nil {
		return Place{}, err
	}
	return s.Place(ctx, id)
}

// PutRow makes or changes a row of a place as it was typed there, and answers the place.
func (s Studio) PutRow(ctx context.Context, place, id string, row kit.Row, wrong *fault.List) (Place, error) {
	p, err := s.store.Place(ctx, s.scope, place)
	if err != nil {
		return Place{}, err
	}
	t := checkRow(row, measure.Unit(p.MassUnit), wrong)
	if err := wrong.Err(); err != nil {
		return Place{}, err
	}
	if err := s.store.PutThing(ctx, s.scope, place, rowOf(id, t)); err != nil {
		return Place{}, err
	}
	return s.Place(ctx, place)
}

// checkRow reads a row; a fault that something else is the cause of is not named.
func checkRow(row kit.Row, unit measure.Unit, wrong *fault.List) kit.Thing {
	t, faults := row.Check(unit)
	for _, f := range faults {
		if wrong.Good(meaning[f.Path]...) {
			wrong.Note(f.Path, f.Message, f.Value)
		}
	}
	return t
}

// meaning says which fields say what another means: while they are wrong, it cannot be
// judged.
var meaning = map[string][]string{"empty": {"mass", "volume", "how"}, "max": {"mass"}}

// Weigh says what an object weighs as it is typed, and how that is known.
func (s Studio) Weigh(ctx context.Context, place string, row kit.Row, wrong *fault.List) (Weighed, error) {
	p, err := s.store.Place(ctx, s.scope, place)
	if err != nil {
		return Weighed{}, err
	}
	t := checkRow(row, measure.Unit(p.MassUnit), wrong)
	return weighed(t), wrong.Err()
}

// RetirePlace puts a place away where no class is to come.
func (s Studio) RetirePlace(ctx context.Context, id string) (Place, error) {
	st, err := s.store.Studio(ctx, s.scope)
	if err != nil {
		return Place{}, err
	}
	if err := s.store.RetirePlace(ctx, s.scope, id, calendar.Day(s.localNow(st))); err != nil {
		return Place{}, err
	}
	return s.Place(ctx, id)
}

// PutAway lists what was put away: places, and things by their place.
func (s Studio) PutAway(ctx context.Context) ([]Place, error) {
	rows, stocks, err := s.store.PutAway(ctx, s.scope)
	out := []Place{}
	for _, r := range rows {
		p := placeOf(r, stocks[r.ID])
		if p.Retired || len(p.Implements)+len(p.Objects)+len(p.Containers) > 0 {
			out = append(out, p)
		}
	}
	return out, err
}

// BringBackInput names what is taken into use again: a thing of the place, or, for none,
// the place itself.
type BringBackInput struct {
	Item string `json:"item,omitempty" enum:"implement,object,container"`
	ID   string `json:"id,omitempty" pattern:"^[0-9a-z]{26}$"`
}

// BringBack takes something into use again that was put away.
func (s Studio) BringBack(ctx context.Context, place string, in BringBackInput, wrong *fault.List) (Place, error) {
	if (in.Item == "") != (in.ID == "") {
		wrong.Note("id", "a thing is named by its item and its id, the place itself by neither", in.ID)
		return Place{}, wrong.Err()
	}
	if err := s.store.BringBack(ctx, s.scope, place, in.Item, in.ID); err != nil {
		return Place{}, err
	}
	return s.Place(ctx, place)
}

// Retire puts a thing of a place away; old circuits still know it.
func (s Studio) Retire(ctx context.Context, place, item, id string) (Place, error) {
	if err := s.store.Retire(ctx, s.scope, place, item, id); err != nil {
		return Place{}, err
	}
	return s.Place(ctx, place)
}

func placeOf(row store.Place, st store.Stock) Place {
	p := Place{
		ID:         row.PublicID,
		Name:       row.Name,
		Kind:       row.Kind,
		MassUnit:   row.MassUnit,
		Retired:    row.RetiredAt != nil,
		Implements: []Implement{},
		Objects:    []Object{},
		Containers: []Container{},
		stock:      st.Core(),
	}
	for _, r := range st.Implements {
		t := implementThing(r)
		p.things = append(p.things, named{r.PublicID, t})
		known := t.Implement.Known(kit.Implement{Kind: t.Kind})
		pulls := []BandPull{}
		for _, x := range known.Pulls {
			pulls = append(pulls, BandPull{x.Stretch, x.Force})
		}
		p.Implements = append(p.Implements, Implement{
			r.PublicID,
			t.Name,
			t.Kind,
			quantity(t.Mass),
			quantity(t.Height),
			t.Count,
			t.Checked,
			t.Implement,
			known.Rated,
			pulls,
			known.Highest,
			tipsOf(known),
		})
	}
	for _, r := range st.Objects {
		t := objectThing(r)
		p.things = append(p.things, named{r.PublicID, t})
		p.Objects = append(p.Objects,
			Object{r.PublicID, t.Name, t.Use, *quantity(t.Mass), t.Count, t.Object, weighed(t)})
	}
	for _, r := range st.Containers {
		t := containerThing(r)
		p.things = append(p.things, named{r.PublicID, t})
		p.Containers = append(p.Containers, Container{
			r.PublicID,
			t.Name,
			*quantity(t.Mass),
			*quantity(t.Max),
			t.Container,
			t.Container.Known(kit.Container{}).Volume,
		})
	}
	return p
}

// items names everything a place has.
func (p Place) items() []kit.Item {
	out := []kit.Item{}
	for _, t := range p.things {
		out = append(out, t.ItemOf(t.id))
	}
	return out
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
func weighed(t kit.Thing) Weighed {
	m := t.MassG()
	known := t.Object.Known(kit.Object{Mass: m})
	out := Weighed{MassG: m, LowG: m, HighG: m, EmptyG: known.Empty, StepG: known.Step}
	if w, ok, err := t.Object.Weigh(); ok && err == nil {
		out.LowG, out.HighG, out.Why = w.Low, w.High, &w.Why
	}
	return out
}

func quantity(t *measure.Typed) *measure.Quantity {
	if t == nil {
		return nil
	}
	q := measure.QuantityOf(*t)
	return &q
}
