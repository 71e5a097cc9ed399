//! Tiers in the browser: recipes, own tiers, finishes, bars, filaments, the workshop and snapshots.

use crate::common::{TestServer, fresh_dir};
use crate::page::{Page, browse};
use crate::{drop_picture, picture, until_size};
use fantoccini::key::Key;
use serde_json::json;

/// Types into the first field of a group of measures.
pub(crate) async fn type_in_group(page: &Page, group: &str, text: &str) {
    let field = format!(
        "const f = [...document.querySelectorAll('fieldset')].find(f => f.querySelector('legend')?.textContent === {}).querySelector('input'); f.focus(); f.select()",
        json!(group)
    );
    page.run(&field).await;
    page.press(&format!("{text}{}", char::from(Key::Enter))).await;
}

pub(crate) async fn choose(page: &Page, label: &str, option: &str) {
    page.click(&format!("button[role=combobox][aria-label={}]", json!(label))).await;
    page.click_text("*[@role='option']", option).await;
}

async fn at_tiers(page: &Page, server: &TestServer, name: &str) {
    drop_picture(page, server, &picture(name)).await;
    page.press("3").await;
    page.find("[data-testid=stack]").await;
}

#[test]
fn a_recipe_is_chosen_and_changed_back_and_its_choices_by_mouse_and_keys() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("recipes"));
        at_tiers(&page, &server, "a.svg").await;
        until_size(&page, "× 15.0").await;
        page.click("button[aria-label^=Recipe]").await;
        page.click_text("button", "Coaster").await;
        until_size(&page, "× 5.0").await;
        // By keys: open the list, one further, take it.
        choose(&page, "Form", "Square").await;
        until_size(&page, "80.0 × 80.0").await;
        page.run("document.querySelector('button[role=combobox][aria-label=Form]').focus()").await;
        let (enter, down) = (char::from(Key::Enter), char::from(Key::Down));
        page.press(&enter.to_string()).await;
        // Each key for what has the focus by then.
        page.until_focus("option", "Square").await;
        page.press(&down.to_string()).await;
        page.until_focus("option", "Hexagon").await;
        page.press(&enter.to_string()).await;
        until_size(&page, "80.0 × 92.4").await;
        page.click("[aria-label=Undo]").await;
        until_size(&page, "80.0 × 80.0").await;
        page.click("button[aria-label^=Recipe]").await;
        page.click_text("button", "Key tag").await;
        page.find("[data-stack=backing]").await;
        page.click("[aria-label=Undo]").await;
        page.find("[data-stack=plate]").await;
    });
}

#[test]
fn finishes_and_heights_are_moved_in_the_section() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("finish"));
        at_tiers(&page, &server, "a.svg").await;
        page.find("[data-handle='taper-in']").await;
        page.run("document.querySelector('[data-handle=\"taper-in\"]').focus()").await;
        page.press(&char::from(Key::Up).to_string()).await;
        let value = |name: &str| {
            format!("return document.querySelector('[data-handle=\"{name}\"]').getAttribute('aria-valuenow')")
        };
        page.until(&value("taper-in"), &json!("0.6")).await;
        page.drag_up("[data-handle='taper-down'] path", -20).await;
        page.until(&format!("{} > 3", value("taper-down")), &json!(true)).await;
        page.click("[aria-label=Undo]").await;
        page.until(&value("taper-down"), &json!("3")).await;
        // The stamp lines hang from the wall's top: their handle goes the other way.
        page.run("document.querySelector('[data-handle=\"stamp-under-wall\"]').focus()").await;
        page.press(&char::from(Key::Down).to_string()).await;
        page.until(&value("stamp-under-wall"), &json!("3.2")).await;
        // The line is turned by keys, ten degrees with Shift.
        page.run("document.querySelector('[data-handle=section-turn]').focus()").await;
        page.press(&format!("{}{}", char::from(Key::Shift), char::from(Key::Up))).await;
        page.until_text("turned by 10°").await;
    });
}

#[test]
fn own_tiers_bars_and_filaments() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("own"));
        at_tiers(&page, &server, "a.svg").await;
        page.click("[aria-label='Add a tier']").await;
        page.click_text("*[@role='menuitem']", "Tier of the whole edge").await;
        page.find("[data-stack='own-1']").await;
        page.click_text("li[@data-stack='own-1']//button", "Tier 1").await;
        page.type_into("To", "4 mm").await;
        page.until("return document.querySelector(\"[data-stack='own-1']\").innerText.includes('4.0')", &json!(true))
            .await;
        choose(&page, "Upper edge", "Round").await;
        page.until_text("Direction").await;
        choose(&page, "Filament of Tier 1", "Cobalt").await;
        page.until_text("1 finding").await;
        page.click("[aria-label='More of Tier 1']").await;
        page.click_text("*[@role='menuitem']", "Remove").await;
        page.until("return document.querySelectorAll(\"[data-stack='own-1']\").length", &json!(0)).await;
        // The recipe's flange becomes the maker's own, and is the recipe's again by undo.
        // A thin thing's heights are drawn higher, which the drawing says; what is dragged then moves by as much less.
        page.click("[aria-label='Heights 1 times']").await;
        page.click("[aria-label='Heights 2 times']").await;
        page.until("return document.querySelector('[data-stretch]')?.textContent.includes('4 times')", &json!(true))
            .await;
        page.click("[aria-label='Heights 4 times']").await;
        page.until("return document.querySelector('[data-stretch]') === null", &json!(true)).await;
        page.click("[aria-label='Make Flange your own']").await;
        page.until("return document.querySelectorAll(\"[data-stack=flange]\").length", &json!(0)).await;
        page.click("[aria-label=Undo]").await;
        page.find("[data-stack=flange]").await;
        // A large ring has two bars. A bar's end is nudged by keys, and Delete takes it away; bars are found again from the menu.
        page.run("document.querySelector('[data-bar] circle').focus()").await;
        page.press(&char::from(Key::Up).to_string()).await;
        page.until(
            "return document.querySelector('[aria-label=Undo]').title + document.querySelectorAll('[data-bar]').length",
            &json!("2"),
        )
        .await;
        page.run("document.querySelector('[data-bar] circle').focus()").await;
        page.press(&char::from(Key::Delete).to_string()).await;
        page.until("return document.querySelectorAll('[data-bar]').length", &json!(1)).await;
        page.click("[aria-label='Tie bars']").await;
        page.click_text("*[@role='menuitem']", "Find bars again").await;
        page.until("return document.querySelectorAll('[data-bar]').length", &json!(2)).await;
    });
}

#[test]
fn the_workshop_and_snapshots() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("workshop"));
        at_tiers(&page, &server, "a.svg").await;
        page.until_text("75 layers").await;
        page.click("[aria-label=Workshop]").await;
        page.type_into("Layer of Practice printer", "9").await;
        page.click_text("*[@role='dialog']//button", "Save").await;
        page.until_text("0.02 to 0.32").await;
        page.type_into("Layer of Practice printer", "0.3").await;
        page.click_text("*[@role='dialog']//button", "Save").await;
        page.until_text("50 layers").await;
        page.click("[aria-label=Snapshots]").await;
        page.type_into("Name of the snapshot", "Before").await;
        page.press(&char::from(Key::Enter).to_string()).await;
        page.until_text("Cutter with stamp · ").await;
        page.press(&char::from(Key::Escape).to_string()).await;
        page.until("return document.querySelectorAll('[role=dialog]').length", &json!(0)).await;
        page.type_into("Height", "20 mm").await;
        until_size(&page, "× 20.0").await;
        page.click("[aria-label=Snapshots]").await;
        page.click_text("*[@role='dialog']//li//button", "Before").await;
        page.until_text("Wall, height").await;
        // Both stand side by side, as they are printed and in use.
        page.click_text("*[@role='dialog']//button", "solids").await;
        page.until("return document.querySelectorAll('[role=dialog] canvas[data-engine]').length", &json!(2)).await;
        page.click_text("*[@role='dialog']//button", "in use").await;
        page.until("return document.querySelectorAll('[role=dialog] [data-use]').length", &json!(2)).await;
        page.click_text("*[@role='dialog']//button", "Go back to it").await;
        until_size(&page, "× 15.0").await;
        page.click("[aria-label=Undo]").await;
        until_size(&page, "× 20.0").await;
        // A step of undo is such a state, too; at Check they are at hand.
        page.press("4").await;
        page.click_text("button", "Compare with an earlier state").await;
        page.click("[aria-label='Steps of undo'] li:last-child button").await;
        page.until_text("× 15.00 mm").await;
    });
}

#[test]
fn heights_are_typed_in_a_table_and_the_solid_shows_its_measures() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("heights"));
        at_tiers(&page, &server, "a.svg").await;
        until_size(&page, "× 15.0").await;
        page.click("[aria-label='Table of heights']").await;
        page.find("[data-heights=bed]").await;
        page.type_into("Wall", "12.25").await;
        until_size(&page, "× 12.3").await;
        page.until_text("61 layers, 12.2 mm").await;
        // Above what is below: the stamp lines, from the flange's 2 mm.
        page.click_text("button", "heights from the bed").await;
        page.find("[data-heights=above]").await;
        page.type_into("Stamp lines", "5 mm").await;
        page.until_text("35 layers").await;
        page.until(
            "return document.querySelector('[data-handle=\"stamp-under-wall\"]').getAttribute('aria-valuenow')",
            &json!("5.25"),
        )
        .await;
        page.click("[aria-label=Undo]").await;
        page.click("[aria-label=Undo]").await;
        until_size(&page, "× 15.0").await;
        // The way they are shown is kept for the next design, too.
        page.reload().await;
        page.until_text("above what is below").await;
        page.click("button[aria-label=Measures]").await;
        page.until("return document.querySelector('[data-solid-measure=height]')?.innerText", &json!("15.0 mm")).await;
        page.until("return document.querySelectorAll('[data-solid-measure]').length", &json!(3)).await;
        page.click("button[aria-label=Measures]").await;
        page.until("return document.querySelectorAll('[data-solid-measure]').length", &json!(0)).await;
    });
}

#[test]
fn a_filament_that_was_deleted_is_told_and_mended() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("gone"));
        at_tiers(&page, &server, "a.svg").await;
        choose(&page, "Filament of Flange", "Oxblood").await;
        page.until("return document.querySelector('[aria-label=Undo]').ariaDisabled", &json!(null)).await;
        page.click("[aria-label=Workshop]").await;
        page.click("[aria-label='Remove Oxblood']").await;
        page.click_text("*[@role='dialog']//button", "Save").await;
        page.until("return document.querySelectorAll('[role=dialog]').length", &json!(0)).await;
        page.reload().await;
        page.find("[data-stack=flange]").await;
        page.press("4").await;
        page.until_text("oxblood").await;
        page.click_text("button", "Use the usual filament").await;
        page.until("return document.body.innerText.includes('Use the usual filament')", &json!(false)).await;
        page.press("3").await;
        page.find("[data-stack=flange]").await;
    });
}
