package studiofile

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"time"

	jsonv2 "github.com/go-json-experiment/json"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/names"
)

// maxFaults is how many faults a check looks for: beyond, the file is somebody else's.
const maxFaults = 100

// Check looks for what the shape of the file does not forbid: doubled ids, classes at
// places that are not there, circuits and plans no program could have made, whatever a
// form would refuse, days out of all calendars. Names are read in their place.
func (f *File) Check() fault.List {
	c := checker{
		ids: map[string]string{}, places: map[string]bool{}, series: map[string]bool{}, people: map[string]bool{},
	}
	c.name("studio.name", &f.Studio.Name)
	c.zone("studio.timeZone", f.Studio.TimeZone)
	var err error
	if c.lib, err = moves.Standard().With(f.Moves); err != nil {
		c.fail("moves", "%v", err)
		c.lib = moves.Standard()
	}
	for _, x := range f.Style.Check(c.lib) {
		c.fail("style."+x.Path, "%s", x.Message)
	}
	for i := range f.Templates {
		at, t := fmt.Sprintf("templates[%d]", i), &f.Templates[i]
		c.id(at, t.ID)
		c.name(at+".name", &t.Name)
		c.instant(at+".made", t.Made)
		c.document(at, State{Document: t.Document}, nil)
	}
	for i := range f.Series {
		at := fmt.Sprintf("series[%d]", i)
		c.id(at, f.Series[i].ID)
		c.name(at+".name", &f.Series[i].Name)
		c.series[f.Series[i].ID] = true
	}
	for i := range f.People {
		c.person(fmt.Sprintf("people[%d]", i), &f.People[i])
	}
	for i, h := range f.Erased {
		if !hash.MatchString(h) {
			c.fail(fmt.Sprintf("erased[%d]", i), "64 digits from 0 to f")
		}
	}
	for i := range f.Places {
		c.place(fmt.Sprintf("places[%d]", i), &f.Places[i])
	}
	for i := range f.Classes {
		c.class(fmt.Sprintf("classes[%d]", i), &f.Classes[i])
	}
	return c.faults
}

var hash = regexp.MustCompile(`^[0-9a-f]{64}$`)

type checker struct {
	ids    map[string]string // id -> where it stands
	places map[string]bool
	series map[string]bool
	people map[string]bool
	lib    *moves.Library
	faults fault.List
}

func (c *checker) fail(path, format string, args ...any) {
	if len(c.faults) < maxFaults {
		c.faults.Add(path, format, args...)
	}
}

func (c *checker) id(path, id string) {
	if at, seen := c.ids[id]; seen {
		c.fail(path+".id", "is the id of %s already", at)
	}
	c.ids[id] = path
}

func (c *checker) name(path string, name *string) {
	read, err := names.Read(*name)
	if err != nil {
		c.fail(path, "%v", err)
	}
	*name = read
}

func (c *checker) zone(path, name string) {
	if _, err := names.Zone(name); err != nil {
		c.fail(path, "%v", err)
	}
}

// instant refuses what no program of ours could have stamped.
func (c *checker) instant(path string, at time.Time) {
	if y := at.UTC().Year(); y < 1970 || y > 2199 {
		c.fail(path, "an instant from 1970 to 2199")
	}
}

func (c *checker) retired(path string, at *time.Time) {
	if at != nil {
		c.instant(path+".retired", *at)
	}
}

func (c *checker) class(path string, k *Class) {
	c.id(path, k.ID)
	c.name(path+".name", &k.Name)
	if !c.places[k.Place] {
		c.fail(path+".place", "there is no such place in the file")
	}
	if _, err := names.Day(k.Date); err != nil {
		c.fail(path+".date", "%v", err)
	}
	c.zone(path+".timeZone", k.TimeZone)
	subjects := map[string]bool{"ground": true, "middle": true, "reach": true}
	c.lanes(path+".lanes", k.Lanes)
	if k.Series != "" && !c.series[k.Series] {
		c.fail(path+".series", "there is no such series in the file")
	}
	here := map[string]bool{}
	for i := range k.People {
		p, at := &k.People[i], fmt.Sprintf("%s.people[%d]", path, i)
		c.id(at, p.ID)
		if p.Name != "" {
			c.name(at+".name", &p.Name)
		}
		switch {
		case p.Person != "" && !c.people[p.Person]:
			c.fail(at+".person", "there is no such person in the file")
		case p.Person != "" && here[p.Person]:
			c.fail(at+".person", "each person once in a class")
		case p.Person != "" && p.Name != "":
			c.fail(at+".name", "leave the name out: the person has it")
		}
		here[p.Person] = true
		subjects[p.ID] = true
	}
	versions := map[int]bool{}
	if k.Circuit != nil {
		versions = c.circuit(path+".circuit", *k.Circuit, subjects)
	}
	for i, r := range k.Runs {
		at := fmt.Sprintf("%s.runs[%d]", path, i)
		c.run(at, r)
		if !versions[r.Version] {
			c.fail(at+".version", "there is no such version of the circuit")
		}
	}
	lines := map[string]bool{}
	for i, l := range k.Log {
		at := fmt.Sprintf("%s.log[%d]", path, i)
		c.instant(at+".written", l.Written)
		for n, p := range l.Overtaken {
			past := fmt.Sprintf("%s.overtaken[%d]", at, n)
			c.instant(past+".written", p.Written)
			var told progress.Told
			strict(c, past+".told", p.Told, &told)
			c.written(past, progress.Written{
				Told:    told,
				Done:    p.Done,
				InForm:  p.InForm,
				Reserve: p.Reserve,
				Pain:    progress.Pain(p.Pain),
				Joint:   p.Joint,
				Others:  p.Others,
			})
		}
		key := l.Subject + "/" + l.Slot
		switch {
		case !subjects[l.Subject]:
			c.fail(at+".subject", "there is nobody of this id in the class")
		case lines[key]:
			c.fail(at, "each slot of a person or lane once")
		}
		lines[key] = true
		var told progress.Told
		strict(c, at+".told", l.Told, &told)
		strict(c, at+".dose", l.Dose, &progress.PlannedDose{})
		c.written(at, progress.Written{
			Told:    told,
			Done:    l.Done,
			InForm:  l.InForm,
			Reserve: l.Reserve,
			Pain:    progress.Pain(l.Pain),
			Joint:   l.Joint,
			Others:  l.Others,
		})
	}
}

func (c *checker) written(path string, w progress.Written) {
	for _, f := range w.Check() {
		c.fail(path+"."+f.Path, "%s", f.Message)
	}
}

// circuit checks a circuit with its history and gives the versions that there are.
func (c *checker) circuit(path string, k Circuit, subjects map[string]bool) map[int]bool {
	c.id(path, k.ID)
	head, seen, clients := false, map[int]bool{}, map[string]bool{}
	documents := map[int][]byte{}
	for i, v := range k.Versions {
		at := fmt.Sprintf("%s.versions[%d]", path, i)
		if seen[v.Version] {
			c.fail(at+".version", "each version once")
		}
		if clients[v.ClientID] {
			c.fail(at+".clientId", "each once in a circuit")
		}
		seen[v.Version], clients[v.ClientID] = true, true
		head = head || v.Version == k.Head && !v.Side
		c.instant(at+".made", v.Made)
		documents[v.Version] = c.document(at, v, subjects)
		if !circuit.Past(v.Document) {
			strict(c, at+".ops", v.Ops, &[]circuit.Op{})
		}
		strict(c, at+".notes", v.Notes, &[]why.Why{})
	}
	if !head {
		c.fail(path+".head", "is the number of none of the versions")
	}
	for i, v := range k.Versions {
		at := fmt.Sprintf("%s.versions[%d]", path, i)
		for field, n := range map[string]*int{"base": v.Base, "redoTo": v.RedoTo, "undoTo": v.UndoTo} {
			if n != nil && !seen[*n] {
				c.fail(at+"."+field, "there is no such version")
			}
		}
		c.leadsBack(at, v, documents)
	}
	return seen
}

// document reads a version's document and gives it as it is written today, nil when it
// cannot be read.
func (c *checker) document(at string, v State, subjects map[string]bool) []byte {
	if !circuit.Past(v.Document) && !strict(c, at+".document", v.Document, &circuit.Document{}) {
		return nil // a field twice
	}
	d, err := circuit.Decode(v.Document)
	if err == nil {
		err = d.Check(c.lib)
	}
	if err != nil {
		c.fail(at+".document", "%v", err)
		return nil
	}
	for _, p := range d.Participants() {
		if !subjects[string(p)] {
			c.fail(at+".document", "%s is nobody in the class", p)
			return nil
		}
	}
	b, err := circuit.Encode(d)
	if err != nil {
		c.fail(at+".document", "%v", err)
	}
	return b
}

// leadsBack makes sure that what a version says undoes it does.
func (c *checker) leadsBack(at string, v State, documents map[int][]byte) {
	if circuit.Past(v.Document) {
		return // edits of then are not known any more: the documents tell the history
	}
	var inverse []circuit.Op
	if !strict(c, at+".inverse", v.Inverse, &inverse) || v.UndoTo == nil || documents[v.Version] == nil ||
		documents[*v.UndoTo] == nil {
		return
	}
	d, err := circuit.Decode(documents[v.Version])
	if err == nil {
		if d, _, err = circuit.Apply(d, inverse, c.lib); err == nil {
			var back []byte
			if back, err = circuit.Encode(d); err == nil && !bytes.Equal(back, documents[*v.UndoTo]) {
				err = errors.New("it does not lead back to version " + fmt.Sprint(*v.UndoTo))
			}
		}
	}
	if err != nil {
		c.fail(at+".inverse", "%v", err)
	}
}

// strict reads a part of the file that its shape leaves open, strictly.
func strict(c *checker, at string, raw json.RawMessage, into any) bool {
	if len(raw) == 0 {
		return true
	}
	if err := jsonv2.Unmarshal(raw, into, jsonv2.RejectUnknownMembers(true)); err != nil {
		c.fail(at, "%v", err)
		return false
	}
	if ops, ok := into.(*[]circuit.Op); ok && slices.ContainsFunc(*ops, func(o circuit.Op) bool { return !o.Known() }) {
		c.fail(at, "an edit that nobody knows")
		return false
	}
	return true
}

func (c *checker) run(path string, r Run) {
	c.id(path, r.ID)
	c.instant(path+".made", r.Made)
	var bad fault.Fault
	if _, err := run.Decode(r.Plan); errors.As(err, &bad) {
		c.fail(fault.Join(path+".plan", bad.Path), "%s", bad.Message)
	}
	seen := map[string]bool{}
	for i, p := range r.Presses {
		at := fmt.Sprintf("%s.presses[%d]", path, i)
		c.instant(at+".at", p.At)
		if seen[p.ID] {
			c.fail(at+".id", "each press once")
		}
		seen[p.ID] = true
		if (p.Kind == string(cue.Swapped)) != (len(p.Detail) > 0) {
			c.fail(at+".detail", "what is done from then on goes with swapped, and only with that")
		}
		strict(c, at+".detail", p.Detail, &plan.Cell{})
	}
}
