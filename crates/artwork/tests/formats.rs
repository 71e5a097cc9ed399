//! Files as other programs write them: every kind shows the same picture. See `conformance/formats/make.py`.

use image::{ExtendedColorType, GrayImage, ImageEncoder, codecs::jpeg::JpegEncoder, codecs::png::PngEncoder};
use kachel_artwork::{Artwork, ArtworkError, Doubt, Picture, WORKING_PIXELS};
use kachel_geom::Watch;
use kachel_oracle::Random;

fn file(name: &str) -> Vec<u8> {
    let path = format!("{}/conformance/formats/{name}", env!("CARGO_MANIFEST_DIR"));
    std::fs::read(&path).unwrap_or_else(|e| panic!("{path}: {e}"))
}

fn picture(bytes: &[u8]) -> Result<Picture, ArtworkError> {
    match Artwork::decode(bytes, &Watch::default())? {
        Artwork::Picture(p) => Ok(p),
        Artwork::Drawing(_) => panic!("a picture became a drawing"),
    }
}

/// Whether a pixel of the L is meant: see `make.py`.
fn is_ink(x: u32, y: u32) -> bool {
    (4..=27).contains(&y) && (8..=15).contains(&x) || (20..=27).contains(&y) && (16..=35).contains(&x)
}

#[test]
fn every_kind_of_file_shows_the_same_picture() {
    // Luma (BT.709) of the two colours: 0.2126 R + 0.7152 G + 0.0722 B.
    let (ink, ground) = (58.0, 236.3);
    let kinds: [(&str, f64); 19] = [
        ("rgb.bmp", 2.0),
        ("palette.bmp", 6.0),
        ("one-bit.bmp", 60.0),
        ("palette.png", 6.0),
        ("one-bit.png", 60.0),
        ("interlaced.png", 2.0),
        ("grey-alpha.png", 2.0),
        ("grey16.png", 2.0),
        ("animated.png", 2.0),
        ("animated.gif", 6.0),
        ("lossless.webp", 2.0),
        ("animated.webp", 2.0),
        ("progressive.jpg", 20.0),
        ("cmyk.jpg", 25.0),
        ("lzw.tif", 2.0),
        ("cmyk.tif", 12.0),
        ("g4.tif", 60.0),
        ("one-bit.tif", 60.0),
        ("two-pages.tif", 2.0),
    ];
    for (name, tolerance) in kinds {
        let p = picture(&file(name)).unwrap_or_else(|e| panic!("{name}: {e}"));
        assert_eq!((p.width, p.height), (48, 32), "{name}");
        for y in 0..32 {
            for x in 0..48 {
                let want = if is_ink(x, y) { ink } else { ground };
                let got = f64::from(p.grey[(y * 48 + x) as usize]);
                assert!((got - want).abs() <= tolerance, "{name} at {x}, {y}: {got}, not {want}");
            }
        }
        let several = name.starts_with("animated") || name.starts_with("two");
        assert_eq!(p.doubts.contains(&Doubt::FirstOfSeveral), several, "{name}: {:?}", p.doubts);
    }
}

#[test]
fn a_kind_that_is_not_read_is_told_apart_from_damage() {
    let e = picture(&file("g3.tif")).unwrap_err();
    assert!(matches!(e, ArtworkError::UnknownKind(_)), "{e}");
    assert!(e.hint().contains("PNG"));
}

#[test]
fn a_stated_resolution_is_the_files_own_size_where_it_makes_sense() {
    let mm = |name: &str| picture(&file(name)).unwrap().mm_per_px;
    for (name, dpi) in [("progressive.jpg", 300.0), ("lzw.tif", 300.0), ("g4.tif", 200.0)] {
        assert!((mm(name).unwrap_or_else(|| panic!("{name}")) - 25.4 / dpi).abs() < 1e-6, "{name}");
    }
    assert_eq!(mm("rgb.bmp"), None, "96 dpi are what programs write when they do not know");
    assert_eq!(mm("one-bit.png"), None);
}

#[test]
fn a_jpeg_that_breaks_off_is_used_as_far_as_it_goes() {
    let image = GrayImage::from_fn(256, 256, |x, _| image::Luma([if x < 100 { 20 } else { 240 }]));
    let mut bytes = Vec::new();
    JpegEncoder::new_with_quality(&mut bytes, 90).write_image(&image, 256, 256, ExtendedColorType::L8).unwrap();
    let whole = picture(&bytes).unwrap();
    assert!(whole.doubts.is_empty());
    // A camera's thumbnail in front has an end of its own.
    let thumbnail = [&[0xff, 0xd8, 0xff, 0xe1, 0, 6, 0xff, 0xd9, 0, 0], &bytes[2..]].concat();
    for cut in [bytes, thumbnail].map(|b| b[..b.len() / 2].to_vec()) {
        let p = picture(&cut).unwrap();
        assert_eq!((p.width, p.height), (256, 256));
        assert!(p.doubts.contains(&Doubt::CutOff), "{:?}", p.doubts);
        assert_eq!(p.grey[..256 * 60], whole.grey[..256 * 60], "the upper part is there");
    }
}

#[test]
fn a_picture_of_twelve_thousand_pixels_is_worked_on_at_a_stated_size() {
    let (w, h) = (12_000u32, 6_000u32);
    let row: Vec<u8> = (0..w).map(|x| if x < w / 4 { 10 } else { 250 }).collect();
    let pixels = row.repeat(h as usize);
    let mut bytes = Vec::new();
    let encoder = PngEncoder::new_with_quality(
        &mut bytes,
        image::codecs::png::CompressionType::Fast,
        image::codecs::png::FilterType::Up,
    );
    encoder.write_image(&pixels, w, h, ExtendedColorType::L8).unwrap();
    let p = picture(&bytes).unwrap();
    let said = p.doubts.iter().find_map(|d| match d {
        Doubt::Reduced { from, to } => Some((*from, *to)),
        _ => None,
    });
    assert_eq!(said, Some(((w, h), (p.width, p.height))));
    assert!(u64::from(p.width) * u64::from(p.height) <= WORKING_PIXELS);
    assert!((f64::from(p.width) / f64::from(p.height) - 2.0).abs() < 1e-3);
    let dark = p.grey[..p.width as usize].iter().filter(|g| **g < 128).count();
    assert!((dark as f64 - f64::from(p.width) / 4.0).abs() < 1.0, "{dark} of {}", p.width);
}

#[test]
fn spoilt_files_of_every_kind_are_refused_or_read_but_never_crash() {
    let folder = format!("{}/conformance/formats", env!("CARGO_MANIFEST_DIR"));
    let mut files: Vec<_> = std::fs::read_dir(folder).unwrap().map(|f| f.unwrap().path()).collect();
    files.retain(|f| f.extension().is_some_and(|e| e != "py"));
    files.sort();
    let mut random = Random::new(2024);
    let (mut read, mut refused) = (0, 0);
    for path in &files {
        let whole = std::fs::read(path).unwrap();
        for _ in 0..150 {
            let mut bytes = whole.clone();
            for _ in 0..=random.below(6) {
                let at = random.below(bytes.len());
                match random.below(3) {
                    0 => bytes[at] = random.bits() as u8,
                    1 => bytes[at] ^= 1 << random.below(8),
                    _ => bytes.truncate(at.max(1)),
                }
            }
            match Artwork::decode(&bytes, &Watch::default()) {
                Ok(a) => {
                    read += 1;
                    let (w, h) = a.size();
                    assert!(w >= 1.0 && h >= 1.0, "{}", path.display());
                    assert!(a.mm_per_px().is_none_or(|mm| mm > 0.0 && mm.is_finite()), "{}", path.display());
                }
                Err(e) => {
                    refused += 1;
                    assert!(!e.to_string().is_empty() && !e.hint().is_empty());
                }
            }
        }
    }
    assert!(read > 300 && refused > 300, "{read} read, {refused} refused");
}
