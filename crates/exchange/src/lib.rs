//! Exchange: files in and out. A writer takes only a [`SoundMesh`], so that nothing unsound can be exported; lengths
//! are millimetres; coordinates of the grid are written without loss.
//!
//! ```
//! use kachel_exchange::{read_stl, write_stl_binary};
//! use kachel_geom::{Grid, Mm, Point, Region, Ring, Watch};
//! use kachel_solid::{Sheets, SoundMesh, arrange, extrude};
//! use kachel_tiers::{Op, Plans, Role, Stack, Tier, slice};
//!
//! # let square = |half: f64| {
//! #     let corner = |(x, y): (f64, f64)| Point::<Mm>::new(x * half, y * half);
//! #     Region::from_mm([&Ring([(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)].map(corner).to_vec())])
//! # };
//! let tier = |half, from, to| -> Result<Tier, kachel_geom::OffGrid> {
//!     Ok(Tier::upright(Role::Body, square(half)?, (Grid::from_mm(from)?, Grid::from_mm(to)?), Op::Add, 0))
//! };
//! // A plate of 40 x 40 x 3 mm with a knob of 10 x 10 x 5 mm.
//! let stack = Stack { tiers: vec![tier(20.0, 0.0, 3.0)?, tier(5.0, 3.0, 8.0)?], ..Stack::default() };
//! let watch = Watch::default();
//! let slices = slice(&stack, &Plans::default(), &watch)?;
//! let solid = extrude(&arrange(&slices, &Sheets::default(), &watch)?, &stack, &slices, &watch)?;
//! let bytes = write_stl_binary(&solid.skin, "plate")?;
//! let back = SoundMesh::prove(read_stl(&bytes)?).map_err(|(why, _)| why)?;
//! assert_eq!(back.mesh().volume(), solid.skin.mesh().volume());
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod stl;
mod svg;
mod threemf;

use kachel_geom::{GRID_PER_MM, LIMIT};
use kachel_solid::{Mesh, SoundMesh};
use kachel_words::{Message, mm as length, msg, said};
use std::collections::HashMap;
use std::io::{Cursor, Write};
use zip::write::SimpleFileOptions;

pub use quick_xml::escape::escape as xml_text;
pub use stl::{read_stl, write_stl_binary, write_stl_text};
pub use svg::{SvgGroup, SvgPatch, write_curve, write_svg};
pub use threemf::{ObjectOnBed, ReadPart, read_design, read_threemf, write_threemf, write_threemf_bed};

/// Largest file that is read, bytes.
pub const MAX_BYTES: usize = 512 << 20;
/// Most triangles that are read.
pub const MAX_TRIANGLES: usize = 5_000_000;

/// What is written beside the geometry.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Credit {
    /// Name of the design.
    pub title: String,
    /// Who made it; left out when empty.
    pub designer: String,
    /// Where the artwork comes from.
    pub source: String,
    /// Under which licence it is.
    pub licence: String,
    /// Note of a permission.
    pub note: String,
    /// When the revision was made, as xs:date or xs:dateTime; left out when absent, so that equal input gives equal
    /// bytes.
    pub created: Option<String>,
}

/// A named part of a file.
#[derive(Clone, Debug)]
pub struct NamedMesh {
    /// What a slicer shows.
    pub name: String,
    /// Its mesh.
    pub mesh: SoundMesh,
    /// What it is printed in.
    pub material: Option<Material>,
}

/// What a part is printed in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Material {
    /// Its name.
    pub name: String,
    /// How it is shown, sRGB.
    pub colour: [u8; 3],
}

/// A design that travels with its object.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct DesignInside {
    /// The document, JSON.
    pub document: String,
    /// The picture's bytes.
    pub picture: Vec<u8>,
}

/// Files as one archive. All are dated 1980, so that two exports are equal byte for byte.
pub fn zipped(files: &[(&str, &[u8])]) -> Result<Vec<u8>, ExchangeError> {
    let mut zip = zip::ZipWriter::new(Cursor::new(Vec::new()));
    let options = SimpleFileOptions::DEFAULT.compression_method(zip::CompressionMethod::Deflated);
    let fail = |e: &dyn std::fmt::Display| ExchangeError::Write(e.to_string());
    for (name, bytes) in files {
        zip.start_file(*name, options).map_err(|e| fail(&e))?;
        zip.write_all(bytes).map_err(|e| fail(&e))?;
    }
    Ok(zip.finish().map_err(|e| fail(&e))?.into_inner())
}

/// One binary STL a part, by their names, in an archive.
pub fn write_stl_zip(parts: &[NamedMesh]) -> Result<Vec<u8>, ExchangeError> {
    let one = |(k, p): (usize, &NamedMesh)| {
        let safe: String = p.name.chars().map(|c| if c.is_alphanumeric() { c } else { '-' }).collect();
        Ok((format!("{:02}-{safe}.stl", k + 1), write_stl_binary(&p.mesh, &p.name)?))
    };
    let files = parts.iter().enumerate().map(one).collect::<Result<Vec<_>, ExchangeError>>()?;
    zipped(&files.iter().map(|(n, b)| (n.as_str(), b.as_slice())).collect::<Vec<_>>())
}

/// Why a file could not be read or written.
#[derive(Debug, thiserror::Error)]
pub enum ExchangeError {
    /// The file is neither STL nor 3MF, or damaged.
    Damaged {
        /// The format it was read as.
        format: &'static str,
        /// What is wrong.
        what: Message,
    },
    /// A limit of the reader.
    TooLarge {
        /// Of what: the code of its message.
        what: &'static str,
        /// How many.
        found: u64,
        /// How many there may be.
        limit: u64,
    },
    /// A coordinate beyond the grid.
    OffGrid {
        /// The coordinate.
        mm: f64,
    },
    /// The archive could not be written.
    Write(String),
}

said!(ExchangeError: |e| match e {
    ExchangeError::Damaged { format, what } => msg!("damaged-file", format = *format, what = what.clone()),
    ExchangeError::TooLarge { what, found, limit } => msg!(*what, n = *found, most = *limit),
    ExchangeError::OffGrid { mm } => msg!("coordinate-too-far", length = length(*mm)),
    ExchangeError::Write(why) => msg!("not-put-together", why = why),
});

fn mm(steps: i32) -> f64 {
    f64::from(steps) / GRID_PER_MM
}

fn damaged(format: &'static str, what: Message) -> ExchangeError {
    ExchangeError::Damaged { format, what }
}

/// What a library says of a file that it cannot read.
fn unread(format: &'static str, why: impl std::fmt::Display) -> ExchangeError {
    damaged(format, Message::quoted(why))
}

/// Collects triangles by their corners' places on the grid.
#[derive(Default)]
struct Welder {
    mesh: Mesh,
    index: HashMap<[i32; 3], u32>,
}

impl Welder {
    fn corner(&mut self, at: [f64; 3]) -> Result<u32, ExchangeError> {
        let mut steps = [0i32; 3];
        for (s, mm) in steps.iter_mut().zip(at) {
            let v = (mm * GRID_PER_MM).round();
            if v.is_nan() || v.abs() > f64::from(LIMIT) {
                return Err(ExchangeError::OffGrid { mm });
            }
            #[expect(clippy::cast_possible_truncation, reason = "the range was checked")]
            {
                *s = v as i32;
            }
        }
        let next = self.mesh.vertices.len() as u32;
        Ok(*self.index.entry(steps).or_insert_with(|| {
            self.mesh.vertices.push(steps);
            next
        }))
    }

    fn triangle(&mut self, corners: [[f64; 3]; 3]) -> Result<(), ExchangeError> {
        let found = self.mesh.triangles.len() + 1;
        if found > MAX_TRIANGLES {
            return Err(ExchangeError::TooLarge {
                what: "too-many-file-triangles",
                found: found as u64,
                limit: MAX_TRIANGLES as u64,
            });
        }
        let [a, b, c] = corners;
        let t = [self.corner(a)?, self.corner(b)?, self.corner(c)?];
        self.mesh.triangles.push(t);
        Ok(())
    }
}

#[cfg(test)]
mod tests;
