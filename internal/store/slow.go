package store

import (
	"context"
	"log/slog"
	"time"

	"gorm.io/gorm/logger"
)

// slowFrom is how long a statement may take before it is logged.
const slowFrom = 100 * time.Millisecond

// slowLog writes slow statements to the program's log: the statement with its
// placeholders, never a value.
type slowLog struct{}

var _ logger.Interface = slowLog{}

func init() {
	// Scan records its statement through a logger of its own.
	logger.RecorderParamsFilter = slowLog{}.ParamsFilter
}

func (s slowLog) LogMode(logger.LogLevel) logger.Interface { return s }
func (slowLog) Info(context.Context, string, ...any)       {}
func (slowLog) Warn(context.Context, string, ...any)       {}
func (slowLog) Error(context.Context, string, ...any)      {}

// ParamsFilter keeps values out of what Trace is given.
func (slowLog) ParamsFilter(_ context.Context, sql string, _ ...any) (string, []any) { return sql, nil }

func (slowLog) Trace(ctx context.Context, begin time.Time, statement func() (string, int64), _ error) {
	if took := time.Since(begin); took >= slowFrom {
		sql, rows := statement()
		slog.WarnContext(ctx, "slow query", "took", took.Round(time.Millisecond), "rows", rows, "sql", sql)
	}
}
