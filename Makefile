# The commands of the README. Every one installs what it needs from Debian, npm and the Go module proxy.
SHELL := /bin/bash
.DELETE_ON_ERROR:
export GOFLAGS := -buildvcs=false

.PHONY: build demo test race lint bench load generate format packages pages clean

build: pages
	go build -trimpath -o bin/amberseal ./cmd/amberseal

# Builds everything and starts the demo house at 127.0.0.1:8080.
demo: build
	bin/amberseal demo

# Installs what the tests need and runs all of them.
test: packages build lint
	go test ./...
	cd e2e && AMBERSEAL=$(CURDIR)/bin/amberseal ../ui/node_modules/.bin/playwright test

# The race detector over all that many do at once; it takes some minutes and is not part of the tests.
race: packages
	go test -race ./app/... ./adapter/... ./web/... ./core/form ./core/phrase ./core/formula

lint: ui/node_modules/.stamp
	@test -z "$$(gofmt -l app adapter cmd core demo standin ui/*.go web)" || { gofmt -l app adapter cmd core demo standin ui/*.go web; echo "Run make format."; exit 1; }
	go vet ./...
	cd ui && npm run --silent check

# Milliseconds and allocations, beside headless Chromium doing the same in the same run.
bench: packages build
	node e2e/form-bench.mjs
	node e2e/bench.mjs

# Submissions accepted and delivered per second with 64 clients against a real server.
load: build
	go run ./e2e/load

generate: ui/node_modules/.stamp
	go generate ./web/api
	cd ui && npm run --silent types

format: ui/node_modules/.stamp
	gofmt -w app adapter cmd core demo standin ui/*.go web
	cd ui && npm run --silent format

pages: ui/node_modules/.stamp
	cd ui && npm run --silent build

ui/node_modules/.stamp: ui/package.json ui/package-lock.json
	cd ui && npm ci --silent --no-audit --no-fund
	touch $@

# Debian's packages, installed only when one is missing.
PACKAGES := chromium qpdf poppler-utils mupdf-tools ghostscript zbar-tools unicode-data python3 default-jre-headless libpdfbox2-java libjaxb-api-java libactivation-java
packages:
	@missing=; for p in $(PACKAGES); do dpkg -s $$p >/dev/null 2>&1 || missing="$$missing $$p"; done; \
	if [ -n "$$missing" ]; then \
	  sudo=; [ "$$(id -u)" = 0 ] || sudo=sudo; \
	  $$sudo apt-get update -q && $$sudo apt-get install -qy --no-install-recommends $$missing; \
	fi

clean:
	rm -rf bin ui/dist/admin ui/dist/public ui/node_modules
