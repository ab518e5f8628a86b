package placefile

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
)

// What people write down of their kit (common practice, no source).
func TestLines(t *testing.T) {
	bell := func(mass, count string) Row {
		return Row{Place: "Hall", Item: "implement", Kind: "kettlebell", Name: "Bell", Mass: mass, Count: count}
	}
	for _, c := range []struct {
		text string
		want []Row
	}{
		{"3 bells 8, 12, 16 kg", []Row{bell("8 kg", ""), bell("12 kg", ""), bell("16 kg", "")}},
		{"bells 8 12 kg", []Row{bell("8 kg", ""), bell("12 kg", "")}},
		{"bells 8 kg x 3", []Row{bell("8 kg", "3")}},
		{"2x bell 16kg", []Row{bell("16kg", "2")}},
		{"Bells 10/15 lbs", []Row{bell("10 lbs", ""), bell("15 lbs", "")}},
		{"bar 60", []Row{{Place: "Hall", Item: "implement", Kind: "barbell", Name: "Bar", Mass: "60"}}},
		{"kettlebell 8,5", []Row{{Place: "Hall", Item: "implement", Kind: "kettlebell", Name: "Kettlebell", Mass: "8,5"}}},
		{"2 pairs of dumbbells 4 and 6 kg", []Row{
			{Place: "Hall", Item: "implement", Kind: "dumbbell-pair", Name: "Pairs of dumbbells", Mass: "4 kg"},
			{Place: "Hall", Item: "implement", Kind: "dumbbell-pair", Name: "Pairs of dumbbells", Mass: "6 kg"},
		}},
		{"bench 45 cm carries 200 kg", []Row{
			{Place: "Hall", Item: "implement", Kind: "bench", Name: "Bench", Height: "45 cm", Rated: "200 kg"},
		}},
		{"4 Benches 43", []Row{{Place: "Hall", Item: "implement", Kind: "bench", Name: "Bench", Height: "43", Count: "4"}}},
		{"rucksack .8 kg up to 15 kg 20 l", []Row{
			{Place: "Hall", Item: "container", Name: "Rucksack", Mass: ".8 kg", Max: "15 kg", Volume: "20 l"},
		}},
		{"20 tins 400 g", []Row{{Place: "Hall", Item: "object", Name: "Tin", Use: "pack", Mass: "400 g", Count: "20"}}},
		{"400 g tins ×20", []Row{{Place: "Hall", Item: "object", Name: "Tin", Use: "pack", Mass: "400 g", Count: "20"}}},
		{"6 bottles 1.5 l", []Row{{Place: "Hall", Item: "object", Name: "Bottle", Use: "pack", Volume: "1.5 l",
			How: "volume", What: "water", In: "bottle", Count: "6"}}},
		{"4 benches 30-60 cm", []Row{{Place: "Hall", Item: "implement", Kind: "bench", Name: "Bench", Height: "30 cm", Highest: "60 cm", Count: "4"}}},
		{"2 posts", []Row{{Place: "Hall", Item: "implement", Kind: "post", Name: "Post", Count: "2"}}},
		{"wedge", []Row{{Place: "Hall", Item: "implement", Kind: "wedge", Name: "Wedge"}}},
		{"2 plates 4 kg", []Row{{Place: "Hall", Item: "implement", Kind: "plate", Name: "Plate", Mass: "4 kg", Count: "2"}}},
		{"smooth floor", []Row{{Place: "Hall", Item: "implement", Kind: "smooth-floor", Name: "Smooth floor"}}},
		{"\n  \n", nil},
	} {
		p := ParseLines(c.text, "Hall")
		require.Empty(t, p.Faults, c.text)
		for i := range p.Rows {
			p.Rows[i].Mass = spaced(p.Rows[i].Mass)
		}
		for i := range c.want {
			c.want[i].Mass = spaced(c.want[i].Mass)
		}
		assert.Equal(t, c.want, p.Rows, c.text)
		for _, r := range p.Rows {
			typed, wrong := r.Typed()
			assert.Empty(t, wrong, c.text)
			thing, wrong := typed.Check(measure.Kilogram)
			assert.Empty(t, wrong, c.text)
			assert.Contains(t, kit.RowItems, thing.Item)
		}
	}
}

// spaced puts a unit apart from its number, as a quantity is read either way.
func spaced(mass string) string {
	r, err := measure.ReadMass(mass, measure.Kilogram, measure.MaxLoad)
	if err != nil {
		return mass
	}
	return measure.Write(r.Typed)
}

// What cannot be placed is said by line.
func TestLinesRefused(t *testing.T) {
	for text, says := range map[string]string{
		"8 kg":                      "say what it is",
		"5 bells 8, 12 kg":          "5 pieces and 2 masses",
		"tins 400, 800 g":           "several numbers of one thing",
		"bell 8 kg bar 20 kg":       "two mass numbers",
		"bench 45 cm or bench 2 cm": "two height numbers",
	} {
		p := ParseLines("bell 8 kg\n"+text, "Hall")
		require.Len(t, p.Faults, 1, text)
		assert.Equal(t, 2, p.Faults[0].Line)
		assert.Contains(t, p.Faults[0].Message, says)
	}
	// A number that such a thing has not is refused by the judge of rows.
	typed, _ := ParseLines("bell 8 kg 3 l", "Hall").Rows[0].Typed()
	_, wrong := typed.Check(measure.Kilogram)
	assert.Equal(t, "volume", wrong[0].Path)
}
