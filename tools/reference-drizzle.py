#!/usr/bin/env python3
"""Frames let fall onto a finer grid by a general-purpose library, for DropsTest.

Small frames of a slope, a star and noise, each with a map to the finer grid: shifted, of several scales, mirrored.
Turned ones are left out: called like this the library does not share a turned drop by its exact area (its parts differ
by some hundredths from those of any polygon clipping); DropsTest holds these against a geometry library. The library
(python3-drizzle, the reference code of Fruchter and Hook's method) gives the mean of what fell on each pixel and the
weight that fell. Shares no code with what reads them.

    python3 tools/reference-drizzle.py > core/src/test/resources/app/ironside/stack/drizzle.json

Needs numpy and drizzle 1.13.
"""
import json

import numpy as np
from drizzle import cdrizzle

WIDTH, HEIGHT, OUT_WIDTH, OUT_HEIGHT, DROP = 14, 11, 30, 26, 0.7

# From FITS pixels of a frame to those of the grid: X = a x + b y + c, Y = d x + e y + f.
MAPS = [
    (2.0, 0.0, 0.4, 0.0, 2.0, 1.1),
    (1.97, 0.0, 1.2, 0.0, 2.03, 0.7),
    (1.5, 0.0, 3.3, 0.0, 1.5, 4.2),
    (-1.9, 0.0, 28.3, 0.0, 1.9, 1.7),
]
WEIGHTS = [1.0, 0.5, 2.0, 1.3]


def frames(random):
    y, x = np.mgrid[1 : HEIGHT + 1, 1 : WIDTH + 1]
    for i in range(len(MAPS)):
        star = 400 * np.exp(-((x - 6.3 - i) ** 2 + (y - 5.1) ** 2) / 2.2)
        yield np.round(100 + 2 * x - y + star + random.normal(0, 3, (HEIGHT, WIDTH)), 2).astype(np.float32)


def main():
    data = list(frames(np.random.default_rng(4)))
    out = np.zeros((OUT_HEIGHT, OUT_WIDTH), np.float32)
    weight = np.zeros_like(out)
    context = np.zeros(out.shape, np.int32)
    y, x = np.mgrid[1 : HEIGHT + 1, 1 : WIDTH + 1].astype(np.float64)
    for i, (a, b, c, d, e, f) in enumerate(MAPS):
        # The library counts pixels from 0.
        pixmap = np.dstack([a * x + b * y + c - 1, d * x + e * y + f - 1])
        cdrizzle.tdriz(
            data[i], np.full(data[i].shape, WEIGHTS[i], np.float32), pixmap, out, weight, context,
            uniqid=i + 1, xmin=0, xmax=WIDTH, ymin=0, ymax=HEIGHT, scale=1.0, pixfrac=DROP,
            kernel="square", in_units="cps", expscale=1.0, wtscale=1.0, fillstr="INDEF",
        )
    print(json.dumps({
        "widthPx": WIDTH, "heightPx": HEIGHT, "outWidthPx": OUT_WIDTH, "outHeightPx": OUT_HEIGHT, "drop": DROP,
        "maps": MAPS, "weights": WEIGHTS,
        "frames": [[float(v) for v in f.ravel()] for f in data],
        "means": [round(float(v), 4) for v in out.ravel()],
        "fell": [round(float(v), 6) for v in weight.ravel()],
    }))


if __name__ == "__main__":
    main()
