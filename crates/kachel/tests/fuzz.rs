//! Every reader of foreign bytes against random changes of files that are sound. A reader may refuse; it may not panic, hang or take all
//! memory. `make fuzz` runs this for longer, with its memory held by the system. A file that harms is left in target/fuzz, with its seed.

use image::{DynamicImage, ImageFormat, Rgba, RgbaImage};
use kachel_engine::artwork::Artwork;
use kachel_engine::exchange::{read_stl, read_threemf, write_stl_binary, write_stl_text};
use kachel_engine::rehearse::parse_time;
use kachel_engine::{
    Bed, BedEdit, Document, Engine, ExportFormat, Length, Watch, export, import_design, offered_credit, read_houses,
    tiers::Unit,
};
use kachel_oracle::Random;
use std::io::Cursor;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::{Duration, Instant};

/// How long it runs where KACHEL_FUZZ_SECONDS says nothing.
const USUAL: Duration = Duration::from_secs(40);
/// A reader that takes longer over some hundred bytes hangs.
const LONGEST: Duration = Duration::from_secs(20);
/// Largest file that is made.
const MOST_BYTES: usize = 20_000;

type Reader = fn(&[u8]);

/// Names of readers, and what each of them does with bytes.
const READERS: [(&str, Reader); 6] = [
    ("picture", |b| {
        // Decoded whole, however small the file: a header may promise anything.
        let _ = Artwork::decode(b, &Watch::default());
        let _ = offered_credit(b);
    }),
    ("stl", |b| _ = read_stl(b).map(|m| m.volume())),
    ("3mf", |b| {
        let _ = read_threemf(b);
        let _ = import_design(b);
    }),
    ("document", |b| {
        let text = String::from_utf8_lossy(b);
        if let Ok(d) = Document::from_json(&text) {
            let _ = d.refusal();
        }
        let _ = Bed::from_json(&text);
    }),
    ("houses", |b| _ = read_houses(b)),
    ("words", |b| {
        let text = String::from_utf8_lossy(b);
        let _ = parse_time(&text);
        let _ = Bed::new("Sound").after(&BedEdit::SetGap { value: Length::from(&*text) }, Unit::In);
    }),
];

/// Sound files of every kind, by the number of their reader.
fn corpus() -> Vec<(usize, Vec<u8>)> {
    let mut all: Vec<(usize, Vec<u8>)> = vec![];
    let picture = RgbaImage::from_fn(24, 20, |x, y| {
        let is_ink = (x.abs_diff(12)).pow(2) + (y.abs_diff(10)).pow(2) < 49;
        Rgba(if is_ink { [20, 60, 90, 255] } else { [250, 248, 240, if x < 3 { 0 } else { 255 }] })
    });
    let picture = DynamicImage::ImageRgba8(picture);
    for format in
        [ImageFormat::Png, ImageFormat::Jpeg, ImageFormat::Gif, ImageFormat::Bmp, ImageFormat::Tiff, ImageFormat::WebP]
    {
        let mut bytes = Cursor::new(vec![]);
        let written = match format {
            ImageFormat::Jpeg => picture.to_rgb8().write_to(&mut bytes, format),
            _ => picture.write_to(&mut bytes, format),
        };
        written.unwrap();
        all.push((0, bytes.into_inner()));
    }
    let svg = "<svg xmlns='http://www.w3.org/2000/svg' width='40mm' height='30mm' viewBox='0 0 40 30'><style>.a{fill:#246}</style>\
        <defs><clipPath id='c'><circle cx='20' cy='15' r='9'/></clipPath><linearGradient id='g'><stop stop-color='red'/></linearGradient></defs>\
        <g clip-path='url(#c)' transform='rotate(10)'><path class='a' d='M5 5h30v20H5zM10 10C12 4 20 4 22 12S30 20 26 9z' fill-rule='evenodd'/></g>\
        <use href='#u'/><g id='u' opacity='.5'><ellipse cx='9' cy='9' rx='3' ry='5' fill='url(#g)'/><polyline points='1,1 9,4 3,8' fill='none' \
        stroke='#000' stroke-width='1.5' stroke-dasharray='2 1'/></g><text x='3' y='4'>x</text></svg>";
    all.push((0, svg.as_bytes().to_vec()));
    let engine = Engine::default();
    let watch = Watch::default();
    let document = engine.new_document("Sound", "sound.svg", svg.as_bytes(), &watch).unwrap();
    let bytes = || Ok(svg.as_bytes().to_vec());
    let run = engine.run(&document, &bytes, &watch);
    let solid = &run.solid.as_ref().expect("a solid").1;
    all.push((1, write_stl_binary(&solid.skin, "sound").unwrap()[..2000].to_vec()));
    all.push((1, write_stl_text(&solid.skin, "sound")[..3000].to_vec()));
    all.push((2, export(&document, &run, &bytes, ExportFormat::ThreeMf, None).unwrap()));
    all.push((3, document.to_json().unwrap().into_bytes()));
    all.push((3, Bed::new("Sound").to_json().unwrap().into_bytes()));
    all.push((4, br#"{"version":1,"houses":[{"name":"thin","recipe":"cutter","measures":{"wall":0.9}}]}"#.to_vec()));
    for words in ["1 h 20 min", "35min", "0:45", "3 1/2 in", "12,5 mm", "7/8\""] {
        all.push((5, words.as_bytes().to_vec()));
    }
    all
}

/// Words and numbers at which readers stumble.
const HARD: [&[u8]; 14] = [
    b"\0\0\0\0",
    b"\xff\xff\xff\xff",
    b"\x7f\xff\xff\xff",
    b"\x80\0\0\0",
    b"1e999",
    b"-1e300",
    b"NaN",
    b"999999999999",
    b"<!ENTITY a '",
    b"&a;",
    b"url(#c)",
    b"\"",
    b"}",
    b"\xe2\x80\x8d",
];

/// One change of a file, or several.
fn changed(mut bytes: Vec<u8>, other: &[u8], random: &mut Random) -> Vec<u8> {
    for _ in 0..=random.below(4) {
        let at = random.below(bytes.len() + 1);
        let long = 1 + random.below(24);
        match random.below(8) {
            0 | 1 if at < bytes.len() => bytes[at] ^= 1 << random.below(8),
            2 if at < bytes.len() => bytes[at] = random.bits() as u8,
            3 => bytes.truncate(at),
            4 => drop(bytes.drain(at..(at + long).min(bytes.len()))),
            5 => drop(bytes.splice(at..at, HARD[random.below(HARD.len())].iter().copied())),
            6 => {
                let hard = HARD[random.below(HARD.len())];
                let end = (at + hard.len()).min(bytes.len());
                drop(bytes.splice(at..end, hard.iter().copied()));
            }
            _ if !other.is_empty() => {
                let from = random.below(other.len());
                let piece = other[from..(from + long * 4).min(other.len())].to_vec();
                drop(bytes.splice(at..at, piece));
            }
            _ => {}
        }
    }
    bytes.truncate(MOST_BYTES);
    bytes
}

#[test]
fn readers_survive_anything() {
    let given = std::env::var("KACHEL_FUZZ_SECONDS").ok().and_then(|s| s.parse().ok());
    let (time, start) = (given.map_or(USUAL, Duration::from_secs), Instant::now());
    // Another part of the endless list each time somebody asks for more.
    let first: u64 = std::env::var("KACHEL_FUZZ_SEED").ok().and_then(|s| s.parse().ok()).unwrap_or(1);
    let corpus = corpus();
    let done = AtomicU64::new(0);
    // Panics are expected to be none; those there are need no picture of the stack each.
    std::thread::scope(|all| {
        for worker in 0..2 {
            let (corpus, done) = (&corpus, &done);
            all.spawn(move || {
                let mut seed = first * 1_000_000_007 + worker;
                while start.elapsed() < time {
                    seed += 2;
                    let mut random = Random::new(seed);
                    let (reader, sound) = &corpus[random.below(corpus.len())];
                    let other = &corpus[random.below(corpus.len())].1;
                    let bytes = changed(sound.clone(), other, &mut random);
                    let (name, read) = READERS[*reader];
                    let since = Instant::now();
                    let outcome = catch_unwind(AssertUnwindSafe(|| read(&bytes)));
                    done.fetch_add(1, Ordering::Relaxed);
                    if outcome.is_err() || since.elapsed() > LONGEST {
                        let dir = concat!(env!("CARGO_MANIFEST_DIR"), "/../../target/fuzz");
                        std::fs::create_dir_all(dir).unwrap();
                        std::fs::write(format!("{dir}/{name}-{seed}"), &bytes).unwrap();
                        panic!("the reader of a {name} fails, seed {seed}; the file is in target/fuzz");
                    }
                }
            });
        }
    });
    println!("{} files read in {:.0} s", done.load(Ordering::Relaxed), start.elapsed().as_secs_f64());
}
