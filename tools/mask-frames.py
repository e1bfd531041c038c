#!/usr/bin/env python3
"""Stars through a focusing mask of three grids, by Fourier optics, for MaskReaderTest.

The light's wave over the aperture, with the phase of a defocus, is transformed and squared, and summed over a filter's
wavelengths; then blurred, laid on a sky, and given Poisson and read noise. Shares no code with what reads them.

    python3 tools/mask-frames.py core/src/test/resources/app/ironside/focus

Needs numpy, scipy and astropy.
"""
import gzip
import io
import sys
from pathlib import Path

import numpy as np
from astropy.io import fits
from scipy.ndimage import gaussian_filter

APERTURE_MM, FOCAL_MM, PIXEL_UM = 90.0, 432.0, 6.3
PITCH_MM = 2.2
WAVES_UM = (0.50, 0.525, 0.55, 0.575, 0.60)
FFT, OVER, SIDE = 2048, 3, 241


def spread(defocus_um, angle_deg, lean_deg):
    """Image of a star, one pixel a camera pixel; its sum is 1.

    The straight bars fill one half of the aperture, their spike at angle_deg; those of the two quarters lean by lean_deg.
    """
    image = 0
    for wave in WAVES_UM:
        # So that a pixel of the transform is a camera pixel over OVER.
        step = wave * 1e-3 * FOCAL_MM / (FFT * PIXEL_UM / OVER * 1e-3)
        at = (np.arange(FFT) - FFT / 2) * step
        x, y = np.meshgrid(at, at)
        c, s = np.cos(np.radians(angle_deg)), np.sin(np.radians(angle_deg))
        along, across = c * x + s * y, -s * x + c * y

        def bars(normal_deg):
            q = np.cos(np.radians(normal_deg)) * along + np.sin(np.radians(normal_deg)) * across
            return np.mod(q, PITCH_MM) < PITCH_MM / 2

        mask = np.where(across < 0, bars(0), np.where(along > 0, bars(lean_deg), bars(-lean_deg)))
        phase = defocus_um * 1e-3 * (x**2 + y**2) / (2 * FOCAL_MM**2) / (wave * 1e-3)
        field = (np.hypot(x, y) <= APERTURE_MM / 2) * mask * np.exp(2j * np.pi * phase)
        light = np.abs(np.fft.fftshift(np.fft.fft2(np.fft.ifftshift(field)))) ** 2
        first = FFT // 2 - SIDE * OVER // 2
        part = light[first : first + SIDE * OVER, first : first + SIDE * OVER]
        part = part.reshape(SIDE, OVER, SIDE, OVER).sum((1, 3))
        image = image + part / part.sum() / len(WAVES_UM)
    return gaussian_filter(image, 1.0)


def frame(rng, defocus_um, angle_deg, lean_deg, stars):
    picture = np.zeros((440, 460))
    star = spread(defocus_um, angle_deg, lean_deg)
    half = SIDE // 2
    for x, y, light in stars:
        y0, x0 = max(0, y - half), max(0, x - half)
        y1, x1 = min(440, y - half + SIDE), min(460, x - half + SIDE)
        picture[y0:y1, x0:x1] += light * star[y0 - y + half : y1 - y + half, x0 - x + half : x1 - x + half]
    seen = rng.poisson(picture + 400) + rng.normal(0, 4, picture.shape) + 500
    return np.clip(seen, 0, 65535).astype(np.uint16)


def main(folder):
    rng = np.random.default_rng(3)
    one = [(190, 200, 6e6)]
    for name, defocus, angle, lean, stars in (
        ("in", 0, 17, 20, one),
        ("p30", 30, 17, 20, one),
        ("q60", 60, 17, 20, one),
        ("n60", 60, 17, -20, one),
        ("p80", 80, 63, -20, [(150, 160, 5e6), (330, 350, 3e6)]),
    ):
        hdu = fits.PrimaryHDU(frame(rng, defocus, angle, lean, stars))
        hdu.header["DEFOCUS"] = (defocus, "um, as the phase was given")
        hdu.header["SPIKE"] = (angle, "deg, of the middle spike")
        hdu.header["LEAN"] = (lean, "deg, of the leaning bars")
        raw = io.BytesIO()
        hdu.writeto(raw)
        Path(folder, f"mask-{name}.fits.gz").write_bytes(gzip.compress(raw.getvalue(), 9, mtime=0))


if __name__ == "__main__":
    main(sys.argv[1])
