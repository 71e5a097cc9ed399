//! The local server: thin handlers over the engine, the shelf in one SQLite file, the front end built in.

mod api;
mod arrive;
mod assets;
mod clock;
mod computes;
mod db;
mod demo;
mod follow;
mod gone;
mod guard;
mod helper;
mod home;
mod printer;
mod problem;
mod strict;
mod texts;
mod tries;
mod worker;

use actix_web::dev::ServerHandle;
use actix_web::middleware::from_fn;
use actix_web::web::{self, Data};
use actix_web::{App, HttpServer};
use api::Shop;
use guard::Guard;
use helper::{Helper, HelperConfig};
use std::fs::{File, TryLockError};
use std::net::{IpAddr, SocketAddr, TcpListener};
use std::path::{Path, PathBuf};
use std::sync::Arc;

#[cfg(feature = "schema")]
pub use api::openapi;
pub use api::{
    BedEdits, BedItem, BedOnShelf, BinItem, BinView, BroughtView, Damage, DesignView, Edits, FailureAsked, FilesWanted,
    JobView, LabelChange, NewBed, OrderGiven, QueuePlace, ReallyTook, RecipeView, RefusedView, SampleView, SentJob,
    SetMember, ShelfItem, SideView, SnapshotName, SnapshotView, Speed, StateView, StepView, TakenItem, TakenView,
    VersionView, WorkshopView,
};
pub use clock::time_of;
pub use computes::serve as serve_as_helper;
pub use db::{Binned, COPIES, Damaged, Db, DbError, Shelved, Stored, TimedPrint, shelf_in};
pub use problem::Problem;

/// How the server is started.
#[derive(Clone, Debug)]
pub struct Config {
    /// Where it listens; port 0 takes any free one.
    pub listen: SocketAddr,
    /// Where data lives.
    pub data: PathBuf,
    /// Asked for on every request where the server listens beyond this machine.
    pub pass_phrase: Option<String>,
    /// The address of a printer that takes the practice printer's place.
    pub printer: Option<String>,
    /// Whether an empty shelf is filled with the demo.
    pub is_demo: bool,
    /// Limit of the data file, in pages of 4096 bytes.
    pub max_pages: Option<u32>,
    /// The program whose `helper` computes in a process of its own; computations run in this one where it is left out.
    pub helper: Option<PathBuf>,
    /// Whether the helper offers ways to harm it, for tests.
    pub can_be_harmed: bool,
    /// Whether Ctrl-C and a termination signal stop it.
    pub handles_signals: bool,
}

/// Why the server did not start.
#[derive(Debug, thiserror::Error)]
pub enum StartError {
    /// The data directory cannot be made or written.
    #[error("the data directory {path} cannot be used: {source}. Choose another with --data.")]
    Data {
        /// The directory.
        path: PathBuf,
        /// Why not.
        source: std::io::Error,
    },
    /// Another server uses it.
    #[error("another Kachel already uses the data directory {path}. Stop it, or choose another with --data.")]
    InUse {
        /// The directory.
        path: PathBuf,
    },
    /// The shelf cannot be opened.
    #[error("the shelf in {path} cannot be opened: {source}")]
    Shelf {
        /// The file.
        path: PathBuf,
        /// Why not.
        source: DbError,
    },
    /// The address cannot be used.
    #[error("cannot listen on {address}: {source}. Choose another with --listen.")]
    Listen {
        /// The address.
        address: SocketAddr,
        /// Why not.
        source: std::io::Error,
    },
    /// Listening beyond this machine without a pass phrase.
    #[error("{address} can be reached from other machines. Set KACHEL_PASS_PHRASE to at least 8 characters first.")]
    NoPassPhrase {
        /// The address.
        address: SocketAddr,
    },
    /// The demo could not be laid out.
    #[error("the demo shelf could not be filled: {0}")]
    Demo(String),
}

/// A server that is ready to run.
pub struct Ready {
    /// Where it listens.
    pub address: SocketAddr,
    server: actix_web::dev::Server,
    /// Held as long as the server runs.
    _lock: File,
}

impl Ready {
    /// By this the server can be stopped.
    pub fn handle(&self) -> ServerHandle {
        self.server.handle()
    }

    /// Runs until it is stopped.
    pub async fn run(self) -> std::io::Result<()> {
        self.server.await
    }
}

/// Keeps other servers away from a data directory, as long as the file is held.
pub fn lock(data: &Path) -> Result<File, StartError> {
    let fail = |source| StartError::Data { path: data.into(), source };
    if !data.exists() {
        std::fs::create_dir_all(data).map_err(fail)?;
        db::for_its_owner(data);
    }
    let file = File::options().create(true).truncate(false).write(true).open(data.join("kachel.lock")).map_err(fail)?;
    match file.try_lock() {
        Ok(()) => Ok(file),
        Err(TryLockError::WouldBlock) => Err(StartError::InUse { path: data.into() }),
        Err(TryLockError::Error(e)) => Err(fail(e)),
    }
}

/// Where a server can be reached that listens at an address: on all addresses of this machine where it listens everywhere, those of
/// other machines' use first.
pub fn reached_at(listens: SocketAddr) -> Vec<SocketAddr> {
    if !listens.ip().is_unspecified() {
        return vec![listens];
    }
    let mut all: Vec<IpAddr> =
        if_addrs::get_if_addrs().unwrap_or_default().iter().map(if_addrs::Interface::ip).collect();
    all.retain(|ip| listens.is_ipv6() || ip.is_ipv4());
    all.sort_by_key(|ip| (ip.is_loopback(), ip.is_ipv6()));
    all.dedup();
    all.into_iter().map(|ip| SocketAddr::new(ip, listens.port())).collect()
}

/// What this machine is called, alone and in the local network.
fn own_names() -> impl Iterator<Item = String> {
    // Elsewhere than on Linux it is reached by its address.
    let name = std::fs::read_to_string("/proc/sys/kernel/hostname").unwrap_or_default().trim().to_lowercase();
    let is_there = !name.is_empty();
    [name.clone(), format!("{name}.local")].into_iter().filter(move |_| is_there)
}

fn guard_for(config: &Config, address: SocketAddr) -> Result<Guard, StartError> {
    let port = address.port();
    let mut hosts: Vec<String> = ["127.0.0.1", "localhost", "[::1]"].iter().map(|h| format!("{h}:{port}")).collect();
    hosts.push(address.to_string());
    let tries = Arc::default();
    if address.ip().is_loopback() {
        return Ok(Guard { hosts, pass_phrase: None, tries });
    }
    let pass_phrase = config.pass_phrase.clone().filter(|p| p.chars().count() >= 8);
    if pass_phrase.is_none() {
        return Err(StartError::NoPassPhrase { address });
    }
    hosts.extend(reached_at(address).iter().map(|a| a.to_string()));
    hosts.extend(own_names().map(|name| format!("{name}:{port}")));
    Ok(Guard { hosts, pass_phrase, tries })
}

/// Opens the shelf and binds the address. To be called within an Actix system.
pub fn prepare(config: &Config) -> Result<Ready, StartError> {
    let lock = lock(&config.data)?;
    home::clear(&config.data);
    let path = db::shelf_in(&config.data);
    let shelf = |source| StartError::Shelf { path: path.clone(), source };
    let db = Db::open(&path, config.max_pages).map_err(shelf)?;
    if let Some(why) = db.unsound().map_err(shelf)? {
        eprintln!(
            "kachel: the shelf in {} is damaged ({why}). What can be read is shown; copies of earlier days lie in {}.",
            path.display(),
            config.data.join(db::COPIES).display()
        );
    }
    let failed = |source| StartError::Listen { address: config.listen, source };
    let listener = TcpListener::bind(config.listen).map_err(failed)?;
    let address = listener.local_addr().map_err(failed)?;
    let guard = Data::new(guard_for(config, address)?);
    let engine = kachel_engine::Engine::default();
    engine.set_workshop(db.workshop().map_err(shelf)?.1);
    let port = match &config.printer {
        Some(address) => printer::Port::away(address),
        None => printer::Port::at(config.data.join("printer.db")),
    };
    let helper = config.helper.as_ref().map(|program| {
        Helper::new(HelperConfig {
            program: program.clone(),
            data: config.data.clone(),
            server: address,
            can_be_harmed: config.can_be_harmed,
        })
    });
    let worker = worker::Worker::default();
    let shop = Data::new(Shop { db, engine, worker, port, helper: helper.clone(), is_helper: false });
    if config.is_demo {
        demo::fill(&shop).map_err(|e| StartError::Demo(e.to_string()))?;
    }
    follow::follow(std::sync::Arc::downgrade(&shop.clone().into_inner()), config.data.join(db::COPIES));
    let gates = Data::new(arrive::Gates::default());
    let mut server = HttpServer::new(move || {
        App::new()
            .app_data(guard.clone())
            .app_data(shop.clone())
            .app_data(gates.clone())
            .configure(strict::read_strictly)
            .wrap(from_fn(texts::only_new))
            .wrap(from_fn(api::elsewhere))
            .wrap(from_fn(arrive::arrive))
            .wrap(from_fn(guard::guard))
            .configure(api::configure)
            .route("/{path:.*}", web::get().to(assets::asset))
    })
    .on_connect(gone::remember)
    .workers(2)
    .shutdown_timeout(2);
    if let Some(helper) = helper {
        std::thread::spawn(move || helper.warm_up());
    }
    if !config.handles_signals {
        server = server.disable_signals();
    }
    let server = server.listen(listener).map_err(failed)?.run();
    Ok(Ready { address, server, _lock: lock })
}

/// Runs a server until it is stopped; calls `announce` with the address once it answers.
pub fn run(config: &Config, announce: impl FnOnce(SocketAddr)) -> Result<(), String> {
    actix_web::rt::System::new().block_on(async {
        let ready = prepare(config).map_err(|e| e.to_string())?;
        announce(ready.address);
        ready.run().await.map_err(|e| e.to_string())
    })
}
