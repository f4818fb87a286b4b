package main

import (
	"bufio"
	"cmp"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/bpm"
	"arplin/core/plan"
	"arplin/core/practice"
)

type practiceAnswer struct {
	Steps     []practiceStep `json:"steps"`
	Decision  string         `json:"decision"`
	NextTempo int            `json:"next_tempo"`
	Says      string         `json:"says"`
	Because   []int64        `json:"because"`
}

type practiceStep struct {
	Step       string  `json:"step"`
	State      string  `json:"state"`
	CleanTempo int     `json:"clean_tempo"`
	Confidence float64 `json:"confidence"`
}

// decisionNames are the decisions as they are written here.
var decisionNames = map[practice.Kind]string{practice.MoveOn: "move on", practice.Jump: "jump", practice.Stay: "stay", practice.Ease: "ease", practice.Drill: "drill"}

// maxLogLines bounds the log that is read.
const maxLogLines = 100_000

// calcPractice decides what comes next from lines of a log, as the desk does: on the step that was played last.
func calcPractice(f *calcFlags) (any, error) {
	if f.goal < bpm.Min || f.goal > bpm.Max {
		return nil, fmt.Errorf("goal: %d is not a tempo from %d to %d", f.goal, bpm.Min, bpm.Max)
	}
	today, err := time.Parse(time.DateOnly, f.today)
	if err != nil {
		return nil, fmt.Errorf("today: %q is no date such as 2026-03-02", f.today)
	}
	order, by, err := readPractice(f.in, dayOf(today))
	if err != nil {
		return nil, err
	}
	out := practiceAnswer{Steps: []practiceStep{}, Because: []int64{}}
	for _, step := range order {
		s := practice.Stand(by[step], f.goal, dayOf(today), false)
		out.Steps = append(out.Steps, practiceStep{step, string(s.State), s.Last, s.Confidence})
	}
	last := order[len(order)-1]
	s, d := plan.On{Tries: by[last], Goal: f.goal, Steps: 1, Today: dayOf(today)}.Decide()
	out.Decision, out.NextTempo, out.Says = decisionNames[d.Kind], s.Next, plan.Words.Say(d.Why)
	out.Because = append(out.Because, d.Because...)
	return out, nil
}

// dayOf counts days.
func dayOf(t time.Time) int { return int(t.Unix() / (24 * 60 * 60)) }

// readPractice reads lines "date,step,tempo,clean,minutes" up to a day; an entry has the number of its
// line. The steps come in the order in which they were last played, the last one at the end.
func readPractice(in io.Reader, today int) (order []string, by map[string][]practice.Try, err error) {
	by = map[string][]practice.Try{}
	lines := bufio.NewScanner(in)
	for n := int64(1); lines.Scan(); n++ {
		text := strings.TrimSpace(lines.Text())
		if text == "" || n == 1 && strings.HasPrefix(strings.ToLower(text), "date") {
			continue
		}
		if n > maxLogLines {
			return nil, nil, fmt.Errorf("log: it has more than %d lines", maxLogLines)
		}
		fields := strings.Split(text, ",")
		for i := range fields {
			fields[i] = strings.TrimSpace(fields[i])
		}
		if len(fields) < 4 || len(fields) > 5 || fields[1] == "" {
			return nil, nil, fmt.Errorf("line %d: write date,step,tempo,clean,minutes", n)
		}
		day, err := time.Parse(time.DateOnly, fields[0])
		if err != nil {
			return nil, nil, fmt.Errorf("line %d: %q is no date such as 2026-03-02", n, fields[0])
		}
		if dayOf(day) > today {
			return nil, nil, fmt.Errorf("line %d: %s lies after today", n, fields[0])
		}
		tempo, err := practice.ParseTempo(fields[2])
		if err != nil {
			return nil, nil, fmt.Errorf("line %d: %w", n, err)
		}
		if fields[3] != "yes" && fields[3] != "no" {
			return nil, nil, fmt.Errorf("line %d: clean is yes or no, not %q", n, fields[3])
		}
		if len(fields) == 5 && fields[4] != "" {
			if m, err := strconv.Atoi(fields[4]); err != nil || m < 0 || m > 24*60 {
				return nil, nil, fmt.Errorf("line %d: %q is no number of minutes", n, fields[4])
			}
		}
		step := fields[1]
		order = append(slices.DeleteFunc(order, func(s string) bool { return s == step }), step)
		by[step] = append(by[step], practice.Try{ID: n, Day: dayOf(day), Tempo: tempo, Clean: fields[3] == "yes"})
	}
	if err := lines.Err(); err != nil {
		return nil, nil, fmt.Errorf("log: %w", err)
	}
	if len(order) == 0 {
		return nil, nil, fmt.Errorf("log: there is no line in it")
	}
	latest := func(step string) practice.Try {
		return slices.MaxFunc(by[step], func(a, b practice.Try) int { return cmp.Or(a.Day-b.Day, int(a.ID-b.ID)) })
	}
	slices.SortStableFunc(order, func(a, b string) int {
		return cmp.Or(latest(a).Day-latest(b).Day, int(latest(a).ID-latest(b).ID))
	})
	return order, by, nil
}
