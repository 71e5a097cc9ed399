//! An object in use, and what is seen of it.

use crate::display::{DisplayPart, Shown};
use crate::engine::{Built, Engine};
use crate::error::EngineError;
use crate::keys::key;
use crate::stages::looked_at;
use crate::view::{PlaceView, place};
use kachel_check::{Fault, Material, Used, in_use};
use kachel_geom::Watch;
use kachel_solid::{arrange, extrude_tiers};
use kachel_tiers::{TierError, Unit, slice, words_in};
use serde::Serialize;
use std::sync::Arc;
use ts_rs::TS;

/// An object in use.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct InUseView {
    /// What it is, as a heading.
    pub title: &'static str,
    /// The answer, in whole sentences with units.
    pub says: String,
    /// What the view does not know, in whole sentences.
    pub leaves_out: String,
    /// Whether what is shown with the object stands beside it; else both are in one frame.
    pub is_beside: bool,
    /// Where it hangs or stands upright: by how much it is turned anticlockwise before, degrees.
    pub upright: Option<f64>,
    /// How high the light stands above the table, degrees; none for daylight from above.
    pub light: Option<f64>,
    /// Width, depth and height of what is shown with the object, mm; none where there is nothing.
    pub size: Option<[f64; 3]>,
    /// What parts of the mesh are made of, by their number.
    #[ts(type = "(\"dough\" | \"paper\" | \"ink\" | \"cup\" | \"nail\" | \"steel\")[]")]
    pub materials: Vec<&'static str>,
    /// Places worth a look, in the frame of what is shown with the object.
    pub places: Vec<PlaceView>,
}

impl Engine {
    /// The object in use, of a solid that [`Engine::run`] gave, while it is remembered. `None` where it is not; nothing within
    /// where there is nothing to see.
    pub fn in_use(&self, solid_key: &str, watch: &Watch) -> Result<Option<Arc<Option<Shown>>>, EngineError> {
        let Some(built) = self.built.get(&solid_key.to_string()) else { return Ok(None) };
        let workshop = self.workshop();
        let density = |part: u32| workshop.filament(&built.stack.filaments[part as usize]).density;
        let mass: f64 = built.solid.parts.iter().map(|p| p.mesh.mesh().volume() / 1000.0 * density(p.number)).sum();
        let key = key(&(solid_key, workshop.printer().layer, mass.to_bits()))?;
        let show = || self.use_of(&built, workshop.printer().layer, mass, watch).map(Arc::new);
        self.in_use.get_or_once(&key, show).map(Some)
    }

    fn use_of(&self, built: &Built, layer: f64, mass: f64, watch: &Watch) -> Result<Option<Shown>, EngineError> {
        let layers = looked_at(&built.solid, layer)?;
        let used = Used { measures: &built.measures, stack: &built.stack, layers: &layers, mass };
        let found = in_use(&used).map_err(|f| match f {
            Fault::Stopped(s) => EngineError::from(s),
            Fault::OffGrid(e) => TierError::from(e).into(),
        });
        let Some(in_use) = found? else { return Ok(None) };
        if in_use.stack.tiers.is_empty() {
            return Ok(Some(Shown { in_use, parts: vec![] }));
        }
        let slices = slice(&in_use.stack, &self.plans, watch)?;
        let planar = arrange(&slices, &self.sheets, watch)?;
        let parts = extrude_tiers(&planar, &in_use.stack, &slices, watch)?;
        let parts = parts.into_iter().map(|p| DisplayPart::of(p, &in_use.stack)).collect();
        Ok(Some(Shown { in_use, parts }))
    }
}

/// What is seen of an object in use.
pub fn in_use_view(shown: &Shown, unit: Unit) -> InUseView {
    let u = &shown.in_use;
    let boxes = shown.parts.iter().map(|p| p.mesh.mesh().extent());
    let all = boxes.reduce(|(a, b), (c, d)| {
        (std::array::from_fn(|k| f64::min(a[k], c[k])), std::array::from_fn(|k| f64::max(b[k], d[k])))
    });
    InUseView {
        title: u.title,
        says: words_in(&u.says, unit),
        leaves_out: words_in(u.leaves_out, unit),
        is_beside: u.is_beside,
        upright: u.upright,
        light: u.light,
        size: all.map(|(a, b)| std::array::from_fn(|k| b[k] - a[k])),
        materials: Material::ALL.iter().map(|m| m.name()).collect(),
        places: u.places.iter().map(place).collect(),
    }
}
