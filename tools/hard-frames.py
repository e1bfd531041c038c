#!/usr/bin/env python3
"""Writes the frames of HardFramesTest with their truth: numpy, scipy and astropy only, nothing of Ironside.

Moffat stars of beta 3, 2.8 px wide at half peak, integrated over pixels in five by five parts, photon noise at 1.5 e-/ADU, 5 e- of
read noise, over 300 ADU of bias: among hot pixels, in a nebula around a saturated star, and in a crowd. The truth has each star's
place (FITS pixels), flux (ADU) and the signal-to-noise that the best possible measurement of its flux would have with everything else
known: sqrt(sum of expected signal^2 / variance) over its pixels.

    tools/hard-frames.py core/src/test/resources/app/ironside/star
"""
import sys

import numpy as np
from astropy.io import fits
from scipy.ndimage import gaussian_filter

WIDTH, HEIGHT, GAIN, READ_NOISE, BIAS, SKY, FWHM, BETA = 400, 300, 1.5, 5.0, 300.0, 600.0, 2.8, 3.0


def star(dx, dy, reach, parts=5):
    alpha = FWHM / 2 / np.sqrt(2 ** (1 / BETA) - 1)
    at = (np.arange((2 * reach + 1) * parts) + 0.5) / parts - 0.5 - reach
    x, y = np.meshgrid(at - dx, at - dy)
    light = (1 + (x * x + y * y) / alpha**2) ** -BETA * (BETA - 1) / (np.pi * alpha**2) / parts**2
    side = 2 * reach + 1
    return light.reshape(side, parts, side, parts).sum((1, 3))


def draw(name, folder, stars, rng, glow=0.0, hot=0):
    light = np.full((HEIGHT, WIDTH), SKY) + glow
    shapes = []
    for x, y, flux in stars:
        reach = 30 if flux < 3e5 else 90
        column, row = round(x), round(y)
        shape = star(x - column, y - row, reach)
        x0, x1 = max(0, column - reach), min(WIDTH, column + reach + 1)
        y0, y1 = max(0, row - reach), min(HEIGHT, row + reach + 1)
        part = shape[y0 - row + reach : y1 - row + reach, x0 - column + reach : x1 - column + reach]
        light[y0:y1, x0:x1] += flux * part
        shapes.append((slice(y0, y1), slice(x0, x1), part))
    variance = light / GAIN + (READ_NOISE / GAIN) ** 2
    frame = rng.poisson(light * GAIN) / GAIN + rng.normal(0, READ_NOISE / GAIN, light.shape) + BIAS
    if hot:
        frame.flat[rng.integers(0, frame.size, hot)] += rng.exponential(3000, hot) + 100
    frame = np.clip(np.round(frame), 0, 65535).astype(np.uint16)
    header = fits.Header([("EXPTIME", 60.0), ("EGAIN", GAIN)])
    fits.PrimaryHDU(frame, header).writeto(f"{folder}/{name}.fits", overwrite=True)
    with open(f"{folder}/{name}.csv", "w") as out:
        out.write("x,y,flux,snr\n")
        for (x, y, flux), (rows, columns, part) in zip(stars, shapes):
            best = np.sqrt(((flux * part) ** 2 / variance[rows, columns]).sum())
            out.write(f"{x + 1:.3f},{y + 1:.3f},{flux:.1f},{best:.2f}\n")


def field(count, rng, faintest, brightest):
    """Numbers rise by 10^(0.6 log flux) toward the faint."""
    low, high = 10 ** (-0.6 * faintest), 10 ** (-0.6 * brightest)
    flux = (low - rng.random(count) * (low - high)) ** (-1 / 0.6)
    return list(zip(rng.uniform(8, WIDTH - 9, count), rng.uniform(8, HEIGHT - 9, count), flux))


def main(folder):
    rng = np.random.default_rng(3)
    draw("hot-field", folder, field(90, rng, 2.8, 5.2), rng, hot=1700)
    rng = np.random.default_rng(5)
    glow = np.zeros((HEIGHT, WIDTH))
    for scale, height in ((90, 600), (40, 250), (15, 100), (8, 30)):
        part = gaussian_filter(rng.normal(size=glow.shape), scale, mode="wrap")
        glow += height * np.clip(part / part.std(), 0, None)
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH]
    glow = gaussian_filter(glow, 2) + 2500 * np.exp(-np.hypot(x - 200, y - 150) / 60)
    draw("nebula-field", folder, [*field(90, rng, 3.0, 5.2), (200.3, 150.2, 6e6)], rng, glow)
    rng = np.random.default_rng(8)
    draw("crowded-field", folder, field(400, rng, 2.6, 4.9), rng)


main(sys.argv[1])
