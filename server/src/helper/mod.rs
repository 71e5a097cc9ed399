//! The process that computes. The server reads no foreign file and makes no geometry itself: it hands such requests to a second
//! process of the same program, so that whatever happens there, the server goes on answering.
//!
//! | who | what |
//! |---|---|
//! | the server | pages, the shelf's lists, the printer; takes requests in and hands answers out |
//! | the helper | everything else under `/api/`, with the same handlers, on the same file |
//!
//! The helper listens on this machine only and asks for a token that nobody else knows. It ends when the server does: its standard
//! input closes then. Its memory and its time are watched, and it is ended where it needs
//! too much of them; the next request starts another one.

mod child;
mod flights;
mod held;
mod model;
mod routes;
mod tended;

pub use model::{Answer, Asked, HelperConfig, HelperError, IDLE_LINE, TOKEN};
pub use routes::stays;
pub use tended::Helper;
