package calc

import (
	"fmt"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/core/why"
)

type resistanceRequest struct {
	Move      string          `json:"move" doc:"id of a movement" maxLength:"60"`
	BodyMassG measure.Mass    `json:"bodyMassG" minimum:"20000" maximum:"300000"`
	ExternalG measure.Mass    `json:"externalG" minimum:"0" maximum:"300000" doc:"all implements together"`
	HeightMm  *measure.Length `json:"heightMm,omitempty" nullable:"false" minimum:"-610" maximum:"610" doc:"push-up: feet up positive, hands up negative"`
	AngleDeg  *float64        `json:"angleDeg,omitempty" nullable:"false" minimum:"0" maximum:"80" doc:"rows: the body above level"`
}

type resistanceAnswer struct {
	Family       body.Family  `json:"family" enum:"squat,hinge,bridge,push,pull"`
	BodyShare    float64      `json:"bodyShare"`
	Coupling     float64      `json:"coupling"`
	LimbShare    float64      `json:"limbShare"`
	StanceFactor float64      `json:"stanceFactor"`
	LiftedG      measure.Mass `json:"liftedG"`
	PerLimbG     measure.Mass `json:"perLimbG"`
	ComparableG  measure.Mass `json:"comparableG"`
	Why          why.Why      `json:"why"`
}

// moveAt looks a move up that has a resistance.
func moveAt(path, id string, c *check) (*moves.Variant, bool) {
	if !c.good(path) {
		return nil, false
	}
	v, ok := moves.Standard().Get(id)
	if !ok {
		c.add(path, "there is no such movement in the library", id)
		return nil, false
	}
	if v.Family == body.None {
		c.add(path, "this movement has no resistance that could be compared", id)
		return nil, false
	}
	return v, true
}

var resistance = define[resistanceAnswer]("resistance", "What a movement asks of the working limb",
	`{"move":"split-squat","bodyMassG":70000,"externalG":0}`,
	one(shapeOf(func(r resistanceRequest, c *check) any {
		v, ok := moveAt("move", r.Move, c)
		if !ok {
			return nil
		}
		set := v.Setting()
		if r.HeightMm != nil {
			if len(v.Resistance.Heights) == 0 {
				c.add("heightMm", "only a push-up on hands and feet has a height", *r.HeightMm)
			}
			set.Height = *r.HeightMm
		}
		if r.AngleDeg != nil {
			if !v.Resistance.Cosine {
				c.add("angleDeg", "only a row under a bar or table has an angle", *r.AngleDeg)
			}
			set.AngleDeg = *r.AngleDeg
		}
		if c.Failed() {
			return nil
		}
		got, err := v.Resistance.Resist(r.BodyMassG, r.ExternalG, set)
		if err != nil {
			c.add("heightMm", err.Error(), set.Height)
			return nil
		}
		s := v.Resistance
		return resistanceAnswer{v.Family, measure.Round(got.BodyShare, 3), s.Coupling, s.Limb, s.Stance,
			measure.Grams(got.Lifted), measure.Grams(got.PerLimb), measure.Grams(got.Comparable),
			s.Why(r.BodyMassG, r.ExternalG, got)}
	})))

type carryFrom struct {
	Move      string       `json:"move" maxLength:"60"`
	ExternalG measure.Mass `json:"externalG" minimum:"0" maximum:"300000"`
	Reps      int          `json:"reps" minimum:"1" maximum:"100"`
	Reserve   int          `json:"reserve" minimum:"0" maximum:"100"`
}

type carryTo struct {
	Move    string `json:"move" maxLength:"60"`
	Reps    int    `json:"reps" minimum:"1" maximum:"100"`
	Reserve int    `json:"reserve" minimum:"0" maximum:"100"`
}

type carryRequest struct {
	From      carryFrom    `json:"from"`
	To        carryTo      `json:"to"`
	BodyMassG measure.Mass `json:"bodyMassG" minimum:"20000" maximum:"300000"`
}

type carryAnswer struct {
	IndexG     measure.Mass `json:"indexG" doc:"resistance index: comparable resistance for one repetition, not a maximum"`
	ExternalG  measure.Mass `json:"externalG"`
	TooHardPct float64      `json:"tooHardPct" doc:"how much too hard the move is without a load, 0 when a load is needed"`
}

var carry = define[carryAnswer](
	"carry",
	"What a set of one movement says about the load of another of its family",
	`{"from":{"move":"goblet-squat","externalG":24000,"reps":10,"reserve":2},"to":{"move":"split-squat","reps":10,"reserve":2},"bodyMassG":70000}`,
	one(shapeOf(func(r carryRequest, c *check) any {
		from, ok1 := moveAt("from.move", r.From.Move, c)
		to, ok2 := moveAt("to.move", r.To.Move, c)
		if ok1 && ok2 && from.Family != to.Family {
			c.add(
				"to.move",
				fmt.Sprintf("resistances compare within a family only: %s is %s, this is %s",
					r.From.Move, from.Family, to.Family),
				r.To.Move,
			)
		}
		factor := func(at string, reps, reserve int) (f float64) {
			if c.good(at+".reps", at+".reserve") {
				var err error
				if f, err = strength.Factor(strength.Default, reps+reserve); err != nil {
					c.add(at+".reps", err.Error(), reps)
				}
			}
			return f
		}
		f1, f2 := factor("from", r.From.Reps, r.From.Reserve), factor("to", r.To.Reps, r.To.Reserve)
		if c.Failed() {
			return nil
		}
		had, _ := from.Resistance.Resist(r.BodyMassG, r.From.ExternalG, from.Setting())
		index := f1 * had.Comparable
		wanted := index / f2
		a := carryAnswer{IndexG: measure.Grams(index)}
		external, _ := to.Resistance.ExternalFor(wanted, r.BodyMassG, to.Setting())
		if external < 0 {
			bare, _ := to.Resistance.Resist(r.BodyMassG, 0, to.Setting())
			a.TooHardPct = measure.Round(100*(bare.Comparable/wanted-1), 1)
		} else {
			a.ExternalG = measure.Grams(external)
		}
		return a
	})),
)

type fitRequest struct {
	StatureMm *measure.Length `json:"statureMm,omitempty" nullable:"false" minimum:"1000" maximum:"2300"`
	KneeMm    *measure.Length `json:"kneeMm,omitempty" nullable:"false" minimum:"285" maximum:"656" doc:"measured knee height, shoes on; it wins over the table"`
	BenchMm   *measure.Length `json:"benchMm,omitempty" nullable:"false" minimum:"50" maximum:"1500"`
}

type heights struct {
	From measure.Length `json:"from"`
	To   measure.Length `json:"to"`
}

type heelRaise struct {
	HeightMm measure.Length `json:"heightMm"`
	AngleDeg float64        `json:"angleDeg"`
}

type fitAnswer struct {
	KneeMm       measure.Length     `json:"kneeMm"`
	BoxMm        heights            `json:"boxMm"`
	BenchRangeMm heights            `json:"benchRangeMm"`
	RaiseMm      *measure.Length    `json:"raiseMm" doc:"0 when the bench fits; null unless a raise is the mend"`
	BenchVerdict *body.BenchVerdict `json:"benchVerdict" enum:"fits,raise,too-high,too-low" nullable:"true" doc:"null without a bench"`
	HeelRaise    heelRaise          `json:"heelRaise"`
}

var fit = define[fitAnswer]("fit", "Box, bench and heel raise for a stature or a measured knee",
	`{"statureMm":1700,"benchMm":450}`,
	one(shapeOf(func(r fitRequest, c *check) any {
		or := func(l *measure.Length) measure.Length {
			if l == nil {
				return 0
			}
			return *l
		}
		stature, knee, ok := body.Build(or(r.StatureMm), or(r.KneeMm))
		if !ok && c.good("kneeMm") {
			c.add("statureMm", "expected statureMm or kneeMm", nil)
		}
		if c.Failed() {
			return nil
		}
		box, bench := body.SitBackBox(knee), body.ThrustBench(knee)
		a := fitAnswer{
			KneeMm:       measure.Length(measure.Round(knee, 0)),
			BoxMm:        heights(box),
			BenchRangeMm: heights(bench),
			HeelRaise:    heelRaise{body.HeelRaise, measure.Round(body.HeelRaiseAngle(body.HeelRaise, stature), 1)},
		}
		if r.BenchMm != nil {
			v, raise := body.JudgeBench(*r.BenchMm, bench)
			a.BenchVerdict = &v
			if v == body.Fits || v == body.Raise {
				a.RaiseMm = &raise
			}
		}
		return a
	})))
