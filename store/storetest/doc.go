// Package storetest gives tests a MariaDB of their own on a free port.
package storetest
