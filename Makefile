# A thin alias over scripts/: each target is one script.
.PHONY: demo test lint bench kills mutants shots dev
demo test lint bench kills mutants shots dev:
	@bash scripts/$@.sh
