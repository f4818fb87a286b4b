// Package web serves the pages. A handler parses what was asked, calls one use case
// of package teach, and renders one struct; routes.go is the site map. A request of
// the script (HX-Request) gets the piece of page that it changes, any other the
// whole page; what is folded on a page has an address of its own and is computed
// when it is opened. A page that has not changed is not sent again.
package web
