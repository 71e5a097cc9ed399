//! What patches are for: many at a time, by colour, and drawn by hand where nothing is traced.

use crate::common::{TestServer, fresh_dir};
use crate::drop_picture;
use crate::outline::{SHIFT, at_outline, outline_of, until_design, until_patches};
use crate::page::browse;
use fantoccini::key::Key;
use serde_json::{Value, json};

fn uses(d: &Value) -> Vec<&str> {
    d["result"]["patches"].as_array().unwrap().iter().map(|p| p["use"].as_str().unwrap()).collect()
}

#[test]
fn many_patches_get_their_use_at_once_by_buttons_and_keys() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        // All of them, by keys alone.
        page.run("document.querySelector(\"[aria-label='Plan']\").focus()").await;
        page.press(&format!("{}a{}", char::from(Key::Control), char::from(Key::Null))).await;
        page.until_text("3 patches").await;
        page.press("b").await;
        until_design(&server, &id, |d| uses(d) == ["both"; 3]).await;
        // One is chosen by a click, the others as they are like it; one press of a button for all.
        page.press(&char::from(Key::Escape).to_string()).await;
        page.until("return document.querySelectorAll('[data-testid=uses]').length", &json!(0)).await;
        page.click_at(page.middle("[data-patch='1']").await, 0);
        page.until_text("One patch").await;
        page.click_text("div[@data-testid='uses']//button", "All like this").await;
        page.click_text("*[@role='menuitem']", "Of the same size").await;
        page.until_text("3 patches").await;
        page.click_text("div[@data-testid='uses']//button", "Edge").await;
        until_design(&server, &id, |d| uses(d) == ["edge"; 3]).await;
        // An opening in one of them, spelled out in the list.
        page.click_at(page.middle("[data-patch='2']").await, 0);
        page.until_text("One patch").await;
        page.press("o").await;
        until_design(&server, &id, |d| uses(d) == ["edge", "edge", "opening"]).await;
        page.find("[data-patch='2'][data-use=opening]").await;
        page.find("[data-row='2'] [aria-label$=': Opening']").await;
        page.click("[data-row='2'] [aria-haspopup=menu]").await;
        page.click_text("*[@role='menuitem']", "Detail").await;
        until_design(&server, &id, |d| uses(d) == ["edge", "edge", "detail"]).await;
        // One undo for many.
        page.click_at(page.middle("[data-patch='0']").await, SHIFT);
        page.until_text("2 patches").await;
        page.press("a").await;
        until_design(&server, &id, |d| uses(d) == ["aside", "edge", "aside"]).await;
        page.click("[aria-label=Undo]").await;
        until_design(&server, &id, |d| uses(d) == ["edge", "edge", "detail"]).await;
    });
}

#[test]
fn every_colour_gets_its_filament_in_one_press() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("colours"));
        let file = fresh_dir("picture").join("badge.svg");
        let svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 200 100'><rect x='10' y='10' width='180' height='80' fill='#26468c'/>\
            <circle cx='60' cy='50' r='20' fill='#d9974f'/><circle cx='140' cy='50' r='20' fill='#22cc22'/></svg>";
        std::fs::write(&file, svg).unwrap();
        let id = outline_of(&page, &server, &file).await;
        until_patches(&page, 3).await;
        server.post(
            &format!("/api/designs/{id}/edits"),
            Some(1),
            &json!({ "edits": [{ "kind": "set-recipe", "recipe": "key-tag" }] }),
        );
        page.reload().await;
        page.click_text("button", "Colours to filaments").await;
        let d = until_design(&server, &id, |d| d["document"]["paints"].as_array().unwrap().len() == 3).await;
        let filament = |colour: [u8; 3]| {
            let patches = d["result"]["patches"].as_array().unwrap();
            patches.iter().find(|p| p["colour"] == json!(colour)).unwrap()["filament"].as_str().unwrap().to_string()
        };
        let found = [[0x26, 0x46, 0x8c], [0xd9, 0x97, 0x4f], [0x22, 0xcc, 0x22]].map(filament);
        assert_eq!(found, ["cobalt", "honey", "colour-22cc22"]);
        // What shapes the edge is drawn too, so that no colour is lost, and the backing takes its colour: three filaments, three parts.
        assert_eq!(uses(&d)[0], "both");
        assert_eq!(d["document"]["filaments"]["backing"], "cobalt");
        assert_eq!(d["result"]["solid"]["parts"].as_array().unwrap().len(), 3);
        let workshop: Value = server.get_json("/api/workshop");
        assert!(workshop["workshop"]["filaments"].as_array().unwrap().iter().any(|f| f["id"] == "colour-22cc22"));
        // A tier for each colour in place of the recipe's details.
        page.press("3").await;
        page.find("[data-stack=details] [data-spools='3']").await;
        page.click("[aria-label='Add a tier']").await;
        page.click_text("*[@role='menuitem']", "A tier for each colour, in steps").await;
        let d = until_design(&server, &id, |d| d["document"]["tiers"].as_array().unwrap().len() == 3).await;
        let tops: Vec<f64> =
            d["document"]["tiers"].as_array().unwrap().iter().map(|t| t["to"].as_f64().unwrap()).collect();
        assert_eq!(tops, [3.8, 4.6, 5.4]);
        page.click("[aria-label=Undo]").await;
        until_design(&server, &id, |d| d["document"]["tiers"].as_array().unwrap().is_empty()).await;
    });
}

#[test]
fn a_blank_picture_is_drawn_on_by_hand() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("blank"));
        let file = fresh_dir("picture").join("blank.png");
        image::GrayImage::from_pixel(400, 300, image::Luma([250])).save(&file).unwrap();
        page.goto(&server.url("/")).await;
        page.find("input[type=file]").await.send_keys(&file.to_string_lossy()).await.unwrap();
        page.until_text("Nothing of the picture is followed").await;
        page.press("2").await;
        page.until_text("draw over the picture").await;
        let id = page.client().current_url().await.unwrap().path().split('/').nth(2).unwrap().to_string();
        let (x, y) = page.middle("[aria-label='Plan']").await;
        page.press("p").await;
        page.find("[aria-pressed=true][title^=Pen]").await;
        let corners = [(x - 120.0, y - 80.0), (x + 120.0, y - 80.0), (x, y + 90.0)];
        for at in corners {
            page.click_at(at, 0);
            tokio::time::sleep(std::time::Duration::from_millis(450)).await;
        }
        // Left open, it is seen with its ends ringed, though nothing else is there.
        page.press(&char::from(Key::Enter).to_string()).await;
        page.find("[data-open-line]").await;
        let view = "const d = document.querySelector(\"[aria-label='Plan']\"); return d.dataset.scale";
        let scale = page.run(view).await;
        page.click("[aria-label=Undo]").await;
        page.until("return document.querySelectorAll('[data-open-line]').length", &json!(0)).await;
        for at in corners.into_iter().chain([corners[0]]) {
            page.click_at(at, 0);
            tokio::time::sleep(std::time::Duration::from_millis(450)).await;
        }
        // Closed, it is the edge, and the view stays where it was.
        let d = until_design(&server, &id, |d| d["result"]["solid"]["bodies"] == json!(1)).await;
        assert_eq!(uses(&d), ["edge"]);
        assert!((d["result"]["outline"]["width"].as_f64().unwrap() - 90.0).abs() < 0.1, "the usual size");
        assert_eq!(page.run(view).await, scale);
    });
}

#[test]
fn the_sheet_in_a_photo_is_found_and_gives_the_true_size() {
    browse(|page| async move {
        let server = TestServer::in_dir(&fresh_dir("sheet"));
        // Three pixels a millimetre: A4 upright on a grained table, a dark disc of 90 mm on it.
        let photo = image::GrayImage::from_fn(830, 1080, |x, y| {
            let (mx, my) = ((f64::from(x) - 100.0) / 3.0, (f64::from(y) - 90.0) / 3.0);
            let grain = 95.0 + 12.0 * (f64::from(y) / 13.0 + (f64::from(x) / 70.0).sin()).sin();
            let is_sheet = (0.0..210.0).contains(&mx) && (0.0..297.0).contains(&my);
            let is_disc = (mx - 100.0).hypot(my - 150.0) < 45.0;
            let noise = f64::from((x * 29 + y * 13) % 7) - 3.0;
            image::Luma([(if is_disc {
                48.0
            } else if is_sheet {
                238.0
            } else {
                grain
            } + noise) as u8])
        });
        let file = fresh_dir("picture").join("table.png");
        photo.save(&file).unwrap();
        drop_picture(&page, &server, &file).await;
        page.until_text("straightened by an A4 sheet").await;
        let id = page.client().current_url().await.unwrap().path().split('/').nth(2).unwrap().to_string();
        let d = until_design(&server, &id, |d| d["result"]["solid"]["bodies"] == json!(1)).await;
        let width = d["result"]["outline"]["width"].as_f64().unwrap();
        assert!((width / 90.0 - 1.0).abs() < 0.005, "{width}");
        assert_eq!(uses(&d), ["edge"]);
    });
}

#[test]
fn quick_nudges_add_up_exactly() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        page.click_at(page.middle("[data-patch='1']").await, 0);
        page.until_text("One patch").await;
        let left = |d: &Value| d["result"]["patches"][1]["span"][0].as_f64().unwrap();
        let scale = |d: &Value| d["result"]["outline"]["mm_per_px"].as_f64().unwrap();
        let before = server.get_json(&format!("/api/designs/{id}"));
        // Four at a time, faster than they can be saved, then four more while those are under way, and two back.
        for keys in [Key::Right; 4] {
            page.press(&char::from(keys).to_string().repeat(4)).await;
        }
        page.press(&char::from(Key::Left).to_string().repeat(2)).await;
        let moved = |d: &Value| (left(d) - left(&before)) * scale(&before);
        let d = until_design(&server, &id, |d| (moved(d) - 14.0).abs() < 1e-6).await;
        assert_eq!(d["result"]["patches"].as_array().unwrap().len(), 3, "no patch is lost");
        assert!(d["result"]["outline"]["astray"].as_array().unwrap().is_empty());
    });
}

#[test]
fn a_drawing_is_moved_and_turned_on_its_plate_in_plan() {
    browse(|page| async move {
        let (server, id) = at_outline(&page).await;
        let recipe = json!({ "edits": [{ "kind": "set-recipe", "recipe": "coaster" }] });
        server.post(&format!("/api/designs/{id}/edits"), Some(1), &recipe);
        page.reload().await;
        page.find("[data-patch]").await;
        page.press("3").await;
        page.find("[aria-label='Place of the drawing']").await;
        let measure = |d: &Value, name: &str| d["document"]["measures"][name].as_f64().unwrap_or_default();
        page.run("document.querySelector(\"[aria-label='Place of the drawing']\").focus()").await;
        page.press(&char::from(Key::Up).to_string()).await;
        until_design(&server, &id, |d| (measure(d, "shift-x"), measure(d, "shift-y")) == (0.0, 1.0)).await;
        let (x, y) = page.middle("[aria-label='Place of the drawing'] circle").await;
        page.sweep(&[(x, y), (x + 12.0, y), (x + 24.0, y)], 0);
        let d = until_design(&server, &id, |d| measure(d, "shift-x") > 2.0).await;
        assert_eq!(measure(&d, "shift-y"), 1.0, "straight to the right");
        page.run("document.querySelector(\"[aria-label='Turn of the drawing']\").focus()").await;
        page.press(&format!("{}{}", char::from(Key::Shift), char::from(Key::Up))).await;
        until_design(&server, &id, |d| measure(d, "turn") == 10.0).await;
        page.click("[aria-label=Undo]").await;
        let d = until_design(&server, &id, |d| measure(d, "turn") == 0.0 && measure(d, "shift-x") > 2.0).await;
        // At Outline the drawing stands still: its plate is moved under it, and the drawing goes the other way on it.
        let was = measure(&d, "shift-x");
        page.press("2").await;
        let grip = "[aria-label='Place of the plate under the drawing']";
        page.find(grip).await;
        page.run(&format!("document.querySelector(\"{grip}\").focus()")).await;
        // Keys that come faster than they are saved add up, and the plate is at once where they move it.
        page.press(&char::from(Key::Right).to_string().repeat(4)).await;
        until_design(&server, &id, |d| (measure(d, "shift-x") - was + 4.0).abs() < 1e-6).await;
        let (x, y) = page.middle(&format!("{grip} circle")).await;
        page.sweep(&[(x, y), (x, y + 12.0), (x, y + 24.0)], 0);
        let d = until_design(&server, &id, |d| measure(d, "shift-y") > 1.5).await;
        assert!((measure(&d, "shift-x") - was + 4.0).abs() < 1e-6, "straight down");
        let [x1, y1] = page.middle(&format!("{grip} circle")).await.into();
        assert!((x1 - x).abs() < 1.5 && (y1 - (y + 24.0)).abs() < 1.5, "the plate is where the hand left it");
    });
}
