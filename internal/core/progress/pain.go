package progress

import (
	"slices"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// Hurt is what pain in the log asks of a move for a lane: Out of the plan until it is
// cleared, or an easier move that stands beside it for whoever asks.
type Hurt struct {
	Move string
	// Joints that hurt: the one that was named, else all that the move asks clearly of.
	Joints []string
	Out    bool
	// Times it was logged within eight weeks, and the newest day.
	Times, Day int
	Overruled  bool
	// Own says that it is known whose it is: the move is out, once for the next class with the
	// joint spared mildly, and again until it is cleared with the joint spared altogether.
	Own bool
	Why why.Why
}

// Limits are what somebody is to be spared for it, where it is known whose it is: plain ones.
func (h Hurt) Limits() []moves.LimitID {
	if !h.Own || h.Overruled {
		return nil
	}
	var out []moves.LimitID
	for _, j := range h.Joints {
		if !slices.Contains(moves.LimitJoints, j) {
			continue
		}
		if h.Out {
			out = append(out, moves.Spare(j))
		} else {
			out = append(out, moves.Mild(j))
		}
	}
	return out
}

// Pains lists what pain in a lane's log asks, by move in the order of the newest log
// first (house): once, an easier move stands beside; the second log of a joint within
// eight weeks, in whatever move, takes the moves out until they are cleared, unless it
// was said to be somebody else's, or two people are named. A move done since without
// pain, by whoever had it, is as before. Of somebody's own past, own, a class of theirs since
// in which the joint did not hurt ends what one log asks.
func Pains(lib *moves.Library, p Past, lane moves.Lane, own bool) []Hurt {
	var out []Hurt
	for i := len(p.Lines) - 1; i >= 0; i-- {
		l := p.Lines[i]
		if l.Lane != lane || l.Pain != Joint || l.Named && !own ||
			slices.ContainsFunc(out, func(h Hurt) bool { return h.Move == l.Variant }) {
			continue
		}
		h := Hurt{Move: l.Variant, Joints: jointsOf(lib, l), Times: 1, Day: l.Day, Own: own}
		h.Overruled = p.setAside(lib, l)
		for k, b := range p.Lines {
			// A later pain at the same joint, in another move, takes this one out as well.
			if !own && b.Named {
				continue
			}
			if k < i && again(lib, l, b) || k > i && again(lib, b, l) {
				if h.Overruled || !p.setAside(lib, b) {
					h.Times++
				}
			}
		}
		h.Out = h.Times > 1
		if !h.Out && (p.Day-l.Day > painWithin || p.painless(i) || own && p.eased(lib, l)) {
			continue
		}
		h.Why = painWhy(l.Variant, h.Joints, h.Times, own)
		out = append(out, h)
	}
	return out
}

// painWhy says what follows from pain in a move so many times.
func painWhy(move string, joints []string, times int, own bool) why.Why {
	code := why.AdviceStopMove
	switch {
	case own && times > 1:
		code = why.AdviceSpare
	case own:
		code = why.AdviceOutOnce
	case times > 1:
		code = why.AdviceOffPlan
	}
	w := why.Of(code, why.Practice, why.ID("variant", move), why.N("times", times))
	for _, j := range joints {
		w.Terms = append(w.Terms, why.ID("joint", j))
	}
	return w
}

// again tells whether a pain is the same joint's as an earlier one of the same people.
func again(lib *moves.Library, now, before Line) bool {
	if now.Pain != Joint || before.Pain != Joint || before.Lane != now.Lane || now.Others ||
		now.Day-before.Day > painWithin ||
		before.Day == now.Day && before.Variant == now.Variant {
		return false
	}
	if now.Who != "" && before.Who != "" && now.Who != before.Who {
		return false
	}
	return meet(jointsOf(lib, now), jointsOf(lib, before))
}

// setAside tells whether the instructor cleared what a line says of pain.
func (p Past) setAside(lib *moves.Library, l Line) bool {
	return p.overruled(l.Lane, l.Day, append(jointsOf(lib, l), l.Variant)...)
}

// painless tells whether the move was done without pain after a line, by the same.
func (p Past) painless(i int) bool {
	l := p.Lines[i]
	return slices.ContainsFunc(p.Lines[i+1:], func(x Line) bool {
		return x.Lane == l.Lane && x.Who == l.Who && x.Variant == l.Variant && x.Day > l.Day && x.Pain != Joint
	})
}

// eased tells whether somebody was in a class after a line and none of its joints hurt there.
func (p Past) eased(lib *moves.Library, l Line) bool {
	hurt := map[int]bool{} // by the days since
	for _, x := range p.Lines {
		if x.Lane != l.Lane || x.Day <= l.Day || x.Bare {
			continue
		}
		hurt[x.Day] = hurt[x.Day] || x.Pain == Joint && meet(jointsOf(lib, x), jointsOf(lib, l))
	}
	for _, still := range hurt {
		if !still {
			return true
		}
	}
	return false
}

func meet(a, b []string) bool {
	return slices.ContainsFunc(a, func(j string) bool { return slices.Contains(b, j) })
}

// jointsOf names what hurt: the joint that was said, else every one that the move asks
// clearly of.
func jointsOf(lib *moves.Library, l Line) []string {
	if l.Joint != "" {
		return []string{l.Joint}
	}
	v, ok := lib.Get(l.Variant)
	if !ok {
		return nil
	}
	var out []string
	for _, j := range v.Joints() {
		if slices.Contains(moves.LimitJoints, j) {
			out = append(out, j)
		}
	}
	return out
}

// Result is a verdict on a line and what to do about it.
type Result struct {
	Verdict string  `json:"verdict"`
	AtLimit bool    `json:"atLimit"`
	Advice  Advice  `json:"advice"`
	Why     why.Why `json:"why"`
}

// Advise judges the newest line of a case for its subject: pain comes first. Earlier
// are all lines of the subject in whatever move, for pain that comes back; own says that the
// subject is somebody and no lane.
func Advise(lib *moves.Library, c Case, earlier []Line, own bool) Result {
	d := Decide(c)
	r := Result{string(d.Verdict), d.AtLimit, d.Advice, d.Why}
	now := c.Lines[len(c.Lines)-1]
	if now.Pain != Joint {
		return r
	}
	r.Advice = StopMove
	times := 1
	for _, b := range earlier {
		if again(lib, now, b) {
			times++
			r.Advice = OffPlan
		}
	}
	r.Why = painWhy(now.Variant, jointsOf(lib, now), times, own).With(d.Why.Parts...)
	return r
}
