//! The practice printer: a print is sent, watched, paused, goes wrong and ends.

use crate::common::{TestServer, fresh_dir};
use crate::page::{Page, browse};
use crate::tiers::choose;
use serde_json::{Value, json};

/// A small coaster in two filaments, so that the filament is changed by hand.
fn coaster(server: &TestServer) -> String {
    let view = server.post("/api/samples/ginkgo", None, &json!({})).1;
    let id = view["id"].as_str().unwrap().to_string();
    let edits = json!({ "edits": [
        { "kind": "set-recipe", "recipe": "coaster" },
        { "kind": "set-measure", "name": "across", "value": "30 mm" },
        { "kind": "set-measure", "name": "thickness", "value": "1 mm" },
        { "kind": "set-measure", "name": "relief", "value": "Raised" },
        { "kind": "set-measure", "name": "relief-depth", "value": "1 mm" },
        { "kind": "set-filament", "key": "details", "filament": "cobalt" },
    ] });
    let (status, after) = server.post(&format!("/api/designs/{id}/edits"), Some(1), &edits);
    assert_eq!(status, 200, "{after}");
    let keys: Vec<Value> = after["result"]["tiers"].as_array().unwrap().iter().map(|t| t["key"].clone()).collect();
    assert!(keys.contains(&json!("details")), "{keys:?}");
    id
}

async fn says(page: &Page, words: &str) {
    let script = "return document.querySelector('[data-testid=printer-says]')?.innerText ?? ''";
    page.until(&format!("return (() => {{ {script} }})().includes({})", json!(words)), &json!(true)).await;
}

#[test]
fn a_coaster_in_two_filaments_is_printed_with_its_change_and_its_time_comes_back() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("printer"));
        let id = coaster(&server);
        page.goto(&server.url(&format!("/design/{id}/print"))).await;
        page.find("[data-testid=print-time]").await;
        page.click_text("button", "Send to the printer").await;
        page.until("return location.pathname", &json!("/printer")).await;
        says(&page, "It heats").await;
        choose(&page, "Speed", "200 times").await;
        says(&page, "Change to Cobalt").await;
        // Another tab sees the same, and may be the one that answers.
        assert_eq!(server.get_json("/api/printer")["state"], "waiting");
        page.click_text("button", "It is done, go on").await;
        says(&page, "It prints layer").await;
        page.click_text("button", "Pause").await;
        says(&page, "Paused").await;
        page.find("canvas[data-drawn]").await;
        page.reload().await;
        says(&page, "Paused").await;
        page.click_text("button", "Go on").await;
        says(&page, "Finished").await;
        page.click_text("button", "The bed is clear").await;
        says(&page, "The bed is clear").await;
        page.find("[aria-label='Printed before'] li").await;
        // What it took is what the next one is likely to take.
        page.goto(&server.url(&format!("/design/{id}/print"))).await;
        page.until_text("one print of this printer took 1.").await;
        page.click_text("button", "It really took…").await;
        page.run("document.querySelector('input[placeholder=\"1h35\"]').focus()").await;
        page.press("never").await;
        page.click_text("button", "Save").await;
        page.until_text("Write a time such as 35min or 1h30").await;
        page.click_text("button", "Forget these").await;
        page.until("return document.querySelector('[data-testid=likely]') === null", &json!(true)).await;
    });
}

#[test]
fn a_print_fails_on_purpose_and_the_queue_goes_on() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("printer"));
        let id = coaster(&server);
        for _ in 0..3 {
            assert_eq!(server.post(&format!("/api/designs/{id}/send"), None, &json!({})).0, 201);
        }
        server.put("/api/printer/speed", None, &json!({ "speed": 60 }));
        page.goto(&server.url("/")).await;
        page.click("a[href='/printer']").await;
        says(&page, "It prints layer").await;
        page.click_text("button", "Let it fail").await;
        page.click_text("*[@role='menuitem']", "The print comes loose").await;
        says(&page, "The print has come loose").await;
        page.until_text("a brim of 5 mm").await;
        page.until(
            "return [...document.querySelectorAll('button')].some((b) => b.innerText === 'Go on')",
            &json!(false),
        )
        .await;
        page.click_text("button", "Stop the print").await;
        says(&page, "Ended: the print came loose").await;
        page.until("return document.querySelectorAll('[aria-label=Queue] li').length", &json!(2)).await;
        page.click_text("button", "The bed is clear").await;
        says(&page, "It heats").await;
        page.click("[aria-label=Queue] button").await;
        page.click_text("*[@role='menuitem']", "Take out of the queue").await;
        page.until("return document.querySelectorAll('[aria-label=Queue] li').length", &json!(0)).await;
        // The server goes: the page says that what it shows is old.
        drop(server);
        page.until_text("what is shown is old").await;
    });
}
