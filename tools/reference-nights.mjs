#!/usr/bin/env node
// Writes the table of nights that NightTablesTest compares with: times of Sun and Moon, the lit part of the Moon, and a star's
// altitude and transit, computed by the general-purpose npm package astronomy-engine (MIT), which shares no code with Ironside.
//
//   npm install astronomy-engine@2.1.19
//   node tools/reference-nights.mjs > core/src/test/resources/app/ironside/sky/reference-nights.csv
//
// Times are UTC; an empty field means that it does not happen between the two noons. Zones are whole hours of longitude.
import * as A from "astronomy-engine";

const sites = [
  [-77.85, 166.67], [-54.8, -68.3], [-45.9, 170.5], [-33.86, 151.21], [-33.45, -70.67], [-17.8, 178.4], [-13.8, -171.8],
  [-0.2, -78.5], [1.35, 103.8], [19.8, -155.5], [28.3, -16.5], [35.7, 139.7], [44.05, 8.2], [51.48, 0], [52.5, -179.9],
  [55.8, 37.6], [58.4, 26.7], [59.9, 10.7], [64.1, -21.9], [69.65, 18.96], [78.2, 15.6],
];
const dates = ["2024-02-29", "2025-03-20", "2025-06-21", "2026-09-23", "2026-11-14", "2027-12-21", "2028-02-29"];
const stars = [[37.95, 89.26], [279.23, 38.78], [23.46, 30.66], [101.29, -16.72], [247.35, -26.43], [95.99, -52.7]];

const iso = (t) => (t ? t.date.toISOString().replace(/\.(\d{3})Z$/, ".$1Z") : "");
const header = ["lat", "lon", "offsetHours", "date", "sunset", "civilDusk", "nauticalDusk", "astronomicalDusk",
  "astronomicalDawn", "nauticalDawn", "civilDawn", "sunrise", "moonrises", "moonsets", "moonLit", "starRa", "starDec",
  "starAltitude", "starTransit"];
console.log(header.join(","));
let n = 0;
for (const [lat, lon] of sites) {
  for (const date of dates) {
    const offset = Math.round(lon / 15);
    const noon = new Date(Date.parse(date + "T12:00:00Z") - offset * 3600e3);
    const end = noon.getTime() + 24 * 3600e3;
    const observer = new A.Observer(lat, lon, 0);
    const inside = (t) => (t && t.date.getTime() < end ? t : null);
    const sunAt = (direction, altitude) => inside(A.SearchAltitude("Sun", observer, direction, noon, 1, altitude));
    const all = (direction) => {
      const found = [];
      let from = noon;
      for (;;) {
        const t = inside(A.SearchRiseSet("Moon", observer, direction, from, 1));
        if (!t) return found.map(iso).join(" ");
        found.push(t);
        from = new Date(t.date.getTime() + 600e3);
      }
    };
    const midnight = new Date(noon.getTime() + 12 * 3600e3);
    const [ra, dec] = stars[n++ % stars.length];
    A.DefineStar("Star1", ra / 15, dec, 1000);
    const here = A.Equator("Star1", midnight, observer, true, true);
    const altitude = A.Horizon(midnight, observer, here.ra, here.dec, "normal").altitude;
    const transit = A.SearchHourAngle("Star1", observer, 0, noon).time;
    console.log([lat, lon, offset, date,
      iso(inside(A.SearchRiseSet("Sun", observer, -1, noon, 1))), iso(sunAt(-1, -6)), iso(sunAt(-1, -12)), iso(sunAt(-1, -18)),
      iso(sunAt(+1, -18)), iso(sunAt(+1, -12)), iso(sunAt(+1, -6)), iso(inside(A.SearchRiseSet("Sun", observer, +1, noon, 1))),
      all(+1), all(-1), A.Illumination("Moon", midnight).phase_fraction.toFixed(6),
      ra, dec, altitude.toFixed(5), iso(transit)].join(","));
  }
}
