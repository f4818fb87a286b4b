# Every target installs what it needs and is missing; see scripts/need.
.PHONY: demo build test check e2e screenshots contact reference bench fuzz

demo: build
	@exec bin/arplin demo $(ARGS)

build:
	@scripts/need go database
	@go build -o bin/arplin ./cmd/arplin

test:
	@scripts/need go node database browser
	@scripts/check
	@go test ./...
	@$(MAKE) --no-print-directory e2e

check:
	@scripts/need go node
	@scripts/check

e2e: build
	@scripts/need node browser
	@cd e2e && npx playwright test

# Remakes docs/screenshots from the demo data.
screenshots: build
	@scripts/need node browser
	@node e2e/screenshots.mjs

# The catalogue and its ladders, to be read from top to bottom.
contact:
	@scripts/need go
	@go run ./cmd/contact

# Renews what the core's tests compare with from the npm packages.
reference:
	@scripts/need node
	@node e2e/reference.mjs

bench:
	@go test -p 1 -run '^$$' -bench . -benchmem ./core/... ./web

fuzz:
	@go test -run '^$$' -fuzz FuzzParseChord -fuzztime 2m ./core/theory
	@go test -run '^$$' -fuzz FuzzParse -fuzztime 2m ./core/hand
	@go test -run '^$$' -fuzz FuzzParseBar -fuzztime 2m ./core/song
	@go test -run '^$$' -fuzz FuzzRead -fuzztime 2m ./format/chordpro
