use super::*;
use image::codecs::jpeg::JpegEncoder;
use image::{GrayImage, ImageEncoder, ImageFormat, RgbaImage};
use kachel_geom::{Ring, Watch};
use kachel_oracle::{Random, for_all};
use std::io::Cursor;

fn decode(bytes: &[u8]) -> Result<Artwork, ArtworkError> {
    Artwork::decode(bytes, &Watch::default())
}

fn svg(body: &str) -> Drawing {
    let text = format!(r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">{body}</svg>"#);
    match decode(text.as_bytes()).unwrap() {
        Artwork::Drawing(d) => d,
        Artwork::Picture(_) => panic!("an SVG became a picture"),
    }
}

fn area(a: &Area) -> f64 {
    a.rings.iter().map(Ring::area).sum::<f64>().abs()
}

fn png(image: &GrayImage) -> Vec<u8> {
    let mut out = Vec::new();
    image.write_to(&mut Cursor::new(&mut out), ImageFormat::Png).unwrap();
    out
}

#[test]
fn strokes_transforms_units_and_groups_become_areas() {
    let d = svg(r##"<g transform="translate(10 0) scale(2)"><g transform="rotate(90)">
          <rect x="5" y="-20" width="10" height="4" fill="#204060"/></g></g>
          <line x1="10" y1="50" x2="60" y2="50" stroke="black" stroke-width="3"/>"##);
    assert_eq!(d.areas.len(), 2);
    assert!((area(&d.areas[0]) - 160.0).abs() < 0.01, "{}", area(&d.areas[0]));
    assert!((area(&d.areas[1]) - 150.0).abs() < 0.01, "{}", area(&d.areas[1]));
    let b = Ring(d.areas[0].rings[0].0.clone()).bounds().unwrap();
    assert!((b.min.x - 42.0).abs() < 1e-3 && (b.max.y - 30.0).abs() < 1e-3, "{b:?}");
    // BT.709: 0.2126 * 32 + 0.7152 * 64 + 0.0722 * 96
    assert!((d.areas[0].grey - 59.507).abs() < 0.01);
}

#[test]
fn physical_units_are_honoured_and_pixels_are_not_taken_for_them() {
    let physical =
        r#"<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="2in"><rect width="9" height="9"/></svg>"#;
    let a = decode(physical.as_bytes()).unwrap();
    let mm = a.mm_per_px().unwrap();
    assert!((a.size().0 * mm - 50.0).abs() < 1e-3 && (a.size().1 * mm - 50.8).abs() < 1e-3);
    let pixels =
        r#"<svg xmlns="http://www.w3.org/2000/svg" width="50" height="20px"><rect width="9" height="9"/></svg>"#;
    assert_eq!(decode(pixels.as_bytes()).unwrap().mm_per_px(), None);
}

#[test]
fn an_svg_without_any_size_takes_the_bounds_of_the_drawing() {
    let a = decode(br#"<svg xmlns="http://www.w3.org/2000/svg"><rect x="5" y="5" width="295" height="70"/></svg>"#)
        .unwrap();
    assert_eq!(a.size(), (300.0, 75.0));
}

#[test]
fn clips_cut_and_opacity_lightens() {
    let d = svg(r#"<clipPath id="c"><circle cx="50" cy="50" r="20"/></clipPath>
           <g clip-path="url(#c)" opacity="0.5"><rect width="100" height="100"/></g>"#);
    let truth = std::f64::consts::PI * 400.0;
    assert!((area(&d.areas[0]) - truth).abs() < truth * 1e-3, "{}", area(&d.areas[0]));
    assert!((d.areas[0].grey - 127.5).abs() < 0.1);
}

#[test]
fn what_cannot_be_shown_is_said() {
    let d = svg(r##"<text x="1" y="9">Hi</text><image href="http://192.0.2.1/x.png" width="9" height="9"/>
           <filter id="f"><feGaussianBlur stdDeviation="2"/></filter><rect filter="url(#f)" width="9" height="9"/>
           <linearGradient id="g"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#000"/></linearGradient>
           <rect x="50" width="9" height="9" fill="url(#g)"/>"##);
    assert_eq!(d.doubts, [Doubt::Text, Doubt::Image, Doubt::Effect, Doubt::Shading]);
    assert!((d.areas[1].grey - 127.5).abs() < 1.0);
}

#[test]
fn unpainted_lines_are_counted_not_lost() {
    let d = svg(r#"<path d="M0 0L9 9" fill="none"/><circle r="4" fill="none"/>"#);
    assert!(d.areas.is_empty());
    assert_eq!(d.unpainted.len(), 2);
}

#[test]
fn entities_do_not_explode_and_external_ones_are_not_read() {
    let laughs = r#"<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">
      <!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;"><!ENTITY d "&c;&c;&c;&c;&c;&c;&c;&c;&c;&c;">
      <!ENTITY e "&d;&d;&d;&d;&d;&d;&d;&d;&d;&d;">]><svg xmlns="http://www.w3.org/2000/svg"><desc>&e;&e;&e;</desc></svg>"#;
    assert!(matches!(decode(laughs.as_bytes()), Err(ArtworkError::Damaged(_))));
    let outside = r#"<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"><desc>&x;</desc></svg>"#;
    assert!(matches!(decode(outside.as_bytes()), Err(ArtworkError::Damaged(_))));
}

#[test]
fn too_many_paths_are_refused_and_deep_nesting_does_not_crash() {
    let many = "<path d='M0 0h1v1z'/>".repeat(100_000);
    let text = format!("<svg xmlns='http://www.w3.org/2000/svg'>{many}</svg>");
    assert!(matches!(decode(text.as_bytes()), Err(ArtworkError::TooManyShapes { shapes: 100_000 })));
    let deep = format!(
        "<svg xmlns='http://www.w3.org/2000/svg'>{}<rect width='9' height='9'/>{}</svg>",
        "<g>".repeat(50_000),
        "</g>".repeat(50_000)
    );
    // Reading is recursive; the engine gives it a thread with a deep stack, as here.
    let result = std::thread::Builder::new().stack_size(64 << 20).spawn(move || decode(deep.as_bytes()).map(|_| ()));
    assert!(matches!(result.unwrap().join().unwrap(), Err(ArtworkError::Damaged(_))));
}

#[test]
fn exif_orientation_is_applied() {
    // Exif 2.32, table 6: orientation 6 means that row 0 is the right-hand side.
    let exif =
        [b"Exif\0\0II*\0\x08\0\0\0".as_slice(), &[1, 0, 0x12, 0x01, 3, 0, 1, 0, 0, 0, 6, 0, 0, 0, 0, 0, 0, 0]].concat();
    let mut image = GrayImage::from_pixel(32, 16, image::Luma([255]));
    (0..16).for_each(|y| (0..8).for_each(|x| image.put_pixel(x, y, image::Luma([0]))));
    let mut jpeg = Vec::new();
    JpegEncoder::new_with_quality(&mut jpeg, 95).write_image(&image, 32, 16, image::ExtendedColorType::L8).unwrap();
    let length = u16::try_from(exif.len() + 2).unwrap().to_be_bytes();
    let tagged = [&jpeg[..2], &[0xff, 0xe1], &length, &exif, &jpeg[2..]].concat();
    let Artwork::Picture(p) = decode(&tagged).unwrap() else { panic!() };
    assert_eq!((p.width, p.height), (16, 32));
    assert!(p.grey[..16 * 7].iter().all(|&g| g < 20), "the dark left side is on top now");
    assert!(p.grey[16 * 9..].iter().all(|&g| g > 235));
}

#[test]
fn transparency_shows_white_paper_and_is_kept() {
    let mut image = RgbaImage::from_pixel(2, 1, image::Rgba([10, 10, 10, 255]));
    image.put_pixel(1, 0, image::Rgba([0, 0, 0, 0]));
    let mut bytes = Vec::new();
    image.write_to(&mut Cursor::new(&mut bytes), ImageFormat::Png).unwrap();
    let Artwork::Picture(p) = decode(&bytes).unwrap() else { panic!() };
    assert_eq!((p.grey, p.alpha), (vec![10, 255], Some(vec![255, 0])));
}

#[test]
fn what_is_no_picture_is_told_apart_from_what_is_damaged() {
    assert!(matches!(decode(b"Dear diary"), Err(ArtworkError::UnknownFormat)));
    assert!(matches!(decode(b""), Err(ArtworkError::UnknownFormat)));
    let whole = png(&GrayImage::from_fn(64, 64, |x, y| image::Luma([((x * 7) ^ (y * 13)) as u8])));
    for end in [20, 40, whole.len() / 2, whole.len() - 20] {
        assert!(matches!(decode(&whole[..end]), Err(ArtworkError::Damaged(_))), "{end} bytes");
    }
    assert!(matches!(decode(b"<svg xmlns='http://www.w3.org/2000/svg'><g>"), Err(ArtworkError::Damaged(_))));
}

#[test]
fn a_giant_picture_is_refused_by_its_header() {
    let mut small = png(&GrayImage::new(4, 4));
    // PNG, third edition, 11.2.1: IHDR holds width and height in its first eight bytes, then the CRC over type and data.
    small[16..20].copy_from_slice(&30_000u32.to_be_bytes());
    small[20..24].copy_from_slice(&30_000u32.to_be_bytes());
    let crc = crc32(&small[12..29]);
    small[29..33].copy_from_slice(&crc.to_be_bytes());
    assert!(matches!(decode(&small), Err(ArtworkError::TooManyPixels { width: 30_000, height: 30_000 })));
}

/// PNG, third edition, annex D.
fn crc32(bytes: &[u8]) -> u32 {
    !bytes.iter().fold(!0u32, |crc, &b| {
        (0..8).fold(crc ^ u32::from(b), |c, _| if c & 1 == 1 { 0xedb8_8320 ^ (c >> 1) } else { c >> 1 })
    })
}

/// Flips, cuts and repeats bytes.
fn spoil(bytes: &[u8], random: &mut Random) -> Vec<u8> {
    let mut out = bytes.to_vec();
    for _ in 0..=random.below(8) {
        let at = random.below(out.len());
        match random.below(4) {
            0 => out[at] = random.bits() as u8,
            1 => out[at] ^= 1 << random.below(8),
            2 => out.truncate(at.max(1)),
            _ => {
                let end = (at + random.below(40)).min(out.len());
                let piece = out[at..end].to_vec();
                out.splice(at..at, piece);
            }
        }
    }
    out
}

#[test]
fn spoilt_files_are_refused_or_read_but_never_crash() {
    let mut jpeg = Vec::new();
    let image = GrayImage::from_fn(48, 40, |x, y| image::Luma([((x * x) ^ (y * 5)) as u8]));
    JpegEncoder::new(&mut jpeg).write_image(&image, 48, 40, image::ExtendedColorType::L8).unwrap();
    let drawing = br##"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 60"><g transform="rotate(8)" opacity=".8">
      <path d="M5 5C20 0 40 9 50 30Z" fill="#123"/><use href="#a" x="9"/></g><clipPath id="c"><circle r="20"/></clipPath>
      <rect id="a" clip-path="url(#c)" width="30" height="9" stroke="#000" stroke-dasharray="3 1"/></svg>"##;
    for (name, whole) in [("PNG", png(&image)), ("JPEG", jpeg), ("SVG", drawing.to_vec())] {
        let read = std::cell::Cell::new(0);
        for_all(400, |random| {
            let spoilt = spoil(&whole, random);
            match decode(&spoilt) {
                Ok(a) => {
                    read.set(read.get() + 1);
                    let (w, h) = a.size();
                    assert!(w > 0.0 && h > 0.0, "{name}");
                }
                Err(e) => assert!(!e.to_string().is_empty() && !e.hint().is_empty()),
            }
        });
        assert!(read.get() < 400, "{name}: some have to be refused");
    }
}

#[test]
fn every_kind_of_png_becomes_grey() {
    use image::DynamicImage;
    let base = DynamicImage::ImageRgba8(RgbaImage::from_fn(9, 7, |x, y| {
        image::Rgba([(x * 20) as u8, (y * 30) as u8, 99, 255])
    }));
    let kinds = [
        ("grey", DynamicImage::ImageLuma8(base.to_luma8())),
        ("grey 16", DynamicImage::ImageLuma16(base.to_luma16())),
        ("grey alpha", DynamicImage::ImageLumaA8(base.to_luma_alpha8())),
        ("rgb", DynamicImage::ImageRgb8(base.to_rgb8())),
        ("rgb 16", DynamicImage::ImageRgb16(base.to_rgb16())),
        ("rgba 16", DynamicImage::ImageRgba16(base.to_rgba16())),
    ];
    for (name, image) in kinds {
        let mut bytes = Vec::new();
        image.write_to(&mut Cursor::new(&mut bytes), ImageFormat::Png).unwrap();
        let Artwork::Picture(p) = decode(&bytes).unwrap() else { panic!() };
        // BT.709 by hand at one pixel: 0.2126 * 80 + 0.7152 * 90 + 0.0722 * 99 = 88.5
        let got = p.grey[3 * 9 + 4];
        assert!((86..=91).contains(&got), "{name}: {got}");
        assert!(p.alpha.is_none(), "{name}: wholly opaque");
    }
}

#[test]
fn what_is_drawn_far_off_the_page_is_refused_before_it_is_flattened() {
    let page = |inner: &str| {
        format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'>{inner}<path d='M10 10h50v50z'/></svg>")
    };
    let decode = |text: &str| Artwork::decode(text.as_bytes(), &Watch::default());
    for far in [
        "<circle cx='50' cy='50' r='1e22'/>",
        "<path d='M0 0C1e20 0 0 1e20 9 9z'/>",
        "<path d='M0 0h9v9z' stroke='#000' stroke-width='1e21' stroke-linejoin='round'/>",
        "<g transform='scale(1e9)'><path d='M0 0Q1e9 0 9 9z'/></g>",
        "<clipPath id='c'><circle r='1e21'/></clipPath><rect width='9' height='9' clip-path='url(#c)'/>",
    ] {
        match decode(&page(far)) {
            // The reader itself leaves out what no number holds.
            Ok(Artwork::Drawing(d)) => assert!(d.areas.len() <= 2, "{far}"),
            Ok(Artwork::Picture(_)) => panic!("{far}"),
            Err(e) => assert!(matches!(e, ArtworkError::TooFar | ArtworkError::Damaged(_)), "{far}: {e}"),
        }
    }
    assert!(matches!(decode(&page("<circle r='1e22'/>")), Err(ArtworkError::TooFar)));
    // Just within: many large curves are too many nodes, and no more than those are made.
    let wide = "<path d='M0 0".to_string() + &"C90000 0 0 90000 9 9".repeat(20_000) + "z'/>";
    assert!(matches!(decode(&page(&wide)), Err(ArtworkError::TooManyNodes)));
    assert!(decode(&page("<rect x='-900' y='-900' width='1900' height='1900' fill='#eee'/>")).is_ok());
}
