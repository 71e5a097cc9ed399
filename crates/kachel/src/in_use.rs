//! An object in use, and what is seen of it.

use crate::display::{DisplayPart, Shown};
use crate::engine::{Arranged, Engine};
use crate::error::EngineError;
use crate::keys::key;
use crate::layers::{layer_heights, looked_at};
use crate::view::{PlaceView, place};
use kachel_check::{Cup, Fault, Material, Standing, Tilt, Used, in_use};
use kachel_geom::Watch;
use kachel_solid::{arrange, extrude_tiers};
use kachel_tiers::{RecipeKind, TierError, Unit, slice};
use kachel_words::msg;
use serde::Serialize;
use std::sync::Arc;
use ts_rs::TS;

/// An object in use.
#[derive(Clone, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct InUseView {
    /// What it is, as a heading.
    pub title: String,
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
    /// The cup on a coaster, which can be another one and stand elsewhere.
    pub cup: Option<CupView>,
}

/// A cup on a coaster.
#[derive(Clone, Copy, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct CupView {
    /// Diameter of its foot, mm.
    pub foot: f64,
    /// How far to the right of the middle it stands, mm.
    pub right: f64,
    /// How far up in plan, mm.
    pub up: f64,
    /// How it is tipped; none where it stands steady.
    pub tilt: Option<TiltView>,
}

/// How a cup is tipped.
#[derive(Clone, Copy, Debug, Serialize, TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[ts(export)]
pub struct TiltView {
    /// A place of the line that it turns about, mm.
    pub at: [f64; 3],
    /// Direction of that line, degrees anticlockwise from the right; what lies on its right goes down.
    pub along: f64,
    /// By how much, degrees.
    pub degrees: f64,
}

impl CupView {
    fn of(s: &Standing) -> Self {
        let tilt = |t: Tilt| TiltView { at: [t.at.x, t.at.y, t.height], along: t.along, degrees: t.degrees };
        let Cup { foot, by: (right, up) } = s.cup;
        Self { foot: foot.unwrap_or_default(), right, up, tilt: s.tilt.map(tilt) }
    }
}

impl Engine {
    /// The object in use, of a solid that [`Engine::run`] gave, while it is remembered. `None` where it is not; nothing within
    /// where there is nothing to see. On a coaster the cup stands that is asked for.
    pub fn in_use(&self, solid_key: &str, cup: Cup, watch: &Watch) -> Result<Option<Arc<Option<Shown>>>, EngineError> {
        let stack_key = solid_key.to_string();
        let Some(arranged) = self.arranged.get(&stack_key) else { return Ok(None) };
        let Arranged { stack, measures, .. } = &*arranged;
        let solid = self.solid(&stack_key, &arranged, watch)?;
        let workshop = self.workshop();
        let density = |part: u32| workshop.filament(&stack.filaments[part as usize]).density;
        let mass: f64 = solid.parts.iter().map(|p| p.mesh.mesh().volume() / 1000.0 * density(p.number)).sum();
        let cup = if measures.kind() == RecipeKind::Coaster { cup.held() } else { Cup::default() };
        let cup_key = (cup.foot.map(f64::to_bits), cup.by.0.to_bits(), cup.by.1.to_bits());
        let heights = layer_heights(&workshop);
        let key = key(&(solid_key, heights.first, heights.others, mass.to_bits(), cup_key))?;
        let show = || {
            let layers = looked_at(&solid, heights)?;
            let used = Used { measures, stack, layers: &layers, mass, cup };
            self.use_of(&used, watch).map(Arc::new)
        };
        self.in_use.get_or_once(&key, show).map(Some)
    }

    fn use_of(&self, used: &Used<'_>, watch: &Watch) -> Result<Option<Shown>, EngineError> {
        let found = in_use(used).map_err(|f| match f {
            Fault::Stopped(s) => EngineError::from(s),
            Fault::OffGrid(e) => TierError::from(e).into(),
        });
        let Some(in_use) = found? else { return Ok(None) };
        if in_use.stack.tiers.is_empty() {
            return Ok(Some(Shown { in_use, parts: vec![] }));
        }
        let slices = slice(&in_use.stack, &self.plans, watch)?;
        let planar = arrange(&slices, &self.sheets, watch)?;
        let parts = extrude_tiers(&planar, &in_use.stack, &slices, None, watch)?;
        let parts = DisplayPart::all_of(parts, &in_use.stack);
        Ok(Some(Shown { in_use, parts }))
    }
}

/// What is seen of an object in use.
pub fn in_use_view(shown: &Shown, unit: Unit) -> InUseView {
    let u = &shown.in_use;
    let title = msg!(u.title);
    InUseView {
        title: title.said(unit),
        says: u.answer(unit),
        leaves_out: title.said_part("leaves-out", unit),
        is_beside: u.is_beside,
        upright: u.upright,
        light: u.light,
        size: DisplayPart::extent_of(&shown.parts).map(|(a, b)| std::array::from_fn(|k| b[k] - a[k])),
        materials: Material::ALL.iter().map(|m| m.name()).collect(),
        places: u.places.iter().map(place).collect(),
        cup: u.standing.as_ref().map(CupView::of),
    }
}
