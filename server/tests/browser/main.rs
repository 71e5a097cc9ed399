//! The real interface in headless Chromium.

mod artwork;
mod beds;
#[path = "../common/mod.rs"]
mod common;
mod hands;
mod in_use;
mod newcomer;
mod offers;
mod outline;
mod pace;
mod page;
mod placing;
mod plain;
mod print;
mod printer;
mod said;
mod shelf;
mod tiers;
mod timings;
mod trust;
mod uses;

use common::{FRAME, TestServer, config, fresh_dir};
use fantoccini::key::Key;
use page::{Page, browse};
use serde_json::json;
use std::io::Cursor;
use std::path::{Path, PathBuf};

/// As in the program itself: what is measured here is what a maker has.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn picture(name: &str) -> PathBuf {
    let file = fresh_dir("picture").join(name);
    std::fs::write(&file, FRAME).unwrap();
    file
}

/// Drops a picture on the shelf, by its file input, and waits for the Artwork station.
async fn drop_picture(page: &Page, server: &TestServer, file: &Path) {
    page.goto(&server.url("/")).await;
    let input = page.find("input[type=file]").await;
    input.send_keys(&file.to_string_lossy()).await.unwrap();
    page.until("return location.pathname.endsWith('/artwork')", &json!(true)).await;
    page.find("path[data-contour]").await;
}

async fn facts(page: &Page) -> String {
    page.run("return document.querySelector('[data-testid=facts]')?.innerText.replace(/\\s+/g, ' ') ?? ''")
        .await
        .as_str()
        .unwrap()
        .to_string()
}

async fn until_size(page: &Page, size: &str) {
    let script =
        format!("return (document.querySelector('[data-testid=facts]')?.innerText ?? '').includes({})", json!(size));
    page.until(&script, &json!(true)).await;
}

#[test]
#[expect(clippy::too_many_lines, reason = "one way through the whole program")]
fn a_picture_goes_from_drop_to_a_file_and_everything_survives_a_restart() {
    browse(|page| async move {
        let dir = fresh_dir("path");
        let server = TestServer::in_dir(&dir);
        let file = picture("garden-gate.svg");
        drop_picture(&page, &server, &file).await;

        // Artwork: the frame, and in its gap a spot; the bar belongs to the frame.
        assert_eq!(page.count("path[data-contour]").await, 2);
        page.click("[role=slider][aria-label=Threshold]").await;
        page.press(&char::from(Key::Left).to_string()).await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        page.click("[role=switch]").await;
        page.until("return document.querySelector('[role=switch]').getAttribute('aria-checked')", &json!("true")).await;
        page.click("[aria-label=Undo]").await;
        page.until("return document.querySelector('[role=switch]').getAttribute('aria-checked')", &json!("false"))
            .await;

        // Outline: 90 mm wide, the loose spot chosen in the plan and put aside by its button, then back by its key.
        page.press("2").await;
        page.type_into("Width", "90 mm").await;
        until_size(&page, "99.2 × 81.2 × 15.0").await;
        let spot = "path[data-patch='3']";
        assert_eq!(page.find(spot).await.attr("data-use").await.unwrap().as_deref(), Some("detail"));
        page.click(spot).await;
        page.click_text("div[@data-testid='uses']//button", "Aside").await;
        page.until(&format!("return document.querySelector(\"{spot}\").dataset.use"), &json!("aside")).await;
        page.press("d").await;
        page.until(&format!("return document.querySelector(\"{spot}\").dataset.use"), &json!("detail")).await;

        // Tiers: the top of the wall dragged in the section, then typed in two ways.
        page.press("3").await;
        page.find("[data-handle='wall-height']").await;
        page.find("canvas").await;
        page.drag_up("[data-handle='wall-height'] rect", 30).await;
        page.until(
            "return document.querySelector('[data-handle=\"wall-height\"]').getAttribute('aria-valuenow') !== '15'",
            &json!(true),
        )
        .await;
        let dragged = page.find("[data-handle='wall-height']").await.attr("aria-valuenow").await.unwrap().unwrap();
        let layers = dragged.parse::<f64>().unwrap() / 0.2;
        assert!(layers > 76.0 && (layers - layers.round()).abs() < 1e-6, "{dragged} snaps to layers");
        until_size(&page, &format!("× {:.1}", dragged.parse::<f64>().unwrap())).await;
        page.click("[aria-label=Undo]").await;
        until_size(&page, "× 15.0").await;
        page.type_into("Height", "1 in").await;
        until_size(&page, "× 25.4").await;
        page.until_text("127 layers").await;
        page.press(&char::from(Key::Tab).to_string()).await;
        // The solid follows: its mesh is the one of the result.
        page.until("return document.querySelectorAll('canvas').length", &json!(1)).await;

        // Without bars the spot is loose. Check: mended in one click, and back by undo.
        tiers::type_in_group(&page, "Tie bars", "0").await;
        page.until("return document.querySelectorAll('[data-bar]').length", &json!(0)).await;
        page.goto(&page.client().current_url().await.unwrap().as_str().replace("/tiers", "/check")).await;
        page.find("[data-code='loose-part']").await;
        assert_eq!(page.count("rect[data-finding]").await, 1);
        page.click_text("button", "Put it aside").await;
        page.until("return document.querySelectorAll('[data-code]').length", &json!(0)).await;
        page.click("[aria-label=Undo]").await;
        page.find("[data-code='loose-part']").await;

        // Print: the files, read back by an outside reader.
        page.click("a[href$='/print']").await;
        let link = page.find("a[href$='/export/stl'][download]").await;
        let href = link.attr("href").await.unwrap().unwrap();
        let shown = facts(&page).await;
        let bytes = server.get(&href).body_mut().read_to_vec().unwrap();
        let mesh = stl_io::read_stl(&mut Cursor::new(&bytes)).unwrap();
        mesh.validate().unwrap();
        let volume: f64 = mesh
            .faces
            .iter()
            .map(|f| {
                let [a, b, c] = f.vertices.map(|v| mesh.vertices[v].0.map(f64::from));
                (a[0] * (b[1] * c[2] - b[2] * c[1])
                    + a[1] * (b[2] * c[0] - b[0] * c[2])
                    + a[2] * (b[0] * c[1] - b[1] * c[0]))
                    / 6.0
            })
            .sum();
        assert!(shown.contains(&format!("{:.1} cm³", volume / 1000.0)), "{shown} against {volume}");
        let top = mesh.vertices.iter().map(|v| v.0[2]).fold(0.0, f32::max);
        assert!((top - 25.4).abs() < 1e-3, "{top}");
        let pack = server.get(&href.replace("/stl", "/3mf")).body_mut().read_to_vec().unwrap();
        let parts = kachel_engine::exchange::read_threemf(&pack).unwrap();
        assert_eq!(parts[0].name, "Garden gate");
        assert!((parts[0].mesh.volume() - volume).abs() < 1e-6);

        // Rename; then reload, and another server on the same data: all is there, undo included.
        page.click("[aria-label^='Name:']").await;
        let field = page.find("[role=dialog] input").await;
        let all = format!("{}a{}", char::from(Key::Control), char::from(Key::Null));
        field.send_keys(&format!("{all}Gate two{}", char::from(Key::Enter))).await.unwrap();
        page.until_text("Gate two").await;
        page.reload().await;
        page.until_text("Gate two").await;
        let path = page.client().current_url().await.unwrap().path().to_string();
        drop(server);
        let server = TestServer::in_dir(&dir);
        page.goto(&server.url(&path)).await;
        page.until_text("Gate two").await;
        until_size(&page, "× 25.4").await;
        page.click("[aria-label=Undo]").await;
        page.until_text("Garden gate").await;
        // The bars' width, then the wall's height.
        page.click("[aria-label=Undo]").await;
        page.until("return document.querySelectorAll('[aria-label=Redo][aria-disabled]').length", &json!(0)).await;
        page.click("[aria-label=Undo]").await;
        until_size(&page, "× 15.0").await;
        page.click("[aria-label=Redo]").await;
        until_size(&page, "× 25.4").await;

        // On the shelf: duplicate, delete, and take the deleting back.
        page.click("a[href='/']").await;
        page.find("li[data-design]").await;
        page.click("[aria-label='More about Garden gate']").await;
        page.click_text("*[@role='menuitem']", "Duplicate").await;
        page.until("return document.querySelectorAll('li[data-design]').length", &json!(2)).await;
        page.click("[aria-label='More about Garden gate']").await;
        page.click_text("*[@role='menuitem']", "Delete").await;
        page.until("return document.querySelectorAll('li[data-design]').length", &json!(1)).await;
        page.click_text("button", "Undo").await;
        page.until("return document.querySelectorAll('li[data-design]').length", &json!(2)).await;
    });
}

#[test]
fn two_tabs_follow_each_other_and_never_overwrite() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("tabs"));
        drop_picture(&page, &server, &picture("a.svg")).await;
        let path = page.client().current_url().await.unwrap().path().replace("/artwork", "/tiers");
        let first = page.client().window().await.unwrap();
        page.goto(&server.url(&path)).await;
        until_size(&page, "× 15.0").await;
        let second = page.client().new_window(true).await.unwrap().handle;
        page.client().switch_to_window(second.clone()).await.unwrap();
        page.screen(1280, 800, 1, false);
        page.goto(&server.url(&path)).await;
        until_size(&page, "× 15.0").await;
        page.type_into("Height", "20").await;
        until_size(&page, "× 20.0").await;
        page.client().switch_to_window(first).await.unwrap();
        until_size(&page, "× 20.0").await;

        // Another device, of which this browser does not know: it is seen without doing anything.
        let id = path.split('/').nth(2).unwrap();
        let elsewhere = |height: &str| {
            let version = server.get_json(&format!("/api/designs/{id}"))["version"].as_i64().unwrap();
            let edit = json!({ "edits": [{ "kind": "set-measure", "name": "wall-height", "value": height }] });
            assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(version), &edit).0, 200);
        };
        elsewhere("25");
        until_size(&page, "× 25.0").await;
        // One that is quicker than the page looks: the change is refused, the newer state shown.
        page.run(
            "const real = window.fetch;
            window.fetch = (at, ...more) =>
                String(at).endsWith('/version') ? new Promise(() => {}) : real(at, ...more)",
        )
        .await;
        tokio::time::sleep(std::time::Duration::from_millis(1500)).await;
        elsewhere("30");
        page.type_into("Margin", "2").await;
        page.until_text("changed in another tab").await;
        until_size(&page, "× 30.0").await;
        let now = server.get_json(&format!("/api/designs/{id}"));
        assert_eq!(now["document"]["measures"], json!({ "wall-height": 30.0 }));
    });
}

#[test]
fn what_is_wrong_is_said_where_it_is_and_loses_nothing() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("bad"));
        page.goto(&server.url("/")).await;
        page.until_text("Nothing on the shelf yet").await;
        let text = fresh_dir("picture").join("diary.png");
        std::fs::write(&text, "Dear diary").unwrap();
        page.find("input[type=file]").await.send_keys(&text.to_string_lossy()).await.unwrap();
        page.until_text("This is not a picture that can be read").await;

        drop_picture(&page, &server, &picture("a.svg")).await;
        page.press("3").await;
        for (typed, said) in
            [("abc", "'abc' is not a length"), ("99", "Wall height can be 2 mm to 60 mm"), ("-5", "-5 mm is outside")]
        {
            page.type_into("Height", typed).await;
            page.until_text(said).await;
        }
        assert_eq!(page.count("[aria-invalid=true]").await, 1);
        page.press(&char::from(Key::Escape).to_string()).await;
        page.until("return document.querySelectorAll('[aria-invalid=true]').length", &json!(0)).await;
        until_size(&page, "× 15.0").await;

        // Nothing is the edge: the last good solid stays, marked as old; the list brings the edge back.
        page.click("a[href$='/outline']").await;
        page.click("[data-row='0'] [aria-haspopup=menu]").await;
        page.click_text("*[@role='menuitem']", "Aside").await;
        page.until_text("No patch shapes the edge").await;
        page.click("a[href$='/tiers']").await;
        page.until_text("old").await;
        assert_eq!(page.count("path[data-tier]").await, 4);
        page.click("a[href$='/outline']").await;
        page.click("[data-row='0'] [aria-haspopup=menu]").await;
        page.click_text("*[@role='menuitem']", "Edge").await;
        until_size(&page, "× 15.0").await;

        page.goto(&server.url("/design/nothing/tiers")).await;
        page.until_text("There is no such design on the shelf").await;
    });
}

#[test]
fn everything_is_within_reach_of_the_keyboard() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("keys"));
        drop_picture(&page, &server, &picture("a.svg")).await;
        page.press("?").await;
        page.find("[role=dialog]").await;
        page.until_text("Redo").await;
        page.press(&char::from(Key::Escape).to_string()).await;
        page.until("return document.querySelectorAll('[role=dialog]').length", &json!(0)).await;
        for (key, station) in [("2", "outline"), ("5", "print"), ("4", "check"), ("3", "tiers")] {
            page.press(key).await;
            page.until(&format!("return location.pathname.endsWith('/{station}')"), &json!(true)).await;
        }
        // The handle of the section by arrow keys: a layer, then ten.
        page.run("document.querySelector('[data-handle=\"wall-height\"]').focus()").await;
        page.press(&char::from(Key::Up).to_string()).await;
        until_size(&page, "× 15.2").await;
        page.run("document.querySelector('[data-handle=\"wall-height\"]').focus()").await;
        page.press(&format!("{}{}", char::from(Key::Shift), char::from(Key::Down))).await;
        until_size(&page, "× 13.2").await;
        let undo = format!("{}z{}", char::from(Key::Control), char::from(Key::Null));
        page.press(&undo).await;
        until_size(&page, "× 15.2").await;
        // Right after a typed measure, too, with the focus still in its field.
        page.type_into("Height", "20").await;
        until_size(&page, "× 20.0").await;
        page.press(&undo).await;
        until_size(&page, "× 15.2").await;
        page.run("document.activeElement.blur()").await;
        page.press("m").await;
        page.until_text("the tool as printed, mirrored").await;

        // The section line moves up until it misses the spot.
        page.until("return document.querySelectorAll('[data-cut=stamp]').length", &json!(4)).await;
        page.run("document.querySelector('[data-handle=section]').focus()").await;
        page.press(&format!("{0}{1}{1}", char::from(Key::Shift), char::from(Key::Up))).await;
        page.until("return document.querySelectorAll('[data-cut=stamp]').length < 4", &json!(true)).await;
        page.until_text("20 mm above the middle").await;

        // Patches by the list: the focus on the loose spot's row, then one key.
        page.press("2").await;
        page.find("[data-row='3'] button").await;
        page.run("document.querySelector('[data-row=\"3\"] button').focus()").await;
        page.press("a").await;
        page.until("return document.querySelector('[data-patch=\"3\"]').dataset.use", &json!("aside")).await;
    });
}

#[test]
fn every_page_passes_the_accessibility_rules_on_every_screen() {
    // axe-core's rules for WCAG 2.2 A and AA.
    let axe =
        std::fs::read_to_string(Path::new(env!("CARGO_MANIFEST_DIR")).join("../web/node_modules/axe-core/axe.min.js"))
            .expect("axe-core: run npm ci in web/");
    browse(|page| async move {
        let mut demo = config(&fresh_dir("axe"));
        demo.is_demo = true;
        let server = TestServer::start(demo).unwrap();
        let shelf = server.get_json("/api/designs");
        let with_findings = shelf.as_array().unwrap().iter().find(|d| d["name"] == "Ladybird with spots").unwrap();
        let id = with_findings["id"].as_str().unwrap();
        let bed = server.get_json("/api/beds")[0]["id"].as_str().unwrap().to_string();
        let paths = ["", "printer", "artwork", "outline", "tiers", "check", "print", "bed", "set"];
        // By day and by night, at 200 %, on a small screen, on a tablet held upright and on a phone.
        let screens = [
            (1280, 800, false, false),
            (1280, 800, true, false),
            (640, 400, false, false),
            (1024, 640, false, false),
            (768, 1024, false, true),
            (390, 844, true, true),
        ];
        for (width, height, is_dark, is_touched) in screens {
            page.screen(width, height, 1, is_touched);
            for path in paths {
                let url = match path {
                    "" => "/".into(),
                    "printer" => "/printer".to_string(),
                    "bed" => format!("/bed/{bed}"),
                    "set" => "/set?label=Seed%20labels".to_string(),
                    _ => format!("/design/{id}/{path}"),
                };
                page.goto(&server.url(&url)).await;
                page.run(&format!("localStorage.setItem('kachel-dark', '{}')", if is_dark { "yes" } else { "no" }))
                    .await;
                page.reload().await;
                page.find(match path {
                    "" => "li[data-design]",
                    "printer" => "main section",
                    "bed" => "section[aria-label=Bed]",
                    "set" => "tr[data-member]",
                    _ => "nav a[aria-current]",
                })
                .await;
                page.run(&axe).await;
                let result = page
                    .client()
                    .execute_async(
                        "const done = arguments[0]; axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })
                         .then(r => done(r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.target + ' ' + n.failureSummary).join(' | '))))",
                        vec![],
                    )
                    .await
                    .unwrap();
                assert_eq!(result, json!([]), "{url}, {width} x {height}, dark: {is_dark}");
            }
        }
    });
}

#[test]
fn pictures_arrive_by_sample_by_paste_and_by_drop() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("arrive"));
        page.goto(&server.url("/")).await;
        page.click_text("button", "Watering can").await;
        page.find("path[data-contour]").await;
        page.until_value("Licence", "CC0-1.0").await;
        page.press("3").await;
        page.until_text("all well").await;
        let file = format!(
            "const data = new DataTransfer(); data.items.add(new File([{}], 'plum.svg', {{ type: 'image/svg+xml' }}));",
            json!(FRAME)
        );
        for event in [
            "dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))",
            "document.querySelector('main').dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))",
        ] {
            page.goto(&server.url("/")).await;
            page.find("li[data-design]").await;
            page.run(&format!("{file} {event}")).await;
            page.until("return location.pathname.endsWith('/artwork')", &json!(true)).await;
            page.until_text("Plum").await;
        }
        assert_eq!(server.get_json("/api/designs").as_array().unwrap().len(), 3);
    });
}

#[test]
fn lengths_are_shown_and_typed_in_the_designs_unit() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("unit"));
        drop_picture(&page, &server, &picture("a.svg")).await;
        page.click_text("button", "in").await;
        until_size(&page, "0.59").await;
        page.type_into("Width", "3 1/2").await;
        page.until("return document.querySelector('[data-testid=facts]').innerText.includes('3.86')", &json!(true))
            .await;
        let id = page.client().current_url().await.unwrap().path().split('/').nth(2).unwrap().to_string();
        let view = server.get_json(&format!("/api/designs/{id}"));
        assert!((view["result"]["outline"]["width"].as_f64().unwrap() - 88.9).abs() < 1e-9);
        // Pinned, the width stays when a piece of the edge goes; let go, the scale stays.
        page.click("[aria-label='Pin width']").await;
        page.until("return document.querySelector('[aria-label=\"Pin width\"]').ariaPressed", &json!("true")).await;
        page.press("3").await;
        page.type_into("Height", "1").await;
        page.until_text("127 layers").await;
    });
}

#[test]
fn a_long_computation_says_what_it_does_and_can_be_stopped() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("slow"));
        page.goto(&server.url("/")).await;
        // Thousands of overlapping rings, dark and light in turn: each has to meet all the others.
        let rings: String = (0..9000)
            .map(|i| {
                let (x, y) = (200.0 + f64::from(i % 97) * 3.1, 200.0 + f64::from(i % 89) * 3.3);
                format!(
                    "<circle cx='{x}' cy='{y}' r='{}' fill='{}'/>",
                    150 - i % 140,
                    if i % 2 == 0 { "#000" } else { "#fff" }
                )
            })
            .collect();
        let file = fresh_dir("picture").join("rings.svg");
        std::fs::write(&file, format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 700 700'>{rings}</svg>"))
            .unwrap();
        page.find("input[type=file]").await.send_keys(&file.to_string_lossy()).await.unwrap();
        page.find("[role=status] button").await;
        page.click_text("button", "Stop").await;
        page.until_text("The last good result is still shown").await;
        page.until("return document.querySelectorAll('[role=status] button').length", &json!(0)).await;
        // The workshop goes on.
        page.click_text("button", "Snail").await;
        page.find("path[data-contour]").await;
    });
}

/// Takes the pictures of docs/screenshots; run by `make screenshots`.
/// What is opened or chosen before a picture is taken.
async fn pose(page: &page::Page, name: &str) {
    if name == "in-use" {
        page.click_text("button", "In use").await;
        page.find("[data-testid=in-use]").await;
        tokio::time::sleep(std::time::Duration::from_millis(2500)).await;
    }
    if name == "compare" {
        page.click_text("button", "In use").await;
        page.click_text("button", "Compare with an earlier state").await;
        page.click("[aria-label='Steps of undo'] button").await;
        tokio::time::sleep(std::time::Duration::from_millis(3500)).await;
    }
    if name == "workshop" {
        page.click("[aria-label=Workshop]").await;
        tokio::time::sleep(std::time::Duration::from_millis(700)).await;
    }
    if name == "outline-nodes" {
        page.press("n").await;
        page.click_at(page.middle("[data-patch='0']").await, 0);
        let (x, y) = page.middle("[data-node='0:9'] rect").await;
        page.sweep(&[(x, y), (x + 24.0, y - 18.0)], 1);
        tokio::time::sleep(std::time::Duration::from_millis(1500)).await;
    }
}

#[test]
#[ignore = "writes into docs/"]
fn screenshots() {
    browse(|page| async move {
        let mut demo = config(&fresh_dir("shots"));
        demo.is_demo = true;
        let server = TestServer::start(demo).unwrap();
        let shelf = server.get_json("/api/designs");
        let id = |name: &str| {
            let found =
                shelf.as_array().unwrap().iter().find(|d| d["name"].as_str().unwrap().starts_with(name)).unwrap();
            found["id"].as_str().unwrap().to_string()
        };
        let beds = server.get_json("/api/beds");
        let bed =
            beds.as_array().unwrap().iter().find(|b| b["name"] == "Swap day bed").unwrap()["id"].as_str().unwrap();
        let sample = |name: &str| {
            let view = server.post(&format!("/api/samples/{name}"), None, &json!({})).1;
            view["id"].as_str().unwrap().to_string()
        };
        let (badge, signature) = (sample("swap-badge"), sample("signature"));
        let pen = json!({ "edits": [
            { "kind": "set-ink", "ink": "pen" }, { "kind": "set-pen-width", "value": "2 mm" }
        ] });
        server.post(&format!("/api/designs/{signature}/edits"), Some(1), &pen);
        let wreath = sample("ginkgo");
        let on = json!([{ "at": [400.0, 330.0], "is_ink": true }]);
        let changes = json!({ "edits": [
            { "kind": "set-size", "axis": "width", "value": "55 mm" },
            { "kind": "add-change", "change": { "do": "mirror", "on": on, "through": [400.0, 330.0], "degrees": 90.0 } },
            { "kind": "add-change",
              "change": { "do": "repeat", "on": on, "centre": [400.0, 760.0], "times": 6, "is_mirrored": false } },
            { "kind": "add-change", "change": {
                "do": "shape", "shape": { "form": "ring", "width": 34.0, "hole": 26.0 },
                "at": [400.0, 760.0], "degrees": 0.0, "use": "detail" } },
            { "kind": "add-change", "change": {
                "do": "text", "at": [400.0, 745.0], "degrees": 0.0, "use": "detail", "text": {
                    "words": "Seed\nswap", "face": "slab", "size": 5.0, "spacing": 0.0, "leading": 1.7,
                    "align": "middle", "arc": 0.0 } } },
            { "kind": "set-guides", "guides": [{ "is_upright": true, "at": 400.0 }] },
        ] });
        server.post(&format!("/api/designs/{wreath}/edits"), Some(1), &changes);
        let docs = Path::new(env!("CARGO_MANIFEST_DIR")).join("../docs/screenshots");
        for (name, url, dark) in [
            ("shelf", "/".to_string(), "no"),
            ("artwork", format!("/design/{}/artwork", id("Oak leaf")), "no"),
            ("artwork-colours", format!("/design/{badge}/artwork"), "no"),
            ("artwork-pen", format!("/design/{signature}/artwork"), "yes"),
            ("outline", format!("/design/{wreath}/outline"), "no"),
            ("outline-nodes", format!("/design/{}/outline", id("Oak leaf")), "no"),
            ("tiers", format!("/design/{}/tiers", id("Hedgehog cutter")), "no"),
            ("tiers-coaster", format!("/design/{}/tiers", id("Hedgehog coaster")), "no"),
            ("tiers-own", format!("/design/{}/tiers", id("Stepped")), "no"),
            ("workshop", format!("/design/{}/tiers", id("Pumpkin")), "no"),
            ("tiers-dark", format!("/design/{}/tiers", id("Snail stamp")), "yes"),
            ("check", format!("/design/{}/check", id("Ladybird")), "no"),
            ("in-use", format!("/design/{}/check", id("Ladybird")), "no"),
            ("print", format!("/design/{}/print", id("Hedgehog coaster")), "no"),
            ("bed", format!("/bed/{bed}"), "no"),
            ("set", "/set?label=Seed+labels".to_string(), "no"),
            ("printer", "/printer".to_string(), "no"),
            ("compare", format!("/design/{}/check", id("Hedgehog coaster")), "no"),
            ("phone", format!("/design/{}/tiers", id("Hedgehog cutter")), "no"),
        ] {
            if name == "phone" {
                page.screen(390, 844, 2, true);
            }
            if name == "compare" {
                let design = format!("/api/designs/{}", id("Hedgehog coaster"));
                let version = server.get_json(&design)["version"].as_i64();
                let raised = json!({ "edits": [{ "kind": "set-measure", "name": "relief", "value": "raised" }] });
                server.post(&format!("{design}/edits"), version, &raised);
            }
            page.goto(&server.url(&url)).await;
            page.run(&format!("localStorage.setItem('kachel-dark', '{dark}')")).await;
            page.reload().await;
            page.find("main").await;
            tokio::time::sleep(std::time::Duration::from_millis(3500)).await;
            pose(&page, name).await;
            std::fs::write(docs.join(format!("{name}.png")), page.screenshot().await).unwrap();
        }
    });
}
