//! The printer as a whole: what it is doing, kept in its file.

use crate::machine::{Failure, Machine, NotNow, Order, SPEEDS, State};
use crate::plan::{Head, Plan, PlanError, PlanGroup};
use crate::store::{Store, StoreError};
use crate::view::{JobItem, PrinterView, ShapeLayer, item, view};
use kachel_words::{msg, number, said};
use std::path::Path;
use std::sync::{Mutex, MutexGuard, PoisonError};
use std::time::{Duration, Instant};

/// Why the printer refuses something.
#[derive(Debug, thiserror::Error)]
pub enum PrinterError {
    /// A plan that cannot be printed.
    Plan(#[from] PlanError),
    /// It cannot be done now.
    NotNow(#[from] NotNow),
    /// Its memory could not be used, or does not hold what was asked for.
    Store(#[from] StoreError),
    /// A speed out of its range.
    Speed,
}

said!(PrinterError: |e| match e {
    PrinterError::Plan(e) => e.message(),
    PrinterError::NotNow(e) => e.message(),
    PrinterError::Store(e) => e.message(),
    PrinterError::Speed => msg!("speed-range", least = number(SPEEDS.0), most = number(SPEEDS.1)),
});

/// The practice printer. It can be shared: what it is doing is behind one lock.
pub struct Practice {
    inner: Mutex<Inner>,
}

struct Inner {
    store: Store,
    machine: Machine,
    /// The name of the job on the bed, and all of it but its lines.
    on_bed: Option<(String, Head)>,
    /// Until when the machine has been followed.
    since: Instant,
    /// When it was last kept.
    kept: Instant,
}

/// A shape has at most so many layers.
const SHAPE_LAYERS: usize = 64;
/// Kinds of lines that are seen from outside.
const SEEN: [&str; 3] = ["brim", "outer", "thin"];
/// So often what it is doing is kept while nothing but time happens: while it prints, and while it waits.
const KEEP_EVERY: Duration = Duration::from_secs(1);
const KEEP_WAITING: Duration = Duration::from_secs(15);

impl Practice {
    /// Opens the printer's file, and makes it where there is none. While nobody had it open, it stood still.
    pub fn open(path: &Path) -> Result<Self, PrinterError> {
        let mut store = Store::open(path)?;
        let mut machine = store.machine()?;
        let on_bed = match &machine.job {
            Some(id) => match store.job(id) {
                Ok(row) => Some((row.name, row.head)),
                // Its job is gone: the bed counts as clear.
                Err(StoreError::UnknownJob) => {
                    machine = Machine { speed: machine.speed, ..Machine::default() };
                    None
                }
                Err(e) => return Err(e.into()),
            },
            None => None,
        };
        let now = Instant::now();
        Ok(Self { inner: Mutex::new(Inner { store, machine, on_bed, since: now, kept: now }) })
    }

    /// Follows what has happened until now.
    fn now(&self) -> Result<MutexGuard<'_, Inner>, PrinterError> {
        let mut inner = self.inner.lock().unwrap_or_else(PoisonError::into_inner);
        let now = Instant::now();
        let gone = now.duration_since(inner.since);
        inner.since = now;
        inner.let_pass(gone)?;
        Ok(inner)
    }

    /// Lets time go by that no clock has shown.
    pub fn let_pass(&self, time: Duration) -> Result<(), PrinterError> {
        self.now()?.let_pass(time)
    }

    /// To be called about once a second: follows the clock, so that what happens is kept.
    pub fn tick(&self) -> Result<(), PrinterError> {
        self.now().map(drop)
    }

    /// What is seen of it.
    pub fn view(&self) -> Result<PrinterView, PrinterError> {
        let mut inner = self.now()?;
        let queue = inner.store.waiting()?.into_iter().map(item).collect();
        let mut ended: Vec<JobItem> = inner.store.ended()?.into_iter().map(item).collect();
        // What lies on the bed is told as that.
        ended.retain(|e| Some(&e.id) != inner.machine.job.as_ref());
        let job = inner.on_bed.as_ref().map(|(name, h)| (name.as_str(), h));
        Ok(view(&inner.machine, job, queue, ended))
    }

    /// Takes a job into the queue; it begins at once where the bed is clear.
    pub fn send(&self, plan: &Plan) -> Result<String, PrinterError> {
        plan.check()?;
        let mut inner = self.now()?;
        let id = inner.store.add(plan)?;
        inner.begin_next()?;
        Ok(id)
    }

    /// The same job once more.
    pub fn again(&self, id: &str) -> Result<String, PrinterError> {
        let mut inner = self.now()?;
        let id = inner.store.again(id)?;
        inner.begin_next()?;
        Ok(id)
    }

    /// Forgets a job that waits or has ended.
    pub fn remove(&self, id: &str) -> Result<(), PrinterError> {
        let mut inner = self.now()?;
        if inner.machine.job.as_deref() == Some(id) {
            return Err(StoreError::UnknownJob.into());
        }
        Ok(inner.store.remove(id)?)
    }

    /// Puts a waiting job at a place of the queue, 0 being the next.
    pub fn reorder(&self, id: &str, to: usize) -> Result<(), PrinterError> {
        Ok(self.now()?.store.reorder(id, to)?)
    }

    /// Does what somebody says.
    pub fn order(&self, order: Order) -> Result<(), PrinterError> {
        let mut inner = self.now()?;
        let head = inner.on_bed.take();
        let done = inner.machine.order(order, head.as_ref().map(|(_, h)| h));
        inner.on_bed = head;
        done?;
        if inner.machine.state == State::Idle {
            inner.on_bed = None;
            inner.begin_next()?;
        }
        inner.keep()
    }

    /// Lets something go wrong.
    pub fn fail(&self, failure: Failure) -> Result<(), PrinterError> {
        let mut inner = self.now()?;
        inner.machine.fail(failure)?;
        inner.keep()
    }

    /// How many times as fast as a real one it runs.
    pub fn set_speed(&self, speed: f64) -> Result<(), PrinterError> {
        if !(SPEEDS.0..=SPEEDS.1).contains(&speed) {
            return Err(PrinterError::Speed);
        }
        let mut inner = self.now()?;
        inner.machine.speed = speed;
        inner.keep()
    }

    /// The lines of a layer of a job; 1 is the lowest.
    pub fn layer(&self, id: &str, number: usize) -> Result<Vec<PlanGroup>, PrinterError> {
        Ok(self.now()?.store.layer(id, number)?)
    }

    /// A job as it is seen from outside: some of its layers, the highest among them.
    pub fn shape(&self, id: &str) -> Result<Vec<ShapeLayer>, PrinterError> {
        let mut inner = self.now()?;
        let tops = inner.store.job(id)?.head.tops;
        let step = tops.len().div_ceil(SHAPE_LAYERS).max(1);
        let mut all = Vec::new();
        for (k, top) in tops.iter().enumerate().filter(|(k, _)| (tops.len() - 1 - k).is_multiple_of(step)) {
            let mut groups = inner.store.layer(id, k + 1)?;
            for g in &mut groups {
                g.lines.retain(|l| SEEN.contains(&l.kind.as_str()));
            }
            groups.retain(|g| !g.lines.is_empty());
            all.push(ShapeLayer { number: k + 1, top: *top, groups });
        }
        Ok(all)
    }

    /// Finished jobs that nobody has written down yet: how long they were planned to take, and took.
    pub fn untold(&self) -> Result<Vec<JobItem>, PrinterError> {
        Ok(self.now()?.store.untold()?.into_iter().map(item).collect())
    }

    /// What a job took is written down.
    pub fn told(&self, id: &str) -> Result<(), PrinterError> {
        Ok(self.now()?.store.told(id)?)
    }
}

impl Inner {
    fn let_pass(&mut self, time: Duration) -> Result<(), PrinterError> {
        let before = self.machine.state;
        let head = self.on_bed.as_ref().map(|(_, h)| h);
        self.machine.advance(head, time.as_secs_f64() * self.machine.speed);
        let every = if matches!(before, State::Heating | State::Printing) { KEEP_EVERY } else { KEEP_WAITING };
        let is_over = self.kept.elapsed() >= every && before != State::Idle;
        if self.machine.state != before || is_over { self.keep() } else { Ok(()) }
    }

    fn keep(&mut self) -> Result<(), PrinterError> {
        self.store.keep(&self.machine)?;
        self.kept = Instant::now();
        Ok(())
    }

    /// Begins the next job where the bed is clear.
    fn begin_next(&mut self) -> Result<(), PrinterError> {
        if self.machine.state != State::Idle {
            return Ok(());
        }
        let Some(next) = self.store.waiting()?.into_iter().next() else { return Ok(()) };
        let mut machine = self.machine.clone();
        machine.start(next.id.clone(), next.head.heat);
        self.store.take(&next.id, &machine)?;
        self.machine = machine;
        self.on_bed = Some((next.name, next.head));
        self.kept = Instant::now();
        Ok(())
    }
}
