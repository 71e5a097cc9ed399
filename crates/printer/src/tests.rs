use super::*;
use kachel_geom::Pose;
use std::path::PathBuf;
use std::time::Duration;

/// A file that goes with the test.
struct File(PathBuf);

impl File {
    fn new(name: &str) -> Self {
        Self(std::env::temp_dir().join(format!("kachel-printer-{name}-{}", uuid::Uuid::new_v4())))
    }

    fn open(&self) -> Practice {
        Practice::open(&self.0).unwrap()
    }
}

impl Drop for File {
    fn drop(&mut self) {
        for end in ["", "-wal", "-shm"] {
            let _ = std::fs::remove_file(format!("{}{end}", self.0.display()));
        }
    }
}

/// Three layers of 100 s after 100 s of heating, the upper two alike.
fn plan(name: &str) -> Plan {
    let lines = |d: &str| PlanLines { kind: "outer".into(), width: 0.4, colour: [1, 2, 3], path: d.into() };
    let layer = |k: f64, d: &str| PlanLayer {
        top: 0.2 * k,
        until: 100.0 + 100.0 * k,
        groups: vec![PlanGroup { lines: vec![lines(d)], poses: vec![Pose { x: 110.0, y: 110.0, degrees: 0.0 }] }],
    };
    Plan {
        name: name.into(),
        printer: "Practice printer".into(),
        bed: [220.0, 220.0],
        heating: 100.0,
        filaments: vec![PlanFilament { name: "Celadon".into(), colour: [169, 203, 176], grams: 4.0 }],
        heat: [215.0, 65.0],
        begins_with: 0,
        layers: vec![layer(1.0, "M0 0L1 1"), layer(2.0, "M0 0L2 2"), layer(3.0, "M0 0L2 2")],
        stops: vec![],
    }
}

fn names(items: &[JobItem]) -> Vec<&str> {
    items.iter().map(|i| i.name.as_str()).collect()
}

const HOUR: Duration = Duration::from_secs(3600);

#[test]
fn jobs_are_printed_one_after_the_other_when_the_bed_is_cleared() {
    let file = File::new("queue");
    let printer = file.open();
    for name in ["Leaf", "Snail", "Beet", "Token"] {
        printer.send(&plan(name)).unwrap();
    }
    let v = printer.view().unwrap();
    assert_eq!((v.job.unwrap().name.as_str(), names(&v.queue)), ("Leaf", vec!["Snail", "Beet", "Token"]));
    printer.reorder(&v.queue[2].id, 0).unwrap();
    printer.remove(&v.queue[1].id).unwrap();
    printer.let_pass(HOUR).unwrap();
    let v = printer.view().unwrap();
    assert_eq!((v.state, names(&v.queue)), (State::Ended, vec!["Token", "Snail"]));
    printer.order(Order::Clear).unwrap();
    let v = printer.view().unwrap();
    assert_eq!((v.state, v.job.unwrap().name.as_str()), (State::Heating, "Token"));
    assert_eq!(names(&v.ended), ["Leaf"]);
    // 100 s of heating take 125, 300 s of lines 315.
    assert!((v.ended[0].took - 440.0).abs() < 0.1, "{:?}", v.ended);
    assert_eq!(v.ended[0].outcome, Some(Outcome::Finished));
    let again = printer.again(&v.ended[0].id).unwrap();
    assert_eq!(names(&printer.view().unwrap().queue), ["Snail", "Leaf"]);
    assert_eq!(printer.layer(&again, 1).unwrap(), plan("").layers[0].groups);
}

#[test]
fn it_goes_on_where_it_was_after_it_was_closed() {
    let file = File::new("restart");
    let printer = file.open();
    let id = printer.send(&plan("Leaf")).unwrap();
    printer.set_speed(600.0).unwrap();
    printer.set_speed(1.0).unwrap();
    printer.let_pass(Duration::from_secs(200)).unwrap();
    printer.order(Order::Pause).unwrap();
    let before = printer.view().unwrap().job.unwrap();
    assert_eq!(before.layer, 1);
    drop(printer);
    let printer = file.open();
    let v = printer.view().unwrap();
    let after = v.job.unwrap();
    assert_eq!((v.state, &after.id, after.layer), (State::Paused, &id, 1));
    assert!((after.left - before.left).abs() < 1e-6);
    printer.order(Order::GoOn).unwrap();
    printer.let_pass(HOUR).unwrap();
    assert_eq!(printer.view().unwrap().headline, "Finished");
    // It is told until somebody has written it down, over a restart too.
    drop(printer);
    let printer = file.open();
    let told = printer.untold().unwrap();
    assert_eq!((told.len(), told[0].seconds), (1, 400.0));
    assert_eq!(printer.untold().unwrap().len(), 1);
    printer.told(&id).unwrap();
    assert!(printer.untold().unwrap().is_empty());
}

#[test]
fn equal_layers_are_kept_once_and_forgotten_with_the_last_job_that_has_them() {
    let file = File::new("layers");
    let printer = file.open();
    let drawings = || {
        use diesel::prelude::*;
        let mut c = SqliteConnection::establish(&file.0.to_string_lossy()).unwrap();
        schema::drawings::table.count().get_result::<i64>(&mut c).unwrap()
    };
    let first = printer.send(&plan("Leaf")).unwrap();
    let second = printer.send(&plan("Snail")).unwrap();
    assert_eq!(drawings(), 2);
    assert_eq!(printer.layer(&first, 3).unwrap(), printer.layer(&second, 2).unwrap());
    assert!(matches!(printer.layer(&first, 4), Err(PrinterError::Store(StoreError::UnknownLayer))));
    // What lies on the bed cannot be forgotten.
    assert!(printer.remove(&first).is_err());
    printer.remove(&second).unwrap();
    assert_eq!(drawings(), 2);
    printer.order(Order::Stop).unwrap();
    printer.order(Order::Clear).unwrap();
    printer.remove(&first).unwrap();
    assert_eq!(drawings(), 0);
}

#[test]
fn plans_that_no_printer_prints_are_refused() {
    let file = File::new("refused");
    let printer = file.open();
    let with = |change: &dyn Fn(&mut Plan)| {
        let mut p = plan("Leaf");
        change(&mut p);
        printer.send(&p).unwrap_err().to_string()
    };
    assert_eq!(with(&|p| p.layers.clear()), "The plan has no layers");
    assert_eq!(with(&|p| p.name = " ".into()), "The plan's name cannot be printed");
    assert!(with(&|p| p.layers[1].until = 10.0).contains("times"));
    assert!(with(&|p| p.layers[1].until = f64::NAN).contains("times"));
    assert!(with(&|p| p.layers[2].top = f64::INFINITY).contains("heights"));
    assert!(with(&|p| p.filaments.clear()).contains("filament"));
    assert!(with(&|p| p.layers[0].groups[0].lines[0].kind = "glue".into()).contains("lines"));
    assert!(with(&|p| p.bed[0] = 0.0).contains("bed"));
    let stop = |layer, filament| PlanStop { at: 150.0, layer, what: "Change".into(), filament, by_itself: false };
    assert!(with(&|p| p.stops = vec![stop(9, None)]).contains("stops"));
    assert!(with(&|p| p.stops = vec![stop(1, Some(4))]).contains("stops"));
    assert!(matches!(printer.set_speed(f64::NAN), Err(PrinterError::Speed)));
    assert!(printer.view().unwrap().queue.is_empty(), "nothing of it was taken");
}

#[test]
fn a_queue_has_an_end() {
    let file = File::new("full");
    let printer = file.open();
    for _ in 0..=MAX_WAITING {
        printer.send(&plan("Leaf")).unwrap();
    }
    assert!(matches!(printer.send(&plan("Leaf")), Err(PrinterError::Store(StoreError::QueueFull))));
}

#[test]
fn what_the_printer_says_is_what_happens() {
    let file = File::new("words");
    let printer = file.open();
    assert_eq!(printer.view().unwrap().headline, "The bed is clear");
    let mut p = plan("Leaf");
    p.stops =
        vec![PlanStop { at: 200.0, layer: 2, what: "Put the magnet in".into(), filament: None, by_itself: false }];
    printer.send(&p).unwrap();
    let v = printer.view().unwrap();
    assert_eq!(v.job.as_ref().unwrap().next.as_ref().unwrap().what, "Put the magnet in");
    printer.let_pass(Duration::from_secs(180)).unwrap();
    let v = printer.view().unwrap();
    assert_eq!(v.headline, "It prints layer 1 of 3");
    assert_eq!(v.failures.len(), 3);
    printer.let_pass(HOUR).unwrap();
    assert_eq!(printer.view().unwrap().headline, "Put the magnet in");
    printer.order(Order::GoOn).unwrap();
    printer.fail(Failure::CameLoose).unwrap();
    let v = printer.view().unwrap();
    assert!(v.headline.starts_with("The print has come loose") && v.advice.unwrap().contains("brim of 5 mm"));
    assert_eq!(v.orders, [Order::Stop]);
}
