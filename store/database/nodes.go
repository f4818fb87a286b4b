package database

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"sync/atomic"
	"time"

	"github.com/go-sql-driver/mysql"
)

// nodeTimeout is how long one node may take to let a connection in before the
// next is asked.
const nodeTimeout = 2 * time.Second

// nodes makes connections to the first node that serves. Connections to one that
// has failed are not used again, so that all move together.
type nodes struct {
	list []driver.Connector
	// turn counts how often a node was left; the one that is used is turn modulo
	// their number.
	turn atomic.Int64
	// watch is told of every query; tests set it.
	watch func(query string, args []driver.NamedValue)
}

// splitHosts takes the addresses out of a DSN: "a:3306,b:3306".
func splitHosts(dsn string) (one string, hosts []string) {
	before, rest, ok := strings.Cut(dsn, "tcp(")
	list, after, closed := strings.Cut(rest, ")")
	if !ok || !closed || !strings.Contains(list, ",") {
		return dsn, nil
	}
	for _, host := range strings.Split(list, ",") {
		if host = strings.TrimSpace(host); host != "" {
			hosts = append(hosts, host)
		}
	}
	if len(hosts) == 0 {
		return dsn, nil
	}
	return before + "tcp(" + hosts[0] + ")" + after, hosts
}

func newNodes(cfg *mysql.Config, hosts []string) (*nodes, error) {
	n := &nodes{}
	if len(hosts) == 0 {
		hosts = []string{cfg.Addr}
	}
	for _, host := range hosts {
		own := cfg.Clone()
		own.Addr = host
		connector, err := mysql.NewConnector(own)
		if err != nil {
			return nil, fmt.Errorf("the database address: %w", err)
		}
		n.list = append(n.list, connector)
	}
	return n, nil
}

// Connect asks the node in use, then the others in turn.
func (n *nodes) Connect(ctx context.Context) (driver.Conn, error) {
	var errs []error
	for range n.list {
		turn := n.turn.Load()
		conn, err := n.try(ctx, turn)
		if err == nil {
			return conn, nil
		}
		errs = append(errs, err)
		if ctx.Err() != nil {
			break
		}
		n.leave(turn)
	}
	return nil, errors.Join(errs...)
}

func (n *nodes) try(ctx context.Context, turn int64) (driver.Conn, error) {
	ctx, cancel := context.WithTimeout(ctx, nodeTimeout)
	defer cancel()
	raw, err := n.list[int(turn%int64(len(n.list)))].Connect(ctx)
	if err != nil {
		return nil, err
	}
	conn, ok := raw.(fullConn)
	if !ok {
		return nil, fmt.Errorf("the driver's connection is a %T", raw)
	}
	if len(n.list) > 1 {
		if err := ready(ctx, conn); err != nil {
			_ = conn.Close()
			return nil, err
		}
	}
	return &nodeConn{conn, n, turn}, nil
}

// Driver is the driver of all of them.
func (n *nodes) Driver() driver.Driver { return n.list[0].Driver() }

// leave has everybody go on to the next node, once for each time that it is found
// wanting.
func (n *nodes) leave(turn int64) { n.turn.CompareAndSwap(turn, turn+1) }

// ready asks a node of a cluster whether it has its cluster; a server without one
// is ready.
func ready(ctx context.Context, conn driver.QueryerContext) error {
	if state, err := shown(ctx, conn, "SHOW STATUS LIKE 'wsrep_ready'"); err != nil || state == "ON" {
		return err
	}
	if on, err := shown(ctx, conn, "SHOW VARIABLES LIKE 'wsrep_on'"); err != nil || on != "ON" {
		return err
	}
	return &mysql.MySQLError{Number: 1047, Message: "this node is without its cluster"}
}

// shown is the value of a SHOW with one row; empty without one.
func shown(ctx context.Context, conn driver.QueryerContext, query string) (string, error) {
	rows, err := conn.QueryContext(ctx, query, nil)
	if err != nil {
		return "", err
	}
	defer rows.Close()
	row := make([]driver.Value, len(rows.Columns()))
	if err := rows.Next(row); errors.Is(err, io.EOF) {
		return "", nil
	} else if err != nil {
		return "", err
	}
	value, _ := row[len(row)-1].([]byte)
	return string(value), nil
}

// fullConn is what the driver's connections can do.
type fullConn interface {
	driver.Conn
	driver.ConnBeginTx
	driver.ExecerContext
	driver.NamedValueChecker
	driver.Pinger
	driver.QueryerContext
	driver.SessionResetter
	driver.Validator
}

// nodeConn is a connection that notes when its node fails.
type nodeConn struct {
	fullConn
	nodes *nodes
	turn  int64
}

// lost are the errors after which no connection to the node is worth anything.
var lost = []uint16{1047, 1053, 1077, 1290, 1792, 1836, 1927}

func (c *nodeConn) note(err error) error {
	var my *mysql.MySQLError
	switch {
	case err == nil:
	case errors.As(err, &my):
		if slices.Contains(lost, my.Number) {
			c.nodes.leave(c.turn)
		}
	case Unavailable(err) && !errors.Is(err, context.Canceled):
		c.nodes.leave(c.turn)
	}
	return err
}

func (c *nodeConn) QueryContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Rows, error) {
	if c.nodes.watch != nil {
		c.nodes.watch(query, args)
	}
	rows, err := c.fullConn.QueryContext(ctx, query, args)
	return rows, c.note(err)
}

func (c *nodeConn) ExecContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Result, error) {
	res, err := c.fullConn.ExecContext(ctx, query, args)
	return res, c.note(err)
}

func (c *nodeConn) BeginTx(ctx context.Context, opts driver.TxOptions) (driver.Tx, error) {
	tx, err := c.fullConn.BeginTx(ctx, opts)
	return tx, c.note(err)
}

// ResetSession is asked before a connection is used again.
func (c *nodeConn) ResetSession(ctx context.Context) error {
	if c.nodes.turn.Load() != c.turn {
		return driver.ErrBadConn
	}
	return c.note(c.fullConn.ResetSession(ctx))
}
