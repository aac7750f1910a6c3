# Everything that a fresh machine with Node.js and npm needs: make demo, make test.
SOURCES := $(shell find src engines -type f) package.json package-lock.json tsconfig.json tsconfig.build.json vite.config.ts
ARGS ?=

.PHONY: demo demo-clean test needs lint types tour bench build clean

# What is native is compiled by a rule of its own: it takes two minutes on one core, beside which everything else is got ready. The
# commands of packages are there by then, and stay as they are while others use them.
node_modules/.fetched: package.json package-lock.json
	npm install --no-save --ignore-scripts
	@touch $@

node_modules/.installed: node_modules/.fetched
	JOBS=max npm rebuild --bin-links=false
	@touch $@

dist/.built: node_modules/.fetched $(SOURCES)
	npm run --silent build
	@touch $@

build: dist/.built

## the service with the rehearsal and its demo data; ARGS=--empty starts without the story
demo: build node_modules/.installed
	@node dist/cli/main.js demo $(ARGS)

demo-clean:
	rm -rf .yardbadge

## lint, types, build and every test; what takes long and does not need the other goes side by side
test:
	@$(MAKE) --no-print-directory -j3 node_modules/.installed needs lint types
	@sh scripts/test.sh

needs:
	@sh scripts/need.sh

lint: build
	npm run --silent lint

## the types of what the build does not compile: it checks the rest itself
types: build
	npm run --silent types:rest

## a consultant's whole day by the real command line
tour: build node_modules/.installed
	@npm run --silent tour

bench: build node_modules/.installed
	@npm run --silent bench

clean: demo-clean
	rm -rf dist node_modules .tmp
