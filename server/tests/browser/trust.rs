//! What is damaged on the disk is set aside, and the rest goes on.

use crate::common::{TestServer, config, fresh_dir};
use crate::page::browse;
use diesel::prelude::*;
use kachel_server::Config;
use serde_json::json;
use std::path::Path;

/// Writes something else in the place of a design's present document.
fn damage(data: &Path, design: &str) {
    let mut c = SqliteConnection::establish(&data.join("kachel.db").to_string_lossy()).unwrap();
    let text = format!(
        "UPDATE revisions SET document = substr(document, 1, 40) WHERE work_id = '{design}' \
         AND seq = (SELECT head FROM works WHERE id = '{design}')"
    );
    assert_eq!(diesel::sql_query(text).execute(&mut c).unwrap(), 1);
}

#[test]
fn a_damaged_design_is_told_on_the_shelf_and_goes_back_to_the_state_before() {
    browse(|page| async move {
        let data = fresh_dir("damaged");
        let server = TestServer::in_dir(&data);
        let made = |sample: &str| {
            let view = server.post(&format!("/api/samples/{sample}"), None, &json!({})).1;
            view["id"].as_str().unwrap().to_string()
        };
        let (hurt, sound) = (made("ginkgo"), made("snail"));
        let rename = json!({ "edits": [{ "kind": "rename", "name": "Second thoughts" }] });
        assert_eq!(server.post(&format!("/api/designs/{hurt}/edits"), Some(1), &rename).0, 200);
        damage(&data, &hurt);
        assert_eq!(server.get(&format!("/api/designs/{hurt}")).status(), 500);
        let steps = server.get_json(&format!("/api/designs/{hurt}/steps"));
        assert_eq!(steps[0]["label"], "Called 'Second thoughts'", "its steps are told all the same");
        page.goto(&server.url("/")).await;
        page.find(&format!("[data-design='{sound}'] a[aria-label^=Open]")).await;
        page.until_text("is not what was written there").await;
        page.click_text("button", "Go back to the state before").await;
        page.find(&format!("[data-design='{hurt}'] a[aria-label='Open Ginkgo leaf']")).await;
        assert_eq!(server.get(&format!("/api/designs/{hurt}")).status(), 200);
    });
}

#[test]
fn changes_wait_while_the_server_is_away_and_are_saved_when_it_is_back() {
    browse(|page| async move {
        let data = fresh_dir("away");
        let server = TestServer::in_dir(&data);
        let view = server.post("/api/samples/ginkgo", None, &json!({})).1;
        let id = view["id"].as_str().unwrap().to_string();
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.find("[data-testid=stack]").await;
        let address = server.address;
        drop(server);
        page.type_into("Height", "21 mm").await;
        page.until_text("The server is away: 1 change waits").await;
        page.type_into("Height", "23 mm").await;
        page.until_text("The server is away: 2 changes wait").await;
        // Files cannot be taken home meanwhile, and the menu says why.
        page.click_text("button", "Take home").await;
        page.until_text("the server is away").await;
        page.press(&char::from(fantoccini::key::Key::Escape).to_string()).await;
        let server = TestServer::start(Config { listen: address, ..config(&data) }).unwrap();
        page.until_text("saved ").await;
        let saved = server.get_json(&format!("/api/designs/{id}"));
        assert_eq!(saved["document"]["measures"]["wall-height"], json!(23.0));
        assert_eq!(saved["version"], json!(3), "each change is a step of its own");
        // Nothing is left of what was said meanwhile.
        page.until("return document.body.innerText.includes('does not answer')", &json!(false)).await;
    });
}

#[test]
fn a_part_of_the_page_that_an_update_took_away_is_told_and_comes_with_the_page_anew() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("updated"));
        let view = server.post("/api/samples/ginkgo", None, &json!({})).1;
        let id = view["id"].as_str().unwrap();
        page.devtools("Network.enable", json!({}));
        page.devtools("Network.setBlockedURLs", json!({ "urls": ["*/assets/outline-*", "*/assets/solid-view-*"] }));
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.find("[data-testid=stack]").await;
        page.until_text("A part of the page is missing").await;
        page.click("nav[aria-label=Stations] a[href$='/outline']").await;
        page.until_text("A part of the page is missing").await;
        // The rest of the bench works.
        page.click("nav[aria-label=Stations] a[href$='/check']").await;
        page.until_text("The mesh is sound").await;
        page.click("nav[aria-label=Stations] a[href$='/outline']").await;
        page.until_text("A part of the page is missing").await;
        page.devtools("Network.setBlockedURLs", json!({ "urls": [] }));
        page.click_text("button", "Load the page again").await;
        page.until_text("Only the outer edge").await;
        page.click("nav[aria-label=Stations] a[href$='/tiers']").await;
        page.find("[data-mesh]:not([data-mesh=''])").await;
    });
}

#[test]
fn stations_and_dialogs_that_were_not_open_yet_are_there_while_the_server_is_away() {
    browse(|page| async move {
        let data = fresh_dir("rest");
        let server = TestServer::in_dir(&data);
        let view = server.post("/api/samples/ginkgo", None, &json!({})).1;
        let id = view["id"].as_str().unwrap().to_string();
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        let came = "return performance.getEntriesByType('resource').some((e) => e.name.includes('/to-another-'))";
        page.until(came, &json!(true)).await;
        drop(server);
        page.click("nav[aria-label=Stations] a[href$='/outline']").await;
        page.until_text("Only the outer edge").await;
        page.click("nav[aria-label=Stations] a[href$='/artwork']").await;
        page.find("[aria-label=Threshold]").await;
        page.click("[aria-label=Workshop]").await;
        page.find("[role=dialog]").await;
    });
}
