//! Every reader of foreign bytes against random changes of files that are sound. A reader may refuse; it may not panic, hang or take all
//! memory. `make fuzz` runs this for longer, with its memory held by the system. A file that harms is left in target/fuzz, with its seed.

use image::{DynamicImage, ImageFormat, Rgba, RgbaImage};
use kachel_engine::artwork::Artwork;
use kachel_engine::exchange::{read_stl, read_threemf, write_stl_binary, write_stl_text};
use kachel_engine::rehearse::parse_time;
use kachel_engine::{
    Basis, Bed, BedEdit, Document, Edit, Engine, ExportFormat, Length, Watch, export, import_design, offered_credit,
    read_houses, tiers::Unit,
};
use kachel_oracle::Random;
use serde_json::{Value, json};
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

/// For how long this thread has been at work: on a busy machine a clock on the wall says nothing of the reader.
fn at_work() -> Duration {
    let stat = std::fs::read_to_string("/proc/thread-self/schedstat").unwrap_or_default();
    Duration::from_nanos(stat.split(' ').next().and_then(|ns| ns.parse().ok()).unwrap_or(0))
}

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
                    let since = at_work();
                    let outcome = catch_unwind(AssertUnwindSafe(|| read(&bytes)));
                    done.fetch_add(1, Ordering::Relaxed);
                    if outcome.is_err() || at_work().saturating_sub(since) > LONGEST {
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

/// Edits of every kind, each sound.
fn sound_edits() -> Vec<Value> {
    let on = json!([{ "at": [20.0, 15.0], "is_ink": true }]);
    let nodes = json!([{ "at": [1.0, 2.0] }, { "at": [9.0, 2.0] }, { "at": [5.0, 8.0] }]);
    let all = json!([
        { "kind": "rename", "name": "Bean" },
        { "kind": "set-unit", "unit": "in" },
        { "kind": "set-size", "axis": "width", "value": "40 mm", "of": "object" },
        { "kind": "pin-size", "axis": "height" },
        { "kind": "usual-size" },
        { "kind": "set-scale", "mm_per_px": 0.3 },
        { "kind": "set-print", "print": { "quality": "fine", "infill": 20.0 } },
        { "kind": "set-recipe", "recipe": "coaster" },
        { "kind": "set-recipe", "recipe": "cutter-stamp" },
        { "kind": "set-measure", "name": "wall-height", "value": "18 mm" },
        { "kind": "set-measure", "name": "thickness", "value": 4.0 },
        { "kind": "set-measure", "name": "bars", "value": 2 },
        { "kind": "set-measures", "recipe": "coaster", "measures": { "thickness": 5.0 } },
        { "kind": "reset-measure", "name": "wall-height" },
        { "kind": "set-filament", "key": "wall", "filament": "cobalt" },
        { "kind": "set-bars", "bars": [{ "from": [1.0, 2.0], "to": [30.0, 20.0] }] },
        { "kind": "set-ink", "ink": "pen" },
        { "kind": "set-threshold", "threshold": 99 },
        { "kind": "set-deviation", "deviation": 0.4 },
        { "kind": "set-bend", "bend": 60.0 },
        { "kind": "set-guides", "guides": [{ "is_upright": true, "at": 4.0 }] },
        { "kind": "add-change", "change": { "do": "mirror", "on": on, "through": [20.0, 15.0], "degrees": 90.0 } },
        { "kind": "add-change", "change": { "do": "grow", "on": on, "by": 1.5, "corner": "round" } },
        { "kind": "add-change", "change": { "do": "repeat", "on": on, "centre": [20.0, 15.0], "times": 6, "is_mirrored": false } },
        { "kind": "add-change", "change": { "do": "shape", "shape": { "form": "ring", "width": 34.0, "hole": 26.0 },
            "at": [20.0, 15.0], "degrees": 0.0, "use": "detail" } },
        { "kind": "add-change", "change": { "do": "line", "line": { "nodes": nodes, "is_closed": true, "width": 1.0 }, "use": "detail" } },
        { "kind": "switch-change", "id": 1, "is_off": true },
        { "kind": "order-change", "id": 1, "to": 0 },
        { "kind": "remove-change", "id": 1 },
        { "kind": "remove-tier", "id": 1 },
    ]);
    all.as_array().cloned().unwrap_or_default()
}

/// Puts something hard in the place of a number or a word.
fn hardened(value: &mut Value, random: &mut Random) {
    const NUMBERS: [f64; 12] = [0.0, -1.0, 1e308, -1e300, 1e-300, 4e9, 1e20, 0.5, 65_536.0, -0.0, 1e15, 255.0];
    const WORDS: [&str; 8] =
        ["", "1e999 mm", "-3 in", "\u{202e}x", "wall", "NaN", "0", "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa"];
    match value {
        Value::Array(all) if !all.is_empty() => {
            let n = random.below(all.len());
            if random.below(12) == 0 { all.truncate(n) } else { hardened(&mut all[n], random) }
        }
        Value::Object(all) if !all.is_empty() => {
            let n = random.below(all.len());
            // What says what an edit is stays mostly as it is: else nothing else is tried.
            let inner = all.iter_mut().nth(n).filter(|(k, _)| !matches!(k.as_str(), "kind" | "do" | "form"));
            if let Some((_, inner)) = inner {
                hardened(inner, random);
            }
        }
        Value::Number(_) => *value = json!(NUMBERS[random.below(NUMBERS.len())]),
        Value::String(_) => *value = json!(WORDS[random.below(WORDS.len())]),
        other => *other = json!(random.below(3)),
    }
}

/// Lists of edits, hard ones among them: each is refused or leaves a document that can be saved and read again as it is.
#[test]
fn edit_lists_survive_anything() {
    let given = std::env::var("KACHEL_FUZZ_SECONDS").ok().and_then(|s| s.parse().ok());
    let (time, start) = (given.map_or(USUAL / 3, Duration::from_secs), Instant::now());
    let first: u64 = std::env::var("KACHEL_FUZZ_SEED").ok().and_then(|s| s.parse().ok()).unwrap_or(1);
    let sound = sound_edits();
    let svg = b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 40 30'><path d='M5 5h30v20H5z'/></svg>";
    let begun = Engine::default().new_document("Sound", "sound.svg", svg, &Watch::default()).unwrap();
    let (lists, taken, refused) = (AtomicU64::new(0), AtomicU64::new(0), AtomicU64::new(0));
    std::thread::scope(|all| {
        for worker in 0..2 {
            let (sound, begun, lists, taken, refused) = (&sound, &begun, &lists, &taken, &refused);
            all.spawn(move || {
                let mut seed = first * 1_000_000_007 + worker;
                while start.elapsed() < time {
                    seed += 2;
                    let mut random = Random::new(seed);
                    let mut document = begun.clone();
                    for _ in 0..=random.below(12) {
                        let mut edit = sound[random.below(sound.len())].clone();
                        if random.below(2) == 0 {
                            hardened(&mut edit, &mut random);
                        }
                        let after = serde_json::from_value::<Edit>(edit.clone())
                            .ok()
                            .and_then(|e| e.apply(&document, &Basis::default()).ok());
                        match after {
                            Some(after) => {
                                document = after;
                                taken.fetch_add(1, Ordering::Relaxed);
                            }
                            None => _ = refused.fetch_add(1, Ordering::Relaxed),
                        }
                    }
                    let text = document.to_json().unwrap_or_else(|e| panic!("seed {seed}: {e}"));
                    let again = Document::from_json(&text).unwrap_or_else(|e| panic!("seed {seed}: {e}: {text}"));
                    assert!(again == document, "seed {seed}: {text}");
                    lists.fetch_add(1, Ordering::Relaxed);
                }
            });
        }
    });
    let [lists, taken, refused] = [lists, taken, refused].map(|n| n.load(Ordering::Relaxed));
    println!("{lists} lists in {:.0} s: {taken} edits taken, {refused} refused", start.elapsed().as_secs_f64());
    assert!(taken > 0 && refused > 0, "both have to be tried");
}
