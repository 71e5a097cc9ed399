use crate::mesh::Body;
use crate::soundness::SoundMesh;
use kachel_geom::{GridPoint, Mm, Point};

/// The finished object.
#[derive(Clone, Debug)]
pub struct Solid {
    /// One closed mesh per part (filament), in order of part number.
    pub parts: Vec<Part>,
    /// The skin of everything together, as for a file of one body.
    pub skin: SoundMesh,
    /// The connected pieces of the skin, the largest first.
    pub bodies: Vec<Body>,
    /// Where pieces only touched and were opened by a few micrometres: each place in plan once, mm.
    pub touches: Vec<Point<Mm>>,
    /// The most by which opening them, or welding them where there was no air beside, has changed the skin's volume, mm3.
    pub mended_mm3: f64,
    /// Where a tier is thinner than its finish and ends in a ridge: its highest places, mm.
    pub ridges: Vec<[f64; 3]>,
    /// Where edges were given corners, as slopes bend along them.
    pub(crate) corners: Vec<GridPoint>,
}

/// What one filament makes.
#[derive(Clone, Debug)]
pub struct Part {
    /// Its number in the stack.
    pub number: u32,
    /// Its mesh.
    pub mesh: SoundMesh,
}
