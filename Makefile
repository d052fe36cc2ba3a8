.PHONY: build demo test race install uninstall dist shots bench fuzz accuracy anchors words kills renames structures drawings problems

BIN := bin/rooktrail
PREFIX ?= $(HOME)/.local

# What the compilers of C and C++ are told is the same for all goals, so that the
# grammars are compiled once; their warnings are for those who generate them.
export CGO_CFLAGS ?= -O2 -g -w
export CGO_CXXFLAGS ?= -O2 -g -w

# build makes the program; the first time takes a minute, for the grammars.
build:
	@scripts/setup build
	go build -o $(BIN) ./cmd/rooktrail

# demo opens the demo project.
demo: build
	$(BIN) demo

# test runs everything that a change has to pass, built as the program is, so that
# its C parts are built only once. The tests in the terminal come first, since they
# mostly wait and the others can run meanwhile.
test:
	@scripts/setup test
	test -z "$$(gofmt -l cmd demo/*.go e2e internal)" || { gofmt -l cmd demo/*.go e2e internal; exit 1; }
	go vet ./... & vet=$$!; go test -timeout 8m -parallel 4 ./e2e/... ./demo/... ./internal/... && wait $$vet

# race runs the tests once more with the race detector, but for those in the
# terminal. All is built anew for it, the C parts optimised less, so it takes longer.
race: export CGO_CFLAGS = -O1 -w
race: export CGO_CXXFLAGS = -O1 -w
race:
	@scripts/setup test
	go test -timeout 20m -race ./demo/... ./internal/...

# install puts the program, its manual pages and the completions of shells below PREFIX, which is ~/.local; in a
# package below DESTDIR.
install: build
	@rm -rf bin/share && go run ./scripts/man bin/share
	install -d $(DESTDIR)$(PREFIX)/bin $(DESTDIR)$(PREFIX)/share/man/man1
	install -m 755 $(BIN) $(DESTDIR)$(PREFIX)/bin/rooktrail
	install -m 644 bin/share/man/man1/*.1 $(DESTDIR)$(PREFIX)/share/man/man1
	install -D -m 644 bin/share/bash/rooktrail $(DESTDIR)$(PREFIX)/share/bash-completion/completions/rooktrail
	install -D -m 644 bin/share/zsh/_rooktrail $(DESTDIR)$(PREFIX)/share/zsh/site-functions/_rooktrail
	install -D -m 644 bin/share/fish/rooktrail.fish $(DESTDIR)$(PREFIX)/share/fish/vendor_completions.d/rooktrail.fish

# uninstall removes what install has put there.
uninstall:
	rm -f $(DESTDIR)$(PREFIX)/bin/rooktrail $(DESTDIR)$(PREFIX)/share/man/man1/rooktrail.1 $(DESTDIR)$(PREFIX)/share/man/man1/rooktrail-*.1
	rm -f $(DESTDIR)$(PREFIX)/share/bash-completion/completions/rooktrail $(DESTDIR)$(PREFIX)/share/zsh/site-functions/_rooktrail
	rm -f $(DESTDIR)$(PREFIX)/share/fish/vendor_completions.d/rooktrail.fish

# dist makes an archive for this kind of machine: the program, which needs nothing but the C library, manual pages,
# completions, and the notices of all that is in it.
dist:
	@scripts/setup build
	scripts/dist

# shots takes the pictures in docs/screenshots anew.
shots: build
	@scripts/setup shots
	scripts/shots $(BIN) docs/screenshots

# bench prints how fast it is, against floors measured in the same run, over the
# source of Go, a body of JavaScript from the npm registry and one of C from Debian's
# sources, and how often what people type finds what they mean; with LARGE=DIR what costs
# how much in that folder, of any size.
bench: build
ifdef LARGE
	go run ./scripts/bench -large "$(LARGE)"
else
	go run ./scripts/bench -script "$$(scripts/fetch-scripts)" -c "$$(scripts/fetch-c)"
	go run ./scripts/queries
endif

# accuracy compares the answers with those of compilers over public code, which it
# fetches; it takes three quarters of an hour.
accuracy: build
	scripts/compare

# renames proves by compilers, over public code, which it fetches, that what is renamed is as it was but for the name;
# it takes an hour.
renames:
	scripts/prove-renames

# structures proves by compilers and tests, over public code, which it fetches, that code which is built otherwise does
# what it did.
structures:
	scripts/prove-structures

# drawings draws the demo and public code, which it fetches, in every view, and looks whether what is written can be shown by
# other programs.
drawings:
	scripts/prove-drawings

# problems counts what is found to be wrong in public code, which it fetches and which compiles, and how many of faults that
# are made in it are found.
problems:
	scripts/measure-problems

# words prints what people say, from a list that was made before the words of the program were looked at,
# that does not find what they mean among the first three.
words:
	go run ./scripts/words

# kills kills the program at each step of a change over many files, and looks whether all of it is there afterwards, or
# nothing; and 500 times while it reads, merges and packs, damaging what lies on disk in between.
kills:
	ROOKTRAIL_ALL_KILLS=1 go test -count=1 -run Killed ./internal/core/change/making
	ROOKTRAIL_ALL_KILLS=1 go test -count=1 -timeout 60m -run KillsLeave ./e2e

# anchors measures how well remembered places are found again in later versions of
# public modules, which it fetches.
anchors:
	go run ./scripts/anchors

# fuzz runs every fuzz target for a while.
fuzz:
	@scripts/setup build
	scripts/fuzz 60s
