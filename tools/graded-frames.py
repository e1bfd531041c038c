#!/usr/bin/env python3
"""Writes the lights of GradedFramesTest with their truth: numpy, scipy and astropy only, nothing of Ironside.

Twelve lights of one field over a night, Rice-compressed (FITS standard 4.0, section 10), of Moffat stars of beta 3 and 2.8 px, photon
noise at 1.2 e-/ADU and 4 e- of read noise over 500 ADU of bias; dithered, half of them turned by half a turn. The altitude is that of
astropy, the air takes 0.25 mag per airmass (Kasten and Young 1989), the sky brightens low down. Five are spoiled: cloud, a gust, a
defocused ring, dawn, another field; one has thin cloud. The truth has each light's share of light without the air's part and its
weight, light squared over the variance of a background pixel, as it was put in.

    tools/graded-frames.py core/src/test/resources/app/ironside/judge
"""
import csv
import sys

import astropy.units as u
import numpy as np
from astropy.coordinates import AltAz, EarthLocation, SkyCoord
from astropy.io import fits
from astropy.time import Time, TimeDelta
from astropy.utils import iers
from scipy.signal import fftconvolve

iers.conf.auto_download = False
iers.conf.auto_max_age = None
WIDTH, HEIGHT, GAIN, READ_NOISE, BIAS, SKY = 288, 216, 1.2, 4.0, 500.0, 250.0
SITE = EarthLocation(lat=44.9 * u.deg, lon=10.1 * u.deg, height=600 * u.m)
FIELD = SkyCoord(8.0 * u.deg, 30.0 * u.deg)


def star(dx, dy, fwhm=2.8, flat=1.0, angle=0.0, reach=20, parts=5, beta=3.0):
    alpha = fwhm / 2 / np.sqrt(2 ** (1 / beta) - 1)
    at = (np.arange((2 * reach + 1) * parts) + 0.5) / parts - 0.5 - reach
    x, y = np.meshgrid(at - dx, at - dy)
    along = (x * np.cos(angle) + y * np.sin(angle)) * np.sqrt(flat) / alpha
    across = (-x * np.sin(angle) + y * np.cos(angle)) / np.sqrt(flat) / alpha
    light = (1 + along**2 + across**2) ** -beta * (beta - 1) / (np.pi * alpha**2) / parts**2
    side = 2 * reach + 1
    return light.reshape(side, parts, side, parts).sum((1, 3))


def field(rng, count=90):
    share = rng.random(count)
    low, high, slope = 1500.0, 1.2e5, 0.6
    flux = (low**-slope - share * (low**-slope - high**-slope)) ** (-1 / slope)
    return np.column_stack([rng.uniform(-30, WIDTH + 30, count), rng.uniform(-30, HEIGHT + 30, count), flux])


def draw(stars, rng, light, sky, flat=1.0, ring=0.0, turned=False):
    shift = rng.normal(0, 4, 2)
    picture = np.zeros((HEIGHT, WIDTH))
    for x, y, flux in stars:
        x, y = x + shift[0], y + shift[1]
        if turned:
            x, y = WIDTH - 1 - x, HEIGHT - 1 - y
        column, row, reach = int(round(x)), int(round(y)), 20
        left, right = max(0, column - reach), min(WIDTH, column + reach + 1)
        low, high = max(0, row - reach), min(HEIGHT, row + reach + 1)
        if left < right and low < high:
            image = star(x - column, y - row, flat=flat, angle=0.7)
            picture[low:high, left:right] += flux * image[low - row + reach : high - row + reach, left - column + reach : right - column + reach]
    if ring:
        y, x = np.mgrid[-9:10, -9:10]
        pupil = ((np.hypot(x, y) <= ring) & (np.hypot(x, y) >= 0.4 * ring)).astype(float)
        picture = fftconvolve(picture, pupil / pupil.sum(), mode="same")
    electrons = np.clip(picture * light + sky, 0, None) * GAIN
    return np.clip(np.round(rng.poisson(electrons) / GAIN + rng.normal(0, READ_NOISE / GAIN, picture.shape) + BIAS), 0, 65535)


def main(folder):
    rng = np.random.default_rng(20261014)
    stars, others = field(rng), field(rng)
    spoiled = {
        2: dict(cause="cloud", keep=False, light=0.25, sky=1.3),
        4: dict(cause="trailed", keep=False, flat=0.42),
        5: dict(cause="cloud", keep=True, light=0.65, sky=1.1),
        7: dict(cause="focus", keep=False, ring=4.5),
        8: dict(cause="wrong-field", keep=False),
        11: dict(cause="twilight", keep=False, sky=14.0),
    }
    rows = []
    for i in range(12):
        # From the meridian down to 16 degrees, and the last one as it dawns.
        start = Time("2026-10-14T01:00:00") + TimeDelta(i * 1500 * u.s)
        start = Time("2026-10-14T04:15:00") if i == 11 else start
        altitude = FIELD.transform_to(AltAz(obstime=start + TimeDelta(90 * u.s), location=SITE)).alt.deg
        airmass = 1 / (np.sin(np.radians(altitude)) + 0.50572 * (altitude + 6.07995) ** -1.6364)
        p = dict(cause="low" if altitude < 30 else "good", keep=True, light=1.0, sky=1.0, flat=1.0, ring=0.0)
        p.update(spoiled.get(i, {}))
        air = 10 ** (-0.4 * 0.25 * (airmass - 1))
        sky = SKY * p["sky"] * (1 + 0.3 * (airmass - 1))
        wrong = p["cause"] == "wrong-field"
        picture = draw(others if wrong else stars, rng, p["light"] * air, sky, p["flat"], p["ring"], turned=i >= 6)
        header = fits.Header()
        header["IMAGETYP"], header["EXPTIME"], header["DATE-OBS"] = "Light Frame", 180.0, start.isot
        header["OBJECT"], header["FILTER"], header["GAIN"] = "IC 342", "L", 100
        header["SITELAT"], header["SITELONG"], header["RA"], header["DEC"] = 44.9, 10.1, FIELD.ra.deg, FIELD.dec.deg
        name = f"light-{i:02d}.fits.fz"
        fits.HDUList([fits.PrimaryHDU(), fits.CompImageHDU(picture.astype(np.uint16), header, compression_type="RICE_1")]).writeto(
            f"{folder}/{name}", overwrite=True
        )
        weight = 0.0 if wrong else (p["light"] * air) ** 2 / (sky / GAIN + (READ_NOISE / GAIN) ** 2)
        rows.append([name, p["cause"], p["keep"], round(p["light"], 4), weight, round(altitude, 3)])
    best = max(row[4] for row in rows)
    with open(f"{folder}/lights.csv", "w", newline="") as out:
        table = csv.writer(out, lineterminator="\n")
        table.writerow(["file", "cause", "keep", "transparency", "weight", "altitudeDeg"])
        for row in rows:
            row[4] = round(row[4] / best, 5)
            table.writerow(row)


if __name__ == "__main__":
    main(sys.argv[1])
