# make demo     builds everything and serves the demo forest at http://127.0.0.1:8080
# make test     runs the quick tests: before each commit
# make nightly  runs all tests, benchmarks and fuzzers; all three install what they need
GO ?= go
BIN := bin/palethicket
UI_SOURCES := $(shell find ui/src ui/public ui/index.html ui/vite.config.ts ui/tsconfig.json -type f)

# The sources of the program for the browser, as Go lists them. What the flora is frozen into is made from its files.
FIELD_SOURCES = $(filter-out %/frozen,$(shell GOOS=js GOARCH=wasm $(GO) list -deps -e -f \
	'{{if and .Module .Module.Main}}{{$$d := .Dir}}{{range .GoFiles}}{{$$d}}/{{.}} {{end}}{{range .EmbedFiles}}{{$$d}}/{{.}} {{end}}{{end}}' \
	./cmd/field)) $(wildcard flora/*.yaml) go.mod

.PHONY: demo build ui test nightly go-test ui-test ui-types ui-lint ui-units e2e-test fuzz tools generate screenshots clean

demo: build
	mkdir -p build
	$(BIN) demo --data build/demo.db

build: ui
	$(GO) build -o $(BIN) ./cmd/palethicket

ui: ui/dist/field.wasm.br

ui/dist/index.html: ui/node_modules/.ready $(UI_SOURCES)
	cd ui && npm run --silent build

# The program for the browser, packed, and what the Go that built it needs there. The tag
# has SQLite's connections share what WAL needs in memory, as there is no file for it.
ui/dist/field.wasm.br: ui/dist/index.html build/field/field.wasm.br
	cp build/field/* ui/dist/

build/field/field.wasm.br: $(FIELD_SOURCES) ui/pack.mjs
	mkdir -p build/field
	$(GO) run ./cmd/palethicket flora freeze flora/frozen
	GOOS=js GOARCH=wasm $(GO) build -tags sqlite3_dotlk -trimpath -ldflags="-s -w" -o build/field.wasm ./cmd/field
	node ui/pack.mjs build/field.wasm "$$($(GO) env GOROOT)/lib/wasm/wasm_exec.js" build/field

ui/node_modules/.ready: ui/package-lock.json
	cd ui && npm ci --no-audit --no-fund
	touch $@

test: ui-test go-test e2e-test

ui-test: ui/node_modules/.ready
	@$(MAKE) --no-print-directory -j 2 ui-types ui-lint ui-units

ui-types:
	cd ui && npm run --silent types

ui-lint:
	cd ui && npm run --silent lint

ui-units:
	cd ui && npm run --silent test

# e2e runs by itself: its browser takes every processor. -short leaves long tests to make nightly.
PACKAGES = $$($(GO) list ./... | grep -v /e2e$$)
SHORT ?= -short

go-test: ui tools
	$(GO) mod tidy -diff
	$(GO) vet ./...
	$(GO) tool staticcheck ./...
	PT_E2E=1 $(GO) test $(SHORT) -vet=off -timeout 60m $(PACKAGES)

e2e-test: ui tools
	PT_E2E=1 $(GO) test $(SHORT) -vet=off -parallel 4 -timeout 30m ./e2e

# All of it takes an hour or more.
nightly: ui-test
	$(MAKE) go-test e2e-test SHORT=
	$(GO) test -run '^$$' -bench . -benchtime 1x $(PACKAGES)
	$(MAKE) fuzz
	$(MAKE) screenshots

# Fuzzes each reader for a minute.
FUZZED = $$(grep -rl --include='*_test.go' '^func Fuzz' . | grep -v node_modules | xargs -n 1 dirname | sort -u)

fuzz:
	@set -e; for at in $(FUZZED); do \
		for name in $$(grep -ho '^func Fuzz[A-Za-z]*' $$at/*_test.go | cut -d ' ' -f 2); do \
			echo "$$at $$name"; $(GO) test -run '^$$' -fuzz "^$$name$$" -fuzztime $(or $(FUZZTIME),1m) $$at; \
		done; \
	done

# What the tests use beside Go and Node; another Chromium may be named in PT_CHROMIUM.
tools:
	@sh .ci/tools

# What is made from other files and committed: the API's description and its types.
generate: ui/node_modules/.ready
	$(GO) run ./cmd/palethicket openapi > ui/openapi.json
	cd ui && npm run --silent api
	PT_WRITE=1 $(GO) test -count=1 -run TestAccessTable ./web

screenshots: ui tools
	PT_SCREENSHOTS=$(CURDIR)/docs/screenshots PT_E2E=1 $(GO) test -count=1 -run 'TestViews|TestPictureAway' ./e2e

clean:
	rm -rf bin build ui/dist ui/node_modules flora/frozen
