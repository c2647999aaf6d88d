# Pine Ledger. `make help` lists what there is.
SHELL := /bin/bash
PORT ?= 8417
DATA ?= data/demo
BIN := bin/pineledger
OAPI := github.com/oapi-codegen/oapi-codegen/v2/cmd/oapi-codegen@v2.8.2
STATICCHECK := honnef.co/go/tools/cmd/staticcheck@v0.8.2
AIR := github.com/air-verse/air@v1.65.3
GO_FILES := $(shell find . -name '*.go' -not -path '*/node_modules/*')
# One way to compile for binary, tests, vet and staticcheck, so that what they share is compiled once.
export CGO_ENABLED := 0
export GOFLAGS := $(GOFLAGS) -trimpath
WEB_FILES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts web/package-lock.json

.PHONY: help demo build test test-beside test-go test-web test-browser check fresh lint generate bench mutate draws screenshots dev clean chromium
.DEFAULT_GOAL := help

help: ## this list
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:[^#]*## /\t/' | expand -t 16

demo: $(BIN) ## make the demo district and serve it (PORT=, DATA=, STUDENTS=, FRESH=1)
	@$(BIN) demo --data "$(DATA)" --address 127.0.0.1:$(PORT) $(if $(STUDENTS),--students $(STUDENTS)) $(if $(FRESH),--fresh)

build: $(BIN) ## build the web part and the one binary

$(BIN): $(GO_FILES) web/dist/index.html api/contract/openapi.yaml $(wildcard demo/content/*) $(wildcard store/migrations/*)
	go build -o $(BIN) ./cmd/pineledger

web/dist/index.html: web/node_modules/.package-lock.json $(WEB_FILES)
	cd web && npm run build --silent
	@touch $@

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm ci --no-audit --no-fund --silent
	@touch $@

e2e/node_modules/.package-lock.json: e2e/package-lock.json
	cd e2e && PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 npm ci --no-audit --no-fund --silent
	@touch $@

test: ## everything: generated files, lint, types, Go, unit and browser tests
	@$(MAKE) --no-print-directory -j2 --output-sync=target test-go test-beside
	@$(MAKE) --no-print-directory -j2 fresh test-browser

test-beside: # beside the Go tests: what waits for packages, and the binary that the browsers drive
	@$(MAKE) --no-print-directory lint
	@$(MAKE) --no-print-directory test-web
	@$(MAKE) --no-print-directory $(BIN) e2e/node_modules/.package-lock.json chromium

check: fresh lint ## generated files are fresh; format, vet, lint, types

fresh: web/node_modules/.package-lock.json # no file is stale or too large
	@scripts/large.sh
	@scripts/fresh.sh

lint: web/node_modules/.package-lock.json # format, vet, lint, types
	@test -z "$$(gofmt -l $(GO_FILES))" || { gofmt -l $(GO_FILES); echo "run gofmt on these"; exit 1; }
	go vet ./...
	go run $(STATICCHECK) ./...
	cd web && npm run lint --silent && npm run types --silent

test-go: ## Go tests
	@scripts/gotest.sh

test-web: web/node_modules/.package-lock.json ## unit tests of the web part
	cd web && npm test --silent

test-browser: $(BIN) e2e/node_modules/.package-lock.json chromium ## browser tests through the real server (LATE=300: every answer comes that many ms late)
	cd e2e && $(if $(LATE),PINELEDGER_E2E_LATE=$(LATE)) npm test --silent

chromium: # Debian's headless one, installed if there is none
	@test -x /usr/bin/chromium-headless-shell || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium-headless-shell; }

generate: web/node_modules/.package-lock.json ## server and client types from api/contract/openapi.yaml, blank parts from core/item
	go run $(OAPI) -config api/contract/codegen.yaml api/contract/openapi.yaml
	cd web && npm run generate --silent
	go run ./scripts/blanks > web/src/places/write/blank.gen.json

bench: $(BIN) e2e/node_modules/.package-lock.json chromium ## what is promised, measured beside the bare limit
	go run ./bench
	cd e2e && node firstitem.js

mutate: ## how much the core's tests notice: small mistakes put in one at a time (EACH=40, PACKAGES=core/band …)
	go run ./scripts/mutate $(if $(EACH),-each $(EACH)) $(PACKAGES)

draws: ## a million small draws, best, at random and short, each against trying every set (CHECKS=10000 of each)
	go test ./core/draw -count=1 -timeout 60m -run 'TestABestDrawIs|TestARandomDrawFinds|TestAShortageIsExact' -rapid.checks=$(or $(CHECKS),333334) -rapid.nofailfile

screenshots: $(BIN) e2e/node_modules/.package-lock.json chromium ## the pictures in docs/screenshots, from the demo
	cd e2e && npm run screenshots --silent

dev: web/node_modules/.package-lock.json ## reload both sides while working; the screens are at http://127.0.0.1:5173
	@trap 'kill 0' EXIT; (cd web && PORT=$(PORT) npm run dev --silent) & \
	go run $(AIR) --build.cmd "go build -o bin/pineledger-dev ./cmd/pineledger" --build.entrypoint bin/pineledger-dev \
	  --build.args_bin "demo,--data,$(DATA),--address,127.0.0.1:$(PORT)" --build.exclude_dir "web,e2e,docs,data,bin" --build.include_ext "go,sql,yaml,txt"

clean: ## what was built; data stays
	rm -rf bin web/node_modules e2e/node_modules web/dist/assets web/dist/index.html
