//! What is acknowledged is on the disk: a library loaded before the program watches its write-ahead log.

mod common;

use common::address_of;
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};

struct Watched {
    child: Child,
    url: String,
    syncs: PathBuf,
}

impl Watched {
    fn start() -> Self {
        let dir = Path::new(env!("CARGO_TARGET_TMPDIR")).join(format!("synced-{}", std::process::id()));
        std::fs::create_dir_all(&dir).unwrap();
        let (shim, syncs) = (dir.join("syncs.so"), dir.join("syncs"));
        let source = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/shim/syncs.c");
        let built =
            Command::new("cc").args(["-shared", "-fPIC", "-O1", "-o"]).arg(&shim).arg(source).arg("-ldl").status();
        assert!(built.unwrap().success(), "cc");
        std::fs::write(&syncs, [0; 8]).unwrap();
        let mut child = Command::new(env!("CARGO_BIN_EXE_kachel"))
            .args(["serve", "--listen", "127.0.0.1:0", "--data"])
            .arg(dir.join("data"))
            .env("LD_PRELOAD", &shim)
            .env("KACHEL_SYNCS", &syncs)
            // The shelf's alone: the printer's memory has a log as well, and is opened half a second after the start.
            .env("KACHEL_SYNCS_OF", "/kachel.db-wal")
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let url = address_of(&mut child);
        Self { child, url, syncs }
    }

    /// Syncs so far, and whether something of the log is not synced.
    fn seen(&self) -> (u32, bool) {
        let bytes = std::fs::read(&self.syncs).unwrap();
        let number = |k: usize| u32::from_le_bytes(bytes[k..k + 4].try_into().unwrap());
        (number(0), number(4) != 0)
    }

    fn post(&self, path: &str, version: Option<i64>, body: &Value) -> Value {
        let mut request = ureq::post(format!("{}{path}", self.url));
        if let Some(v) = version {
            request = request.header("If-Match", format!("\"{v}\""));
        }
        request.send_json(body).expect("taken").body_mut().read_json().unwrap()
    }
}

impl Drop for Watched {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

#[test]
fn a_change_is_synced_before_it_is_acknowledged() {
    let server = Watched::start();
    let design = server.post("/api/samples/ginkgo", None, &json!({}));
    let id = design["id"].as_str().unwrap();
    let mut version = design["version"].as_i64().unwrap();
    let mut before = server.seen();
    assert!(before.0 > 0 && !before.1, "the design itself: {before:?}");
    for k in 0..20 {
        let edits =
            json!({ "edits": [{ "kind": "set-measure", "name": "wall-height", "value": 12.0 + f64::from(k % 5) }] });
        let after = server.post(&format!("/api/designs/{id}/edits"), Some(version), &edits);
        version = after["version"].as_i64().unwrap();
        let now = server.seen();
        assert!(now.0 > before.0 && !now.1, "change {k}: {before:?} {now:?}");
        before = now;
    }
    server.post(&format!("/api/designs/{id}/undo"), Some(version), &json!({}));
    let now = server.seen();
    assert!(now.0 > before.0 && !now.1, "undo: {now:?}");
}
