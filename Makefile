# make demo   builds everything and serves the demo forest at http://127.0.0.1:8080
# make test   runs every test; both install what they need
GO ?= go
BIN := bin/palethicket
UI_SOURCES := $(shell find ui/src ui/public ui/index.html ui/vite.config.ts ui/tsconfig.json -type f)

GO_SOURCES := $(shell find away book cmd/field core flora store web -name '*.go' -not -name '*_test.go') $(wildcard flora/*.yaml) \
	$(wildcard store/migrations/*.sql) go.mod

.PHONY: demo build ui test go-test ui-test tools generate screenshots clean

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

build/field/field.wasm.br: $(GO_SOURCES) ui/pack.mjs
	mkdir -p build/field
	$(GO) run ./cmd/palethicket flora parse flora
	GOOS=js GOARCH=wasm $(GO) build -tags sqlite3_dotlk -trimpath -ldflags="-s -w" -o build/field.wasm ./cmd/field
	node ui/pack.mjs build/field.wasm build/field
	cp "$$($(GO) env GOROOT)/lib/wasm/wasm_exec.js" build/field/

ui/node_modules/.ready: ui/package-lock.json
	cd ui && npm ci --no-audit --no-fund
	touch $@

test: ui-test go-test

ui-test: ui/node_modules/.ready
	cd ui && npm run --silent types && npm run --silent lint && npm run --silent test

go-test: ui tools
	$(GO) mod tidy -diff
	$(GO) vet ./...
	$(GO) tool staticcheck ./...
	$(GO) test -timeout 30m $$($(GO) list ./... | grep -v /e2e$$)
	PT_E2E=1 $(GO) test -timeout 30m ./e2e # by itself: the browser takes every processor

# What the tests use beside Go and Node; another Chromium may be named in PT_CHROMIUM.
tools:
	@sh .ci/tools

# What is made from other files and committed: the API's description and its types.
generate: ui/node_modules/.ready
	$(GO) run ./cmd/palethicket openapi > ui/openapi.json
	cd ui && npm run --silent api

screenshots: ui tools
	PT_SCREENSHOTS=$(CURDIR)/docs/screenshots PT_E2E=1 $(GO) test -count=1 -run TestScreens ./e2e

clean:
	rm -rf bin build ui/dist ui/node_modules flora/*.parsed
