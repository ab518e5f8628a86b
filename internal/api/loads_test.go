package api

import (
	"encoding/json"
	"net/http"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/strength"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/studio"
)

func placeNamed(c client, name string) studio.Place {
	c.t.Helper()
	for _, p := range ok[[]studio.Place](c, "GET", "/api/places", nil) {
		if p.Name == name {
			return p
		}
	}
	c.t.Fatalf("no place %q", name)
	return studio.Place{}
}

// What the flat on Quay Street can really do: its rule, its loads, its substitutes,
// its bridges. A bag of .8 kg, twenty tins of 455 g, two cans of 5 l, six bottles of
// 1.5 l, cans and bottles filled in steps of 50 g.
func TestLoadsOfAFlat(t *testing.T) {
	c := hall(t, fixed)
	at := "/api/places/" + placeNamed(c, "Flat on Quay Street").ID
	made := ok[studio.MakeAnswer](c, "POST", at+"/make", map[string]any{"target": "9 kg", "loads": 1, "container": demo.ID("quay/Rucksack")})
	require.True(t, made.Feasible)
	assert.EqualValues(t, 0, made.Loads[0].ErrorG)
	assert.EqualValues(t, 15_000, made.MaxG)
	assert.Equal(t, []string{"closure", "straps", "weigh"}, made.Check)
	// 8.2 kg from the fewest objects: a can of 200 g takes at most 5 kg; the other, or a
	// bottle, the rest: two objects. 8200 = 200 + 200 + 7800: cans of 5000 and 2800.
	assert.Equal(t, []kit.Portion{{ID: demo.ID("quay/Water can, 5 l"), Fills: []measure.Mass{5000, 2800}}}, made.Loads[0].Load.Parts)
	two := ok[studio.MakeAnswer](c, "POST", at+"/make", map[string]any{"target": "4 kg", "loads": 2, "tolerance": "20 g"})
	require.True(t, two.Feasible)
	for _, l := range two.Loads {
		assert.EqualValues(t, 4000, l.TotalG)
		assert.Equal(t, []kit.Portion{{ID: demo.ID("quay/Water can, 5 l"), Fills: []measure.Mass{3800}}}, l.Load.Parts)
	}
	none9 := ok[studio.MakeAnswer](c, "POST", at+"/make", map[string]any{"target": "9 kg", "loads": 2, "tolerance": "0"})
	assert.False(t, none9.Feasible, "a hand holds one thing, and no tins")
	assert.EqualValues(t, 5200, none9.Below[0].TotalG)
	far := ok[studio.MakeAnswer](c, "POST", at+"/make", map[string]any{"target": "40 kg", "loads": 1, "container": demo.ID("quay/Rucksack")})
	assert.False(t, far.Feasible)
	assert.Empty(t, far.Above, "the bag may weigh 15 kg")
	assert.EqualValues(t, 15_000, far.Below[0].TotalG)

	rule := ok[studio.LoadRule](c, "POST", at+"/rule", map[string]any{"holding": "goblet", "move": "goblet-squat", "body": "70 kg"})
	assert.EqualValues(t, 15_000, rule.Marks[len(rule.Marks)-1].TotalG)
	assert.Empty(t, rule.Gaps, "water fills them all")
	hands := ok[studio.LoadRule](c, "POST", at+"/rule", map[string]any{"holding": "two-hands", "move": "romanian-deadlift"})
	assert.EqualValues(t, 10_400, hands.Marks[len(hands.Marks)-1].TotalG, "two full cans")

	hallAt := "/api/places/" + placeNamed(c, "Tramshed Hall").ID
	iron := ok[studio.LoadRule](c, "POST", hallAt+"/rule", map[string]any{"holding": "goblet", "move": "goblet-squat", "body": "70 kg"})
	var totals []measure.Mass
	for _, m := range iron.Marks {
		totals = append(totals, m.TotalG)
	}
	assert.Equal(t, []measure.Mass{2268, 4000, 4536, 6000, 8000, 9072, 12_000, 16_000, 20_000}, totals)
	last := iron.Gaps[len(iron.Gaps)-1]
	assert.Equal(t, studio.RuleGap{FromG: 16_000, ToG: 20_000, Rise: studio.Rise{IronPct: 25, ResistancePct: 5.2, IronAlone: false, Allowed: true}}, last)

	subs := ok[studio.SubstituteAnswer](c, "POST", at+"/substitutes", map[string]any{"move": "one-arm-row", "hold": "row-one", "lane": "middle", "load": "12 kg", "reps": 10, "reserve": 2})
	assert.Equal(t, choice.ByPacked, subs.Options[0].Way)
	assert.EqualValues(t, 11_980, subs.Options[0].LoadG, "two cans and a bottle: 800 + 430 + 10 750")
	none := ok[studio.SubstituteAnswer](c, "POST", at+"/substitutes", map[string]any{"move": "one-arm-press", "hold": "rack-one", "lane": "middle", "reps": 10, "reserve": 2})
	assert.Empty(t, none.Options)
	assert.NotEmpty(t, none.Limits, "it says that there is no press overhead")

	bell := ok[studio.SubstituteAnswer](c, "POST", hallAt+"/substitutes", map[string]any{"move": "goblet-squat", "hold": "goblet", "lane": "middle", "reps": 10, "reserve": 2, "missing": demo.ID("hall/Bell16")})
	assert.EqualValues(t, 16_000, bell.LoadG, "its mass is wanted")
	require.NotEmpty(t, bell.Options)
	for _, o := range bell.Options {
		assert.NotEqual(t, demo.ID("hall/Bell16"), o.Load.Item, "however many of them the place has")
	}

	b := ok[studio.BridgeAnswer](c, "POST", at+"/bridge", map[string]any{"move": "goblet-squat", "hold": "hugged", "from": "8 kg", "to": "12 kg", "repsLow": 8, "repsHigh": 12, "lastReps": 11, "sessionsOver": 0, "reserve": 2})
	assert.False(t, b.Allowed)
	assert.True(t, b.Reached)
	week := b.Weeks[slices.IndexFunc(b.Weeks, func(w studio.BridgeWeek) bool { return w.By == strength.ByMade })]
	assert.EqualValues(t, 10_700, week.LoadG, "34 % over 8 kg is 10.72")
	require.NotNil(t, week.Load)
	assert.Equal(t, kit.Made, week.Load.Kind)
	assert.EqualValues(t, 11_980, b.Weeks[len(b.Weeks)-1].MadeG, "12 kg to within 50 g, of three things")

	fit := ok[studio.FitAnswer](c, "POST", hallAt+"/fit", map[string]any{"people": []map[string]string{{"name": "A", "stature": "170 cm"}, {"name": "B", "knee": "570 mm"}, {"name": "C", "stature": "175 cm"}}})
	assert.EqualValues(t, 435, fit.People[0].BoxMm.From)
	assert.Equal(t, "raise", string(fit.People[0].Benches[0].Verdict))
	assert.EqualValues(t, 20, fit.People[0].Benches[0].RaiseMm, "43 cm, and 41 fits")
	assert.Equal(t, []string{demo.ID("hall/Sand crate")}, fit.People[0].Boxes)
	assert.Equal(t, 1, fit.Changes)

	for path, body := range map[string]string{
		"/make":        `{"target":"9 stone","loads":1}`,
		"/rule":        `{"holding":"goblet","move":"nope"}`,
		"/substitutes": `{"move":"goblet-squat","hold":"rack-one","lane":"middle","reps":10,"reserve":2}`,
		"/bridge":      `{"move":"goblet-squat","hold":"goblet","from":"12 kg","to":"8 kg","repsLow":8,"repsHigh":12,"lastReps":11,"sessionsOver":0,"reserve":2}`,
		"/fit":         `{"people":[{"name":"A"}]}`,
	} {
		status, _, answer := c.send("POST", at+path, body)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "%s %s", path, answer)
		var p problem.Problem
		require.NoError(t, json.Unmarshal(answer, &p))
		assert.NotEmpty(t, p.Errors, path)
	}
}

// Objects as people know them: the server works the mass out and says how; what it
// cannot know it asks for.
func TestObjectsAsPeopleKnowThem(t *testing.T) {
	c := hall(t, fixed)
	at := "/api/places/" + placeNamed(c, "Attic room").ID
	for _, x := range []struct {
		in   map[string]any
		want measure.Mass
	}{
		{map[string]any{"name": "Tin", "use": "pack", "count": 2, "how": "net", "mass": "400 g", "what": "tin"}, 455},
		{map[string]any{"name": "Rice", "use": "pack", "count": 1, "how": "volume", "volume": "2 l", "what": "rice", "in": "none"}, 1640},
		{map[string]any{"name": "Bottle", "use": "grip", "count": 1, "how": "volume", "volume": "1.5 l", "what": "water", "in": "bottle", "refill": true}, 1530},
		{map[string]any{"name": "Books", "use": "pack", "count": 9, "how": "kind", "what": "hardback"}, 1000},
		{map[string]any{"name": "Paint", "use": "grip", "count": 1, "how": "volume", "volume": "1 gal", "what": "paint", "in": "none"}, 4995},
		{map[string]any{"name": "Jug", "use": "grip", "count": 1, "mass": "2.1 kg", "empty": "100 g", "refill": true}, 2100},
	} {
		w := ok[studio.Weighed](c, "POST", at+"/weigh-object", x.in)
		assert.Equal(t, x.want, w.MassG, "%v", x.in)
		p := ok[studio.Place](c, "PUT", at+"/objects/"+id(int(x.want)), x.in)
		saved := p.Objects[len(p.Objects)-1]
		assert.Equal(t, x.want, measure.Mass(saved.Mass.Whole))
		assert.Equal(t, w, saved.Weighed)
	}
	for body, field := range map[string]string{
		`{"name":"T","use":"pack","count":1,"how":"net","mass":"400 g"}`:                                 "body.what",
		`{"name":"T","use":"pack","count":1,"how":"volume","volume":"2 l","what":"rice"}`:                "body.in",
		`{"name":"T","use":"grip","count":1,"mass":"2 kg","refill":true}`:                                "body.empty",
		`{"name":"T","use":"grip","count":1,"mass":"2 kg","refill":true,"empty":"3 kg"}`:                 "body.empty",
		`{"name":"T","use":"grip","count":1}`:                                                            "body.mass",
		`{"name":"T","use":"grip","count":1,"how":"volume","volume":"2 stone","what":"rice","in":"can"}`: "body.volume",
	} {
		status, _, b := c.send("POST", at+"/weigh-object", body)
		require.Equal(t, http.StatusUnprocessableEntity, status, body)
		assert.Contains(t, string(b), field, body)
	}
	// A band measured twice, a table with its legs.
	ok[studio.Place](c, "PUT", at+"/implements/"+id(1), map[string]any{"name": "Band", "kind": "band", "count": 1, "stretch1": "30 cm", "pull1": "4 kg", "stretch2": "90 cm", "pull2": "13 kg"})
	ok[studio.Place](c, "PUT", at+"/implements/"+id(2), map[string]any{"name": "Table", "kind": "table", "height": "74 cm", "count": 1, "checked": true, "legs": "four-leg", "tableMass": "40 kg", "centreIn": "35 cm"})
	for body, field := range map[string]string{
		`{"name":"B","kind":"band","count":1,"stretch1":"30 cm","pull1":"4 kg"}`:                                   "body.stretch2",
		`{"name":"B","kind":"band","count":1,"stretch1":"30 cm","pull1":"4 kg","stretch2":"20 cm","pull2":"5 kg"}`: "body.stretch2",
		`{"name":"T","kind":"table","height":"74 cm","count":1,"tableMass":"40 kg","centreIn":"35 cm"}`:            "body.legs",
		`{"name":"B","kind":"bench","height":"40 cm","count":1,"rated":"a lot"}`:                                   "body.rated",
	} {
		status, _, b := c.send("PUT", at+"/implements/"+id(3), body)
		require.Equal(t, http.StatusUnprocessableEntity, status, body)
		assert.Contains(t, string(b), field, body)
	}
}

// The scale is read over the server's clock; an unsteady reading is no weight, and
// each fault says who can mend it.
func TestScale(t *testing.T) {
	at := now
	c := hall(t, func() time.Time { return at })
	set := func(g int, fault string) ScaleReading {
		return ok[ScaleReading](c, "PUT", "/api/scale/stand-in", map[string]any{"hang": strconv.Itoa(g) + " g", "fault": fault})
	}
	take := func() (int, string) {
		status, _, b := c.send("POST", "/api/scale/take", "")
		return status, string(b)
	}
	assert.False(t, set(9000, "none").Stable)
	status, b := take()
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, b, "not steady")
	at = at.Add(5 * time.Second)
	r := ok[ScaleReading](c, "GET", "/api/scale", nil)
	assert.True(t, r.Stable && r.Simulated && r.State == "ok")
	got := ok[Taken](c, "POST", "/api/scale/take", nil)
	assert.InDelta(t, 9000, float64(got.Grams), 10)
	assert.Equal(t, measure.Whole(int64(got.Grams))+" g", got.Text)
	ok[ScaleReading](c, "POST", "/api/scale/tare", nil)
	status, b = take()
	assert.Equal(t, http.StatusConflict, status, b)
	for _, fault := range []string{"drift", "swinging", "lost"} {
		set(9000, fault)
		at = at.Add(5 * time.Second)
		status, b = take()
		assert.Equal(t, http.StatusConflict, status, b)
		status, _, _ = c.send("POST", "/api/scale/tare", "")
		assert.Equal(t, http.StatusConflict, status)
	}
	set(60_000, "none")
	assert.Equal(t, "overload", ok[ScaleReading](c, "GET", "/api/scale", nil).State)
	status, b = take()
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, b, "overloaded")
}

// What goes out comes in again and changes nothing; what is wrong is named by line and
// column, and nothing of a wrong file is brought in; what was not looked at is refused.
func TestPlacesInAndOut(t *testing.T) {
	c := hall(t, fixed)
	send := func(op, text, hash string) (int, studio.PlacesPreview, string) {
		body, err := json.Marshal(studio.PlacesText{Text: text, Hash: hash})
		require.NoError(t, err)
		status, _, b := c.send("POST", "/api/places-file/"+op, string(body))
		var p studio.PlacesPreview
		_ = json.Unmarshal(b, &p)
		return status, p, string(b)
	}
	before := ok[[]studio.Place](c, "GET", "/api/places", nil)
	for _, format := range []string{"csv", "json"} {
		status, head, file := c.send("GET", "/api/places-file?format="+format, "")
		require.Equal(t, http.StatusOK, status)
		assert.Contains(t, head.Get("Content-Disposition"), format)
		status, p, b := send("preview", string(file), "")
		require.Equal(t, http.StatusOK, status, b)
		assert.Empty(t, p.Faults)
		assert.Zero(t, p.New+p.Changed, format)
		assert.Greater(t, p.Same, 20)
		status, _, b = send("import", string(file), p.Hash)
		assert.Equal(t, http.StatusOK, status, b)
		assert.True(t, reflect.DeepEqual(before, ok[[]studio.Place](c, "GET", "/api/places", nil)), format)
	}
	wrong := "place;item;name;kind;mass;count\r\nShed;implement;Bell;kettlebell;16,5 kg;2\r\nShed;implement;Bell;kettlebell;heavy;2\r\nShed;thing;X;;;0\r\n"
	_, p, _ := send("preview", wrong, "")
	require.Len(t, p.Faults, 3)
	assert.Equal(t, []any{3, 5, "mass", "heavy"}, []any{p.Faults[0].Line, p.Faults[0].Column, p.Faults[0].Field, p.Faults[0].Value})
	assert.Equal(t, []any{4, 2}, []any{p.Faults[1].Line, p.Faults[1].Column}, "in the order of the columns")
	assert.Equal(t, []any{4, 6}, []any{p.Faults[2].Line, p.Faults[2].Column})
	status, _, _ := send("import", wrong, p.Hash)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Len(t, ok[[]studio.Place](c, "GET", "/api/places", nil), len(before), "nothing half brought in")

	right := strings.Replace(strings.Replace(wrong, "heavy", "8 kg", 1), "Shed;thing;X;;;0\r\n", "Attic room;implement;Bell;kettlebell;10 kg;1\r\n", 1)
	_, p, _ = send("preview", right, "")
	require.Empty(t, p.Faults)
	assert.Equal(t, []int{3, 0}, []int{p.New, p.Changed}, "a bell of 10 kg is no bell of 8 kg")
	status, _, b := send("import", right, "another")
	assert.Equal(t, http.StatusConflict, status, b)
	ok[studio.Place](c, "PUT", "/api/places/"+id(7), map[string]any{"name": "Late", "kind": "flat", "massUnit": "kg"})
	status, _, b = send("import", right, p.Hash)
	assert.Equal(t, http.StatusConflict, status, "a place has come since: "+b)
	_, p, _ = send("preview", right, "")
	status, _, b = send("import", right, p.Hash)
	require.Equal(t, http.StatusOK, status, b)
	shed := placeNamed(c, "Shed")
	require.Len(t, shed.Implements, 2)
	assert.EqualValues(t, 16_500, shed.Implements[0].Mass.Whole)
	_, p, _ = send("preview", right, "")
	assert.Equal(t, []int{0, 0, 3}, []int{p.New, p.Changed, p.Same}, "the same file twice is once")
	stolen := "place,item,name,kind,mass,id\nShed,implement,Bell,kettlebell,4 kg," + before[0].Implements[0].ID + "\n"
	_, p, _ = send("preview", stolen, "")
	require.Len(t, p.Faults, 1)
	assert.Equal(t, "id", p.Faults[0].Field)
}

// A file that would put more into a place than it may have brings nothing at all.
func TestPlacesFileOverTheLimit(t *testing.T) {
	c := hall(t, fixed)
	var b strings.Builder
	b.WriteString("place,item,name,use,mass,count\n")
	for i := range 301 {
		b.WriteString("Store room,object,Thing " + strconv.Itoa(i) + ",pack,1 kg,1\n")
	}
	send := func(op, hash string) (int, studio.PlacesPreview, string) {
		body, err := json.Marshal(studio.PlacesText{Text: b.String(), Hash: hash})
		require.NoError(t, err)
		status, _, out := c.send("POST", "/api/places-file/"+op, string(body))
		var p studio.PlacesPreview
		_ = json.Unmarshal(out, &p)
		return status, p, string(out)
	}
	_, p, _ := send("preview", "")
	assert.Equal(t, 301, p.New)
	require.Len(t, p.Faults, 1, "the preview says so already")
	assert.Contains(t, p.Faults[0].Message, "at most 300 things of a kind")
	status, _, out := send("import", p.Hash)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, out, "at most 300 things of a kind")
	for _, x := range ok[[]studio.Place](c, "GET", "/api/places", nil) {
		assert.NotEqual(t, "Store room", x.Name, "not even the place")
	}
}
