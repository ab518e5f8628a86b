package studiofile

import (
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
)

// QuantityOf writes a quantity down, nil for none.
func QuantityOf(t *measure.Typed) *Quantity {
	if t == nil {
		return nil
	}
	return &Quantity{t.Decimal, string(t.Unit)}
}

// Typed is the quantity as it was typed, nil for none.
func (q *Quantity) Typed() *measure.Typed {
	if q == nil {
		return nil
	}
	return &measure.Typed{Decimal: q.Decimal, Unit: measure.Unit(q.Unit)}
}

// Thing gives an implement as the core knows it.
func (x Implement) Thing() kit.Thing {
	return kit.Thing{
		Item:      kit.ImplementRow,
		Name:      x.Name,
		Kind:      x.Kind,
		Count:     x.Count,
		Checked:   x.Checked,
		Mass:      x.Mass.Typed(),
		Height:    x.Height.Typed(),
		Implement: given(x.Details),
	}
}

// Thing gives an object as the core knows it.
func (x Object) Thing() kit.Thing {
	t := kit.Thing{
		Item:   kit.ObjectRow,
		Name:   x.Name,
		Use:    x.Use,
		Count:  x.Count,
		Mass:   x.Mass.Typed(),
		Object: given(x.Details),
	}
	if t.Object.How == kit.ByGross {
		t.Object.How = "" // gross where nothing is said
	}
	return t
}

// Thing gives a container as the core knows it.
func (x Container) Thing() kit.Thing {
	return kit.Thing{
		Item:      kit.ContainerRow,
		Name:      x.Name,
		Count:     1,
		Mass:      x.Mass.Typed(),
		Max:       x.Max.Typed(),
		Container: given(x.Details),
	}
}

// given gives what a file may leave out.
func given[T any](p *T) T {
	if p == nil {
		return *new(T)
	}
	return *p
}

// Add adds a thing to what a place has.
func (p *Place) Add(id string, t kit.Thing) {
	switch t.Item {
	case kit.ImplementRow:
		p.Implements = append(p.Implements, Implement{
			ID:      id,
			Name:    t.Name,
			Kind:    t.Kind,
			Mass:    QuantityOf(t.Mass),
			Height:  QuantityOf(t.Height),
			Count:   t.Count,
			Checked: t.Checked,
			Details: &t.Implement,
		})
	case kit.ObjectRow:
		p.Objects = append(p.Objects, Object{
			ID:      id,
			Name:    t.Name,
			Use:     t.Use,
			Mass:    given(QuantityOf(t.Mass)),
			Count:   t.Count,
			Details: &t.Object,
		})
	case kit.ContainerRow:
		p.Containers = append(p.Containers, Container{
			ID:      id,
			Name:    t.Name,
			Mass:    given(QuantityOf(t.Mass)),
			Max:     given(QuantityOf(t.Max)),
			Details: &t.Container,
		})
	}
}
