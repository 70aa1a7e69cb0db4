# The commands of the README. Every one installs what it needs from Debian, npm and the Go module proxy.
SHELL := /bin/bash
.DELETE_ON_ERROR:
export GOFLAGS := -buildvcs=false
GO := app adapter cmd core demo judges standin ui/*.go web *.go

.PHONY: build demo test judges judges-ready race thorough lint bench load scale pairs generate format packages pages clean

build: pages
	go build -trimpath -o bin/amberseal ./cmd/amberseal

# Builds everything and starts the demo house at 127.0.0.1:8080.
demo: build
	bin/amberseal demo

# Installs what the tests need and runs all of them.
test: packages build lint
	go test ./...
	cd ui && npm run --silent test
	cd e2e && AMBERSEAL=$(CURDIR)/bin/amberseal ../ui/node_modules/.bin/playwright test

# Judges from Maven and PyPI hold the documents, schemas and interface against their standards. bin/judges ends with 1 when one
# finds a fault and with 2 when one could not be fetched; make itself ends with 2 for both.
judges: judges-ready
	bin/judges

judges-ready: build
	@$(call install,$(JUDGES))
	go build -trimpath -o bin/judges ./judges

# The race detector over all that many do at once; it takes some minutes and is not part of the tests.
race: packages ui/node_modules/.stamp
	go test -race -timeout 30m ./app/... ./adapter/... ./web/... ./core/ask/form ./core/words/phrase ./core/ask/formula

# What takes too long for each stop: the race detector, each fuzz target for a while, twenty times the chance in the tests that draw
# lots, word-processor files set anew by another setter, and the load in ten runs in turn beside the commit BEFORE. Some forty minutes on two cores.
BEFORE ?= HEAD~1
FUZZ := 60s
thorough: race build
	grep -rl '^func Fuzz' --include='*_test.go' . | xargs grep -Ho '^func Fuzz[A-Za-z]*' | while IFS=: read file name; do \
	  go test "$$(dirname $$file)" -run '^$$' -fuzz "^$${name#func }$$" -fuzztime $(FUZZ) -fuzzminimizetime 20x || exit 1; done
	AMBERSEAL_THOROUGH=1 go test -count 1 ./core/print/typeset ./core/ask/formula ./app/workshop
	@$(call install,$(OFFICE))
	AMBERSEAL_OFFICE=1 go test -count 1 -v -run 'Another|RealProgram' ./core/print/fromword ./adapter/libreoffice
	AMBERSEAL_THOROUGH=1 go test -count 1 -v -timeout 60m -run Killed ./cmd/amberseal
	go run ./e2e/pairs -of load $(BEFORE)

# Every figure of bench, load and scale in ten runs in turn beside the commit BEFORE, which takes some hours; see e2e/pairs.
pairs:
	go run ./e2e/pairs $(BEFORE)

# What is written from openapi.yaml and from the tables of kinds.
GENERATED := web/api/api.gen.go web/api/permissions.gen.go ui/shared/schema.d.ts ui/shared/kinds.gen.ts

lint: ui/node_modules/.stamp
	@test -z "$$(gofmt -l $(GO))" || { gofmt -l $(GO); echo "Run make format."; exit 1; }
	go vet ./...
	@mkdir -p bin && sha256sum $(GENERATED) > bin/generated.sum && $(MAKE) --silent generate > /dev/null && sha256sum --quiet --check bin/generated.sum || \
	  { echo "What is generated was not current; it is now."; exit 1; }
	cd ui && npm run --silent check

# Milliseconds and allocations, beside headless Chromium doing the same in the same run.
bench: packages build
	@$(call install,$(OFFICE))
	node e2e/form-bench.mjs
	node e2e/bench.mjs

# Submissions accepted and delivered per second with 64 clients against a real server, the engine alone, and fresh receipts beside a
# bulk run. The full runs have four messages and three destinations a submission, the last one with one of them off.
load: build
	go run ./e2e/load
	go run ./e2e/load full
	go run ./e2e/load full off
	go test ./app/work -run '^$$' -bench Engine -benchtime 1x
	go test ./cmd/amberseal -run '^$$' -bench Lanes -benchtime 1x

# How quick lists and counts are with 300,000 submissions in 500 intakes, beside 3,000.
scale: build
	go run ./e2e/scale

generate: ui/node_modules/.stamp
	go generate ./web/api
	cd ui && npm run --silent types

format: ui/node_modules/.stamp
	gofmt -w $(GO)
	cd ui && npm run --silent format

pages: ui/node_modules/.stamp
	cd ui && npm run --silent build

ui/node_modules/.stamp: ui/package.json ui/package-lock.json
	cd ui && npm ci --silent --no-audit --no-fund
	touch $@

# Debian's packages, installed only when one is missing.
PACKAGES := sqlite3 python3-dkim python3-openpyxl chromium qpdf poppler-utils mupdf-tools ghostscript zbar-tools unicode-data python3 openssh-client default-jre-headless libpdfbox2-java libjaxb-api-java libactivation-java
# The fonts are those that ours are as wide as: without them the other setter takes whatever there is.
OFFICE := libreoffice-writer-nogui hyphen-en-us fonts-crosextra-carlito fonts-crosextra-caladea fonts-liberation2 fonts-dejavu-core
JUDGES := default-jdk-headless maven python3 python3-venv s3cmd cadaver litmus openssh-client openssh-server openssh-sftp-server postfix
packages:
	@$(call install,$(PACKAGES))

define install
missing=; for p in $(1); do dpkg -s $$p >/dev/null 2>&1 || missing="$$missing $$p"; done; \
	if [ -n "$$missing" ]; then \
	  sudo=; [ "$$(id -u)" = 0 ] || sudo=sudo; \
	  $$sudo apt-get update -q && $$sudo env DEBIAN_FRONTEND=noninteractive apt-get install -qy --no-install-recommends $$missing; \
	fi
endef

clean:
	rm -rf bin ui/dist/admin ui/dist/public ui/node_modules
