use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::fmt;
use std::marker::PhantomData;

/// A coordinate space; see the crate documentation for the three there are.
pub trait Space: Copy + fmt::Debug + PartialEq + Send + Sync + 'static {
    /// What its points are called in TypeScript.
    const POINT: &'static str;
    /// Its unit, which brands them there.
    const UNIT: &'static str;
}

/// Pixels of the picture, y down, pixel (0, 0) covering \[0, 1\] x \[0, 1\].
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Px;
/// Millimetres, y up.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mm;
impl Space for Px {
    const POINT: &'static str = "PxPoint";
    const UNIT: &'static str = "px";
}
impl Space for Mm {
    const POINT: &'static str = "MmPoint";
    const UNIT: &'static str = "mm";
}

/// A point in the space `S`; in JSON `[x, y]`.
///
/// Pixels and millimetres never share a type, in documents neither:
///
/// ```
/// use kachel_geom::{Mm, Point};
/// let at: Point<Mm> = Point::new(3.0, 4.0);
/// assert_eq!(at.distance(Point::new(0.0, 0.0)), 5.0);
/// ```
///
/// ```compile_fail,E0308
/// use kachel_geom::{Mm, Point, Px};
/// let (at, pixel) = (Point::<Mm>::new(3.0, 4.0), Point::<Px>::new(0.0, 0.0));
/// at.distance(pixel);
/// ```
#[derive(Clone, Copy, PartialEq)]
pub struct Point<S: Space> {
    /// Abscissa, to the right.
    pub x: f64,
    /// Ordinate; its direction is the space's.
    pub y: f64,
    space: PhantomData<S>,
}

impl<S: Space> Point<S> {
    /// A point from its coordinates in the units of `S`.
    pub const fn new(x: f64, y: f64) -> Self {
        Self { x, y, space: PhantomData }
    }

    /// Its two coordinates.
    pub const fn xy(self) -> [f64; 2] {
        [self.x, self.y]
    }

    /// Whether both coordinates are numbers that can be worked with.
    pub const fn is_finite(self) -> bool {
        self.x.is_finite() && self.y.is_finite()
    }

    /// Distance to another point of the same space.
    pub fn distance(self, other: Self) -> f64 {
        let (dx, dy) = (self.x - other.x, self.y - other.y);
        // Nothing here is so long or so short that its square would be lost, as `hypot` takes care of at four times the time.
        (dx * dx + dy * dy).sqrt()
    }

    /// Distance to the segment from `a` to `b`.
    pub fn distance_to_segment(self, a: Self, b: Self) -> f64 {
        self.distance(nearest_on(self.xy(), a.xy(), b.xy()).into())
    }
}

/// The place on the line from `a` to `b` that is nearest to `p`.
pub(crate) fn nearest_on([x, y]: [f64; 2], a: [f64; 2], b: [f64; 2]) -> [f64; 2] {
    let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
    let long2 = dx * dx + dy * dy;
    let t = if long2 > 0.0 { (((x - a[0]) * dx + (y - a[1]) * dy) / long2).clamp(0.0, 1.0) } else { 0.0 };
    // An end is given as it is.
    if t >= 1.0 { b } else { [a[0] + t * dx, a[1] + t * dy] }
}

impl<S: Space> From<[f64; 2]> for Point<S> {
    fn from([x, y]: [f64; 2]) -> Self {
        Self::new(x, y)
    }
}

impl<S: Space> Serialize for Point<S> {
    fn serialize<W: Serializer>(&self, to: W) -> Result<W::Ok, W::Error> {
        self.xy().serialize(to)
    }
}

impl<'de, S: Space> Deserialize<'de> for Point<S> {
    fn deserialize<R: Deserializer<'de>>(from: R) -> Result<Self, R::Error> {
        <[f64; 2]>::deserialize(from).map(|[x, y]| Self::new(x, y))
    }
}

impl<S: Space> ts_rs::TS for Point<S> {
    type WithoutGenerics = Self;
    type OptionInnerType = Self;

    fn docs() -> Option<String> {
        Some(format!("/**\n * A point in {}; no point of another space can take its place.\n */\n", S::UNIT))
    }

    fn name(_: &ts_rs::Config) -> String {
        S::POINT.into()
    }

    fn inline(_: &ts_rs::Config) -> String {
        format!("[number, number] & {{ readonly space?: \"{}\" }}", S::UNIT)
    }

    fn decl(cfg: &ts_rs::Config) -> String {
        format!("type {} = {};", S::POINT, Self::inline(cfg))
    }

    fn decl_concrete(cfg: &ts_rs::Config) -> String {
        Self::decl(cfg)
    }

    fn output_path() -> Option<std::path::PathBuf> {
        Some(format!("{}.ts", S::POINT).into())
    }
}

#[cfg(feature = "schema")]
// What utoipa's derive would write for a struct, but for an array.
impl<S: Space> utoipa::__dev::ComposeSchema for Point<S> {
    fn compose(
        _: Vec<utoipa::openapi::RefOr<utoipa::openapi::schema::Schema>>,
    ) -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        let number = <f64 as utoipa::PartialSchema>::schema();
        let two = utoipa::openapi::ArrayBuilder::new().items(number).min_items(Some(2)).max_items(Some(2));
        two.description(Some(format!("A point in {}.", S::UNIT))).into()
    }
}

#[cfg(feature = "schema")]
impl<S: Space> utoipa::ToSchema for Point<S> {
    fn name() -> std::borrow::Cow<'static, str> {
        "Point".into()
    }
}

impl<S: Space> fmt::Debug for Point<S> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("(")?;
        fmt::Debug::fmt(&self.x, f)?;
        f.write_str(", ")?;
        fmt::Debug::fmt(&self.y, f)?;
        f.write_str(")")
    }
}

/// An axis-parallel box; empty until something was added.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bounds<S: Space> {
    /// Smallest coordinates.
    pub min: Point<S>,
    /// Largest coordinates.
    pub max: Point<S>,
}

impl<S: Space> Bounds<S> {
    /// The box that holds nothing.
    pub const EMPTY: Self =
        Self { min: Point::new(f64::INFINITY, f64::INFINITY), max: Point::new(f64::NEG_INFINITY, f64::NEG_INFINITY) };

    /// The smallest box round `points`; `None` when there are none.
    pub fn of<'a>(points: impl IntoIterator<Item = &'a Point<S>>) -> Option<Self> {
        let mut b = Self::EMPTY;
        points.into_iter().for_each(|p| b.add(*p));
        (b.min.x <= b.max.x).then_some(b)
    }

    /// Grows the box to hold `p`.
    pub fn add(&mut self, p: Point<S>) {
        self.min = Point::new(self.min.x.min(p.x), self.min.y.min(p.y));
        self.max = Point::new(self.max.x.max(p.x), self.max.y.max(p.y));
    }

    /// The smallest box that holds both.
    pub fn union(mut self, other: Self) -> Self {
        self.add(other.min);
        self.add(other.max);
        self
    }

    /// The four corners, in order.
    pub const fn corners(&self) -> [Point<S>; 4] {
        let (a, b) = (self.min, self.max);
        [a, Point::new(b.x, a.y), b, Point::new(a.x, b.y)]
    }

    /// Extent along x.
    pub fn width(&self) -> f64 {
        self.max.x - self.min.x
    }

    /// Extent along y.
    pub fn height(&self) -> f64 {
        self.max.y - self.min.y
    }

    /// So much larger on every side.
    pub fn grown(&self, by: f64) -> Self {
        let (min, max) = (self.min, self.max);
        Self { min: Point::new(min.x - by, min.y - by), max: Point::new(max.x + by, max.y + by) }
    }

    /// The box on the other side of x = 0.
    pub const fn mirrored(&self) -> Self {
        Self { min: Point::new(-self.max.x, self.min.y), max: Point::new(-self.min.x, self.max.y) }
    }

    /// The middle of the box.
    pub fn centre(&self) -> Point<S> {
        Point::new((self.min.x + self.max.x) / 2.0, (self.min.y + self.max.y) / 2.0)
    }

    /// Whether a point lies in the box.
    pub fn has(&self, p: Point<S>) -> bool {
        self.min.x <= p.x && p.x <= self.max.x && self.min.y <= p.y && p.y <= self.max.y
    }

    /// Whether the boxes have a point in common.
    pub fn overlaps(&self, other: &Self) -> bool {
        self.min.x <= other.max.x && other.min.x <= self.max.x && self.min.y <= other.max.y && other.min.y <= self.max.y
    }

    /// Whether `p` lies in the box or on its border.
    pub fn contains(&self, p: Point<S>) -> bool {
        p.x >= self.min.x && p.x <= self.max.x && p.y >= self.min.y && p.y <= self.max.y
    }
}
