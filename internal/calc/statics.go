package calc

import (
	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/why"
)

type tippingRequest struct {
	BodyMassG  measure.Mass   `json:"bodyMassG" minimum:"20000" maximum:"300000"`
	WornG      measure.Mass   `json:"wornG" minimum:"0" maximum:"300000"`
	AngleDeg   float64        `json:"angleDeg" minimum:"0" maximum:"80" doc:"the body above level"`
	EdgeOutMm  measure.Length `json:"edgeOutMm" minimum:"-2000" maximum:"2000" doc:"the pull outside the line of the legs; inside is negative"`
	TableMassG measure.Mass   `json:"tableMassG" minimum:"1" maximum:"500000"`
	CentreInMm measure.Length `json:"centreInMm" minimum:"0" maximum:"3000" doc:"the table's centre inside that line"`
	Kind       string         `json:"kind" enum:"four-leg,glass,folding,extending,one-column,trestle,loose-top"`
}

type tippingAnswer struct {
	Allowed bool     `json:"allowed"`
	Factor  *float64 `json:"factor" doc:"how many times over the table holds, 2 is asked for; null when it does not tip"`
	Why     why.Why  `json:"why"`
}

var tipping = define[tippingAnswer]("tipping", "Whether a table may be rowed under",
	`{"bodyMassG":70000,"wornG":0,"angleDeg":0,"edgeOutMm":150,"tableMassG":40000,"centreInMm":350,"kind":"four-leg"}`,
	one(shapeOf(func(r tippingRequest, c *check) any {
		if c.Failed() {
			return nil
		}
		t := body.Table{
			Mass: r.TableMassG,
			In:   r.CentreInMm,
			Out:  r.EdgeOutMm,
			Kind: r.Kind,
		}.Tips(r.BodyMassG, r.WornG, r.AngleDeg)
		return tippingAnswer{t.Allowed, unless(t.Never, t.Factor), t.Why}
	})))

// unless gives a factor to two decimals, or null.
func unless(none bool, factor float64) *float64 {
	if none {
		return nil
	}
	f := measure.Round(factor, 2)
	return &f
}

type anchorRequest struct {
	BodyMassG measure.Mass `json:"bodyMassG" minimum:"20000" maximum:"300000"`
	LeanDeg   float64      `json:"leanDeg" minimum:"0" maximum:"90" doc:"from upright"`
	AnchorG   measure.Mass `json:"anchorG" minimum:"0" maximum:"5000000" doc:"what the anchor holds"`
}

type anchorAnswer struct {
	PullG   measure.Mass `json:"pullG"`
	Allowed bool         `json:"allowed"`
	Factor  *float64     `json:"factor" doc:"2 is asked for; null upright"`
	Why     why.Why      `json:"why"`
}

var anchor = define[anchorAnswer]("anchor", "Whether something holds the ankles of kneeling hamstring lowering",
	`{"bodyMassG":70000,"leanDeg":90,"anchorG":200000}`,
	one(shapeOf(func(r anchorRequest, c *check) any {
		if c.Failed() {
			return nil
		}
		h := body.Anchor(r.BodyMassG, r.AnchorG, r.LeanDeg)
		return anchorAnswer{h.Pull, h.Allowed, unless(h.Upright, h.Factor), h.Why}
	})))
