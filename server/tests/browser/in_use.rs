//! Objects seen in use, at Check.

use crate::page::browse;
use crate::placing::at_tiers;
use serde_json::json;

#[test]
fn the_cookie_of_a_cutter_and_how_a_tag_hangs_are_seen_at_check() {
    browse(|page| async move {
        let (server, id) = at_tiers(&page, "cutter").await;
        page.press("4").await;
        page.click_text("button", "In use").await;
        page.until_text("The cookie it cuts").await;
        page.find("[data-use='The cookie it cuts']").await;
        // What it leaves out is said.
        page.until_text("Dough is taken to be flat and stiff").await;
        // Another recipe answers its own question; the view stays chosen.
        let edit = json!({ "edits": [{ "kind": "set-recipe", "recipe": "key-tag" }] });
        assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(2), &edit).0, 200);
        page.reload().await;
        page.click_text("button", "In use").await;
        page.until_text("How it hangs").await;
        page.press("3").await;
        page.find("[data-testid=stack]").await;
        page.press("4").await;
        page.until_text("How it hangs").await;
        page.click_text("button", "In use").await;
        page.until("return document.querySelectorAll('[data-testid=in-use]').length", &json!(0)).await;
    });
}
