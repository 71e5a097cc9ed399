//! The shelf with many designs on it.

use crate::common::{FRAME, TestServer, fresh_dir};
use crate::page::browse;
use fantoccini::key::Key;
use serde_json::json;

#[test]
fn designs_are_labelled_and_found_by_their_label() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("shelf"));
        let made: Vec<String> = ["ginkgo", "snail", "hedgehog"]
            .iter()
            .map(|s| server.post(&format!("/api/samples/{s}"), None, &json!({})).1["id"].as_str().unwrap().to_string())
            .collect();
        page.goto(&server.url("/")).await;
        page.find(&format!("[data-design='{}']", made[0])).await;
        for id in &made[..2] {
            page.click(&format!("[data-design='{id}'] input[type=checkbox]")).await;
        }
        page.until_text("2 designs chosen").await;
        page.click_text("button", "Label").await;
        page.click_text("*[@role='menuitem']", "New label…").await;
        page.type_into("Name", "Swap stall").await;
        page.until("return document.querySelectorAll('[aria-label=Labels] button').length", &json!(1)).await;
        page.click("[aria-label=Labels] button").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(2)).await;
        page.click("[aria-label=Labels] button").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(3)).await;
        // Taken away from both, it is gone.
        page.click_text("button", "Label").await;
        page.click_text("*[@role='menuitem']", "Swap stall").await;
        page.until("return document.querySelectorAll('[aria-label=Labels]').length", &json!(0)).await;
    });
}

#[test]
fn a_shelf_of_hundreds_is_put_on_the_page_as_it_is_seen() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("shelf"));
        let id = server.post("/api/samples/ginkgo", None, &json!({})).1["id"].as_str().unwrap().to_string();
        for _ in 1..150 {
            assert_eq!(server.post(&format!("/api/designs/{id}/duplicate"), None, &json!({})).0, 201);
        }
        page.goto(&server.url("/")).await;
        page.until_text("150 designs").await;
        let shown = "return document.querySelectorAll('[data-design]').length";
        // Two rows; more as their end comes into sight.
        page.until(shown, &json!(12)).await;
        page.until(&format!("document.querySelector('main').scrollTo(0, 1e6); {shown}"), &json!(150)).await;
    });
}

#[test]
fn a_shelf_is_taken_home_and_brought_to_another_one() {
    browse(|page| async move {
        let (there, dir) = (TestServer::in_dir(&fresh_dir("home-there")), fresh_dir("home-here"));
        for sample in ["ginkgo", "snail"] {
            there.post(&format!("/api/samples/{sample}"), None, &json!({}));
        }
        page.goto(&there.url("/")).await;
        page.click_text("button", "The whole shelf").await;
        page.find("a[href='/api/shelf/home'][download]").await;
        let file = dir.join("shelf.zip");
        std::fs::write(&file, there.get("/api/shelf/home").body_mut().read_to_vec().unwrap()).unwrap();
        let here = TestServer::in_dir(&dir);
        page.goto(&here.url("/")).await;
        page.until_text("Nothing on the shelf yet").await;
        let input = page.find("[aria-label='A shelf to bring']").await;
        input.send_keys(&file.to_string_lossy()).await.unwrap();
        page.until_text("2 designs and 0 beds brought").await;
        page.click_text("button", "Done").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(2)).await;
        // What is no shelf is refused, and the shelf stays as it is.
        std::fs::write(&file, b"PK is not enough").unwrap();
        page.find("[aria-label='A shelf to bring']").await.send_keys(&file.to_string_lossy()).await.unwrap();
        page.until_text("it is no ZIP, or it breaks off").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(2)).await;
    });
}

#[test]
fn the_same_is_made_again_with_another_picture() {
    browse(|page| async move {
        let dir = fresh_dir("again");
        let server = TestServer::in_dir(&dir);
        let made = server.post("/api/samples/hedgehog", None, &json!({})).1;
        let edits = json!({ "edits": [
            { "kind": "set-recipe", "recipe": "key-tag" },
            { "kind": "set-measure", "name": "thickness", "value": "4 mm" },
        ] });
        let id = made["id"].as_str().unwrap();
        let (status, after) = server.post(&format!("/api/designs/{id}/edits"), made["version"].as_i64(), &edits);
        assert_eq!(status, 200);
        let lowest = |id: &str| server.get_json(&format!("/api/designs/{id}/member?limit="))["tiers"][0].clone();
        let edits = json!({ "edits": [{ "kind": "set-filament", "key": lowest(id)["key"], "filament": "cobalt" }] });
        assert_eq!(server.post(&format!("/api/designs/{id}/edits"), after["version"].as_i64(), &edits).0, 200);
        let bean = dir.join("bean.svg");
        std::fs::write(&bean, FRAME).unwrap();
        page.goto(&server.url("/")).await;
        page.click("[aria-label='More about Hedgehog']").await;
        page.until_text("Same again with another picture…").await;
        page.press(&char::from(Key::Escape).to_string()).await;
        let input = page.find("[aria-label='Another picture for a copy of Hedgehog']").await;
        input.send_keys(&bean.to_string_lossy()).await.unwrap();
        page.until("return location.pathname.endsWith('/tiers')", &json!(true)).await;
        let again = page.run("return location.pathname.split('/')[2]").await;
        let again = again.as_str().unwrap();
        assert_eq!(lowest(again)["filament"], json!("cobalt"));
        let again = server.get_json(&format!("/api/designs/{again}"))["document"].clone();
        assert_eq!((&again["name"], &again["recipe"]), (&json!("Bean"), &json!("key-tag")));
        assert_eq!(again["measures"]["thickness"], json!(4.0));
    });
}

#[test]
fn the_shelf_is_asked_for_once_and_anew_by_whoever_comes_back() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("once"));
        let view = server.post("/api/samples/ginkgo", None, &json!({})).1;
        let id = view["id"].as_str().unwrap();
        page.goto(&server.url("/")).await;
        page.find(&format!("[data-design='{id}'] img")).await;
        let asked =
            "return performance.getEntriesByType('resource').filter((e) => e.name.endsWith('/api/designs')).length";
        assert_eq!(page.run(asked).await, json!(1));
        // Changed by somebody else while one looks at the design.
        page.click(&format!("[data-design='{id}'] a[aria-label^=Open]")).await;
        page.find("[data-testid=stack]").await;
        let rename = json!({ "edits": [{ "kind": "rename", "name": "Second thoughts" }] });
        assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(1), &rename).0, 200);
        page.run("history.back()").await;
        page.find(&format!("[data-design='{id}'] a[aria-label='Open Second thoughts']")).await;
    });
}
