// Package order is the schools of learning: what comes first on a ladder. It uses nothing.
package order
