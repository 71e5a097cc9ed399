//! STL, after M. Burns, 'Automated Fabrication', 1993, section 6.5 (from memory): 80 bytes of header, a count, then
//! 50 bytes a triangle, little-endian; or the text form between `solid` and `endsolid`.

use crate::{ExchangeError, MAX_BYTES, Welder, damaged, mm, unread};
use kachel_solid::{Mesh, SoundMesh};
use kachel_words::msg;
use std::fmt::Write as _;

const FORMAT: &str = "STL";

/// Unit normal and corners of a triangle in millimetres; the corners are exact.
fn facet(mesh: &Mesh, t: [u32; 3]) -> ([f64; 3], [[f64; 3]; 3]) {
    let corners = t.map(|v| mesh.vertices[v as usize].map(mm));
    let [a, b, c] = corners;
    let (u, v): ([f64; 3], [f64; 3]) = (std::array::from_fn(|k| b[k] - a[k]), std::array::from_fn(|k| c[k] - a[k]));
    let n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    let length = n.iter().map(|x| x * x).sum::<f64>().sqrt();
    (n.map(|x| x / length + 0.0), corners)
}

#[expect(clippy::cast_possible_truncation, reason = "grid coordinates are exact in 32 bits; normals need no more")]
fn single(v: f64) -> f32 {
    v as f32
}

/// Letters, digits and spaces of the title, so that no reader stumbles.
fn plain(title: &str) -> String {
    title
        .chars()
        .map(|c| if c.is_ascii_alphanumeric() { c } else { ' ' })
        .take(60)
        .collect::<String>()
        .trim()
        .to_string()
}

/// The binary form. The header never starts with `solid`, which readers take for the text form.
pub fn write_stl_binary(mesh: &SoundMesh, title: &str) -> Result<Vec<u8>, ExchangeError> {
    let mesh = mesh.mesh();
    let found = mesh.triangles.len();
    let count = u32::try_from(found).map_err(|_| ExchangeError::TooLarge {
        what: "too-many-file-triangles",
        found: found as u64,
        limit: u64::from(u32::MAX),
    })?;
    let mut header = [b' '; 80];
    let text = format!("Kachel, millimetres: {}", plain(title));
    header[..text.len().min(80)].copy_from_slice(&text.as_bytes()[..text.len().min(80)]);
    let mut out = Vec::with_capacity(84 + 50 * found);
    out.extend_from_slice(&header);
    out.extend_from_slice(&count.to_le_bytes());
    for &t in &mesh.triangles {
        let (normal, corners) = facet(mesh, t);
        for v in std::iter::once(normal).chain(corners).flatten() {
            out.extend_from_slice(&single(v).to_le_bytes());
        }
        out.extend_from_slice(&[0, 0]);
    }
    Ok(out)
}

/// The text form.
pub fn write_stl_text(mesh: &SoundMesh, title: &str) -> Vec<u8> {
    let mesh = mesh.mesh();
    let name = plain(title);
    let mut out = format!("solid {name}\n");
    for &t in &mesh.triangles {
        let (n, corners) = facet(mesh, t);
        let [x, y, z] = n.map(single);
        let _ = writeln!(out, "  facet normal {x} {y} {z}\n    outer loop");
        for [x, y, z] in corners {
            let _ = writeln!(out, "      vertex {x} {y} {z}");
        }
        out.push_str("    endloop\n  endfacet\n");
    }
    let _ = writeln!(out, "endsolid {name}");
    out.into_bytes()
}

/// Reads either form; corners are rounded to the grid and welded.
pub fn read_stl(bytes: &[u8]) -> Result<Mesh, ExchangeError> {
    if bytes.len() > MAX_BYTES {
        return Err(ExchangeError::TooLarge {
            what: "too-many-file-bytes",
            found: bytes.len() as u64,
            limit: MAX_BYTES as u64,
        });
    }
    let mut welder = Welder::default();
    let count = bytes.get(80..84).and_then(|c| c.try_into().ok()).map(u32::from_le_bytes);
    match count {
        // The length decides: some binary files start with `solid` all the same.
        Some(n) if bytes.len() as u64 == 84 + 50 * u64::from(n) => {
            for record in bytes[84..].chunks_exact(50) {
                let at =
                    |i: usize| f64::from(f32::from_le_bytes([record[i], record[i + 1], record[i + 2], record[i + 3]]));
                let corner = |c: usize| std::array::from_fn(|k| at(12 + 12 * c + 4 * k));
                welder.triangle([corner(0), corner(1), corner(2)])?;
            }
        }
        _ if bytes.trim_ascii_start().starts_with(b"solid") => read_text(bytes, &mut welder)?,
        Some(n) => {
            return Err(damaged(FORMAT, msg!("stl-cut-short", bytes = bytes.len(), n = n)));
        }
        None => return Err(damaged(FORMAT, msg!("too-short"))),
    }
    Ok(welder.mesh)
}

fn read_text(bytes: &[u8], welder: &mut Welder) -> Result<(), ExchangeError> {
    let text = std::str::from_utf8(bytes).map_err(|e| unread(FORMAT, e))?;
    let mut corners: Vec<[f64; 3]> = Vec::with_capacity(3);
    let mut is_closed = false;
    for (number, line) in (1_usize..).zip(text.lines()) {
        let mut words = line.split_ascii_whitespace();
        match words.next() {
            Some("vertex") => {
                let numbers: Vec<f64> = words.map_while(|w| w.parse().ok()).collect();
                let corner =
                    <[f64; 3]>::try_from(numbers).map_err(|_| damaged(FORMAT, msg!("no-vertex-line", n = number)))?;
                corners.push(corner);
            }
            Some("endloop") => {
                let three = <[[f64; 3]; 3]>::try_from(std::mem::take(&mut corners))
                    .map_err(|_| damaged(FORMAT, msg!("no-triangle-loop", n = number)))?;
                welder.triangle(three)?;
            }
            Some("endsolid") => is_closed = true,
            _ => {}
        }
    }
    if is_closed { Ok(()) } else { Err(damaged(FORMAT, msg!("endsolid-missing"))) }
}
