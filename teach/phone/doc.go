// Package phone holds a student's own page: what to do today, from the week that is planned.
package phone
