//! Headless Chromium, driven through ChromeDriver: a driver and a profile of its own for each test.
//!
//! Every wait has an end that says what it waited for. A test that fails leaves a picture of the page, and its console
//! stands beside the message.

use super::fresh_dir;
use fantoccini::actions::{InputSource, MOUSE_BUTTON_LEFT, MouseActions, PointerAction};
use fantoccini::elements::Element;
use fantoccini::error::CmdError;
use fantoccini::key::Key;
use fantoccini::{Client, ClientBuilder, Locator};
use futures_util::FutureExt;
use hyper_util::client::legacy::connect::HttpConnector;
use serde_json::{Value, json};
use std::cell::RefCell;
use std::future::Future;
use std::io::{BufRead, BufReader, ErrorKind};
use std::net::TcpListener;
use std::os::unix::process::CommandExt;
use std::panic::AssertUnwindSafe;
use std::process::{Child, ChildStdin, Command, Stdio};
use std::rc::Rc;
use std::sync::atomic::{AtomicU16, Ordering};
use std::sync::mpsc;
use std::time::{Duration, Instant};
use tokio::time::timeout;
use ureq::Agent;

/// How long a page may take; software rendering on a busy machine is slow.
const PATIENCE: Duration = Duration::from_secs(25);
/// How long the browser may take over one command.
const LONGEST_COMMAND: Duration = Duration::from_secs(60);
/// How long a whole test may take. The longest takes 40 s on an idle machine.
const LONGEST_TEST: Duration = Duration::from_secs(300);
/// And measuring, which goes the same ways many times.
const LONGEST_MEASUREMENT: Duration = Duration::from_secs(1500);
/// How long the driver may take to start or to end.
const LONGEST_START: Duration = Duration::from_secs(30);

/// What may stand in the console, and why.
const MEANT: [(&str, &str); 6] = [
    ("/api/designs/nothing", "a design that is not there"),
    ("status of 412", "a design that somebody else has changed"),
    ("status of 422", "what is typed or dropped, and refused"),
    ("status of 415", "a file that is no picture"),
    ("net::ERR_", "a server that a test has stopped"),
    ("GL Driver Message", "software rendering, and no fault of the page"),
];

/// A driver that ends with the test, whatever ends the test: the shell kills its whole group when its input closes.
struct Driver {
    shell: Child,
    input: Option<ChildStdin>,
    port: u16,
}

impl Driver {
    fn start() -> Self {
        Self::start_as("chromedriver")
            .unwrap_or_else(|why| panic!("chromedriver (Debian package chromium-driver): {why}"))
    }

    /// Starts the program, and waits until it states its port or ends.
    fn start_as(program: &str) -> Result<Self, String> {
        // The shell lets go of the output: a driver that ends closes it, and nobody waits for its port for ever.
        let port = free_port();
        let script = format!("{program} --port={port} </dev/null & exec >/dev/null; read -r _; kill -9 0");
        let mut shell = Command::new("sh")
            .args(["-c", &script])
            .process_group(0)
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .map_err(|e| e.to_string())?;
        let input = shell.stdin.take();
        let lines = BufReader::new(shell.stdout.take().ok_or("it has no output")?).lines();
        let (tell, hear) = mpsc::channel();
        std::thread::spawn(move || {
            let mut said = String::new();
            // Read on after the port was stated, so that the driver never blocks on a full pipe.
            for line in lines.map_while(Result::ok) {
                match port_in(&line) {
                    Some(port) => drop(tell.send(Ok(port))),
                    None => said.push_str(&line),
                }
            }
            let _ = tell.send(Err(format!("it ended without stating its port; it said '{said}'")));
        });
        // The driver is ended on every way out.
        let mut driver = Self { shell, input, port: 0 };
        let stated = hear.recv_timeout(LONGEST_START);
        driver.port = stated.map_err(|_| "it did not state its port within 30 s".to_string())??;
        Ok(driver)
    }
}

/// Ports that the system gives to nobody by itself: it has those from 32768 on.
const PORTS: std::ops::Range<u16> = 20_000..32_000;
/// Ports that a test process looks at before it comes to those of another.
const PORTS_EACH: u16 = 120;

/// A port that nothing listens on, by either kind of address. The driver's own choice (`--port=0`) is one that the system gave it for
/// IPv6; when something else has it for IPv4, the driver ends.
fn free_port() -> u16 {
    static TAKEN: AtomicU16 = AtomicU16::new(0);
    let count = PORTS.end - PORTS.start;
    let first = u16::try_from(std::process::id() % u32::from(count / PORTS_EACH)).unwrap_or(0) * PORTS_EACH;
    (0..count)
        .map(|_| PORTS.start + (first + TAKEN.fetch_add(1, Ordering::Relaxed)) % count)
        .find(|port| {
            let is_free = |address: &str| match TcpListener::bind((address, *port)) {
                Ok(_) => true,
                // A machine without IPv6 has no such address.
                Err(e) => e.kind() == ErrorKind::AddrNotAvailable,
            };
            is_free("127.0.0.1") && is_free("::1")
        })
        .expect("a free port")
}

#[test]
fn a_port_that_is_taken_for_one_kind_of_address_is_not_chosen() {
    let (one, other) = (free_port(), free_port());
    assert!(one != other && PORTS.contains(&one));
    // The next one is taken for IPv4 only, as one of the system's choice may be.
    let taken = TcpListener::bind(("127.0.0.1", other + 1));
    assert!(taken.is_err() || free_port() != other + 1);
}

/// The port in 'ChromeDriver was started successfully on port 1234.'
fn port_in(line: &str) -> Option<u16> {
    line.rsplit_once("successfully on port ")?.1.trim_end_matches('.').parse().ok()
}

/// A driver that ends at once used to be waited for without end and without load.
#[test]
fn a_driver_that_ends_or_says_nothing_is_not_waited_for() {
    let start = Instant::now();
    let why = Driver::start_as("echo no room;").err().expect("no driver");
    assert!(why.contains("no room") && start.elapsed() < Duration::from_secs(10), "{why}");
}

impl Drop for Driver {
    fn drop(&mut self) {
        drop(self.input.take());
        let start = Instant::now();
        while let Ok(None) = self.shell.try_wait() {
            if start.elapsed() > LONGEST_START {
                eprintln!("the driver's shell did not end within 30 s of its input; it is killed");
                let _ = self.shell.kill();
                break;
            }
            std::thread::sleep(Duration::from_millis(5));
        }
        let _ = self.shell.wait();
    }
}

/// A page with what tests do to it.
pub struct Page {
    client: Client,
    driver: u16,
    session: String,
    /// What was begun last, for the message of a test that takes too long.
    begun: Rc<RefCell<String>>,
}

/// Runs a test in a browser.
pub fn browse<F: Future<Output = ()>>(test: impl FnOnce(Page) -> F) {
    within(LONGEST_TEST, test);
}

/// As [`browse`], for as long as measuring takes on a slow machine.
pub fn measure<F: Future<Output = ()>>(test: impl FnOnce(Page) -> F) {
    within(LONGEST_MEASUREMENT, test);
}

fn within<F: Future<Output = ()>>(longest: Duration, test: impl FnOnce(Page) -> F) {
    let driver = Driver::start();
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build().expect("a runtime");
    runtime.block_on(async {
        let page = Page::open(driver.port).await;
        let witness = page.again();
        let failed = match timeout(longest, AssertUnwindSafe(test(page)).catch_unwind()).await {
            Ok(Ok(())) => None,
            Ok(Err(panic)) => Some(panic),
            Err(_) => {
                let message = format!("the test took over {} s", longest.as_secs());
                eprintln!("-- {message}");
                Some(Box::new(message) as Box<dyn std::any::Any + Send>)
            }
        };
        if let Some(panic) = failed {
            witness.testify().await;
            std::panic::resume_unwind(panic);
        }
        let complaints = witness.complaints();
        let _ = timeout(LONGEST_COMMAND, witness.client.close()).await;
        assert!(complaints.is_empty(), "the page's console complains:\n{}", complaints.join("\n"));
    });
}

/// The answer to a command, or a panic that says which command had none.
async fn answer<T>(what: &str, command: impl Future<Output = Result<T, CmdError>>) -> T {
    match timeout(LONGEST_COMMAND, command).await {
        Ok(Ok(value)) => value,
        Ok(Err(e)) => panic!("{what}: {e}"),
        Err(_) => panic!("{what}: no answer from the browser for {} s", LONGEST_COMMAND.as_secs()),
    }
}

/// Talks to the driver itself.
fn driver_agent() -> Agent {
    Agent::config_builder().timeout_global(Some(LONGEST_COMMAND)).build().into()
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
            // A renderer in reserve, which no test needs, takes a tenth of the processor's time.
            "--disable-features=SpareRendererForSitePerProcess",
            "--no-proxy-server",
            "--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1 , EXCLUDE localhost",
            &format!("--user-data-dir={}", profile.display()),
        ];
        let mut capabilities = serde_json::Map::new();
        capabilities.insert("goog:chromeOptions".into(), json!({ "args": arguments }));
        capabilities.insert("goog:loggingPrefs".into(), json!({ "browser": "ALL" }));
        let url = format!("http://127.0.0.1:{driver}");
        let mut builder = ClientBuilder::new(HttpConnector::new());
        let client = timeout(LONGEST_COMMAND, builder.capabilities(capabilities).connect(&url)).await;
        let client = client.expect("a session within 60 s").expect("a session");
        let session = answer("the session's name", client.session_id()).await.expect("its name");
        let page = Self { client, driver, session, begun: Rc::default() };
        page.screen(1280, 800, 1, false);
        page
    }

    /// The same page in another hand.
    fn again(&self) -> Self {
        let (client, session, begun) = (self.client.clone(), self.session.clone(), Rc::clone(&self.begun));
        Self { client, driver: self.driver, session, begun }
    }

    /// Notes what is begun.
    fn begin(&self, what: &str) {
        what.clone_into(&mut self.begun.borrow_mut());
    }

    /// What stands in the page's console, each with its level.
    fn console(&self) -> Result<Vec<(String, String)>, String> {
        let url = format!("http://127.0.0.1:{}/session/{}/se/log", self.driver, self.session);
        let log = driver_agent().post(url).send_json(json!({ "type": "browser" }));
        let answer: Value =
            log.map_err(|e| e.to_string())?.body_mut().read_json().map_err(|e: ureq::Error| e.to_string())?;
        let text = |line: &Value, key: &str| line[key].as_str().unwrap_or("").to_string();
        Ok(answer["value"].as_array().into_iter().flatten().map(|l| (text(l, "level"), text(l, "message"))).collect())
    }

    /// Warnings and errors in the console, but for what tests do on purpose.
    fn complaints(&self) -> Vec<String> {
        let console = self.console().unwrap_or_else(|why| vec![("SEVERE".into(), format!("no console: {why}"))]);
        let is_bad = |level: &str| level == "SEVERE" || level == "WARNING";
        let is_wanted = |message: &str| MEANT.iter().any(|(said, _)| message.contains(said));
        console
            .into_iter()
            .filter(|(level, m)| is_bad(level) && !is_wanted(m))
            .map(|(level, m)| format!("{level} {m}"))
            .collect()
    }

    /// Prints what was done last and the page's console, and keeps a picture of the page.
    async fn testify(&self) {
        eprintln!("-- last begun: {}", self.begun.borrow());
        match self.console() {
            Ok(lines) => {
                eprintln!("-- the page's console:");
                lines.iter().for_each(|(level, message)| eprintln!("   {level} {message}"));
            }
            Err(why) => eprintln!("-- no console: {why}"),
        }
        match timeout(LONGEST_COMMAND, self.client.screenshot()).await {
            Ok(Ok(png)) => {
                let file = fresh_dir("failure").join("page.png");
                let kept = std::fs::write(&file, png);
                eprintln!("-- the page as it was: {} {kept:?}", file.display());
            }
            other => eprintln!("-- no picture: {other:?}"),
        }
    }

    /// A command of the DevTools protocol.
    pub fn devtools(&self, command: &str, parameters: Value) {
        self.begin(command);
        let url = format!("http://127.0.0.1:{}/session/{}/goog/cdp/execute", self.driver, self.session);
        let sent = driver_agent().post(url).send_json(json!({ "cmd": command, "params": &parameters }));
        sent.unwrap_or_else(|e| panic!("{command} {parameters}: {e}"));
    }

    pub fn client(&self) -> &Client {
        &self.client
    }

    pub async fn goto(&self, url: &str) {
        self.begin(url);
        answer(url, self.client.goto(url)).await;
    }

    pub async fn reload(&self) {
        self.begin("reload");
        answer("reload", self.client.refresh()).await;
    }

    /// The element, once it is there.
    pub async fn find(&self, css: &str) -> Element {
        self.begin(css);
        answer(css, self.client.wait().at_most(PATIENCE).for_element(Locator::Css(css))).await
    }

    pub async fn count(&self, css: &str) -> usize {
        self.begin(css);
        answer(css, self.client.find_all(Locator::Css(css))).await.len()
    }

    pub async fn click(&self, css: &str) {
        answer(css, self.find(css).await.click()).await;
    }

    /// The element with exactly this text.
    pub async fn click_text(&self, tag: &str, text: &str) {
        let path = format!("//{tag}[normalize-space()='{text}' or .//*[normalize-space()='{text}']]");
        self.begin(text);
        let found = answer(text, self.client.wait().at_most(PATIENCE).for_element(Locator::XPath(&path))).await;
        answer(text, found.click()).await;
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
        self.begin(script);
        answer(script, self.client.execute(script, vec![])).await
    }

    /// Waits until something of this role and with this text has the focus.
    pub async fn until_focus(&self, role: &str, text: &str) {
        let script = "const e = document.activeElement; return [e?.getAttribute('role'), e?.innerText.trim()]";
        self.until(script, &json!([role, text])).await;
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
        self.begin(label);
        let field = answer(label, self.client.wait().at_most(PATIENCE).for_element(Locator::XPath(&path))).await;
        answer(label, field.click()).await;
        let all = format!("{}a{}", char::from(Key::Control), char::from(Key::Null));
        answer(label, field.send_keys(&format!("{all}{text}{}", char::from(Key::Enter)))).await;
    }

    /// Keys for whatever has the focus.
    pub async fn press(&self, keys: &str) {
        self.begin("keys");
        let active = answer("what has the focus", self.client.active_element()).await;
        answer("keys", active.send_keys(keys)).await;
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
        self.begin("a drag");
        answer("a drag", self.client.perform_actions(mouse)).await;
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

    /// A screen of this size in CSS pixels, at so many pixels each; touched with fingers or not.
    pub fn screen(&self, width: u32, height: u32, density: u32, is_touched: bool) {
        let metrics = json!({ "width": width, "height": height, "deviceScaleFactor": density, "mobile": is_touched });
        self.devtools("Emulation.setDeviceMetricsOverride", metrics);
        self.devtools("Emulation.setTouchEmulationEnabled", json!({ "enabled": is_touched, "maxTouchPoints": 5 }));
    }

    /// Fingers: 'touchStart', 'touchMove' or 'touchEnd', and where those are that touch now.
    pub fn touch(&self, what: &str, fingers: &[(f64, f64)]) {
        let points: Vec<Value> =
            fingers.iter().enumerate().map(|(k, (x, y))| json!({ "x": x, "y": y, "id": k })).collect();
        self.devtools("Input.dispatchTouchEvent", json!({ "type": what, "touchPoints": points }));
    }

    /// Fingers that have moved come to rest and are lifted. Lifted in full swing they throw what they moved, and Chromium takes a tap
    /// right after it for the hand that stops it: no click comes of it.
    pub async fn lift(&self, fingers: &[(f64, f64)]) {
        tokio::time::sleep(Duration::from_millis(120)).await;
        let still: Vec<(f64, f64)> = fingers.iter().map(|(x, y)| (*x, y + 1.0)).collect();
        self.touch("touchMove", &still);
        self.touch("touchEnd", &[]);
    }

    /// One finger on the middle of an element, once it is in sight.
    pub async fn tap(&self, css: &str) {
        self.find(css).await;
        self.run(&format!("document.querySelector({}).scrollIntoView({{ block: 'center' }})", json!(css))).await;
        let at = self.middle(css).await;
        self.touch("touchStart", &[at]);
        self.touch("touchEnd", &[]);
    }

    /// The same on the first of these with exactly this text.
    pub async fn tap_text(&self, css: &str, text: &str) {
        let mark = format!(
            "const e = [...document.querySelectorAll({})].find(e => e.innerText.trim() === {}); if (e) e.dataset.tapped = {}; return !!e",
            json!(css),
            json!(text),
            json!(text)
        );
        self.until(&mark, &json!(true)).await;
        self.tap(&format!("[data-tapped='{text}']")).await;
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
        self.begin("a move");
        answer("a move", self.client.perform_actions(MouseActions::new("mouse".into()).then(to))).await;
    }

    pub async fn screenshot(&self) -> Vec<u8> {
        self.begin("a picture");
        answer("a picture", self.client.screenshot()).await
    }
}
