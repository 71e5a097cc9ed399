# One command each; every one of them installs what it is missing and says so.
.PHONY: demo test lint bench soak fuzz screenshots web openapi

demo:
	@tools/setup.sh build
	@$(MAKE) --no-print-directory web
	@echo "== building kachel (release)"
	@cargo build --release -p kachel-cli
	@exec target/release/kachel demo

# The front end is built into the program, so it comes first.
web: web/dist/index.html
web/dist/index.html: web/package-lock.json web/index.html web/vite.config.ts $(shell find web/src web/public -type f)
	@echo "== building the front end"
	@npm --prefix web run --silent build
	@touch $@

test:
	@tools/setup.sh test
	@# Side by side: the front end takes one core, and lints read none of it.
	@$(MAKE) --no-print-directory -j2 web lint
	@echo "== running every test"
	@# With the description of the HTTP interface, which has its test; without it another build of every crate would come after.
	@cargo test --workspace --features kachel-server/schema
	@echo "== generated TypeScript types are those of the Rust types"
	@test -z "$$(git status --porcelain web/src/api/generated 2>/dev/null)" || { git status --short web/src/api/generated; exit 1; }

lint:
	@tools/setup.sh build
	@echo "== formatting and lints"
	@# The server names the folder that it embeds, which need not be filled for this.
	@mkdir -p web/dist
	@cargo fmt --all --check
	@# A macro lists the rules of Check: cargo does not see these files.
	@rustfmt --edition 2024 --check crates/check/src/rules/*.rs
	@cargo clippy --workspace --all-targets -- -D warnings
	@cd web && npx biome ci --error-on-warnings .

# What is measured goes to docs/figures.md, with the machine, the day and the commit; `make bench PART=browser` measures one part.
bench:
	@tools/setup.sh test
	@$(MAKE) --no-print-directory web
	@python3 tools/figures.py $(PART)

screenshots:
	@tools/setup.sh test
	@$(MAKE) --no-print-directory web
	@cargo test -p kachel-server --test browser screenshots -- --ignored

# Writes server/openapi.json anew from the handlers.
openapi:
	@KACHEL_WRITE_DOCS=1 cargo test -p kachel-server --features schema --test api openapi_description

# Every reader of foreign bytes against random changes of sound files, with 4 GB of memory at the most; `make fuzz SECONDS=3600 SEED=7`.
fuzz: SECONDS := 600
fuzz: SEED := 1
fuzz:
	@tools/setup.sh build
	@cargo test --release -p kachel-engine --test fuzz --no-run
	@bash -c 'ulimit -v 4194304; KACHEL_FUZZ_SECONDS=$(SECONDS) KACHEL_FUZZ_SEED=$(SEED) cargo test --release -p kachel-engine --test fuzz -- --nocapture'

# Ten thousand random stacks, all of them sound and as large as fine slicing says: about 45 minutes on 2 cores.
# KACHEL_SOAK=2000 runs fewer, KACHEL_SOAK_FROM=7000 others.
soak:
	@tools/setup.sh build
	@cargo test --release -p kachel-solid ten_thousand -- --ignored --nocapture
	@cargo test --release -p kachel-engine --test defaults triangles -- --ignored --nocapture
