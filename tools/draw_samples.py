"""Draws the sample pictures that are not drawn by hand as SVG. Needs Pillow and NumPy; run in any folder:

    python3 tools/draw_samples.py samples

The same pictures come out every time. They are of the Fennhollow Allotments' seed swap, an invented setting, and CC0-1.0.
"""

import sys
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

FINER = 4  # Drawn so many times larger, then averaged: soft edges of one pixel.


class Sheet:
    def __init__(self, width, height, ground):
        self.image = Image.new("RGB", (width * FINER, height * FINER), ground)
        self.pen = ImageDraw.Draw(self.image)

    def area(self, points, colour):
        self.pen.polygon([(x * FINER, y * FINER) for x, y in points], fill=colour)

    def disc(self, x, y, r, colour):
        self.area(ellipse(x, y, r, r), colour)

    def line(self, points, width, colour):
        """Round ends and joins; the width may change along the line."""
        widths = np.broadcast_to(np.asarray(width, float), (len(points),))
        for (x, y), w in zip(points, widths):
            r = w * FINER / 2
            self.pen.ellipse((x * FINER - r, y * FINER - r, x * FINER + r, y * FINER + r), fill=colour)

    def done(self):
        w, h = self.image.size
        return self.image.resize((w // FINER, h // FINER), Image.Resampling.BOX)


def ellipse(x, y, rx, ry, turn=0.0, n=240):
    t = np.linspace(0, 2 * np.pi, n, endpoint=False)
    a, b = rx * np.cos(t), ry * np.sin(t)
    c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    return np.stack([x + a * c - b * s, y + a * s + b * c], 1)


def through(points, closed=False, per=60):
    """A smooth line through points (Catmull-Rom)."""
    p = np.asarray(points, float)
    p = np.vstack([p[-1], p, p[0], p[1]]) if closed else np.vstack([2 * p[0] - p[1], p, 2 * p[-1] - p[-2]])
    out = []
    for a, b, c, d in zip(p, p[1:], p[2:], p[3:]):
        t = np.linspace(0, 1, per, endpoint=False)[:, None]
        out.append(0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t**2 + (3 * b - a - 3 * c + d) * t**3))
    if not closed:
        out.append(p[-2:-1])
    return np.vstack(out)


def placed(points, x, y, k=1.0, turn=0.0):
    c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    p = np.asarray(points) * k
    return np.stack([x + p[:, 0] * c - p[:, 1] * s, y + p[:, 0] * s + p[:, 1] * c], 1)


def leaf(length, width):
    """Pointed at both ends, from the origin to the right."""
    t = np.linspace(0, np.pi, 80)
    x = length * (1 - np.cos(t)) / 2
    y = width / 2 * np.sin(t) ** 1.4
    return np.vstack([np.stack([x, -y], 1), np.stack([x, y], 1)[::-1]])


def oak_leaf():
    half = [(0, -10), (90, -16), (120, -70), (190, -80), (212, -42), (262, -112), (350, -124), (372, -58), (420, -104), (500, -96),
            (510, -40), (570, -52), (610, 0)]
    return through(half + [(x, -y) for x, y in half[-2::-1]], closed=True)


def pumpkin_badge():
    """Two colours on white."""
    green, orange = (38, 84, 66), (226, 121, 36)
    s = Sheet(720, 720, (255, 255, 255))
    s.disc(360, 360, 330, green)
    s.disc(360, 360, 296, (255, 255, 255))
    for k in range(48):
        t = k * np.pi / 24
        s.disc(360 + 313 * np.cos(t), 360 + 313 * np.sin(t), 6, (255, 255, 255))
    for x, rx in ((235, 105), (485, 105), (300, 105), (420, 105), (360, 92)):
        s.area(ellipse(x, 405, rx, 150), orange)
    for x, bow in ((282, -34), (438, 34), (335, -14), (385, 14)):
        s.line(through([(x, 286), (x + bow, 405), (x, 524)]), 9, (255, 255, 255))
    s.area(through([(338, 262), (346, 205), (318, 170), (356, 150), (384, 188), (386, 262)], closed=True), green)
    s.area(placed(leaf(150, 74), 388, 236, turn=-24), green)
    return s.done()


def swap_badge():
    """Four colours on white: a radish in a soup plate's rim."""
    navy, rose, leafy, cream = (32, 52, 92), (205, 58, 98), (84, 150, 72), (250, 232, 190)
    s = Sheet(800, 800, (255, 255, 255))
    t = np.linspace(0, 2 * np.pi, 720, endpoint=False)
    scallop = 368 + 14 * np.cos(20 * t)
    s.area(np.stack([400 + scallop * np.cos(t), 400 + scallop * np.sin(t)], 1), navy)
    s.disc(400, 400, 318, cream)
    for turn, length in ((-128, 205), (-92, 240), (-58, 205)):
        s.area(placed(leaf(length, 86), 400, 352, turn=turn), leafy)
        s.line(placed(np.stack([np.linspace(40, length * 0.8, 160), np.zeros(160)], 1), 400, 352, turn=turn), 7, cream)
    s.area(through([(400, 330), (492, 356), (520, 440), (470, 530), (424, 580), (404, 664), (388, 580), (330, 530), (280, 440),
                    (308, 356)], closed=True), rose)
    s.area(through([(330, 392), (352, 372), (360, 384), (334, 424), (330, 470), (318, 440)], closed=True), cream)
    for k in range(16):
        a = k * np.pi / 8 + np.pi / 16
        s.disc(400 + 343 * np.cos(a), 400 + 343 * np.sin(a), 9, cream)
    return s.done()


def signature():
    """A name in one sweep of the pen, pressed harder on the way down."""
    s = Sheet(1000, 460, (255, 255, 255))
    sweeps = [
        [(120, 90), (230, 70), (330, 84)],
        [(214, 80), (196, 180), (168, 300), (120, 352), (84, 318), (120, 276)],
        [(128, 206), (190, 196), (262, 198)],
        [(262, 260), (320, 246), (330, 206), (296, 200), (272, 250), (300, 306), (356, 292), (394, 236), (404, 214), (396, 300), (420, 236),
         (456, 212), (466, 250), (464, 296), (492, 302), (520, 236), (528, 212), (520, 300), (546, 236), (584, 212), (592, 250),
         (588, 292), (614, 306), (660, 270), (700, 130), (676, 96), (652, 150), (648, 290), (672, 240), (706, 220), (722, 256), (722, 296),
         (760, 304), (840, 258), (905, 250)],
        [(110, 396), (380, 372), (640, 380), (888, 360)],
    ]
    for sweep in sweeps:
        p = through(sweep, per=200)
        down = np.gradient(p[:, 1]) / (np.hypot(*np.gradient(p, axis=0).T) + 1e-9)
        s.line(p, 8.5 + 2.5 * np.convolve(down, np.ones(41) / 41, "same"), (26, 36, 84))
    return s.done()


def grain(size, spread, seed, soft=0.0):
    noise = np.random.default_rng(seed).normal(0, spread, (size[1], size[0]))
    if soft:
        image = Image.fromarray(np.uint8(np.clip(noise * 8 + 128, 0, 255))).filter(ImageFilter.GaussianBlur(soft))
        noise = (np.asarray(image, float) - 128) / 8 * soft * 2
    return noise[..., None]


def bean_scan():
    """A pencil drawing from an office scanner: put in askew, grain of the paper, specks of dust. 150 dpi."""
    w, h = 1240, 1000
    paper = (243, 241, 236)
    s = Sheet(w, h, paper)
    grey = (92, 92, 96)
    rng = np.random.default_rng(7)

    def pencil(points, width=7.0):
        p = through(points, per=160)
        s.line(p, width + np.convolve(rng.normal(0, 4, len(p)), np.ones(25) / 25, "same"), grey)

    pod = [(250, 640), (330, 520), (470, 440), (640, 420), (800, 450), (930, 540), (1000, 640), (960, 660), (850, 600), (700, 560), (540, 570),
           (400, 640), (300, 700), (250, 640)]
    pencil(pod)
    for x, y, r in ((420, 560, 42), (540, 505, 50), (670, 490, 52), (795, 520, 46), (890, 580, 34)):
        pencil(ellipse(x, y, r, r * 0.82, n=12).tolist() + [(x + r, y)], 5.5)
    pencil([(1000, 640), (1060, 700), (1050, 780), (990, 800), (960, 760), (1000, 730)], 6)
    pencil([(250, 640), (190, 600), (180, 520), (215, 470)], 8)
    pencil([(215, 470), (150, 420), (160, 330), (230, 290), (300, 330), (300, 410), (215, 470)], 6.5)
    pencil([(215, 470), (224, 400), (230, 330)], 5)
    image = s.done().filter(ImageFilter.GaussianBlur(0.8)).rotate(1.8, Image.Resampling.BICUBIC, fillcolor=paper)
    pixels = np.asarray(image, float) + grain((w, h), 5, 1) + grain((w, h), 3, 2, soft=3)
    image = Image.fromarray(np.uint8(np.clip(pixels, 0, 255)))
    dust = ImageDraw.Draw(image)
    for x, y, r in zip(rng.uniform(0, w, 60), rng.uniform(0, h, 60), rng.uniform(0.4, 1.6, 60)):
        dust.ellipse((x - r, y - r, x + r, y + r), fill=(120, 118, 112))
    return image


def warped(flat, corners, width, height, under):
    """The flat picture as a camera at a slant sees it: its corners come to lie at these."""
    w, h = flat.size
    rows = []
    for (x, y), (u, v) in zip(corners, ((0, 0), (w, 0), (w, h), (0, h))):
        rows.append([x, y, 1, 0, 0, 0, -u * x, -u * y, u])
        rows.append([0, 0, 0, x, y, 1, -v * x, -v * y, v])
    m = np.array(rows, float)
    k = np.linalg.solve(m[:, :8], m[:, 8])
    over = flat.transform((width, height), Image.Transform.PERSPECTIVE, k, Image.Resampling.BICUBIC)
    mask = Image.new("L", flat.size, 255).transform((width, height), Image.Transform.PERSPECTIVE, k, Image.Resampling.BICUBIC)
    return Image.composite(over, under, mask)


def table(w, h):
    """Boards of a wooden table."""
    y, x = np.mgrid[0:h, 0:w].astype(float)
    rings = np.sin(y / 9 + 3 * np.sin(x / 310) + 2 * np.sin(y / 47))
    board = 1 - 0.35 * (np.abs((y + 30) % 240 - 120) > 117)
    pixels = np.stack([(124 + 10 * rings) * board, (88 + 8 * rings) * board, (58 + 6 * rings) * board], -1)
    return Image.fromarray(np.uint8(np.clip(pixels, 0, 255)))


def photo(flat, corners, w, h, seed, lamp=(0.2, 0.15)):
    """A phone photo: slant, a lamp on one side, the lens a little soft, noise, JPEG."""
    image = warped(flat, corners, w, h, table(w, h)).filter(ImageFilter.GaussianBlur(0.9))
    y, x = np.mgrid[0:h, 0:w].astype(float)
    light = 1.08 - 0.62 * np.hypot(x / w - lamp[0], y / h - lamp[1]) ** 1.3
    tint = np.array([1.0, 0.97, 0.9])
    pixels = np.asarray(image, float) * light[..., None] * tint + grain((w, h), 3.5, seed)
    return Image.fromarray(np.uint8(np.clip(pixels, 0, 255)))


def leaf_photo():
    """A leaf cut from dark paper, on a sheet of A4: 210 x 297 mm, here lying across."""
    sheet = Sheet(1188, 840, (246, 245, 240))
    sheet.area(placed(oak_leaf(), 300, 470, k=1.0, turn=-14), (58, 66, 60))
    sheet.line(through([(306, 468), (250, 490), (200, 520)]), 16, (58, 66, 60))
    return photo(sheet.done(), [(290, 190), (1360, 120), (1510, 980), (130, 1050)], 1600, 1200, 11)


def main(folder):
    pumpkin_badge().save(folder / "pumpkin-badge.png", optimize=True)
    swap_badge().save(folder / "swap-badge.png", optimize=True)
    signature().convert("P", palette=Image.Palette.ADAPTIVE, colors=64).save(folder / "signature.png", optimize=True)
    bean_scan().convert("L").save(folder / "bean-scan.jpg", quality=86, dpi=(150, 150))
    leaf_photo().save(folder / "leaf-photo.jpg", quality=82)


if __name__ == "__main__":
    main(Path(sys.argv[1]))
