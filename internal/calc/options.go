package calc

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
)

type laneIn struct {
	Lane      moves.Lane     `json:"lane" enum:"ground,middle,reach"`
	People    int            `json:"people" minimum:"1" maximum:"500"`
	BodyMassG measure.Mass   `json:"bodyMassG" minimum:"20000" maximum:"300000" doc:"supports are judged for it too"`
	StatureMm measure.Length `json:"statureMm" minimum:"1000" maximum:"2300"`
	Known     bool           `json:"known,omitempty" doc:"nothing is new to them; else what is not in last is"`
}

type implementIn struct {
	ID    string       `json:"id" minLength:"1" maxLength:"60"`
	Kind  string       `json:"kind" enum:"kettlebell,dumbbell,dumbbell-pair,barbell"`
	MassG measure.Mass `json:"massG" minimum:"1" maximum:"300000" doc:"of one piece"`
	Count int          `json:"count" minimum:"0" maximum:"500" doc:"pieces, or pairs"`
}

type supportIn struct {
	ID       string         `json:"id" minLength:"1" maxLength:"60"`
	Kind     string         `json:"kind" enum:"bench,box,table,band,plate,post,mat,wall,smooth-floor,foot-hold,wedge,door"`
	HeightMm measure.Length `json:"heightMm,omitempty" minimum:"0" maximum:"3000" doc:"0 is not measured"`
	RatedG   measure.Mass   `json:"ratedG,omitempty" minimum:"0" maximum:"1000000" doc:"0 is not known"`
	Count    int            `json:"count" minimum:"0" maximum:"500"`
	Checked  bool           `json:"checked,omitempty" doc:"of a table: four fixed legs, heavy, it does not tip; of a hold for the feet: it gives way to nobody"`
	Highest  measure.Length `json:"highestMm,omitempty" minimum:"0" maximum:"3000" doc:"of a bench whose height is set; heightMm is its lowest"`
	Points   []string       `json:"points,omitempty" nullable:"false" enum:"top,middle,foot" maxItems:"3" doc:"of a door, where a band may be anchored"`
}

type pinIn struct {
	Slot int        `json:"slot" minimum:"1" maximum:"24"`
	Lane moves.Lane `json:"lane" enum:"ground,middle,reach"`
	Move string     `json:"move" maxLength:"60"`
}

type circuitRequest struct {
	Minutes    int           `json:"minutes" minimum:"5" maximum:"240"`
	By         string        `json:"by" enum:"clock,reps"`
	WorkS      float64       `json:"workS,omitempty" minimum:"0" maximum:"600" doc:"of an interval; by the clock at least 5"`
	RestS      float64       `json:"restS" minimum:"0" maximum:"600"`
	RoundRestS float64       `json:"roundRestS" minimum:"0" maximum:"600"`
	Rounds     int           `json:"rounds,omitempty" minimum:"1" maximum:"20" doc:"solved when left out"`
	Slots      [][]string    `json:"slots" minItems:"1" maxItems:"24" doc:"the patterns that may stand in each slot"`
	Order      string        `json:"order,omitempty" enum:"given,free" default:"given"`
	Moves      []string      `json:"moves,omitempty" nullable:"false" maxItems:"400" doc:"the whole library when left out"`
	Lanes      []laneIn      `json:"lanes" minItems:"1" maxItems:"3"`
	Implements []implementIn `json:"implements" maxItems:"100"`
	Supports   []supportIn   `json:"supports" maxItems:"40"`
	Bans       []string      `json:"bans,omitempty" nullable:"false" maxItems:"60" doc:"patterns, moves and limits"`
	Pins       []pinIn       `json:"pins,omitempty" nullable:"false" maxItems:"72"`
	Last       [][]string    `json:"last,omitempty" nullable:"false" maxItems:"52" doc:"the moves of the last classes, the newest class first"`
	Best       int           `json:"best,omitempty" minimum:"1" maximum:"20" default:"1"`
	DeadlineMs int           `json:"deadlineMs,omitempty" minimum:"1" maximum:"10000" default:"10000"`
}

// EntryOut is one entry of an answer.
type EntryOut struct {
	Lane     moves.Lane    `json:"lane" enum:"ground,middle,reach"`
	Move     string        `json:"move"`
	Pattern  moves.Pattern `json:"pattern"`
	Hold     moves.HoldID  `json:"hold"`
	Use      []string      `json:"use" doc:"what is held: empty without a load, an id twice for two of it"`
	Supports []string      `json:"supports" doc:"one for each need of the move"`
	WantedG  *measure.Mass `json:"wantedG" doc:"null where no load is wanted"`
	UsedG    measure.Mass  `json:"usedG" doc:"all implements together"`
	Cost     float64       `json:"cost" doc:"the entry's share of misfit"`
}

type slotOut struct {
	Slot    int        `json:"slot"`
	Entries []EntryOut `json:"entries"`
}

type optionsAnswer struct {
	Slots []slotOut `json:"slots"`
}

// slotPatterns are the patterns that a slot may name.
var slotPatterns = []moves.Pattern{
	moves.Squat,
	moves.Lunge,
	moves.Lateral,
	moves.Hinge,
	moves.Bridge,
	moves.PushLevel,
	moves.PushOverhead,
	moves.Pull,
	moves.TrunkBrace,
	moves.TrunkTurn,
	moves.Carry,
}

// check says what a schema cannot see.
func (r circuitRequest) check(c *check) {
	lib := moves.Standard()
	slotsRead, lanesRead := c.good("slots"), c.good("lanes")
	known := func(path, id string) *moves.Variant {
		v, ok := lib.Get(id)
		if !ok {
			c.add(path, "there is no such movement in the library", id)
		}
		return v
	}
	if r.By == "clock" && r.WorkS < 5 && c.good("by") {
		c.add("workS", "by the clock an interval has at least 5 seconds", r.WorkS)
	}
	for i, s := range r.Slots {
		if len(s) == 0 {
			c.add(fmt.Sprintf("slots[%d]", i), "name at least one pattern", s)
		}
		for k, p := range s {
			if !slices.Contains(slotPatterns, moves.Pattern(p)) {
				c.add(fmt.Sprintf("slots[%d][%d]", i, k), fmt.Sprintf("expected one of %v", slotPatterns), p)
			}
		}
	}
	for i, id := range r.Moves {
		known(fmt.Sprintf("moves[%d]", i), id)
	}
	for i, ids := range r.Last {
		for k, id := range ids {
			known(fmt.Sprintf("last[%d][%d]", i, k), id)
		}
	}
	lanes := map[moves.Lane]bool{}
	for i, l := range r.Lanes {
		if lanes[l.Lane] {
			c.add(fmt.Sprintf("lanes[%d].lane", i), "the lane stands twice", l.Lane)
		}
		lanes[l.Lane] = true
	}
	ids := map[string]bool{}
	once := func(path, id string) {
		if ids[id] {
			c.add(path, "the id stands twice: give each row one of its own", id)
		}
		ids[id] = true
	}
	for i, x := range r.Implements {
		once(fmt.Sprintf("implements[%d].id", i), x.ID)
	}
	for i, x := range r.Supports {
		once(fmt.Sprintf("supports[%d].id", i), x.ID)
	}
	for i, b := range r.Bans {
		if !choice.CheckBan(lib, b) {
			c.add(fmt.Sprintf("bans[%d]", i), "no pattern, move or limit has this name", b)
		}
	}
	for i, p := range r.Pins {
		path := fmt.Sprintf("pins[%d].", i)
		at := slotsRead && c.good(path+"slot")
		if p.Slot > len(r.Slots) && at {
			c.add(path+"slot", fmt.Sprintf("the request has %d slots", len(r.Slots)), p.Slot)
		}
		if !lanes[p.Lane] && lanesRead {
			c.add(path+"lane", "the request has no such lane", p.Lane)
		}
		v := known(path+"move", p.Move)
		if v != nil && at && p.Slot <= len(r.Slots) && !slices.Contains(r.Slots[p.Slot-1], string(v.Pattern)) {
			c.add(path+"move", "the slot asks for another pattern", p.Move)
		}
	}
}

// stock is what the request brings to hold and to stand on.
func (r circuitRequest) stock() kit.Stock {
	var s kit.Stock
	for _, x := range r.Implements {
		s.Implements = append(s.Implements, kit.Implement{ID: x.ID, Kind: x.Kind, Mass: x.MassG, Count: x.Count})
	}
	for _, x := range r.Supports {
		if x.Count > 0 || slices.Contains(kit.Granted, x.Kind) {
			s.Implements = append(s.Implements, kit.Implement{
				ID:      x.ID,
				Kind:    x.Kind,
				Height:  x.HeightMm,
				Rated:   x.RatedG,
				Count:   x.Count,
				Checked: x.Checked,
				Highest: x.Highest,
				Points:  x.Points,
			})
		}
	}
	return s.Memoized()
}

// today is the day that a request's class is on; its last classes are a week apart.
const today = 1000

// judge makes the judge of a lane.
func (r circuitRequest) judge(l laneIn, stock kit.Stock) *choice.Judge {
	c := choice.Class{
		Library: moves.Standard(),
		Stock:   stock,
		Bans:    r.Bans,
		Chosen:  slices.Clone(r.Moves),
		Past:    progress.Past{Day: today},
	}
	for _, ids := range r.Last {
		var used []progress.Used
		for _, id := range ids {
			used = append(used, progress.Used{Move: id})
		}
		c.Past.Last = append(c.Past.Last, used)
	}
	if r.By == "clock" {
		c.Work = measure.Span(measure.Round(r.WorkS*1000, 0))
	}
	for _, p := range r.Pins {
		c.Chosen = append(c.Chosen, p.Move)
	}
	if l.Known {
		c.Past.Known = []string{progress.All}
	}
	for i := len(r.Last) - 1; i >= 0; i-- {
		for _, id := range r.Last[i] {
			c.Past.Lines = append(c.Past.Lines,
				progress.Line{Day: today - 7*(i+1), Lane: l.Lane, Variant: id, Bare: true})
		}
	}
	return choice.For(c, choice.Party{Lane: l.Lane, Body: l.BodyMassG, Stature: l.StatureMm})
}

// entries lists what a lane may be given in a slot, in the library's order.
func (r circuitRequest) entries(j *choice.Judge, slot int, lane moves.Lane) []EntryOut {
	out := []EntryOut{}
	pinned := ""
	for _, p := range r.Pins {
		if p.Slot == slot && p.Lane == lane {
			pinned = p.Move
		}
	}
	for _, v := range moves.Standard().All() {
		if !slices.Contains(r.Slots[slot-1], string(v.Pattern)) ||
			r.Moves != nil && !slices.Contains(r.Moves, v.ID) && v.ID != pinned ||
			pinned != "" && v.ID != pinned {
			continue
		}
		for _, e := range j.Entries(v) {
			x := EntryOut{
				Lane:     lane,
				Move:     v.ID,
				Pattern:  v.Pattern,
				Hold:     e.Hold,
				Use:      []string{},
				Supports: append([]string{}, e.Supports...),
				UsedG:    e.Total,
				Cost:     choice.Total(j.Cost(e)),
			}
			for range e.Load.Count {
				x.Use = append(x.Use, e.Load.Item)
			}
			if w := measure.Grams(j.Reckon(e, j.Reps(v)).Wanted.Total); w > 0 {
				x.WantedG = &w
			}
			out = append(out, x)
		}
	}
	return out
}

var options = define[optionsAnswer](
	"options",
	"What each lane may be given in each slot, with what it costs",
	`{"minutes":45,"by":"clock","workS":40,"restS":20,"roundRestS":60,"rounds":3,"slots":[["squat"],["pull"],["bridge"],["push-level","push-overhead"]],"order":"given","moves":["goblet-squat","squat","one-arm-row"],"lanes":[{"lane":"middle","people":6,"bodyMassG":70000,"statureMm":1700,"known":true}],"implements":[{"id":"kb16","kind":"kettlebell","massG":16000,"count":3}],"supports":[{"id":"bench","kind":"bench","heightMm":430,"ratedG":200000,"count":2}],"bans":[],"pins":[{"slot":1,"lane":"middle","move":"goblet-squat"}],"last":[["goblet-squat"]],"best":3,"deadlineMs":10000}`,
	one(shapeOf(func(r circuitRequest, c *check) any {
		r.check(c)
		if c.Failed() {
			return nil
		}
		stock := r.stock()
		a := optionsAnswer{Slots: []slotOut{}}
		judges := make([]*choice.Judge, len(r.Lanes))
		for i, l := range r.Lanes {
			judges[i] = r.judge(l, stock)
		}
		for n := range r.Slots {
			s := slotOut{Slot: n + 1, Entries: []EntryOut{}}
			for i, l := range r.Lanes {
				s.Entries = append(s.Entries, r.entries(judges[i], n+1, l.Lane)...)
			}
			a.Slots = append(a.Slots, s)
		}
		return a
	})),
)
