//! The printer: the practice printer beside the shelf, opened when it is needed, or another one that answers at an address.

use crate::db::for_its_owner;
use crate::problem::ApiError;
use base64::Engine as _;
use kachel_printer::{JobItem, Plan, Practice, PrinterError};
use kachel_words::{Message, msg};
use serde::Deserialize;
use std::net::SocketAddr;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;
use ureq::Agent;

/// How long another printer may take over an answer.
const PATIENCE: Duration = Duration::from_secs(10);

/// Where the printer is. It may be missing or in use by another; what has to do with it then says so, the rest goes on.
pub enum Port {
    /// The practice printer, whose memory is a file.
    Here {
        /// The file.
        path: PathBuf,
        /// Once it is open.
        open: Mutex<Option<Arc<Practice>>>,
    },
    /// Another one that has the same interface, such as `http://192.168.1.20:4270`.
    There {
        /// Its address.
        address: String,
        /// Who asks it.
        agent: Agent,
        /// What it is told in the way of Basic authentication.
        pass: Option<String>,
    },
}

/// What another printer says it has taken.
#[derive(Deserialize)]
struct Taken {
    id: String,
}

impl Port {
    /// A printer whose memory is this file.
    pub fn at(path: PathBuf) -> Self {
        Self::Here { path, open: Mutex::default() }
    }

    /// A printer at an address.
    pub fn away(address: &str) -> Self {
        let agent = Agent::config_builder().http_status_as_error(false).timeout_global(Some(PATIENCE)).build().into();
        Self::There { address: address.trim_end_matches('/').into(), agent, pass: None }
    }

    /// The printer of the server that this process computes for.
    pub fn of_server(server: SocketAddr, pass_phrase: Option<&str>) -> Self {
        // A server that listens everywhere listens here as well.
        let host = if server.ip().is_unspecified() { "127.0.0.1".to_string() } else { server.ip().to_string() };
        let host = if server.is_ipv6() && !server.ip().is_unspecified() { format!("[{host}]") } else { host };
        let agent = Agent::config_builder().http_status_as_error(false).timeout_global(Some(PATIENCE)).build().into();
        let pass = pass_phrase.map(|p| base64::engine::general_purpose::STANDARD.encode(format!("kachel:{p}")));
        Self::There { address: format!("http://{host}:{}", server.port()), agent, pass }
    }

    /// The practice printer. Another one is asked by [`Port::forward`].
    pub fn printer(&self) -> Result<Arc<Practice>, ApiError> {
        let Self::Here { path, open } = self else { return Err(ApiError::Unknown("thing-practice-printer")) };
        let mut open = open.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(printer) = &*open {
            return Ok(Arc::clone(printer));
        }
        let printer = Arc::new(Practice::open(path)?);
        for end in ["", "-wal", "-shm"] {
            for_its_owner(&path.with_extension(format!("db{end}")));
        }
        *open = Some(Arc::clone(&printer));
        Ok(printer)
    }

    /// Hands over a plan; the job's name for the printer.
    pub fn send(&self, plan: &Plan) -> Result<String, ApiError> {
        plan.check().map_err(PrinterError::from)?;
        match self {
            Self::Here { .. } => Ok(self.printer()?.send(plan)?),
            Self::There { .. } => {
                let body = serde_json::to_vec(plan).map_err(|e| ApiError::Malformed(Message::quoted(e)))?;
                let (status, answer) = self.forward("POST", "/api/printer/jobs", &body)?;
                let taken = serde_json::from_slice::<Taken>(&answer);
                match taken {
                    Ok(taken) if status == 201 => Ok(taken.id),
                    _ => Err(self.gone(&msg!("answered", status = status.to_string()).to_string())),
                }
            }
        }
    }

    /// What a job took is written down.
    pub fn told(&self, id: &str) -> Result<(), ApiError> {
        match self {
            Self::Here { .. } => Ok(self.printer()?.told(id)?),
            Self::There { .. } => Ok(()),
        }
    }

    /// Jobs that the practice printer has finished and that are not written down.
    pub fn untold(&self) -> Result<Vec<JobItem>, ApiError> {
        match self {
            Self::Here { .. } => {
                let printer = self.printer()?;
                printer.tick()?;
                Ok(printer.untold()?)
            }
            Self::There { .. } => Ok(vec![]),
        }
    }

    /// Whether requests to the printer go elsewhere.
    pub const fn is_away(&self) -> bool {
        matches!(self, Self::There { .. })
    }

    /// Asks the other printer: its status and the body of its answer.
    pub fn forward(&self, method: &str, path: &str, body: &[u8]) -> Result<(u16, Vec<u8>), ApiError> {
        let Self::There { address, agent, pass } = self else {
            return Err(ApiError::Unknown("thing-printer-elsewhere"));
        };
        let request = ureq::http::Request::builder()
            .method(method)
            .uri(format!("{address}{path}"))
            .header("Content-Type", "application/json");
        let request = match pass {
            Some(pass) => request.header("Authorization", format!("Basic {pass}")),
            None => request,
        };
        let request = request.body(body).map_err(|e| self.gone(&e.to_string()))?;
        let mut answer = agent.run(request).map_err(|e| self.gone(&e.to_string()))?;
        let bytes = answer.body_mut().read_to_vec().map_err(|e| self.gone(&e.to_string()))?;
        Ok((answer.status().as_u16(), bytes))
    }

    fn gone(&self, why: &str) -> ApiError {
        let address = if let Self::There { address, .. } = self { address } else { "here" };
        ApiError::PrinterGone(address.into(), why.into())
    }
}
