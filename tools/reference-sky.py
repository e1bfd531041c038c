#!/usr/bin/env python3
"""Makes the reference values that tests of star measurement and of the WCS are held against.

They come from general-purpose libraries (Debian: python3-astropy 5.2.1, python3-sep 1.2.1), which are not needed to run the tests.
usage, from the project's root: /usr/bin/python3 tools/reference-sky.py
"""
import csv
import pathlib

import numpy as np
import sep
from astropy.io import fits
from astropy.table import Table
from astropy.wcs import WCS

solve = pathlib.Path("core/src/test/resources/app/ironside/solve")
star = pathlib.Path("core/src/test/resources/app/ironside/star")
sky = pathlib.Path("core/src/test/resources/app/ironside/sky")
for folder in (solve, star, sky):
    folder.mkdir(parents=True, exist_ok=True)

# A tangent plane with distortion of the third order, and the sky at some pixels.
header = fits.Header()
header["NAXIS"], header["NAXIS1"], header["NAXIS2"] = 2, 2800, 2100
header["CTYPE1"], header["CTYPE2"] = "RA---TAN-SIP", "DEC--TAN-SIP"
header["CRVAL1"], header["CRVAL2"] = 114.214, 65.602
header["CRPIX1"], header["CRPIX2"] = 1400.5, 1050.5
header["CD1_1"], header["CD1_2"], header["CD2_1"], header["CD2_2"] = -8.1e-4, 1.9e-4, 1.9e-4, 8.1e-4
header["A_ORDER"], header["B_ORDER"] = 3, 3
for key, value in {"A_2_0": 1.3e-6, "A_1_1": -7e-7, "A_0_2": 4e-7, "A_3_0": 2.2e-9, "A_1_2": 2.1e-9,
                   "B_2_0": -5e-7, "B_1_1": 9e-7, "B_0_2": -1.1e-6, "B_0_3": 2.3e-9, "B_2_1": 2.0e-9}.items():
    header[key] = value
header["AP_ORDER"], header["BP_ORDER"] = 1, 1
fits.PrimaryHDU(np.zeros((2, 2), np.int16), None).writeto(solve / "sip.fits", overwrite=True)
wcs = WCS(header)
with open(solve / "sip.csv", "w", newline="") as out:
    table = csv.writer(out, lineterminator="\n")
    for key in header:
        if key not in ("NAXIS", "NAXIS1", "NAXIS2"):
            table.writerow(["header", key, header[key]])
    for x, y in [(1, 1), (1400.5, 1050.5), (2800, 2100), (1, 2100), (2800, 1), (700.25, 1500.75), (2100.5, 300.5)]:
        ra, dec = wcs.all_pix2world(x, y, 1)
        table.writerow(["pixel", x, y, f"{float(ra):.12f}", f"{float(dec):.12f}"])
(solve / "sip.fits").unlink()

# A small frame of Moffat stars, and what the library measures in it.
rng = np.random.default_rng(20261114)
height, width = 160, 220
yy, xx = np.mgrid[0:height, 0:width]
frame = 800 + 0.3 * xx
truth = []
for k in range(24):
    x, y = 14 + rng.uniform(0, width - 28), 14 + rng.uniform(0, height - 28)
    if any(np.hypot(x - a, y - b) < 22 for a, b in truth):
        continue
    truth.append((x, y))
    flux, alpha, beta = 10 ** rng.uniform(3.9, 5.2), 2.1, 3.0
    for dy in np.arange(-0.4, 0.5, 0.2):
        for dx in np.arange(-0.4, 0.5, 0.2):
            r2 = (xx + dx - x) ** 2 + (yy + dy - y) ** 2
            frame = frame + flux * (beta - 1) / (np.pi * alpha**2) * (1 + r2 / alpha**2) ** -beta / 25
frame = rng.poisson(frame) + rng.normal(0, 4, frame.shape)
data = np.clip(np.round(frame), 0, 65535).astype(np.uint16)
fits.PrimaryHDU(data).writeto(star / "small-field.fits", overwrite=True)
image = data.astype(np.float32)
background = sep.Background(image, bw=64, bh=64)
flat = image - background
found = sep.extract(flat, 4.0, err=background.globalrms)
hfr, _ = sep.flux_radius(flat, found["x"], found["y"], np.full(len(found), 11.0), 0.5, subpix=5)
xw, yw, _ = sep.winpos(flat, found["x"], found["y"], 2.0 / 2.35 * hfr)
flux, _, _ = sep.sum_circle(flat, xw, yw, 9.0)
with open(star / "small-field.csv", "w", newline="") as out:
    table = csv.writer(out, lineterminator="\n")
    table.writerow(["x", "y", "hfr", "flux"])
    for row in sorted(zip(xw + 1, yw + 1, hfr, flux), key=lambda r: -r[3]):
        table.writerow([f"{v:.4f}" for v in row])

# A table of stars that move, as FITS and as VOTable, with right ascension in degrees.
stars = Table({"source": [1, 2, 3], "RAJ2000": [10.0, 20.5, 359.9], "DEJ2000": [41.0, -5.25, 88.0],
               "Vmag": [5.5, 7.25, 11.0], "pmRA": [1000.0, 0.0, -250.0], "pmDE": [-500.0, 0.0, 20.0]})
for name, unit in {"RAJ2000": "deg", "DEJ2000": "deg", "Vmag": "mag", "pmRA": "mas/yr", "pmDE": "mas/yr"}.items():
    stars[name].unit = unit
stars.write(sky / "moving-stars.fits", overwrite=True)
stars.write(sky / "moving-stars.vot", format="votable", overwrite=True)
