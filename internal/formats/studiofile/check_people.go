package studiofile

import (
	"fmt"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/names"
)

func (c *checker) person(path string, p *Person) {
	c.id(path, p.ID)
	c.name(path+".name", &p.Name)
	c.people[p.ID] = true
	note, err := names.ReadNote(p.Note)
	if err != nil {
		c.fail(path+".note", "%v", err)
	}
	p.Note = note
	in := map[string]bool{}
	for i, g := range p.Groups {
		if at := fmt.Sprintf("%s.groups[%d]", path, i); !c.series[g] {
			c.fail(at, "there is no such series in the file")
		} else if in[g] {
			c.fail(at, "each group once")
		}
		in[g] = true
	}
	if p.Spared != nil {
		c.under(path+".spared", p.Spared.Check())
	}
	for i := range p.Records {
		r, at := &p.Records[i], fmt.Sprintf("%s.records[%d]", path, i)
		c.id(at, r.ID)
		r.Day = int(c.day(at+".date", r.Date))
		wrong := r.Check(c.lib)
		if len(wrong) == 0 {
			wrong = r.CheckTyped()
		}
		c.under(at, wrong)
	}
	for i := range p.Health {
		r, at := &p.Health[i], fmt.Sprintf("%s.health[%d]", path, i)
		c.id(at, r.ID)
		r.Day = int(c.day(at+".date", r.Date))
		c.under(at, r.Check())
	}
	if len(p.Health) > 0 { // what the health comes to is what is spared
		var all []people.HealthRecord
		for _, r := range p.Health {
			all = append(all, r.HealthRecord)
		}
		spared := people.HealthOf(all).Spared
		p.Spared = &spared
	}
}

func (c *checker) under(path string, wrong fault.List) {
	for _, f := range wrong {
		c.fail(fault.Join(path, f.Path), "%s", f.Message)
	}
}

func (c *checker) day(path, text string) calendar.Date {
	day, err := names.Day(text)
	if err != nil {
		c.fail(path, "%v", err)
	}
	return calendar.DateOf(day)
}
