// Package localdb runs a MariaDB of Arplin's own on loopback, with its own data
// folder. It never touches a server that is already on the machine.
package localdb
