//! At Outline without a mouse, handles that catch, and changes that have lost their patch.

use crate::common::{TestServer, fresh_dir};
use crate::outline::{SHIFT, at_outline, changes, outline_of, until_design, until_patches};
use crate::page::browse;
use fantoccini::key::Key;
use serde_json::json;

pub fn keys(key: Key, times: usize) -> String {
    char::from(key).to_string().repeat(times)
}

#[test]
fn places_are_measured_patches_cut_and_shapes_moved_by_keyboard() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let board = "document.querySelector('[role=application]').focus()";
        // The crosshair begins in the middle: of the second square, 20 px of 140 that are 90 mm wide.
        page.press("r").await;
        page.find("[aria-pressed=true][title^=Measure]").await;
        page.run(board).await;
        page.press(&format!(" {} ", keys(Key::Right, 4))).await;
        page.find("[data-measured='4.00 mm']").await;
        page.press(&keys(Key::Escape, 1)).await;
        page.find("[aria-pressed=true][title^=Choose]").await;
        page.run("document.querySelector(\"[aria-label='Choose ink 2']\").focus()").await;
        page.press(" ").await;
        page.until_text("1 chosen").await;
        page.run("document.activeElement.blur()").await;
        page.press("k").await;
        page.find("[aria-pressed=true][title^=Cut]").await;
        page.run(board).await;
        page.press(&format!("{} {} {}", keys(Key::Up, 8), keys(Key::Down, 16), keys(Key::Enter, 1))).await;
        let list = changes(&server, &id, 1).await;
        assert_eq!((list[0]["do"].as_str(), list[0]["line"]["nodes"].as_array().unwrap().len()), (Some("cut"), 2));
        until_patches(&page, 4).await;
        // A shape from its list, its mark by the arrow keys, each press of them a change of the same entry.
        page.run("document.querySelector(\"select[aria-label='Add a shape']\").focus()").await;
        page.press("s").await;
        changes(&server, &id, 2).await;
        page.find("[data-mark=shape]").await;
        page.run("document.querySelector('[data-mark=shape]').focus()").await;
        let at = |d: &serde_json::Value| d["document"]["changes"][1]["change"]["at"][0].as_f64().unwrap();
        let before = server.get_json(&format!("/api/designs/{id}"));
        let mm = before["result"]["outline"]["mm_per_px"].as_f64().unwrap();
        page.press(&keys(Key::Right, 1)).await;
        until_design(&server, &id, |d| ((at(d) - at(&before)) * mm - 1.0).abs() < 1e-6).await;
    });
}

#[test]
fn a_shapes_mark_catches_nodes_and_says_so() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.click("select[aria-label='Add a shape'] option:nth-child(5)").await;
        changes(&server, &id, 1).await;
        let from = page.middle("[data-mark=shape]").await;
        let r = "const r = document.querySelector(\"[data-patch='0']\").getBoundingClientRect();";
        let corner = page.run(&format!("{r} return [r.right, r.top]")).await;
        let (x, y) = (corner[0].as_f64().unwrap(), corner[1].as_f64().unwrap());
        page.mouse("mousePressed", from, 0);
        page.mouse("mouseMoved", (x + 30.0, y - 30.0), 0);
        page.mouse("mouseMoved", (x + 2.0, y - 3.0), 0);
        page.find("[data-mark=shape] [data-caught=node]").await;
        page.mouse("mouseReleased", (x + 2.0, y - 3.0), 0);
        // The corner of the first square: 40, 40.
        let at = |d: &serde_json::Value| -> Vec<f64> {
            serde_json::from_value(d["document"]["changes"][0]["change"]["at"].clone()).unwrap()
        };
        until_design(&server, &id, |d| at(d).iter().all(|v| (v - 40.0).abs() < 1e-6)).await;
    });
}

#[test]
fn a_change_that_has_lost_its_patch_shows_where_it_was_and_takes_another() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("outline"));
        // A black disc, and a grey one that a lower threshold does not see.
        let image = image::GrayImage::from_fn(400, 200, |x, y| {
            let off = |cx: f64| (f64::from(x) - cx).hypot(f64::from(y) - 100.0);
            image::Luma([if off(100.0) < 60.0 {
                10
            } else if off(300.0) < 50.0 {
                110
            } else {
                250
            }])
        });
        let file = fresh_dir("picture").join("discs.png");
        image.save(&file).unwrap();
        let id = outline_of(&page, &server, &file).await;
        until_patches(&page, 2).await;
        page.click_at(page.middle("[data-patch='1']").await, SHIFT);
        page.until_text("1 chosen").await;
        page.click_text("button", "Grow").await;
        let list = changes(&server, &id, 1).await;
        assert_eq!(list[0]["on"][0]["like"]["depth"], 0, "{}", list[0]);
        page.press("1").await;
        page.find("[role=slider][aria-label=Threshold]").await;
        page.run("document.querySelector('[role=slider][aria-label=Threshold]').focus()").await;
        page.press(&keys(Key::PageDown, 12)).await;
        until_design(&server, &id, |d| d["result"]["patches"].as_array().unwrap().len() == 1).await;
        page.press("2").await;
        page.until_text("Its patch is gone").await;
        page.find("[data-lost]").await;
        page.click_at(page.middle("[data-patch='0']").await, SHIFT);
        page.until_text("1 chosen").await;
        page.click_text("button", "Use the chosen patch").await;
        page.until("return document.querySelectorAll('[data-lost], [data-astray]').length", &json!(0)).await;
        let list = changes(&server, &id, 1).await;
        assert!(list[0]["on"][0]["at"][0].as_f64().unwrap() < 200.0, "{}", list[0]);
        // Undone it is lost again; doing without takes the entry out, and undo brings it back.
        page.click("[aria-label=Undo]").await;
        page.find("[data-lost]").await;
        page.click_text("button", "Do without").await;
        changes(&server, &id, 0).await;
        page.click("[aria-label=Undo]").await;
        changes(&server, &id, 1).await;
    });
}
