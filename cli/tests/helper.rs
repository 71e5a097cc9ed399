//! Whatever happens to a computation, the server goes on answering: the process that computes is harmed on purpose.

mod common;

use common::address_of;
use serde_json::{Value, json};
use std::io::{Read, Write};
use std::net::TcpStream;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicU32, Ordering};
use std::time::{Duration, Instant};

struct Server {
    child: Child,
    url: String,
    dir: PathBuf,
}

static COUNT: AtomicU32 = AtomicU32::new(0);

impl Server {
    fn start() -> Self {
        let name = format!("helper-{}-{}", std::process::id(), COUNT.fetch_add(1, Ordering::Relaxed));
        let dir = Path::new(env!("CARGO_TARGET_TMPDIR")).join(name);
        std::fs::create_dir_all(&dir).unwrap();
        let mut child = Command::new(env!("CARGO_BIN_EXE_kachel"))
            .args(["serve", "--can-be-harmed", "--listen", "127.0.0.1:0", "--data"])
            .arg(dir.join("data"))
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let url = address_of(&mut child);
        Self { child, url, dir }
    }

    fn send(&self, method: &str, path: &str, headers: &[(&str, &str)], body: &[u8]) -> (u16, Value) {
        let agent: ureq::Agent = ureq::Agent::config_builder().http_status_as_error(false).build().into();
        let mut request = ureq::http::Request::builder().method(method).uri(format!("{}{path}", self.url));
        for (name, value) in headers {
            request = request.header(*name, *value);
        }
        let mut answer = agent.run(request.body(body).unwrap()).unwrap();
        let status = answer.status().as_u16();
        (status, answer.body_mut().read_json().unwrap_or_default())
    }

    fn post(&self, path: &str) -> (u16, Value) {
        self.send("POST", path, &[("content-type", "application/json")], b"{}")
    }

    fn get(&self, path: &str) -> (u16, Value) {
        self.send("GET", path, &[], b"")
    }

    fn sample(&self) -> String {
        let (status, view) = self.post("/api/samples/ginkgo");
        assert_eq!(status, 201, "{view}");
        view["id"].as_str().unwrap().to_string()
    }

    /// How long the shelf takes to be listed.
    fn shelf(&self) -> Duration {
        let since = Instant::now();
        assert_eq!(self.get("/api/designs").0, 200);
        since.elapsed()
    }

    /// The helper's number for the system. It is the child of the thread that started it: of the server's main thread, which warms it
    /// up, or of the one that took the first request, where that comes sooner.
    fn helper(&self) -> Option<u32> {
        let threads = std::fs::read_dir(format!("/proc/{}/task", self.child.id())).ok()?;
        let children = threads.filter_map(|t| std::fs::read_to_string(t.ok()?.path().join("children")).ok());
        children.collect::<Vec<_>>().join(" ").split_whitespace().next()?.parse().ok()
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
        let _ = std::fs::remove_dir_all(&self.dir);
    }
}

fn until(what: &str, mut is_so: impl FnMut() -> bool) {
    let since = Instant::now();
    while !is_so() {
        assert!(since.elapsed() < Duration::from_secs(20), "{what}");
        std::thread::sleep(Duration::from_millis(10));
    }
}

#[test]
fn what_ends_a_computation_does_not_end_the_server() {
    let server = Server::start();
    let design = server.sample();
    let neighbour = server.sample();
    for (how, code) in
        [("abort", "helper-died"), ("stack", "helper-died"), ("at-once", "helper-died"), ("memory", "too-much-memory")]
    {
        let harmed = std::thread::scope(|all| {
            let harm = all.spawn(|| server.post(&format!("/api/designs/{design}/harm/{how}")));
            // Meanwhile the shelf is read.
            let mut longest = Duration::ZERO;
            while !harm.is_finished() {
                longest = longest.max(server.shelf());
                std::thread::sleep(Duration::from_millis(5));
            }
            assert!(longest < Duration::from_secs(2), "{how}: the shelf took {longest:?}");
            harm.join().unwrap()
        });
        assert_eq!((harmed.0, harmed.1["code"].as_str().unwrap()), (503, code), "{how}: {}", harmed.1);
        assert!(harmed.1["hint"].as_str().is_some_and(|h| h.len() > 20));
        // The next one is served, and clears the design's name.
        assert_eq!(server.get(&format!("/api/designs/{design}")).0, 200, "{how}");
        assert_eq!(server.get(&format!("/api/designs/{neighbour}")).0, 200, "{how}");
    }
}

#[test]
fn what_does_not_stop_is_ended_when_it_is_told_to() {
    let server = Server::start();
    let design = server.sample();
    let path = format!("/api/designs/{design}/harm/loop");
    std::thread::scope(|all| {
        let endless = all.spawn(|| server.send("POST", &path, &[("x-kachel-job", "endless")], b""));
        std::thread::sleep(Duration::from_millis(300));
        let since = Instant::now();
        assert_eq!(server.send("DELETE", "/api/jobs/endless", &[], b"").0, 204);
        let (status, problem) = endless.join().unwrap();
        assert_eq!((status, &problem["code"]), (503, &json!("stopped")));
        assert!(since.elapsed() < Duration::from_secs(5), "{:?}", since.elapsed());
    });
    assert_eq!(server.get(&format!("/api/designs/{design}")).0, 200);
}

#[test]
fn a_computation_ends_with_the_connection_of_whoever_asked() {
    let server = Server::start();
    let design = server.sample();
    let before = server.helper().unwrap();
    let address = server.url.trim_start_matches("http://").trim_end_matches('/');
    let mut line = TcpStream::connect(address).unwrap();
    write!(line, "POST /api/designs/{design}/harm/loop HTTP/1.1\r\nHost: {address}\r\nContent-Length: 0\r\n\r\n")
        .unwrap();
    std::thread::sleep(Duration::from_millis(300));
    assert_eq!(server.helper(), Some(before));
    // Closed in the usual way: not a byte more is sent.
    drop(line);
    until("it goes on", || server.helper() != Some(before));
    assert_eq!(server.get(&format!("/api/designs/{design}")).0, 200);
}

#[test]
fn a_design_that_ends_its_computation_twice_is_left_alone_until_somebody_asks() {
    let server = Server::start();
    let design = server.sample();
    let harm = || server.post(&format!("/api/designs/{design}/harm/abort")).1["code"].clone();
    assert_eq!((harm(), harm()), (json!("helper-died"), json!("helper-died")));
    let (status, problem) = server.get(&format!("/api/designs/{design}"));
    assert_eq!((status, &problem["code"]), (503, &json!("left-alone")));
    let is_left = || server.get("/api/designs").1[0]["is_left_alone"].clone();
    assert_eq!(is_left(), json!(true));
    // It can still be deleted and put back, and is computed when somebody asks.
    assert_eq!(server.send("DELETE", &format!("/api/designs/{design}"), &[], b"").0, 204);
    assert_eq!(server.post(&format!("/api/designs/{design}/restore")).0, 200);
    assert_eq!(server.post(&format!("/api/designs/{design}/try-again")).0, 204);
    assert_eq!(server.get(&format!("/api/designs/{design}")).0, 200);
    assert_eq!(is_left(), json!(false));
}

#[test]
fn the_helper_ends_with_the_server() {
    let mut server = Server::start();
    server.sample();
    let helper = server.helper().unwrap();
    server.child.kill().unwrap();
    server.child.wait().unwrap();
    until("the helper lives on", || {
        let status = std::fs::read_to_string(format!("/proc/{helper}/status")).unwrap_or_default();
        status.is_empty() || status.contains("State:\tZ")
    });
}

#[test]
fn a_body_that_stalls_is_given_up_and_keeps_nobody_waiting() {
    let server = Server::start();
    server.sample();
    let address = server.url.trim_start_matches("http://").trim_end_matches('/').to_string();
    let stalled: Vec<TcpStream> = (0..40)
        .map(|_| {
            let mut line = TcpStream::connect(&address).unwrap();
            write!(
                line,
                "POST /api/designs HTTP/1.1\r\nHost: {address}\r\nContent-Type: multipart/form-data; boundary=x\r\n"
            )
            .unwrap();
            write!(line, "Content-Length: 200000\r\n\r\n--x\r\n").unwrap();
            line
        })
        .collect();
    assert!(server.shelf() < Duration::from_secs(1));
    let mut last = stalled.into_iter().next_back().unwrap();
    last.set_read_timeout(Some(Duration::from_secs(25))).unwrap();
    let mut said = [0; 12];
    last.read_exact(&mut said).unwrap();
    assert_eq!(&said, b"HTTP/1.1 408");
}
