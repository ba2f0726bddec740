#!/usr/bin/env bash
# Compares the generated files in the repository with what the program
# generates now.
set -eu
tmp=$(mktemp -d)
trap 'rm -rf "$tmp"' EXIT
bin/dogbolt describe openapi >"$tmp/openapi.json"
bin/dogbolt describe job-schema >"$tmp/job.schema.json"
bin/dogbolt describe paper-schema >"$tmp/paper.schema.json"
bin/dogbolt describe charger-schema >"$tmp/charger.schema.json"
bin/dogbolt describe readings-schema >"$tmp/readings.schema.json"
bin/dogbolt describe rules >"$tmp/rules.md"
bin/dogbolt describe words >"$tmp/words.json"
go run ./internal/testkit/arch >"$tmp/architecture.svg"
go run ./internal/testkit/notices >"$tmp/third-party.md"
mkdir "$tmp/examples"
bin/dogbolt describe examples "$tmp/examples"
(cd web && npx openapi-typescript "$tmp/openapi.json" -o "$tmp/schema.d.ts" >/dev/null 2>&1)
status=0
check() {
  if ! diff -rq "$1" "$2" >/dev/null; then
    echo "$2 is not what the program generates now: run make generate" >&2
    status=1
  fi
}
check "$tmp/openapi.json" web/openapi.json
check "$tmp/schema.d.ts" web/src/api/schema.d.ts
check "$tmp/job.schema.json" docs/formats/job.schema.json
check "$tmp/paper.schema.json" docs/formats/paper.schema.json
check "$tmp/charger.schema.json" docs/formats/charger.schema.json
check "$tmp/readings.schema.json" docs/formats/readings.schema.json
check "$tmp/rules.md" docs/rules.md
check "$tmp/words.json" web/src/api/words.json
check "$tmp/architecture.svg" docs/architecture.svg
check "$tmp/third-party.md" docs/third-party.md
check "$tmp/examples" docs/formats/examples
exit $status
