package store

import "strings"

// pageSize is how many things a page of a list has.
const pageSize = 50

// Find narrows a list to what has every word in its names, and to one page of it.
type Find struct {
	Words string
	Page  int // from 0
}

// where is a condition that every word stands in one of the columns, with its
// arguments. The database's collation decides what is the same letter.
func (f Find) where(columns ...string) (sql string, args []any) {
	for _, word := range strings.Fields(f.Words) {
		var any []string
		for _, c := range columns {
			any = append(any, c+" LIKE ?")
			args = append(args, "%"+likeText.Replace(word)+"%")
		}
		sql += " AND (" + strings.Join(any, " OR ") + ")"
	}
	return sql, args
}

// likeText makes signs of LIKE letters.
var likeText = strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`)

// limit reads one more than a page, which tells whether there is another.
func (f Find) limit() (sql string, args []any) {
	return " LIMIT ? OFFSET ?", []any{pageSize + 1, max(0, f.Page) * pageSize}
}

// paged takes the one more off.
func paged[T any](list []T) (page []T, more bool) {
	if len(list) > pageSize {
		return list[:pageSize], true
	}
	return list, false
}
