use super::*;
use kachel_engine::{Edit, Engine, GeneralEdit, SAMPLES, Watch};
use uuid::Uuid;

fn sample() -> (Document, Vec<u8>) {
    let bytes = SAMPLES[0].bytes.to_vec();
    let d = Engine::default().new_document("Hedgehog", "hedgehog.svg", &bytes, &Watch::default()).unwrap();
    (d, bytes)
}

fn renamed(d: &Document, name: &str) -> Document {
    Edit::from(GeneralEdit::Rename { name: name.into() }).apply(d, &kachel_engine::Basis::default()).unwrap()
}

fn open(name: &str) -> (Db, std::path::PathBuf) {
    let dir = std::env::temp_dir().join(format!("kachel-db-{name}-{}", Uuid::new_v4()));
    std::fs::create_dir_all(&dir).unwrap();
    (Db::open(&dir.join("kachel.db"), None).unwrap(), dir)
}

#[test]
fn history_goes_back_and_forth_and_survives_reopening() {
    let (db, dir) = open("history");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, "New").unwrap();
    let b = db.designs().change(&a.id, a.version, &renamed(&d, "B"), "Rename").unwrap();
    let c = db.designs().change(&a.id, b.version, &renamed(&d, "C"), "Rename again").unwrap();
    assert_eq!((c.undo.as_deref(), c.redo.as_deref()), (Some("Rename again"), None));
    drop(db);
    let db = Db::open(&dir.join("kachel.db"), None).unwrap();
    let back = db.designs().step(&a.id, c.version, -1).unwrap();
    assert_eq!((back.document.name.as_str(), back.redo.as_deref()), ("B", Some("Rename again")));
    let first = db.designs().step(&a.id, back.version, -1).unwrap();
    assert_eq!((first.document.name.as_str(), first.undo), ("Hedgehog", None));
    assert!(matches!(db.designs().step(&a.id, first.version, -1), Err(DbError::NoStep("undo"))));
    let forth = db.designs().step(&a.id, first.version, 1).unwrap();
    let other = db.designs().change(&a.id, forth.version, &renamed(&d, "D"), "Rename").unwrap();
    assert!(
        matches!(db.designs().step(&a.id, other.version, 1), Err(DbError::NoStep("redo"))),
        "what was undone is given up"
    );
    assert_eq!(db.picture(&d.artwork.hash).unwrap(), bytes);
}

#[test]
fn a_stale_version_changes_nothing() {
    let (db, _dir) = open("stale");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, "New").unwrap();
    db.designs().change(&a.id, a.version, &renamed(&d, "B"), "Rename").unwrap();
    assert!(matches!(
        db.designs().change(&a.id, a.version, &renamed(&d, "X"), "Rename"),
        Err(DbError::Stale { current: 2 })
    ));
    assert!(matches!(db.designs().step(&a.id, a.version, -1), Err(DbError::Stale { .. })));
    assert_eq!(db.designs().get(&a.id).unwrap().document.name, "B");
    assert!(matches!(db.designs().get("nothing"), Err(DbError::UnknownWork(_))));
}

#[test]
fn of_many_writers_with_one_version_exactly_one_wins() {
    let (db, _dir) = open("race");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, "New").unwrap();
    let wins: usize = std::thread::scope(|s| {
        let tries: Vec<_> = (0..12)
            .map(|i| {
                let (db, d, a) = (db.clone(), renamed(&d, &format!("{i}")), &a);
                s.spawn(move || usize::from(db.designs().change(&a.id, a.version, &d, "Rename").is_ok()))
            })
            .collect();
        tries.into_iter().map(|t| t.join().unwrap()).sum()
    });
    assert_eq!((wins, db.designs().get(&a.id).unwrap().version), (1, 2));
}

#[test]
fn deleted_designs_come_back_with_their_history_and_copies_start_anew() {
    let (db, _dir) = open("delete");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, "New").unwrap();
    db.designs().change(&a.id, a.version, &renamed(&d, "B"), "Rename").unwrap();
    let copy = db.designs().duplicate(&a.id).unwrap();
    assert_eq!((copy.document.name.as_str(), copy.undo), ("B copy", None));
    assert_eq!(db.designs().duplicate(&copy.id).unwrap().document.name, "B copy 2");
    db.designs().delete(&a.id).unwrap();
    assert!(matches!(db.designs().delete(&a.id), Err(DbError::UnknownWork(_))));
    assert_eq!(db.designs().list().unwrap().len(), 2);
    assert_eq!(db.designs().restore(&a.id).unwrap().undo.as_deref(), Some("Rename"));
}

#[test]
fn a_full_database_says_so_and_keeps_what_it_has() {
    let (db, dir) = open("full");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, "New").unwrap();
    drop(db);
    let db = Db::open(&dir.join("kachel.db"), Some(24)).unwrap();
    let big = vec![7u8; 1 << 20];
    let mut other = d;
    other.artwork.hash = "other".into();
    let refused = db.designs().create(&other, &big, "New").unwrap_err();
    assert!(matches!(refused, DbError::Full), "{refused:?}");
    assert_eq!(db.designs().list().unwrap().len(), 1);
    assert_eq!(db.designs().get(&a.id).unwrap().document.name, "Hedgehog");
}

#[test]
fn a_newer_file_is_left_alone_and_migrations_go_down_and_up() {
    let (db, dir) = open("newer");
    let mut c = db.connection().unwrap();
    c.revert_all_migrations(MIGRATIONS).unwrap();
    c.run_pending_migrations(MIGRATIONS).unwrap();
    c.batch_execute("PRAGMA user_version = 9").unwrap();
    drop(c);
    assert!(matches!(Db::open(&dir.join("kachel.db"), None), Err(DbError::NewerFile { found: 9 })));
}

#[test]
fn the_workshop_has_a_version_of_its_own_and_survives_a_restart() {
    let (db, dir) = open("workshop");
    let (version, mut workshop) = db.workshop().unwrap();
    assert_eq!((version, &workshop), (0, &kachel_engine::Workshop::default()));
    workshop.currency = "$".into();
    assert_eq!(db.set_workshop(0, &workshop).unwrap(), 1);
    assert!(matches!(db.set_workshop(0, &workshop), Err(DbError::Stale { current: 1 })));
    drop(db);
    let again = Db::open(&dir.join("kachel.db"), None).unwrap();
    assert_eq!(again.workshop().unwrap(), (1, workshop));
}

#[test]
fn snapshots_belong_to_their_design_and_outlast_its_history() {
    let (db, _) = open("snapshots");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, "New").unwrap();
    let other = db.designs().create(&d, &bytes, "New").unwrap();
    let kept = db.keep(&a.id, "First").unwrap();
    let b = db.designs().change(&a.id, a.version, &renamed(&d, "B"), "Rename").unwrap();
    db.keep(&a.id, "Second").unwrap();
    let names = |id: &str| db.snapshots(id).unwrap().iter().map(|s| s.name.clone()).collect::<Vec<_>>();
    assert_eq!((names(&a.id).len(), names(&other.id).len()), (2, 0));
    assert_eq!(db.snapshot(&a.id, &kept.id).unwrap().document, d, "as it was, whatever came after");
    assert!(matches!(db.snapshot(&other.id, &kept.id), Err(DbError::UnknownWork(_))), "of another design");
    let branch = db.branch(&a.id, &kept.id).unwrap();
    assert_eq!((branch.document.name.as_str(), branch.undo), ("Hedgehog, First", None));
    db.forget(&a.id, &kept.id).unwrap();
    assert!(matches!(db.forget(&a.id, &kept.id), Err(DbError::UnknownWork(_))));
    assert_eq!(names(&a.id), ["Second"]);
    assert_eq!(db.designs().get(&a.id).unwrap().version, b.version, "a snapshot is no change");
}
