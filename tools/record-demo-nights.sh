#!/usr/bin/env bash
# Rehearses the demo's three earlier nights and its night of today, and writes their journals, one JSON object a line, gzipped, to the
# desk's resources: the earlier ones whole, today's as far as it is under way when the demo opens.
# Usage: tools/record-demo-nights.sh   (from the project's root; needs python3; takes some minutes)
set -euo pipefail
cd "$(dirname "$0")/.."
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
for night in tools/demo-nights/*.json examples/colle-sorbo.json; do
  ./ironside rehearse "$night" --keep "$work/$(basename "$night" .json)"
done
python3 - "$work" desk/src/main/resources/app/ironside/desk/demo << 'PYTHON'
import datetime, gzip, json, pathlib, sqlite3, sys

work, target = sys.argv[1:]
UNDER_WAY = datetime.timedelta(minutes=63)


def moment(text):
    return datetime.datetime.fromisoformat(text[:19] + "+00:00")


def night_of(folder, whole):
    store = sqlite3.connect(folder / "logbook.sqlite")
    night, document = store.execute("select id, document from night").fetchone()
    plan = json.loads(document)
    title = f"{plan['date']}  {plan['site']['name']}, {plan['program']['targets'][0]['name']}"
    rows = store.execute(
        "select time, kind, version, text, facts from event where night = ? order by id", (night,)).fetchall()
    until = max(moment(r[0]) for r in rows)
    if not whole:
        subs = [moment(r[0]) for r in rows if r[1] == "SUB"]
        # With a sub it ends, so that the next one begins where it goes on.
        until = max(t for t in subs if t <= subs[0] + UNDER_WAY)
    lines = [{"title": title, "folder": f"night-{plan['date']}", "document": document}]
    for time, kind, version, text, facts in rows:
        if moment(time) <= until:
            lines.append({"time": time, "kind": kind, "version": version, "text": text, "facts": json.loads(facts)})
    def short(value, digits):
        return None if value is None else round(value, digits)
    guiding = [[t, short(ra, 3), short(dec, 3), short(rp, 0), short(dp, 0), short(snr, 1)]
               for t, ra, dec, rp, dp, snr in store.execute(
                   "select time, ra_arcsec, dec_arcsec, ra_pulse_ms, dec_pulse_ms, snr from guide_sample"
                   " where night = ? order by time", (night,)) if moment(t) <= until]
    lines.append({"guiding": guiding})
    return lines


def write(name, nights):
    with gzip.GzipFile(pathlib.Path(target) / name, "wb", 9, mtime=0) as out:
        for night in nights:
            for line in night:
                out.write((json.dumps(line, ensure_ascii=False) + "\n").encode())


folders = sorted(pathlib.Path(work).iterdir())
write("earlier-nights.jsonl.gz", [night_of(f, True) for f in folders if f.name != "colle-sorbo"])
write("tonight.jsonl.gz", [night_of(f, False) for f in folders if f.name == "colle-sorbo"])
PYTHON
