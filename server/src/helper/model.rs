//! What goes to the helper and comes back.

use actix_web::web::Bytes;
use kachel_words::{msg, said};
use std::net::SocketAddr;
use std::path::PathBuf;
use std::time::Duration;

/// Memory that the helper may use, bytes; beyond it is ended.
pub(super) const MOST_MEMORY: u64 = 1 << 30;
/// How long a request may take: what the helper allows itself, and some.
pub(super) const LONGEST: Duration = Duration::from_secs(126);
/// A computation that ended the helper so often is left alone.
pub(super) const MOST_DEATHS: u32 = 2;

/// How long the server keeps a line to the helper that is idle.
pub const IDLE_LINE: Duration = Duration::from_secs(30);

/// The header with the token.
pub const TOKEN: &str = "x-kachel-token";
/// The header with the name of a computation.
pub(super) const JOB: &str = "x-kachel-job";

/// How the helper is started.
#[derive(Clone, Debug)]
pub struct HelperConfig {
    /// The program; it is started with `helper`.
    pub program: PathBuf,
    /// Where data lives.
    pub data: PathBuf,
    /// Where the server listens, which takes prints for the printer.
    pub server: SocketAddr,
    /// Whether it offers ways to harm it, for tests.
    pub can_be_harmed: bool,
}

/// Why there is no answer.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum HelperError {
    /// It could not be started.
    NotStarted(String),
    /// It ended during the computation.
    Died,
    /// It needed too much memory.
    TooMuchMemory,
    /// It took too long.
    TooSlow,
    /// Somebody stopped it.
    Stopped,
    /// It has ended the helper before.
    LeftAlone,
}

said!(HelperError: |e| match e {
    HelperError::NotStarted(why) => msg!("no-helper", why = why),
    HelperError::Died => msg!("helper-died"),
    HelperError::TooMuchMemory => msg!("too-much-memory", mb = MOST_MEMORY >> 20),
    HelperError::TooSlow => msg!("too-slow", seconds = LONGEST.as_secs()),
    HelperError::Stopped => msg!("stopped-by-hand"),
    HelperError::LeftAlone => msg!("left-alone", n = MOST_DEATHS),
});

/// A request on its way.
pub struct Asked {
    pub method: String,
    /// With its query.
    pub path: String,
    pub headers: Vec<(String, String)>,
    pub body: Bytes,
    /// The name of its computation.
    pub job: String,
}

/// What came back.
pub struct Answer {
    pub status: u16,
    pub headers: Vec<(String, Vec<u8>)>,
    pub body: Vec<u8>,
}
