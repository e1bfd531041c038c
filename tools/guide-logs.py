#!/usr/bin/env python3
"""Writes the guide records of GuideAnalysisTest: a mount, its gears, the air and a loop, by numpy alone and nothing of Ironside.

The air is white noise in each exposure of 2 s; the mount drifts and swings by sines; a proportional loop sends back a share of each
displacement above a least one, and every pulse moves the axis by 7.5 arcsec a second. sums.csv holds sums of squares that
numpy.linalg.lstsq leaves of an unevenly spaced series with a line, and with a line and a sine.

    tools/guide-logs.py core/src/test/resources/app/ironside/guide
"""
import sys

import numpy as np

CADENCE, RATE = 2.0, 7.5


def record(rng, n, air, gears, drift, share=None, gusts=()):
    t = np.arange(n) * CADENCE
    ra_mount = sum(a * np.sin(2 * np.pi * t / p + 0.7) for p, a in gears) + np.zeros(n)
    dec_mount = drift / 60 * t
    for at, length, x, y in gusts:
        fall = np.exp(-np.arange(length) / (length / 2.5))
        ra_mount[at : at + length] += x * fall
        dec_mount[at : at + length] += y * fall
    noise = rng.normal(size=(n, 2)) * air / np.sqrt(2)
    rows, moved = [], np.zeros(2)
    for i in range(n):
        seen = np.array([ra_mount[i], dec_mount[i]]) + moved + noise[i]
        sent = np.where(np.abs(seen) > 0.15, -np.array(share) * seen, 0) if share else np.zeros(2)
        rows.append((t[i], *seen, *(1000 * sent / RATE)))
        moved += sent
    return rows


def write(path, rows, guided):
    with open(path, "w") as out:
        out.write(f"# declination_deg: 40\n# exposure_s: 2\n# guided: {str(guided).lower()}\n")
        out.write("time_s,ra_arcsec,dec_arcsec" + (",ra_pulse_ms,dec_pulse_ms" if guided else "") + "\n")
        for row in rows:
            out.write(",".join(f"{v:.3f}" for v in (row if guided else row[:3])) + "\n")


def main(folder):
    rng = np.random.default_rng(11)
    write(f"{folder}/unguided.csv", record(rng, 900, 1.0, [(480, 12), (160, 3)], 2.0), False)
    write(f"{folder}/guided.csv", record(rng, 900, 0.8, [(60, 4)], 3.0, (0.6, 0.45)), True)
    write(f"{folder}/hasty.csv", record(rng, 600, 0.8, [], 0, (1.5, 1.5)), True)
    write(f"{folder}/gusts.csv", record(rng, 700, 0.6, [], 0, (0.6, 0.45), [(300, 10, 6, 5), (600, 12, -8, 4)]), True)
    t = np.sort(rng.uniform(0, 1000, 80))
    y = 0.01 * t + 2 * np.sin(2 * np.pi * t / 90) + rng.normal(size=80)
    with open(f"{folder}/sums.csv", "w") as out:
        out.write("# t then y, then period,power\n")
        out.write(",".join(f"{v:.6f}" for v in t) + "\n" + ",".join(f"{v:.6f}" for v in y) + "\n")
        line = np.column_stack([np.ones(80), t])
        without = np.linalg.lstsq(line, y, rcond=None)[1][0]
        for period in (30, 61.5, 88, 90, 120, 333):
            sine = np.column_stack([line, np.cos(2 * np.pi * t / period), np.sin(2 * np.pi * t / period)])
            out.write(f"{period},{1 - np.linalg.lstsq(sine, y, rcond=None)[1][0] / without:.9f}\n")


main(sys.argv[1])
