// Package demo loads the demo hall: a studio of our own invention with kit,
// flats, classes and eight weeks of logs. Dates are relative to the program's
// now; at a later start they are moved along.
package demo

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"strings"
	"time"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/store"
)

//go:embed data/tramshed.json
var data []byte

type scenario struct {
	Source string
	Studio struct{ Name, TimeZone, MassUnit string }
	Places []struct {
		Key, Name, Kind, MassUnit string
		Implements                []struct {
			Name, Kind, Mass, Height string
			Count                    int
			Details                  kit.ImplementDetails
		}
		Objects []struct {
			Name, Use, Mass string
			Count           int
			Details         kit.ObjectDetails
		}
		Containers []struct {
			Name, Mass, Max string
			Details         kit.ContainerDetails
		}
	}
	Classes []class
	People  map[string][]struct{ Name, Lane string }
}

type class struct {
	Key, Name, Place, When string
	Minutes, Weeks         int
	Format                 circuit.Format
	People                 map[moves.Lane]int
	Circuit                bool
}

// prefix marks the demo's own ids.
const prefix = "demo"

// ID gives a demo row's public id: the same key, the same id.
func ID(key string) string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(key))
	s := prefix + fmt.Sprintf("%020d", h.Sum64())
	return (s + "00000000")[:26]
}

// Load fills an empty database with the demo and moves the dates of one that is
// filled. It gives the scope of the demo's studio.
func Load(ctx context.Context, st *store.Store, now time.Time) (store.Scope, error) {
	var sc scenario
	if err := json.Unmarshal(data, &sc); err != nil {
		return store.Scope{}, err
	}
	scope, err := st.EnsureStudio(ctx, store.Studio{PublicID: ID("studio"), Name: sc.Studio.Name, TimeZone: sc.Studio.TimeZone, MassUnit: sc.Studio.MassUnit})
	if err != nil {
		return scope, err
	}
	l := loader{ctx, st, scope, sc, now, map[string]kit.Stock{}}
	// All places come in at once: one that is there is whole, whenever an earlier start was
	// cut short, and is somebody's own from then on.
	if _, err := st.Place(ctx, scope, ID("place/attic")); errors.Is(err, store.ErrNotFound) {
		if err := l.places(); err != nil {
			return scope, err
		}
	} else if err != nil {
		return scope, err
	}
	return scope, l.classes()
}

type loader struct {
	ctx    context.Context
	st     *store.Store
	scope  store.Scope
	sc     scenario
	now    time.Time
	stocks map[string]kit.Stock
}

func (l loader) places() error {
	stamp, err := l.st.PlacesStamp(l.ctx, l.scope)
	if err != nil {
		return err
	}
	var all []store.Brought
	for _, p := range l.sc.Places {
		b := store.Brought{Place: store.Place{PublicID: ID("place/" + p.Key), Name: p.Name, Kind: p.Kind, MassUnit: p.MassUnit}}
		unit := measure.Unit(p.MassUnit)
		for _, i := range p.Implements {
			row := store.Implement{PublicID: ID(p.Key + "/" + i.Name + i.Mass), Name: i.Name, Kind: i.Kind, Count: i.Count, Details: i.Details}
			if i.Mass != "" {
				m, err := measure.ReadMass(i.Mass, unit, measure.MaxLoad)
				if err != nil {
					return err
				}
				u := string(m.Unit)
				row.MassDecimal, row.MassUnit, row.MassG = &m.Decimal, &u, &m.Whole
			}
			if i.Height != "" {
				h, err := measure.ReadLength(i.Height, measure.Centimetre, 2000)
				if err != nil {
					return err
				}
				u := string(h.Unit)
				row.HeightDecimal, row.HeightUnit, row.HeightMm = &h.Decimal, &u, &h.Whole
			}
			b.Implements = append(b.Implements, row)
		}
		for _, o := range p.Objects {
			m, err := measure.ReadMass(o.Mass, unit, measure.MaxLoad)
			if err != nil {
				return err
			}
			b.Objects = append(b.Objects, store.Object{PublicID: ID(p.Key + "/" + o.Name), Name: o.Name, UseAs: o.Use, Count: o.Count, MassDecimal: m.Decimal, MassUnit: string(m.Unit), MassG: m.Whole, Details: o.Details})
		}
		for _, c := range p.Containers {
			m, err := measure.ReadMass(c.Mass, unit, measure.MaxLoad)
			if err != nil {
				return err
			}
			most, err := measure.ReadMass(c.Max, unit, measure.MaxLoad)
			if err != nil {
				return err
			}
			b.Containers = append(b.Containers, store.Container{PublicID: ID(p.Key + "/" + c.Name), Name: c.Name, MassDecimal: m.Decimal, MassUnit: string(m.Unit), MassG: m.Whole,
				MaxDecimal: most.Decimal, MaxUnit: string(most.Unit), MaxG: most.Whole, Details: c.Details})
		}
		all = append(all, b)
	}
	return l.st.BringPlaces(l.ctx, l.scope, stamp, all)
}

// stock reads a place's kit as the core's.
func (l loader) stock(placeKey string) (kit.Stock, error) {
	if s, ok := l.stocks[placeKey]; ok {
		return s, nil
	}
	p, err := l.st.Place(l.ctx, l.scope, ID("place/"+placeKey))
	if err != nil {
		return kit.Stock{}, err
	}
	rows, err := l.st.Stock(l.ctx, l.scope, p.ID)
	if err != nil {
		return kit.Stock{}, err
	}
	out := rows.Core()
	l.stocks[placeKey] = out
	return out, nil
}

// start gives the instant of a class's next occurrence, in its zone.
func (c class) start(now time.Time) (time.Time, error) {
	day := func(t time.Time, clock string) (time.Time, error) {
		at, err := time.Parse("15:04", clock)
		return time.Date(t.Year(), t.Month(), t.Day(), at.Hour(), at.Minute(), 0, 0, t.Location()), err
	}
	words := strings.Fields(c.When)
	switch {
	case c.When == "now":
		return now.Add(20 * time.Minute).Truncate(5 * time.Minute), nil
	case words[0] == "thursday":
		t := now.AddDate(0, 0, 1)
		for t.Weekday() != time.Thursday {
			t = t.AddDate(0, 0, 1)
		}
		return day(t, words[1])
	}
	return day(now.AddDate(0, 0, 2), words[len(words)-1])
}

func (l loader) classes() error {
	zone, err := time.LoadLocation(l.sc.Studio.TimeZone)
	if err != nil {
		return err
	}
	for _, c := range l.sc.Classes {
		at, err := c.start(l.now.In(zone))
		if err != nil {
			return err
		}
		for week := c.Weeks; week >= 0; week-- {
			if err := l.class(c, at.AddDate(0, 0, -7*week), week); err != nil {
				return fmt.Errorf("%s, %d weeks ago: %w", c.Key, week, err)
			}
		}
	}
	return nil
}

// class makes or moves one occurrence; a new one in the past is given its
// circuit and its log.
func (l loader) class(c class, at time.Time, week int) error {
	id := ID(fmt.Sprintf("class/%s/%d", c.Key, week))
	row := store.Class{Occurrence: store.Occurrence{PublicID: id, Name: c.Name, LocalDate: time.Date(at.Year(), at.Month(), at.Day(), 0, 0, 0, 0, time.UTC),
		LocalTime: at.Format("15:04"), TimeZone: l.sc.Studio.TimeZone, Minutes: c.Minutes}}
	if old, err := l.st.Class(l.ctx, l.scope, id); err == nil {
		whole, err := l.whole(c, old, week)
		if err != nil {
			return err
		}
		if whole {
			row.Minutes, row.Lanes = old.Minutes, old.Lanes
			return l.st.PutClass(l.ctx, l.scope, ID("place/"+c.Place), row)
		}
	}
	brief := circuit.Brief{Format: c.Format, Context: circuit.Context{Library: moves.Standard(), Minutes: c.Minutes}}
	for _, lane := range moves.Lanes {
		row.Lanes = append(row.Lanes, store.OccurrenceLane{Lane: string(lane), People: c.People[lane], BodyDecimal: "70", BodyUnit: "kg", BodyG: 70_000,
			StatureDecimal: "170", StatureUnit: "cm", StatureMm: 1700})
		brief.Lanes = append(brief.Lanes, circuit.LaneSpec{Lane: lane, People: c.People[lane], Body: circuit.DefaultBody, Stature: circuit.DefaultStature, BodyUnknown: true})
	}
	if err := l.st.PutClass(l.ctx, l.scope, ID("place/"+c.Place), row); err != nil {
		return err
	}
	for _, p := range l.sc.People[c.Key] {
		who := store.Participant{PublicID: ID(fmt.Sprintf("who/%s/%d/%s", c.Key, week, p.Name)), Name: p.Name, Lane: p.Lane}
		if err := l.st.PutParticipant(l.ctx, l.scope, id, who); err != nil {
			return err
		}
	}
	if week == 0 && !c.Circuit {
		return nil
	}
	var err error
	if brief.Stock, err = l.stock(c.Place); err != nil {
		return err
	}
	if brief.Past, err = l.st.Past(l.ctx, l.scope, row.Occurrence); err != nil {
		return err
	}
	proposal := circuit.Propose(brief)
	if !proposal.Feasible {
		return errors.New("the demo's circuit does not fit")
	}
	doc, err := circuit.Encode(proposal.Document)
	if err != nil {
		return err
	}
	notes, err := json.Marshal(proposal.Notes)
	if err != nil {
		return err
	}
	first := store.CircuitVersion{ClientID: ID("v/" + id), Kind: "propose", Ops: []byte("[]"), Inverse: []byte("[]"), Document: doc, Notes: notes}
	if err := l.st.CreateCircuit(l.ctx, l.scope, id, store.Circuit{PublicID: ID("circuit/" + id)}, first, nil); err != nil {
		return err
	}
	if week == 0 {
		return nil
	}
	return l.log(c, id, week, circuit.Look(proposal.Document, brief.Context))
}

// whole tells whether a class has all that an earlier start gave it, which ends with its
// log, or, for the next class, its circuit.
func (l loader) whole(c class, old store.Class, week int) (bool, error) {
	if week > 0 {
		lines, err := l.st.LogLines(l.ctx, l.scope, old.ID)
		return len(lines) > 0, err
	}
	_, _, err := l.st.CircuitOf(l.ctx, l.scope, old.ID)
	if errors.Is(err, store.ErrNotFound) {
		return !c.Circuit, nil
	}
	return true, err
}

// log writes what a lane did: as planned at first, then more, with a bad week
// and an aching knee, so that there is something to judge.
func (l loader) log(c class, id string, week int, plan circuit.Plan) error {
	var lines []store.LogLine
	for i, s := range plan.Slots {
		for _, cell := range s.Cells {
			done, form, reserve, pain := cell.PerSide, cell.PerSide, 2, "none"
			switch {
			case week == 5 && i%3 == 0:
				form, reserve = max(done-3, 0), 1
			case week == 3 && cell.Lane == moves.Reach && s.Pattern == moves.Lunge:
				pain = "joint"
			case week <= 2 && i%2 == 0:
				done, form, reserve = done+2, done+2, 3
			case week == 4:
				pain = "burn"
			}
			line := store.LogLine{Subject: string(cell.Lane), Slot: s.ID, Lane: string(cell.Lane), Variant: cell.Entry.Variant, Planned: cell.PerSide,
				Done: done, InForm: form, Reserve: &reserve, Pain: pain, LoadG: int64(cell.LoadG), Hold: string(cell.Entry.Hold), TooLight: cell.FarTooLight, ResistanceG: int64(cell.ComparableG), LibraryVersion: moves.Version}
			lines = append(lines, line)
		}
	}
	return l.st.PutLogLines(l.ctx, l.scope, id, lines)
}
