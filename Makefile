# Everything one can do here. `make help` prints this list.
SHELL := bash
.SHELLFLAGS := -eu -o pipefail -c
.DEFAULT_GOAL := help
.PHONY: help demo build test soak mutate bench lint style cross format shots generate clean

CHROMIUM := /usr/bin/chromium
WEB := web/node_modules/.installed
UI := web/dist/index.html
UI_SOURCES := $(shell find web/src web/public web/index.html web/vite.config.ts web/tsconfig.json -type f 2>/dev/null)
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD := 1
export CGO_ENABLED := 0

help: ## Print this list
	@grep -hE '^[a-z]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/^([a-z]+):.*## (.*)/make \1\t\2/' | expand -t 16

demo: build ## Install, build, and serve the demo site; prints the address
	bin/brickshelf demo

build: $(UI) ## Build bin/brickshelf with its interface
	go build -trimpath -ldflags "-s -w" -o bin/brickshelf ./cmd/brickshelf

$(WEB): web/package.json web/package-lock.json
	cd web && (npm ci --no-audit --no-fund || npm ci --no-audit --no-fund)
	touch $@

$(UI): $(WEB) $(UI_SOURCES)
	rm -rf web/dist/assets
	cd web && npm run --silent build
	touch $@

# The packages whose tests draw, and how many sites and texts each such test draws.
DRAWING := $(shell grep -rl --include='*_test.go' pgregory.net/rapid internal | xargs -n1 dirname | sort -u | sed 's|^|brickshelf/|')
DRAWS := 40

# Runs a suite, ends it after so many minutes, and shows its time.
suite = @began=$$(date +%s); timeout --foreground $(2)m bash -euc '$(3)' && echo "$(1): $$(($$(date +%s) - began)) s"

test: $(CHROMIUM) build style ## Install what is missing and run all tests
	$(call suite,Tests of Go,20,go test $$(go list ./... | grep -vxF $(DRAWING:%=-e %)) && go test $(DRAWING) -rapid.checks=$(DRAWS))
	$(call suite,Tests of the interface,10,cd web && npm test --silent)
	$(call suite,Tests in the browser,40,cd web && npm run --silent e2e)

soak: ## Hold what works in steps to its slow version on many more drawn sites and texts (an hour)
	go test $(DRAWING) -rapid.checks=3000 -timeout 3h

mutate: $(UI) ## Change the code in a hundred drawn places, and list what no test notices (an hour)
	cd tools && go run ./mutate -root ..

$(CHROMIUM):
	@echo "Installing Debian's Chromium for the browser tests"
	(apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium fonts-liberation) \
		|| (sleep 10; apt-get update -qq && apt-get install -y -qq --no-install-recommends chromium fonts-liberation)

lint: style cross ## Vet and lint all code, and build for Windows and macOS (minutes, the first time)

style: $(WEB) ## Vet and lint Go and TypeScript; check that it compiles elsewhere
	@test -z "$$(gofmt -l cmd internal demo web/*.go)" || (gofmt -l cmd internal demo web/*.go; exit 1)
	@find cmd internal demo -name '*.go' ! -name '*.gen.go' -exec awk '{l = $$0; gsub(/\t/, "    ", l)} \
		length(l) > 110 && l !~ /["`]|^\/\/go:/ {print FILENAME ":" FNR ": is over 110 columns"; bad = 1} END {exit bad}' {} +
	go vet ./...
	go tool -modfile=tools/go.mod staticcheck ./...
	cd tools && go run ./cross -root ..
	cd web && npm run --silent lint

cross: $(UI) ## Build the program for Windows and macOS, into bin
	GOOS=windows go build -trimpath -ldflags "-s -w" -o bin/brickshelf.exe ./cmd/brickshelf
	GOOS=darwin GOARCH=arm64 go build -trimpath -ldflags "-s -w" -o bin/brickshelf-darwin ./cmd/brickshelf

format: $(WEB) ## Lay out Go, TypeScript, CSS and JSON as the linters want them
	gofmt -w cmd internal demo web/*.go
	cd web && npx prettier --write --log-level warn --config .prettierrc.json . ../internal/api/bridge.js

bench: $(CHROMIUM) build ## Measure, and print the table of figures
	go run ./internal/measure
	cd web && node timing.mjs

shots: $(CHROMIUM) build ## Make the pictures of docs/screenshots from the demo
	cd web && npx playwright test --config=playwright.shots.config.ts

generate: $(WEB) ## Generate server types and client from internal/api/openapi.yaml
	cd internal/api && go generate ./...
	cd web && npm run --silent contract

clean: ## Delete what was built
	rm -rf bin web/dist/assets web/dist/index.html web/node_modules
