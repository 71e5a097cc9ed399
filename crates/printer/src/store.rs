//! The printer's own memory: its queue and what it is doing, in a file of its own.

use crate::machine::{Machine, Outcome};
use crate::plan::{Head, Plan, PlanGroup};
use crate::schema::{drawings, jobs, layers, machine};
use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use diesel::result::Error as DieselError;
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use kachel_words::{msg, said};
use sha2::{Digest, Sha256};
use std::fmt::Write as _;
use std::path::Path;
use uuid::Uuid;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// Jobs that wait at a time.
pub const MAX_WAITING: i64 = 100;
/// Ended jobs that are remembered.
const KEPT: i64 = 50;

const WAITING: &str = "waiting";
const ON_BED: &str = "on-bed";

/// Why the printer's memory could not be used.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is no such job.
    UnknownJob,
    /// The job has no such layer.
    UnknownLayer,
    /// Too many jobs wait.
    QueueFull,
    /// The file cannot be read or written.
    File(String),
}

said!(StoreError: |e| match e {
    StoreError::UnknownJob => msg!("no-such-job"),
    StoreError::UnknownLayer => msg!("no-such-layer"),
    StoreError::QueueFull => msg!("queue-full", most = MAX_WAITING),
    StoreError::File(why) => msg!("printer-memory", why = why),
});

impl From<DieselError> for StoreError {
    fn from(e: DieselError) -> Self {
        Self::File(e.to_string())
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(e: serde_json::Error) -> Self {
        Self::File(e.to_string())
    }
}

/// A job that is not on the bed.
#[derive(Clone, Debug)]
pub(crate) struct Row {
    pub id: String,
    pub name: String,
    pub head: Head,
    /// How it ended; none while it waits.
    pub outcome: Option<Outcome>,
    pub took: f64,
    pub waited: f64,
}

type Columns = (String, String, String, String, f64, f64);
const COLUMNS: (jobs::id, jobs::name, jobs::plan, jobs::state, jobs::took, jobs::waited) =
    (jobs::id, jobs::name, jobs::plan, jobs::state, jobs::took, jobs::waited);

fn read((id, name, plan, state, took, waited): Columns) -> Result<Row, StoreError> {
    let head = serde_json::from_str(&plan)?;
    let outcome = ENDS.iter().find(|(_, name)| *name == state).map(|(o, _)| *o);
    Ok(Row { id, name, head, outcome, took, waited })
}

const ENDS: [(Outcome, &str); 3] =
    [(Outcome::Finished, "finished"), (Outcome::Stopped, "stopped"), (Outcome::Failed, "failed")];

fn end_name(outcome: Outcome) -> &'static str {
    ENDS.iter().find(|(o, _)| *o == outcome).map_or("stopped", |(_, name)| name)
}

pub(crate) struct Store {
    c: SqliteConnection,
}

impl Store {
    pub fn open(path: &Path) -> Result<Self, StoreError> {
        let other = |e: &dyn std::fmt::Display| StoreError::File(e.to_string());
        let mut c = SqliteConnection::establish(&path.to_string_lossy()).map_err(|e| other(&e))?;
        c.batch_execute(
            "PRAGMA busy_timeout = 5000; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON;",
        )?;
        c.run_pending_migrations(MIGRATIONS).map_err(|e| other(&e))?;
        Ok(Self { c })
    }

    /// Several changes, all or none.
    fn write<T>(
        &mut self,
        change: impl FnOnce(&mut SqliteConnection) -> Result<T, StoreError>,
    ) -> Result<T, StoreError> {
        self.c.immediate_transaction(change)
    }

    pub fn machine(&mut self) -> Result<Machine, StoreError> {
        let text: Option<String> = machine::table.find(1).select(machine::state).first(&mut self.c).optional()?;
        Ok(text.map_or_else(|| Ok(Machine::default()), |t| serde_json::from_str(&t))?)
    }

    /// Keeps what the printer is doing; a job that has ended is told as such.
    pub fn keep(&mut self, m: &Machine) -> Result<(), StoreError> {
        self.write(|c| keep(c, m))
    }

    /// Puts a job at the end of the queue.
    pub fn add(&mut self, plan: &Plan) -> Result<String, StoreError> {
        self.write(|c| {
            let id = Uuid::new_v4().to_string();
            insert_job(c, &id, plan.name.trim(), &serde_json::to_string(&plan.head())?)?;
            for (k, layer) in plan.layers.iter().enumerate() {
                let body = serde_json::to_string(&layer.groups)?;
                let mut hash = String::with_capacity(64);
                Sha256::digest(&body).iter().for_each(|b| _ = write!(hash, "{b:02x}"));
                diesel::insert_or_ignore_into(drawings::table)
                    .values((drawings::hash.eq(&hash), drawings::body.eq(body)))
                    .execute(c)?;
                insert_layer(c, &id, k as i32 + 1, &hash)?;
            }
            Ok(id)
        })
    }

    /// The same job once more, at the end of the queue.
    pub fn again(&mut self, id: &str) -> Result<String, StoreError> {
        self.write(|c| {
            let (name, plan): (String, String) = jobs::table
                .find(id)
                .select((jobs::name, jobs::plan))
                .first(c)
                .optional()?
                .ok_or(StoreError::UnknownJob)?;
            let new = Uuid::new_v4().to_string();
            insert_job(c, &new, &name, &plan)?;
            let all: Vec<(i32, String)> =
                layers::table.filter(layers::job_id.eq(id)).select((layers::number, layers::drawing)).load(c)?;
            all.iter().try_for_each(|(number, hash)| insert_layer(c, &new, *number, hash))?;
            Ok(new)
        })
    }

    /// Forgets a job that waits or has ended.
    pub fn remove(&mut self, id: &str) -> Result<(), StoreError> {
        self.write(|c| {
            let gone = diesel::delete(jobs::table.find(id).filter(jobs::state.ne(ON_BED))).execute(c)?;
            if gone == 0 {
                return Err(StoreError::UnknownJob);
            }
            tidy(c)
        })
    }

    /// Puts a waiting job at a place of the queue, 0 being the next.
    pub fn reorder(&mut self, id: &str, to: usize) -> Result<(), StoreError> {
        self.write(|c| {
            let mut ids: Vec<String> =
                jobs::table.filter(jobs::state.eq(WAITING)).order((jobs::rank, jobs::id)).select(jobs::id).load(c)?;
            let at = ids.iter().position(|k| k == id).ok_or(StoreError::UnknownJob)?;
            let moved = ids.remove(at);
            ids.insert(to.min(ids.len()), moved);
            for (rank, id) in (next_rank(c)?..).zip(&ids) {
                diesel::update(jobs::table.find(id)).set(jobs::rank.eq(rank)).execute(c)?;
            }
            Ok(())
        })
    }

    /// Waiting jobs, the next first.
    pub fn waiting(&mut self) -> Result<Vec<Row>, StoreError> {
        let rows = jobs::table.filter(jobs::state.eq(WAITING)).order((jobs::rank, jobs::id)).select(COLUMNS);
        rows.load::<Columns>(&mut self.c)?.into_iter().map(read).collect()
    }

    /// Ended jobs, the last first.
    pub fn ended(&mut self) -> Result<Vec<Row>, StoreError> {
        let rows = jobs::table.filter(jobs::state.ne_all([WAITING, ON_BED])).order(jobs::rank.desc()).select(COLUMNS);
        rows.load::<Columns>(&mut self.c)?.into_iter().map(read).collect()
    }

    pub fn job(&mut self, id: &str) -> Result<Row, StoreError> {
        let found = jobs::table.find(id).select(COLUMNS).first::<Columns>(&mut self.c).optional()?;
        read(found.ok_or(StoreError::UnknownJob)?)
    }

    /// Takes the next job out of the queue and onto the bed.
    pub fn take(&mut self, id: &str, m: &Machine) -> Result<(), StoreError> {
        self.write(|c| {
            diesel::update(jobs::table.find(id)).set(jobs::state.eq(ON_BED)).execute(c)?;
            keep(c, m)
        })
    }

    /// Finished jobs whose time nobody has written down yet.
    pub fn untold(&mut self) -> Result<Vec<Row>, StoreError> {
        let rows = jobs::table
            .filter(jobs::state.eq(end_name(Outcome::Finished)))
            .filter(jobs::told.eq(false))
            .order(jobs::rank)
            .select(COLUMNS);
        rows.load::<Columns>(&mut self.c)?.into_iter().map(read).collect()
    }

    /// What a job took is written down elsewhere.
    pub fn told(&mut self, id: &str) -> Result<(), StoreError> {
        diesel::update(jobs::table.find(id)).set(jobs::told.eq(true)).execute(&mut self.c)?;
        Ok(())
    }

    /// The lines of a layer; 1 is the lowest.
    pub fn layer(&mut self, id: &str, number: usize) -> Result<Vec<PlanGroup>, StoreError> {
        let number = i32::try_from(number).map_err(|_| StoreError::UnknownLayer)?;
        let body: Option<String> = layers::table
            .inner_join(drawings::table)
            .filter(layers::job_id.eq(id))
            .filter(layers::number.eq(number))
            .select(drawings::body)
            .first(&mut self.c)
            .optional()?;
        Ok(serde_json::from_str(&body.ok_or(StoreError::UnknownLayer)?)?)
    }
}

fn keep(c: &mut SqliteConnection, m: &Machine) -> Result<(), StoreError> {
    diesel::replace_into(machine::table)
        .values((machine::id.eq(1), machine::state.eq(serde_json::to_string(m)?)))
        .execute(c)?;
    if let (Some(job), Some(outcome)) = (&m.job, m.outcome) {
        let is_new = jobs::table.find(job).filter(jobs::state.eq(ON_BED)).count().get_result::<i64>(c)? > 0;
        if is_new {
            diesel::update(jobs::table.find(job))
                .set((
                    jobs::state.eq(end_name(outcome)),
                    jobs::rank.eq(next_rank(c)?),
                    jobs::took.eq(m.took),
                    jobs::waited.eq(m.waited),
                ))
                .execute(c)?;
            tidy(c)?;
        }
    }
    Ok(())
}

fn insert_job(c: &mut SqliteConnection, id: &str, name: &str, plan: &str) -> Result<(), StoreError> {
    let waiting: i64 = jobs::table.filter(jobs::state.eq(WAITING)).count().get_result(c)?;
    if waiting >= MAX_WAITING {
        return Err(StoreError::QueueFull);
    }
    diesel::insert_into(jobs::table)
        .values((
            jobs::id.eq(id),
            jobs::name.eq(name),
            jobs::plan.eq(plan),
            jobs::state.eq(WAITING),
            jobs::rank.eq(next_rank(c)?),
        ))
        .execute(c)?;
    Ok(())
}

fn insert_layer(c: &mut SqliteConnection, id: &str, number: i32, hash: &str) -> Result<(), StoreError> {
    diesel::insert_into(layers::table)
        .values((layers::job_id.eq(id), layers::number.eq(number), layers::drawing.eq(hash)))
        .execute(c)?;
    Ok(())
}

fn next_rank(c: &mut SqliteConnection) -> Result<i64, StoreError> {
    let last: Option<i64> = jobs::table.select(diesel::dsl::max(jobs::rank)).first(c)?;
    Ok(last.unwrap_or_default() + 1)
}

/// Forgets the oldest of what has ended, and lines of layers that no job has.
fn tidy(c: &mut SqliteConnection) -> Result<(), StoreError> {
    let old: Vec<String> = jobs::table
        .filter(jobs::state.ne_all([WAITING, ON_BED]))
        .order(jobs::rank.desc())
        .offset(KEPT)
        .limit(i64::MAX)
        .select(jobs::id)
        .load(c)?;
    diesel::delete(jobs::table.filter(jobs::id.eq_any(old))).execute(c)?;
    let used = layers::table.select(layers::drawing);
    diesel::delete(drawings::table.filter(drawings::hash.ne_all(used))).execute(c)?;
    Ok(())
}
