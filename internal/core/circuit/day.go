package circuit

import (
	"fmt"
	"slices"
	"strings"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// Day is how the day came otherwise than the class was planned for: who of those expected is
// not there, and what of the kit is missing or broken.
type Day struct {
	// Absent are participants, Fewer how many of a lane's people without a name did not come.
	Absent []people.Party `json:"absent,omitempty"`
	Fewer  []Fewer        `json:"fewer,omitempty"`
	// Missing are pieces of the kit, by the ids of things.
	Missing []Missing `json:"missing,omitempty"`
}

// Missing is so many pieces of a thing that are not there, or broken.
type Missing struct {
	Item  string `json:"item"`
	Count int    `json:"count"`
}

// Fewer is how many people of a lane, none of them by name, did not come.
type Fewer struct {
	Lane   moves.Lane `json:"lane"`
	People int        `json:"people"`
}

// MaxMissing bounds the things that a day lacks.
const MaxMissing = 100

// Plain tells whether the day is as planned.
func (d *Day) Plain() bool {
	return d == nil || len(d.Absent) == 0 && len(d.Fewer) == 0 && len(d.Missing) == 0
}

// Here tells whether a participant came.
func (d *Day) Here(p people.Party) bool { return d == nil || !slices.Contains(d.Absent, p) }

// Away lists the participants who did not come.
func (d *Day) Away() []people.Party {
	if d == nil {
		return nil
	}
	return d.Absent
}

// Lacks is how many pieces of a thing are not there.
func (d *Day) Lacks(item string) int {
	n := 0
	if d != nil {
		for _, m := range d.Missing {
			if m.Item == item {
				n += m.Count
			}
		}
	}
	return n
}

func (d *Day) clone() *Day {
	if d == nil {
		return nil
	}
	return &Day{slices.Clone(d.Absent), slices.Clone(d.Fewer), slices.Clone(d.Missing)}
}

// Check says what of a day cannot be.
func (d *Day) Check() fault.List {
	out := d.faults("")
	for i := range out {
		out[i].Path = strings.TrimPrefix(out[i].Path, ".")
	}
	return out
}

func (d *Day) faults(path string) fault.List {
	var out fault.List
	if d == nil {
		return out
	}
	out.Within(path+".absent", int64(len(d.Absent)), 0, people.MaxInClass)
	for i, p := range d.Absent {
		_, lane := p.Lane()
		switch {
		case lane || !p.Known():
			out.Add(fmt.Sprintf("%s.absent[%d]", path, i), "a participant by id; of a lane say how many fewer came")
		case slices.Index(d.Absent, p) != i:
			out.Add(fmt.Sprintf("%s.absent[%d]", path, i), "they are named already")
		}
	}
	for i, f := range d.Fewer {
		at := fmt.Sprintf("%s.fewer[%d]", path, i)
		if !slices.Contains(moves.Lanes, f.Lane) {
			out.Add(at+".lane", "ground, middle or reach")
		}
		if slices.IndexFunc(d.Fewer, func(x Fewer) bool { return x.Lane == f.Lane }) != i {
			out.Add(at+".lane", "it is named already")
		}
		out.Within(at+".people", int64(f.People), 1, people.MaxInClass)
	}
	out.Within(path+".missing", int64(len(d.Missing)), 0, MaxMissing)
	for i, m := range d.Missing {
		at := fmt.Sprintf("%s.missing[%d]", path, i)
		if !idShape.MatchString(m.Item) {
			out.Add(at+".item", "name a thing by its id")
		}
		if slices.IndexFunc(d.Missing, func(x Missing) bool { return x.Item == m.Item }) != i {
			out.Add(at+".item", "it is named already")
		}
		out.Within(at+".count", int64(m.Count), 1, 1000)
	}
	return out
}
