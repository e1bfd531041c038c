#!/usr/bin/env python3
"""Sights of a mount whose axis is off, by astropy alone, for AxisFinderTest.

A camera is turned rigidly about an axis that is fixed to the ground; where it looks and how it lies on the sky follows from astropy's own
chain from the local frame to the catalogue's, without an atmosphere. Writes core/src/test/resources/app/ironside/polar/sights.csv.
"""
import numpy as np
from astropy import units as u
from astropy.coordinates import AltAz, EarthLocation, SkyCoord
from astropy.time import Time
from astropy.utils import iers

iers.conf.auto_download = False
iers.conf.iers_degraded_accuracy = "warn"


def direction(alt_deg, az_deg):
    alt, az = np.radians([alt_deg, az_deg])
    return np.array([np.cos(alt) * np.sin(az), np.cos(alt) * np.cos(az), np.sin(alt)])


def turned(v, axis, degrees):
    a = np.radians(degrees)
    return v * np.cos(a) + np.cross(axis, v) * np.sin(a) + axis * axis.dot(v) * (1 - np.cos(a))


def sky(v, where, when):
    alt = np.degrees(np.arcsin(v[2]))
    az = np.degrees(np.arctan2(v[0], v[1]))
    frame = AltAz(obstime=when, location=where, pressure=0 * u.hPa)
    return SkyCoord(az=az * u.deg, alt=alt * u.deg, frame=frame).icrs


def sights(lat, up, east, distance, side, cone_roll, turns):
    where = EarthLocation(lon=8.2 * u.deg, lat=lat * u.deg, height=740 * u.m)
    north = lat >= 0
    pole_alt, pole_az = abs(lat), 0 if north else 180
    az = pole_az + (1 if north else -1) * east / 60 / np.cos(np.radians(pole_alt))
    axis = direction(pole_alt + up / 60, az)
    # A direction at the distance from the axis, on a side of it; and the camera's upper edge, lying anyhow.
    level = np.cross(axis, [0, 0, 1.0])
    level /= np.linalg.norm(level)
    first = turned(turned(axis, level, distance), axis, side)
    any_up = np.cross(first, [0.3, 0.5, 0.8])
    any_up /= np.linalg.norm(any_up)
    camera_up = turned(any_up, first, cone_roll)
    lines = []
    for k, turn in enumerate(turns):
        when = Time("2026-11-14T18:00:00") + k * 95 * u.s
        c = turned(first, axis, turn)
        e = turned(camera_up, axis, turn)
        centre = sky(c, where, when)
        above = sky(c * np.cos(1e-4) + e * np.sin(1e-4), where, when)
        pa = centre.position_angle(above).deg
        lines.append(f"{lat},{up},{east},{distance},{when.isot},{centre.ra.deg:.8f},{centre.dec.deg:.8f},{pa:.6f}")
    return lines


rows = ["# made by tools/reference-polar.py with astropy; no atmosphere",
        "latDeg,upArcmin,eastArcmin,distanceDeg,middle,raDeg,decDeg,angleDeg"]
rng = np.random.default_rng(5)
for lat in (44.05, 60, -33.9):
    for distance in (0.0, 0.02, 0.4, 1.5, 3.1, 12, 60):
        for up, east in ((0.17, 0), (12, -20), (-95, 140)):
            rows += sights(lat, up, east, distance, rng.uniform(0, 360), rng.uniform(0, 360), (0, 24, 51))
with open("core/src/test/resources/app/ironside/polar/sights.csv", "w") as out:
    out.write("\n".join(rows) + "\n")
