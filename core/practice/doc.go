// Package practice is about what students can do and when: the log line, and
// the cautions that belong wherever practice is planned.
package practice
