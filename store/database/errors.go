package database

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"net"
	"slices"
	"strings"

	"github.com/go-sql-driver/mysql"
)

// Numbers of MariaDB's errors. Source: MariaDB Server Documentation, "MariaDB
// Error Code Reference".
var (
	duplicateKey = uint16(1062)
	// Two that ran at the same time were in each other's way; on a cluster, two
	// nodes were. 1467 is a next number that could not be read: two waited for it.
	inTheWay = []uint16{1205, 1213, 1467}
	// The server is there and cannot serve: full, read-only, without a connection
	// left, going down, cut off from its cluster, or it does not let us in.
	cannotServe = []uint16{
		1021, 1030, 1038, 1041, 1114, 1180, // no space, no memory, a commit that the disk refused
		1036, 1223, 1290, 1792, 1836, // read-only
		1040, 1129, 1203, 1226, // no connection left
		1044, 1045, 1049, 1142, 1227, 1698, // refused
		1053, 1077, 1152, 1158, 1159, 1160, 1161, 1184, 1317, 1927, 1969, 3024, // cut short
		1047, // a node without its cluster
	}
)

// Unavailable reports that the database does not answer or cannot serve: nothing
// is wrong with what was asked.
func Unavailable(err error) bool {
	var netErr *net.OpError
	var my *mysql.MySQLError
	return errors.As(err, &my) && (slices.Contains(cannotServe, my.Number) || slices.Contains(inTheWay, my.Number)) ||
		errors.Is(err, driver.ErrBadConn) || errors.Is(err, mysql.ErrInvalidConn) || errors.Is(err, sql.ErrConnDone) ||
		errors.As(err, &netErr) || errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) ||
		errors.Is(err, mysql.ErrBusyBuffer) || errors.Is(err, mysql.ErrPktSync)
}

// DiskFull reports that the database could not write for want of room.
func DiskFull(err error) bool {
	var my *mysql.MySQLError
	if !errors.As(err, &my) {
		return false
	}
	const full, tableFull = 1021, 1114
	return my.Number == full || my.Number == tableFull || strings.Contains(my.Message, "No space left on device") ||
		strings.Contains(my.Message, "rrno: 28") || strings.Contains(my.Message, "rrcode: 28") || my.Number == 1030 && strings.Contains(my.Message, "error 28")
}

func isInTheWay(err error) bool {
	var my *mysql.MySQLError
	return errors.As(err, &my) && slices.Contains(inTheWay, my.Number)
}

// IsDuplicate reports that a key that must be one alone is there already.
func IsDuplicate(err error) bool {
	var my *mysql.MySQLError
	return errors.As(err, &my) && my.Number == duplicateKey
}
