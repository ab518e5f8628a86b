package store

import (
	"bytes"
	"context"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/localdb/dbtest"
)

// A slow statement is logged with its placeholders and no value; a quick one is
// not.
func TestSlowStatementsAreLoggedWithoutValues(t *testing.T) {
	var log bytes.Buffer
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(&log, nil)))
	defer slog.SetDefault(before)
	st, err := Open(dbtest.DSN(t), time.Now)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	var n int
	require.NoError(
		t,
		st.db.WithContext(context.Background()).Raw("SELECT 1 WHERE 'secret name' = ?", "secret name").Scan(&n).Error,
	)
	assert.Empty(t, log.String())
	require.NoError(t, st.db.Raw("SELECT SLEEP(?)", 0.15).Scan(&n).Error)
	assert.Contains(t, log.String(), "slow query")
	assert.Contains(t, log.String(), "SLEEP(?)")
	assert.NotContains(t, log.String(), "0.15)")
}
