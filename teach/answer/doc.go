// Package answer is what every room of teach answers with: a refusal, a question, a failure that
// is said, and what is kept of what was computed before. It uses the store alone.
package answer
