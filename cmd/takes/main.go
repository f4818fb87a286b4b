// Command takes tries the ear on simulated players: takes whose truth is known, on our tones or on sampled strings
// (fluidsynth), clean or with what a room and a cheap phone do to them (sox). It prints the table of docs/listen.md.
package main

import (
	"flag"
	"fmt"
	"os"
	"runtime"
	"strings"
	"sync"
)

func main() {
	n := flag.Int("n", 60, "takes of each source and condition")
	seed := flag.Uint64("seed", 2000, "the first seed; thresholds were chosen on seeds below 2000")
	sources := flag.String("sources", "ours,nylon,steel,midi", "who plays")
	conditions := flag.String("conditions", "clean,20dB,10dB,phone,room,detuned", "how it is recorded")
	worst := flag.Bool("worst", false, "say for each take what went wrong")
	write := flag.String("write", "", "a file whose table, between two marks, is made new")
	flag.Parse()
	dir, err := os.MkdirTemp("", "takes")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	defer os.RemoveAll(dir)
	table := head + "\n"
	fmt.Println(head)
	for _, source := range strings.Split(*sources, ",") {
		for _, condition := range strings.Split(*conditions, ",") {
			if source == "midi" && condition != "clean" {
				continue
			}
			sum, err := try(dir, source, condition, *n, *seed, *worst)
			if err != nil {
				fmt.Fprintln(os.Stderr, err)
				os.Exit(1)
			}
			table += sum.row(source, condition) + "\n"
			fmt.Println(sum.row(source, condition))
		}
	}
	if *write != "" {
		if err := renew(*write, table); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
	}
}

// Marks around the table in a file.
const begins, ends = "<!-- takes -->\n", "<!-- /takes -->"

// renew puts a table between the marks of a file.
func renew(file, table string) error {
	text, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	before, rest, found := strings.Cut(string(text), begins)
	_, after, closed := strings.Cut(rest, ends)
	if !found || !closed {
		return fmt.Errorf("%s has no marks %q and %q", file, strings.TrimSpace(begins), ends)
	}
	return os.WriteFile(file, []byte(before+begins+table+ends+after), 0o644)
}

// try plays, records and judges so many takes.
func try(dir, source, condition string, n int, seed uint64, worst bool) (sum tally, err error) {
	var wg sync.WaitGroup
	var lock sync.Mutex
	jobs := make(chan uint64)
	for range runtime.GOMAXPROCS(0) {
		wg.Go(func() {
			for s := range jobs {
				one, failed := judge(dir, source, condition, s)
				lock.Lock()
				if failed != nil {
					err = fmt.Errorf("%s, %s, seed %d: %w", source, condition, s, failed)
				} else {
					sum.add(one)
					if worst && one.says != "" {
						fmt.Fprintf(os.Stderr, "%s %s %d %s\n", source, condition, s, one.says)
					}
				}
				lock.Unlock()
			}
		})
	}
	for s := seed; s < seed+uint64(n); s++ {
		jobs <- s
	}
	close(jobs)
	wg.Wait()
	return sum, err
}
