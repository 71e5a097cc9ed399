use super::*;
use diesel::Connection as _;
use diesel::connection::SimpleConnection;
use diesel_migrations::MigrationHarness;
use kachel_engine::{Edit, Engine, GeneralEdit, SAMPLES, Watch};
use kachel_words::{Unit, mm};
use std::ops::Deref;
use std::path::{Path, PathBuf};
use uuid::Uuid;

fn sample() -> (Document, Vec<u8>) {
    let bytes = SAMPLES[0].bytes.to_vec();
    let d = Engine::default().new_document("Hedgehog", "hedgehog.svg", &bytes, &Watch::default()).unwrap();
    (d, bytes)
}

fn renamed(d: &Document, name: &str) -> Document {
    Edit::from(GeneralEdit::Rename { name: name.into() }).apply(d, &kachel_engine::Basis::default()).unwrap()
}

fn step(words: &str) -> Message {
    Message::quoted(words)
}

fn said(label: Option<StepLabel>) -> Option<String> {
    label.map(|l| l.said(Unit::Mm))
}

/// A folder that goes with the test.
struct Folder(PathBuf);

impl Folder {
    fn new(name: &str) -> Self {
        let path = std::env::temp_dir().join(format!("kachel-db-{name}-{}", Uuid::new_v4()));
        std::fs::create_dir_all(&path).unwrap();
        Self(path)
    }
}

impl Deref for Folder {
    type Target = Path;

    fn deref(&self) -> &Path {
        &self.0
    }
}

impl Drop for Folder {
    fn drop(&mut self) {
        let _ = std::fs::remove_dir_all(&self.0);
    }
}

fn open(name: &str) -> (Db, Folder) {
    let dir = Folder::new(name);
    (Db::open(&dir.join("kachel.db"), None).unwrap(), dir)
}

#[test]
fn history_goes_back_and_forth_and_survives_reopening() {
    let (db, dir) = open("history");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let b = db.designs().change(&a.id, a.version, &renamed(&d, "B"), &step("Rename")).unwrap();
    let c = db.designs().change(&a.id, b.version, &renamed(&d, "C"), &step("Rename again")).unwrap();
    assert_eq!((said(c.undo), said(c.redo)), (Some("Rename again".into()), None));
    drop(db);
    let db = Db::open(&dir.join("kachel.db"), None).unwrap();
    let back = db.designs().step(&a.id, c.version, -1).unwrap();
    assert_eq!((back.document.name.as_str(), said(back.redo)), ("B", Some("Rename again".into())));
    let first = db.designs().step(&a.id, back.version, -1).unwrap();
    assert_eq!((first.document.name.as_str(), first.undo), ("Hedgehog", None));
    assert!(matches!(db.designs().step(&a.id, first.version, -1), Err(DbError::NoStep("nothing-to-undo"))));
    let forth = db.designs().step(&a.id, first.version, 1).unwrap();
    let other = db.designs().change(&a.id, forth.version, &renamed(&d, "D"), &step("Rename")).unwrap();
    assert!(
        matches!(db.designs().step(&a.id, other.version, 1), Err(DbError::NoStep("nothing-to-redo"))),
        "what was undone is given up"
    );
    assert_eq!(db.picture(&d.artwork.hash).unwrap(), bytes);
}

/// A step is said as the design is shown now, not as it was when the step was made.
#[test]
fn a_step_is_said_in_any_unit_and_what_is_not_known_any_more_as_it_was_said() {
    let (db, dir) = open("labels");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let wide = msg!("drawing-wide", value = mm(50.8));
    let b = db.designs().change(&a.id, a.version, &renamed(&d, "B"), &wide).unwrap().undo.unwrap();
    assert_ne!(b.said(Unit::Mm), b.said(Unit::In));
    assert_eq!(b.said(Unit::In), wide.said(Unit::In));
    // Of another program, and of one that kept no messages.
    for message in [
        "'{\"code\":\"of-tomorrow\"}'",
        "'{\"cod'",
        "'{\"code\":\"drawing-wide\",\"values\":[[\"value\",{\"furlong\":1}]]}'",
        "NULL",
    ] {
        let mut c = diesel::SqliteConnection::establish(&dir.join("kachel.db").to_string_lossy()).unwrap();
        c.batch_execute(&format!("UPDATE revisions SET message = {message} WHERE seq = 2")).unwrap();
        let undo = db.designs().get(&a.id).unwrap().undo.unwrap();
        assert_eq!(undo.said(Unit::In), wide.said(Unit::Mm), "{message}");
    }
}

#[test]
fn a_stale_version_changes_nothing() {
    let (db, _dir) = open("stale");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    db.designs().change(&a.id, a.version, &renamed(&d, "B"), &step("Rename")).unwrap();
    assert!(matches!(
        db.designs().change(&a.id, a.version, &renamed(&d, "X"), &step("Rename")),
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
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let wins: usize = std::thread::scope(|s| {
        let tries: Vec<_> = (0..12)
            .map(|i| {
                let (db, d, a) = (db.clone(), renamed(&d, &format!("{i}")), &a);
                s.spawn(move || usize::from(db.designs().change(&a.id, a.version, &d, &step("Rename")).is_ok()))
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
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    db.designs().change(&a.id, a.version, &renamed(&d, "B"), &step("Rename")).unwrap();
    let copy = db.designs().duplicate(&a.id).unwrap();
    assert_eq!((copy.document.name.as_str(), copy.undo), ("B copy", None));
    assert_eq!(db.designs().duplicate(&copy.id).unwrap().document.name, "B copy 2");
    db.designs().delete(&a.id).unwrap();
    assert!(matches!(db.designs().delete(&a.id), Err(DbError::UnknownWork(_))));
    assert_eq!(db.designs().list().unwrap().len(), 2);
    assert_eq!(said(db.designs().restore(&a.id).unwrap().undo).as_deref(), Some("Rename"));
}

#[test]
fn what_is_saved_within_a_second_stands_in_order() {
    let (db, _dir) = open("order");
    let (d, bytes) = sample();
    let wait = || std::thread::sleep(std::time::Duration::from_millis(2));
    let ids: Vec<String> = (0..6)
        .map(|k| {
            wait();
            db.designs().create(&renamed(&d, &k.to_string()), &bytes, &step("New")).unwrap().id
        })
        .collect();
    let order = || {
        let all = db.designs().list().unwrap();
        all.into_iter().filter_map(|s| if let Shelved::Sound(s) = s { Some(s.document.name) } else { None }).collect()
    };
    let now: Vec<String> = order();
    assert_eq!(now, ["5", "4", "3", "2", "1", "0"]);
    wait();
    db.designs().change(&ids[2], 1, &renamed(&d, "changed"), &step("Rename")).unwrap();
    let now: Vec<String> = order();
    assert_eq!(now, ["changed", "5", "4", "3", "1", "0"]);
    for name in ["First", "Second", "Third", "Fourth"] {
        wait();
        db.keep(&ids[0], name).unwrap();
    }
    let kept: Vec<String> = db.snapshots(&ids[0]).unwrap().iter().map(|s| s.name.clone()).collect();
    assert_eq!(kept, ["Fourth", "Third", "Second", "First"]);
}

#[test]
fn a_full_database_says_so_and_keeps_what_it_has() {
    let (db, dir) = open("full");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    drop(db);
    let db = Db::open(&dir.join("kachel.db"), Some(24)).unwrap();
    let big = vec![7u8; 1 << 20];
    let mut other = d;
    other.artwork.hash = "other".into();
    let refused = db.designs().create(&other, &big, &step("New")).unwrap_err();
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
    c.batch_execute("PRAGMA user_version = 99").unwrap();
    drop(c);
    assert!(matches!(Db::open(&dir.join("kachel.db"), None), Err(DbError::NewerFile { found: 99 })));
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
    let (db, _dir) = open("snapshots");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let other = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let kept = db.keep(&a.id, "First").unwrap();
    let b = db.designs().change(&a.id, a.version, &renamed(&d, "B"), &step("Rename")).unwrap();
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

#[test]
fn a_damaged_snapshot_or_step_is_told_and_the_others_are_there() {
    use super::schema::{revisions, snapshots};
    let (db, _dir) = open("damaged-snapshot");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let [hurt, sound] = ["Hurt", "Sound"].map(|name| db.keep(&a.id, name).unwrap());
    // One letter: still a document, but not the one that was kept.
    let other = renamed(&d, "Hedgehug").to_json().unwrap();
    let mut c = db.connection().unwrap();
    diesel::update(snapshots::table.find(&hurt.id)).set(snapshots::document.eq(&other)).execute(&mut c).unwrap();
    let listed = db.snapshots(&a.id).unwrap();
    let of = |id: &str| listed.iter().find(|s| s.id == id).unwrap();
    assert!(of(&hurt.id).recipe.as_ref().unwrap_err().contains("not what was written"));
    assert_eq!(of(&sound.id).recipe, Ok(d.recipe));
    assert!(matches!(db.snapshot(&a.id, &hurt.id), Err(DbError::Document(_))));
    assert!(matches!(db.branch(&a.id, &hurt.id), Err(DbError::Document(_))));
    db.forget(&a.id, &hurt.id).unwrap();
    // What was kept before there were sums gets one when the shelf is opened.
    diesel::update(snapshots::table.find(&sound.id)).set(snapshots::sum.eq("")).execute(&mut c).unwrap();
    super::snapshots::fill_snapshot_sums(&mut c).unwrap();
    assert_eq!(db.snapshot(&a.id, &sound.id).unwrap().document, d);
    diesel::update(revisions::table.find((&a.id, 1_i64))).set(revisions::document.eq(&other)).execute(&mut c).unwrap();
    assert!(matches!(db.designs().at_step(&a.id, 1), Err(DbError::Document(_))));
}

#[test]
fn a_shelf_that_is_removed_while_it_is_open_is_noticed_and_kept() {
    let (db, dir) = open("removed");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let file = dir.join("kachel.db");
    ["", "-wal", "-shm"].iter().for_each(|end| drop(std::fs::remove_file(dir.join(format!("kachel.db{end}")))));
    // Neither read nor written any more, and no new shelf comes of it.
    assert!(matches!(db.designs().list(), Err(DbError::Removed)));
    assert!(matches!(db.designs().change(&a.id, a.version, &renamed(&d, "B"), &step("Rename")), Err(DbError::Removed)));
    assert!(!file.exists());
    let rescued: Vec<_> = std::fs::read_dir(dir.join(COPIES)).unwrap().flatten().map(|e| e.path()).collect();
    let [rescued] = &rescued[..] else { panic!("{rescued:?}") };
    assert_eq!(Db::open(rescued, None).unwrap().designs().get(&a.id).unwrap().document, d);
    // Another file in its place is another shelf.
    std::fs::copy(rescued, &file).unwrap();
    assert!(matches!(db.designs().list(), Err(DbError::Removed)));
}

/// Breaks the present document of a work on the disk.
fn break_head(db: &Db, id: &str, text: &str) {
    use super::schema::{revisions, works};
    let mut c = db.connection().unwrap();
    let head: i64 = works::table.find(id).select(works::head).first(&mut c).unwrap();
    diesel::update(revisions::table.find((id, head))).set(revisions::document.eq(text)).execute(&mut c).unwrap();
}

#[test]
fn a_damaged_design_is_set_aside_with_its_name_and_its_earlier_state() {
    let (db, _dir) = open("damaged");
    let (d, bytes) = sample();
    let sound = db.designs().create(&renamed(&d, "Sound"), &bytes, &step("New")).unwrap();
    let hurt = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let hurt = db.designs().change(&hurt.id, hurt.version, &renamed(&d, "Beet"), &step("Rename")).unwrap();
    // One bit: still a document, but not the one that was written.
    break_head(&db, &hurt.id, &renamed(&d, "Bemt").to_json().unwrap());
    let list = db.designs().list().unwrap();
    let damaged = list.iter().find_map(|s| if let Shelved::Damaged(d) = s { Some(d.clone()) } else { None }).unwrap();
    assert_eq!((damaged.id.as_str(), damaged.name.as_str(), damaged.has_earlier), (hurt.id.as_str(), "Bemt", true));
    assert!(damaged.why.contains("not what was written"), "{}", damaged.why);
    assert!(list.iter().any(|s| matches!(s, Shelved::Sound(s) if s.id == sound.id)), "the rest is there");
    assert!(matches!(db.designs().get(&hurt.id), Err(DbError::Document(_))));
    assert!(matches!(db.designs().rescue(&hurt.id, damaged.version - 1), Err(DbError::Stale { .. })));
    assert_eq!(db.designs().rescue(&hurt.id, damaged.version).unwrap().document.name, "Hedgehog");
    // Nothing earlier, no name, no document at all.
    break_head(&db, &sound.id, "\u{1}");
    let list = db.designs().list().unwrap();
    let damaged = list.iter().find_map(|s| if let Shelved::Damaged(d) = s { Some(d) } else { None }).unwrap();
    assert_eq!((damaged.name.as_str(), damaged.has_earlier), ("A damaged design", false));
    db.designs().delete(&sound.id).unwrap();
}

#[test]
fn a_head_that_is_missing_and_a_picture_that_is_not_its_own_are_told() {
    use super::schema::{pictures, revisions};
    let (db, _dir) = open("missing");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    let mut c = db.connection().unwrap();
    let other = [&bytes[..], b" "].concat();
    diesel::update(pictures::table.find(&d.artwork.hash)).set(pictures::bytes.eq(other)).execute(&mut c).unwrap();
    assert!(matches!(db.picture(&d.artwork.hash), Err(DbError::DamagedPicture)));
    diesel::delete(revisions::table.filter(revisions::work_id.eq(&a.id))).execute(&mut c).unwrap();
    drop(c);
    assert!(matches!(&db.designs().list().unwrap()[..], [Shelved::Damaged(d)] if d.why.contains("missing")));
}

#[test]
fn documents_of_before_get_their_sums_and_a_copy_is_made_before_that() {
    let (db, dir) = open("sums");
    let (d, bytes) = sample();
    db.designs().create(&d, &bytes, &step("New")).unwrap();
    let mut c = db.connection().unwrap();
    c.revert_last_migration(MIGRATIONS).unwrap();
    c.batch_execute("PRAGMA user_version = 4").unwrap();
    drop(c);
    drop(db);
    let db = Db::open(&dir.join("kachel.db"), None).unwrap();
    assert!(matches!(&db.designs().list().unwrap()[..], [Shelved::Sound(s)] if s.document == d));
    let copy = dir.join("copies").join(format!("before-version-{FILE_VERSION}.db"));
    assert!(copy.is_file());
    assert_eq!(db.unsound().unwrap(), None);
}

#[test]
fn what_is_no_shelf_is_refused_at_once_and_left_as_it_is() {
    let dir = Folder::new("strange");
    let file = dir.join("kachel.db");
    for bytes in [&b""[..], b"SQLite", b"a letter to the allotment club, long enough to be taken for something"] {
        std::fs::write(&file, bytes).unwrap();
        let start = std::time::Instant::now();
        let refused = Db::open(&file, None).err().unwrap();
        assert!(matches!(refused, DbError::NoShelf(_)), "{refused:?}");
        assert!(start.elapsed() < std::time::Duration::from_secs(2), "not after waiting for a lock");
        assert_eq!(std::fs::read(&file).unwrap(), bytes);
    }
}

#[test]
fn a_copy_holds_what_the_shelf_holds_and_is_its_owners_own() {
    let (db, dir) = open("copy");
    let (d, bytes) = sample();
    let a = db.designs().create(&d, &bytes, &step("New")).unwrap();
    db.daily_copy(&dir.join("copies"), "2026-11-29").unwrap();
    db.designs().change(&a.id, a.version, &renamed(&d, "B"), &step("Rename")).unwrap();
    // Once a day.
    db.daily_copy(&dir.join("copies"), "2026-11-29").unwrap();
    let copy = dir.join("copies/2026-11-29.db");
    let copied = Db::open(&copy, None).unwrap();
    assert_eq!(copied.designs().get(&a.id).unwrap().document, d);
    assert_eq!(copied.picture(&d.artwork.hash).unwrap(), bytes);
    db.daily_copy(&dir.join("copies"), "2026-12-09").unwrap();
    assert!(!copy.exists(), "a Sunday ten days ago");
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt as _;
        for file in ["kachel.db", "copies/2026-12-09.db"] {
            let mode = std::fs::metadata(dir.join(file)).unwrap().permissions().mode();
            assert_eq!(mode & 0o077, 0, "{file} {mode:o}");
        }
    }
}
