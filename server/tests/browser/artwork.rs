//! The tools of the Artwork station, by mouse and by keyboard.

use crate::common::{TestServer, fresh_dir};
use crate::page::{Page, browse};
use fantoccini::key::Key;
use serde_json::{Value, json};
use std::path::PathBuf;

/// A dark bar 60 x 20 px at (20, 30), a disc of 10 px at (120, 60) and a speck, on a sheet of 160 x 100 px.
fn picture(name: &str, size: u32) -> PathBuf {
    let k = f64::from(size) / 160.0;
    let image = image::GrayImage::from_fn(size, size * 5 / 8, |x, y| {
        let (x, y) = ((f64::from(x) + 0.5) / k, (f64::from(y) + 0.5) / k);
        let is_bar = (20.0..80.0).contains(&x) && (30.0..50.0).contains(&y);
        let is_speck = (140.0..141.2).contains(&x) && (20.0..21.2).contains(&y);
        image::Luma([if is_bar || is_speck || (x - 120.0).hypot(y - 60.0) < 10.0 { 20 } else { 250 }])
    });
    let file = fresh_dir("picture").join(name);
    image.save(&file).unwrap();
    file
}

struct Station {
    page: Page,
    server: TestServer,
    id: String,
}

impl Station {
    async fn of_file(page: Page, file: &std::path::Path) -> Self {
        let server = TestServer::in_dir(&fresh_dir("artwork"));
        page.goto(&server.url("/")).await;
        page.find("input[type=file]").await.send_keys(&file.to_string_lossy()).await.unwrap();
        Self::arrived(page, server).await
    }

    async fn of_sample(page: Page, title: &str) -> Self {
        let server = TestServer::in_dir(&fresh_dir("artwork"));
        page.goto(&server.url("/")).await;
        page.click_text("button", title).await;
        Self::arrived(page, server).await
    }

    async fn arrived(page: Page, server: TestServer) -> Self {
        page.until("return location.pathname.endsWith('/artwork')", &json!(true)).await;
        page.find("path[data-contour]").await;
        let id = page.client().current_url().await.unwrap().path().split('/').nth(2).unwrap().to_string();
        Self { page, server, id }
    }

    /// Where a pixel of the picture is on the screen.
    async fn screen(&self, x: f64, y: f64) -> (f64, f64) {
        let script = "const s = document.querySelector('[aria-label=Contours]');
            const r = s.getBoundingClientRect(); const v = s.viewBox.baseVal;
            return [r.x - v.x * r.width / v.width, r.y - v.y * r.height / v.height, r.width / v.width]";
        let at = self.page.run(script).await;
        let n = |k: usize| at[k].as_f64().unwrap();
        (n(0) + x * n(2), n(1) + y * n(2))
    }

    async fn drag(&self, places: &[(f64, f64)]) {
        let mut at = Vec::new();
        for (x, y) in places {
            at.push(self.screen(*x, *y).await);
        }
        self.page.drag(&at).await;
    }

    async fn tool(&self, words: &str) {
        self.page.click_text("*[@role='toolbar']//button", words).await;
    }

    async fn button(&self, words: &str) {
        self.page.click_text("button", words).await;
    }

    /// Waits for so many patches of ink.
    async fn until_patches(&self, n: usize) {
        self.page.until("return document.querySelectorAll('path[data-contour]').length", &json!(n)).await;
    }

    async fn keys(&self, keys: &[Key]) {
        self.page.press(&keys.iter().map(|k| char::from(*k)).collect::<String>()).await;
    }

    async fn undo(&self) {
        self.page.click("[aria-label=Undo]").await;
    }

    async fn focus(&self, css: &str) {
        self.page.run(&format!("document.querySelector({}).focus()", json!(css))).await;
    }

    /// Chooses in a list.
    async fn choose(&self, label: &str, value: &str) {
        let css = format!("select[aria-label='{label}'] option[value='{value}']");
        self.page.click(&css).await;
    }

    /// Waits until what is saved is as wanted.
    async fn until_saved(&self, is: impl Fn(&Value) -> bool) {
        for _ in 0..150 {
            if is(&self.view()) {
                return;
            }
            tokio::time::sleep(std::time::Duration::from_millis(60)).await;
        }
        panic!("{}", self.view()["document"]);
    }

    fn view(&self) -> Value {
        self.server.get_json(&format!("/api/designs/{}", self.id))
    }

    fn prepare(&self) -> Value {
        self.view()["document"]["prepare"].clone()
    }
}

#[test]
fn the_picture_is_cropped_turned_and_flipped() {
    browse(|page| async move {
        let s = Station::of_file(page, &picture("bar.png", 160)).await;
        s.until_patches(2).await;
        s.tool("Crop").await;
        s.drag(&[(5.0, 10.0), (95.0, 95.0)]).await;
        s.tool("Crop").await;
        s.until_patches(2).await; // The tool was put down, and nothing done.
        s.tool("Crop").await;
        s.drag(&[(5.0, 10.0), (95.0, 95.0)]).await;
        s.page.run("[...document.querySelectorAll('button')].filter(b => b.innerText === 'Crop').at(-1).click()").await;
        s.until_patches(1).await;
        s.page.until_text("cropped").await;
        let crop = s.prepare()["crop"].clone();
        assert!((crop["width"].as_f64().unwrap() - 90.0).abs() < 1.5, "{crop}");
        s.undo().await;
        s.until_patches(2).await;

        // By keyboard: a corner moved ten pixels at a time.
        s.tool("Crop").await;
        s.focus("[aria-label='Bottom right corner']").await;
        let ten_left = [Key::Shift, Key::Left, Key::Left, Key::Left, Key::Left, Key::Left, Key::Left];
        s.keys(&ten_left).await;
        s.page.run("[...document.querySelectorAll('button')].filter(b => b.innerText === 'Crop').at(-1).click()").await;
        s.until_patches(1).await;
        s.tool("Crop").await;
        s.button("Whole picture").await;
        s.until_patches(2).await;

        // A line that falls by one in ten is made level.
        s.tool("Turn").await;
        s.drag(&[(30.0, 40.0), (130.0, 50.0)]).await;
        s.page.until_text("turned by").await;
        let tilt = |v: &Value| v["degrees"].as_f64().unwrap();
        s.page.until("return Math.abs(document.querySelector('input[type=number]').value) > 5", &json!(true)).await;
        assert!((tilt(&s.prepare()) + 5.71).abs() < 0.3, "{}", s.prepare());
        s.button("Quarter right").await;
        s.page
            .until("return document.querySelector('[aria-label=Contours]').viewBox.baseVal.height > 150", &json!(true))
            .await;
        s.button("Flip left and right").await;
        s.until_saved(|v| v["document"]["prepare"]["flip"] == true).await;
        s.keys(&[Key::Escape]).await;
        s.page.until_text("flipped").await;
        s.until_patches(2).await;
    });
}

#[test]
fn the_brush_rubs_out_draws_and_clears() {
    browse(|page| async move {
        let s = Station::of_file(page, &picture("bar.png", 160)).await;
        s.tool("Tidy").await;
        s.button("Rub out").await;
        s.drag(&[(50.0, 20.0), (50.0, 60.0)]).await;
        s.until_patches(3).await;
        s.button("Draw").await;
        s.drag(&[(30.0, 40.0), (75.0, 40.0)]).await;
        s.until_patches(2).await;
        s.undo().await;
        s.until_patches(3).await;
        s.undo().await;
        s.until_patches(2).await;
        // By keyboard: the crosshair starts in the middle (80, 50), and the disc is cleared from its middle.
        s.button("Clear area").await;
        s.focus("[aria-label='Picture board']").await;
        let mut keys = vec![Key::Shift];
        keys.extend([Key::Right; 4]);
        keys.extend([Key::Down; 1]);
        s.keys(&keys).await;
        s.page.press(" ").await;
        s.until_patches(1).await;
        assert_eq!(s.prepare()["strokes"][0]["kind"], "clear");
        s.page.reload().await;
        s.until_patches(1).await;
        s.tool("Tidy").await;
        s.button("Take all off (1)").await;
        s.until_patches(2).await;
    });
}

#[test]
fn specks_and_pinholes_are_shown_before_they_go() {
    browse(|page| async move {
        let s = Station::of_file(page, &picture("bar.png", 400)).await;
        let dropped = "return document.querySelector('[data-dropped]').getAttribute('d') !== ''";
        s.page.until(dropped, &json!(true)).await;
        s.page.until_text("1 speck left out").await;
        s.focus("[role=slider][aria-label=Specks]").await;
        s.keys(&[Key::Home]).await;
        s.until_patches(3).await;
        s.page.until(dropped, &json!(false)).await;
        s.undo().await;
        s.until_patches(2).await;
    });
}

#[test]
fn a_sheet_of_known_size_and_two_points_give_the_true_size() {
    browse(|page| async move {
        let s = Station::of_file(page, &picture("bar.png", 800)).await;
        s.tool("Distance").await;
        // The ends catch the bar's corners, three pixels away.
        s.drag(&[(103.0, 252.0), (398.0, 247.0)]).await;
        s.page.type_into("True distance", "60 mm").await;
        // Before it is saved the size is the usual one, which has no scale.
        s.until_saved(|v| v["document"]["size"]["mm_per_px"].as_f64().is_some_and(|k| (k - 0.2).abs() < 0.001)).await;
        s.page.press(&char::from(Key::Escape).to_string()).await;

        s.tool("Card or sheet").await;
        s.choose("What lies there", "card").await;
        // Corners that cross are refused in words, and nothing is lost.
        s.drag(&[(160.0, 100.0), (640.0, 400.0)]).await;
        s.drag(&[(640.0, 100.0), (160.0, 395.0)]).await;
        s.button("Straighten").await;
        s.page.find("[role=alert]").await;
        assert_eq!(s.prepare()["straighten"], Value::Null);
        s.tool("Card or sheet").await;
        s.tool("Card or sheet").await;
        s.drag(&[(160.0, 100.0), (100.0, 150.0)]).await;
        // By keyboard ten pixels to the right, and the same back.
        s.focus("[aria-label='Top right corner']").await;
        s.keys(&[Key::Shift, Key::Right, Key::Left]).await;
        s.choose("What lies there", "card").await;
        s.button("Straighten").await;
        s.page.until_text("straightened by a bank card").await;
        assert_eq!(s.prepare()["straighten"]["sheet"]["kind"], "card");
        s.undo().await;
        s.page.until("return !document.body.innerText.includes('straightened by')", &json!(true)).await;
    });
}

#[test]
fn colours_are_told_apart_joined_pointed_at_and_left_out() {
    browse(|page| async move {
        let s = Station::of_sample(page, "Radish badge").await;
        let until = async |n: usize| {
            let script = "return document.querySelectorAll('[aria-label=\"Colours of the picture\"] button').length";
            s.page.until(script, &json!(n)).await;
        };
        until(5).await;
        let pick = async |n: usize| {
            s.page
                .run(&format!(
                    "document.querySelectorAll('[aria-label=\"Colours of the picture\"] button')[{n}].click()"
                ))
                .await;
        };
        pick(3).await;
        pick(4).await;
        s.button("Make them one").await;
        until(4).await;
        s.button("As found").await;
        until(5).await;
        let inks = s.page.count("path[data-contour]").await;
        s.page.click("[role=switch]").await;
        s.page
            .until(&format!("return document.querySelectorAll('path[data-contour]').length > {inks}"), &json!(true))
            .await;
        s.page.click("[role=switch]").await;
        s.until_patches(inks).await;
        pick(1).await;
        s.button("Is the ground").await;
        s.until_saved(|v| v["document"]["trace"]["colours"]["ground"].is_array()).await;
        s.undo().await;
        s.until_patches(inks).await;
        // Pointing at a colour picks exactly it.
        s.button("Point at one…").await;
        let at = s.screen(400.0, 520.0).await;
        s.page.drag(&[at, at]).await;
        s.until_saved(|v| v["document"]["trace"]["colours"]["picked"] == json!([[205, 58, 98]])).await;
    });
}

#[test]
fn pen_lines_have_a_width_of_their_own() {
    browse(|page| async move {
        let s = Station::of_sample(page, "Signature").await;
        s.button("Pen lines").await;
        s.page.until("return document.querySelector('[data-lines]').getAttribute('d') !== ''", &json!(true)).await;
        let before = s.view()["result"]["trace"]["lines"].clone();
        s.page
            .run("[...document.querySelectorAll('label')].find(l => l.innerText === 'As wide as drawn').click()")
            .await;
        s.page.type_into("Width of the lines", "2.5 mm").await;
        s.page.until_value("Width of the lines", "2.5").await;
        s.until_saved(|v| v["document"]["pen_width"] == json!(2.5)).await;
        assert_eq!(s.view()["result"]["trace"]["lines"], before, "the middle lines stay");
    });
}

#[test]
fn nodes_loupe_and_before_are_a_key_away_and_another_picture_keeps_the_rest() {
    browse(|page| async move {
        let s = Station::of_file(page, &picture("bar.png", 160)).await;
        s.focus("[aria-label='Picture board']").await;
        s.page.press("n").await;
        s.page.find("[data-nodes]").await;
        s.page.press("l").await;
        let at = s.screen(80.0, 40.0).await;
        s.page.point_at(at).await;
        s.page.find("[data-loupe]").await;
        s.page.run("dispatchEvent(new KeyboardEvent('keydown', { key: 'b' }))").await;
        s.page.until("return document.querySelector('[aria-label=Contours]') === null", &json!(true)).await;
        s.page.run("dispatchEvent(new KeyboardEvent('keyup', { key: 'b' }))").await;
        s.page.find("[aria-label=Contours]").await;

        s.page.type_into("Width", "70 mm").await;
        s.until_saved(|v| v["document"]["size"]["by"] == "scale").await;
        let before = s.view();
        assert!((before["result"]["edge_size"][0].as_f64().unwrap() - 70.0).abs() < 0.01);
        s.page.type_into("Drawn by", "Plot 12").await;
        s.until_saved(|v| v["document"]["credit"]["maker"] == "Plot 12").await;
        let other = picture("larger.png", 320);
        s.page.find("[aria-label='Another picture file']").await.send_keys(&other.to_string_lossy()).await.unwrap();
        s.page.until_text("Does it hold for").await;
        s.button("Keep the credit").await;
        s.page.until_text("larger.png, 320 × 200 px").await;
        s.page.until_value("Drawn by", "Plot 12").await;
        let view = s.view();
        let wide = |v: &serde_json::Value, of: &str| v["result"][of]["width"].as_f64().unwrap();
        assert!((wide(&view, "outline") / wide(&before, "outline") - 1.0).abs() < 0.01, "{}", wide(&view, "outline"));
        assert_eq!(view["document"]["credit"]["maker"], "Plot 12");
        s.button("Copy as text").await;
        s.page.until_text("The credit is copied").await;
        s.undo().await;
        s.page.until_text("bar.png, 160 × 100 px").await;
    });
}
