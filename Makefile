# Everything that a fresh machine with Node.js and npm needs: make demo, make test.
SOURCES := $(shell find src engines -type f) package.json package-lock.json tsconfig.json tsconfig.build.json vite.config.ts
ARGS ?=

.PHONY: demo demo-clean test tour bench build clean

node_modules/.installed: package.json package-lock.json
	npm install --no-save
	@touch $@

dist/.built: node_modules/.installed $(SOURCES)
	npm run --silent build
	@touch $@

build: dist/.built

## the service with the rehearsal and its demo data; ARGS=--empty starts without the story
demo: build
	@node dist/cli/main.js demo $(ARGS)

demo-clean:
	rm -rf .yardbadge

## lint, types, build and every test
test: build
	@sh scripts/need.sh
	npm run --silent lint
	npm run --silent types
	@sh scripts/test.sh

## a consultant's whole day by the real command line
tour: build
	@npm run --silent tour

bench: build
	@npm run --silent bench

clean: demo-clean
	rm -rf dist node_modules .tmp
