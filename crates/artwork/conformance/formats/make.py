"""Writes the same small picture in many kinds of file, with encoders that Kachel does not use (Pillow: libjpeg-turbo,
libtiff, libwebp; the interlaced PNG is put together by hand). Needs Pillow:

    python3 make.py
"""

import struct
import zlib

from PIL import Image, ImageDraw

W, H = 48, 32


def picture(mode="RGB"):
    """A dark L on light ground, not symmetric in any way."""
    image = Image.new("RGB", (W, H), (240, 236, 228))
    pen = ImageDraw.Draw(image)
    pen.rectangle((8, 4, 15, 27), fill=(40, 60, 90))
    pen.rectangle((16, 20, 35, 27), fill=(40, 60, 90))
    return image.convert(mode)


def other():
    return Image.new("RGB", (W, H), (40, 60, 90))


def interlaced(path):
    """PNG, third edition, 8.1: the seven passes of Adam7; grey, 8 bit."""
    image = picture("L")
    data = b""
    for x0, y0, dx, dy in ((0, 0, 8, 8), (4, 0, 8, 8), (0, 4, 4, 8), (2, 0, 4, 4), (0, 2, 2, 4), (1, 0, 2, 2), (0, 1, 1, 2)):
        for y in range(y0, H, dy):
            data += b"\0" + bytes(image.getpixel((x, y)) for x in range(x0, W, dx))

    def chunk(kind, body):
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    header = struct.pack(">IIBBBBB", W, H, 8, 0, 0, 0, 1)
    with open(path, "wb") as f:
        f.write(b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(data, 9)) + chunk(b"IEND", b""))


grey, flat = picture("L"), picture().quantize(4)
bits = picture("L").point(lambda v: 255 if v > 128 else 0).convert("1")
picture().save("rgb.bmp")
flat.save("palette.bmp")
bits.save("one-bit.bmp")
flat.save("palette.png", bits=2)
bits.save("one-bit.png", bits=1)
interlaced("interlaced.png")
grey.convert("LA").save("grey-alpha.png")
grey.convert("I").point(lambda v: v * 257).convert("I;16").save("grey16.png")
picture().save("animated.png", save_all=True, append_images=[other()], duration=100)
flat.save("animated.gif", save_all=True, append_images=[other().quantize(4)], duration=100)
picture().save("lossless.webp", lossless=True)
picture().save("animated.webp", save_all=True, append_images=[other()], duration=100, lossless=True)
picture().save("progressive.jpg", quality=92, progressive=True, dpi=(300, 300))
picture("CMYK").save("cmyk.jpg", quality=92)
picture().save("lzw.tif", compression="tiff_lzw", dpi=(300, 300))
picture("CMYK").save("cmyk.tif")
bits.save("g3.tif", compression="group3")
bits.save("g4.tif", compression="group4", dpi=(200, 200))
bits.save("one-bit.tif")
picture().save("two-pages.tif", save_all=True, append_images=[other()], compression="tiff_deflate")
