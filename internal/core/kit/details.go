package kit

import (
	"errors"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
)

// ImplementDetails is what is known of an implement beyond its mass and height, as
// typed.
type ImplementDetails struct {
	Rated *measure.Typed `json:"rated,omitempty"` // what a bench or box may carry
	// A table: how it stands, its mass, its centre inside the line of the legs and
	// the edge that is pulled outside it.
	Legs      string         `json:"legs,omitempty"`
	TableMass *measure.Typed `json:"tableMass,omitempty"`
	CentreIn  *measure.Typed `json:"centreIn,omitempty"`
	EdgeOut   *measure.Typed `json:"edgeOut,omitempty"` // missing: the edge is not outside the legs
	Pulls     []TypedPull    `json:"pulls,omitempty"`   // of a band, measured twice
	Highest   *measure.Typed `json:"highest,omitempty"` // of a bench whose height is set
	Points    []string       `json:"points,omitempty"`  // of a door, each once
}

// TypedPull is a pull of a band at a stretch, as typed.
type TypedPull struct {
	Stretch measure.Typed `json:"stretch"`
	Pull    measure.Typed `json:"pull"`
}

// Known fills an implement in with its details.
func (d ImplementDetails) Known(i Implement) Implement {
	i.Rated = measure.Mass(whole(d.Rated))
	if d.Legs != "" {
		i.Table = body.Table{
			Kind: d.Legs,
			Mass: measure.Mass(whole(d.TableMass)),
			In:   measure.Length(whole(d.CentreIn)),
			Out:  measure.Length(whole(d.EdgeOut)),
		}
	}
	i.Highest, i.Points = measure.Length(whole(d.Highest)), d.Points
	for _, p := range d.Pulls {
		i.Pulls = append(i.Pulls, Pull{measure.Length(whole(&p.Stretch)), measure.Mass(whole(&p.Pull))})
	}
	return i
}

// ObjectDetails is how the mass of an object is known, and what else.
type ObjectDetails struct {
	How string `json:"how,omitempty"`
	// What and In name the row of the household table: a package; a substance and
	// its vessel; a known thing.
	What string `json:"what,omitempty"`
	In   string `json:"in,omitempty"`
	// Amount is the net mass or the volume on the label.
	Amount *measure.Typed `json:"amount,omitempty"`
	Volume *measure.Typed `json:"volume,omitempty"` // the room it takes in a container
	Empty  *measure.Typed `json:"empty,omitempty"`  // of a vessel
	Refill bool           `json:"refill,omitempty"` // may be filled in steps of 50 ml
	Traits []string       `json:"traits,omitempty"` // each once
}

// Weigh gives what the household table says of the object; ok is false where the
// mass was typed.
func (d ObjectDetails) Weigh() (w Weight, ok bool, err error) {
	h := StandardHousehold()
	amount := whole(d.Amount)
	switch d.How {
	case ByNet:
		w, err = h.FromNet(measure.Mass(amount), d.What)
	case ByVolume:
		w, err = h.FromVolume(measure.Volume(amount), d.What, d.In)
	case ByKind:
		w, err = h.OfKind(d.What)
	default:
		return w, false, nil
	}
	return w, true, err
}

// fillStep is how finely a vessel is filled, in millilitres.
const fillStep = 50

// Known fills an object in with its details.
func (d ObjectDetails) Known(o Object) Object {
	o.Volume, o.Traits = measure.Volume(whole(d.Volume)), d.Traits
	if o.Volume == 0 && d.How == ByVolume {
		o.Volume = measure.Volume(whole(d.Amount))
	}
	if d.Refill {
		if w, ok, err := d.Weigh(); ok && err == nil {
			o.Empty = w.Empty
		}
		if d.Empty != nil {
			o.Empty = measure.Mass(whole(d.Empty))
		}
		density := 1.0
		if s, ok := find(StandardHousehold().Substances, func(s Density) bool { return s.ID == d.What }); ok {
			density = s.GPerMl
		}
		o.Step = measure.Grams(fillStep * density)
	}
	return o
}

// Check says what keeps an object's details from being used.
func (d ObjectDetails) Check(mass measure.Mass) error {
	if o := d.Known(Object{Mass: mass}); d.Refill && (o.Empty <= 0 || o.Empty >= mass) {
		return errors.New("to fill it in steps its mass empty must be known, less than full")
	}
	return nil
}

// ContainerDetails is what is known of a container beyond its masses.
type ContainerDetails struct {
	Volume *measure.Typed `json:"volume,omitempty"` // what goes in; missing limits nothing
	Closed bool           `json:"closed,omitempty"` // a zip, buckle or drawstring keeps the contents in
	Straps bool           `json:"straps,omitempty"` // hold it high and tight on the back
	Wear   []string       `json:"wear,omitempty"`   // where it goes, each once; missing is anywhere
}

// Known fills a container in with its details.
func (d ContainerDetails) Known(c Container) Container {
	c.Volume, c.Closed, c.Straps, c.Wear = measure.Volume(whole(d.Volume)), d.Closed, d.Straps, slices.Clone(d.Wear)
	return c
}

// whole derives what was typed, which was read before it was kept.
func whole(t *measure.Typed) int64 {
	if t == nil {
		return 0
	}
	w, _ := t.Whole()
	return w
}
