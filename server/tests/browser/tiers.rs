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
        let covered = "return [...document.querySelectorAll('section[aria-label=Section] [data-handle] rect:first-child')].filter((e) => {
            const r = e.getBoundingClientRect();
            return !e.parentElement.contains(document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2));
        }).map((e) => e.parentElement.dataset.handle)";
        assert_eq!(page.run(covered).await, json!([]), "handles lie on each other");
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

/// Drawn elsewhere, a plan is painted anew: that took longer than all that a dragged height computes.
#[test]
fn the_plan_stays_where_it_is_while_a_height_is_dragged() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("still"));
        at_tiers(&page, &server, "a.svg").await;
        let value = "return Number(document.querySelector('[data-handle=wall-height]').getAttribute('aria-valuenow'))";
        let high = "return document.querySelector('section[aria-label=Section]').getBoundingClientRect().height";
        let (x, y) = page.middle("[data-handle=wall-height]").await;
        let (before, stands) = (page.run(value).await.as_f64().unwrap(), page.run(high).await.as_f64().unwrap());
        page.mouse("mouseHovered", (x, y), 0);
        page.mouse("mousePressed", (x, y), 0);
        page.mouse("mouseMoved", (x, y + 12.0), 0);
        page.until(&format!("{value} < {before}"), &json!(true)).await;
        assert_eq!(page.run(high).await.as_f64().unwrap(), stands);
        // More than there is room for: the section takes a step.
        page.mouse("mouseMoved", (x, y - 30.0), 0);
        page.until(&format!("{value} > {before}"), &json!(true)).await;
        let taller = page.run(high).await.as_f64().unwrap();
        assert!(taller > stands && taller <= stands + 96.0, "{taller} of {stands}");
        page.mouse("mouseReleased", (x, y - 30.0), 0);
        // Let go, plan and section share the room anew.
        page.until(&format!("{high} !== {taller}"), &json!(true)).await;
    });
}

#[test]
fn a_finish_is_dragged_to_nothing_and_back_and_is_let_go() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("nothing"));
        at_tiers(&page, &server, "a.svg").await;
        let value = "return document.querySelector('[data-handle=taper-in]')?.getAttribute('aria-valuenow') ?? 'none'";
        let was = page.run(value).await;
        let (x, y) = page.middle("[data-handle=taper-in] .grip").await;
        page.mouse("mouseHovered", (x, y), 0);
        page.mouse("mousePressed", (x, y), 0);
        page.mouse("mouseMoved", (x + 60.0, y), 0);
        page.until(value, &json!("0")).await;
        page.mouse("mouseMoved", (x, y), 0);
        page.until(value, &was).await;
        page.mouse("mouseMoved", (x + 60.0, y), 0);
        page.until(value, &json!("0")).await;
        page.mouse("mouseReleased", (x + 60.0, y), 0);
        // A square edge has no handle; the undo's name is what was done.
        page.until(value, &json!("none")).await;
        // Layers are told while nothing is held: the drawings do not follow a hand any more.
        let told = "return [...document.querySelectorAll('section[aria-label=Section] svg > text')].some((t) => t.textContent.endsWith(' layers'))";
        page.until(told, &json!(true)).await;
        page.click("[aria-label=Undo]").await;
        page.until(value, &was).await;
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
