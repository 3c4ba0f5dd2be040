package store

import (
	"context"
	"log/slog"
	"slices"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// sqlLogger lets GORM write to the program's own log: statements that failed,
// without their values, which are people's.
func sqlLogger(log *slog.Logger) logger.Interface {
	return logger.NewSlogLogger(slog.New(surprises{log.Handler()}), logger.Config{LogLevel: logger.Error, IgnoreRecordNotFoundError: true, ParameterizedQueries: true})
}

// surprises passes on what nobody expects: errors, but not that somebody gave up
// waiting, or that a row was there already, which callers deal with.
type surprises struct{ slog.Handler }

func (h surprises) Enabled(ctx context.Context, level slog.Level) bool {
	return level >= slog.LevelError && h.Handler.Enabled(ctx, level)
}

func (h surprises) Handle(ctx context.Context, r slog.Record) error {
	expected := ctx.Err() != nil
	r.Attrs(func(a slog.Attr) bool {
		expected = expected || isExpected(a)
		return !expected
	})
	if expected {
		return nil
	}
	return h.Handler.Handle(ctx, r)
}

// isExpected looks for the error in what GORM logs: a text in a group.
func isExpected(a slog.Attr) bool {
	if a.Value.Kind() == slog.KindGroup {
		return slices.ContainsFunc(a.Value.Group(), isExpected)
	}
	said := a.Value.String()
	return a.Key == "error" && slices.ContainsFunc([]error{context.Canceled, context.DeadlineExceeded, gorm.ErrDuplicatedKey}, func(err error) bool { return strings.Contains(said, err.Error()) })
}

func (h surprises) WithAttrs(attrs []slog.Attr) slog.Handler {
	return surprises{h.Handler.WithAttrs(attrs)}
}

func (h surprises) WithGroup(name string) slog.Handler { return surprises{h.Handler.WithGroup(name)} }
