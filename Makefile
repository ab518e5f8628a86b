# A thin alias over scripts/: each target is one script.
.PHONY: demo test lint bench shots dev
demo test lint bench shots dev:
	@bash scripts/$@.sh
