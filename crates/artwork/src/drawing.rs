use crate::doubt::Doubt;
use crate::entities;
use crate::error::{ArtworkError, MAX_CROSSINGS, MAX_ENTITIES, MAX_NODES, MAX_PAGES, MAX_SHAPES, MAX_STYLED};
use crate::model::{Area, Drawing, luma_over_white};
use kachel_geom::{BoolOp, Curve, Point, Px, Ring, Segment, Stage, Watch, combine_rings, cross_more_than, normalise};
use kurbo::{BezPath, PathEl};
use std::collections::{BTreeSet, HashSet};
use usvg::tiny_skia_path::{Path as SkiaPath, PathSegment};
use usvg::{FillRule, Group, ImageHrefResolver, Node, Options, Paint, PaintOrder, Transform, roxmltree};

type PxPoint = Point<Px>;

/// XML nodes that are read at the most.
const MAX_XML_NODES: u32 = 1_000_000;
/// Curves are flattened to this share of the drawing's larger side (Hausdorff; kurbo calls its bound
/// 'not absolutely guaranteed').
const FLATNESS: f64 = 1.0 / 16_000.0;

pub(crate) fn looks_like_svg(bytes: &[u8]) -> bool {
    let head = &bytes[..bytes.len().min(4096)];
    let text = String::from_utf8_lossy(head);
    let text = text.trim_start_matches('\u{feff}').trim_start();
    text.starts_with('<') && (text.contains("<svg") || text.starts_with("<?xml") || text.starts_with("<!DOCTYPE svg"))
}

/// How XML is read: with a document type, but not without end.
pub(crate) fn xml_options<'a>() -> roxmltree::ParsingOptions<'a> {
    roxmltree::ParsingOptions { allow_dtd: true, nodes_limit: MAX_XML_NODES, ..Default::default() }
}

pub(crate) fn read(bytes: &[u8], watch: &Watch) -> Result<Drawing, ArtworkError> {
    let damaged = |e: &dyn std::fmt::Display| ArtworkError::Damaged(e.to_string());
    let text = std::str::from_utf8(bytes).map_err(|e| damaged(&e))?;
    if entities::letters(text) > MAX_ENTITIES {
        return Err(ArtworkError::TooMuchText);
    }
    let document = roxmltree::Document::parse_with_options(text, xml_options()).map_err(|e| damaged(&e))?;
    let shapes = document.descendants().filter(|n| is_shape(n.tag_name().name())).count();
    if shapes > MAX_SHAPES * 2 {
        return Err(ArtworkError::TooManyShapes { shapes });
    }
    styled(&document)?;
    watch.check()?;
    // Neither files nor the network: pictures by reference resolve to nothing.
    let options = Options {
        image_href_resolver: ImageHrefResolver {
            resolve_data: Box::new(|_, _, _| None),
            resolve_string: Box::new(|_, _| None),
        },
        ..Options::default()
    };
    let tree = usvg::Tree::from_xmltree(&document, &options).map_err(|e| damaged(&e))?;
    let (width, height) = (f64::from(tree.size().width()), f64::from(tree.size().height()));
    let mut flattener = Flattener {
        tolerance: width.max(height) * FLATNESS,
        areas: Vec::new(),
        unpainted: Vec::new(),
        strokes: Vec::new(),
        painted: HashSet::new(),
        group: None,
        nodes: 0,
        doubts: BTreeSet::new(),
        watch,
    };
    for (tag, doubt) in [("text", Doubt::Text), ("image", Doubt::Image)] {
        if document.descendants().any(|n| n.tag_name().name() == tag) {
            flattener.doubts.insert(doubt);
        }
    }
    flattener.group(tree.root(), 1.0, &[])?;
    flattener.unpainted(&document, &options)?;
    Ok(Drawing {
        width,
        height,
        areas: flattener.areas,
        unpainted: flattener.unpainted,
        strokes: flattener.strokes,
        origin: (0.0, 0.0),
        mm_per_unit: has_physical_size(&document).then_some(25.4 / 96.0),
        doubts: flattener.doubts.into_iter().collect(),
    })
}

/// Refuses style sheets that would be matched for hours: each rule is tried on each element.
fn styled(document: &roxmltree::Document<'_>) -> Result<(), ArtworkError> {
    let sheets = document.descendants().filter(|n| n.tag_name().name() == "style");
    let rules: usize = sheets.flat_map(|n| n.children()).filter_map(|n| n.text()).map(|t| t.matches('{').count()).sum();
    let elements = document.descendants().filter(roxmltree::Node::is_element).count();
    if rules.saturating_mul(elements) > MAX_STYLED {
        return Err(ArtworkError::TooManyStyles { rules, elements });
    }
    Ok(())
}

fn is_shape(tag: &str) -> bool {
    matches!(tag, "path" | "rect" | "circle" | "ellipse" | "line" | "polyline" | "polygon" | "use")
}

/// Whether width or height of the root is given in a unit of length rather than in pixels or percent.
fn has_physical_size(document: &roxmltree::Document) -> bool {
    ["width", "height"].iter().filter_map(|a| document.root_element().attribute(*a)).any(|value| {
        let unit = value.trim().trim_start_matches(|c: char| c.is_ascii_digit() || "+-.eE".contains(c)).trim();
        matches!(unit, "mm" | "cm" | "in" | "pt" | "pc" | "Q")
    })
}

/// State for flattening.
struct Flattener<'w> {
    tolerance: f64,
    areas: Vec<Area>,
    unpainted: Vec<Curve<Px>>,
    strokes: Vec<(Curve<Px>, f64)>,
    /// Paths that have a paint, as text.
    painted: HashSet<String>,
    /// Name of the innermost named group.
    group: Option<String>,
    nodes: usize,
    doubts: BTreeSet<Doubt>,
    watch: &'w Watch,
}

impl Flattener<'_> {
    fn group(&mut self, group: &Group, opacity: f64, clip: &[Vec<Ring<Px>>]) -> Result<(), ArtworkError> {
        let opacity = opacity * f64::from(group.opacity().get());
        if group.mask().is_some() || !group.filters().is_empty() {
            self.doubts.insert(Doubt::Effect);
        }
        let outer = self.group.clone();
        if !group.id().is_empty() {
            self.group = Some(group.id().chars().take(80).collect());
        }
        let mut clips = clip.to_vec();
        let mut next = group.clip_path();
        while let Some(path) = next {
            // The clip's content is placed in the clipped group's own coordinates.
            let place = group.abs_transform().pre_concat(path.transform());
            let mut rings = Vec::new();
            self.clip_rings(path.root(), place, &mut rings)?;
            clips.push(normalise(&rings, false));
            next = path.clip_path();
        }
        for node in group.children() {
            match node {
                Node::Group(g) => self.group(g, opacity, &clips)?,
                Node::Path(p) if p.is_visible() => self.path(p, opacity, &clips)?,
                Node::Path(_) => {}
                Node::Image(_) => {
                    self.doubts.insert(Doubt::Image);
                }
                Node::Text(_) => {
                    self.doubts.insert(Doubt::Text);
                }
            }
        }
        self.group = outer;
        Ok(())
    }

    /// Finds the lines that nothing paints: those that only a style sheet of ours, which paints every line, shows.
    fn unpainted(&mut self, document: &roxmltree::Document, options: &Options) -> Result<(), ArtworkError> {
        let style = Some("path,rect,circle,ellipse,line,polyline,polygon{fill:none !important;stroke:#000 !important;stroke-width:1 !important;stroke-opacity:1 !important}".into());
        let resolver =
            ImageHrefResolver { resolve_data: Box::new(|_, _, _| None), resolve_string: Box::new(|_, _| None) };
        let all = Options { style_sheet: style, image_href_resolver: resolver, dpi: options.dpi, ..Options::default() };
        let tree = usvg::Tree::from_xmltree(document, &all).map_err(|e| ArtworkError::Damaged(e.to_string()))?;
        self.lines(tree.root())
    }

    fn lines(&mut self, group: &Group) -> Result<(), ArtworkError> {
        for node in group.children() {
            match node {
                Node::Group(g) => self.lines(g)?,
                Node::Path(p) if p.is_visible() => {
                    let path = to_kurbo(p.data(), p.abs_transform());
                    if !self.painted.contains(&path.to_svg()) {
                        self.watch.check().map_err(ArtworkError::from)?;
                        self.unpainted.extend(curves_of(&path));
                    }
                }
                _ => {}
            }
        }
        Ok(())
    }

    fn path(&mut self, path: &usvg::Path, opacity: f64, clips: &[Vec<Ring<Px>>]) -> Result<(), ArtworkError> {
        let place = path.abs_transform();
        let own = to_kurbo(path.data(), place);
        if path.fill().is_some() || path.stroke().is_some() {
            self.painted.insert(own.to_svg());
        }
        if let Some(line) = path.stroke()
            && self.strokes.len() < MAX_SHAPES
        {
            let (sx, sy) = place.get_scale();
            let width = f64::from(line.width().get()) * f64::from(sx * sy).abs().sqrt();
            self.strokes.extend(curves_of(&own).into_iter().map(|c| (c, width)));
        }
        let fill = |s: &mut Self| match path.fill() {
            Some(f) => {
                let rings = s.rings(path.data(), place)?;
                s.paint(
                    rings,
                    Some(&own),
                    f.rule() == FillRule::EvenOdd,
                    f.paint(),
                    opacity * f64::from(f.opacity().get()),
                    clips,
                )
            }
            None => Ok(()),
        };
        let stroke = |s: &mut Self| match path.stroke() {
            Some(line) => {
                let Some(area) = stroke_area(path.data(), line, place) else { return Ok(()) };
                let rings = s.rings(&area, place)?;
                s.paint(rings, None, false, line.paint(), opacity * f64::from(line.opacity().get()), clips)
            }
            None => Ok(()),
        };
        match path.paint_order() {
            PaintOrder::FillAndStroke => fill(self).and_then(|()| stroke(self)),
            PaintOrder::StrokeAndFill => stroke(self).and_then(|()| fill(self)),
        }
    }

    fn paint(
        &mut self,
        raw: Vec<Ring<Px>>,
        own: Option<&BezPath>,
        even_odd: bool,
        paint: &Paint,
        opacity: f64,
        clips: &[Vec<Ring<Px>>],
    ) -> Result<(), ArtworkError> {
        self.watch.enter(Stage::Artwork)?;
        if cross_more_than(&raw, MAX_CROSSINGS) {
            return Err(ArtworkError::TooManyCrossings);
        }
        let mut rings = normalise(&raw, even_odd);
        // The drawing's own curves hold where nothing had to be resolved: no crossings, no overlaps, no clips.
        let area = |rings: &[Ring<Px>]| rings.iter().map(|r| r.area().abs()).sum::<f64>();
        let is_own =
            clips.is_empty() && rings.len() == raw.len() && (area(&rings) - area(&raw)).abs() <= 1e-6 * area(&raw);
        let curves = own.filter(|_| is_own).map(|own| closed(curves_of(own)));
        let curves = curves.filter(|c| c.len() == rings.len());
        for clip in clips {
            rings = combine_rings(&rings, clip, BoolOp::Common);
        }
        if rings.is_empty() || opacity <= 0.0 {
            return Ok(());
        }
        if self.areas.len() >= MAX_SHAPES {
            return Err(ArtworkError::TooManyShapes { shapes: self.areas.len() + 1 });
        }
        let colour = self.colour(paint, opacity);
        let grey = luma_over_white(colour, 1.0);
        #[expect(clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "0 to 255")]
        let colour = colour.map(|v| v.round() as u8);
        self.areas.push(Area { rings, curves, grey, colour, group: self.group.clone() });
        Ok(())
    }

    /// sRGB of a paint over white, 0 to 255.
    fn colour(&mut self, paint: &Paint, opacity: f64) -> [f64; 3] {
        let over = |c: [f64; 3], o: f64| c.map(|v| v * o + 255.0 * (1.0 - o));
        let of = |c: usvg::Color, o: f64| over([c.red, c.green, c.blue].map(f64::from), o);
        let mut mean = |stops: &[usvg::Stop]| {
            self.doubts.insert(Doubt::Shading);
            let n = f64::from(u32::try_from(stops.len().max(1)).unwrap_or(u32::MAX));
            let all = stops.iter().map(|s| of(s.color(), opacity * f64::from(s.opacity().get())));
            all.fold([0.0; 3], |sum, c| std::array::from_fn(|k| sum[k] + c[k] / n))
        };
        match paint {
            Paint::Color(c) => of(*c, opacity),
            Paint::LinearGradient(g) => mean(g.stops()),
            Paint::RadialGradient(g) => mean(g.stops()),
            Paint::Pattern(_) => {
                self.doubts.insert(Doubt::Shading);
                over([128.0; 3], opacity)
            }
        }
    }

    fn clip_rings(&mut self, group: &Group, place: Transform, out: &mut Vec<Ring<Px>>) -> Result<(), ArtworkError> {
        for node in group.children() {
            match node {
                Node::Group(g) => self.clip_rings(g, place, out)?,
                Node::Path(p) => {
                    let rule = p.fill().is_some_and(|f| f.rule() == FillRule::EvenOdd);
                    let rings = self.rings(p.data(), place.pre_concat(p.abs_transform()))?;
                    out.extend(normalise(&rings, rule));
                }
                Node::Image(_) | Node::Text(_) => {}
            }
        }
        Ok(())
    }

    fn rings(&mut self, path: &SkiaPath, place: Transform) -> Result<Vec<Ring<Px>>, ArtworkError> {
        let mut rings = Vec::new();
        let mut line: Vec<PxPoint> = Vec::new();
        let mut last: Option<kurbo::Point> = None;
        // Piece by piece, so that a drawing of too many nodes is refused before they are all made.
        for el in to_kurbo(path, place).elements() {
            if !self.is_near(el) {
                return Err(ArtworkError::TooFar);
            }
            match *el {
                PathEl::MoveTo(p) => {
                    rings.push(Ring(std::mem::take(&mut line)));
                    line.push(PxPoint::new(p.x, p.y));
                }
                PathEl::ClosePath => {}
                piece => kurbo::flatten(last.map(PathEl::MoveTo).into_iter().chain([piece]), self.tolerance, |el| {
                    if let PathEl::LineTo(p) = el {
                        self.nodes += 1;
                        line.push(PxPoint::new(p.x, p.y));
                    }
                }),
            }
            last = el.end_point();
            if self.nodes > MAX_NODES {
                return Err(ArtworkError::TooManyNodes);
            }
        }
        rings.push(Ring(line));
        rings.retain(|r| r.0.len() >= 3);
        Ok(rings)
    }

    /// Whether a piece of a path lies where it can be flattened: a curve that ends nowhere near would take all memory.
    fn is_near(&self, el: &PathEl) -> bool {
        let most = self.tolerance / FLATNESS * MAX_PAGES;
        let is = |p: &kurbo::Point| p.x.abs() <= most && p.y.abs() <= most;
        match el {
            PathEl::MoveTo(p) | PathEl::LineTo(p) => is(p),
            PathEl::QuadTo(a, p) => is(a) && is(p),
            PathEl::CurveTo(a, b, p) => is(a) && is(b) && is(p),
            PathEl::ClosePath => true,
        }
    }
}

fn to_kurbo(path: &SkiaPath, t: Transform) -> BezPath {
    let at = |p: usvg::tiny_skia_path::Point| {
        let (x, y) = (f64::from(p.x), f64::from(p.y));
        let [sx, kx, ky, sy, tx, ty] = [t.sx, t.kx, t.ky, t.sy, t.tx, t.ty].map(f64::from);
        kurbo::Point::new(sx * x + kx * y + tx, ky * x + sy * y + ty)
    };
    path.segments()
        .map(|s| match s {
            PathSegment::MoveTo(p) => PathEl::MoveTo(at(p)),
            PathSegment::LineTo(p) => PathEl::LineTo(at(p)),
            PathSegment::QuadTo(c, p) => PathEl::QuadTo(at(c), at(p)),
            PathSegment::CubicTo(c, d, p) => PathEl::CurveTo(at(c), at(d), at(p)),
            PathSegment::Close => PathEl::ClosePath,
        })
        .collect()
}

/// The path's pieces as curves; quadratic ones become cubic, which they are too.
fn curves_of(path: &BezPath) -> Vec<Curve<Px>> {
    let at = |p: kurbo::Point| PxPoint::new(p.x, p.y);
    let mut out: Vec<Curve<Px>> = Vec::new();
    for el in path.elements() {
        let Some(last) = out.last_mut() else {
            if let PathEl::MoveTo(p) = el {
                out.push(Curve { start: at(*p), segments: Vec::new() });
            }
            continue;
        };
        match *el {
            PathEl::MoveTo(p) => out.push(Curve { start: at(p), segments: Vec::new() }),
            PathEl::LineTo(p) => last.segments.push(Segment::Line(at(p))),
            PathEl::QuadTo(c, p) => {
                let from = last.end();
                let toward =
                    |q: kurbo::Point| PxPoint::new(q.x + (c.x - q.x) * 2.0 / 3.0, q.y + (c.y - q.y) * 2.0 / 3.0);
                last.segments.push(Segment::Cubic(toward(kurbo::Point::new(from.x, from.y)), toward(p), at(p)));
            }
            PathEl::CurveTo(c, d, p) => last.segments.push(Segment::Cubic(at(c), at(d), at(p))),
            PathEl::ClosePath => {
                if last.end() != last.start {
                    last.segments.push(Segment::Line(last.start));
                }
            }
        }
    }
    let is_sound =
        |c: &Curve<Px>| !c.segments.is_empty() && c.flatten(1e9).iter().all(|p| p.x.is_finite() && p.y.is_finite());
    out.retain(is_sound);
    out
}

/// The same, each closed by a line where it is open, as filling does.
fn closed(mut curves: Vec<Curve<Px>>) -> Vec<Curve<Px>> {
    curves.iter_mut().filter(|c| !c.is_closed()).for_each(|c| c.segments.push(Segment::Line(c.start)));
    curves.retain(|c| c.segments.len() > 1);
    curves
}

fn stroke_area(path: &SkiaPath, line: &usvg::Stroke, place: Transform) -> Option<SkiaPath> {
    let style = line.to_tiny_skia();
    let (sx, sy) = place.get_scale();
    let resolution = sx.max(sy).max(1.0) * 4.0;
    match &style.dash {
        Some(dash) => path.dash(dash, resolution)?.stroke(&style, resolution),
        None => path.stroke(&style, resolution),
    }
}
