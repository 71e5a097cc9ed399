use super::*;
use crate::plan::{PlanFilament, PlanStop};

/// Four layers of 100 s after 100 s of heating, with a change that needs somebody before the third.
fn head() -> Head {
    let filament = |name: &str| PlanFilament { name: name.into(), colour: [0; 3], grams: 1.0 };
    Head {
        printer: "Practice printer".into(),
        bed: [220.0, 220.0],
        heating: 100.0,
        heat: usual_heat(),
        filaments: vec![filament("Celadon"), filament("Cobalt")],
        begins_with: 0,
        tops: vec![0.2, 0.4, 0.6, 0.8],
        untils: vec![200.0, 300.0, 400.0, 500.0],
        stops: vec![PlanStop {
            at: 300.0,
            layer: 3,
            what: "Change to Cobalt".into(),
            filament: Some(1),
            by_itself: false,
        }],
    }
}

fn started() -> Machine {
    let mut m = Machine::default();
    m.start("job".into(), usual_heat());
    m
}

#[test]
fn a_job_heats_prints_waits_for_its_change_and_ends() {
    let (h, mut m) = (head(), started());
    m.advance(Some(&h), 60.0);
    assert_eq!(m.state, State::Heating);
    m.advance(Some(&h), 60.0);
    assert_eq!((m.state, m.temperatures), (State::Heating, [210.0, 60.0]), "125 s in all");
    m.advance(Some(&h), 1000.0);
    assert_eq!((m.state, m.done), (State::Waiting, 300.0));
    assert_eq!((h.layer_at(m.done), h.filament_at(m.done).name.as_str()), (Some(1), "Celadon"));
    // 200 s of plan in 210 s; what is over is waiting.
    assert!((m.took - 335.0).abs() < 1e-9 && (m.waited - 785.0).abs() < 1e-9, "{m:?}");
    m.order(Order::GoOn, Some(&h)).unwrap();
    m.advance(Some(&h), 1.0);
    assert_eq!(h.filament_at(m.done).name, "Cobalt");
    assert!((m.left(&h) - 209.0).abs() < 1e-9);
    m.advance(Some(&h), 300.0);
    assert_eq!((m.state, m.outcome, m.done), (State::Ended, Some(Outcome::Finished), 500.0));
    assert!((m.took - 545.0).abs() < 1e-9);
    assert!(m.temperatures[0] < 210.0, "it cools");
    m.order(Order::Clear, Some(&h)).unwrap();
    assert_eq!((m.state, m.job), (State::Idle, None));
}

#[test]
fn however_time_is_cut_the_same_comes_out() {
    let h = head();
    let run = |steps: &[f64]| {
        let mut m = started();
        steps.iter().for_each(|s| m.advance(Some(&h), *s));
        m
    };
    let (one, many) = (run(&[200.0]), run(&[0.5; 400]));
    assert_eq!(one.state, many.state);
    assert!((one.done - many.done).abs() < 1e-6 && (one.took - many.took).abs() < 1e-6, "{one:?} {many:?}");
    assert!((one.temperatures[1] - many.temperatures[1]).abs() < 1e-6);
}

#[test]
fn a_change_that_the_printer_makes_itself_does_not_halt_it() {
    let mut h = head();
    h.stops[0].by_itself = true;
    let mut m = started();
    m.advance(Some(&h), 10_000.0);
    assert_eq!((m.outcome, m.waited), (Some(Outcome::Finished), 0.0));
}

#[test]
fn it_is_paused_goes_on_and_is_stopped() {
    let (h, mut m) = (head(), started());
    m.advance(Some(&h), 50.0);
    for _ in 0..2 {
        m.order(Order::Pause, Some(&h)).unwrap();
        let before = m.done;
        m.advance(Some(&h), 500.0);
        assert_eq!((m.state, m.done), (State::Paused, before));
        m.order(Order::GoOn, Some(&h)).unwrap();
        m.advance(Some(&h), 100.0);
    }
    assert_eq!(m.state, State::Printing);
    assert_eq!(
        m.order(Order::Clear, Some(&h)).unwrap_err().to_string(),
        "The printer cannot be cleared while it prints"
    );
    m.order(Order::Stop, Some(&h)).unwrap();
    assert_eq!((m.state, m.outcome), (State::Ended, Some(Outcome::Stopped)));
    assert!(m.order(Order::GoOn, Some(&h)).is_err() && m.fail(Failure::PowerCut).is_err());
}

#[test]
fn filament_that_runs_out_halts_it_and_a_new_spool_lets_it_go_on() {
    let (h, mut m) = (head(), started());
    assert!(m.fail(Failure::FilamentOut).is_err(), "nothing runs while it heats");
    m.advance(Some(&h), 150.0);
    m.fail(Failure::FilamentOut).unwrap();
    let before = m.done;
    m.advance(Some(&h), 3600.0);
    assert_eq!((m.state, m.done), (State::FilamentOut, before));
    m.order(Order::GoOn, Some(&h)).unwrap();
    m.advance(Some(&h), 10.0);
    assert!(m.done > before);
}

#[test]
fn a_loose_print_can_only_be_stopped() {
    let (h, mut m) = (head(), started());
    m.advance(Some(&h), 150.0);
    m.fail(Failure::CameLoose).unwrap();
    assert!(m.order(Order::GoOn, Some(&h)).is_err());
    m.order(Order::Stop, Some(&h)).unwrap();
    assert_eq!(m.outcome, Some(Outcome::Failed));
}

#[test]
fn after_a_power_cut_it_begins_its_layer_again_unless_the_plate_has_grown_cold() {
    let cut = |for_seconds: f64| {
        let (h, mut m) = (head(), started());
        // In the second layer.
        m.advance(Some(&h), 125.0 + 1.05 * 150.0);
        m.fail(Failure::PowerCut).unwrap();
        m.advance(Some(&h), for_seconds);
        m.order(Order::GoOn, Some(&h)).unwrap();
        (h, m)
    };
    let (h, mut m) = cut(30.0);
    assert_eq!((m.state, m.done), (State::Heating, 200.0));
    m.advance(Some(&h), 600.0);
    assert_eq!((m.state, m.done), (State::Waiting, 300.0));
    // 38 degrees over the room fall to 18 in 600 s ln(38 / 18) = 448 s (Newton's law of cooling).
    assert_eq!(cut(440.0).1.state, State::Heating);
    assert_eq!(cut(460.0).1.state, State::CameLoose);
}
