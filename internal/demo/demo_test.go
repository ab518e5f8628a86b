package demo

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

func TestMain(m *testing.M) { dbtest.Main(m) }

// The demo is loaded once; at a later start its classes move along and what was
// done stays.
func TestDemoMovesWithTheClock(t *testing.T) {
	ctx := context.Background()
	at := time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)
	st, err := store.Open(dbtest.DSN(t), func() time.Time { return at })
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	require.NoError(t, st.Migrate(ctx))
	all := studio.New(st, func() time.Time { return at })
	owner, err := Load(ctx, all, at)
	require.NoError(t, err)
	sc := store.Scope{StudioID: owner.Studio}
	c, err := st.Class(ctx, sc, ID("class/noon/0"))
	require.NoError(t, err)
	assert.Equal(t, "10:20", c.LocalTime) // Berlin, twenty minutes on
	oldest := classID(t, st, sc, "class/noon/8")
	lines, err := st.LogLines(ctx, sc, oldest)
	require.NoError(t, err)
	at8 := len(lines)
	assert.Greater(t, at8, 3*18, "everybody by name, and their lanes")
	kept := store.Implement{PublicID: ID("hall/Bell16"), Name: "Mine now", Kind: "kettlebell", MassDecimal: ptr("16"), MassUnit: ptr("kg"), MassG: ptr(int64(16000)), Count: 2}
	require.NoError(t, st.PutThing(ctx, sc, ID("place/hall"), kept))

	at = at.AddDate(0, 0, 3).Add(11 * time.Hour)
	again, err := Load(ctx, all, at)
	require.NoError(t, err)
	assert.Equal(t, owner, again)
	c, err = st.Class(ctx, sc, ID("class/noon/0"))
	require.NoError(t, err)
	assert.Equal(t, "2026-11-28 21:20", c.LocalDate.Format(time.DateOnly)+" "+c.LocalTime)
	lines, err = st.LogLines(ctx, sc, oldest)
	require.NoError(t, err)
	assert.Len(t, lines, at8)
	p, err := st.Place(ctx, sc, ID("place/hall"))
	require.NoError(t, err)
	stock, err := st.Stock(ctx, sc, p.ID)
	require.NoError(t, err)
	found := false
	for _, i := range stock.Implements {
		found = found || i.Name == "Mine now"
	}
	assert.True(t, found, "what somebody changed stays")
}

func ptr[T any](v T) *T { return &v }

func classID(t *testing.T, st *store.Store, sc store.Scope, key string) int64 {
	t.Helper()
	c, err := st.Class(context.Background(), sc, ID(key))
	require.NoError(t, err)
	return c.ID
}
