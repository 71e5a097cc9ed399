//! The program `kachel`: the workshop's server, and the stages by hand.

/// As `println!`; a reader that has gone, as in `kachel recipes | head`, is no failure.
macro_rules! say {
    ($($text:tt)*) => { $crate::say(format_args!($($text)*)) };
}

mod make;
mod report;

use clap::{Args, Parser, Subcommand};
use kachel_engine::artwork::Sheet;
use std::fmt::Arguments;
use std::io::{ErrorKind, Write as _, stdout};
use std::net::SocketAddr;
use std::path::PathBuf;
use std::process::ExitCode;

/// A solid asks for many small pieces of memory on several threads: with this allocator a changed height takes a tenth less
/// time than with the system's.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Turns a picture into an object that a 3D printer can make.
#[derive(Parser)]
#[command(name = "kachel", version, about, after_help = "Exit codes: 0 done, 1 refused or failed, 2 wrong usage.")]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Start the workshop with a demo shelf (data in ./data/demo unless --data says otherwise)
    Demo(Serve),
    /// Start the workshop
    Serve(Serve),
    /// Trace a picture to SVG, in pixels of the picture
    Trace {
        /// PNG, JPEG, WebP, GIF, BMP, TIFF or SVG
        picture: PathBuf,
        #[command(flatten)]
        ink: InkArgs,
        /// Pen lines: their width as drawn (drawn) or a length, such as 2mm
        #[arg(long, value_name = "WIDTH")]
        pen_width: Option<String>,
        /// Where the SVG goes
        #[arg(short, long, value_name = "FILE.svg")]
        output: PathBuf,
        /// Report as JSON on standard output
        #[arg(long)]
        json: bool,
    },
    /// Make an object from a picture
    Make {
        /// PNG, JPEG, WebP, GIF, BMP, TIFF or SVG
        picture: PathBuf,
        /// Which rule makes the tiers; see `kachel recipes`
        #[arg(long, default_value = "cutter-stamp")]
        recipe: String,
        /// Width of the edge, such as 90mm or 3.5in
        #[arg(long, conflicts_with = "height", allow_hyphen_values = true)]
        width: Option<String>,
        /// Height of the edge
        #[arg(long, allow_hyphen_values = true)]
        height: Option<String>,
        /// A measure of the recipe, such as wall-height=15mm; may be given several times
        #[arg(long = "set", value_name = "NAME=VALUE", allow_hyphen_values = true)]
        set: Vec<String>,
        /// Name of the object; by default that of the picture
        #[arg(long)]
        name: Option<String>,
        #[command(flatten)]
        ink: InkArgs,
        /// Write STL as text
        #[arg(long)]
        text: bool,
        /// Where the object goes; the extension decides the format (.zip: one STL a filament)
        #[arg(short, long, value_name = "FILE.stl|FILE.3mf|FILE.zip")]
        output: PathBuf,
        /// Report as JSON on standard output
        #[arg(long)]
        json: bool,
    },
    /// List recipes and their measures
    Recipes {
        /// As JSON
        #[arg(long)]
        json: bool,
    },
    /// Tell size, volume and soundness of an STL or 3MF file
    Inspect {
        /// The file
        file: PathBuf,
        /// As JSON
        #[arg(long)]
        json: bool,
    },
}

#[derive(Args)]
struct Serve {
    /// Address to listen on; beyond this machine it asks for KACHEL_PASS_PHRASE
    #[arg(long, default_value = "127.0.0.1:4270", value_name = "ADDR")]
    listen: SocketAddr,
    /// Directory for the shelf; `serve` takes ./data by default
    #[arg(long, value_name = "DIR")]
    data: Option<PathBuf>,
    /// Largest size of the data file, pages of 4096 bytes
    #[arg(long, hide = true)]
    max_pages: Option<u32>,
}

#[derive(Args, Clone)]
struct InkArgs {
    /// What counts as ink: light-dark, colours (as many as there are), colours=N (N counts the ground), alpha or pen;
    /// guessed from the picture by default
    #[arg(long, value_parser = ink_name)]
    ink: Option<InkName>,
    /// Grey between ink and ground, 1 to 254; automatic by default
    #[arg(long)]
    threshold: Option<u8>,
    /// Swap ink and ground: on or off; guessed from the picture by default
    #[arg(long, value_name = "on|off", value_parser = on_or_off, num_args = 0..=1, require_equals = true, default_missing_value = "on")]
    invert: Option<bool>,
    /// Level uneven light: on or off; guessed from the picture by default
    #[arg(long, value_name = "on|off", value_parser = on_or_off, num_args = 0..=1, require_equals = true, default_missing_value = "on")]
    level: Option<bool>,
    /// With colours: keep the ground as a colour too
    #[arg(long)]
    ground: bool,
    /// With colours: this one is the ground
    #[arg(long, value_name = "RRGGBB", value_parser = rgb)]
    ground_colour: Option<[u8; 3]>,
    /// With colours: tell this one apart; may be given several times
    #[arg(long, value_name = "RRGGBB", value_parser = rgb)]
    pick: Vec<[u8; 3]>,
    /// With colours: the first counts as the second; may be given several times
    #[arg(long, value_name = "RRGGBB=RRGGBB", value_parser = rgb_pair)]
    merge: Vec<[[u8; 3]; 2]>,
    /// Straighten by a sheet that lies in the photo: a4, letter, card, or its sides in mm, such as 200x100
    #[arg(long, value_name = "SHEET", value_parser = sheet, requires = "corners")]
    sheet: Option<Sheet>,
    /// Its corners clockwise from the top left one, pixels
    #[arg(long, value_name = "X,Y,X,Y,X,Y,X,Y", value_parser = corners, requires = "sheet", allow_hyphen_values = true)]
    corners: Option<Corners>,
    /// Smallest turn of a corner, degrees
    #[arg(long)]
    bend: Option<f64>,
    /// Smallest patch that is kept, square pixels
    #[arg(long)]
    min_area: Option<f64>,
    /// Smallest gap that is kept, square pixels
    #[arg(long)]
    min_gap: Option<f64>,
    /// Largest distance between a followed contour and its curve, pixels; 0 keeps every point
    #[arg(long)]
    deviation: Option<f64>,
    /// Quarter turns clockwise
    #[arg(long, allow_hyphen_values = true)]
    turn: Option<i8>,
    /// Degrees clockwise on top
    #[arg(long, allow_hyphen_values = true)]
    degrees: Option<f64>,
    /// Swap left and right
    #[arg(long)]
    flip: bool,
    /// Part of the picture that is kept: left, top, width and height in pixels
    #[arg(long, value_name = "X,Y,W,H", value_parser = numbers::<4>, allow_hyphen_values = true)]
    crop: Option<[f64; 4]>,
}

#[derive(Clone, Copy)]
enum InkName {
    LightDark,
    Colours(Option<u8>),
    Alpha,
    Pen,
}

fn ink_name(text: &str) -> Result<InkName, String> {
    match text {
        "light-dark" => Ok(InkName::LightDark),
        "colours" => Ok(InkName::Colours(None)),
        "alpha" => Ok(InkName::Alpha),
        "pen" => Ok(InkName::Pen),
        _ => text
            .strip_prefix("colours=")
            .and_then(|n| n.parse().ok())
            .map(|n| InkName::Colours(Some(n)))
            .ok_or_else(|| "write light-dark, colours, colours=N, alpha or pen".into()),
    }
}

/// Four places on a picture.
type Corners = [[f64; 2]; 4];

fn rgb(text: &str) -> Result<[u8; 3], String> {
    let digits = text.trim_start_matches('#');
    let value = u32::from_str_radix(digits, 16).ok().filter(|_| digits.len() == 6);
    let [_, r, g, b] = value.ok_or("write six digits from 0 to f, such as 2f6b4a")?.to_be_bytes();
    Ok([r, g, b])
}

fn rgb_pair(text: &str) -> Result<[[u8; 3]; 2], String> {
    let (from, into) = text.split_once('=').ok_or("write two colours, such as 2f6b4a=ffffff")?;
    Ok([rgb(from)?, rgb(into)?])
}

fn sheet(text: &str) -> Result<Sheet, String> {
    Ok(match text {
        "a4" => Sheet::A4,
        "letter" => Sheet::Letter,
        "card" => Sheet::Card,
        sides => {
            let mm = |v: &str| v.trim().parse::<f64>().ok();
            let (a, b) = sides
                .split_once('x')
                .and_then(|(a, b)| Some((mm(a)?, mm(b)?)))
                .ok_or("write a4, letter, card or 200x100")?;
            Sheet::Other { long: a.max(b), short: a.min(b) }
        }
    })
}

fn numbers<const N: usize>(text: &str) -> Result<[f64; N], String> {
    let all: Option<Vec<f64>> = text.split(',').map(|v| v.trim().parse().ok()).collect();
    all.and_then(|a| a.try_into().ok()).ok_or_else(|| format!("write {N} numbers with commas between them"))
}

fn corners(text: &str) -> Result<Corners, String> {
    let [a, b, c, d, e, f, g, h] = numbers(text)?;
    Ok([[a, b], [c, d], [e, f], [g, h]])
}

fn on_or_off(text: &str) -> Result<bool, String> {
    match text {
        "on" => Ok(true),
        "off" => Ok(false),
        _ => Err("write on or off".into()),
    }
}

fn say(text: Arguments<'_>) {
    if let Err(e) = writeln!(stdout().lock(), "{text}") {
        let is_gone = e.kind() == ErrorKind::BrokenPipe;
        if !is_gone {
            eprintln!("kachel: cannot write what it found: {e}");
        }
        std::process::exit(i32::from(!is_gone));
    }
}

fn serve(options: Serve, is_demo: bool) -> Result<(), String> {
    let config = kachel_server::Config {
        listen: options.listen,
        data: options.data.unwrap_or_else(|| PathBuf::from(if is_demo { "data/demo" } else { "data" })),
        pass_phrase: std::env::var("KACHEL_PASS_PHRASE").ok(),
        is_demo,
        max_pages: options.max_pages,
        handles_signals: true,
    };
    kachel_server::run(&config, |address| {
        // Nobody has to read this for the workshop to be open.
        let _ = writeln!(
            stdout(),
            "Kachel is open at http://{address}  (data in {}; stop with Ctrl-C)",
            config.data.display()
        );
    })
}

fn main() -> ExitCode {
    let done = match Cli::parse().command {
        Command::Demo(options) => serve(options, true),
        Command::Serve(options) => serve(options, false),
        Command::Trace { picture, ink, pen_width, output, json } => {
            make::trace(&picture, &ink, pen_width, &output, json)
        }
        Command::Make { picture, recipe, width, height, set, name, ink, text, output, json } => {
            make::make(&make::Order { picture, recipe, width, height, set, name, ink, text, output, json })
        }
        Command::Recipes { json } => report::recipes(json),
        Command::Inspect { file, json } => report::inspect(&file, json),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(message) => {
            eprintln!("kachel: {message}");
            ExitCode::FAILURE
        }
    }
}
