//! The list of changes at Outline, by mouse and by keyboard.

use crate::common::{TestServer, fresh_dir};
use crate::drop_picture;
use crate::page::{Page, browse};
use fantoccini::key::Key;
use serde_json::{Value, json};
use std::path::Path;

/// Three squares of 20 px in a row, touching nothing, on a sheet of 200 x 100 px.
fn squares() -> String {
    let square = |x: u32| format!("<rect x='{x}' y='40' width='20' height='20'/>");
    format!(
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 200 100'>{}{}{}</svg>",
        square(20),
        square(80),
        square(140)
    )
}

pub async fn at_outline(page: &Page) -> (TestServer, String) {
    let server = TestServer::in_dir(&fresh_dir("outline"));
    let file = fresh_dir("picture").join("squares.svg");
    std::fs::write(&file, squares()).unwrap();
    let id = outline_of(page, &server, &file).await;
    page.find("[data-patch='2']").await;
    (server, id)
}

/// A new design from the picture, at Outline.
pub async fn outline_of(page: &Page, server: &TestServer, file: &Path) -> String {
    drop_picture(page, server, file).await;
    page.press("2").await;
    page.find("[data-patch]").await;
    page.client().current_url().await.unwrap().path().split('/').nth(2).unwrap().to_string()
}

/// Keys held with the mouse.
const ALT: u32 = 1;
pub const SHIFT: u32 = 8;

/// The changes of the design, once their number is this.
pub async fn changes(server: &TestServer, id: &str, count: usize) -> Vec<Value> {
    for _ in 0..200 {
        let design = server.get_json(&format!("/api/designs/{id}"));
        let list = design["document"]["changes"].as_array().unwrap().clone();
        if list.len() == count {
            return list.into_iter().map(|e| e["change"].clone()).collect();
        }
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    panic!("never {count} changes");
}

/// Waits until something of the design is so.
pub async fn until_design(server: &TestServer, id: &str, is: impl Fn(&Value) -> bool) -> Value {
    let mut design = Value::Null;
    for _ in 0..200 {
        design = server.get_json(&format!("/api/designs/{id}"));
        if is(&design) {
            return design;
        }
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    panic!("never so: {}", design["document"]);
}

pub async fn until_patches(page: &Page, n: usize) {
    page.until("return document.querySelectorAll('[data-patch]').length", &json!(n)).await;
}

async fn until_changes(page: &Page, kinds: &[&str]) {
    page.until("return [...document.querySelectorAll('[data-change]')].map(e => e.dataset.change)", &json!(kinds))
        .await;
}

#[test]
fn changes_are_added_edited_moved_switched_off_and_taken_out() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let width = || {
            let view: Value = server.get_json(&format!("/api/designs/{id}"));
            view["result"]["outline"]["width"].as_f64().unwrap()
        };
        until_patches(&page, 3).await;
        // By the list: two squares grow until they meet, at 90 mm for 140 px.
        page.click("[aria-label='Choose ink 1']").await;
        page.click("[aria-label='Choose ink 2']").await;
        page.until_text("2 chosen").await;
        assert_eq!(page.count("[data-chosen]").await, 2);
        page.click_text("button", "Grow").await;
        until_changes(&page, &["grow"]).await;
        page.type_into("By", "1/2 in").await;
        let typed = "return parseFloat(document.querySelector('[data-change=grow] input:not([type=checkbox])').value)";
        page.until(typed, &json!(12.7)).await;
        assert!((width() - 90.0 - 12.7).abs() < 0.1, "{}", width());
        // A shape, typed and moved to the front of the list.
        page.click("select[aria-label='Add a shape'] option:nth-child(5)").await;
        until_changes(&page, &["grow", "shape"]).await;
        until_patches(&page, 4).await;
        page.click("[aria-label='Star earlier']").await;
        until_changes(&page, &["shape", "grow"]).await;
        // Its middle, dragged in the plan and moved by keys.
        let place = || server.get_json(&format!("/api/designs/{id}"))["document"]["changes"][0]["change"]["at"].clone();
        let before = place();
        page.drag_up("[data-mark=shape] circle", 40).await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        for _ in 0..100 {
            if place() != before {
                break;
            }
            tokio::time::sleep(std::time::Duration::from_millis(50)).await;
        }
        let dragged = place();
        assert!(dragged[1].as_f64().unwrap() < before[1].as_f64().unwrap() - 5.0, "{before} {dragged}");
        assert!((dragged[0].as_f64().unwrap() - before[0].as_f64().unwrap()).abs() < 0.5);
        page.click("[aria-label=Undo]").await;
        // Off, and on again; then out, and back by undo, after a reload.
        page.click("[data-change=grow] input[type=checkbox]").await;
        page.find("[data-change=grow][data-off]").await;
        assert!((width() - 90.0).abs() < 0.05, "{}", width());
        page.click("[aria-label='Remove Star']").await;
        until_changes(&page, &["grow"]).await;
        until_patches(&page, 3).await;
        page.reload().await;
        page.find("[data-change=grow]").await;
        page.click("[aria-label=Undo]").await;
        until_changes(&page, &["shape", "grow"]).await;
        until_patches(&page, 4).await;
    });
}

#[test]
fn patches_are_joined_mirrored_and_repeated_and_a_refusal_is_told() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let edge = || {
            let view: Value = server.get_json(&format!("/api/designs/{id}"));
            (view["result"]["patches"].as_array().unwrap().len(), view["version"].as_i64().unwrap())
        };
        page.click_text("button", "Only the outer edge").await;
        page.until(
            "return [...document.querySelectorAll('[data-patch]')].every(p => p.dataset.use === 'edge')",
            &json!(true),
        )
        .await;
        page.click("[aria-label=Undo]").await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!("true")).await;
        // By Shift-click in the plan.
        for n in 0..2 {
            page.click_at(page.middle(&format!("[data-patch='{n}']")).await, SHIFT);
        }
        page.until_text("2 chosen").await;
        page.click_text("button", "Take away").await;
        until_changes(&page, &["take-away"]).await;
        assert_eq!(page.find("[data-patch='1']").await.attr("data-use").await.unwrap().as_deref(), Some("aside"));
        page.click("[aria-label='Remove Take away']").await;
        until_changes(&page, &[]).await;
        // What was chosen stays chosen.
        page.until_text("2 chosen").await;
        page.click("[aria-label='Choose ink 2']").await;
        page.click_text("button", "Repeat").await;
        until_changes(&page, &["repeat"]).await;
        page.until("return document.querySelectorAll('[data-patch]').length >= 7", &json!(true)).await;
        page.click("[data-entry=repeat] label:last-child input").await;
        page.until("return document.querySelector('[data-entry=repeat] label:last-child input').checked", &json!(true))
            .await;
        let before = edge();
        page.click_text("button", "Choose none").await;
        page.click("[aria-label='Choose ink 2']").await;
        page.click_text("button", "Rim").await;
        until_changes(&page, &["repeat", "rim"]).await;
        let after = edge();
        assert!(after.1 == before.1 + 1, "{before:?} {after:?}");
        // What is out of range is refused in words, and nothing changes.
        page.run("const f = [...document.querySelectorAll('[data-change=rim] input')].find(i => i.type !== 'checkbox'); f.focus(); f.select()").await;
        page.press(&format!("999{}", char::from(fantoccini::key::Key::Enter))).await;
        page.until_text("Lengths are 0.05 to 400 mm").await;
        assert_eq!(edge().1, after.1);
    });
}

#[test]
fn a_line_is_drawn_with_the_pen_by_mouse_and_by_keys() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.press("p").await;
        page.find("[aria-label='Tools on the outline'] [aria-pressed=true][title^=Pen]").await;
        let (x, y) = page.middle("[data-patch='1']").await;
        // A corner, a curve, a corner; the first node closes.
        let (a, b, c) = ((x + 20.0, y + 70.0), (x + 90.0, y + 70.0), (x + 60.0, y + 130.0));
        page.click_at(a, ALT);
        page.sweep(&[b, (b.0, b.1 + 25.0)], ALT);
        page.click_at(c, ALT);
        page.mouse("mouseHovered", (a.0 + 2.0, a.1), 0);
        page.find("[data-closes]").await;
        page.click_at(a, 0);
        let list = changes(&server, &id, 1).await;
        let line = &list[0]["line"];
        assert_eq!((list[0]["do"].as_str(), line["is_closed"].as_bool()), (Some("draw"), Some(true)));
        assert_eq!(line["nodes"].as_array().unwrap().len(), 3);
        assert!(line["nodes"][1]["after"].is_array(), "{line}");
        until_patches(&page, 4).await;
        // By keys: a crosshair, Space for a node, Enter for an open line; it shows its gap and is closed in the list.
        page.client().execute("document.querySelector('[role=application]').focus()", vec![]).await.unwrap();
        let right = char::from(Key::Right).to_string().repeat(12);
        let down = char::from(Key::Down).to_string().repeat(9);
        page.press(&format!("{down} {right} {down} {}", char::from(Key::Enter))).await;
        let list = changes(&server, &id, 2).await;
        assert_eq!(list[1]["line"]["nodes"].as_array().unwrap().len(), 3, "{}", list[1]);
        page.find("[data-gaps='1']").await;
        page.until_text("One line is open: ").await;
        page.type_into("Close gaps up to", "100").await;
        until_design(&server, &id, |d| d["document"]["changes"][1]["change"]["line"]["is_closed"] == json!(true)).await;
        until_patches(&page, 5).await;
        page.click("[aria-label=Undo]").await;
        page.find("[data-gaps='1']").await;
        page.press(&char::from(Key::Escape).to_string()).await;
        page.find("[aria-pressed=true][title^=Choose]").await;
    });
}

#[test]
fn nodes_are_dragged_nudged_added_and_deleted_and_the_patch_becomes_the_makers_own() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.press("n").await;
        page.click_at(page.middle("[data-patch='0']").await, 0);
        page.until("return document.querySelectorAll('[data-node]').length", &json!(4)).await;
        let (x, y) = page.middle("[data-node='0:2'] rect").await;
        page.sweep(&[(x, y), (x + 30.0, y + 25.0)], ALT);
        let list = changes(&server, &id, 1).await;
        assert_eq!(list[0]["do"], "nodes");
        assert!(list[0]["seen"]["area"].as_f64().unwrap() > 399.0, "{}", list[0]);
        let at = |c: &Value| c["lines"][0]["nodes"][2]["at"].clone();
        let dragged = at(&list[0]);
        // The next drags change the same entry; keys move by millimetres.
        page.press(&char::from(Key::Left).to_string()).await;
        let design = until_design(&server, &id, |d| at(&d["document"]["changes"][0]["change"]) != dragged).await;
        let mm = design["result"]["outline"]["mm_per_px"].as_f64().unwrap();
        let moved = at(&design["document"]["changes"][0]["change"]);
        assert!(
            (moved[0].as_f64().unwrap() - dragged[0].as_f64().unwrap() + 1.0 / mm).abs() < 1e-6,
            "{dragged} {moved}"
        );
        // One node more by a double click, made smooth by S, gone by Delete.
        let nodes = |d: &Value| d["document"]["changes"][0]["change"]["lines"][0]["nodes"].as_array().unwrap().len();
        let (a, b) = (page.middle("[data-node='0:0'] rect").await, page.middle("[data-node='0:1'] rect").await);
        let half = ((a.0 + b.0) / 2.0, (a.1 + b.1) / 2.0);
        page.click_at(half, 0);
        page.click_at(half, 0);
        until_design(&server, &id, |d| nodes(d) == 5).await;
        page.press("s").await;
        until_design(&server, &id, |d| {
            d["document"]["changes"][0]["change"]["lines"][0]["nodes"][1]["after"].is_array()
        })
        .await;
        page.press(&char::from(Key::Delete).to_string()).await;
        until_design(&server, &id, |d| nodes(d) == 4).await;
        // A position typed.
        page.click_at(page.middle("[data-node='0:3'] rect").await, 0);
        page.until_text("1 chosen").await;
    });
}

#[test]
fn patches_are_swept_moved_by_hand_and_by_keys_pinned_and_doubled() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let (first, second, third) = (
            page.middle("[data-patch='0']").await,
            page.middle("[data-patch='1']").await,
            page.middle("[data-patch='2']").await,
        );
        // A frame round two, a loop round the third.
        page.sweep(&[(first.0 - 75.0, first.1 - 80.0), (second.0 + 75.0, second.1 + 80.0)], 0);
        page.until_text("2 chosen").await;
        let round = [(-75.0, -75.0), (75.0, -75.0), (75.0, 75.0), (-75.0, 75.0), (-75.0, -60.0)];
        page.sweep(&round.map(|(x, y)| (third.0 + x, third.1 + y)), ALT);
        page.until_text("1 chosen").await;
        page.until("return document.querySelector('[data-chosen]').dataset.patch", &json!("2")).await;
        // Dragged, then moved by keys: two steps are one entry.
        page.sweep(&[third, (third.0, third.1 - 50.0)], 0);
        let list = changes(&server, &id, 1).await;
        assert!(list[0]["do"] == "place" && list[0]["by"][1].as_f64().unwrap() < -5.0, "{}", list[0]);
        page.until_text("1 chosen").await;
        page.client().execute("document.querySelector('[role=application]').focus()", vec![]).await.unwrap();
        page.press(&char::from(Key::Right).to_string()).await;
        changes(&server, &id, 2).await;
        page.until("return document.querySelectorAll('[data-change]').length", &json!(2)).await;
        page.press(&char::from(Key::Right).to_string()).await;
        let mm = server.get_json(&format!("/api/designs/{id}"))["result"]["outline"]["mm_per_px"].as_f64().unwrap();
        until_design(&server, &id, |d| {
            let c = &d["document"]["changes"];
            c.as_array().unwrap().len() == 2 && (c[1]["change"]["by"][0].as_f64().unwrap() * mm - 2.0).abs() < 0.1
        })
        .await;
        // Scaled by its grip, doubled, pinned.
        let (x, y) = page.middle("[data-grip=scale]").await;
        page.sweep(&[(x, y), (x + 25.0, y + 25.0)], 0);
        let list = changes(&server, &id, 3).await;
        assert!(list[2]["scale"].as_f64().unwrap() > 1.2, "{}", list[2]);
        page.click_text("button", "Double").await;
        changes(&server, &id, 4).await;
        until_patches(&page, 4).await;
        page.click("[aria-label='Choose ink 1']").await;
        page.click_text("button", "Choose none").await;
        page.click("[aria-label='Choose ink 1']").await;
        page.click_text("button", "Pin").await;
        page.find("[data-patch='0'][data-pinned]").await;
        page.click_text("button", "Rim").await;
        page.until_text("That patch is pinned").await;
        changes(&server, &id, 4).await;
        // The drawing of what lies in what is walked by arrow keys; D gives the use.
        page.client().execute("document.querySelector('[data-walk=\"0\"]').focus()", vec![]).await.unwrap();
        page.press(&format!("{}d", char::from(Key::Down))).await;
        until_design(&server, &id, |d| d["result"]["patches"].as_array().unwrap().iter().any(|p| p["use"] == "detail"))
            .await;
    });
}

#[test]
fn text_is_written_in_a_face_on_an_arc_and_stays_text() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.click_text("button", "Add text").await;
        changes(&server, &id, 1).await;
        let write = "const t = document.querySelector('textarea[aria-label=Text]'); t.focus(); t.select()";
        page.find("textarea[aria-label=Text]").await;
        page.run(write).await;
        page.press("Fjord").await;
        page.run("document.activeElement.blur()").await;
        // Three squares and five letters, the j with its dot.
        until_patches(&page, 9).await;
        page.click("select[aria-label=Face] option[value=blackletter]").await;
        until_design(&server, &id, |d| d["document"]["changes"][0]["change"]["text"]["face"] == "blackletter").await;
        page.type_into("Height of capitals", "1/4 in").await;
        page.type_into("Radius of its arc; 0 is straight", "30").await;
        let design =
            until_design(&server, &id, |d| d["document"]["changes"][0]["change"]["text"]["arc"] == json!(30.0)).await;
        assert_eq!(design["document"]["changes"][0]["change"]["text"]["size"], json!(6.35));
        assert_eq!(design["document"]["changes"][0]["change"]["text"]["words"], json!("Fjord"));
        // On the drawing: bent the other way, larger, turned.
        let text = |d: &Value| d["document"]["changes"][0]["change"].clone();
        let pull = async |grip: &str, (dx, dy): (f64, f64)| {
            let (x, y) = page.middle(&format!("[data-grip='{grip}'] .grip")).await;
            page.drag(&[(x, y), (x + dx / 2.0, y + dy / 2.0), (x + dx, y + dy)]).await;
        };
        pull("bend", (0.0, -40.0)).await;
        until_design(&server, &id, |d| text(d)["text"]["arc"].as_f64().is_some_and(|arc| arc < -1.0)).await;
        pull("height of capitals", (0.0, -24.0)).await;
        until_design(&server, &id, |d| text(d)["text"]["size"].as_f64().is_some_and(|size| size > 7.0)).await;
        pull("turn", (-60.0, 20.0)).await;
        let turned =
            until_design(&server, &id, |d| text(d)["degrees"].as_f64().is_some_and(|by| by > 5.0 && by < 90.0)).await;
        let by = text(&turned)["degrees"].as_f64().unwrap();
        page.run("document.querySelector('[data-grip=turn]').focus()").await;
        page.press(&char::from(Key::Down).to_string()).await;
        until_design(&server, &id, |d| text(d)["degrees"] == json!(by - 1.0)).await;
        page.run(write).await;
        page.press("Жук").await;
        page.run("document.activeElement.blur()").await;
        page.until_text("Not in this face: Ж").await;
        page.run(write).await;
        page.press("   ").await;
        page.run("document.activeElement.blur()").await;
        page.until_text("Type a letter or more").await;
    });
}

#[test]
fn lines_are_drawn_freehand_patches_cut_and_places_measured() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let (x, y) = page.middle("[data-patch='1']").await;
        page.press("f").await;
        page.find("[aria-pressed=true][title^=Freehand]").await;
        let wave: Vec<(f64, f64)> =
            (0..24).map(f64::from).map(|k| (x - 60.0 + 5.0 * k, y + 100.0 + 9.0 * (k / 3.0).sin())).collect();
        page.sweep(&wave, 0);
        let list = changes(&server, &id, 1).await;
        assert_eq!((list[0]["do"].as_str(), list[0]["width"].as_f64()), (Some("draw"), Some(2.0)));
        assert!(list[0]["line"]["nodes"].as_array().unwrap().len() < 16, "{}", list[0]["line"]);
        until_patches(&page, 4).await;
        // The middle square is cut in two.
        page.press("c").await;
        page.click_at((x, y), SHIFT);
        page.until_text("1 chosen").await;
        page.press("k").await;
        page.find("[aria-pressed=true][title^=Cut]").await;
        page.click_at((x - 5.0, y - 70.0), ALT);
        page.click_at((x - 5.0, y + 60.0), ALT);
        page.press(&char::from(Key::Enter).to_string()).await;
        changes(&server, &id, 2).await;
        until_patches(&page, 5).await;
        // Zoomed in by keys, another tool leaves it so; 0 fits again.
        let scale = "return Number(document.querySelector('[role=application]').dataset.scale)";
        let fitted = page.run(scale).await.as_f64().unwrap();
        page.click("[aria-label='Zoom in']").await;
        page.press("c").await;
        page.find("[aria-pressed=true][title^=Choose]").await;
        assert!(page.run(scale).await.as_f64().unwrap() > fitted * 1.4);
        page.click("[aria-label='Fit the plan']").await;
        page.until(scale, &json!(fitted)).await;
        // Corner to corner of the first square: 20 px of 140 that are 90 mm wide.
        page.press("r").await;
        page.find("[aria-pressed=true][title^=Measure]").await;
        let corner = page
            .run("const r = document.querySelector(\"[data-patch='0']\").getBoundingClientRect(); return [r.left, r.right, r.top]")
            .await;
        let n = |k: usize| corner[k].as_f64().unwrap();
        page.click_at((n(0) + 3.0, n(2) + 3.0), 0);
        page.click_at((n(1) - 3.0, n(2) + 3.0), 0);
        page.find("[data-measured='12.86 mm']").await;
        page.find("[data-caught=node]").await;
    });
}

#[test]
fn guides_come_off_the_rulers_and_go_by_a_key() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let guides = |d: &Value| d["document"]["guides"].as_array().unwrap().len();
        let (x, y) = page.middle("[aria-label^='Upper ruler']").await;
        page.sweep(&[(x, y), (x, y + 150.0)], 0);
        let d = until_design(&server, &id, |d| guides(d) == 1).await;
        assert_eq!(d["document"]["guides"][0]["is_upright"], json!(false));
        page.client().execute("document.querySelector(\"[aria-label^='Left ruler']\").focus()", vec![]).await.unwrap();
        page.press(&char::from(Key::Enter).to_string()).await;
        until_design(&server, &id, |d| guides(d) == 2).await;
        page.find("[data-guide=upright]").await;
        let at = d["document"]["guides"][0]["at"].as_f64().unwrap();
        page.client().execute("document.querySelector('[data-guide=level]').focus()", vec![]).await.unwrap();
        page.press(&char::from(Key::Up).to_string()).await;
        until_design(&server, &id, |d| (d["document"]["guides"][0]["at"].as_f64().unwrap() - at).abs() > 0.5).await;
        page.press(&char::from(Key::Delete).to_string()).await;
        until_design(&server, &id, |d| guides(d) == 1).await;
        page.click("[aria-label=Undo]").await;
        until_design(&server, &id, |d| guides(d) == 2).await;
    });
}

#[test]
fn patches_are_copied_to_another_design_and_added_from_an_svg() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.click("[aria-label='Choose ink 1']").await;
        page.click_text("button", "Copy").await;
        page.until_text("1 copied").await;
        let other = server.get_json("/api/designs").as_array().unwrap().iter().find(|d| d["id"] != json!(id)).cloned();
        assert!(other.is_none(), "only one design so far");
        let file = fresh_dir("picture").join("outline.svg");
        let svg = server.get(&format!("/api/designs/{id}/outline.svg")).body_mut().read_to_string().unwrap();
        assert!(svg.contains("mm\"") && svg.contains("id=\"edge\""), "{svg}");
        std::fs::write(&file, &svg).unwrap();
        page.find("input[aria-label='Add patches from an SVG']")
            .await
            .send_keys(&file.to_string_lossy())
            .await
            .unwrap();
        changes(&server, &id, 1).await;
        until_patches(&page, 6).await;
        let there = outline_of(&page, &server, &file).await;
        page.find("[data-patch='2']").await;
        assert_ne!(there, id);
        page.press(&format!("{}v{}", char::from(Key::Control), char::from(Key::Null))).await;
        let list = changes(&server, &there, 1).await;
        assert_eq!(list[0]["do"], "paste");
        until_patches(&page, 4).await;
    });
}

#[test]
fn own_nodes_stay_or_follow_when_the_picture_moves_on() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("outline"));
        // A blurred disc: its size depends on the threshold.
        let image = image::GrayImage::from_fn(300, 300, |x, y| {
            let r = (f64::from(x) - 150.0).hypot(f64::from(y) - 150.0);
            image::Luma([((r - 60.0) * 4.0).clamp(20.0, 240.0) as u8])
        });
        let file = fresh_dir("picture").join("disc.png");
        image.save(&file).unwrap();
        let id = outline_of(&page, &server, &file).await;
        page.press("n").await;
        page.click_at(page.middle("[data-patch='0']").await, 0);
        page.find("[data-node='0:1']").await;
        let (x, y) = page.middle("[data-node='0:1'] rect").await;
        page.sweep(&[(x, y), (x + 20.0, y + 14.0)], ALT);
        changes(&server, &id, 1).await;
        page.press("1").await;
        page.find("[role=slider][aria-label=Threshold]").await;
        page.run("document.querySelector('[role=slider][aria-label=Threshold]').focus()").await;
        page.press(&char::from(Key::PageUp).to_string().repeat(5)).await;
        until_design(&server, &id, |d| d["document"]["trace"]["threshold"].as_i64().is_some_and(|t| t > 150)).await;
        page.press("2").await;
        page.until_text("The picture has moved on").await;
        let width = |d: &Value| d["result"]["outline"]["width"].as_f64().unwrap();
        let before = width(&server.get_json(&format!("/api/designs/{id}")));
        page.click_text("button", "Stay").await;
        page.until("return document.querySelectorAll('[data-astray]').length", &json!(0)).await;
        page.click("[aria-label=Undo]").await;
        page.click_text("button", "Follow").await;
        until_design(&server, &id, |d| d["document"]["changes"][0]["is_on"] == json!(false) && width(d) > before).await;
    });
}

#[test]
fn one_side_of_a_mirrored_patch_is_edited_and_thin_places_and_fewer_nodes_are_shown() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.click("[aria-label='Choose ink 2']").await;
        page.click_text("button", "thinnest place?").await;
        page.until_text("thinnest 12.8").await;
        page.find("[data-thinnest]").await;
        page.click_text("button", "Mirror").await;
        changes(&server, &id, 1).await;
        page.click("[data-entry=mirror] button[title^='The nodes of one side']").await;
        page.until("return document.querySelectorAll('[data-node]').length", &json!(4)).await;
        let (x, y) = page.middle("[data-node='0:0'] rect").await;
        page.sweep(&[(x, y), (x - 25.0, y - 20.0)], ALT);
        // The entry comes before the mirror, so both sides follow.
        let list = changes(&server, &id, 2).await;
        assert_eq!((list[0]["do"].as_str(), list[1]["do"].as_str()), (Some("nodes"), Some("mirror")));
        let span =
            |d: &Value| -> Vec<f64> { serde_json::from_value(d["result"]["patches"][1]["span"].clone()).unwrap() };
        let d = until_design(&server, &id, |d| span(d)[0] < 78.0).await;
        let s = span(&d);
        assert!((90.0 - s[0] - (s[2] - 90.0)).abs() < 0.01, "both sides of 90 px: {s:?}");
        // Fewer nodes by the slider, with the live count.
        page.press(&char::from(Key::Escape).to_string()).await;
        page.click_text("button", "Fewer nodes").await;
        changes(&server, &id, 3).await;
        page.until_text("nodes").await;
        page.find("[role=slider][aria-label='Largest deviation, slider']").await;
        page.run("document.querySelector(\"[role=slider][aria-label='Largest deviation, slider']\").focus()").await;
        page.press(&char::from(Key::Right).to_string()).await;
        until_design(&server, &id, |d| {
            d["document"]["changes"][2]["change"]["deviation"].as_f64().is_some_and(|v| (v - 0.06).abs() < 1e-9)
        })
        .await;
        page.find("[data-change=fewer] [data-count]").await;
    });
}
