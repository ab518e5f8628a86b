// Package demo loads the demo hall: a studio of our own invention with kit,
// flats, classes and eight weeks of logs. Dates are relative to the program's
// now; at a later start they are moved along. Everything goes in through the use cases
// that forms and files use.
package demo

import (
	"cmp"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"
	"time"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/formats/placefile"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

//go:embed data/tramshed.json
var data []byte

//go:embed data/places.csv
var places []byte

type scenario struct {
	Source  string
	Studio  studio.Settings
	Places  map[string]string // key, name
	Classes []class
	People  map[string][]studio.ParticipantInput
	Known   []known
	// Bodies say how people really are, by name: what their logs follow from.
	Bodies map[string]bodied
}

// bodied is how strong somebody is: Reps more than their first load asks for, growing WeekPct a
// week; Under is how many repetitions in reserve they do not tell of. Silent people tell of none.
type bodied struct {
	Reps, Under int
	WeekPct     float64
	Silent      bool
	// Absent are classes, in weeks ago.
	Absent []int
	Hurts  []struct {
		Week    int
		Pattern moves.Pattern
		Joint   string
	}
}

// known is what is known of somebody of a class.
type known struct {
	studio.PersonInput
	Records []struct {
		DaysAgo int
		studio.RecordInput
	}
	Health []struct {
		DaysAgo int
		studio.HealthInput
	}
}

type class struct {
	Key, Place, When string
	Name             names.Name
	Minutes, Weeks   int
	Format           circuit.Format
	People           map[moves.Lane]int
	Circuit          bool
}

// prefix marks the demo's own ids.
const prefix = "demo"

// ID gives a demo row's public id: the same key, the same id. It is older than names.ID
// and stays, or a demo that was loaded before would get everything twice.
func ID(key string) string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(key))
	s := prefix + fmt.Sprintf("%020d", h.Sum64())
	return (s + "00000000")[:26]
}

// Load fills an empty database with the demo and moves the dates of one that is
// filled. It gives on whose behalf: the owner of the demo's studio.
func Load(ctx context.Context, all *studio.Studios, now time.Time) (studio.Principal, error) {
	var sc scenario
	if err := json.Unmarshal(data, &sc); err != nil {
		return studio.Principal{}, err
	}
	owner, err := all.First(ctx, ID("studio"), sc.Studio)
	if err != nil {
		return owner, err
	}
	l := loader{ctx, all.For(owner), sc, now, moves.Standard(), map[string]float64{}}
	// All places come in at once: one that is there is whole, whenever an earlier start was
	// cut short, and is somebody's own from then on.
	if _, err := l.st.Place(ctx, ID("place/attic")); errors.Is(err, store.ErrNotFound) {
		if err := l.places(); err != nil {
			return owner, err
		}
	} else if err != nil {
		return owner, err
	}
	if err := l.known(); err != nil {
		return owner, err
	}
	return owner, l.classes()
}

type loader struct {
	ctx context.Context
	st  studio.Studio
	sc  scenario
	now time.Time
	lib *moves.Library
	// index is what people can do, by name and ladder.
	index map[string]float64
}

// places brings the demo's file of places in, each place by its own id.
func (l loader) places() error {
	file := placefile.Parse(places)
	if len(file.Faults) > 0 {
		return fmt.Errorf("the demo's places: %+v", file.Faults[0])
	}
	ids := map[string]string{}
	for key, name := range l.sc.Places {
		ids[name] = ID("place/" + key)
	}
	var all []studio.NewPlace
	for _, r := range file.Rows {
		if n := len(all); n == 0 || string(all[n-1].Name) != r.Place {
			all = append(all, studio.NewPlace{
				ID:         ids[r.Place],
				PlaceInput: studio.PlaceInput{Name: names.Name(r.Place), Kind: r.PlaceKind, MassUnit: r.Unit},
			})
		}
		row, wrong := r.Typed()
		if err := wrong.Err(); err != nil {
			return err
		}
		at := &all[len(all)-1]
		at.Rows = append(at.Rows, studio.NewRow{ID: r.ID, Row: row})
	}
	return l.st.PutPlaces(l.ctx, all, &fault.List{})
}

// known writes down what is known of people, and moves its days along.
func (l loader) known() error {
	zone, err := names.Zone(l.sc.Studio.TimeZone)
	if err != nil {
		return err
	}
	ago := func(days int) string { return l.now.In(zone).AddDate(0, 0, -days).Format(time.DateOnly) }
	for _, k := range l.sc.Known {
		those, err := l.st.People(l.ctx, string(k.Name))
		if err != nil {
			return err
		}
		if len(those) > 1 { // somebody has changed who is who: they are not the demo's any more
			continue
		}
		id := ID("person/" + string(k.Name))
		if len(those) == 1 {
			id = those[0].ID
		} else if l.loaded() { // they were taken out
			continue
		} else if _, err := l.st.PutPerson(l.ctx, id, k.PersonInput); err != nil {
			return err
		}
		page, err := l.st.PersonPage(l.ctx, id)
		if err != nil {
			return err
		}
		// What somebody has changed or taken back since stays so: days only move along.
		there := map[string]bool{}
		for _, r := range page.Records {
			there[r.ID] = true
		}
		first := len(there) == 0
		if first {
			if _, err := l.st.PutPerson(l.ctx, id, k.PersonInput); err != nil {
				return err
			}
		}
		for i, r := range k.Records {
			var wrong fault.List
			r.Date = ago(r.DaysAgo)
			record := ID(fmt.Sprintf("record/%s/%d", k.Name, i))
			if !first && !there[record] {
				continue
			}
			if _, err := l.st.PutRecord(l.ctx, id, record, r.RecordInput, &wrong); err != nil {
				return fmt.Errorf("record %d of %s: %w", i, k.Name, err)
			}
		}
		for i, h := range k.Health {
			if !first {
				break
			}
			var wrong fault.List
			h.Date = ago(h.DaysAgo)
			if _, err := l.st.PutHealth(l.ctx, id, ID(fmt.Sprintf("health/%s/%d", k.Name, i)), h.HealthInput, &wrong); err != nil {
				return fmt.Errorf("health %d of %s: %w", i, k.Name, err)
			}
		}
	}
	return nil
}

// start gives the instant of a class's next occurrence, in its zone.
func (c class) start(now time.Time) (time.Time, error) {
	words := strings.Fields(c.When)
	day := now.AddDate(0, 0, 2)
	switch {
	case c.When == "now":
		return now.Add(20 * time.Minute).Truncate(5 * time.Minute), nil
	case words[0] == "thursday":
		for day = now.AddDate(0, 0, 1); day.Weekday() != time.Thursday; {
			day = day.AddDate(0, 0, 1)
		}
	}
	return calendar.Instant(calendar.Day(day), words[len(words)-1], now.Location())
}

func (l loader) classes() error {
	zone, err := names.Zone(l.sc.Studio.TimeZone)
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
	in := studio.OccurrenceInput{
		Name:    c.Name,
		Date:    at.Format(time.DateOnly),
		Time:    at.Format(calendar.Clock),
		Minutes: c.Minutes,
		PlaceID: ID("place/" + c.Place),
	}
	if old, err := l.st.Occurrence(l.ctx, id); err == nil && (old.CircuitID != "" || week == 0 && !c.Circuit) &&
		(old.Logged > 0 || week == 0) {
		// It has all that an earlier start gave it: it only moves.
		return l.st.MoveOccurrence(l.ctx, id, in)
	}
	for _, lane := range moves.Lanes {
		in.Lanes = append(in.Lanes, studio.LaneInput{Lane: string(lane), People: c.People[lane]})
	}
	var wrong fault.List
	if _, err := l.st.PutOccurrence(l.ctx, id, in, &wrong); err != nil {
		return err
	}
	var came studio.AttendanceInput
	for _, p := range l.sc.People[c.Key] {
		those, err := l.st.People(l.ctx, string(p.Name))
		if err != nil {
			return err
		}
		x := studio.AttendeeInput{ID: whoID(c.Key, week, p.Name), Name: p.Name, Lane: p.Lane}
		if len(those) == 1 {
			x.PersonID, x.Name = those[0].ID, ""
		}
		came.Here = append(came.Here, x)
	}
	if len(came.Here) > 0 {
		if _, err := l.st.PutAttendance(l.ctx, id, came, &wrong); err != nil {
			return err
		}
	}
	if week == 0 && !c.Circuit {
		return nil
	}
	made, err := l.st.CreateCircuit(
		l.ctx,
		ID("circuit/"+id),
		studio.CreateCircuit{OccurrenceID: id, ClientID: ID("v/" + id),
			Brief: &studio.ProposalBrief{Minutes: c.Minutes, Format: c.Format}},
		&wrong,
	)
	switch {
	case err != nil:
		return err
	case !made.Feasible:
		return errors.New("the demo's circuit does not fit")
	case week == 0:
		return nil
	}
	return l.happened(c.Key, id, week, made.Circuit)
}

// loaded tells whether an earlier start has filled the demo.
func (l loader) loaded() bool {
	_, err := l.st.Occurrence(l.ctx, ID("class/noon/1"))
	return err == nil
}

// whoID is the id of somebody of a class, so many weeks ago.
func whoID(class string, week int, name names.Name) string {
	return ID(fmt.Sprintf("who/%s/%d/%s", class, week, name))
}

// happened has a class taken place: who came, and what each did by how strong they are.
func (l loader) happened(class, id string, week int, c *studio.Circuit) error {
	var day circuit.Day
	for _, p := range l.sc.People[class] {
		if slices.Contains(l.sc.Bodies[string(p.Name)].Absent, week) {
			day.Absent = append(day.Absent, people.Party(whoID(class, week, p.Name)))
		}
	}
	var wrong fault.List
	if !day.Plain() {
		in := studio.DayInput{Revision: studio.Revision{ClientID: ID("day/" + id), Base: c.Version}, Day: day}
		if _, err := l.st.Day(l.ctx, c.ID, in, &wrong); err != nil {
			return err
		}
	}
	log, err := l.st.Log(l.ctx, id)
	if err != nil {
		return err
	}
	var lines []studio.LineInput
	for _, sh := range log.Sheets {
		who := cmp.Or(sh.Name, string(sh.Lane))
		for _, x := range sh.Lines {
			lines = append(
				lines,
				studio.LineInput{Subject: string(sh.Subject), Slot: x.Slot, LogInput: l.did(who, x, sh.Lane, week)},
			)
		}
	}
	return l.st.PutLines(l.ctx, id, lines, &wrong)
}

// able is the resistance index of somebody who has so many repetitions more in them than a
// lane's starting load asks for.
func able(v *moves.Variant, asked progress.Asked, lane moves.Lane, more int) float64 {
	r := float64(asked.ComparableG)
	if v.Start == nil {
		r *= 1.25 // a rung without a load is there to be learned, not to tire
	}
	h, _ := moves.HoldOf(asked.Hold)
	start := strength.Starting(v, max(1, h.Count), lane, plan.DefaultBody, plan.DefaultStature).Total
	if lighter := start - float64(asked.LoadG); lighter > 0 {
		r += lighter * v.Resistance.Coupling * v.Resistance.Limb / v.Resistance.Stance
	}
	index, _ := strength.IndexOf(10+strength.UsualReserve+more, r)
	return index
}

// did is what somebody did of a line: what was asked, with as much left as their strength leaves,
// or as many as go. Who tells of nothing left does more instead. What has no number goes as
// planned.
func (l loader) did(who string, x progress.SheetLine, lane moves.Lane, week int) studio.LogInput {
	is := l.sc.Bodies[who]
	asked := x.Asked()
	in := studio.LogInput{Done: x.Planned, InForm: x.Planned, Pain: progress.NoPain}
	reserve := strength.UsualReserve
	if v, known := l.lib.Get(x.Variant); known && asked.ComparableG > 0 && asked.Counted == "" {
		grown := math.Pow(1+is.WeekPct/100, float64(8-week))
		key := who + "/" + cmp.Or(v.Ladder, v.ID)
		if l.index[key] == 0 {
			l.index[key] = able(v, asked, lane, is.Reps) / grown
		}
		can := strength.AbleAt(l.index[key]*grown, float64(asked.ComparableG))
		in.Done = min(max(1, can), x.Planned)
		reserve = max(0, can-in.Done)
		if is.Silent && reserve > strength.UsualReserve+1 {
			in.Done += min(reserve-strength.UsualReserve, 3)
		}
		in.InForm = in.Done
	}
	if !is.Silent {
		told := max(0, min(reserve, 6)-is.Under)
		in.Reserve = &told
	}
	for _, h := range is.Hurts {
		if h.Week == week && h.Pattern == x.Pattern {
			in.Pain, in.Joint = progress.Joint, h.Joint
		}
	}
	return in
}
