#!/usr/bin/env node
// Converts the catalogues of the npm package d3-celestial (BSD-3-Clause) to the compact open files that the core ships.
//
//   npm pack d3-celestial@0.7.35 && tar xzf d3-celestial-0.7.35.tgz
//   node tools/convert-catalogues.mjs package core/src/main/resources/app/ironside/sky
//
// stars.csv.gz    hip, right ascension and declination (degrees, J2000), V magnitude, B-V (empty if unknown)
// objects.csv.gz  id, name, kind, right ascension, declination (degrees, J2000), magnitude, long and short axis (arcmin)
import { readFileSync, writeFileSync, mkdirSync } from "node:fs";
import { gzipSync } from "node:zlib";
import { join } from "node:path";

const [source, target] = process.argv.slice(2);
if (!source || !target) {
  console.error("usage: convert-catalogues.mjs PACKAGE_FOLDER RESOURCE_FOLDER");
  process.exit(2);
}
const read = (name) => JSON.parse(readFileSync(join(source, "data", name), "utf8"));
const rightAscension = (longitude) => ((longitude % 360) + 360) % 360;
const plain = (number, digits) => String(Number(number.toFixed(digits)));
const field = (text) => (/[",]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

const stars = read("stars.14.json").features.map(({ id, properties, geometry }) => {
  const [longitude, latitude] = geometry.coordinates;
  const colour = properties.bv === "" || properties.bv == null ? "" : plain(Number(properties.bv), 3);
  return { dec: latitude, line: [id, plain(rightAscension(longitude), 4), plain(latitude, 4), plain(Number(properties.mag), 2), colour].join(",") };
});
stars.sort((a, b) => a.dec - b.dec); // by declination: the loader indexes bands without sorting

const names = read("dsonames.json");
// Two remnants of the source have their columns shifted, so that their place is lost: a declination of 255 and of 120 degrees.
const placed = read("dsos.14.json").features.filter((f) => Math.abs(f.geometry.coordinates[1]) <= 90);
const objects = placed.map(({ id, properties, geometry }) => {
  const [longitude, latitude] = geometry.coordinates;
  const axes = String(properties.dim || "").split("x").map(Number).filter((n) => n > 0);
  const long = axes[0] ?? "";
  const short = axes[1] ?? long;
  const magnitude = Number(properties.mag) < 90 ? plain(Number(properties.mag), 2) : "";
  const desig = properties.desig || id;
  const alias = desig === id ? "" : id;
  return [field(desig), field(alias), field(names[id]?.name ?? names[desig]?.name ?? ""), properties.type,
    plain(rightAscension(longitude), 5), plain(latitude, 5), magnitude, long, short].join(",");
});

mkdirSync(target, { recursive: true });
const write = (name, header, lines) =>
  writeFileSync(join(target, name), gzipSync([header, ...lines].join("\n") + "\n", { level: 9 }));
write("stars.csv.gz", "hip,raDeg,decDeg,magV,colourBV", stars.map((s) => s.line));
write("objects.csv.gz", "id,alias,name,kind,raDeg,decDeg,magnitude,longAxisArcmin,shortAxisArcmin", objects);
console.log(`${stars.length} stars, ${objects.length} objects`);
