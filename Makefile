# Everything that a person does with this repository. Each target sets up what
# it needs; see scripts/need.sh.
SHELL := bash
.SHELLFLAGS := -eu -o pipefail -c
export CGO_ENABLED := 0
export DOGBOLT_REFERENCES := 1
STATICCHECK := honnef.co/go/tools/cmd/staticcheck@v0.8.2
GOLANGCI := github.com/golangci/golangci-lint/v2/cmd/golangci-lint@v2.15.0
REDOCLY := @redocly/cli@1.34.3
GO_FILES := $(shell find cmd core internal -name '*.go' -o -name '*.json' -o -name '*.html' -o -name '*.ttf' -o -name '*.sql')
WEB_FILES := $(shell find web -path web/node_modules -prune -o -path web/harness/dist -prune -o -name "judge*" -prune -o -type f -print)

.PHONY: demo build test test-all torture times presses mutants bench bench-peer stats screenshots icons generate drift lint clean

demo: build
	@bin/dogbolt demo

build: bin/dogbolt

bin/dogbolt: internal/webui/dist/index.html $(GO_FILES) go.mod go.sum
	@scripts/need.sh go
	go build -trimpath -o $@ ./cmd/dogbolt

# The rules for a device without signal, and the runtime that they need.
web/public/judge.wasm.gz: $(shell find core cmd/judge -name '*.go' -o -name '*.json') go.mod go.sum
	@scripts/need.sh go
	GOOS=js GOARCH=wasm go build -trimpath -ldflags="-s -w" -o web/public/judge.wasm ./cmd/judge
	gzip -9 -n -f web/public/judge.wasm
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" web/public/judge.js

internal/webui/dist/index.html: web/node_modules/.package-lock.json web/public/judge.wasm.gz $(WEB_FILES)
	cd web && npx vite build --logLevel warn
	@touch internal/webui/dist/.gitkeep $@

# The queue without pages, which e2e plays histories on.
web/harness/dist/index.html: web/node_modules/.package-lock.json $(WEB_FILES)
	cd web && npx vite build --config harness/vite.config.ts --logLevel warn
	@touch $@

web/node_modules/.package-lock.json: web/package-lock.json
	@scripts/need.sh node
	cd web && npm ci --no-fund --no-audit --loglevel=error
	@touch $@

# What is generated from the program and kept in the repository.
generate: bin/dogbolt
	bin/dogbolt describe openapi > web/openapi.json
	bin/dogbolt describe job-schema > docs/formats/job.schema.json
	bin/dogbolt describe paper-schema > docs/formats/paper.schema.json
	bin/dogbolt describe charger-schema > docs/formats/charger.schema.json
	bin/dogbolt describe readings-schema > docs/formats/readings.schema.json
	bin/dogbolt describe examples docs/formats/examples
	bin/dogbolt describe rules > docs/rules.md
	bin/dogbolt describe words > web/src/api/words.json
	go run ./internal/testkit/arch > docs/architecture.svg
	go run ./internal/testkit/notices > docs/third-party.md
	cd web && npx openapi-typescript openapi.json -o src/api/schema.d.ts > /dev/null

# Fails where a generated file is not what the program would generate.
drift: bin/dogbolt
	@scripts/drift.sh

lint: web/node_modules/.package-lock.json
	go vet -tags e2e ./...
	cd bench/peer && go vet ./...
	go run $(STATICCHECK) -tags e2e ./...
	@test -z "$$(gofmt -l cmd core internal e2e bench)" || { echo "gofmt wants to change: $$(gofmt -l cmd core internal e2e bench)"; exit 1; }
	cd web && npx vue-tsc --noEmit && npm run --silent lint

test: build web/harness/dist/index.html
	@scripts/need.sh go node references browser
	@$(MAKE) --no-print-directory drift lint
	go test ./...
	go test -tags e2e -count=1 -timeout 30m -parallel 2 ./e2e

# What is long: the race detector where requests meet, every mutant, longer fuzzing, and
# linters that are not in test. Passes before an issue is closed.
test-all: test mutants
	@scripts/need.sh cc
	CGO_ENABLED=1 go test -race ./internal/store ./internal/rooms/... ./internal/httpapi
	go test ./internal/rooms -run TestImportSaveExport -v
	go test ./core/job -run '^$$' -fuzz FuzzRead -fuzztime 60s -fuzzminimizetime 50x
	go test ./internal/httpapi -run '^$$' -fuzz FuzzOneField -fuzztime 120s -fuzzminimizetime 50x
	go run $(GOLANGCI) run
	DOGBOLT_AXE=all DOGBOLT_KEYS=all DOGBOLT_KINDS=all DOGBOLT_TORTURE=3m \
		go test -tags e2e -count=1 -timeout 45m -run "TestAxe|TestByKeyboard|TestReflow|TestEveryPage|TestEveryFindingHasItsField|TestKinds|TestRemoval|TestSeveral|TestHistories" ./e2e
	cd web && REDOCLY_TELEMETRY=off npx --yes $(REDOCLY) lint --config openapi-lint.yaml openapi.json

# How long a person waits on a slow line: docs/slow-line.md. Lighthouse comes from the registry.
times: build
	@scripts/need.sh browser node
	DOGBOLT_TIMES=$(CURDIR)/docs/slow-line.md go test -tags e2e -count=1 -timeout 900s -run TestTimes -v ./e2e

# How long a press on the crew's pages takes on a slow processor: a table for docs/benchmarks.md.
presses: build
	@scripts/need.sh browser
	DOGBOLT_PRESSES=1 go test -tags e2e -count=1 -run TestPresses -v ./e2e

# Plays random histories of devices and bad networks for an hour, or as long as HOW_LONG
# says, and names the seed of one that ends badly.
HOW_LONG ?= 1h
torture: build web/harness/dist/index.html
	@scripts/need.sh go browser
	DOGBOLT_TORTURE=$(HOW_LONG) go test -tags e2e -count=1 -timeout 0 -run TestHistories -v ./e2e

# Breaks the program in one place at a time and names what no test noticed.
mutants:
	@scripts/need.sh go
	go run ./internal/testkit/mutants

# The numbers of docs/benchmarks.md.
bench: build
	@scripts/need.sh go
	go test -run '^$$' -bench . -benchmem ./core/... ./internal/...
	go test -tags e2e -run "^$$" -bench . ./e2e

# Measures the program beside a general-purpose back end, in one run: docs/benchmarks.md. A
# module of its own, so that the program does not depend on it.
bench-peer: build
	@scripts/need.sh go
	cd bench/peer && go build -o peer . && ./peer -dogbolt ../../bin/dogbolt -docs ../../docs; rm -f peer

# The pictures in docs/screenshots, made from the demo data.
screenshots: build
	@scripts/need.sh browser
	rm -f docs/screenshots/*.png && mkdir -p docs/screenshots
	DOGBOLT_SHOTS=$(CURDIR)/docs/screenshots go test -tags e2e -count=1 -run TestPictures ./e2e

# The icons in web/public, made from mark.svg.
icons:
	@scripts/need.sh browser
	DOGBOLT_ICONS=$(CURDIR)/web/public go test -tags e2e -count=1 -run TestIcons ./e2e

stats:
	@scripts/stats.sh

clean:
	rm -rf bin demo-data web/node_modules web/public/judge* web/harness/dist internal/webui/dist/*
