use kachel_words::{Message, msg, said};
use std::sync::atomic::{AtomicBool, AtomicU32, AtomicU64, Ordering::Relaxed};

/// Somebody stopped the computation.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub struct Stopped;

said!(Stopped: |e| {
    let Stopped = e;
    msg!("stopped")
});

/// What the engine is doing.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[repr(u32)]
pub enum Stage {
    /// Nothing yet.
    Waiting,
    /// Reading the picture.
    Artwork,
    /// Finding contours.
    Trace,
    /// Sizing patches.
    Outline,
    /// Making footprints.
    Tiers,
    /// Building the mesh.
    Solid,
    /// Looking for what would go wrong.
    Check,
}

impl Stage {
    const ALL: [Self; 7] =
        [Self::Waiting, Self::Artwork, Self::Trace, Self::Outline, Self::Tiers, Self::Solid, Self::Check];

    /// Stable name.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Waiting => "waiting",
            Self::Artwork => "artwork",
            Self::Trace => "trace",
            Self::Outline => "outline",
            Self::Tiers => "tiers",
            Self::Solid => "solid",
            Self::Check => "check",
        }
    }

    /// What a person reads while it runs.
    pub fn words(self) -> Message {
        Message::new(format!("stage-{}", self.name()))
    }
}

/// Shared between a long computation and whoever waits for it: how far it is, and whether it should stop.
#[derive(Debug, Default)]
pub struct Watch {
    stopped: AtomicBool,
    stage: AtomicU32,
    /// Done in the upper half, total in the lower.
    steps: AtomicU64,
}

impl Watch {
    /// Asks the computation to stop at its next [`Watch::check`].
    pub fn stop(&self) {
        self.stopped.store(true, Relaxed);
    }

    /// To be called in long loops.
    pub fn check(&self) -> Result<(), Stopped> {
        if self.stopped.load(Relaxed) { Err(Stopped) } else { Ok(()) }
    }

    /// A stage begins.
    pub fn enter(&self, stage: Stage) -> Result<(), Stopped> {
        self.stage.store(stage as u32, Relaxed);
        self.steps.store(0, Relaxed);
        self.check()
    }

    /// `done` of `total` steps of the stage are behind us.
    pub fn step(&self, done: usize, total: usize) -> Result<(), Stopped> {
        let half = |n: usize| u64::from(u32::try_from(n).unwrap_or(u32::MAX));
        self.steps.store(half(done) << 32 | half(total), Relaxed);
        self.check()
    }

    /// The stage and the share of it that is done, where it is known.
    pub fn progress(&self) -> (Stage, Option<f64>) {
        let stage = Stage::ALL.get(self.stage.load(Relaxed) as usize).copied().unwrap_or(Stage::Waiting);
        let steps = self.steps.load(Relaxed);
        let (done, total) = ((steps >> 32) as u32, (steps & u64::from(u32::MAX)) as u32);
        (stage, (total > 0).then(|| f64::from(done) / f64::from(total)))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tells_how_far_and_stops() {
        let watch = Watch::default();
        assert_eq!(watch.progress(), (Stage::Waiting, None));
        watch.enter(Stage::Solid).unwrap();
        watch.step(1, 4).unwrap();
        assert_eq!(watch.progress(), (Stage::Solid, Some(0.25)));
        watch.stop();
        assert_eq!(watch.step(2, 4), Err(Stopped));
    }
}
