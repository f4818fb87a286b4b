# Every target installs what it needs and is missing; see scripts/need.
.PHONY: demo build test checked raced rest quick check e2e load torture cluster screenshots contact ways examples reference bench fuzz words

demo: build
	@exec bin/arplin demo $(ARGS)

build:
	@scripts/need go database
	@scripts/judge
	@go build -o bin/arplin ./cmd/arplin

# Everything, with the time of each part. What tests store lies in memory where there is room.
test: export GOTMPDIR := $(or $(TMPDIR),/tmp)
test: export TMPDIR := $(shell scripts/tmp)
test:
	@scripts/need go node database race browser
	@export ARPLIN_SAID=$$(mktemp) && \
	{ $(MAKE) --no-print-directory --output-sync=target --jobs=2 checked raced rest && \
	  scripts/timed "end to end" $(MAKE) --no-print-directory e2e; \
	  status=$$?; cat "$$ARPLIN_SAID"; rm -f "$$ARPLIN_SAID"; exit $$status; }

RACED = ./teach/answer ./store ./store/keyvalue ./store/schema ./web/...
RUN = go test -vet=off -shuffle=on -parallel=4
# Pages that compute for long and do one thing after another: the race detector would make ten times as much of them.
LONG = ^(TestAPageLoadsTheStylesOfWhatItShows|TestTakingItHome|TestPagesStandUpToTheWholeCatalogue|TestTheLongest)$$

checked:
	@scripts/timed check scripts/check

raced:
	@scripts/timed "store, web and what keeps answers, under the race detector" $(RUN) -race -skip '$(LONG)' $(RACED)

rest:
	@scripts/timed "the rest: the core starts nothing that could race, and the pages go through teach" $(RUN) $(filter-out $(shell go list $(RACED) 2>/dev/null),$(shell go list ./... 2>/dev/null))
	@scripts/timed "long pages" $(RUN) -run '$(LONG)' ./web

# Before every commit, in half a minute: properties tried ten times each, and no page.
quick:
	@scripts/need go node database
	@scripts/timed check scripts/check
	@scripts/timed "core, teach, formats" go test -short -vet=off ./core/... ./teach/... ./format/... ./draw ./letters ./cmd/arplin

check:
	@scripts/need go node
	@scripts/check

e2e: build
	@scripts/need node browser
	@cd e2e && npx playwright test

# Pages a second under 64 connections, for a school of three years.
load: build
	@scripts/need node
	@node e2e/load.mjs

# What the world will do to it, for a quarter of an hour: 20 kills on one machine, 60
# of first starts and migrations, every page of a grown school, and the cluster.
torture: build
	@scripts/need go database
	@go build -o bin/torture ./e2e/torture
	@bin/torture pages
	@bin/torture kills --lines 10000 --kills 20
	@bin/torture phones --entries 5000 --kills 2
	@ARPLIN_KILLS=60 go test -count=1 -timeout 30m -run 'Killed|Kill' ./store/schema ./store/localdb
	@$(MAKE) --no-print-directory cluster

# Three nodes, two copies and a proxy on this machine, and ten kills and cuts.
cluster: build
	@scripts/need go database cluster
	@go build -o bin/torture ./e2e/torture
	@bin/torture cluster --lines 5000 --kills 10

# Remakes docs/screenshots from the demo data.
screenshots: build
	@scripts/need node browser
	@node e2e/screenshots.mjs

# The catalogue and its ladders, to be read from top to bottom.
contact:
	@scripts/need go
	@go run ./cmd/contact

# A picture of each way in which a figure grows, for docs/ladder.md.
ways:
	@scripts/need go
	@go run ./cmd/contact ways

# Every sentence and label that the program says, for proofreading: those with an id, then Go,
# templates and scripts with their places.
words: build
	@bin/arplin words
	@go run ./cmd/words

# The demo's song in each format, docs/examples.
examples: build
	@scripts/examples

# Renews what the core's tests compare with from the npm packages.
reference:
	@scripts/need node
	@node e2e/reference.mjs

# Tries the ear on simulated players, on our tones and on sampled strings, and renews the table of docs/listen.md: some
# twenty minutes.
takes:
	@scripts/need go takes
	@go run ./cmd/takes -write docs/listen.md

bench:
	@go test -p 1 -run '^$$' -bench . -benchmem ./core/... ./teach/... ./format/wavfile ./web

# FUZZ_SHORT and FUZZ_LONG are how long each reader is fuzzed. An input that is new is made smaller
# for a second at most: without a bound a reader of large files does nothing else.
FUZZ_SHORT ?= 2m
FUZZ_LONG ?= 10m
FUZZING = go test -run '^$$$$' -fuzzminimizetime 1s

fuzz:
	@$(FUZZING) -fuzz '^FuzzParseChord$$' -fuzztime $(FUZZ_SHORT) ./core/theory
	@$(FUZZING) -fuzz '^FuzzParse$$' -fuzztime $(FUZZ_SHORT) ./core/pattern
	@$(FUZZING) -fuzz '^FuzzReadFigure$$' -fuzztime $(FUZZ_SHORT) ./core/pattern
	@go test -run '^TestNoStepOfFurtherFigures$$' -timeout 60m ./core/ladder -args -further 50000
	@$(FUZZING) -fuzz '^FuzzParseMelody$$' -fuzztime $(FUZZ_SHORT) ./core/song
	@$(FUZZING) -fuzz '^FuzzParseBar$$' -fuzztime $(FUZZ_SHORT) ./core/song
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_SHORT) ./format/chordpro
	@$(FUZZING) -fuzz '^FuzzParseLines$$' -fuzztime $(FUZZ_SHORT) ./core/practice
	@$(FUZZING) -fuzz '^FuzzRoster$$' -fuzztime $(FUZZ_SHORT) ./teach/people
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_SHORT) ./format/logcsv
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_LONG) ./format/bundle
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_LONG) ./format/tabtext
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_LONG) ./format/musicxml
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_LONG) ./format/midifile
	@$(FUZZING) -fuzz '^FuzzRead$$' -fuzztime $(FUZZ_LONG) ./format/wavfile
	@$(FUZZING) -fuzz '^FuzzListen$$' -fuzztime $(FUZZ_LONG) ./core/listen
