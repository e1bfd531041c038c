#!/usr/bin/env bash
# Rehearses the demo's three earlier nights and writes their journals, one JSON object a line, gzipped, to the desk's resources.
# Usage: tools/record-demo-nights.sh   (from the project's root; needs python3; takes some minutes)
set -euo pipefail
cd "$(dirname "$0")/.."
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
for night in tools/demo-nights/*.json; do
  ./ironside rehearse "$night" --keep "$work/$(basename "$night" .json)"
done
python3 - "$work" desk/src/main/resources/app/ironside/desk/demo/earlier-nights.jsonl.gz << 'PYTHON'
import gzip, json, pathlib, sqlite3, sys

work, target = sys.argv[1:]
with gzip.GzipFile(target, "wb", 9, mtime=0) as out:
    for folder in sorted(pathlib.Path(work).iterdir()):
        store = sqlite3.connect(folder / "logbook.sqlite")
        night, path, document = store.execute("select id, folder, document from night").fetchone()
        plan = json.loads(document)
        title = f"{plan['date']}  {plan['site']['name']}, {plan['program']['targets'][0]['name']}"
        lines = [{"title": title, "folder": path, "document": document}]
        for time, kind, version, text, facts in store.execute("select time, kind, version, text, facts from event where night = ? order by id", (night,)):
            lines.append({"time": time, "kind": kind, "version": version, "text": text, "facts": json.loads(facts)})
        for line in lines:
            out.write((json.dumps(line, ensure_ascii=False) + "\n").encode())
PYTHON
