//! What counts as ink, as options of the command line.

use clap::Args;
use kachel_engine::artwork::Sheet;
use kachel_engine::{Point, Px};

#[derive(Args, Clone)]
pub(crate) struct InkArgs {
    /// What counts as ink: light-dark, colours (as many as there are), colours=N (N counts the ground), alpha or pen;
    /// guessed from the picture by default
    #[arg(long, value_parser = ink_name)]
    pub(crate) ink: Option<InkName>,
    /// Grey between ink and ground, 1 to 254; automatic by default
    #[arg(long)]
    pub(crate) threshold: Option<u8>,
    /// Swap ink and ground: on or off; guessed from the picture by default
    #[arg(long, value_name = "on|off", value_parser = on_or_off, num_args = 0..=1, require_equals = true, default_missing_value = "on")]
    pub(crate) invert: Option<bool>,
    /// Level uneven light: on or off; guessed from the picture by default
    #[arg(long, value_name = "on|off", value_parser = on_or_off, num_args = 0..=1, require_equals = true, default_missing_value = "on")]
    pub(crate) level: Option<bool>,
    /// With colours: keep the ground as a colour too
    #[arg(long)]
    pub(crate) ground: bool,
    /// With colours: this one is the ground
    #[arg(long, value_name = "RRGGBB", value_parser = rgb)]
    pub(crate) ground_colour: Option<[u8; 3]>,
    /// With colours: this one is always among them; may be given several times
    #[arg(long, value_name = "RRGGBB", value_parser = rgb)]
    pub(crate) pick: Vec<[u8; 3]>,
    /// With colours: the first counts as the second; may be given several times
    #[arg(long, value_name = "RRGGBB=RRGGBB", value_parser = rgb_pair)]
    pub(crate) merge: Vec<[[u8; 3]; 2]>,
    /// Straighten by a sheet that lies in the photo: a4, letter, card, or its sides in mm, such as 200x100; it is found by
    /// itself, and without this taken for a4 or a card
    #[arg(long, value_name = "SHEET", value_parser = sheet)]
    pub(crate) sheet: Option<Sheet>,
    /// Its corners clockwise from the top left one, pixels
    #[arg(long, value_name = "X,Y,X,Y,X,Y,X,Y", value_parser = corners, requires = "sheet", allow_hyphen_values = true)]
    pub(crate) corners: Option<Corners>,
    /// Take the photo as it is, whatever sheet lies in it
    #[arg(long, conflicts_with = "sheet")]
    pub(crate) no_sheet: bool,
    /// Smallest turn of a corner, degrees
    #[arg(long)]
    pub(crate) bend: Option<f64>,
    /// Smallest patch that is kept, square pixels
    #[arg(long)]
    pub(crate) min_area: Option<f64>,
    /// Smallest gap that is kept, square pixels
    #[arg(long)]
    pub(crate) min_gap: Option<f64>,
    /// Largest distance between a followed contour and its curve, pixels; 0 keeps every point
    #[arg(long)]
    pub(crate) deviation: Option<f64>,
    /// Quarter turns clockwise
    #[arg(long, allow_hyphen_values = true)]
    pub(crate) turn: Option<i8>,
    /// Degrees clockwise on top
    #[arg(long, allow_hyphen_values = true)]
    pub(crate) degrees: Option<f64>,
    /// Swap left and right
    #[arg(long)]
    pub(crate) flip: bool,
    /// Part of the picture that is kept: left, top, width and height in pixels
    #[arg(long, value_name = "X,Y,W,H", value_parser = numbers::<4>, allow_hyphen_values = true)]
    pub(crate) crop: Option<[f64; 4]>,
}

#[derive(Clone, Copy)]
pub(crate) enum InkName {
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
pub(crate) type Corners = [Point<Px>; 4];

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
    Ok([[a, b].into(), [c, d].into(), [e, f].into(), [g, h].into()])
}

fn on_or_off(text: &str) -> Result<bool, String> {
    match text {
        "on" => Ok(true),
        "off" => Ok(false),
        _ => Err("write on or off".into()),
    }
}
