package studio

import (
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/store"
)

// Things of a place and the rows they are kept in.

func typedOf(decimal, unit string) *measure.Typed {
	return &measure.Typed{Decimal: decimal, Unit: measure.Unit(unit)}
}

func maybeTyped(decimal, unit *string) *measure.Typed {
	if decimal == nil || unit == nil {
		return nil
	}
	return typedOf(*decimal, *unit)
}

func implementThing(r store.Implement) kit.Thing {
	return kit.Thing{
		Item:      kit.ImplementRow,
		Name:      r.Name,
		Kind:      r.Kind,
		Count:     r.Count,
		Checked:   r.Checked,
		Mass:      maybeTyped(r.MassDecimal, r.MassUnit),
		Height:    maybeTyped(r.HeightDecimal, r.HeightUnit),
		Implement: r.Details,
	}
}

func objectThing(r store.Object) kit.Thing {
	return kit.Thing{
		Item:   kit.ObjectRow,
		Name:   r.Name,
		Use:    r.UseAs,
		Count:  r.Count,
		Mass:   typedOf(r.MassDecimal, r.MassUnit),
		Object: r.Details,
	}
}

func containerThing(r store.Container) kit.Thing {
	return kit.Thing{
		Item:      kit.ContainerRow,
		Name:      r.Name,
		Count:     1,
		Mass:      typedOf(r.MassDecimal, r.MassUnit),
		Max:       typedOf(r.MaxDecimal, r.MaxUnit),
		Container: r.Details,
	}
}

// rowOf gives the row that keeps a thing: a store.Implement, store.Object or
// store.Container.
func rowOf(id string, t kit.Thing) store.Thing {
	switch t.Item {
	case kit.ImplementRow:
		r := store.Implement{
			PublicID: id,
			Name:     t.Name,
			Kind:     t.Kind,
			Count:    t.Count,
			Checked:  t.Checked,
			Details:  t.Implement,
		}
		r.MassDecimal, r.MassUnit, r.MassG = columns(t.Mass)
		r.HeightDecimal, r.HeightUnit, r.HeightMm = columns(t.Height)
		return r
	case kit.ObjectRow:
		q := filled(t.Mass)
		return store.Object{
			PublicID:    id,
			Name:        t.Name,
			UseAs:       t.Use,
			Count:       t.Count,
			MassDecimal: q.Decimal,
			MassUnit:    string(q.Unit),
			MassG:       q.Whole,
			Details:     t.Object,
		}
	}
	q, most := filled(t.Mass), filled(t.Max)
	return store.Container{PublicID: id, Name: t.Name, MassDecimal: q.Decimal, MassUnit: string(q.Unit), MassG: q.Whole,
		MaxDecimal: most.Decimal, MaxUnit: string(most.Unit), MaxG: most.Whole, Details: t.Container}
}

// columns gives the three columns of a quantity that a thing may lack.
func columns(t *measure.Typed) (decimal, unit *string, whole *int64) {
	if t == nil {
		return nil, nil, nil
	}
	q := measure.QuantityOf(*t)
	u := string(q.Unit)
	return &q.Decimal, &u, &q.Whole
}

// filled gives a quantity that is there in every thing that was checked.
func filled(t *measure.Typed) measure.Quantity {
	if t == nil {
		return measure.Quantity{}
	}
	return measure.QuantityOf(*t)
}
