// Package store keeps teachers, classes, songs, ladders and the log in MariaDB.
// Every query of a teacher's rows is bound to the teacher. Times are UTC.
package store
