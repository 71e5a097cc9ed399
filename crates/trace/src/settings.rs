use serde::{Deserialize, Serialize};

/// What counts as ink.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
#[ts(export)]
pub enum Ink {
    /// Dark on light, or with `invert` light on dark.
    LightDark,
    /// By colour: each colour but the ground.
    Colours,
    /// What is opaque.
    Alpha,
    /// The middle of each stroke; strokes are what is dark on light, or with `invert` light on dark.
    Pen,
    /// Nothing: the picture is only traced by hand.
    None,
}

/// How colours are distinguished.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct ColourSettings {
    /// How many colours there are, the ground included, 2 to 12; as many as there are where it is left out.
    pub count: Option<u8>,
    /// Colours that were pointed at: they are always among them.
    pub picked: Vec<[u8; 3]>,
    /// Pairs of colours of which the first one counts as the second one.
    pub merged: Vec<[[u8; 3]; 2]>,
    /// Which colour is the ground; that of most of the picture's border where it is left out.
    pub ground: Option<[u8; 3]>,
    /// The ground is kept as a colour like the others.
    pub with_ground: bool,
}

/// The settings of tracing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, ts_rs::TS)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[ts(export)]
pub struct TraceSettings {
    /// What counts as ink.
    pub ink: Ink,
    /// Grey (or opacity) between ink and ground, 1 to 254; found automatically where it is left out.
    pub threshold: Option<u8>,
    /// Ink and ground change places.
    pub invert: bool,
    /// Patches smaller than this (square pixels, 0 to 10 000) are dropped, with a doubt that counts them.
    pub min_area: f64,
    /// Gaps smaller than this (square pixels, 0 to 10 000) are filled.
    pub min_gap: f64,
    /// Largest distance (pixels, 0 to 5) between a followed contour and its curve, beyond what the contour's own
    /// roughness explains; 0 keeps every point that was followed.
    pub deviation: f64,
    /// Smallest turn of a corner, degrees, 5 to 120; between straight runs 15 degrees are enough.
    pub bend: f64,
    /// How colours are distinguished.
    pub colours: ColourSettings,
}

impl Default for TraceSettings {
    fn default() -> Self {
        Self {
            ink: Ink::LightDark,
            threshold: None,
            invert: false,
            min_area: 12.0,
            min_gap: 12.0,
            deviation: 0.1,
            bend: 45.0,
            colours: ColourSettings::default(),
        }
    }
}
