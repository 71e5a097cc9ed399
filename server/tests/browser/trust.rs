//! What is damaged on the disk is set aside, and the rest goes on.

use crate::common::{TestServer, fresh_dir};
use crate::page::browse;
use diesel::prelude::*;
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
        page.goto(&server.url("/")).await;
        page.find(&format!("[data-design='{sound}'] a[aria-label^=Open]")).await;
        page.until_text("is not what was written there").await;
        page.click_text("button", "Go back to the state before").await;
        page.find(&format!("[data-design='{hurt}'] a[aria-label='Open Ginkgo leaf']")).await;
        assert_eq!(server.get(&format!("/api/designs/{hurt}")).status(), 200);
    });
}
