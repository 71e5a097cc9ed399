//! Check before the print, and the print before it is printed.

use crate::outline::until_design;
use crate::page::browse;
use crate::placing::at_tiers;
use fantoccini::key::Key;
use serde_json::{Value, json};

#[test]
fn a_print_is_rehearsed_layer_by_layer() {
    browse(|page| async move {
        let (server, id) = at_tiers(&page, "coaster").await;
        let edits = json!({ "edits": [
            { "kind": "set-measure", "name": "relief", "value": "raised" },
            { "kind": "set-filament", "key": "details", "filament": "cobalt" },
        ] });
        server.post(&format!("/api/designs/{id}/edits"), Some(2), &edits);
        page.reload().await;
        page.find("[data-testid=stack]").await;
        page.press("5").await;
        page.find("[aria-label=Layer]").await;
        let print = server.get_json(&format!("/api/designs/{id}/print"));
        let count = print["tops"].as_array().unwrap().len();
        page.until_text(&format!("Layer {count} of {count}")).await;
        page.run("document.querySelector('[aria-label=Layer]').focus()").await;
        page.press(&char::from(Key::Home).to_string()).await;
        page.until_text(&format!("Layer 1 of {count}")).await;
        page.find("[data-kind=skirt]").await;
        page.find("[data-kind=solid]").await;
        // The change of filament is found by the slider, with its layer and time.
        let stop = &print["stops"][0];
        assert_eq!(stop["what"], json!("Change to Cobalt"));
        for _ in 1..stop["layer"].as_u64().unwrap() {
            page.press(&char::from(Key::Right).to_string()).await;
        }
        page.until_text("Change to Cobalt first").await;
        page.until("return document.querySelectorAll('[data-kind=skirt]').length", &json!(0)).await;
        // Another quality has other layers, more infill takes longer.
        let time = "return document.querySelector('[data-testid=print-time]').innerText";
        let usual = page.run(time).await;
        page.click("button[role=combobox][aria-label=Quality]").await;
        page.click_text("*[@role='option']", "Draft, 0.28 mm").await;
        let draft = server.get_json(&format!("/api/designs/{id}/print?quality=draft"));
        let fewer = draft["tops"].as_array().unwrap().len();
        assert!(fewer < count, "{fewer} of {count}");
        page.until_text(&format!("of {fewer}")).await;
        page.until(&format!("{time} !== {usual}"), &json!(true)).await;
        page.click_text("button", "Show the bed").await;
        page.find("svg[aria-label=Bed]").await;
    });
}

#[test]
fn what_was_measured_is_shown_and_a_mend_is_seen_before_it_is_taken() {
    browse(|page| async move {
        // A tip of 0.1 mm: the wall is 1.6 mm thick.
        let (server, id) = at_tiers(&page, "cutter").await;
        let edit = json!({ "edits": [{ "kind": "set-measure", "name": "taper-in", "value": "1.5 mm" }] });
        server.post(&format!("/api/designs/{id}/edits"), Some(2), &edit);
        page.reload().await;
        page.find("[data-testid=stack]").await;
        page.press("4").await;
        page.find("[data-code='thin-tip']").await;
        page.until_text("What was measured").await;
        page.until_text("Thinnest place").await;
        page.click_text("button", "Thinnest place").await;
        page.until("return document.querySelector('[data-testid=shown]').getAttribute('d') !== ''", &json!(true)).await;
        // Pointed at, the mend is previewed; nothing is saved, and the list stays.
        let version = |d: &Value| d["version"].as_i64().unwrap();
        let before = server.get_json(&format!("/api/designs/{id}"));
        page.run("document.querySelector(\"[data-code='thin-tip'] .flex-wrap button\").focus()").await;
        page.find("[data-code='thin-tip']").await;
        assert_eq!(version(&server.get_json(&format!("/api/designs/{id}"))), version(&before));
        page.click("[data-code='thin-tip'] .flex-wrap button").await;
        until_design(&server, &id, |d| version(d) == version(&before) + 1).await;
        page.until("return document.querySelectorAll(\"[data-code='thin-tip']\").length", &json!(0)).await;
        page.until_text("All is well").await;
        page.click("[aria-label=Undo]").await;
        page.find("[data-code='thin-tip']").await;
        // Known and left: folded away, and no longer counted; told again on demand.
        page.click_text("button", "I know").await;
        page.until_text("1 finding that you know of").await;
        page.until_text("all well").await;
        page.click("summary").await;
        page.click_text("button", "Tell me again").await;
        page.until_text("1 finding").await;
        page.until("return document.querySelectorAll('summary').length", &json!(0)).await;
    });
}
