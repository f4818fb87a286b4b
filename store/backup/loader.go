package backup

import (
	"context"
	"database/sql"
	"slices"
	"strings"
)

// loader stores rows by the hundred. Those that refer to another row of their own table come last: in backups of
// November 2026 they may stand before it.
type loader struct {
	ctx    context.Context
	tx     *sql.Tx
	insert string
	one    string // the place for a row
	rows   int
	bytes  int
	values []any
	refers int         // the column that refers to the same table; -1 for none
	last   [][]*string // the rows that do
}

// withdraws is the one column that refers to its own table.
const withdraws = "withdraws"

// How much goes into one statement.
const (
	loadRows  = 200
	loadBytes = 1 << 20
)

func (l *loader) table(of line) error {
	name, columns := of.Table, of.Columns
	if err := l.end(); err != nil {
		return err
	}
	l.refers = slices.Index(columns, withdraws)
	l.insert = "INSERT INTO " + name + " (`" + strings.Join(columns, "`, `") + "`) VALUES "
	l.one = "(?" + strings.Repeat(", ?", len(columns)-1) + ")"
	return nil
}

func (l *loader) row(values []*string) error {
	if l.refers >= 0 && values[l.refers] != nil {
		l.last = append(l.last, values)
		return nil
	}
	return l.add(values)
}

// end stores what is left of a table: first the rows to which the last ones refer.
func (l *loader) end() error {
	if err := l.flush(); err != nil {
		return err
	}
	last := l.last
	l.last = nil
	for _, values := range last {
		if err := l.add(values); err != nil {
			return err
		}
	}
	return l.flush()
}

func (l *loader) add(values []*string) error {
	for _, v := range values {
		if v == nil {
			l.values = append(l.values, nil)
			continue
		}
		l.values = append(l.values, *v)
		l.bytes += len(*v)
	}
	if l.rows++; l.rows >= loadRows || l.bytes > loadBytes {
		return l.flush()
	}
	return nil
}

func (l *loader) flush() error {
	if l.rows == 0 {
		return nil
	}
	_, err := l.tx.ExecContext(l.ctx, l.insert+l.one+strings.Repeat(", "+l.one, l.rows-1), l.values...)
	l.rows, l.bytes, l.values = 0, 0, nil
	return err
}
