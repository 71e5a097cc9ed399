//! A server of its own for each test, on a free port, with data in a directory of its own.

use kachel_server::{Config, prepare};
use serde_json::Value;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicU32, Ordering};
use std::sync::mpsc;
use std::thread::JoinHandle;
use std::time::{Duration, Instant};
use ureq::http::Response;
use ureq::typestate::WithBody;
use ureq::{Agent, RequestBuilder};

/// How long a server may take to start or to stop.
const LONGEST: Duration = Duration::from_secs(30);
/// How long it may take over one answer: the limit of a computation, and some.
const LONGEST_ANSWER: Duration = Duration::from_secs(150);

static COUNT: AtomicU32 = AtomicU32::new(0);

/// A new directory under the target directory.
pub fn fresh_dir(name: &str) -> PathBuf {
    let n = COUNT.fetch_add(1, Ordering::Relaxed);
    let dir = Path::new(env!("CARGO_TARGET_TMPDIR")).join(format!("{name}-{}-{n}", std::process::id()));
    std::fs::create_dir_all(&dir).expect("a directory for the test");
    dir
}

pub fn config(data: &Path) -> Config {
    Config {
        listen: SocketAddr::from(([127, 0, 0, 1], 0)),
        data: data.into(),
        pass_phrase: None,
        printer: None,
        is_demo: false,
        max_pages: None,
        helper: None,
        can_be_harmed: false,
        handles_signals: false,
    }
}

pub struct TestServer {
    pub address: SocketAddr,
    handle: actix_web::dev::ServerHandle,
    thread: Option<JoinHandle<()>>,
}

impl TestServer {
    pub fn start(config: Config) -> Result<Self, String> {
        let (tell, hear) = mpsc::channel();
        let thread = std::thread::spawn(move || {
            actix_web::rt::System::new().block_on(async {
                match prepare(&config) {
                    Ok(ready) => {
                        let _ = tell.send(Ok((ready.address, ready.handle())));
                        ready.run().await.expect("the server runs");
                    }
                    Err(e) => {
                        let _ = tell.send(Err(e.to_string()));
                    }
                }
            });
        });
        let (address, handle) = hear.recv_timeout(LONGEST).map_err(|e| format!("the server did not start: {e}"))??;
        Ok(Self { address, handle, thread: Some(thread) })
    }

    pub fn in_dir(data: &Path) -> Self {
        Self::start(config(data)).expect("the server starts")
    }

    pub fn url(&self, path: &str) -> String {
        format!("http://{}{path}", self.address)
    }

    pub fn get(&self, path: &str) -> Response<ureq::Body> {
        agent().get(self.url(path)).call().expect("an answer")
    }

    pub fn get_json(&self, path: &str) -> Value {
        self.get(path).body_mut().read_json().expect("JSON")
    }

    /// Posts JSON; `version` goes into If-Match.
    pub fn post(&self, path: &str, version: Option<i64>, body: &Value) -> (u16, Value) {
        send(agent().post(self.url(path)), version, body)
    }

    /// Posts JSON, for an answer that is none.
    #[allow(dead_code, reason = "each test program uses its part of this")]
    pub fn post_raw(&self, path: &str, body: &Value) -> Response<ureq::Body> {
        agent().post(self.url(path)).send_json(body).expect("an answer")
    }

    /// Posts a file as it is.
    #[allow(dead_code, reason = "each test program uses its part of this")]
    pub fn post_bytes(&self, path: &str, bytes: &[u8]) -> (u16, Value) {
        let mut answer = agent().post(self.url(path)).send(bytes).expect("an answer");
        (answer.status().as_u16(), answer.body_mut().read_json().unwrap_or(Value::Null))
    }

    #[allow(dead_code, reason = "each test program uses its part of this")]
    pub fn put(&self, path: &str, version: Option<i64>, body: &Value) -> (u16, Value) {
        send(agent().put(self.url(path)), version, body)
    }

    #[allow(dead_code, reason = "each test program uses its part of this")]
    pub fn delete(&self, path: &str) -> u16 {
        agent().delete(self.url(path)).call().expect("an answer").status().as_u16()
    }
}

impl Drop for TestServer {
    fn drop(&mut self) {
        // Dropping the returned future is fine: the stop is sent at once.
        drop(self.handle.stop(false));
        let Some(thread) = self.thread.take() else { return };
        let start = Instant::now();
        while !thread.is_finished() {
            if start.elapsed() > LONGEST {
                // What it waits for can be seen with a debugger; the test goes on.
                eprintln!("the server of this test did not stop within {} s", LONGEST.as_secs());
                return;
            }
            std::thread::sleep(Duration::from_millis(5));
        }
        let _ = thread.join();
    }
}

fn send(mut request: RequestBuilder<WithBody>, version: Option<i64>, body: &Value) -> (u16, Value) {
    if let Some(v) = version {
        request = request.header("If-Match", format!("\"{v}\""));
    }
    let mut response = request.send_json(body).expect("an answer");
    (response.status().as_u16(), response.body_mut().read_json().unwrap_or(Value::Null))
}

/// Sends a file as a form does; `version` goes into If-Match.
#[allow(dead_code, reason = "each test program uses its part of this")]
pub fn send_file(
    mut request: RequestBuilder<WithBody>,
    name: &str,
    bytes: &[u8],
    version: Option<i64>,
) -> (u16, Value) {
    let head = format!(
        "--sep\r\nContent-Disposition: form-data; name=\"file\"; filename=\"{name}\"\r\n\
         Content-Type: application/octet-stream\r\n\r\n"
    );
    let body = [head.as_bytes(), bytes, b"\r\n--sep--\r\n"].concat();
    if let Some(v) = version {
        request = request.header("If-Match", format!("\"{v}\""));
    }
    let request = request.header("Content-Type", "multipart/form-data; boundary=sep");
    let mut response = request.send(&body[..]).expect("an answer");
    (response.status().as_u16(), response.body_mut().read_json().unwrap_or(Value::Null))
}

pub fn agent() -> Agent {
    Agent::config_builder().http_status_as_error(false).timeout_global(Some(LONGEST_ANSWER)).build().into()
}

/// Line art: a thick frame, a bar that reaches the frame, and a loose spot; 100 x 80 units.
#[allow(dead_code, reason = "each test program uses its part of this")]
pub const FRAME: &str = r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="-10 -10 120 100">
<path fill-rule="evenodd" d="M0 0H100V80H0ZM8 8V72H92V8Z"/><rect x="25" y="4" width="6" height="72"/>
<circle cx="65" cy="40" r="9"/></svg>"#;
