//! Beds: designs that are printed together.

use crate::common::{FRAME, TestServer, fresh_dir};
use crate::page::{Page, browse};
use fantoccini::key::Key;
use serde_json::{Value, json};

fn sample(server: &TestServer, name: &str) -> String {
    let view = server.post(&format!("/api/samples/{name}"), None, &json!({})).1;
    view["id"].as_str().unwrap().to_string()
}

/// The bed once it is as wanted.
async fn until_bed(server: &TestServer, id: &str, is_so: impl Fn(&Value) -> bool) -> Value {
    for _ in 0..400 {
        let bed = server.get_json(&format!("/api/beds/{id}"));
        if is_so(&bed) {
            return bed;
        }
        tokio::time::sleep(std::time::Duration::from_millis(25)).await;
    }
    panic!("the bed never came to be so: {}", server.get_json(&format!("/api/beds/{id}"))["document"]);
}

async fn id_of_page(page: &Page) -> String {
    page.until("return location.pathname.startsWith('/bed/')", &json!(true)).await;
    page.run("return location.pathname.split('/')[2]").await.as_str().unwrap().to_string()
}

fn pieces(bed: &Value) -> &Vec<Value> {
    bed["document"]["pieces"].as_array().unwrap()
}

#[test]
fn a_bed_is_filled_moved_by_hand_and_undone() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("beds"));
        let design = sample(&server, "ginkgo");
        page.goto(&server.url("/")).await;
        page.find(&format!("[data-design='{design}']")).await;
        page.click("[aria-label^='More about']").await;
        page.click_text("*[@role='menuitem']", "Put on a new bed").await;
        let id = id_of_page(&page).await;
        page.find("[data-piece='1']").await;
        page.type_into("Copies of Ginkgo leaf", "4").await;
        let four = until_bed(&server, &id, |b| pieces(b).len() == 4).await;
        assert!(pieces(&four).iter().all(|p| p["place"]["plate"] == json!(0)));
        assert_eq!(four["result"]["conflicts"], json!([]));
        page.find("[data-testid=print-time]").await;
        // Dragged onto another piece it is told, and the finding goes with undo.
        let from = page.middle("[data-piece='1']").await;
        let to = page.middle("[data-piece='2']").await;
        page.sweep(&[from, (f64::midpoint(from.0, to.0), from.1), to], 0);
        until_bed(&server, &id, |b| b["result"]["conflicts"][0]["kind"] == json!("overlap")).await;
        page.find("[data-conflict=overlap]").await;
        page.press(&format!("{}z{}", char::from(Key::Control), char::from(Key::Null))).await;
        until_bed(&server, &id, |b| b["document"] == four["document"]).await;
        page.until("return document.querySelectorAll('[data-conflict]').length", &json!(0)).await;
        // Chosen by key, turned by key, put where it is typed.
        let pose = |b: &Value| b["document"]["pieces"][1]["place"]["pose"]["x"].as_f64().unwrap();
        page.run("document.querySelector(\"[data-piece='2']\").focus()").await;
        page.press(&char::from(Key::Enter).to_string()).await;
        page.until("return document.querySelector(\"[data-piece='2']\").getAttribute('aria-pressed')", &json!("true"))
            .await;
        page.press("t").await;
        until_bed(&server, &id, |b| {
            let turn = |b: &Value| b["document"]["pieces"][1]["place"]["pose"]["degrees"].as_f64().unwrap();
            ((turn(b) - turn(&four)).rem_euclid(360.0) - 15.0).abs() < 1e-9
        })
        .await;
        page.type_into("From the left", "60 mm").await;
        until_bed(&server, &id, |b| (pose(b) - 60.0).abs() < 1e-9).await;
        page.click_text("button", "Arrange").await;
        until_bed(&server, &id, |b| b["undo"] == json!("Arranged")).await;
        // Somebody else, on another device, takes one off: it is seen.
        let there = server.get_json(&format!("/api/beds/{id}"));
        let count = pieces(&there).len();
        let off = json!({ "edits": [{ "kind": "remove", "pieces": [there["document"]["pieces"][0]["id"]] }] });
        assert_eq!(server.post(&format!("/api/beds/{id}/edits"), there["version"].as_i64(), &off).0, 200);
        page.until("return document.querySelectorAll('[data-piece]').length", &json!(count - 1)).await;
        // Layers of all of it.
        page.click_text("button", "Show layers").await;
        page.find("[aria-label=Layer]").await;
        page.find("[data-kind=outer]").await;
        // The solid beside the plan follows the slider.
        page.find("[data-bed-layer]").await;
        page.run("document.querySelector('[aria-label=Layer]').focus()").await;
        page.press(&char::from(Key::Home).to_string()).await;
        page.until("return document.querySelector('[data-drawn]').getAttribute('data-drawn')", &json!("1")).await;
        page.until("return document.querySelector('[data-bed-layer]').getAttribute('data-bed-layer')", &json!("1"))
            .await;
    });
}

#[test]
fn a_design_that_goes_is_told_on_its_bed_and_comes_back() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("bed-gone"));
        let (gone, stays) = (sample(&server, "ginkgo"), sample(&server, "snail"));
        let bed = server.post("/api/beds", None, &json!({ "designs": [gone, stays] })).1;
        let id = bed["id"].as_str().unwrap();
        assert_eq!(server.delete(&format!("/api/designs/{gone}")), 204);
        page.goto(&server.url(&format!("/bed/{id}"))).await;
        page.find("[data-conflict=no-object]").await;
        page.until_text("'Ginkgo leaf' cannot be printed: it was taken off the shelf").await;
        page.find("[data-testid=print-time]").await;
        server.post(&format!("/api/designs/{gone}/restore"), None, &json!({}));
        page.reload().await;
        page.find(&format!("[data-on-bed='{gone}']")).await;
        page.until("return document.querySelectorAll('[data-conflict]').length", &json!(0)).await;
        page.click_text("button", "Add designs").await;
        page.type_into("Search by name", "gink").await;
        page.until("return document.querySelectorAll(\"[aria-label='Designs on the shelf'] li\").length", &json!(1))
            .await;
        page.click("[aria-label='Designs on the shelf'] button").await;
        until_bed(&server, id, |b| pieces(b).len() == 3).await;
    });
}

#[test]
fn many_pictures_become_tags_on_a_bed_and_the_broken_one_says_why() {
    browse(|page| async move {
        let dir = fresh_dir("many");
        let server = TestServer::in_dir(&dir);
        let names = ["bean.svg", "leek.svg", "broken.png", "kale.svg"];
        let paths = names.map(|name| {
            let bytes: &[u8] = if name == "broken.png" { b"no picture" } else { FRAME.as_bytes() };
            std::fs::write(dir.join(name), bytes).unwrap();
            dir.join(name).to_string_lossy().into_owned()
        });
        page.goto(&server.url("/")).await;
        page.find("input[type=file]").await.send_keys(&paths.join("\n")).await.unwrap();
        page.until_text("4 pictures, one kind of object").await;
        page.type_into("Longest side at most", "50 mm").await;
        page.click_text("button", "Start").await;
        page.until_text("3 made, 1 refused").await;
        page.click_text("button", "Put all on a bed").await;
        let id = id_of_page(&page).await;
        let bed = until_bed(&server, &id, |b| pieces(b).len() == 3).await;
        let names: Vec<&Value> = bed["result"]["designs"].as_array().unwrap().iter().map(|d| &d["name"]).collect();
        assert_eq!(names, [&json!("Bean"), &json!("Leek"), &json!("Kale")]);
        for d in bed["result"]["designs"].as_array().unwrap() {
            let side = |k: usize| d["size"][k].as_f64().unwrap();
            assert!((side(0).max(side(1)) - 50.0).abs() < 0.05, "{}", d["size"]);
        }
        assert_eq!(bed["result"]["conflicts"], json!([]));
        // Back on the shelf they are found by name, and several leave it and come back at once.
        page.goto(&server.url("/")).await;
        page.type_into("Search the shelf", "k").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(3)).await;
        page.type_into("Search the shelf", "le").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(2)).await;
        page.click("[aria-label='Choose Leek']").await;
        page.click_text("button", "All").await;
        page.until_text("2 designs chosen").await;
        page.click_text("*[@aria-label='Chosen designs']//button", "Delete").await;
        page.until_text("2 designs off the shelf").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(0)).await;
        page.click_text("button", "Undo").await;
        page.until("return document.querySelectorAll('[data-design]').length", &json!(2)).await;
    });
}

#[test]
fn a_set_changes_together_and_what_one_has_of_its_own_stays() {
    browse(|page| async move {
        let dir = fresh_dir("set");
        let server = TestServer::in_dir(&dir);
        let ids: Vec<String> = ["ginkgo", "snail", "beetroot"]
            .map(|name| {
                let made = server.post(&format!("/api/samples/{name}"), None, &json!({})).1;
                let id = made["id"].as_str().unwrap().to_string();
                let edits = json!({ "edits": [{ "kind": "set-recipe", "recipe": "key-tag" }] });
                server.post(&format!("/api/designs/{id}/edits"), made["version"].as_i64(), &edits);
                id
            })
            .into();
        let of = |n: usize, name: &str| {
            let member = server.get_json(&format!("/api/designs/{}/member?limit=", ids[n]));
            let all = member["measures"].as_array().unwrap().clone();
            all.iter().find(|m| m["name"] == name).unwrap()["value"].as_f64().unwrap()
        };
        page.goto(&server.url("/")).await;
        page.click("[data-design] [aria-label^=Choose]").await;
        page.click_text("button", "All").await;
        page.click_text("button", "Work on together").await;
        page.type_into("Name", "Gate").await;
        page.until("return document.querySelectorAll('[data-member]').length", &json!(3)).await;
        page.until_text("a set of 3").await;
        // One measure for all.
        page.type_into("Thickness", "4 mm").await;
        for n in 0..3 {
            until(|| (of(n, "thickness") - 4.0).abs() < 1e-9).await;
        }
        // One of them alone: it is marked, and stays when the others change.
        let version = server.get_json(&format!("/api/designs/{}", ids[1]))["version"].as_i64();
        let own = json!({ "edits": [{ "kind": "set-measure", "name": "thickness", "value": "2.4 mm" }] });
        assert_eq!(server.post(&format!("/api/designs/{}/edits", ids[1]), version, &own).0, 200);
        page.reload().await;
        page.until_text("thickness 2.4 mm").await;
        page.until("return document.querySelectorAll('[data-differs]').length", &json!(1)).await;
        page.type_into("Thickness", "3.2 mm").await;
        for (n, mm) in [3.2, 2.4, 3.2].into_iter().enumerate() {
            until(|| (of(n, "thickness") - mm).abs() < 1e-9).await;
        }
        // What the first refuses is said, and nothing changes.
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        page.type_into("Thickness", "90 mm").await;
        page.until_text("Backing thickness can be 0.6 mm to 10 mm").await;
        page.click("[aria-label=Undo]").await;
        for (n, mm) in [4.0, 2.4, 4.0].into_iter().enumerate() {
            until(|| (of(n, "thickness") - mm).abs() < 1e-9).await;
        }
        page.until_text("thickness 2.4 mm").await;
        page.click_text("button", "Make it like the others").await;
        until(|| (of(1, "thickness") - 4.0).abs() < 1e-9).await;
        // A picture that comes later is like the others.
        let bean = dir.join("bean.svg");
        std::fs::write(&bean, FRAME).unwrap();
        page.until("return document.querySelectorAll('[data-differs]').length", &json!(0)).await;
        page.find("[aria-label='Pictures to add']").await.send_keys(&bean.to_string_lossy()).await.unwrap();
        page.until("return document.querySelectorAll('[data-member]').length", &json!(4)).await;
        let added = server.get_json("/api/designs").as_array().unwrap().clone();
        let bean = added.iter().find(|d| d["name"] == "Bean").unwrap();
        assert_eq!(bean["labels"], json!(["Gate"]));
        page.until("return document.querySelectorAll('[data-differs]').length", &json!(0)).await;
        page.click_text("button", "Put all on a bed").await;
        let bed = id_of_page(&page).await;
        until_bed(&server, &bed, |b| pieces(b).len() == 4).await;
    });
}

/// Waits for something that the server will say.
async fn until(is: impl Fn() -> bool) {
    for _ in 0..200 {
        if is() {
            return;
        }
        tokio::time::sleep(std::time::Duration::from_millis(50)).await;
    }
    panic!("it did not come");
}
