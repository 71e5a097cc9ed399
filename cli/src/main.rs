//! The program `kachel`: the workshop's server, and the stages by hand.

/// As `println!`; a reader that has gone, as in `kachel recipes | head`, is no failure.
macro_rules! say {
    ($($text:tt)*) => { $crate::say::say(format_args!($($text)*)) };
}

mod backup;
mod bed;
mod check;
mod house;
mod ink;
mod language;
mod make;
mod reach;
mod rehearse;
mod report;
mod say;
mod set;
mod shelf;

use clap::{Args, Parser, Subcommand};
use house::HouseArgs;
use ink::InkArgs;
use std::io::{Write as _, stdout};
use std::net::SocketAddr;
use std::path::PathBuf;
use std::process::ExitCode;

/// A solid asks for many small pieces of memory on several threads: with this allocator a changed height takes a tenth less
/// time than with the system's.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Turns a picture into an object that a 3D printer can make.
#[derive(Parser)]
#[command(
    name = "kachel",
    version,
    about,
    after_help = "Exit codes: 0 done, 1 refused or failed, 2 wrong usage; of check 3 and 4, see there."
)]
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
    /// Computes for a server, which starts it
    #[command(hide = true)]
    Helper {
        /// The server's data directory
        #[arg(long)]
        data: PathBuf,
        /// Where the server listens
        #[arg(long)]
        server: SocketAddr,
        /// Offers ways to harm it, for tests
        #[arg(long)]
        can_be_harmed: bool,
    },
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
        #[command(flatten)]
        house: HouseArgs,
        /// Width of the drawing (of a cutter: the cookie, margin included), such as 90mm or 3.5in
        #[arg(long, conflicts_with = "height", allow_hyphen_values = true)]
        width: Option<String>,
        /// Height of the same
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
    /// Look over what would be made of a picture, or a design in a 3MF: exit code 0 where all is well or worth knowing at most, 3
    /// where something will look or work poorly, 4 where it cannot be printed or used
    Check {
        /// A picture, or a 3MF of Kachel's
        file: PathBuf,
        /// Which rule makes the tiers of a picture; see `kachel recipes`
        #[arg(long, default_value = "cutter-stamp")]
        recipe: String,
        /// As JSON
        #[arg(long)]
        json: bool,
    },
    /// Rehearse the print: layers, time, filament, and when somebody has to be there
    Rehearse {
        /// A picture, or a 3MF of Kachel's
        file: PathBuf,
        /// Which rule makes the tiers of a picture; see `kachel recipes`
        #[arg(long, default_value = "cutter-stamp")]
        recipe: String,
        /// Height of the layers; as the design says where it is left out
        #[arg(long, value_enum)]
        quality: Option<Fineness>,
        /// Infill, 0 to 100 percent; as the design says where it is left out
        #[arg(long, value_parser = percent)]
        infill: Option<f64>,
        /// Draws a layer, 1 being the lowest
        #[arg(long, requires = "output")]
        layer: Option<usize>,
        /// Where the drawing of the layer goes
        #[arg(short, long, value_name = "LAYER.svg", requires = "layer")]
        output: Option<PathBuf>,
        /// As JSON
        #[arg(long)]
        json: bool,
    },
    /// Arrange designs on the printer's bed: where each piece lies, how long it prints, and the files
    Bed {
        /// Pictures, or 3MFs of Kachel's
        #[arg(required = true)]
        files: Vec<PathBuf>,
        /// Which rule makes the tiers of pictures; see `kachel recipes`
        #[arg(long, default_value = "cutter-stamp")]
        recipe: String,
        /// Copies of each
        #[arg(long, default_value_t = 1)]
        copies: usize,
        /// How far pieces stay apart, such as 3mm
        #[arg(long, allow_hyphen_values = true)]
        gap: Option<String>,
        /// How pieces may be turned
        #[arg(long, value_enum, default_value = "any")]
        turns: Turning,
        /// Height of the layers
        #[arg(long, value_enum, default_value = "usual")]
        quality: Fineness,
        /// Infill, 0 to 100 percent
        #[arg(long, value_parser = percent)]
        infill: Option<f64>,
        /// Where the bed goes; the extension decides the format (.zip: one STL a design; .pdf, .svg: a sheet to print). A second bed goes
        /// beside it, with -2 in its name
        #[arg(short, long, value_name = "BED.3mf|BED.stl|BED.zip|BED.pdf|BED.svg|BED.png")]
        output: Option<PathBuf>,
        /// As JSON
        #[arg(long)]
        json: bool,
    },
    /// Make objects of many pictures by one recipe, each within limits, and arrange them on beds
    Set {
        /// The pictures; broken ones say why, and the others go on
        #[arg(required = true)]
        pictures: Vec<PathBuf>,
        /// Which rule makes the tiers; see `kachel recipes`
        #[arg(long, default_value = "cutter-stamp")]
        recipe: String,
        #[command(flatten)]
        house: HouseArgs,
        /// Longest side of each object at the most, such as 70mm
        #[arg(long, allow_hyphen_values = true)]
        longest: Option<String>,
        /// A measure of the recipe, such as height=2.4mm; may be given several times
        #[arg(long = "set", value_name = "NAME=VALUE", allow_hyphen_values = true)]
        set: Vec<String>,
        /// Longest print of each, such as 35min; what takes longer is told, with the size that would keep it
        #[arg(long, value_parser = kachel_engine::rehearse::parse_time)]
        limit: Option<f64>,
        /// Make what takes longer that size
        #[arg(long, requires = "limit")]
        fit: bool,
        /// Arrange all of them on beds too
        #[arg(long)]
        bed: bool,
        /// Where the 3MFs go, one a picture, and bed.3mf
        #[arg(short, long, value_name = "DIR")]
        output: PathBuf,
        /// As JSON
        #[arg(long)]
        json: bool,
    },
    /// Copy the whole shelf into one file, also while Kachel runs
    Backup {
        /// The new file
        file: PathBuf,
        /// Where the shelf lies
        #[arg(long, value_name = "DIR", default_value = "data")]
        data: PathBuf,
    },
    /// Put such a copy in the place of a shelf; what was there is kept in its directory `copies`
    Restore {
        /// A file of `kachel backup`, or a copy out of the directory `copies`
        file: PathBuf,
        /// Where the shelf lies
        #[arg(long, value_name = "DIR", default_value = "data")]
        data: PathBuf,
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

/// Height of the layers.
#[derive(Clone, Copy, clap::ValueEnum)]
enum Fineness {
    /// 0.28 mm
    Draft,
    /// As the printer has them
    Usual,
    /// 0.12 mm
    Fine,
}

impl Fineness {
    const fn quality(self) -> kachel_engine::Quality {
        match self {
            Self::Draft => kachel_engine::Quality::Draft,
            Self::Usual => kachel_engine::Quality::Usual,
            Self::Fine => kachel_engine::Quality::Fine,
        }
    }
}

/// How pieces on a bed may be turned.
#[derive(Clone, Copy, clap::ValueEnum)]
enum Turning {
    /// Not at all
    None,
    /// By quarters
    Quarter,
    /// By sixteenths
    Any,
}

impl Turning {
    const fn turns(self) -> kachel_engine::Turns {
        match self {
            Self::None => kachel_engine::Turns::None,
            Self::Quarter => kachel_engine::Turns::Quarter,
            Self::Any => kachel_engine::Turns::Any,
        }
    }
}

fn percent(text: &str) -> Result<f64, String> {
    let value: f64 = text.trim_end_matches('%').trim().parse().map_err(|_| "write a number, such as 15".to_string())?;
    if (0.0..=100.0).contains(&value) { Ok(value) } else { Err("infill is 0 to 100 percent".into()) }
}

#[derive(Args)]
struct Serve {
    /// Address to listen on; beyond this machine it asks for KACHEL_PASS_PHRASE
    #[arg(long, default_value = "127.0.0.1:4270", value_name = "ADDR")]
    listen: SocketAddr,
    /// Directory for the shelf; `serve` takes ./data by default
    #[arg(long, value_name = "DIR")]
    data: Option<PathBuf>,
    /// A printer that answers as the practice printer does, such as http://192.168.1.20:4270, and takes its place
    #[arg(long, value_name = "URL")]
    printer: Option<String>,
    /// Largest size of the data file, pages of 4096 bytes
    #[arg(long, hide = true)]
    max_pages: Option<u32>,
    /// Compute in this process, not in one of its own: what ends a computation then ends the server
    #[arg(long, hide = true)]
    in_one: bool,
    /// Offers ways to harm the process that computes, for tests
    #[arg(long, hide = true)]
    can_be_harmed: bool,
}

fn serve(options: Serve, is_demo: bool) -> Result<(), String> {
    let config = kachel_server::Config {
        listen: options.listen,
        data: options.data.unwrap_or_else(|| PathBuf::from(if is_demo { "data/demo" } else { "data" })),
        pass_phrase: std::env::var("KACHEL_PASS_PHRASE").ok(),
        printer: options.printer,
        is_demo,
        max_pages: options.max_pages,
        helper: (!options.in_one).then(std::env::current_exe).transpose().map_err(|e| e.to_string())?,
        can_be_harmed: options.can_be_harmed,
        handles_signals: true,
    };
    kachel_server::run(&config, |address| {
        let everywhere = address.ip().is_unspecified();
        let here = if everywhere { SocketAddr::from(([127, 0, 0, 1], address.port())) } else { address };
        // Nobody has to read this for the workshop to be open.
        let _ = writeln!(
            stdout(),
            "Kachel is open at http://{here}  (data in {}; stop with Ctrl-C)",
            config.data.display()
        );
        if !address.ip().is_loopback() {
            let _ = write!(stdout(), "{}", reach::words(&kachel_server::reached_at(address)));
        }
    })
}

fn main() -> ExitCode {
    if let Err(message) = language::choose() {
        eprintln!("kachel: {message}");
        return ExitCode::FAILURE;
    }
    let done = match Cli::parse().command {
        Command::Demo(options) => serve(options, true),
        Command::Serve(options) => serve(options, false),
        Command::Helper { data, server, can_be_harmed } => kachel_server::serve_as_helper(&data, server, can_be_harmed),
        Command::Trace { picture, ink, pen_width, output, json } => {
            make::trace(&picture, &ink, pen_width, &output, json)
        }
        Command::Make { picture, recipe, house, width, height, set, name, ink, text, output, json } => {
            house.house().and_then(|house| {
                make::make(&make::Order { picture, recipe, house, width, height, set, name, ink, text, output, json })
            })
        }
        Command::Check { file, recipe, json } => match check::check(&file, &recipe, json) {
            Ok(code) => return ExitCode::from(code),
            Err(message) => Err(message),
        },
        Command::Rehearse { file, recipe, quality, infill, layer, output, json } => {
            let asked = (quality.map(Fineness::quality), infill);
            rehearse::rehearse(&file, &recipe, asked, layer.zip(output.as_deref()), json)
        }
        Command::Bed { files, recipe, copies, gap, turns, quality, infill, output, json } => {
            let (turns, quality) = (turns.turns(), quality.quality());
            bed::bed(&bed::BedOrder { files, recipe, copies, gap, turns, quality, infill, output, json })
        }
        Command::Set { pictures, recipe, house, longest, set, limit, fit, bed, output, json } => {
            house.house().and_then(|house| {
                set::set(&set::SetOrder { pictures, recipe, house, longest, set, limit, fit, bed, output, json })
            })
        }
        Command::Backup { file, data } => backup::backup(&data, &file),
        Command::Restore { file, data } => backup::restore(&data, &file),
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
