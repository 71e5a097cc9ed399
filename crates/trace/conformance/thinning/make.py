"""Writes bitmaps and their skeletons by scikit-image 0.26 (`skeletonize(method="zhang")`: T. Y. Zhang and C. Y. Suen, 'A fast
parallel algorithm for thinning digital patterns', 1984, doi:10.1145/357994.358023). Needs scikit-image:

    python3 make.py > shapes.txt

One character a pixel: '.' ground, 'o' ink that is thinned away, '#' skeleton.
"""

import numpy as np
from skimage.draw import disk, ellipse, line
from skimage.morphology import dilation, skeletonize
from skimage.morphology import disk as footprint

W, H = 64, 48


def strokes(*ends, radius=3):
    image = np.zeros((H, W), bool)
    for a, b in ends:
        image[line(*a, *b)] = True
    return dilation(image, footprint(radius))


def ring():
    image = np.zeros((H, W), bool)
    image[ellipse(24, 32, 19, 27)] = True
    image[ellipse(24, 32, 12, 20)] = False
    return image


def blob(seed):
    random = np.random.default_rng(seed)
    image = np.zeros((H, W), bool)
    for _ in range(7):
        image[disk((random.integers(10, H - 10), random.integers(10, W - 10)), random.integers(3, 9), shape=(H, W))] = True
    return image


for image in (
    strokes(((24, 6), (24, 57))),
    strokes(((8, 8), (40, 55)), ((40, 8), (8, 55))),
    strokes(((8, 32), (40, 32)), ((8, 8), (8, 56)), radius=2),
    ring(),
    blob(1),
    blob(2),
    blob(3),
):
    skeleton = skeletonize(image, method="zhang")
    for y in range(H):
        print("".join("#" if s else "o" if i else "." for s, i in zip(skeleton[y], image[y])))
    print()
