//! Plain to whoever sits there: reasons, steps with plans, names of files, the reader's own numbers and colours.

use crate::common::{TestServer, fresh_dir};
use crate::page::{Page, browse};
use fantoccini::key::Key;
use serde_json::json;

/// A cutter of the ginkgo leaf whose wall was made 16, 17 and 18 mm high.
async fn stepped(page: &Page) -> (TestServer, String) {
    let server = TestServer::in_dir(&fresh_dir("plain"));
    let id = server.post("/api/samples/ginkgo", None, &json!({})).1["id"].as_str().unwrap().to_string();
    for (version, height) in [(1, 16), (2, 17), (3, 18)] {
        let edit = json!({ "edits": [{ "kind": "set-measure", "name": "wall-height", "value": height }] });
        assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(version), &edit).0, 200);
    }
    page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
    page.find("[data-measure=wall-height] input").await;
    (server, id)
}

#[test]
fn steps_of_undo_are_a_list_with_plans_and_a_press_goes_there() {
    browse(|page| async move {
        let (server, id) = stepped(&page).await;
        page.click("[aria-label='Steps of undo']").await;
        page.until_text("Wall 17 mm high").await;
        let drawn = "return [...document.querySelectorAll('[data-step] img')].filter(i => i.naturalWidth > 0).length";
        page.until(drawn, &json!(4)).await;
        page.click("[data-step='2']").await;
        page.until("return document.querySelector('[data-measure=wall-height] input').value", &json!("16.0")).await;
        assert_eq!(server.get_json(&format!("/api/designs/{id}"))["document"]["measures"]["wall-height"], json!(16.0));
        // Those that were taken back stand above, and are gone to as well.
        page.click("[aria-label='Steps of undo']").await;
        page.until_text("taken back").await;
        page.click("[data-step='4']").await;
        page.until("return document.querySelector('[data-measure=wall-height] input').value", &json!("18.0")).await;
    });
}

#[test]
fn any_two_states_lie_beside_each_other() {
    browse(|page| async move {
        let (_server, _) = stepped(&page).await;
        page.click("[aria-label=Snapshots]").await;
        page.click("[aria-label='Steps of undo'] li:nth-child(1) button").await;
        page.until_text("18.00 mm").await;
        page.click("[aria-label='Laid beside']").await;
        page.click_text("*[@role='option']", "After: Wall 16 mm high").await;
        let table = "return (document.querySelector('[aria-label=\"What differs\"]')?.innerText ?? '')";
        page.until(&format!("{table}.includes('16.00 mm')"), &json!(true)).await;
        page.until(&format!("{table}.includes('18.00 mm')"), &json!(false)).await;
    });
}

#[test]
fn a_button_that_is_off_says_why_and_keeps_the_focus() {
    browse(|page| async move {
        let (_server, _) = stepped(&page).await;
        let undo = char::from(Key::Enter).to_string();
        page.run("document.querySelector('[aria-label=Undo]').focus()").await;
        for left in [17, 16, 15] {
            page.press(&undo).await;
            let value = "return document.querySelector('[data-measure=wall-height] input').value";
            page.until(value, &json!(format!("{left}.0"))).await;
        }
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!("true")).await;
        assert_eq!(page.run("return document.activeElement.ariaLabel").await, json!("Undo"));
        // Pressed once more it does nothing, and says so.
        page.press(&undo).await;
        page.run("document.activeElement.blur()").await;
        page.run("document.querySelector('[aria-label=Undo]').focus()").await;
        page.until_text("Nothing to undo").await;
    });
}

#[test]
fn the_focus_goes_to_what_took_the_place_of_what_is_gone() {
    browse(|page| async move {
        let (server, id) = stepped(&page).await;
        let add = |width: f64| {
            let spot = server.get_json(&format!("/api/designs/{id}"))["result"]["patches"][0].clone();
            let on = json!([{ "at": spot["at"], "is_ink": spot["is_ink"] }]);
            json!({ "edits": [{ "kind": "add-change", "change": { "do": "rim", "on": on, "width": width } }] })
        };
        for (version, width) in [(4, 1.0), (5, 2.0)] {
            let (status, answer) = server.post(&format!("/api/designs/{id}/edits"), Some(version), &add(width));
            assert_eq!(status, 200, "{answer}");
        }
        page.goto(&server.url(&format!("/design/{id}/outline"))).await;
        page.until("return document.querySelectorAll('[aria-label=\"Remove Rim\"]').length", &json!(2)).await;
        page.run("document.querySelector('[aria-label=\"Remove Rim\"]').focus()").await;
        page.press(&char::from(Key::Enter).to_string()).await;
        page.until("return document.querySelectorAll('[aria-label=\"Remove Rim\"]').length", &json!(1)).await;
        let is_in_list = "return document.activeElement.closest('[aria-label=\"Changes of the outline\"]') !== null";
        page.until(is_in_list, &json!(true)).await;
        // A dialog gives it back to what opened it, also when that was an item of a menu.
        page.run("[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Take home')).focus()")
            .await;
        page.press(&char::from(Key::Enter).to_string()).await;
        page.find("[role=menuitem]").await;
        page.press(&char::from(Key::End).to_string()).await;
        page.until_focus("menuitem", "Several, or other names…").await;
        page.press(&char::from(Key::Enter).to_string()).await;
        page.find("[role=dialog]").await;
        page.press(&char::from(Key::Escape).to_string()).await;
        page.until("return document.activeElement.innerText.startsWith('Take home')", &json!(true)).await;
    });
}

#[test]
fn several_files_are_taken_at_once_under_names_of_a_pattern() {
    browse(|page| async move {
        let (server, _) = stepped(&page).await;
        // What the browser would download.
        page.run("window.taken = []; HTMLAnchorElement.prototype.click = function () { window.taken.push(this.href) }")
            .await;
        page.click_text("button", "Take home").await;
        page.click_text("*[@role='menuitem']", "Several, or other names…").await;
        page.click_text("label", "Outline as SVG").await;
        page.click("[aria-label='Add {width} to the name']").await;
        let name = "return document.querySelector('[data-testid=file-name]').innerText";
        page.until(&format!("{name}.match(/^Ginkgo-?\\w*-\\d+mm\\.zip$/) !== null"), &json!(true)).await;
        page.click_text("button", "Take 3 files").await;
        page.until("return window.taken.length", &json!(1)).await;
        let taken = page.run("return window.taken[0]").await;
        assert!(taken.as_str().unwrap().ends_with("/files.zip?formats=stl,3mf,svg"), "{taken}");
        assert_eq!(server.get_json("/api/workshop")["workshop"]["file_names"], json!("{design} {width}"));
        // What was chosen and typed is there again; what cannot be is told in its place.
        page.click_text("button", "Take home").await;
        page.click_text("*[@role='menuitem']", "Several, or other names…").await;
        page.until("return document.querySelectorAll('[role=dialog] input:checked').length", &json!(3)).await;
        page.run("const f = document.querySelector('[role=dialog] input:not([type=checkbox])'); f.focus(); f.select()")
            .await;
        page.press("{colour}").await;
        page.until_text("There is no {colour}").await;
    });
}

#[test]
fn an_outline_is_taken_to_another_design() {
    browse(|page| async move {
        let (server, id) = stepped(&page).await;
        let other = server.post("/api/samples/hedgehog", None, &json!({})).1["id"].as_str().unwrap().to_string();
        page.goto(&server.url(&format!("/design/{id}/outline"))).await;
        page.click_text("button", "To another design…").await;
        page.click("[aria-label='Other designs'] button").await;
        page.until(&format!("return location.pathname === '/design/{other}/tiers'"), &json!(true)).await;
        let design = |id: &str| server.get_json(&format!("/api/designs/{id}"));
        assert_eq!(design(&other)["document"]["artwork"], design(&id)["document"]["artwork"]);
        assert_eq!(design(&other)["document"]["measures"], json!({}), "its own measures stay");
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        page.click("[aria-label=Undo]").await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!("true")).await;
        assert_ne!(design(&other)["document"]["artwork"], design(&id)["document"]["artwork"]);
    });
}

#[test]
fn numbers_dates_and_colours_are_the_readers_own() {
    browse(|page| async move {
        let agent = page.run("return navigator.userAgent").await;
        page.devtools("Emulation.setUserAgentOverride", json!({ "userAgent": agent, "acceptLanguage": "de-DE" }));
        let colours = json!({ "features": [{ "name": "forced-colors", "value": "active" }] });
        page.devtools("Emulation.setEmulatedMedia", colours);
        let (_server, _) = stepped(&page).await;
        let field = "return document.querySelector('[data-measure=wall-height] input').value";
        page.until(field, &json!("18,0")).await;
        page.type_into("Height", "17,5").await;
        page.until("return document.querySelector('[data-testid=facts]').innerText.includes('17,5')", &json!(true))
            .await;
        assert_eq!(page.run("return document.documentElement.lang").await, json!("en"), "the words are English");
        // A button has a border, and what is pressed the reader's own colour.
        let of = |css: &str, what: &str| format!("return getComputedStyle(document.querySelector(\"{css}\")).{what}");
        assert_eq!(page.run(&of("[aria-label=Snapshots]", "borderTopWidth")).await, json!("1px"));
        page.click("[aria-label='See through']").await;
        page.find("[aria-label='See through'][aria-pressed=true]").await;
        let probe = "const p = document.createElement('i'); p.style.color = 'Highlight'; document.body.append(p); \
            const c = getComputedStyle(p).color; p.remove(); return c";
        let own = page.run(probe).await;
        page.until(&of("[aria-pressed=true]", "backgroundColor"), &own).await;
    });
}

#[test]
fn a_finger_that_rests_asks_and_means_it_as_well() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("rests"));
        let id = server.post("/api/samples/hedgehog", None, &json!({})).1["id"].as_str().unwrap().to_string();
        page.screen(1024, 768, 1, true);
        page.goto(&server.url(&format!("/design/{id}/outline"))).await;
        page.find("[data-patch='1']").await;
        let rest = async |at: (f64, f64)| {
            page.touch("touchStart", &[at]);
            tokio::time::sleep(std::time::Duration::from_millis(700)).await;
            page.touch("touchEnd", &[]);
        };
        // Two patches that no other lies on: each by the middle of its own box.
        let middles = "return [...document.querySelectorAll('[data-patch]')].map((p) => {
            const r = p.getBoundingClientRect();
            const at = [r.x + r.width / 2, r.y + r.height / 2];
            return document.elementFromPoint(...at)?.closest('[data-patch]') === p ? at : null;
        }).filter(Boolean).slice(0, 2)";
        page.until(&format!("return (() => {{ {middles} }})().length"), &json!(2)).await;
        let found = page.run(middles).await;
        let place = |k: usize| (found[k][0].as_f64().unwrap(), found[k][1].as_f64().unwrap());
        page.touch("touchStart", &[place(0)]);
        page.touch("touchEnd", &[]);
        page.until_text("One patch").await;
        rest(place(1)).await;
        page.until_text("2 patches").await;
        // A button that is held shows its words, and is not pressed.
        rest(page.middle("[aria-label=Snapshots]").await).await;
        page.until_text("Snapshots: keep, compare, go back").await;
        assert_eq!(page.count("[role=dialog]").await, 0);
        // What lies under it on the section is named. Of a high wall: a finger near a handle takes the handle.
        let edit = json!({ "edits": [{ "kind": "set-measure", "name": "wall-height", "value": 40 }] });
        assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(1), &edit).0, 200);
        page.goto(&server.url(&format!("/design/{id}/tiers"))).await;
        page.find("[data-cut=wall]").await;
        let bare =
            "const faces = [...document.querySelectorAll('[data-cut=wall]')].map((p) => p.getBoundingClientRect());
            const r = faces.sort((a, b) => b.width - a.width)[0];
            return r ? [r.x + r.width / 2, r.y + r.height * 0.6] : null";
        page.until(&format!("return (() => {{ {bare} }})() !== null"), &json!(true)).await;
        let at = page.run(bare).await;
        rest((at[0].as_f64().unwrap(), at[1].as_f64().unwrap())).await;
        page.until_text("Wall: 0.0 to 40.0 mm").await;
    });
}

#[test]
fn arrow_keys_walk_along_a_row_of_tools() {
    browse(|page| async move {
        let (server, id) = stepped(&page).await;
        page.goto(&server.url(&format!("/design/{id}/outline"))).await;
        page.find("[role=toolbar][aria-label='Tools on the outline'] button").await;
        let focus = "return document.activeElement.innerText.trim()";
        page.run("document.querySelector('[aria-label=\"Tools on the outline\"] button').focus()").await;
        page.press(&char::from(Key::Right).to_string()).await;
        page.until(focus, &json!("Pen")).await;
        page.press(&char::from(Key::End).to_string()).await;
        page.until(focus, &json!("Measure")).await;
        page.press(&char::from(Key::Right).to_string()).await;
        page.until(focus, &json!("Choose")).await;
    });
}
