//! Holes, tie bars and mirrors put where a hand wants them; the picture zoomed; inches.

use crate::common::{TestServer, fresh_dir};
use crate::drop_picture;
use crate::outline::{at_outline, changes, outline_of, until_design};
use crate::page::{Page, browse};
use fantoccini::key::Key;
use serde_json::{Value, json};

/// At Tiers, three squares with another recipe.
pub async fn at_tiers(page: &Page, recipe: &str) -> (TestServer, String) {
    let (server, id) = at_outline(page).await;
    let edit = json!({ "edits": [{ "kind": "set-recipe", "recipe": recipe }] });
    server.post(&format!("/api/designs/{id}/edits"), Some(1), &edit);
    page.reload().await;
    page.find("[data-patch]").await;
    page.press("3").await;
    page.find("[data-testid=stack]").await;
    (server, id)
}

fn measure(d: &Value, name: &str) -> f64 {
    d["document"]["measures"][name].as_f64().unwrap_or_default()
}

#[test]
fn a_hole_is_moved_by_hand_and_by_keys_and_filament_comes_along() {
    browse(|page| async move {
        let (server, id) = at_tiers(&page, "ornament").await;
        let hole = "[aria-label='Place of the hole']";
        let (x, y) = page.middle(&format!("{hole} circle")).await;
        let before = server.get_json(&format!("/api/designs/{id}"));
        let place = |d: &Value| {
            let h = &d["result"]["hung"];
            let of = |k: usize| h["at"][k].as_f64().unwrap() - h["middle"][k].as_f64().unwrap();
            (of(0), of(1))
        };
        page.sweep(&[(x, y), (x + 20.0, y + 5.0), (x + 40.0, y + 10.0)], 0);
        let d = until_design(&server, &id, |d| measure(d, "hole-at") == 1.0).await;
        assert!(place(&d).0 > place(&before).0 + 1.0 && place(&d).1 < place(&before).1, "{}", d["result"]["hung"]);
        assert!((place(&d).0 - measure(&d, "hole-x")).abs() < 1e-6);
        assert_eq!(d["result"]["solid"]["bodies"], json!(1), "the ring hangs on the body");
        let right = measure(&d, "hole-x");
        page.run(&format!("document.querySelector(\"{hole}\").focus()")).await;
        page.press(&format!("{}{}", char::from(Key::Shift), char::from(Key::Right))).await;
        until_design(&server, &id, |d| (measure(d, "hole-x") - right - 10.0).abs() < 1e-6).await;
        page.click("[aria-label=Undo]").await;
        page.click("[aria-label=Undo]").await;
        let back = until_design(&server, &id, |d| measure(d, "hole-at") == 0.0).await;
        assert_eq!(back["result"]["hung"], before["result"]["hung"]);
    });
}

#[test]
fn tie_bars_are_drawn_from_anywhere_to_anywhere_and_straight_through() {
    browse(|page| async move {
        let (server, id) = at_tiers(&page, "pendant").await;
        let bars = |d: &Value| d["document"]["bars"].as_array().map_or(0, Vec::len);
        let first = server.get_json(&format!("/api/designs/{id}"))["result"]["bars"].as_array().unwrap().len();
        let pick = async |item: &str| {
            page.click("[aria-label='Tie bars']").await;
            page.click_text("*[@role='menuitem']", item).await;
        };
        page.click("[aria-label='Close the hint']").await;
        pick("A bar straight through").await;
        until_design(&server, &id, |d| bars(d) == first + 1).await;
        pick("Draw a tie bar").await;
        page.find("[data-testid=bar-drawing]").await;
        let (x, y) = page.middle("[aria-label=Plan]").await;
        // From outside to outside: what is drawn too far ends in the ring.
        page.sweep(&[(x - 15.0, y - 190.0), (x, y), (x + 15.0, y + 190.0)], 0);
        let d = until_design(&server, &id, |d| bars(d) == first + 2).await;
        page.until("return document.querySelectorAll('[data-testid=bar-drawing]').length", &json!(0)).await;
        let [w, h, _] = [0, 1, 2].map(|k| d["result"]["solid"]["size"][k].as_f64().unwrap());
        let before = server.get_json(&format!("/api/designs/{id}"));
        assert_eq!(before["result"]["solid"]["bodies"], json!(1));
        assert!(w < 46.0 && h < 52.0, "no bar sticks out: {w} x {h}");
        // Put down again without a bar.
        pick("Draw a tie bar").await;
        page.find("[data-testid=bar-drawing]").await;
        page.press(&char::from(Key::Escape).to_string()).await;
        page.until("return document.querySelectorAll('[data-testid=bar-drawing]').length", &json!(0)).await;
        page.find("[data-testid=stack]").await;
    });
}

#[test]
fn a_drawn_half_is_mirrored_at_its_straight_side_and_a_corner_rounded() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("half"));
        let file = fresh_dir("picture").join("half.svg");
        let half = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 200 100'><path d='M120 10H180V50H150L120 90Z'/></svg>";
        std::fs::write(&file, half).unwrap();
        let id = outline_of(&page, &server, &file).await;
        page.click_at(page.middle("[data-patch='0']").await, 0);
        page.until_text("One patch").await;
        page.click_text("button", "Mirror").await;
        let change = changes(&server, &id, 1).await.remove(0);
        assert_eq!((change["degrees"].as_f64(), change["through"][0].as_f64()), (Some(270.0), Some(120.0)), "{change}");
        page.find("[data-side=original]").await;
        let d = server.get_json(&format!("/api/designs/{id}"));
        let span: Vec<f64> =
            d["result"]["patches"][0]["span"].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect();
        assert!((span[0] - 60.0).abs() < 0.01 && (span[2] - 180.0).abs() < 0.01, "{span:?}");
        page.click("[aria-label=Undo]").await;
        changes(&server, &id, 0).await;
        // One corner of the half gets a radius of its own. The undo button, now off, cannot be typed at, so the plan is.
        let plan = "document.querySelector(\"[role=application][aria-label='Plan']\").focus()";
        page.run(plan).await;
        page.press("n").await;
        page.until_text("5 nodes, 0 chosen").await;
        page.run(plan).await;
        page.press("n").await;
        page.until_text("5 nodes, 1 chosen").await;
        page.click_text("button", "Round").await;
        let change = changes(&server, &id, 1).await.remove(0);
        let nodes = change["lines"][0]["nodes"].as_array().unwrap();
        assert_eq!(nodes.len(), 6, "{change}");
        assert_eq!(nodes.iter().filter(|n| !n["after"].is_null()).count(), 1, "one arc");
    });
}

#[test]
fn the_picture_is_zoomed_by_wheel_and_keys_while_a_tool_is_in_the_hand() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("zoom"));
        drop_picture(&page, &server, &crate::picture("a.svg")).await;
        let board = "[aria-label='Picture board']";
        let width = "return document.querySelector(\"[aria-label='Picture board'] img\").getBoundingClientRect().width";
        page.find(&format!("{board} img")).await;
        let fitted = page.run(width).await.as_f64().unwrap();
        page.click_text("button", "Crop").await;
        let (x, y) = page.middle(board).await;
        page.devtools(
            "Input.dispatchMouseEvent",
            json!({ "type": "mouseWheel", "x": x, "y": y, "deltaX": 0, "deltaY": -500 }),
        );
        page.until(&format!("{width} > {}", fitted * 2.0), &json!(true)).await;
        page.run(&format!("document.querySelector(\"{board}\").focus()")).await;
        page.press("0").await;
        page.until(&format!("{width} < {}", fitted * 1.01), &json!(true)).await;
        page.press("+").await;
        page.until(&format!("{width} > {}", fitted * 1.2), &json!(true)).await;
        page.click("[aria-label='Fit the picture']").await;
        page.until(&format!("{width} < {}", fitted * 1.01), &json!(true)).await;
    });
}

#[test]
fn a_design_in_inches_speaks_inches() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let edits = json!({ "edits": [
            { "kind": "set-unit", "unit": "in" },
            { "kind": "set-recipe", "recipe": "cutter" },
            { "kind": "set-measure", "name": "wall-thickness", "value": "0.3mm" },
        ] });
        server.post(&format!("/api/designs/{id}/edits"), Some(1), &edits);
        page.reload().await;
        page.find("[data-patch]").await;
        for (key, found) in [("2", "Width over all"), ("3", "Thickness"), ("4", "0.012 in"), ("5", "and are left out")]
        {
            page.press(key).await;
            page.until_text(found).await;
            let text = page.text().await;
            let in_mm = text.lines().find(|l| l.contains(" mm") || l.ends_with("mm²"));
            assert_eq!(in_mm, None, "at station {key}");
        }
    });
}
