"""Draws the pictures of `opencv_pictures.json`: cameras over a plane with two sheets of A4, projected by OpenCV's `projectPoints`.

Run once with OpenCV (pip: opencv-python-headless) where the pictures are to be others; the test reads the JSON only.
"""

import json
import sys

import cv2
import numpy as np

random = np.random.default_rng(2026)
A4 = np.array([[0, 0], [297, 0], [297, 210], [0, 210]], dtype=float)


def turned(points, degrees, at):
    angle = np.radians(degrees)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    return points @ turn.T + np.array(at)


def picture():
    width, height = 4032, 3024
    focal = 2912.0 * random.uniform(0.97, 1.03)
    k1 = random.uniform(-0.03, 0.01)
    tilt = random.uniform(0, 18)
    lens = np.array([[focal, 0, width / 2], [0, focal, height / 2], [0, 0, 1.0]])
    # Straight above first, then tilted about a level axis, then turned about the line of sight.
    axis = random.uniform(0, 2 * np.pi)
    lean, _ = cv2.Rodrigues(np.radians(tilt) * np.array([np.cos(axis), np.sin(axis), 0]))
    roll, _ = cv2.Rodrigues(np.array([0, 0, random.uniform(-0.4, 0.4)]))
    turn = roll @ lean
    middle = np.array([230.0, 230.0, 0.0])
    shift = np.array([0, 0, random.uniform(1250, 1500)]) - turn @ middle
    sheets = [turned(A4, random.uniform(-8, 8), [-330, 120]), turned(A4, random.uniform(-8, 8), [420, 130])]
    places = np.array([[0, 90], [75, 0], [200, 45], [190, 150], [300, 215], [305, 420], [0, 440], [100, 280]], dtype=float)

    def seen(points):
        flat = np.hstack([points, np.zeros((len(points), 1))])
        pixels, _ = cv2.projectPoints(flat, cv2.Rodrigues(turn)[0], shift, lens, np.array([k1, 0, 0, 0]))
        return pixels.reshape(-1, 2).round(6).tolist()

    return {
        "size_px": [width, height],
        "focal_px": 2912.0,
        "k1": k1,
        "f": focal,
        "tilt": tilt,
        "sheets_px": [seen(sheet) for sheet in sheets],
        "places_mm": places.tolist(),
        "places_px": seen(places),
    }


json.dump({"opencv": cv2.__version__, "pictures": [picture() for _ in range(20)]}, sys.stdout, indent=1)
