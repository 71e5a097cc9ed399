//! How long the page takes, in a release build with software rendering; run by `make bench`.

use crate::common::{TestServer, config, fresh_dir};
use crate::drop_picture;
use crate::page::{Page, measure};
use fantoccini::key::Key;
use serde_json::{Value, json};

/// Times from the outside, printed by `make bench`; nothing is asserted.
#[test]
#[ignore = "measures"]
fn timings() {
    use std::time::Instant;
    measure(|page| async move {
        let mut demo = config(&fresh_dir("bench"));
        demo.is_demo = true;
        drop(TestServer::start(demo.clone()).unwrap());
        let start = Instant::now();
        let server = TestServer::start(demo).unwrap();
        server.get("/");
        println!("server start to first answer: {:.0} ms", start.elapsed().as_secs_f64() * 1000.0);
        page.goto(&server.url("/")).await;
        page.find("li[data-design]").await;
        let paint = page
            .run("return performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? performance.now()")
            .await;
        println!("first page, first contentful paint: {paint} ms");
        // A miniature is asked for when its design is drawn.
        let of = |what: &str| {
            format!(
                "performance.getEntriesByType('resource').filter((e) => e.name.includes('/thumbnail'))
                    .map((e) => e.{what}).sort((a, b) => a - b)"
            )
        };
        page.until(&format!("return {}.length > 0", of("responseEnd")), &json!(true)).await;
        pause(2000).await;
        let [drawn, there] = ["startTime", "responseEnd"].map(of);
        let (drawn, there) = (page.run(&format!("return {drawn}")).await, page.run(&format!("return {there}")).await);
        let ms = |all: &Value| serde_json::from_value::<Vec<f64>>(all.clone()).unwrap();
        let (drawn, there) = (ms(&drawn), ms(&there));
        println!(
            "first page of a server just started, {} designs drawn: {:.0} ms, their miniatures there: {:.0} to {:.0} ms",
            there.len(),
            drawn[0],
            there[0],
            there[there.len() - 1]
        );
        let shelf = server.get_json("/api/designs");
        let hedgehog = shelf.as_array().unwrap().iter().find(|d| d["name"] == "Hedgehog cutter").unwrap();
        page.goto(&server.url(&format!("/design/{}/tiers", hedgehog["id"].as_str().unwrap()))).await;
        page.find("[data-mesh]:not([data-mesh=''])").await;
        tokio::time::sleep(std::time::Duration::from_secs(3)).await;
        // From the key that moves the handle to the frame after the new mesh is in the scene.
        let script = "const done = arguments[0];
            const canvas = document.querySelector('[data-mesh]');
            const before = canvas.dataset.mesh;
            const start = performance.now();
            new MutationObserver((_, o) => {
                if (canvas.dataset.mesh && canvas.dataset.mesh !== before) {
                    o.disconnect();
                    requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - start)));
                }
            }).observe(canvas, { attributes: true });
            document.querySelector('[data-handle=\"wall-height\"]')
                .dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }));";
        let mut times: Vec<f64> = Vec::new();
        for _ in 0..9 {
            times.push(page.client().execute_async(script, vec![]).await.unwrap().as_f64().unwrap());
            tokio::time::sleep(std::time::Duration::from_millis(700)).await;
        }
        times.sort_by(f64::total_cmp);
        println!("hedgehog, new height to new solid on the screen: median {:.0} ms of {times:.0?}", times[4]);

        // From the pointer that drags a slider to the frame after the new contours: a scalloped disc with 60 holes.
        let image = image::GrayImage::from_fn(1024, 1024, |x, y| {
            let (x, y) = (f64::from(x) - 512.0, f64::from(y) - 512.0);
            let edge = 430.0 + 40.0 * (17.0 * y.atan2(x)).cos();
            let (u, v) = ((x + 512.0) % 90.0 - 45.0, (y + 512.0) % 90.0 - 45.0);
            let hole = if x.hypot(y) < 340.0 { 14.0 - u.hypot(v) } else { -1.0 };
            let cover = (edge - x.hypot(y)).clamp(0.0, 1.0) * (1.0 - (hole + 0.5).clamp(0.0, 1.0));
            image::Luma([(250.0 - 220.0 * cover) as u8])
        });
        let file = fresh_dir("picture").join("holes.png");
        image.save(&file).unwrap();
        drop_picture(&page, &server, &file).await;
        tokio::time::sleep(std::time::Duration::from_secs(2)).await;
        for slider in ["Smoothing", "Threshold"] {
            for (how, times) in slider_times(&page, slider).await {
                say(&format!("1024 px, {slider} by {how} to new contours on the screen"), times);
            }
        }
        outline_times(&page, &server).await;
        layer_times(&page, &server).await;
    });
}

/// All of the demo shelf on one bed, its layers stepped through with the solid beside the plan.
async fn layer_times(page: &Page, server: &TestServer) {
    let shelf = server.get_json("/api/designs");
    let designs: Vec<&Value> = shelf.as_array().unwrap().iter().map(|d| &d["id"]).collect();
    let bed = server.post("/api/beds", None, &json!({ "designs": designs })).1;
    page.goto(&server.url(&format!("/bed/{}", bed["id"].as_str().unwrap()))).await;
    page.find("[data-testid=print-time]").await;
    page.click_text("button", "Show layers").await;
    page.find("[data-bed-layer]").await;
    pause(3000).await;
    let script = "const done = arguments[0];
        const slider = document.querySelector('[aria-label=Layer]');
        slider.focus();
        const plan = document.querySelector('[data-drawn]');
        const start = performance.now();
        new MutationObserver((_, o) => {
            o.disconnect();
            requestAnimationFrame(() => done(performance.now() - start));
        }).observe(plan, { attributeFilter: ['data-drawn'] });
        slider.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', bubbles: true }));";
    let mut times = Vec::new();
    for _ in 0..60 {
        times.push(page.client().execute_async(script, vec![]).await.unwrap().as_f64().unwrap());
    }
    say("a full bed, a layer further", times);
}

/// Starts to take down, in `moved`, the milliseconds from each input to the frame after `root` has changed.
async fn watch_frames(page: &Page, root: &str) {
    let script = format!(
        "window.moved = [];
        window.at = null;
        if (!window.isWatched) for (const kind of ['pointermove', 'pointerdown', 'keydown'])
            addEventListener(kind, (e) => {{ at = e.timeStamp }}, true);
        window.isWatched = true;
        window.observer?.disconnect();
        window.observer = new MutationObserver(() => requestAnimationFrame(() => {{
            if (at !== null) moved.push(performance.now() - at);
            at = null;
        }}));
        observer.observe({root}, {{ attributes: true, childList: true, subtree: true }});"
    );
    page.run(&script).await;
}

async fn taken_down(page: &Page) -> Vec<f64> {
    serde_json::from_value(page.run("return moved.splice(0)").await).unwrap()
}

fn say(what: &str, mut times: Vec<f64>) {
    times.sort_by(f64::total_cmp);
    println!("{what}: median {:.0} ms of {times:.0?}", times.get(times.len() / 2).copied().unwrap_or(f64::NAN));
}

async fn pause(ms: u64) {
    tokio::time::sleep(std::time::Duration::from_millis(ms)).await;
}

/// Ten patches with 20 000 nodes in all: pointing, choosing, dragging a node, an edit applied.
async fn outline_times(page: &Page, server: &TestServer) {
    let blob = |n: u32| {
        let (x, y) = (150.0 + 200.0 * f64::from(n % 5), 150.0 + 250.0 * f64::from(n / 5));
        let at = |k: u32| {
            let a = f64::from(k) / 2000.0 * std::f64::consts::TAU;
            let r = 80.0 + 6.0 * (9.0 * a).sin() + 0.8 * (211.0 * a).sin();
            format!("{:.3} {:.3}", x + r * a.cos(), y + r * a.sin())
        };
        format!("<path d='M{}Z'/>", (0..2000).map(at).collect::<Vec<_>>().join("L"))
    };
    let svg = format!(
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 1100 550'>{}</svg>",
        (0..10).map(blob).collect::<String>()
    );
    let file = fresh_dir("picture").join("blobs.svg");
    std::fs::write(&file, svg).unwrap();
    drop_picture(page, server, &file).await;
    page.press("2").await;
    page.find("[data-patch='9']").await;
    pause(2500).await;
    watch_frames(page, "document.querySelector('[role=application]')").await;
    let mut places = Vec::new();
    for n in 0..10 {
        places.push(page.middle(&format!("[data-patch='{n}']")).await);
    }
    for k in 0..14 {
        page.mouse("mouseHovered", places[(k * 3) % 10], 0);
        pause(150).await;
    }
    say("20 000 nodes, pointing at patches", taken_down(page).await);
    for place in &places[..6] {
        page.click_at(*place, 8);
        pause(250).await;
    }
    say("20 000 nodes, choosing patches", taken_down(page).await);
    page.click_text("button", "Choose none").await;
    page.press("n").await;
    page.click_at(places[0], 0);
    page.find("[data-node]").await;
    pause(600).await;
    let (x, y) = page.middle("[data-node] rect").await;
    // Another tool brings another canvas.
    watch_frames(page, "document.querySelector('[role=application]')").await;
    page.mouse("mouseHovered", (x, y), 1);
    page.mouse("mousePressed", (x, y), 1);
    for k in 1..20 {
        page.mouse("mouseMoved", (x + f64::from(k), y + f64::from(k)), 1);
        pause(60).await;
    }
    say("20 000 nodes, a node dragged", taken_down(page).await);
    page.mouse("mouseReleased", (x + 19.0, y + 19.0), 1);
    pause(4000).await;
    page.press("c").await;
    // An edit of one patch, from the click to the plan with it.
    let mut times = Vec::new();
    for place in &places[1..6] {
        page.click_at(*place, 8);
        pause(400).await;
        let script = "const done = arguments[0];
            const path = document.querySelector('[data-chosen]');
            const start = performance.now();
            new MutationObserver((_, o) => {
                o.disconnect();
                requestAnimationFrame(() => done(performance.now() - start));
            }).observe(path, { attributeFilter: ['d'] });
            [...document.querySelectorAll('button')].find((b) => b.innerText === 'Grow').click();";
        times.push(page.client().execute_async(script, vec![]).await.unwrap().as_f64().unwrap());
        // Until the solid is there: it is not what is measured.
        pause(4000).await;
        page.click_text("button", "Choose none").await;
        pause(300).await;
    }
    say("20 000 nodes, a patch grown, to its new line on the screen", times);
}

/// Milliseconds from each movement of a slider to the frame with the new contours, by mouse and by keys.
async fn slider_times(page: &Page, slider: &str) -> Vec<(&'static str, Vec<f64>)> {
    watch_frames(page, "document.querySelector('[data-contour]').closest('svg')").await;
    let thumb = format!("[role=slider][aria-label={slider}]");
    let place = format!(
        "const thumb = document.querySelector('{thumb}');
        thumb.scrollIntoView({{ block: 'center' }});
        const r = thumb.getBoundingClientRect();
        return [r.x + 8, r.y + 8]"
    );
    let place = page.run(&place).await;
    let (x, y) = (place[0].as_f64().unwrap(), place[1].as_f64().unwrap());
    page.mouse("mousePressed", (x, y), 0);
    for k in 1..=12 {
        page.mouse("mouseMoved", (x + 3.0 * f64::from(k), y), 0);
        tokio::time::sleep(std::time::Duration::from_millis(600)).await;
    }
    page.mouse("mouseReleased", (x + 36.0, y), 0);
    tokio::time::sleep(std::time::Duration::from_secs(2)).await;
    let mouse = taken_down(page).await;
    for _ in 0..9 {
        page.press(&char::from(Key::Left).to_string()).await;
        tokio::time::sleep(std::time::Duration::from_millis(900)).await;
    }
    vec![("mouse", mouse), ("keys", taken_down(page).await)]
}
