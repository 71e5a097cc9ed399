//! Headless Chromium, driven through ChromeDriver: a driver and a profile of its own for each test.

use super::fresh_dir;
use fantoccini::actions::{InputSource, MOUSE_BUTTON_LEFT, MouseActions, PointerAction};
use fantoccini::elements::Element;
use fantoccini::key::Key;
use fantoccini::{Client, ClientBuilder, Locator};
use hyper_util::client::legacy::connect::HttpConnector;
use serde_json::{Value, json};
use std::future::Future;
use std::io::{BufRead, BufReader};
use std::os::unix::process::CommandExt;
use std::process::{Child, ChildStdin, Command, Stdio};
use std::time::{Duration, Instant};

/// How long a page may take; software rendering on a busy machine is slow.
const PATIENCE: Duration = Duration::from_secs(25);

/// A driver that ends with the test, whatever ends the test: the shell kills its whole group when its input closes.
struct Driver {
    shell: Child,
    input: Option<ChildStdin>,
    port: u16,
}

impl Driver {
    fn start() -> Self {
        let mut shell = Command::new("sh")
            .args(["-c", "chromedriver --port=0 </dev/null & read -r _; kill -9 0"])
            .process_group(0)
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .expect("a shell");
        let input = shell.stdin.take();
        let mut lines = BufReader::new(shell.stdout.take().expect("its output")).lines();
        let port = lines
            .find_map(|l| l.ok()?.rsplit_once("successfully on port ")?.1.trim_end_matches('.').parse().ok())
            .expect("chromedriver (Debian package chromium-driver) tells its port");
        // Read on, so that it never blocks on a full pipe.
        std::thread::spawn(move || lines.for_each(drop));
        Self { shell, input, port }
    }
}

impl Drop for Driver {
    fn drop(&mut self) {
        drop(self.input.take());
        let _ = self.shell.wait();
    }
}

/// A page with what tests do to it.
pub struct Page {
    client: Client,
    driver: u16,
    session: String,
}

/// Runs a test in a browser.
pub fn browse<F: Future<Output = ()>>(test: impl FnOnce(Page) -> F) {
    let driver = Driver::start();
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build().expect("a runtime");
    runtime.block_on(async {
        let page = Page::open(driver.port).await;
        test(page).await;
    });
}

impl Page {
    async fn open(driver: u16) -> Self {
        let profile = fresh_dir("profile");
        let arguments = [
            "--headless=new",
            "--no-sandbox",
            "--enable-unsafe-swiftshader",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--no-proxy-server",
            "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost",
            &format!("--user-data-dir={}", profile.display()),
        ];
        let mut capabilities = serde_json::Map::new();
        capabilities.insert("goog:chromeOptions".into(), json!({ "args": arguments }));
        let client = ClientBuilder::new(HttpConnector::new())
            .capabilities(capabilities)
            .connect(&format!("http://127.0.0.1:{driver}"))
            .await
            .expect("a session");
        let session = client.session_id().await.expect("a session").expect("its name");
        let page = Self { client, driver, session };
        page.devtools(
            "Emulation.setDeviceMetricsOverride",
            json!({ "width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": false }),
        );
        page
    }

    /// A command of the DevTools protocol.
    pub fn devtools(&self, command: &str, parameters: Value) {
        let url = format!("http://127.0.0.1:{}/session/{}/goog/cdp/execute", self.driver, self.session);
        ureq::post(url).send_json(json!({ "cmd": command, "params": parameters })).expect("DevTools answer");
    }

    pub fn client(&self) -> &Client {
        &self.client
    }

    pub async fn goto(&self, url: &str) {
        self.client.goto(url).await.expect("the page");
    }

    pub async fn reload(&self) {
        self.client.refresh().await.expect("the page again");
    }

    /// The element, once it is there.
    pub async fn find(&self, css: &str) -> Element {
        let found = self.client.wait().at_most(PATIENCE).for_element(Locator::Css(css)).await;
        found.unwrap_or_else(|e| panic!("{css}: {e}"))
    }

    pub async fn count(&self, css: &str) -> usize {
        self.client.find_all(Locator::Css(css)).await.expect("a list").len()
    }

    pub async fn click(&self, css: &str) {
        self.find(css).await.click().await.unwrap_or_else(|e| panic!("click {css}: {e}"));
    }

    /// The element with exactly this text.
    pub async fn click_text(&self, tag: &str, text: &str) {
        let path = format!("//{tag}[normalize-space()='{text}' or .//*[normalize-space()='{text}']]");
        let found = self.client.wait().at_most(PATIENCE).for_element(Locator::XPath(&path)).await;
        found.unwrap_or_else(|e| panic!("{text}: {e}")).click().await.expect("a click");
    }

    /// Waits until the script gives this value.
    pub async fn until(&self, script: &str, want: &Value) {
        let start = Instant::now();
        loop {
            let got = self.run(script).await;
            if &got == want {
                return;
            }
            assert!(start.elapsed() < PATIENCE, "{script}: {got}, not {want}\n{}", self.text().await);
            tokio::time::sleep(Duration::from_millis(40)).await;
        }
    }

    pub async fn run(&self, script: &str) -> Value {
        self.client.execute(script, vec![]).await.unwrap_or_else(|e| panic!("{script}: {e}"))
    }

    /// All text on the page.
    pub async fn text(&self) -> String {
        self.run("return document.body.innerText").await.as_str().unwrap_or_default().to_string()
    }

    pub async fn until_text(&self, text: &str) {
        self.until(&format!("return document.body.innerText.includes({})", json!(text)), &json!(true)).await;
    }

    /// Waits until the field with this label holds this.
    pub async fn until_value(&self, label: &str, want: &str) {
        let script = format!(
            "return [...document.querySelectorAll('label')].find(l => l.innerText.trim() === {})?.control?.value",
            json!(label)
        );
        self.until(&script, &json!(want)).await;
    }

    /// Types into the field with this label in place of what is there, and Enter.
    pub async fn type_into(&self, label: &str, text: &str) {
        let path = format!("//input[@id=//label[normalize-space()='{label}']/@for] | //input[@aria-label='{label}']");
        let field = self.client.wait().at_most(PATIENCE).for_element(Locator::XPath(&path)).await;
        let field = field.unwrap_or_else(|e| panic!("field {label}: {e}"));
        field.click().await.expect("a click");
        let all = format!("{}a{}", char::from(Key::Control), char::from(Key::Null));
        field.send_keys(&format!("{all}{text}{}", char::from(Key::Enter))).await.expect("keys");
    }

    /// Keys for whatever has the focus.
    pub async fn press(&self, keys: &str) {
        let active = self.client.active_element().await.expect("an element");
        active.send_keys(keys).await.expect("keys");
    }

    /// Presses the mouse on the middle of an element and lets go some pixels further up.
    pub async fn drag_up(&self, css: &str, pixels: i64) {
        let (x, y) = self.middle(css).await;
        self.drag(&[(x, y), (x, y - pixels as f64)]).await;
    }

    /// Presses the mouse at the first place, moves on through the others and lets go at the last.
    pub async fn drag(&self, places: &[(f64, f64)]) {
        let to = |(x, y): (f64, f64)| PointerAction::MoveTo { duration: Some(Duration::from_millis(40)), x, y };
        let mut mouse = MouseActions::new("mouse".into())
            .then(to(places[0]))
            .then(PointerAction::Down { button: MOUSE_BUTTON_LEFT });
        for pair in places.windows(2) {
            for step in 1..=5 {
                let along = |a: f64, b: f64| a + (b - a) * f64::from(step) / 5.0;
                mouse = mouse.then(to((along(pair[0].0, pair[1].0), along(pair[0].1, pair[1].1))));
            }
        }
        mouse = mouse.then(PointerAction::Up { button: MOUSE_BUTTON_LEFT });
        self.client.perform_actions(mouse).await.expect("a drag");
    }

    /// A mouse whose button stays down from one call to the next: 'mousePressed', 'mouseMoved', 'mouseReleased'; `keys`
    /// held meanwhile: 1 for Alt, 2 for Ctrl, 8 for Shift.
    pub fn mouse(&self, what: &str, (x, y): (f64, f64), keys: u32) {
        let (button, buttons) = if what == "mouseHovered" { ("none", 0) } else { ("left", 1) };
        let what = if what == "mouseHovered" { "mouseMoved" } else { what };
        let event = json!({
            "type": what, "x": x, "y": y, "button": button, "buttons": buttons, "clickCount": 1, "modifiers": keys
        });
        self.devtools("Input.dispatchMouseEvent", event);
    }

    /// A click at a place, with keys held.
    pub fn click_at(&self, at: (f64, f64), keys: u32) {
        self.mouse("mouseHovered", at, keys);
        self.mouse("mousePressed", at, keys);
        self.mouse("mouseReleased", at, keys);
    }

    /// A drag through places, with keys held.
    pub fn sweep(&self, places: &[(f64, f64)], keys: u32) {
        let (first, last) = (places[0], places[places.len() - 1]);
        self.mouse("mouseHovered", first, keys);
        self.mouse("mousePressed", first, keys);
        for pair in places.windows(2) {
            for step in 1..=4 {
                let along = |a: f64, b: f64| a + (b - a) * f64::from(step) / 4.0;
                self.mouse("mouseMoved", (along(pair[0].0, pair[1].0), along(pair[0].1, pair[1].1)), keys);
            }
        }
        self.mouse("mouseReleased", last, keys);
    }

    /// The middle of an element.
    pub async fn middle(&self, css: &str) -> (f64, f64) {
        self.find(css).await;
        let script = format!(
            "const r = document.querySelector({}).getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]",
            json!(css)
        );
        let at = self.run(&script).await;
        (at[0].as_f64().expect("x"), at[1].as_f64().expect("y"))
    }

    /// Moves the mouse, without a button.
    pub async fn point_at(&self, (x, y): (f64, f64)) {
        let to = PointerAction::MoveTo { duration: Some(Duration::from_millis(40)), x, y };
        self.client.perform_actions(MouseActions::new("mouse".into()).then(to)).await.expect("a move");
    }

    pub async fn screenshot(&self) -> Vec<u8> {
        self.client.screenshot().await.expect("a picture")
    }
}
