package web

import (
	"html/template"
	"slices"
	"strings"
)

// everywhere are the style sheets of every page.
var everywhere = []string{"app", "page", "folds", "touch", "marks"}

// sheets are the others, in the order in which a page loads them: each where one of these
// classes or ids stands, also for what comes into the page later.
var sheets = []struct{ name, marks string }{
	{"desk", "deskboard beside onnow newtoday"},
	{"log", "logline readchip"},
	{"first", "firsthour"},
	{"people", "people who left"},
	{"settings", "settings weighing"},
	{"student", "studentsong heardlist weeks"},
	{"song", "onebar openbar keys offers shapes sheetnote preview parthead advice role"},
	{"bench", "neighbours beyond around levelbox levelnum cards onchords compare patternintro keys-row benchline"},
	{"drill", "exercises drillshapes"},
	{"sheet", "sheet qr slips phoneway weektasks papers"},
	{"band", "minutes deskboard"},
	{"lesson", "pieces register groups tunings"},
	{"placement", "placement proposedstep"},
	{"live", "nowhead livekeys clock"},
	{"term", "term termkey forecasts eases tried span"},
	{"ladder", "ladderboard menus openstep partlanes steps"},
	{"playbar", "playbar hear hearlane"},
	{"ear", "ear"},
	{"together", "roombar partlane"},
	{"melody", "stations tunebars tunenotes becomes"},
	{"grow", "growgrid growchords"},
	{"help", "helpboard"},
	{"tuner", "tuner"},
	{"words", "wordsheet contents"},
}

// stylesOf are the style sheets that a page needs.
func stylesOf(body template.HTML) []string {
	has := map[string]bool{}
	for _, attribute := range []string{` class="`, ` id="`} {
		namesOf(string(body), attribute, has)
	}
	need := slices.Clone(everywhere)
	for _, s := range sheets {
		if slices.ContainsFunc(strings.Fields(s.marks), func(mark string) bool { return has[mark] }) {
			need = append(need, s.name)
		}
	}
	return need
}

// namesOf collects the words in an attribute of a page.
func namesOf(body, attribute string, has map[string]bool) {
	for {
		_, rest, found := strings.Cut(body, attribute)
		if !found {
			return
		}
		list, after, _ := strings.Cut(rest, `"`)
		for name := range strings.FieldsSeq(list) {
			has[name] = true
		}
		body = after
	}
}
