# A thin alias over scripts/: each target is one script.
.PHONY: demo test lint bench kills shots dev
demo test lint bench kills shots dev:
	@bash scripts/$@.sh
