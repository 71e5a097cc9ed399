//! What is offered where it is missed: details for the stamp, a step to go back to, the solid in words and by keys.

use crate::common::{TestServer, fresh_dir};
use crate::page::browse;
use fantoccini::key::Key;
use serde_json::{Value, json};

fn edit(server: &TestServer, id: &str, edits: Value) -> Value {
    let path = format!("/api/designs/{id}");
    let version = server.get_json(&path)["version"].as_i64();
    let (status, after) = server.post(&format!("{path}/edits"), version, &json!({ "edits": edits }));
    assert_eq!(status, 200, "{after}");
    after
}

#[test]
fn details_put_aside_are_offered_as_stamp_lines() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("offers"));
        let made = server.post("/api/samples/hedgehog", None, &json!({})).1;
        let id = made["id"].as_str().unwrap();
        let details: Vec<Value> =
            made["result"]["patches"].as_array().unwrap().iter().filter(|p| p["use"] == "detail").cloned().collect();
        let aside = details.iter().map(|p| json!({ "spot": { "at": p["at"], "is_ink": p["is_ink"] }, "use": "aside" }));
        edit(&server, id, json!([{ "kind": "set-uses", "choices": aside.collect::<Vec<_>>() }]));
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.until_text(&format!("{} details are put aside", details.len())).await;
        page.click_text("button", "use as stamp lines").await;
        page.until("return document.querySelectorAll('[data-testid=put-aside]').length", &json!(0)).await;
        let after = server.get_json(&format!("/api/designs/{id}"));
        let count = after["result"]["patches"].as_array().unwrap().iter().filter(|p| p["use"] == "detail").count();
        assert_eq!(count, details.len());
    });
}

#[test]
fn a_step_of_undo_is_gone_back_to_at_once() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("steps"));
        let made = server.post("/api/samples/ginkgo", None, &json!({})).1;
        let id = made["id"].as_str().unwrap();
        for height in [16, 17, 18] {
            edit(&server, id, json!([{ "kind": "set-measure", "name": "wall-height", "value": height }]));
        }
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.click("[aria-label=Snapshots]").await;
        page.find("[aria-label='Steps of undo'] li button").await;
        // The latest first: the one before the present state, then the first change.
        page.click("[aria-label='Steps of undo'] li:nth-child(2) button").await;
        page.click_text("button", "Go back to it").await;
        let height = || {
            let d = server.get_json(&format!("/api/designs/{id}"));
            d["document"]["measures"]["wall-height"].as_f64()
        };
        page.until("return document.querySelector('[aria-label=Redo]').ariaDisabled", &json!(null)).await;
        page.until("return document.querySelector('[data-measure=wall-height] input').value", &json!("16.0")).await;
        assert_eq!(height(), Some(16.0));
    });
}

#[test]
fn the_solid_says_what_it_is_and_turns_by_arrow_keys() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("spoken"));
        let id = server.post("/api/samples/ginkgo", None, &json!({})).1["id"].as_str().unwrap().to_string();
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.find("[data-mesh]:not([data-mesh=''])").await;
        let panel = "[aria-label^='Solid: Cutter with stamp,'][aria-label*='one piece']";
        page.find(panel).await;
        let seen = "return document.querySelector('canvas').toDataURL().length";
        // Until the picture stands still.
        let mut before = page.run(seen).await;
        loop {
            tokio::time::sleep(std::time::Duration::from_millis(300)).await;
            let now = page.run(seen).await;
            if now == before {
                break;
            }
            before = now;
        }
        page.run(&format!("document.querySelector(\"{panel}\").focus()")).await;
        page.press(&char::from(Key::Right).to_string()).await;
        page.until(&format!("{seen} !== {before}"), &json!(true)).await;
        page.press(&char::from(Key::Left).to_string()).await;
        page.until(seen, &before).await;
    });
}

#[test]
fn a_measure_and_its_handle_mark_each_other_and_a_press_goes_to_the_field() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("pointed"));
        let id = server.post("/api/samples/ginkgo", None, &json!({})).1["id"].as_str().unwrap().to_string();
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.find("[data-handle=wall-height]").await;
        page.point_at(page.middle("[data-measure=wall-height] label").await).await;
        page.find("[data-lit=wall]").await;
        page.until(
            "return document.querySelector('[data-handle=wall-height] text')?.textContent",
            &json!("15.0 mm · 75 layers"),
        )
        .await;
        let handle = page.middle("[data-handle=wall-height]").await;
        page.point_at(handle).await;
        page.until(
            "return document.querySelector('[data-measure=wall-height]').className.includes('bg-sunk')",
            &json!(true),
        )
        .await;
        // Pressed and not moved: typed where it stands.
        page.click_at(handle, 0);
        let focus = "return document.activeElement === document.querySelector('[data-measure=wall-height] input')";
        page.until(focus, &json!(true)).await;
        page.press(&format!("17{}", char::from(Key::Enter))).await;
        page.until("return document.querySelector('[data-measure=wall-height] input').value", &json!("17.0")).await;
    });
}
