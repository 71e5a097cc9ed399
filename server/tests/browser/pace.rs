//! How the page keeps pace with a hand. `make bench` prints the figures; every run of the tests leaves a trace in
//! `target/traces`, for any viewer of Chrome's trace events. No time is asserted.

use crate::common::{TestServer, agent, config, fresh_dir, send_file};
use crate::page::{Page, measure};
use serde_json::{Value, json};
use std::path::PathBuf;

/// What happened while a hand dragged for so long.
struct Pace {
    seconds: f64,
    /// Trace events, microseconds: previews asked for, frames of the drawings and of the solid, long tasks.
    events: Vec<Value>,
}

impl Pace {
    fn rate(&self, name: &str) -> f64 {
        self.events.iter().filter(|e| e["name"] == name).count() as f64 / self.seconds
    }
}

/// Drags a handle up and down, or a slider's thumb to and fro, once a frame, and takes down what the page does meanwhile.
async fn dragged(page: &Page, css: &str, (dx, dy): (f64, f64), watched: &str, seconds: f64) -> Pace {
    let (x, y) = page.middle(css).await;
    page.mouse("mouseHovered", (x, y), 0);
    page.mouse("mousePressed", (x, y), 0);
    let script = "const [css, watched, x, y, dx, dy, ms, done] = arguments;
        const events = [];
        const note = (name, from, to) => events.push({ name, ph: 'X', pid: 1, tid: name, ts: from * 1000, dur: (to - from) * 1000 });
        const start = performance.now();
        const resources = new PerformanceObserver((list) => list.getEntries().forEach((e) => {
            if (e.name.includes('/preview')) note('preview', e.startTime, e.responseEnd);
            if (e.name.includes('/api/meshes/')) note('mesh', e.startTime, e.responseEnd);
        }));
        resources.observe({ type: 'resource' });
        const tasks = new PerformanceObserver((list) => list.getEntries().forEach((e) => note('long task', e.startTime, e.startTime + e.duration)));
        tasks.observe({ type: 'longtask' });
        const drawn = (name, root, options) => {
            let isPending = false;
            const o = new MutationObserver(() => {
                if (isPending) return;
                isPending = true;
                const from = performance.now();
                requestAnimationFrame(() => { isPending = false; note(name, from, performance.now()); });
            });
            if (root) o.observe(root, options);
            return o;
        };
        const all = { subtree: true, childList: true, attributes: true };
        const seen = [
            drawn('drawing', document.querySelector(watched), all),
            drawn('solid', document.querySelector('[data-mesh]'), { attributes: true, attributeFilter: ['data-mesh'] }),
        ];
        const handle = document.querySelector(css);
        let frames = 0;
        const step = () => {
            frames += 1;
            const phase = (frames % 60) / 30;
            const k = phase < 1 ? phase : 2 - phase;
            handle.dispatchEvent(new PointerEvent('pointermove', {
                bubbles: true, pointerId: 1, buttons: 1, clientX: x + k * dx, clientY: y + k * dy,
            }));
            if (performance.now() - start < ms) return requestAnimationFrame(step);
            // Back where it began, so that what is measured next does not depend on how fast this was.
            handle.dispatchEvent(new PointerEvent('pointermove', { bubbles: true, pointerId: 1, buttons: 1, clientX: x, clientY: y }));
            setTimeout(() => {
                [...seen, resources, tasks].forEach((o) => o.disconnect());
                done({ events, seconds: (performance.now() - start) / 1000 });
            }, 0);
        };
        step();";
    let given = vec![json!(css), json!(watched), json!(x), json!(y), json!(dx), json!(dy), json!(seconds * 1000.0)];
    let taken = page.client().execute_async(script, given).await.unwrap();
    page.mouse("mouseReleased", (x, y), 0);
    Pace {
        seconds: taken["seconds"].as_f64().unwrap(),
        events: taken["events"].as_array().cloned().unwrap_or_default(),
    }
}

async fn hedgehog(page: &Page, name: &str) -> TestServer {
    let mut demo = config(&fresh_dir(name));
    demo.is_demo = true;
    let server = TestServer::start(demo).unwrap();
    let shelf = server.get_json("/api/designs");
    let hedgehog = shelf.as_array().unwrap().iter().find(|d| d["name"] == "Hedgehog cutter").unwrap();
    let path = format!("/design/{}/tiers", hedgehog["id"].as_str().unwrap());
    page.goto(&server.url(&path)).await;
    page.find("[data-mesh]:not([data-mesh=''])").await;
    server
}

const SECTION: &str = "section[aria-label=Section]";

#[test]
fn a_dragged_height_leaves_a_trace() {
    measure(|page| async move {
        let _server = hedgehog(&page, "trace").await;
        let pace = dragged(&page, "[data-handle=wall-height]", (0.0, -60.0), SECTION, 2.0).await;
        for what in ["preview", "drawing"] {
            assert!(pace.rate(what) > 0.0, "no {what} while a height is dragged");
        }
        let directory = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../target/traces");
        std::fs::create_dir_all(&directory).unwrap();
        let file = directory.join("a-dragged-height.json");
        std::fs::write(&file, json!({ "traceEvents": pace.events }).to_string()).unwrap();
        println!("trace: {}", file.display());
    });
}

/// Each answer used to bring new lists of the same tiers, and the solid was drawn for each.
#[test]
fn a_section_that_moves_draws_no_solid() {
    measure(|page| async move {
        let _server = hedgehog(&page, "still").await;
        page.run(
            "window.drawn = 0;
            for (const name of ['drawElements', 'drawArrays']) {
                const real = WebGL2RenderingContext.prototype[name];
                WebGL2RenderingContext.prototype[name] = function (...all) {
                    window.drawn += 1;
                    return real.apply(this, all);
                };
            }",
        )
        .await;
        // A height shows that drawing is noticed, and then it rests.
        let pace = dragged(&page, "[data-handle=wall-height]", (0.0, -20.0), SECTION, 1.0).await;
        assert!(pace.rate("preview") > 0.0);
        page.until("return window.drawn > 0", &json!(true)).await;
        page.until(
            "const now = window.drawn; return new Promise((done) => setTimeout(() => done(now === window.drawn), 1500))",
            &json!(true),
        )
        .await;
        page.run("window.drawn = 0").await;
        let pace = dragged(&page, "[data-handle=section] text", (0.0, -60.0), SECTION, 1.5).await;
        assert!(pace.rate("preview") > 0.0 && pace.rate("drawing") > 0.0);
        assert_eq!(page.run("return window.drawn").await, json!(0));
    });
}

/// Milliseconds from what `act` does to the frame after the mesh has changed.
async fn to_mesh(page: &Page, act: &str) -> f64 {
    let script = format!(
        "const done = arguments[0];
        const before = document.querySelector('[data-mesh]')?.dataset.mesh ?? '';
        const start = performance.now();
        const look = () => {{
            const now = document.querySelector('[data-mesh]')?.dataset.mesh ?? '';
            if (now === '' || now === before) return requestAnimationFrame(look);
            requestAnimationFrame(() => done(performance.now() - start));
        }};
        {act};
        look();"
    );
    page.client().execute_async(&script, vec![]).await.unwrap().as_f64().unwrap()
}

fn median(mut all: Vec<f64>) -> f64 {
    all.sort_by(f64::total_cmp);
    all[all.len() / 2]
}

async fn pause(ms: u64) {
    tokio::time::sleep(std::time::Duration::from_millis(ms)).await;
}

/// Scans dropped on the shelf, and the threshold of the last of them dragged.
async fn large_picture(page: &Page, server: &TestServer) {
    // Scalloped discs with 60 holes, as large as scans; no two alike, so that nothing is known yet.
    let directory = fresh_dir("picture");
    let disc = |scallops: u32| {
        image::GrayImage::from_fn(2048, 2048, |x, y| {
            let (x, y) = (f64::from(x) - 1024.0, f64::from(y) - 1024.0);
            let edge = 860.0 + 80.0 * (f64::from(scallops) * y.atan2(x)).cos();
            let (u, v) = ((x + 1024.0) % 180.0 - 90.0, (y + 1024.0) % 180.0 - 90.0);
            let hole = if x.hypot(y) < 680.0 { 28.0 - u.hypot(v) } else { -1.0 };
            let cover = (edge - x.hypot(y)).clamp(0.0, 1.0) * (1.0 - (hole + 0.5).clamp(0.0, 1.0));
            image::Luma([(250.0 - 220.0 * cover) as u8])
        })
    };
    let mut dropped = Vec::new();
    for scallops in [17, 18, 19] {
        let file = directory.join(format!("{scallops}.png"));
        disc(scallops).save(&file).unwrap();
        page.goto(&server.url("/")).await;
        page.find("input[type=file]").await;
        // In the page: what drives it looks only four times a second.
        page.run(
            "window.taken = new Promise((done) => {
                addEventListener('change', () => {
                    const begun = performance.now();
                    let isPressed = false;
                    const look = () => {
                        if (document.querySelector('[data-mesh]:not([data-mesh=\"\"])')) {
                            return requestAnimationFrame(() => done(performance.now() - begun));
                        }
                        if (!isPressed && document.querySelector('[data-contour],[data-mesh]')) {
                            isPressed = true;
                            document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '3', bubbles: true }));
                        }
                        requestAnimationFrame(look);
                    };
                    look();
                }, { capture: true, once: true });
            })",
        )
        .await;
        let input = page.client().find(fantoccini::Locator::Css("input[aria-label='Picture file']")).await.unwrap();
        input.send_keys(&file.to_string_lossy()).await.unwrap();
        let taken = page.client().execute_async("window.taken.then(arguments[0])", vec![]).await.unwrap();
        dropped.push(taken.as_f64().unwrap());
    }
    println!("2048 px dropped, to the mesh on the screen: median {:.0} ms of {dropped:.0?}", median(dropped.clone()));
    page.press("1").await;
    page.find("[data-contour]").await;
    pause(2500).await;
    let thumb = "[role=slider][aria-label=Threshold]";
    page.run(&format!("document.querySelector('{thumb}').scrollIntoView({{ block: 'center' }})")).await;
    let pace = dragged(page, thumb, (40.0, 0.0), "[aria-label='Picture board']", 4.0).await;
    println!("2048 px, the threshold dragged: {:.1} previews a second", pace.rate("preview"));
}

/// A gear as a path of an SVG file: four corners a tooth.
fn gear((cx, cy): (f64, f64), outer: f64, inner: f64, teeth: u32) -> String {
    let corner = |k: u32| {
        let angle = f64::from(k) * std::f64::consts::TAU / f64::from(4 * teeth);
        let r = if k % 4 < 2 { outer } else { inner };
        format!("{:.1} {:.1}", cx + r * angle.cos(), cy + r * angle.sin())
    };
    format!("M{}Z", (0..4 * teeth).map(corner).collect::<Vec<_>>().join("L"))
}

/// A ring of teeth round 25 gears, about 2000 nodes: how long what follows the hand is on its way.
async fn many_nodes(page: &Page, server: &TestServer) {
    let places = (0..25).map(|k| (f64::from(k % 5 - 2) * 240.0 + 1000.0, f64::from(k / 5 - 2) * 240.0 + 1000.0));
    let gears: String = places.map(|at| gear(at, 105.0, 75.0, 15)).collect();
    let ring = gear((1000.0, 1000.0), 960.0, 900.0, 120);
    let svg = format!(
        "<svg xmlns='http://www.w3.org/2000/svg' width='2000' height='2000'>\
         <path fill-rule='evenodd' d='{ring}M1000 160a840 840 0 1 0 .1 0Z{gears}'/></svg>"
    );
    let (status, view) = send_file(agent().post(server.url("/api/designs")), "gears.svg", svg.as_bytes(), None);
    assert_eq!(status, 201, "{view}");
    let id = view["id"].as_str().unwrap();
    let recipe = json!({ "edits": [{ "kind": "set-recipe", "recipe": "cutter-stamp" }] });
    let (status, view) = server.post(&format!("/api/designs/{id}/edits"), view["version"].as_i64(), &recipe);
    assert_eq!(status, 200, "{view}");
    let nodes = &view["result"]["outline"]["nodes"];
    page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
    page.find("[data-mesh]:not([data-mesh=''])").await;
    pause(2500).await;
    for (what, css, by) in [
        ("a height", "[data-handle=wall-height]", (0.0, -60.0)),
        ("a taper", "[data-handle=taper-in] .grip", (-5.0, 0.0)),
    ] {
        let pace = dragged(page, css, by, SECTION, 4.0).await;
        let previews = pace.events.iter().filter(|e| e["name"] == "preview");
        let took: Vec<f64> = previews.filter_map(|e| Some(e["dur"].as_f64()? / 1000.0)).collect();
        println!(
            "cutter with stamp of {nodes} nodes, {what} dragged: a preview takes {:.0} ms (median of {}), {:.1} drawings, {:.1} solids a second",
            median(took.clone()),
            took.len(),
            pace.rate("drawing"),
            pace.rate("solid")
        );
        pause(1500).await;
    }
}

#[test]
#[ignore = "measures"]
fn timings_of_a_hand() {
    measure(|page| async move {
        let server = hedgehog(&page, "pace").await;
        let mut opened = Vec::new();
        for _ in 0..5 {
            page.reload().await;
            page.find("[data-mesh]:not([data-mesh=''])").await;
            pause(300).await;
            let shown = "return performance.getEntriesByType('resource').filter(e => e.name.includes('/api/meshes/')).at(-1).responseEnd";
            opened.push(page.run(shown).await.as_f64().unwrap());
        }
        println!("hedgehog opened, to its mesh: median {:.0} ms", median(opened));
        pause(2000).await;
        for (what, css, by) in [
            ("a height", "[data-handle=wall-height]", (0.0, -60.0)),
            ("a taper", "[data-handle=taper-in]", (-20.0, 0.0)),
            ("the section line", "[data-handle=section] text", (0.0, -60.0)),
        ] {
            let pace = dragged(&page, css, by, SECTION, 4.0).await;
            println!(
                "hedgehog, {what} dragged: {:.1} drawings, {:.1} previews, {:.1} solids a second",
                pace.rate("drawing"),
                pace.rate("preview"),
                pace.rate("solid")
            );
            pause(1500).await;
        }
        let mut changed = Vec::new();
        for recipe in ["Coaster", "Cutter", "Key tag", "Coaster", "Cutter with stamp"] {
            page.click("[aria-label^='Recipe']").await;
            pause(300).await;
            let pick = format!(
                "[...document.querySelectorAll('[aria-label=Recipes] button')]
                    .find((e) => e.innerText.startsWith('{recipe}\\n')).click()"
            );
            changed.push(to_mesh(&page, &pick).await);
            pause(1200).await;
        }
        println!(
            "hedgehog, another recipe to its mesh on the screen: median {:.0} ms of {changed:.0?}",
            median(changed.clone())
        );
        large_picture(&page, &server).await;
        many_nodes(&page, &server).await;
    });
}
