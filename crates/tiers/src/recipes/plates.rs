use crate::maker::{Maker, Put, chamfered, disc, placed, softened};
use crate::measure::{MeasureSpec, Picture};
use crate::recipes::{RELIEF, border, relief_height, rim_height, rim_width, soft_edge};
use crate::{Area, DoubtKind, EdgesOf, Role, TierError};
use kachel_geom::{BoolOp, Bounds, Edges, Mm, Point};
use kachel_outline::Shape;

const FORM: &[(&str, &str)] = &[("disc", "Disc"), ("square", "Square"), ("hexagon", "Hexagon"), ("outline", "Outline")];

// Measures of a coaster: common practice, no source.
pub(super) const COASTER: &[MeasureSpec] = &[
    MeasureSpec::choice("form", "Plate", "Form", "The form of the plate", FORM),
    MeasureSpec::length(
        "across",
        "Plate",
        "Across",
        "Across a disc, a square or the flats of a hexagon",
        Picture::Across,
        (80.0, 20.0, 200.0),
    ),
    border("Plate", "How far a plate of the outline's own form reaches beyond it", (3.0, 0.0, 30.0)),
    MeasureSpec::height("thickness", "Plate", "Thickness", "Height of the plate", (5.0, 0.6, 20.0)),
    soft_edge("Plate", "Radius of its upper edge", (0.5, 0.0, 5.0)),
    MeasureSpec::choice(
        "relief",
        "Details",
        "Details",
        "How the drawing lies on the plate",
        &[("engraved", "Engraved"), ("raised", "Raised"), ("cut", "Cut through"), ("inlaid", "Inlaid")],
    ),
    MeasureSpec::length(
        "relief-depth",
        "Details",
        "Depth or height",
        "How deep the drawing goes, or how far it stands out",
        Picture::Deep,
        (2.5, 0.2, 20.0),
    ),
    rim_width((0.0, 0.0, 30.0)),
    rim_height("How far the border stands out of the plate", (1.5, 0.2, 20.0)),
];

// Measures of a magnet: common practice, no source; disc magnets come in these sizes.
const DISCS: &[(&str, &str)] =
    &[("6x2", "6 × 2 mm"), ("8x3", "8 × 3 mm"), ("10x2", "10 × 2 mm"), ("12x3", "12 × 3 mm"), ("free", "Other")];
const DISC_MM: [(f64, f64); 4] = [(6.0, 2.0), (8.0, 3.0), (10.0, 2.0), (12.0, 3.0)];
pub(super) const MAGNET: &[MeasureSpec] = &[
    border("Body", "How far the body reaches beyond the drawing", (1.0, 0.0, 30.0)),
    MeasureSpec::height("thickness", "Body", "Thickness", "Height of the body", (5.0, 1.0, 30.0)),
    soft_edge("Body", "Radius of its upper edge", (0.5, 0.0, 5.0)),
    MeasureSpec::length(
        "relief-height",
        "Details",
        "Height",
        "How far details stand out of the body",
        Picture::High,
        (1.0, 0.0, 20.0),
    ),
    MeasureSpec::choice("magnet", "Pockets", "Magnet", "Size of the disc magnet: across and high", DISCS),
    MeasureSpec::length(
        "magnet-across",
        "Pockets",
        "Across",
        "Across the magnet, where the size is 'Other'",
        Picture::Across,
        (5.0, 1.0, 60.0),
    ),
    MeasureSpec::length(
        "magnet-high",
        "Pockets",
        "High",
        "How high the magnet is, where the size is 'Other'",
        Picture::High,
        (1.0, 0.3, 20.0),
    ),
    MeasureSpec::length(
        "clearance",
        "Pockets",
        "Clearance",
        "Air round the magnet and above it",
        Picture::Gap,
        (0.2, 0.0, 1.0),
    ),
    MeasureSpec::count("pockets", "Pockets", "How many", "Pockets, each where the body is roomiest", (1.0, 0.0, 12.0)),
    MeasureSpec::choice(
        "pocket",
        "Pockets",
        "Pocket",
        "Open at the back, to glue the magnet in, or closed in: the print pauses and the magnet goes in",
        &[("open", "Open below"), ("closed", "Closed in")],
    ),
    MeasureSpec::length(
        "pocket-x",
        "Pockets",
        "Moved across",
        "How far the first pocket is moved to the right of its place; with 'Moved up', by hand",
        Picture::Gap,
        (0.0, -200.0, 200.0),
    ),
    MeasureSpec::length(
        "pocket-y",
        "Pockets",
        "Moved up",
        "How far the first pocket is moved up from its place",
        Picture::Gap,
        (0.0, -200.0, 200.0),
    ),
];
/// Filament below a magnet that is closed in, mm: two layers and a little.
const FLOOR_MM: f64 = 0.6;
/// Filament round a pocket, mm: two lines.
const ROUND_MM: f64 = 0.8;

// Measures of a token: common practice, no source.
pub(super) const TOKEN: &[MeasureSpec] = &[
    MeasureSpec::choice(
        "form",
        "Body",
        "Form",
        "A disc round the drawing, or the outline's own form",
        &[("disc", "Disc"), ("outline", "Outline")],
    ),
    MeasureSpec::length("across", "Body", "Across", "Across the disc", Picture::Across, (30.0, 8.0, 150.0)),
    border("Body", "How far a body of the outline's own form reaches beyond it", (1.0, 0.0, 20.0)),
    MeasureSpec::height("thickness", "Body", "Thickness", "Height of the body", (4.0, 0.6, 20.0)),
    soft_edge("Body", "Bevel of both its edges", (0.4, 0.0, 3.0)),
    MeasureSpec::choice("relief", "Top", "Details", "How the drawing lies on top", RELIEF),
    relief_height("Top", "How far the drawing stands out, or how deep it goes", (0.5, 0.2, 10.0)),
    MeasureSpec::choice(
        "back",
        "Below",
        "Details",
        "The drawing again on the underside, to be read from there",
        &[("none", "None"), ("engraved", "Engraved"), ("inlaid", "Inlaid")],
    ),
    MeasureSpec::length("back-depth", "Below", "Depth", "How deep it goes", Picture::Deep, (0.6, 0.2, 10.0)),
];

// Measures of a plaque: common practice, no source.
pub(super) const PLAQUE: &[MeasureSpec] = &[
    MeasureSpec::choice(
        "form",
        "Plate",
        "Form",
        "The form of the plate",
        &[
            ("rounded", "Rounded"),
            ("rectangle", "Rectangle"),
            ("oval", "Oval"),
            ("round-ends", "Round ends"),
            ("outline", "Outline"),
        ],
    ),
    border("Plate", "How far the plate reaches beyond the drawing", (10.0, 0.0, 60.0)),
    MeasureSpec::length(
        "corner",
        "Plate",
        "Corner radius",
        "Radius of a rounded plate's corners",
        Picture::Corner,
        (5.0, 0.0, 60.0),
    ),
    MeasureSpec::height("thickness", "Plate", "Thickness", "Height of the plate", (5.0, 0.6, 30.0)),
    soft_edge("Plate", "Radius of its upper edge", (0.5, 0.0, 5.0)),
    MeasureSpec::choice("relief", "Lettering", "Details", "How lettering and drawing lie on the plate", RELIEF),
    relief_height("Lettering", "How far they stand out of the plate, or how deep they go", (5.0, 0.2, 30.0)),
    MeasureSpec::length(
        "frame-width",
        "Frame",
        "Width",
        "Width of a raised frame; 0 leaves it away",
        Picture::Thick,
        (2.0, 0.0, 30.0),
    ),
    MeasureSpec::length(
        "frame-height",
        "Frame",
        "Height",
        "How far the frame stands out of the plate",
        Picture::High,
        (2.0, 0.2, 30.0),
    ),
    MeasureSpec::choice(
        "screws",
        "Screws",
        "Holes",
        "Holes for screws",
        &[("none", "None"), ("two", "Two"), ("four", "Four")],
    ),
    MeasureSpec::length("screw", "Screws", "Across", "Across a hole", Picture::Across, (4.0, 1.0, 12.0)),
    MeasureSpec::length(
        "sink",
        "Screws",
        "Countersunk by",
        "How much wider the hole is at the top, for the screw's head",
        Picture::Edge,
        (1.5, 0.0, 6.0),
    ),
];

/// Places that are looked at along each side for a roomy one.
const GRID: u32 = 48;

/// The place in an area that is farthest from its border, for something so far across; `None` where it does not fit.
pub(super) fn roomiest(maker: &Maker<'_>, area: &Area, across: f64) -> Result<Option<Point<Mm>>, TierError> {
    Ok(roomy(maker, area, across, 1)?.first().copied())
}

/// As many such places as asked for, or as there are.
fn roomy(maker: &Maker<'_>, area: &Area, across: f64, count: usize) -> Result<Vec<Point<Mm>>, TierError> {
    let Some(b) = area.bounds() else { return Ok(vec![]) };
    let rings = area.rings_mm();
    let edges = Edges::of(&rings);
    let mut found: Vec<Point<Mm>> = Vec::new();
    let room = |p: Point<Mm>, found: &[Point<Mm>]| {
        let others = found.iter().map(|q| q.distance(p) - across / 2.0 - 0.4).fold(f64::INFINITY, f64::min);
        edges.distance(p).min(others)
    };
    for _ in 0..count {
        maker.watch.check()?;
        let mut best: Option<(f64, Point<Mm>)> = None;
        let look = |p: Point<Mm>, best: &mut Option<(f64, Point<Mm>)>| {
            let r = room(p, &found);
            if best.is_none_or(|(known, _)| r > known + 1e-9) {
                *best = Some((r, p));
            }
        };
        for row in 0..GRID {
            let y = b.min.y + b.height() * (f64::from(row) + 0.5) / f64::from(GRID);
            for (from, to) in area.spans(y) {
                let step = b.width() / f64::from(GRID);
                let mut x = from + ((to - from) % step) / 2.0;
                while x < to {
                    look(Point::new(x, y), &mut best);
                    x += step;
                }
            }
        }
        let mut step = (b.width().max(b.height())) / f64::from(GRID);
        while step > 0.01 {
            let Some((known, at)) = best else { break };
            for (dx, dy) in
                [(1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0), (0.7, 0.7), (-0.7, 0.7), (0.7, -0.7), (-0.7, -0.7)]
            {
                let p = Point::new(at.x + dx * step, at.y + dy * step);
                if area.winding(p) != 0 {
                    look(p, &mut best);
                }
            }
            if best.is_none_or(|b| b.0 <= known + 1e-9) {
                step /= 2.0;
            }
        }
        match best {
            Some((r, p)) if r >= across / 2.0 => found.push(p),
            _ => break,
        }
    }
    Ok(found)
}

/// What lies on or in a plate's top: raised, engraved, cut through or inlaid.
pub(super) fn relief(
    maker: &mut Maker<'_>,
    drawing: &[(String, Area)],
    how: &str,
    top: f64,
    by: f64,
    measure: &'static str,
) -> Result<(), TierError> {
    let is_too_deep = matches!(how, "engraved" | "inlaid") && by >= top;
    if is_too_deep {
        let what = format!("Details {by} mm deep go through a plate of {top} mm");
        let half = (top / 2.0 * 10.0).round() / 10.0;
        maker.doubt(DoubtKind::TooDeep, what, None, Some((format!("Make them {half} mm deep"), measure, half)));
    }
    let low = (top - by).max(0.0);
    match how {
        "raised" => maker.put_drawing(drawing, |key| Put::new(Role::Detail, key, top, top + by).top_by(measure, top)),
        "inlaid" => maker.put_drawing(drawing, |key| Put::new(Role::Detail, key, low, top).bottom_under(measure, top)),
        _ => {
            let all = maker.joined(drawing)?;
            let low = if how == "cut" { 0.0 } else { low };
            maker.cut(Put::new(Role::Room, "details", low, top).bottom_under(measure, top), &all)
        }
    }
}

/// A drawing that does not fit its plate is said, not cut off in silence.
fn fits(maker: &mut Maker<'_>, drawing: &[(String, Area)], plate: &Area, across: f64) -> Result<(), TierError> {
    let all = maker.joined(drawing)?;
    let outside = maker.plans.less(&all, plate)?;
    if outside.area_mm2() > 0.5 {
        let what = format!("The drawing reaches beyond the plate of {across} mm");
        let side = all.bounds().map_or(across, |b| b.width().hypot(b.height())).ceil();
        maker.doubt(
            DoubtKind::NoRoom,
            what,
            outside.bounds(),
            Some((format!("Make it {side} mm across"), "across", side.clamp(8.0, 150.0))),
        );
    }
    Ok(())
}

fn middle(area: &Area) -> Point<Mm> {
    area.bounds().map_or(Point::new(0.0, 0.0), |b| b.centre())
}

pub(super) fn coaster(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge()?;
    let (across, thickness) = (maker.get("across"), maker.get("thickness"));
    let at = middle(&edge);
    let form = maker.choice("form");
    let plate = match form {
        "square" => placed(Shape::Rectangle { width: across, height: across, corner: 6.0_f64.min(across / 4.0) }, at)?,
        // Across the flats: a hexagon's corners lie 2 / sqrt 3 farther out.
        "hexagon" => placed(Shape::Polygon { sides: 6, width: across * 2.0 / 3f64.sqrt() }, at)?,
        "outline" => maker.plans.grown(&edge, maker.get("border"))?,
        _ => disc(across, at)?,
    };
    maker.stack.edge = plate.clone();
    let rim = maker.get("rim-width");
    let has_rim = rim > 0.0;
    let soft = softened(EdgesOf::Outer, maker.get("soft-edge").min(thickness / 2.0));
    let body = Put::new(Role::Body, "plate", 0.0, thickness).top_by("thickness", 0.0);
    maker.add(if has_rim { body } else { body.topped(soft) }, &plate)?;
    if has_rim {
        let ring = maker.plans.less(&plate, &maker.plans.grown(&plate, -rim)?)?;
        let top = thickness + maker.get("rim-height");
        let soft = softened(EdgesOf::Both, maker.get("soft-edge").min(rim / 3.0).min(maker.get("rim-height") / 2.0));
        maker.add(Put::new(Role::Rim, "rim", 0.0, top).top_by("rim-height", thickness).topped(soft), &ring)?;
    }
    let drawing = maker.drawing("details", form != "outline" || maker.outline.details.is_empty())?;
    if form != "outline" {
        fits(maker, &drawing, &plate, across)?;
    }
    let room = if has_rim { maker.plans.grown(&plate, -rim)? } else { plate };
    let drawing = maker.within(drawing, &room)?;
    let how = maker.choice("relief");
    relief(maker, &drawing, how, thickness, maker.get("relief-depth"), "relief-depth")
}

pub(super) fn magnet(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge()?;
    let thickness = maker.get("thickness");
    let body = maker.plans.grown(&edge, maker.get("border"))?;
    maker.stack.edge = body.clone();
    let soft = softened(EdgesOf::Outer, maker.get("soft-edge").min(thickness / 2.0));
    maker.add(Put::new(Role::Body, "body", 0.0, thickness).top_by("thickness", 0.0).topped(soft), &body)?;
    let drawing = maker.drawing("details", false)?;
    let drawing = maker.within(drawing, &body)?;
    relief(maker, &drawing, "raised", thickness, maker.get("relief-height"), "relief-height")?;
    let free = (maker.get("magnet-across"), maker.get("magnet-high"));
    let (across, high) = DISC_MM.get(maker.m.count("magnet")).copied().unwrap_or(free);
    let air = maker.get("clearance");
    let (across, high) = (across + 2.0 * air, high + air);
    let count = maker.m.count("pockets");
    let is_closed = maker.choice("pocket") == "closed";
    let from = if is_closed { FLOOR_MM } else { 0.0 };
    if count > 0 && from + high > thickness - FLOOR_MM + 1e-9 {
        let need = ((from + high + FLOOR_MM) * 5.0).ceil() / 5.0;
        let what =
            format!("A pocket {high:.1} mm high from {from} mm on goes through the top of a body of {thickness} mm");
        let mend = (format!("Make the body {need} mm thick"), "thickness", need);
        maker.doubt(DoubtKind::TooDeep, what, None, Some(mend));
    }
    let mut places = roomy(maker, &body, across + 2.0 * ROUND_MM, count)?;
    if places.len() < count {
        let what = format!(
            "There is room for {} of {count} pockets of {across:.1} mm with {ROUND_MM} mm round them",
            places.len()
        );
        let mend = ("Make as many as there is room for".to_string(), "pockets", places.len() as f64);
        maker.doubt(DoubtKind::NoRoom, what, None, Some(mend));
    }
    if let Some(first) = places.first_mut() {
        let by = (maker.get("pocket-x"), maker.get("pocket-y"));
        if by != (0.0, 0.0) {
            *first = Point::new(first.x + by.0, first.y + by.1);
            let needed = disc(across + 2.0 * ROUND_MM, *first)?;
            let outside = maker.plans.less(&needed, &body)?;
            if !outside.is_empty() {
                let what = "The pocket that was moved comes too close to the edge".to_string();
                maker.doubt(
                    DoubtKind::BreaksOut,
                    what,
                    needed.bounds(),
                    Some(("Move it back across".into(), "pocket-x", 0.0)),
                );
            }
        }
    }
    let discs = places.iter().map(|p| disc(across, *p)).collect::<Result<Vec<_>, _>>()?;
    let pockets = maker.plans.joined(&discs)?;
    maker.cut(Put::new(Role::Room, "pockets", from, from + high), &pockets)?;
    if is_closed && !pockets.is_empty() {
        maker.stack.pauses.push(from + high);
    }
    Ok(())
}

pub(super) fn token(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge()?;
    let (across, thickness) = (maker.get("across"), maker.get("thickness"));
    let is_disc = maker.choice("form") == "disc";
    let body = if is_disc { disc(across, middle(&edge))? } else { maker.plans.grown(&edge, maker.get("border"))? };
    maker.stack.edge = body.clone();
    let soft = chamfered(EdgesOf::Outer, maker.get("soft-edge").min(thickness / 3.0));
    maker
        .add(Put::new(Role::Body, "body", 0.0, thickness).top_by("thickness", 0.0).topped(soft).footed(soft), &body)?;
    let drawing = maker.drawing("details", is_disc || maker.outline.details.is_empty())?;
    if is_disc {
        fits(maker, &drawing, &body, across)?;
    }
    let room = maker.plans.grown(&body, -maker.get("soft-edge"))?;
    let drawing = maker.within(drawing, &room)?;
    relief(maker, &drawing, maker.choice("relief"), thickness, maker.get("relief-height"), "relief-height")?;
    let back = maker.choice("back");
    if back == "none" {
        return Ok(());
    }
    // Read from below, so it is mirrored about the body's middle.
    let depth = maker.get("back-depth");
    if depth >= thickness {
        let what = format!("Details {depth} mm deep below go through a body of {thickness} mm");
        maker.doubt(DoubtKind::TooDeep, what, None, Some(("Make them 0.6 mm deep".into(), "back-depth", 0.6)));
    }
    let x = middle(&body).x;
    let all = maker.joined(&drawing)?;
    let turned = all
        .rings_mm()
        .into_iter()
        .map(|r| kachel_geom::Ring(r.0.into_iter().rev().map(|p| Point::<Mm>::new(2.0 * x - p.x, p.y)).collect()));
    let turned = kachel_geom::Region::from_mm(&turned.collect::<Vec<_>>())?;
    let turned = maker.plans.combined(&turned.into(), &room, BoolOp::Common)?;
    if back == "engraved" {
        maker.cut(Put::new(Role::Room, "below", 0.0, depth), &turned)
    } else {
        maker.add(Put::new(Role::Detail, "below", 0.0, depth), &turned)
    }
}

pub(super) fn plaque(maker: &mut Maker<'_>) -> Result<(), TierError> {
    let edge = maker.edge()?;
    let (border, thickness) = (maker.get("border"), maker.get("thickness"));
    let form = maker.choice("form");
    let b = edge.bounds().unwrap_or(Bounds { min: Point::new(-1.0, -1.0), max: Point::new(1.0, 1.0) });
    let (w, h, at) = (b.width() + 2.0 * border, b.height() + 2.0 * border, b.centre());
    let rounded = |corner: f64| Shape::Rectangle { width: w, height: h, corner: corner.min(w.min(h) / 2.0) };
    let plate = match form {
        "rectangle" => placed(rounded(0.0), at)?,
        // The oval through the corners of the drawing's box would be far too large; its sides by sqrt 2 hold them.
        "oval" => {
            let grow = |side: f64| (side - 2.0 * border) * 2f64.sqrt() + 2.0 * border;
            placed(Shape::Ellipse { width: grow(w), height: grow(h) }, at)?
        }
        "round-ends" => {
            let wide = w + h - 2.0 * border;
            placed(Shape::Rectangle { width: wide, height: h, corner: h / 2.0 }, at)?
        }
        "outline" => maker.plans.grown(&edge, border)?,
        _ => placed(rounded(maker.get("corner")), at)?,
    };
    maker.stack.edge = plate.clone();
    let soft = softened(EdgesOf::Outer, maker.get("soft-edge").min(thickness / 2.0));
    let frame = maker.get("frame-width");
    let body = Put::new(Role::Body, "plate", 0.0, thickness).top_by("thickness", 0.0);
    maker.add(if frame > 0.0 { body } else { body.topped(soft) }, &plate)?;
    let mut room = plate.clone();
    if frame > 0.0 {
        room = maker.plans.grown(&plate, -frame)?;
        let ring = maker.plans.less(&plate, &room)?;
        let high = maker.get("frame-height");
        let soft = softened(EdgesOf::Both, maker.get("soft-edge").min(frame / 3.0).min(high / 2.0));
        maker.add(
            Put::new(Role::Rim, "frame", 0.0, thickness + high).top_by("frame-height", thickness).topped(soft),
            &ring,
        )?;
    }
    let drawing = maker.drawing("details", form != "outline" || maker.outline.details.is_empty())?;
    let drawing = maker.within(drawing, &room)?;
    relief(maker, &drawing, maker.choice("relief"), thickness, maker.get("relief-height"), "relief-height")?;
    screws(maker, &plate, thickness, frame)
}

fn screws(maker: &mut Maker<'_>, plate: &Area, thickness: f64, frame: f64) -> Result<(), TierError> {
    let how = maker.choice("screws");
    let Some(b) = plate.bounds().filter(|_| how != "none") else { return Ok(()) };
    let (across, sink) = (maker.get("screw"), maker.get("sink"));
    let inset = frame + 1.0 + across / 2.0 + sink;
    let (x, y) = (b.width() / 2.0 - inset, b.height() / 2.0 - inset);
    let at = b.centre();
    let places: Vec<Point<Mm>> = match how {
        "two" => [-1.0, 1.0].map(|k| Point::new(at.x + k * x, at.y)).to_vec(),
        _ => [(-1.0, -1.0), (1.0, -1.0), (1.0, 1.0), (-1.0, 1.0)]
            .map(|(i, j)| Point::new(at.x + i * x, at.y + j * y))
            .to_vec(),
    };
    let holes = places.iter().map(|p| disc(across, *p)).collect::<Result<Vec<_>, _>>()?;
    let holes = maker.plans.joined(&holes)?;
    let needed = maker.plans.grown(&holes, sink + 1.0)?;
    if !maker.plans.less(&needed, plate)?.is_empty() {
        let what = format!("A screw hole of {across} mm with its sink breaks out of the plate");
        let mend = ("Give the plate a border of 15 mm".to_string(), "border", 15.0);
        maker.doubt(DoubtKind::BreaksOut, what, needed.bounds(), Some(mend));
    }
    let mut mouth = chamfered(EdgesOf::Both, sink);
    mouth.way = crate::Way::Outward;
    mouth.depth = sink.min(thickness);
    let drawn: Vec<Area> =
        maker.stack.tiers.iter().filter(|t| t.role == Role::Detail).map(|t| t.footprint.clone()).collect();
    let drawn = maker.plans.joined(&drawn)?;
    let common = maker.plans.combined(&needed, &drawn, BoolOp::Common)?;
    if !common.is_empty() {
        let what = "A screw hole lies under the lettering".to_string();
        let mend = ("Give the plate a border of 15 mm".to_string(), "border", 15.0);
        maker.doubt(DoubtKind::NoRoom, what, common.bounds(), Some(mend));
    }
    maker.cut(Put::new(Role::Room, "screws", 0.0, thickness).topped(mouth), &holes)
}
