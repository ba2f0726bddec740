#!/usr/bin/env bash
# Prints lines of code and of tests. Blank lines and generated files do not count.
set -eu
count() { xargs -r cat | grep -cv '^[[:space:]]*$' || true; }
all() { git ls-files -co --exclude-standard -- '*.go' '*.ts' '*.vue' '*.css' '*.js' | grep -v 'schema\.d\.ts$'; }
tests=$(all | grep -E '(_test\.go$|^e2e/)' | count)
total=$(all | count)
core=$(all | grep -E '^core/' | grep -v '_test\.go$' | count)
web=$(all | grep -E '^web/' | grep -v '^web/harness/' | count)
echo "lines of code   $((total - tests))   (core $core, web $web, rest $((total - tests - core - web)))"
echo "lines of tests  $tests"
echo "share of tests  $((100 * tests / total)) %"
