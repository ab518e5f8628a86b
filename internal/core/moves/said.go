package moves

import (
	"maps"
	"slices"
	"strings"
)

// Said gives the library with every text said otherwise, as another language says it. Own
// moves stay as they were typed; ids and numbers never change.
func (l *Library) Said(say func(string) string) *Library {
	out := &Library{byID: map[string]*Variant{}, hidden: l.hidden, say: say}
	for _, v := range l.all {
		if !strings.HasPrefix(v.ID, OwnPrefix) {
			v = v.translated(say)
		}
		out.all = append(out.all, v)
		out.byID[v.ID] = v
	}
	return out
}

func (v *Variant) translated(say func(string) string) *Variant {
	c := *v
	each := func(list []string) []string {
		list = slices.Clone(list)
		for i, s := range list {
			list[i] = say(s)
		}
		return list
	}
	c.say = say
	c.Name, c.Purpose, c.Test, c.Down = say(v.Name), say(v.Purpose), say(v.Test), say(v.Down)
	c.Also, c.Setup, c.Cues, c.Ends = each(v.Also), each(v.Setup), each(v.Cues), each(v.Ends)
	c.Cautions, c.Stop = each(v.Cautions), each(v.Stop)
	c.Fault = Fault{say(v.Fault.What), say(v.Fault.Sign), say(v.Fault.Mend)}
	if v.Lever != nil {
		c.Lever = &Lever{say(v.Lever.Name), say(v.Lever.Before), say(v.Lever.After), say(v.Lever.Harder)}
	}
	c.HoldLines = maps.Clone(v.HoldLines)
	for h, line := range c.HoldLines {
		c.HoldLines[h] = say(line)
	}
	return &c
}

// said is a text that moves have in common, in the language of this one.
func (v *Variant) said(text string) string {
	if v.say == nil || text == "" {
		return text
	}
	return v.say(text)
}

// Say is a text of the library's own in its language.
func (l *Library) Say(text string) string {
	if l.say == nil || text == "" {
		return text
	}
	return l.say(text)
}

// Words lists the words of the trade that the library's texts use.
func (l *Library) Words() []Word {
	out := slices.Clone(Glossary())
	for i, w := range out {
		out[i].Term, out[i].Means, out[i].Also = l.Say(w.Term), l.Say(w.Means), slices.Clone(w.Also)
		for j, a := range w.Also {
			out[i].Also[j] = l.Say(a)
		}
	}
	return out
}

// BeyondKit lists what cannot be done with some kit: of a pattern, or of all for none.
func (l *Library) BeyondKit(of Pattern) []Beyond {
	out := slices.DeleteFunc(slices.Clone(BeyondKit()), func(b Beyond) bool { return of != "" && b.What != string(of) })
	for i, b := range out {
		out[i].Needs, out[i].Say = l.Say(b.Needs), l.Say(b.Say)
	}
	return out
}

// Schools lists the matters of a house style in the order they are asked.
func (l *Library) Schools() []School {
	out := slices.Clone(Schools())
	for i, s := range out {
		out[i].Question, out[i].Options = l.Say(s.Question), slices.Clone(s.Options)
		for j, o := range s.Options {
			out[i].Options[j].Name, out[i].Options[j].Why = l.Say(o.Name), l.Say(o.Why)
		}
	}
	return out
}
