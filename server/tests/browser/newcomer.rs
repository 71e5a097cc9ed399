//! The first way from a picture to a file: with keys alone, with touch alone, and at twice the size.

use crate::common::{TestServer, fresh_dir};
use crate::hands::keys;
use crate::page::{Page, browse};
use crate::picture;
use fantoccini::key::Key;
use serde_json::json;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

/// What the page saves goes here.
fn saves_to(page: &Page) -> PathBuf {
    let dir = fresh_dir("saved");
    page.devtools("Browser.setDownloadBehavior", json!({ "behavior": "allow", "downloadPath": dir }));
    dir
}

/// The file that was saved last, whole.
async fn saved(dir: &Path, ending: &str) -> Vec<u8> {
    let start = Instant::now();
    loop {
        let files = std::fs::read_dir(dir).unwrap().flatten().map(|e| e.path());
        if let Some(file) = files.into_iter().find(|f| f.extension().is_some_and(|e| e == ending)) {
            return std::fs::read(file).unwrap();
        }
        assert!(start.elapsed() < Duration::from_secs(30), "no .{ending} in {}", dir.display());
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
}

/// Goes on by Tab until something of this name has the focus.
async fn tab_to(page: &Page, name: &str) {
    let has = format!(
        "const e = document.activeElement; return (e.ariaLabel ?? e.innerText ?? '').replace(/\\s+/g, ' ').startsWith({})",
        json!(name)
    );
    for _ in 0..90 {
        page.press(&keys(Key::Tab, 1)).await;
        if page.run(&has).await == json!(true) {
            return;
        }
    }
    panic!("Tab never comes to '{name}'");
}

#[test]
fn with_keys_alone() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("newcomer-keys"));
        let dir = saves_to(&page);
        page.goto(&server.url("/")).await;
        page.until_text("Nothing on the shelf yet").await;
        // A dialog of the system is in nobody's hand here: the file is given to the field that Browse opens.
        page.find("input[type=file]").await.send_keys(&picture("garden-gate.svg").to_string_lossy()).await.unwrap();
        page.until_text("The line over your picture").await;
        tab_to(&page, "On to Tiers").await;
        page.press(&keys(Key::Enter, 1)).await;
        page.until_text("Choose what it becomes").await;
        page.find("[data-mesh]:not([data-mesh=''])").await;
        tab_to(&page, "Wall height").await;
        page.press(&keys(Key::Up, 1)).await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        tab_to(&page, "On to Print").await;
        page.press(&keys(Key::Enter, 1)).await;
        page.find("a[href$='/export/3mf'][download]").await;
        tab_to(&page, "STL").await;
        page.press(&keys(Key::Enter, 1)).await;
        let stl = saved(&dir, "stl").await;
        let count = u32::from_le_bytes(stl[80..84].try_into().unwrap()) as usize;
        assert!(count > 100 && stl.len() == 84 + 50 * count);
    });
}

#[test]
fn letter_keys_can_be_switched_off() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("newcomer-letters"));
        server.post("/api/samples/ginkgo", None, &json!({}));
        page.goto(&server.url("/")).await;
        page.click("li[data-design] a").await;
        page.find("[data-mesh]").await;
        page.press("?").await;
        page.click("[role=dialog] input[type=checkbox]").await;
        page.press(&keys(Key::Escape, 1)).await;
        page.press("1").await;
        page.press("?").await;
        // Keys with Ctrl still do what they do, and the page's own button opens the keys.
        page.click("[aria-label=Keys]").await;
        page.find("[role=dialog]").await;
        assert_eq!(page.run("return location.pathname.endsWith('/tiers')").await, json!(true));
        page.click("[role=dialog] input[type=checkbox]").await;
        page.press(&keys(Key::Escape, 1)).await;
        page.press("1").await;
        page.until("return location.pathname.endsWith('/artwork')", &json!(true)).await;
    });
}

#[test]
fn with_touch_alone_on_a_phone() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("newcomer-touch"));
        let dir = saves_to(&page);
        page.screen(390, 844, 2, true);
        page.goto(&server.url("/")).await;
        page.tap("[aria-label=Samples] button").await;
        page.until_text("The line over your picture").await;
        // Two fingers zoom the picture, and what they began is not done.
        page.tap("nav a[href$='/outline']").await;
        page.find("[data-patch]").await;
        let scale = "return Number(document.querySelector('[aria-label=Plan][role=application]').dataset.scale)";
        let before = page.run(scale).await.as_f64().unwrap();
        let (x, y) = page.middle("[role=application]").await;
        page.touch("touchStart", &[(x - 30.0, y)]);
        page.touch("touchStart", &[(x - 30.0, y), (x + 30.0, y)]);
        for k in 1..=6 {
            let by = 30.0 + 10.0 * f64::from(k);
            page.touch("touchMove", &[(x - by, y), (x + by, y)]);
        }
        page.lift(&[(x - 90.0, y), (x + 90.0, y)]).await;
        let after = page.run(scale).await.as_f64().unwrap();
        assert!((after / before - 3.0).abs() < 0.3, "{before} {after}");
        assert_eq!(page.count("[aria-pressed=true][data-chosen]").await, 0);
        // A height is dragged with a finger.
        page.tap("nav a[href$='/tiers']").await;
        page.find("[data-handle='wall-height']").await;
        let from = page.middle("[data-handle='wall-height']").await;
        page.touch("touchStart", &[from]);
        for k in 1..=5 {
            page.touch("touchMove", &[(from.0, from.1 - 6.0 * f64::from(k))]);
        }
        page.lift(&[(from.0, from.1 - 30.0)]).await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        for view in ["Solid", "Measures"] {
            page.tap_text("button[role=tab]", view).await;
            page.find(&format!("section[aria-label='{view}']")).await;
        }
        page.tap("nav a[href$='/print']").await;
        page.tap_text("button[role=tab]", "Take home").await;
        page.find("a[href$='/export/3mf'][download]").await;
        page.tap("a[href$='/export/3mf'][download]").await;
        assert!(saved(&dir, "3mf").await.starts_with(b"PK"));
    });
}

#[test]
fn at_twice_the_size() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("newcomer-large"));
        let dir = saves_to(&page);
        page.screen(640, 400, 2, false);
        page.goto(&server.url("/")).await;
        page.click("[aria-label=Samples] button").await;
        page.until_text("The line over your picture").await;
        page.click_text("a", "On to Tiers").await;
        // Plan and section lie beside each other, and both can be worked on.
        page.find("[data-handle='wall-height']").await;
        let box_of = |of: &str| {
            format!(
                "const r = document.querySelector(\"section[aria-label='{of}']\").getBoundingClientRect(); return [r.width, r.height, r.right, r.bottom]"
            )
        };
        for part in ["Plan", "Section"] {
            let r: Vec<f64> = serde_json::from_value(page.run(&box_of(part)).await).unwrap();
            assert!(r[0] > 250.0 && r[1] > 120.0 && r[2] <= 640.0 && r[3] <= 400.0, "{part}: {r:?}");
        }
        page.drag_up("[data-handle='wall-height']", 12).await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        page.click_text("a", "On to Print").await;
        page.click_text("button", "Take home").await;
        page.click("[role=menuitem][href$='/export/stl'], [role=menu] a[href$='/export/stl']").await;
        assert!(saved(&dir, "stl").await.len() > 1000);
        // Nothing has to be moved sideways to be read.
        let wide = "return document.documentElement.scrollWidth <= innerWidth";
        for path in ["/", "/artwork", "/outline", "/tiers", "/check", "/print"] {
            let id = server.get_json("/api/designs")[0]["id"].as_str().unwrap().to_string();
            page.goto(&server.url(&if path == "/" { path.into() } else { format!("/design/{id}{path}") })).await;
            page.find("main").await;
            page.until(wide, &json!(true)).await;
        }
    });
}
