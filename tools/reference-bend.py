#!/usr/bin/env python3
"""Stars of one sky on two frames of a lens that bends its field, for BentFieldsTest.

A camera of 2400 x 1600 pixels of 9 arcsec behind a lens that draws its corners a dozen pixels outward (SIP terms of the
third degree, and a little of the second for a sensor that is not quite square to the axis); pointed again 35 arcmin away
and 25 degrees turned. astropy gives where each star falls on both, without noise. Shares no code with what reads them.

    python3 tools/reference-bend.py > core/src/test/resources/app/ironside/solve/bent-fields.csv

Needs numpy and astropy 5.
"""
import numpy as np
from astropy.wcs import WCS, Sip

WIDTH, HEIGHT, SCALE, STARS = 2400, 1600, 9 / 3600, 260
OUTWARD, TILT = 5.0e-9, 1.5e-7


def pointed(ra, dec, turn):
    wcs = WCS(naxis=2)
    wcs.wcs.crpix = [WIDTH / 2 + 0.5, HEIGHT / 2 + 0.5]
    wcs.wcs.crval = [ra, dec]
    wcs.wcs.ctype = ["RA---TAN-SIP", "DEC--TAN-SIP"]
    c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    wcs.wcs.cd = SCALE * np.array([[-c, s], [s, c]])
    a, b = np.zeros((4, 4)), np.zeros((4, 4))
    a[3, 0] = a[1, 2] = b[0, 3] = b[2, 1] = -OUTWARD
    a[2, 0], b[1, 1] = TILT, -TILT
    wcs.sip = Sip(a, b, None, None, wcs.wcs.crpix)
    return wcs


def main():
    random = np.random.default_rng(12)
    first, second = pointed(23.46, 30.66, 3.0), pointed(24.02, 30.97, 28.0)
    print("# x and y on the first frame, x and y on the second; FITS pixels")
    told = 0
    while told < STARS:
        x, y = random.uniform(5, WIDTH - 5), random.uniform(5, HEIGHT - 5)
        ra, dec = first.all_pix2world(x, y, 1)
        x2, y2 = second.all_world2pix(ra, dec, 1, tolerance=1e-7, maxiter=60)
        if 5 < x2 < WIDTH - 5 and 5 < y2 < HEIGHT - 5:
            print(f"{x:.5f},{y:.5f},{x2:.5f},{y2:.5f}")
            told += 1


main()
