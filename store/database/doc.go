// Package database opens MariaDB, one server or the nodes of a cluster, and runs statements and
// transactions on it: again where two were in each other's way, with what each error means.
// It knows no table.
package database
