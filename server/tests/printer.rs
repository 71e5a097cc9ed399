//! The printer over HTTP, and what prints took.

mod common;

use common::{FRAME, TestServer, agent, fresh_dir, send_file};
use serde_json::{Value, json};

/// A token from a sample, small and quick to rehearse.
fn token(server: &TestServer) -> String {
    let samples = server.get_json("/api/samples");
    let id = samples[0]["id"].as_str().unwrap().to_string();
    let made = server.post(&format!("/api/samples/{id}"), None, &json!({})).1;
    let id = made["id"].as_str().unwrap().to_string();
    let edits = json!({ "edits": [
        { "kind": "set-recipe", "recipe": "token" },
        { "kind": "set-size", "axis": "width", "value": "20 mm", "of": "drawing" },
    ] });
    assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(1), &edits).0, 200);
    id
}

fn order(server: &TestServer, order: &str) -> (u16, Value) {
    server.post("/api/printer/orders", None, &json!({ "order": order }))
}

/// Lets the printer run until it is in a state.
fn until(server: &TestServer, state: &str) -> Value {
    for _ in 0..400 {
        let seen = server.get_json("/api/printer");
        if seen["state"] == state {
            return seen;
        }
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    panic!("it never came to {state}: {}", server.get_json("/api/printer"));
}

#[test]
fn a_design_is_sent_printed_and_its_time_flows_back() {
    let server = TestServer::in_dir(&fresh_dir("printer"));
    let id = token(&server);
    let planned = server.get_json(&format!("/api/designs/{id}/print"));
    assert_eq!(planned["likely"], Value::Null);
    let (status, job) = server.post(&format!("/api/designs/{id}/send"), None, &json!({}));
    assert_eq!(status, 201, "{job}");
    let seen = server.get_json("/api/printer");
    assert_eq!((seen["state"].as_str(), seen["job"]["id"].as_str()), (Some("heating"), job["id"].as_str()));
    let layers = planned["tops"].as_array().unwrap().len();
    assert_eq!(seen["job"]["layers"], layers);
    // The lines that the printer has are those of the rehearsal.
    let job = job["id"].as_str().unwrap();
    let layer = server.get_json(&format!("/api/printer/jobs/{job}/layers/2"));
    let rehearsed = server.get_json(&format!("/api/designs/{id}/print/2"));
    assert_eq!(layer[0]["lines"], rehearsed["lines"]);
    assert_eq!(server.get(&format!("/api/printer/jobs/{job}/layers/{}", layers + 1)).status(), 404);
    let shape = server.get_json(&format!("/api/printer/jobs/{job}/shape"));
    assert_eq!(shape.as_array().unwrap().last().unwrap()["number"], layers);
    assert_eq!(server.put("/api/printer/speed", None, &json!({ "speed": 601 })).0, 422);
    assert_eq!(server.put("/api/printer/speed", None, &json!({ "speed": 600 })).0, 200);
    assert_eq!(order(&server, "clear").0, 409);
    until(&server, "ended");
    // Who looks at the estimate now is told what this printer took.
    for _ in 0..100 {
        if server.get_json(&format!("/api/designs/{id}/print"))["likely"].is_object() {
            break;
        }
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    let likely = &server.get_json(&format!("/api/designs/{id}/print"))["likely"];
    let taken = server.get_json("/api/taken");
    assert_eq!(
        (likely["prints"].as_u64(), taken["prints"].as_array().unwrap().len()),
        (Some(1), 1),
        "{likely} {taken}"
    );
    let factor = likely["factor"].as_f64().unwrap();
    assert!((1.05..1.25).contains(&factor), "{factor}");
    let seconds = planned["seconds"].as_f64().unwrap();
    assert!((likely["seconds"].as_f64().unwrap() - factor * seconds).abs() < 1e-6);
    // A maker's own entry, and what is no time.
    let told = |took: &str| json!({ "name": "Token", "planned": seconds, "took": took });
    assert_eq!(server.post("/api/taken", None, &told("soon")).1["code"], "no-time");
    let after = server.post("/api/taken", None, &told("1h30")).1;
    assert_eq!((after["prints"][0]["took"].as_f64(), after["prints"].as_array().unwrap().len()), (Some(5400.0), 2));
    assert_eq!(server.delete("/api/taken"), 200);
    assert_eq!(server.get_json(&format!("/api/designs/{id}/print"))["likely"], Value::Null);
}

#[test]
fn a_job_goes_on_after_the_server_was_started_again() {
    let dir = fresh_dir("printer");
    let server = TestServer::in_dir(&dir);
    let id = token(&server);
    for _ in 0..2 {
        assert_eq!(server.post(&format!("/api/designs/{id}/send"), None, &json!({})).0, 201);
    }
    server.put("/api/printer/speed", None, &json!({ "speed": 600 }));
    until(&server, "printing");
    assert_eq!(order(&server, "pause").0, 200);
    let before = server.get_json("/api/printer");
    drop(server);
    let server = TestServer::in_dir(&dir);
    let after = server.get_json("/api/printer");
    assert_eq!((&after["job"]["id"], &after["job"]["layer"]), (&before["job"]["id"], &before["job"]["layer"]));
    assert_eq!((after["state"].as_str(), after["queue"].as_array().unwrap().len()), (Some("paused"), 1));
    // The design may go meanwhile: its job stays.
    server.delete(&format!("/api/designs/{id}"));
    assert_eq!(order(&server, "go-on").0, 200);
    until(&server, "ended");
    assert_eq!(order(&server, "clear").1["job"]["id"], after["queue"][0]["id"]);
    let (status, seen) = order(&server, "stop");
    assert_eq!((status, seen["headline"].as_str()), (200, Some("Stopped")));
}

#[test]
fn failures_are_told_with_what_to_do() {
    let server = TestServer::in_dir(&fresh_dir("printer"));
    let id = token(&server);
    let fail = |failure: &str| server.post("/api/printer/failures", None, &json!({ "failure": failure }));
    assert_eq!(fail("power-cut").1["code"], "not-now");
    server.post(&format!("/api/designs/{id}/send"), None, &json!({}));
    let (_, off) = fail("power-cut");
    assert!(off["advice"].as_str().unwrap().contains("40 °C"), "{off}");
    assert_eq!(order(&server, "go-on").1["state"], "heating");
    server.put("/api/printer/speed", None, &json!({ "speed": 300 }));
    until(&server, "printing");
    let (status, loose) = fail("came-loose");
    assert_eq!((status, loose["orders"].clone()), (200, json!(["stop"])), "{loose}");
    assert_eq!(order(&server, "stop").1["headline"], "Ended: the print came loose");
}

#[test]
fn a_printer_that_disappears_is_told_and_the_shelf_goes_on() {
    let dir = fresh_dir("printer");
    // What is no printer's memory.
    std::fs::write(dir.join("printer.db"), b"not a database, but quite long enough to be taken for one by mistake")
        .unwrap();
    let server = TestServer::in_dir(&dir);
    let id = token(&server);
    let (status, problem) = server.post(&format!("/api/designs/{id}/send"), None, &json!({}));
    assert_eq!((status, problem["code"].as_str()), (503, Some("no-printer")), "{problem}");
    assert!(problem["hint"].as_str().unwrap().contains("printer.db"));
    assert_eq!(server.get_json("/api/designs").as_array().unwrap().len(), 1);
    // Once the file is out of the way the printer is there again.
    std::fs::remove_file(dir.join("printer.db")).unwrap();
    assert_eq!(server.get_json("/api/printer")["state"], "idle");
}

#[test]
fn plans_of_others_are_taken_or_refused() {
    let server = TestServer::in_dir(&fresh_dir("printer"));
    let plan = |until: f64| {
        json!({
            "name": "By hand", "printer": "Mine", "bed": [200, 200], "heating": 10.0, "begins_with": 0, "stops": [],
            "filaments": [{ "name": "Celadon", "colour": [1, 2, 3], "grams": 1.0 }],
            "layers": [{ "top": 0.2, "until": until, "groups": [] }],
        })
    };
    assert_eq!(server.post("/api/printer/jobs", None, &plan(5.0)).1["code"], "plan-refused");
    assert_eq!(server.post("/api/printer/jobs", None, &json!({ "name": 1 })).0, 400);
    assert_eq!(server.post("/api/printer/jobs", None, &plan(50.0)).0, 201);
    let (_, second) = server.post("/api/printer/jobs", None, &plan(60.0));
    let (_, third) = server.post("/api/printer/jobs", None, &plan(70.0));
    let third = third["id"].as_str().unwrap();
    let seen = server.put(&format!("/api/printer/jobs/{third}/place"), None, &json!({ "to": 0 })).1;
    assert_eq!(seen["queue"][0]["id"], *third);
    let second = second["id"].as_str().unwrap();
    assert_eq!(server.delete(&format!("/api/printer/jobs/{second}")), 200);
    assert_eq!(server.delete(&format!("/api/printer/jobs/{second}")), 404);
    assert_eq!(server.post(&format!("/api/printer/jobs/{third}/again"), None, &json!({})).0, 201);
}

#[test]
fn house_measures_are_kept_used_taken_home_and_brought() {
    let server = TestServer::in_dir(&fresh_dir("houses"));
    let mut shop = server.get_json("/api/workshop");
    shop["workshop"]["houses"] = json!([{ "name": "My tag", "recipe": "key-tag", "measures": { "thickness": 2.0 } }]);
    let (status, kept) = server.put("/api/workshop", Some(0), &shop["workshop"]);
    assert_eq!(status, 200, "{kept}");
    let file = server.get("/api/workshop/houses").body_mut().read_to_vec().unwrap();
    // A new design begins with them, another is given them by one change.
    let picture = |house: &str| {
        let to = server.url(&format!("/api/designs?house={house}"));
        send_file(agent().post(to), "a.svg", FRAME.as_bytes(), None)
    };
    let made = picture("my%20tag").1;
    assert_eq!(
        (made["document"]["recipe"].as_str(), &made["document"]["measures"]["thickness"]),
        (Some("key-tag"), &json!(2.0))
    );
    assert_eq!(picture("none").0, 404);
    let id = made["id"].as_str().unwrap();
    let edit = json!({ "edits": [{ "kind": "set-measures", "recipe": "token", "measures": { "thickness": 3.0 } }] });
    let (status, after) = server.post(&format!("/api/designs/{id}/edits"), Some(1), &edit);
    assert_eq!((status, after["undo"].as_str()), (200, Some("House measures of a token")), "{after}");
    let back = server.post(&format!("/api/designs/{id}/undo"), Some(2), &json!({})).1;
    assert_eq!(back["document"]["measures"], made["document"]["measures"]);
    let wrong =
        json!({ "edits": [{ "kind": "set-measures", "recipe": "token", "measures": { "thickness": 3000.0 } }] });
    assert_eq!(server.post(&format!("/api/designs/{id}/edits"), Some(3), &wrong).0, 422);
    // Another workshop.
    let other = TestServer::in_dir(&fresh_dir("houses"));
    let bring = |bytes: &[u8], version| {
        send_file(agent().post(other.url("/api/workshop/houses")), "h.json", bytes, Some(version)).1
    };
    let brought = bring(&file, 0);
    assert_eq!(brought["workshop"]["houses"], shop["workshop"]["houses"]);
    assert_eq!(bring(b"{}", 1)["code"], "house-refused");
}

#[test]
fn a_printer_elsewhere_takes_the_practice_printers_place_and_may_disappear() {
    let there = TestServer::in_dir(&fresh_dir("there"));
    let mut here = common::config(&fresh_dir("here"));
    here.printer = Some(there.url("/"));
    let here = TestServer::start(here).unwrap();
    let id = token(&here);
    let (status, job) = here.post(&format!("/api/designs/{id}/send"), None, &json!({}));
    assert_eq!(status, 201, "{job}");
    // Both see the same printer, and either may tell it something.
    assert_eq!(here.get_json("/api/printer")["job"]["id"], job["id"]);
    assert_eq!(order(&here, "pause").1["state"], "paused");
    assert_eq!(there.get_json("/api/printer")["state"], "paused");
    assert_eq!(here.put("/api/printer/speed", None, &json!({ "speed": 0 })).1["code"], "out-of-range");
    drop(there);
    let (status, problem) = here.post(&format!("/api/designs/{id}/send"), None, &json!({}));
    assert_eq!((status, problem["code"].as_str()), (502, Some("printer-gone")), "{problem}");
    assert_eq!(here.get("/api/printer").status(), 502);
    assert_eq!(here.get_json("/api/designs").as_array().unwrap().len(), 1, "the shelf goes on");
}
