//! What the program says by itself where a hand works: a credit that a file states, what an arc waits for, what is left out, and
//! which filament is which.

use crate::common::{TestServer, fresh_dir};
use crate::outline::{at_outline, outline_of, until_design};
use crate::page::{Page, browse};
use crate::tiers::choose;
use serde_json::{Value, json};

/// At Outline with a drawing of the test's own, on a sheet of 200 x 100 px.
async fn drawn(page: &Page, inner: &str) -> (TestServer, String) {
    let server = TestServer::in_dir(&fresh_dir("said"));
    let file = fresh_dir("picture").join("drawn.svg");
    let svg = format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 200 100'>{inner}</svg>");
    std::fs::write(&file, svg).unwrap();
    let id = outline_of(page, &server, &file).await;
    (server, id)
}

#[test]
fn a_credit_that_the_file_states_is_taken_over_in_one_click() {
    browse(|page| async move {
        let file = "<rect x='20' y='20' width='60' height='60'/><text>Drawn by Wilma Reet from the Reed Drawer</text>";
        let (server, id) = drawn(&page, file).await;
        page.press("1").await;
        page.until_text("The file says: Wilma Reet, Reed Drawer").await;
        page.click_text("button", "Take it over").await;
        let maker = |d: &Value| d["document"]["credit"]["maker"] == json!("Wilma Reet");
        until_design(&server, &id, maker).await;
        page.until("return document.querySelectorAll('[data-offered]').length", &json!(0)).await;
        page.click("[aria-label=Undo]").await;
        until_design(&server, &id, |d| !maker(d)).await;
        page.find("[data-offered]").await;
    });
}

#[test]
fn an_arc_says_what_it_waits_for() {
    browse(|page| async move {
        at_outline(&page).await;
        page.click_text("button", "Pen").await;
        let (x, y) = page.middle("[aria-label=Plan]").await;
        page.click_at((x - 60.0, y + 80.0), 0);
        page.press("a").await;
        let says = "return document.querySelector('[data-says]')?.textContent";
        page.point_at((x, y + 90.0)).await;
        page.until(says, &json!("end")).await;
        page.click_at((x + 60.0, y + 80.0), 0);
        page.point_at((x, y + 50.0)).await;
        page.until(says, &json!("bulge")).await;
        page.until_text("Arc: now a place that it runs through, its bulge.").await;
        page.press("a").await;
        page.until(says, &json!(null)).await;
    });
}

#[test]
fn crumbs_are_left_out_with_a_note_and_kept_when_the_maker_wants_them() {
    browse(|page| async move {
        // Plates are drawn as wide as they are usual: a speck of 0.4 px is far below what prints.
        let file = "<rect x='20' y='20' width='60' height='60'/><rect x='100' y='40' width='0.4' height='0.4'/>";
        let (server, id) = drawn(&page, file).await;
        server.post(
            &format!("/api/designs/{id}/edits"),
            Some(1),
            &json!({ "edits": [{ "kind": "set-recipe", "recipe": "coaster" }] }),
        );
        page.reload().await;
        page.find("[data-patch]").await;
        page.press("4").await;
        page.until_text("1 crumb smaller than a nozzle prints: left out.").await;
        page.press("3").await;
        page.find("[data-testid=stack]").await;
        choose(&page, "Crumbs", "Kept").await;
        until_design(&server, &id, |d| d["result"]["notes"] == json!([])).await;
        page.press("4").await;
        page.until("return document.querySelectorAll('[data-testid=note]').length", &json!(0)).await;
    });
}

#[test]
fn plans_are_shown_in_the_colours_of_filaments_and_back() {
    browse(|page| async move {
        at_outline(&page).await;
        let fill = "return document.querySelector(\"[data-patch='0']\").getAttribute('fill')";
        let by_use = page.run(fill).await;
        assert!(by_use.as_str().unwrap().starts_with("var("), "by what it is for: {by_use}");
        page.click("[title='Show in the colours of their filaments']").await;
        page.until(&format!("{fill}.startsWith('rgb')"), &json!(true)).await;
        page.click("[title='Show by what things are']").await;
        page.until(fill, &by_use).await;
    });
}
