package texts

import (
	"slices"
	"strings"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/why"
)

// Why says a reason, without those of its parts. A code that has no text is said by itself.
func (p Printer) Why(w why.Why) string {
	m, ok := messages()["why.code."+string(w.Code)]
	if !ok {
		return string(w.Code)
	}
	args := make(map[string]value, len(m.Args))
	for _, a := range m.Args {
		args[a.Name] = p.term(w, m, a)
	}
	text := p.write(m, args)
	if who := p.party(find(w, "lane").Text); who != "" && ofParty(w.Code) {
		text = p.say("why.ofParty", Name(who), Name(text))
	}
	return sentence(text)
}

// saysWho are reasons of somebody's entry that name them in their own words.
var saysWho = []why.Code{why.FaultLane, why.FaultSpared, why.FaultHeldAtGround}

// ofParty tells whether a reason speaks of somebody's entry, whom its first term names.
func ofParty(c why.Code) bool {
	kind, _, _ := strings.Cut(string(c), "-")
	return slices.Contains([]string{"fault", "ask", "flag"}, kind) && !slices.Contains(saysWho, c)
}

func find(w why.Why, name string) why.Term {
	i := slices.IndexFunc(w.Terms, func(t why.Term) bool { return t.Name == name })
	if i < 0 {
		return why.Term{}
	}
	return w.Terms[i]
}

// term is the value of an argument of a reason: its term of that name, by the argument's
// type.
func (p Printer) term(w why.Why, m message, a argument) value {
	t := find(w, a.Name)
	kind := strings.TrimSuffix(a.Type, "?")
	if table, ok := strings.CutPrefix(kind, "sum."); ok {
		return p.sum(w, m, table)
	}
	out := p.termText(w, t, a, kind)
	out.none = t.Name == ""
	out.number = t.Value
	return out
}

// measured are the types of arguments that a term's number is written by. A count of a reason
// may be a fraction.
var measured = map[string]func(float64) any{
	"mass":    func(x float64) any { return Grams(x) },
	"length":  func(x float64) any { return Millimetres(x) },
	"volume":  func(x float64) any { return Millilitres(x) },
	"span":    func(x float64) any { return Span(x) },
	"clock":   func(x float64) any { return Clock(x) },
	"percent": func(x float64) any { return Percent(x) },
	"share":   func(x float64) any { return Share(x) },
	"count":   func(x float64) any { return Number(x) },
}

func (p Printer) termText(w why.Why, t why.Term, a argument, kind string) value {
	if as := measured[kind]; as != nil {
		return p.quantity(as(t.Value))
	}
	switch kind {
	case "name", "choice":
		return p.quantity(Name(t.Text))
	case "party":
		return value{text: p.party(t.Text)}
	case "move":
		return value{text: p.called(t.Text, Names.Move)}
	case "item":
		return value{text: p.called(t.Text, Names.Item)}
	case "ban":
		return value{text: within(p.ban(t.Text))}
	}
	if !strings.Contains(kind, "*") {
		return p.value(a, t.Text)
	}
	ids := []string{}
	for _, x := range w.Terms {
		if x.Name == a.Name && x.Text != "" {
			ids = append(ids, x.Text)
		}
	}
	return p.value(a, ids)
}

// sum is all spans but those that the reason's other arguments take: "prep 405 s + work …".
func (p Printer) sum(w why.Why, m message, table string) value {
	out := ""
	for _, t := range w.Terms {
		if t.Kind != why.Span || slices.ContainsFunc(m.Args, func(a argument) bool { return a.Name == t.Name }) {
			continue
		}
		part := p.say("join.term", Name(within(p.name(table, t.Name))), Span(t.Value))
		if out == "" {
			out = part
		} else {
			out = p.say("join.plus", Name(out), Name(part))
		}
	}
	return value{text: out, none: out == ""}
}

func (p Printer) called(id string, by func(Names, string) string) string {
	if p.Names == nil {
		return id
	}
	return by(p.Names, id)
}

// party is a lane, or somebody.
func (p Printer) party(id string) string {
	if slices.Contains(moves.Lanes, moves.Lane(id)) {
		return p.NameLane(id)
	}
	if id == "" {
		return ""
	}
	return p.called(id, Names.Person)
}

// ban is a pattern, a limit or a move that is to be left out.
func (p Printer) ban(id string) string {
	if slices.Contains(moves.Patterns, moves.Pattern(id)) {
		return p.NamePattern(id)
	}
	if text := p.Limit(id); text != "" {
		return text
	}
	return p.called(id, Names.Move)
}

// Limit says what somebody must be spared; nothing for what is no limit.
func (p Printer) Limit(id string) string {
	for suffix, say := range map[string]func(string) string{"-mild": p.NamesLimitMild, "-spare": p.NamesLimitSpare} {
		if joint, ok := strings.CutSuffix(id, suffix); ok {
			if _, known := messages()["names.theJoint."+joint]; known {
				return say(joint)
			}
		}
	}
	if _, ok := messages()["names.limit."+id]; ok {
		return p.NameLimit(id)
	}
	return ""
}
