package plan

import (
	"cmp"
	"maps"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/room"
)

// Floor is where people stand in a block of stations or partners, and with whom.
type Floor struct {
	Block  string         `json:"block"`
	Layout circuit.Layout `json:"layout"`
	// Groups go round together, or are partners.
	Groups   []Group   `json:"groups"`
	Stations []Station `json:"stations"`
	// Kit is what lives at the stations in all.
	Kit []Lives `json:"kit"`
	// Changes is how often a height is set anew in a round.
	Changes int `json:"changes"`
}

// Group is people who go round together, or partners.
type Group struct {
	Who []Guest `json:"who"`
}

// Guest is somebody in a group: a participant by id, or one of a lane who are not named,
// counted from 1.
type Guest struct {
	Party  people.Party `json:"party"`
	Lane   moves.Lane   `json:"lane"`
	Number int          `json:"number,omitempty"`
}

// Station is a place in the room.
type Station struct {
	Slot string `json:"slot"`
	// Groups are those that come to it turn by turn, by their numbers from 0: the first is who
	// starts there.
	Groups   []int     `json:"groups"`
	Kit      []Piece   `json:"kit"`
	Settings []Setting `json:"settings"`
	// Shared are supports that more people stand at than there are: one after the other.
	Shared []Share `json:"shared"`
}

// Piece is how many of a thing there are.
type Piece struct {
	Item string `json:"item"`
	N    int    `json:"n"`
}

// Setting is a height that a support has from a turn on, counted from 1, and for whom.
type Setting struct {
	Item     string         `json:"item"`
	HeightMm measure.Length `json:"heightMm"`
	Turn     int            `json:"turn"`
	For      []Guest        `json:"for"`
}

// Share is how many people have how many pieces of a support among them.
type Share struct {
	Item   string `json:"item"`
	People int    `json:"people"`
	Pieces int    `json:"pieces"`
}

// Lives is how many pieces of a thing live at the stations: Least is the fewest with which
// any dealing of the people gets by.
type Lives struct {
	Item    string `json:"item"`
	Used    int    `json:"used"`
	Least   int    `json:"least"`
	Present int    `json:"present"`
}

// floors are those of the blocks whose people are dealt.
func (c Context) floors(d circuit.Document, judges Judges) []Floor {
	out := []Floor{}
	for _, b := range d.Blocks {
		switch {
		case len(b.Slots) == 0:
		case b.Rotates():
			out = append(out, c.stations(b, judges))
		case b.Layout == circuit.Partners:
			out = append(out, c.partners(b))
		}
	}
	return out
}

// guests lists who is there one by one, from Ground up, the named ones of a lane first.
func (c Context) guests() (who []Guest, parties []Party) {
	for _, lane := range moves.Lanes {
		named := 0
		for _, p := range c.Parties {
			if p.Lane == lane && p.Participant != "" {
				named++
				who, parties = append(who, Guest{Party: p.ID(), Lane: lane}), append(parties, p)
			}
		}
		for _, p := range c.Parties {
			if p.Lane != lane || p.Participant != "" {
				continue
			}
			for n := named + 1; n <= p.People; n++ {
				who, parties = append(who, Guest{p.ID(), lane, n}), append(parties, p)
			}
		}
	}
	return who, parties
}

func (c Context) partners(b circuit.Block) Floor {
	out := Floor{Block: b.ID, Layout: b.Layout, Groups: []Group{}, Stations: []Station{}, Kit: []Lives{}}
	who, _ := c.guests()
	for _, pair := range room.Pairs(len(who)) {
		out.Groups = append(out.Groups, Group{some(who, pair)})
	}
	return out
}

func some(who []Guest, numbers []int) []Guest {
	out := []Guest{}
	for _, n := range numbers {
		out = append(out, who[n])
	}
	return out
}

// stations deals the people of a block to its slots.
func (c Context) stations(b circuit.Block, judges Judges) Floor {
	out := Floor{Block: b.ID, Layout: b.Layout, Groups: []Group{}, Stations: []Station{}, Kit: []Lives{}}
	who, parties := c.guests()
	guests := make([]room.Guest, len(who))
	items := make([]map[moves.Lane]string, len(b.Slots)) // what is set at a station, by lane
	for n, s := range b.Slots {
		items[n] = map[moves.Lane]string{}
		for g, p := range parties {
			uses, fit := map[string]int{}, body.Range{}
			if e, ok := s.Of(p.ID(), p.Lane); ok {
				uses = c.takesUp(e)
				if item, range_, is := c.setTo(e, judges.judgeOf(b, s, p)); is {
					items[n][p.Lane], fit = item, range_
				}
			}
			guests[g].Uses, guests[g].Fits = append(guests[g].Uses, uses), append(guests[g].Fits, fit)
		}
	}
	rota := room.Deal(guests, len(b.Slots), c.Stock.Pieces)
	for _, group := range rota.Groups {
		out.Groups = append(out.Groups, Group{some(who, group)})
	}
	lives := rota.Kit()
	c.spread(b, rota, lives)
	for n, s := range b.Slots {
		x := Station{
			Slot:     s.ID,
			Groups:   []int{},
			Kit:      []Piece{},
			Settings: []Setting{},
			Shared:   c.shares(b, n, rota, lives[n]),
		}
		for turn := range b.Slots {
			x.Groups = append(x.Groups, rota.GroupAt(n, turn))
		}
		for _, id := range sortedKeys(lives[n]) {
			x.Kit = append(x.Kit, Piece{id, lives[n][id]})
		}
		for _, set := range rota.Settings(n) {
			x.Settings = append(x.Settings, Setting{
				Item: items[n][who[set.Guests[0]].Lane], HeightMm: set.Height, Turn: set.Turn + 1, For: some(who, set.Guests),
			})
		}
		out.Stations = append(out.Stations, x)
	}
	out.Changes = rota.Changes()
	least := c.AtStations(b, len(b.Slots)).AtOnce(1)
	for _, id := range sortedKeys(least) {
		x := Lives{Item: id, Least: least[id], Present: c.Stock.Pieces(id)}
		for _, kit := range lives {
			x.Used += kit[id]
		}
		out.Kit = append(out.Kit, x)
	}
	return out
}

// takesUp is what somebody has in hand or on, pieces by id: not what stays where it is.
func (c Context) takesUp(e circuit.Entry) map[string]int {
	out := map[string]int{}
	for _, u := range e.Load.Uses() {
		out[u.ID] += u.Count
	}
	for _, a := range e.Anchors {
		if !c.Stays(a) {
			out[a]++
		}
	}
	return out
}

// Stays tells whether a thing stands where it is, so that people come to it.
func (c Context) Stays(id string) bool {
	i, ok := c.Stock.Implement(id)
	return ok && kit.Stays(i.Kind)
}

// setTo is the support of an entry whose height is set, and the heights of it that suit the
// judge's party; ok is false for none.
func (c Context) setTo(e circuit.Entry, j *choice.Judge) (item string, fit body.Range, ok bool) {
	x, known := c.ChoiceOf(e)
	if !known || j == nil {
		return "", fit, false
	}
	return j.SetTo(x)
}

// judgeOf is the judge of a party in a slot, of a participant without entries of their own
// the lane's.
func (j Judges) judgeOf(b circuit.Block, s circuit.Slot, p Party) *choice.Judge {
	all := j.Of(b, s)
	return cmp.Or(all[p.ID()], all[people.OfLane(p.Lane)])
}

// newHeights tells whether some station of a block has to be set for somebody otherwise than
// for somebody else.
func (c Context) newHeights(b circuit.Block) bool {
	for _, s := range b.Slots {
		both, bounded := body.Range{}, false
		for _, u := range c.Users(s) {
			_, fit, ok := c.setTo(u.Entry, choice.For(choice.Class{Library: c.Library, Stock: c.Stock}, u.Judged()))
			switch {
			case !ok:
				continue
			case !bounded:
				both, bounded = fit, true
			default:
				both = body.Range{From: max(both.From, fit.From), To: min(both.To, fit.To)}
			}
			if both.From > both.To {
				return true
			}
		}
	}
	return false
}

// AtStations counts what must live at the slots of a block, of so many stations, at the least:
// of what people take up as much as the fullest group needs where its users are spread evenly,
// of what stays where it is one for those who come to it.
func (c Context) AtStations(b circuit.Block, stations int) room.Tally {
	out := room.Tally{}
	for _, s := range b.Slots {
		one := room.Tally{}
		for _, u := range c.Users(s) {
			one.Take(u.N, u.Entry.Load, u.Entry.Anchors)
		}
		for use, n := range one {
			if c.Stays(use.ID) {
				n = min(n, 1)
			}
			out[use] += room.PerWave(n, stations*b.WavesOf(s))
		}
	}
	return out
}

// fullest is how many people are at a station at once who use a support.
func (c Context) fullest(b circuit.Block, n int, id string, rota room.Rota) int {
	most := 0
	who, parties := c.guests()
	for turn := range rota.Groups {
		users := 0
		for _, g := range rota.At(n, turn) {
			if e, ok := b.Slots[n].Of(who[g].Party, parties[g].Lane); ok && slices.Contains(e.Anchors, id) {
				users++
			}
		}
		most = max(most, users)
	}
	return room.PerWave(most, b.WavesOf(b.Slots[n]))
}

// spread puts the supports to the stations that use them: one each, and what is over to those
// that have most people at one.
func (c Context) spread(b circuit.Block, rota room.Rota, lives []map[string]int) {
	at := map[string][]int{}
	for n, s := range b.Slots {
		for _, u := range c.Users(s) {
			for _, a := range u.Entry.Anchors {
				if c.Stays(a) && !slices.Contains(at[a], n) {
					at[a] = append(at[a], n)
				}
			}
		}
	}
	for _, id := range slices.Sorted(maps.Keys(at)) {
		for _, n := range at[id] {
			lives[n][id] = 1
		}
		for left := c.Stock.Pieces(id) - len(at[id]); left > 0; left-- {
			to := slices.MaxFunc(at[id], func(x, y int) int {
				return cmp.Compare(c.fullest(b, x, id, rota)-lives[x][id], c.fullest(b, y, id, rota)-lives[y][id])
			})
			if c.fullest(b, to, id, rota) <= lives[to][id] {
				break
			}
			lives[to][id]++
		}
	}
}

// shares lists the supports of a station that more people come to at once than there are.
func (c Context) shares(b circuit.Block, n int, rota room.Rota, lives map[string]int) []Share {
	out := []Share{}
	for _, id := range sortedKeys(lives) {
		if users := c.fullest(b, n, id, rota); c.Stays(id) && users > lives[id] {
			out = append(out, Share{id, users, lives[id]})
		}
	}
	return out
}
