use kachel_geom::{OffGrid, Stopped};
use kachel_words::{self as words, Message, msg, said};

/// Range of the edge's width and height, mm.
pub const SIZE_RANGE_MM: (f64, f64) = (1.0, 1000.0);

/// Why there is no outline.
#[derive(Debug, thiserror::Error)]
pub enum OutlineError {
    /// No patch has the use 'edge'.
    NoEdge,
    /// The list of changes leaves no patch of that use.
    NothingLeft {
        /// What the entry does: the code of its message.
        what: &'static str,
    },
    /// The edge would be smaller or larger than [`SIZE_RANGE_MM`].
    SizeOutOfRange {
        /// The size that came out.
        mm: f64,
        /// Which side it is of: the code of the message.
        side: &'static str,
    },
    /// A patch in use lies too far from the edge.
    OffGrid(#[from] OffGrid),
    /// Somebody stopped it.
    Stopped(#[from] Stopped),
}

said!(OutlineError: |e| match e {
    OutlineError::NoEdge => msg!("no-edge"),
    OutlineError::NothingLeft { what } => msg!("edge-gone", change = Message::new(*what)),
    OutlineError::SizeOutOfRange { mm, side } => {
        let [value, min, max] = [*mm, SIZE_RANGE_MM.0, SIZE_RANGE_MM.1].map(words::mm);
        msg!(*side, value = value.decimals(2), min = min, max = max)
    }
    OutlineError::OffGrid(e) => msg!("patch-too-far", why = e.message()),
    OutlineError::Stopped(e) => e.message(),
});
