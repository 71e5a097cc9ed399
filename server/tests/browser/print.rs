//! Check before the print, and the print before it is printed.

use crate::common::{TestServer, fresh_dir};
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

/// A page learns of a change later than the shelf. It used to get layers of the new print for the old one, and an error for those that
/// the new one does not have.
#[test]
fn a_layer_that_is_asked_for_while_the_design_changes_is_never_another_prints() {
    browse(|page| async move {
        let (server, id) = at_tiers(&page, "coaster").await;
        let before = server.get_json(&format!("/api/designs/{id}/print"))["tops"].as_array().unwrap().len();
        page.press("5").await;
        page.until_text(&format!("Layer {before} of {before}")).await;
        // Layers are on the way for as long as the change takes; that they are given up reaches nobody any more.
        page.run(
            "const real = window.fetch; window.late = 0;
            window.fetch = async (at, init) => {
                if (!/print\\/\\d/.test(at)) return real(at, init);
                await new Promise((go) => setTimeout(go, 1500));
                return real(at, { ...init, signal: null }).finally(() => { window.late += 1; });
            }",
        )
        .await;
        page.run("document.querySelector('[aria-label=Layer]').focus()").await;
        for _ in 0..4 {
            page.press(&char::from(Key::Left).to_string()).await;
        }
        let edit = json!({ "edits": [{ "kind": "set-measure", "name": "thickness", "value": "3 mm" }] });
        assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(2), &edit).0, 200);
        let after = server.get_json(&format!("/api/designs/{id}/print"))["tops"].as_array().unwrap().len();
        assert!(after + 6 < before, "{after} of {before}");
        page.until("return window.late > 1", &json!(true)).await;
        // It is on the first layer of what there is, and its lines come.
        page.until_text(&format!("Layer {after} of {after}")).await;
        page.find("[data-kind=solid]").await;
        // That nothing was refused is seen in the console, at the end of every test.
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

#[test]
fn findings_are_gone_through_place_by_place_and_mended_at_once() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("places"));
        let (_, view) = server.post("/api/samples/ladybird", None, &json!({}));
        let id = view["id"].as_str().unwrap().to_owned();
        // Six stamp lines that nothing holds, and a tip that is too thin.
        let edit = json!({ "edits": [
            { "kind": "set-measure", "name": "bar-width", "value": "0" },
            { "kind": "set-measure", "name": "taper-in", "value": "1.4 mm" },
        ] });
        let (status, view) = server.post(&format!("/api/designs/{id}/edits"), Some(1), &edit);
        assert_eq!(status, 200, "{view}");
        let heavy = |f: &&Value| f["weight"] != "note";
        let findings = |v: &Value| v["result"]["findings"].as_array().unwrap().iter().filter(heavy).count();
        assert_eq!(findings(&view), 2, "{}", view["result"]["findings"]);
        let places = view["result"]["findings"][0]["places"].as_array().unwrap().len();
        page.goto(&server.url(&format!("/design/{id}/check"))).await;
        page.find("[data-code='loose-part']").await;
        // Arrow keys go through the places; the section runs through each.
        page.run("document.querySelector(\"[data-code='loose-part'] button\").focus()").await;
        let right = char::from(Key::Right).to_string();
        let note = "return document.querySelector(\"[data-code='loose-part'] [data-testid=place]\").innerText";
        for k in 1..=places {
            page.press(&right).await;
            page.until(&format!("{note}.startsWith('place {k} of {places}')"), &json!(true)).await;
            page.find(&format!("[data-place='{}']", k - 1)).await;
            page.find(&format!("[data-section-place='{}']", k - 1)).await;
            // All of them are marked on the solid, which turns to the one.
            page.find(&format!("[data-marked='{places}']")).await;
        }
        page.press(&right).await;
        page.until(&format!("{note}.startsWith('place 1 of')"), &json!(true)).await;
        page.click_text("button", "Mend 2 at once").await;
        page.until_text("All is well").await;
        assert_eq!(findings(&server.get_json(&format!("/api/designs/{id}"))), 0);
        // One step.
        page.click("[aria-label=Undo]").await;
        page.find("[data-code='loose-part']").await;
        page.find("[data-code='thin-tip']").await;
    });
}
