// Package keyvalue has sessions, limits and what waits for an hour: values under keys that expire.
package keyvalue
