package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/schema"

	plan "nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/localdb/fullscan"
	"nimbleanvil/internal/store"
)

func TestMain(m *testing.M) { dbtest.Main(m, fullscan.Watch) }

var ctx = context.Background()

// open gives a migrated store with the first studio.
func open(t *testing.T) (*store.Store, store.Scope, string) {
	t.Helper()
	dsn := dbtest.DSN(t)
	st, err := store.Open(dsn, time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	require.NoError(t, st.Migrate(ctx))
	require.NoError(t, st.CheckSchema(ctx))
	sc, err := st.EnsureStudio(ctx, store.Studio{PublicID: id("studio"), Name: "S", TimeZone: "UTC", MassUnit: "kg"})
	require.NoError(t, err)
	return st, sc, dsn
}

// id makes a public id from a word.
func id(word string) string { return (word + strings.Repeat("0", 26))[:26] }

func hall(t *testing.T, st *store.Store, sc store.Scope) (occurrence string) {
	t.Helper()
	require.NoError(
		t,
		st.PutPlace(ctx, sc, store.Place{PublicID: id("hall"), Name: "Hall", Kind: "hall", MassUnit: "kg"}),
	)
	c := store.Class{
		Occurrence: store.Occurrence{
			PublicID:  id("class"),
			Name:      "C",
			LocalDate: time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC),
			LocalTime: "18:30",
			TimeZone:  "UTC",
			Minutes:   45,
		},
		Lanes: []store.OccurrenceLane{
			{
				Lane:           "middle",
				People:         3,
				BodyDecimal:    "70",
				BodyUnit:       "kg",
				BodyG:          70000,
				StatureDecimal: "170",
				StatureUnit:    "cm",
				StatureMm:      1700,
			},
		},
	}
	require.NoError(t, st.PutClass(ctx, sc, id("hall"), c))
	return id("class")
}

// Every column of every model is in the database with a type that fits, and the
// other way round.
func TestModelsEqualTheSchema(t *testing.T) {
	_, _, dsn := open(t)
	db, err := gorm.Open(mysql.Open(dsn), &gorm.Config{})
	require.NoError(t, err)
	names := schema.NamingStrategy{}
	for _, model := range []any{store.Studio{}, store.Place{}, store.Implement{}, store.Object{}, store.Container{}, store.Occurrence{}, store.OccurrenceLane{},
		store.Participant{}, store.OwnMove{}, store.Circuit{}, store.CircuitVersion{}, store.Run{}, store.RunEvent{}, store.LogLine{}, store.LogLinePast{},
		store.Series{}, store.SeriesMember{}, store.Person{}, store.PersonRecord{}, store.PersonMerge{}, store.HealthRecord{}, store.PainReport{},
		store.Erased{}, store.HouseTemplate{}} {
		s, err := schema.Parse(model, &sync.Map{}, names)
		require.NoError(t, err)
		var columns []struct{ ColumnName, DataType, IsNullable string }
		require.NoError(
			t,
			db.Raw("SELECT column_name, data_type, is_nullable FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ?", s.Table).
				Scan(&columns).
				Error,
		)
		got, want := map[string]string{}, map[string]string{}
		for _, c := range columns {
			got[c.ColumnName] = kindOf(c.DataType) + " " + c.IsNullable
		}
		for _, f := range s.Fields {
			if f.DBName == "" {
				continue // kept in another table
			}
			null := "NO"
			if f.FieldType.Kind() == reflect.Pointer {
				null = "YES"
			}
			want[f.DBName] = string(f.GORMDataType) + " " + null
			if f.Serializer != nil {
				want[f.DBName] = "bytes " + null // a JSON document
			}
		}
		for k, v := range want {
			want[k] = strings.NewReplacer("date ", "time ").Replace(v)
		}
		assert.Equal(t, want, got, s.Table)
	}
}

func kindOf(sqlType string) string {
	switch sqlType {
	case "bigint", "int":
		return "int"
	case "varchar", "char":
		return "string"
	case "datetime", "date":
		return "time"
	case "tinyint":
		return "bool"
	case "longtext":
		return "bytes"
	}
	return sqlType
}

// A repeated create is the same create; what is typed comes back as typed.
func TestPutTwiceIsOnce(t *testing.T) {
	st, sc, _ := open(t)
	hall(t, st, sc)
	decimal, unit, grams := "17.6", "lb", int64(7983)
	row := store.Implement{
		PublicID:    id("bell"),
		Name:        "Bell",
		Kind:        "kettlebell",
		MassDecimal: &decimal,
		MassUnit:    &unit,
		MassG:       &grams,
		Count:       3,
	}
	for range 2 {
		require.NoError(t, st.PutThing(ctx, sc, id("hall"), row))
	}
	// The same create from many hands at once is one, too.
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			assert.NoError(
				t,
				st.PutThing(
					ctx,
					sc,
					id("hall"),
					store.Object{
						PublicID:    id("tin"),
						Name:        "Tin",
						UseAs:       "pack",
						MassDecimal: "455",
						MassUnit:    "g",
						MassG:       455,
						Count:       20,
					},
				),
			)
			_, err := st.EnsureStudio(
				ctx,
				store.Studio{PublicID: id("studio"), Name: "S", TimeZone: "UTC", MassUnit: "kg"},
			)
			assert.NoError(t, err)
		})
	}
	wg.Wait()
	p, err := st.Place(ctx, sc, id("hall"))
	require.NoError(t, err)
	got, err := st.Stock(ctx, sc, p.ID)
	require.NoError(t, err)
	require.Len(t, got.Objects, 1)
	require.Len(t, got.Implements, 1)
	assert.Equal(t, "17.6", *got.Implements[0].MassDecimal)
	require.NoError(t, st.Retire(ctx, sc, id("hall"), "implement", id("bell")))
	got, err = st.Stock(ctx, sc, p.ID)
	require.NoError(t, err)
	assert.Empty(t, got.Implements)
	assert.ErrorIs(t, st.PutThing(ctx, sc, id("nowhere"), row), store.ErrNotFound)
}

// Another studio sees nothing and can put nothing here; the database itself
// refuses a row that crosses.
func TestScopesDoNotCross(t *testing.T) {
	st, sc, dsn := open(t)
	class := hall(t, st, sc)
	db, err := gorm.Open(mysql.Open(dsn+"?parseTime=true"), &gorm.Config{})
	require.NoError(t, err)
	other := store.Studio{
		PublicID:  id("other"),
		Name:      "O",
		TimeZone:  "UTC",
		MassUnit:  "lb",
		Style:     []byte("{}"),
		CreatedAt: time.Now(),
	}
	require.NoError(t, db.Create(&other).Error)
	theirs := store.Scope{StudioID: other.ID}
	_, err = st.Class(ctx, theirs, class)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = st.Place(ctx, store.Scope{}, id("hall"))
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(
		t,
		st.PutParticipant(
			ctx,
			theirs,
			class,
			store.Attendee{Participant: store.Participant{PublicID: id("p"), Lane: "middle"}, Name: "P"},
		),
		store.ErrNotFound,
	)
	p, err := st.Place(ctx, sc, id("hall"))
	require.NoError(t, err)
	crossing := store.Object{
		Row:         store.Row{StudioID: other.ID},
		PlaceID:     p.ID,
		PublicID:    id("o"),
		Name:        "O",
		UseAs:       "pack",
		MassDecimal: "1",
		MassUnit:    "kg",
		MassG:       1000,
		Count:       1,
		CreatedAt:   time.Now(),
	}
	assert.ErrorContains(t, db.Create(&crossing).Error, "foreign key")
}

func circuit(t *testing.T, st *store.Store, sc store.Scope) string {
	t.Helper()
	class := hall(t, st, sc)
	first := store.CircuitVersion{
		ClientID: id("first"),
		Kind:     "propose",
		Ops:      []byte("[]"),
		Inverse:  []byte("[]"),
		Document: []byte(`{"v":1}`),
	}
	c, err := st.Class(ctx, sc, class)
	require.NoError(t, err)
	_, err = st.CreateCircuit(ctx, sc, c, store.Circuit{PublicID: id("plan")}, first, nil)
	require.NoError(t, err)
	return id("plan")
}

// again is a change that leaves a circuit as it is.
var again = store.CircuitVersion{Kind: "edit", Ops: []byte("[]"), Inverse: []byte("[]"), Document: []byte(`{"v":1}`)}

// Eight windows edit one circuit from the same version: one wins, the others are
// told; an edit sent twice counts once.
func TestOneVersionHasOneSuccessor(t *testing.T) {
	st, sc, _ := open(t)
	plan := circuit(t, st, sc)
	var wg sync.WaitGroup
	results := make([]error, 8)
	from, err := st.Planned(ctx, sc, plan)
	require.NoError(t, err)
	for i := range results {
		wg.Go(func() {
			_, results[i] = st.AppendVersion(
				ctx,
				sc,
				from,
				store.Change{ClientID: id(fmt.Sprintf("edit%d", i)), Base: 1},
				again,
			)
		})
	}
	wg.Wait()
	won := 0
	for i, err := range results {
		if err == nil {
			won++
			p, err := st.PlannedFrom(ctx, sc, plan, store.Change{ClientID: id(fmt.Sprintf("edit%d", i)), Base: 1})
			assert.NoError(t, err, "sent again")
			assert.True(t, p.Stored)
			_, err = st.AppendVersion(
				ctx,
				sc,
				from,
				store.Change{ClientID: id(fmt.Sprintf("edit%d", i)), Base: 1},
				again,
			)
			assert.NoError(t, err, "and past the look")
		} else {
			assert.ErrorIs(t, err, store.ErrConflict)
		}
	}
	assert.Equal(t, 1, won)
	now, err := st.Planned(ctx, sc, plan)
	require.NoError(t, err)
	assert.Equal(t, 2, now.Base.Version)
	_, err = st.PlannedFrom(ctx, sc, plan, store.Change{ClientID: id("bad"), Base: 1})
	assert.ErrorIs(t, err, store.ErrConflict, "a change of an old version is told so before it is worked out")

	// A change from the old version may be kept beside: the head stays, and sent
	// twice it is still one.
	for range 2 {
		var beside *store.BesideError
		_, err := st.AppendVersion(ctx, sc, now, store.Change{ClientID: id("late"), Base: 1, Beside: true}, again)
		require.ErrorAs(t, err, &beside)
		assert.Equal(t, 3, beside.Version)
	}
	head, err := st.Planned(ctx, sc, plan)
	require.NoError(t, err)
	assert.Equal(t, 2, head.Base.Version)
	// What was read before the side version came still leads to the next version.
	_, err = st.AppendVersion(ctx, sc, now, store.Change{ClientID: id("next"), Base: 2}, again)
	require.NoError(t, err)
	rows, err := st.Versions(ctx, sc, head.Circuit.ID, 100, 10)
	require.NoError(t, err)
	require.Len(t, rows, 4)
	assert.Equal(t, []bool{false, true, false, false}, []bool{rows[0].Side, rows[1].Side, rows[2].Side, rows[3].Side})
}

// Presses of several screens at once come into one order without gaps, each
// once.
func TestPressesHaveOneOrder(t *testing.T) {
	st, sc, _ := open(t)
	circuit(t, st, sc)
	require.NoError(
		t,
		st.CreateRun(ctx, sc, id("class"), store.Run{PublicID: id("run"), CircuitVersion: 1, Plan: []byte("{}")}),
	)
	var wg sync.WaitGroup
	for i := range 20 {
		wg.Go(func() {
			e := store.RunEvent{ClientID: id(fmt.Sprintf("press%02d", i/2)), Kind: "hold", At: time.Now().UTC()}
			assert.NoError(t, st.AddRunEvent(ctx, sc, id("run"), e))
		})
	}
	wg.Wait()
	_, events, err := st.Run(ctx, sc, id("run"))
	require.NoError(t, err)
	require.Len(t, events, 10)
	for i, e := range events {
		assert.Equal(t, i+1, e.Seq)
	}
}

// Four servers starting at once migrate once; a schema of another version is
// refused with what to run.
func TestMigrateTogetherAndRefuseStrangers(t *testing.T) {
	dsn := dbtest.DSN(t)
	var wg sync.WaitGroup
	for range 4 {
		wg.Go(func() {
			st, err := store.Open(dsn, time.Now)
			if assert.NoError(t, err) {
				defer func() { _ = st.Close() }()
				assert.NoError(t, st.Migrate(ctx))
			}
		})
	}
	wg.Wait()
	db, err := gorm.Open(mysql.Open(dsn), &gorm.Config{})
	require.NoError(t, err)
	st, err := store.Open(dsn, time.Now)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	require.NoError(t, st.CheckSchema(ctx))
	require.NoError(t, db.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (99999, 1)").Error)
	err = st.CheckSchema(ctx)
	assert.ErrorIs(t, err, store.ErrSchema)
	assert.ErrorContains(t, err, "newer nimbleanvil")
	empty, err := store.Open(dbtest.DSN(t), time.Now)
	require.NoError(t, err)
	defer func() { _ = empty.Close() }()
	assert.ErrorContains(t, empty.CheckSchema(ctx), "run nimbleanvil migrate")
}

// Readers wait for a connection each with its own patience: that one gives up is nothing
// to another who asks the same.
func TestReadersWaitOnTheirOwn(t *testing.T) {
	_, sc, dsn := open(t)
	st, err := store.OpenPool(dsn, time.Now, 1)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	studio := store.Studio{PublicID: id("studio"), Name: "Studio", TimeZone: "UTC", MassUnit: "kg"}
	outside, err := sql.Open("mysql", dsn)
	require.NoError(t, err)
	defer func() { _ = outside.Close() }()
	lock, err := outside.BeginTx(t.Context(), nil)
	require.NoError(t, err)
	_, err = lock.ExecContext(t.Context(), "UPDATE studio SET name = 'Other' WHERE public_id = ?", studio.PublicID)
	require.NoError(t, err)
	wrote := make(chan error, 1)
	go func() { wrote <- st.PutStudio(context.Background(), sc, studio) }() // has the one connection, and waits
	require.Eventually(t, func() bool {
		var n int
		err := lock.QueryRowContext(t.Context(), "SELECT COUNT(*) FROM information_schema.processlist WHERE info LIKE 'SELECT * FROM `studio`%'").
			Scan(&n)
		return err == nil && n == 1
	}, 10*time.Second, 5*time.Millisecond)
	read := func(patience time.Duration) chan error {
		got := make(chan error, 1)
		go func() {
			ctx, cancel := context.WithTimeout(context.Background(), patience)
			defer cancel()
			_, err := st.Places(ctx, sc)
			got <- err
		}()
		return got
	}
	short := read(200 * time.Millisecond)
	time.Sleep(50 * time.Millisecond) // so that it asks first
	long := read(20 * time.Second)
	assert.ErrorIs(t, <-short, context.DeadlineExceeded)
	require.NoError(t, lock.Rollback())
	assert.NoError(t, <-wrote)
	assert.NoError(t, <-long)
}

// The past of a group as one value: the lines of earlier classes of the same name, the
// oldest first, with their days and whose they are; nothing of a class with another name
// or of the class itself; what earlier plans marked or set aside, and their moves.
func TestPast(t *testing.T) {
	st, sc, _ := open(t)
	hall(t, st, sc)
	for i, name := range []string{"C", "C", "C", "Other"} {
		c := store.Class{
			Occurrence: store.Occurrence{
				PublicID:  id(fmt.Sprint("day", i)),
				Name:      name,
				LocalDate: time.Date(2026, 11, 1+i, 0, 0, 0, 0, time.UTC),
				LocalTime: "18:30",
				TimeZone:  "UTC",
				Minutes:   45,
			},
		}
		require.NoError(t, st.PutClass(ctx, sc, id("hall"), c))
		require.NoError(
			t,
			st.PutParticipant(
				ctx,
				sc,
				c.PublicID,
				store.Attendee{
					Participant: store.Participant{PublicID: id(fmt.Sprint("ada", i)), Lane: "middle"},
					Name:        "Ada",
				},
			),
		)
		put := func(subject string, done int) {
			line := store.LogLine{
				Subject:        subject,
				Slot:           "s1",
				Lane:           "middle",
				Variant:        "squat",
				Planned:        10,
				Done:           done,
				InForm:         done,
				Felt:           store.Felt{Pain: "none"},
				LibraryVersion: "1",
			}
			require.NoError(t, st.PutLogLines(ctx, sc, c.PublicID, []store.LogLine{line}))
		}
		put("middle", 10+i)
		if i != 1 { // Ada stayed away once
			put(id(fmt.Sprint("ada", i)), 20+i)
		}
	}
	// Renamed, the second class keeps its past and stays the third's.
	renamed, err := st.Class(ctx, sc, id("day1"))
	require.NoError(t, err)
	renamed.Name = "C in the yard"
	require.NoError(t, st.PutClass(ctx, sc, id("hall"), renamed))
	known, err := st.People(ctx, sc, "Ada", 10)
	require.NoError(t, err)
	require.Len(t, known, 2, "one in each series")
	ada := known[0].PublicID
	past := func(day string) progress.Past {
		c, err := st.Class(ctx, sc, id(day))
		require.NoError(t, err)
		p, err := st.Past(ctx, sc, c.Occurrence)
		require.NoError(t, err)
		return p
	}
	d := plan.Single{
		Format:    plan.Timed,
		WorkMs:    40_000,
		Rounds:    1,
		Known:     []string{"hinge"},
		Overruled: []plan.Overruled{{Party: "middle", What: "knee"}},
		Slots: []plan.Slot{
			{ID: "s1", Waves: 1, Entries: map[people.Party]plan.Entry{"middle": {Variant: "squat"}}},
		},
	}
	doc, err := plan.Encode(d.Document())
	require.NoError(t, err)
	first := store.CircuitVersion{
		ClientID: id("v"),
		Kind:     "propose",
		Ops:      []byte("[]"),
		Inverse:  []byte("[]"),
		Document: doc,
	}
	second, err := st.Class(ctx, sc, id("day1"))
	require.NoError(t, err)
	_, err = st.CreateCircuit(ctx, sc, second, store.Circuit{PublicID: id("circuit")}, first, nil)
	require.NoError(t, err)
	third, err := st.Class(ctx, sc, id("day2"))
	require.NoError(t, err)
	sessions, err := st.Sessions(ctx, sc, third.Occurrence)
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"squat"}, {"squat"}}, sessions, "the two earlier classes of the name, each move once")
	p := past("day2")
	day := func(n int) int { return int(time.Date(2026, 11, n, 0, 0, 0, 0, time.UTC).Unix() / 86400) }
	assert.Equal(t, day(3), p.Day)
	require.Len(t, p.Lines, 3)
	assert.Equal(t, []any{day(1), "", 10}, []any{p.Lines[0].Day, p.Lines[0].Who, p.Lines[0].Done})
	assert.Equal(t, []any{day(1), ada, 20}, []any{p.Lines[1].Day, p.Lines[1].Who, p.Lines[1].Done})
	assert.Equal(t, []any{day(2), "", 11}, []any{p.Lines[2].Day, p.Lines[2].Who, p.Lines[2].Done})
	assert.Equal(
		t,
		[]progress.Presence{{Day: day(1), Lane: "middle", Who: ada}, {Day: day(2), Lane: "middle", Who: ada}},
		p.Present,
	)
	assert.Equal(t, []string{"hinge"}, p.Known)
	assert.Equal(t, []progress.Overrule{{Day: day(2), Lane: "middle", What: "knee"}}, p.Overruled)
	assert.Equal(t, [][]progress.Used{{{Lane: moves.Middle, Move: "squat"}}}, p.Last)
	assert.Empty(t, past("day0").Lines)
	assert.Empty(t, past("day3").Lines, "nothing of a class with another name")
}

// healthy is a core that spares nobody anything.
var healthy = store.Spare{
	Of:    func([]store.HealthRecord) ([]byte, error) { return []byte("{}"), nil },
	Carry: func([]byte) ([]store.HealthRecord, error) { return nil, nil },
}

// Who is put into a class by name is recognized among those of its series; a second of the
// name is somebody else, told apart by lane; where nothing tells, both are marked. People
// are joined and parted by hand, but never two who were in one class.
func TestPeopleOfOneName(t *testing.T) {
	st, sc, _ := open(t)
	hall(t, st, sc)
	for i := range 5 {
		c := store.Class{
			Occurrence: store.Occurrence{
				PublicID:  id(fmt.Sprint("day", i)),
				Name:      "C",
				LocalDate: time.Date(2026, 11, 1+i, 0, 0, 0, 0, time.UTC),
				LocalTime: "18:30",
				TimeZone:  "UTC",
				Minutes:   45,
			},
		}
		require.NoError(t, st.PutClass(ctx, sc, id("hall"), c))
	}
	come := func(day int, key, name, lane, person string) error {
		return st.PutParticipant(
			ctx,
			sc,
			id(fmt.Sprint("day", day)),
			store.Attendee{
				Participant:    store.Participant{PublicID: id(key), Lane: lane},
				Name:           name,
				PersonPublicID: person,
			},
		)
	}
	who := func(day int) (out []string) {
		c, err := st.Class(ctx, sc, id(fmt.Sprint("day", day)))
		require.NoError(t, err)
		for _, a := range c.People {
			all, err := st.People(ctx, sc, a.Name, 10)
			require.NoError(t, err)
			n := slices.IndexFunc(all, func(k store.Known) bool { return k.PublicID == a.PersonPublicID })
			mark := ""
			if a.SameName {
				mark = "?"
			}
			out = append(out, fmt.Sprintf("%s%d%s", a.Name, n, mark))
		}
		return out
	}
	require.NoError(t, come(0, "a", "Sam", "ground", ""))
	require.NoError(t, come(1, "b", "Sam", "reach", ""))
	assert.Equal(t, []string{"Sam0"}, who(1), "one of the name, whatever the lane")
	require.NoError(t, come(1, "c", "Sam", "middle", ""))
	assert.Equal(t, []string{"Sam0", "Sam1"}, who(1), "two in one class are two, told apart by lane")
	require.NoError(t, come(2, "d", "Sam", "middle", ""))
	assert.Equal(t, []string{"Sam1"}, who(2))
	require.NoError(t, come(3, "e", "Sam", "ground", ""))
	assert.Equal(t, []string{"Sam2?"}, who(3), "either of them, or a third: nobody can tell")
	assert.Equal(t, []string{"Sam1?"}, who(2), "and so the others are marked")
	require.NoError(t, come(3, "e", "Sam", "reach", ""))
	assert.Equal(t, []string{"Sam2?"}, who(3), "put into another lane it is who it was")

	all, err := st.People(ctx, sc, "Sam", 10)
	require.NoError(t, err)
	require.Len(t, all, 3)
	assert.Equal(t, []int{2, 2, 1}, []int{all[0].Classes, all[1].Classes, all[2].Classes})
	assert.ErrorIs(t, st.JoinPeople(ctx, sc, all[0].PublicID, all[1].PublicID, healthy), store.ErrTogether)
	assert.ErrorIs(
		t,
		st.JoinPeople(ctx, store.Scope{StudioID: sc.StudioID + 1}, all[0].PublicID, all[2].PublicID, healthy),
		store.ErrNotFound,
	)
	require.NoError(t, st.JoinPeople(ctx, sc, all[0].PublicID, all[2].PublicID, healthy))
	assert.Equal(t, []string{"Sam0?"}, who(3))
	require.NoError(
		t,
		st.PutPerson(ctx, sc, store.Person{PublicID: all[0].PublicID, Name: "Sam"}),
		"who says that it is no other has the mark taken off",
	)
	assert.Equal(t, []string{"Sam0"}, who(3))
	assert.ErrorIs(
		t,
		st.PartPerson(ctx, sc, all[0].PublicID, id("parted"), []string{id("c")}),
		store.ErrNotFound,
		"that was the other",
	)
	require.NoError(t, st.PartPerson(ctx, sc, all[0].PublicID, id("parted"), []string{id("e")}))
	assert.Equal(t, []string{"Sam2"}, who(3))
	require.NoError(t, come(4, "f", "Sam", "reach", id("parted")), "by id it is who it is said to be")
	assert.Equal(t, []string{"Sam2"}, who(4))
	assert.ErrorIs(t, come(4, "g", "", "reach", id("parted")), store.ErrTogether)
	require.NoError(t, come(4, "h", "", "ground", ""))
	assert.Equal(t, []string{"Sam2", "-1"}, who(4), "a drop-in is nobody")
	require.NoError(t, come(4, "f", "Samuel", "reach", ""))
	assert.Equal(t, []string{"Samuel0", "-1"}, who(4), "a name that is written otherwise")
	attended, err := st.Attended(ctx, sc, id("parted"))
	require.NoError(t, err)
	assert.Len(t, attended, 2)
	require.NoError(t, st.PutPerson(ctx, sc, store.Person{PublicID: id("parted"), Name: "samuel"}))
	assert.Equal(t, []string{"samuel0", "-1"}, who(4), "a capital is a correction too")
	sams, err := st.People(ctx, sc, "Samuel", 10)
	require.NoError(t, err)
	assert.Empty(t, sams, "a name is its letters as they are written")
}

// Own moves are written against the library that was looked at: a stamp that is no
// longer the library's is refused and writes nothing; style and moves both change
// it, and the same contents have the same stamp.
func TestOwnMovesNeedTheStampThatWasLookedAt(t *testing.T) {
	st, sc, _ := open(t)
	stamp := func() string {
		s, err := st.LibraryStamp(ctx, sc)
		require.NoError(t, err)
		return s
	}
	fresh := stamp()
	require.NoError(
		t,
		st.PutOwnMoves(ctx, sc, &fresh, map[string][]byte{"own-b": []byte(`{"n":1}`), "own-a": []byte(`{"n":2}`)}),
	)
	first := stamp()
	assert.NotEqual(t, fresh, first)
	assert.ErrorIs(t, st.PutOwnMoves(ctx, sc, &fresh, map[string][]byte{"own-c": []byte(`{}`)}), store.ErrConflict)
	taught, err := st.Teaching(ctx, sc)
	require.NoError(t, err)
	require.Len(t, taught.Own, 2)
	assert.JSONEq(t, `{"n":2}`, string(taught.Own[0]), "in the order of their ids, the first time")
	require.NoError(t, st.ChangeStyle(ctx, sc, func([]byte) ([]byte, error) { return []byte(`{"studio":{"knees":"behind"}}`), nil }))
	assert.NotEqual(t, first, stamp())
	require.NoError(t, st.ChangeStyle(ctx, sc, func([]byte) ([]byte, error) { return []byte(`{}`), nil }))
	assert.Equal(t, first, stamp())
	// Two at once against one stamp: one wins, the other looks again.
	now, won := stamp(), atomic.Int64{}
	var wg sync.WaitGroup
	for i := range 2 {
		wg.Go(func() {
			err := st.PutOwnMoves(ctx, sc, &now, map[string][]byte{"own-a": []byte(fmt.Sprintf(`{"n":%d}`, 10+i))})
			if err == nil {
				won.Add(1)
				return
			}
			assert.ErrorIs(t, err, store.ErrConflict)
		})
	}
	wg.Wait()
	assert.EqualValues(t, 1, won.Load())
}
