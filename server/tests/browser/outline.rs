//! The list of changes at Outline, by mouse and by keyboard.

use crate::common::{TestServer, fresh_dir};
use crate::page::{Page, browse};
use serde_json::{Value, json};

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

async fn at_outline(page: &Page) -> (TestServer, String) {
    let server = TestServer::in_dir(&fresh_dir("outline"));
    let file = fresh_dir("picture").join("squares.svg");
    std::fs::write(&file, squares()).unwrap();
    page.goto(&server.url("/")).await;
    page.find("input[type=file]").await.send_keys(&file.to_string_lossy()).await.unwrap();
    page.until("return location.pathname.endsWith('/artwork')", &json!(true)).await;
    page.find("path[data-contour]").await;
    page.press("2").await;
    page.find("[data-patch='2']").await;
    let id = page.client().current_url().await.unwrap().path().split('/').nth(2).unwrap().to_string();
    (server, id)
}

async fn until_patches(page: &Page, n: usize) {
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
        page.until("return document.querySelector('[aria-label=Undo]').disabled", &json!(false)).await;
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
        page.until("return document.querySelector('[aria-label=Undo]').disabled", &json!(true)).await;
        // By Shift-click in the plan.
        page.run("for (const n of [0, 1]) document.querySelector(`[data-patch='${n}']`).dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey: true }))").await;
        page.until_text("2 chosen").await;
        page.click_text("button", "Take away").await;
        until_changes(&page, &["take-away"]).await;
        assert_eq!(page.find("[data-patch='1']").await.attr("data-use").await.unwrap().as_deref(), Some("aside"));
        page.click("[aria-label='Remove Take away']").await;
        until_changes(&page, &[]).await;
        page.click("[aria-label='Choose ink 1']").await;
        page.click_text("button", "Repeat").await;
        until_changes(&page, &["repeat"]).await;
        page.until("return document.querySelectorAll('[data-patch]').length >= 7", &json!(true)).await;
        page.click("[data-change=repeat] label:last-child input").await;
        page.until(
            "return document.querySelector('[data-change=repeat] label:last-child input').checked",
            &json!(true),
        )
        .await;
        let before = edge();
        page.click("[aria-label='Choose ink 2']").await;
        page.click_text("button", "Rim").await;
        until_changes(&page, &["repeat", "rim"]).await;
        let after = edge();
        assert!(after.1 == before.1 + 1, "{before:?} {after:?}");
        // What is out of range is refused in words, and nothing changes.
        page.run("const f = [...document.querySelectorAll('[data-change=rim] input')].find(i => i.type !== 'checkbox'); f.focus(); f.select()").await;
        page.press(&format!("999{}", char::from(fantoccini::key::Key::Enter))).await;
        page.until_text("lengths are 0.05 to 400 mm").await;
        assert_eq!(edge().1, after.1);
    });
}
