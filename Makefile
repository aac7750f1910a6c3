# Everything that a fresh machine with Node.js and npm needs: make demo, make test.
SOURCES := $(shell find src engines -type f) package.json package-lock.json tsconfig.json tsconfig.build.json vite.config.ts
ARGS ?=

.PHONY: demo demo-clean test needs lint types tour bench build clean

node_modules/.installed: package.json package-lock.json
	JOBS=max npm install --no-save
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

## lint, types, build and every test; what takes long and does not need the other goes side by side
test:
	@$(MAKE) --no-print-directory -j2 build needs
	@$(MAKE) --no-print-directory -j2 lint types
	@sh scripts/test.sh

needs:
	@sh scripts/need.sh

lint:
	npm run --silent lint

## the types of what the build does not compile: it checks the rest itself
types: build
	npm run --silent types:rest

## a consultant's whole day by the real command line
tour: build
	@npm run --silent tour

bench: build
	@npm run --silent bench

clean: demo-clean
	rm -rf dist node_modules .tmp
