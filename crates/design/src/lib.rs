//! A design is a [`Document`]: where its picture is, and everything that the maker decided. An [`Edit`] is the one way to
//! change it; the [`Workshop`] is what all designs share.
//!
//! Nothing here computes geometry: an edit that has to know the picture or the outline is handed it as its [`Basis`].
//!
//! ```
//! use kachel_design::{Axis, Edit, GeneralEdit, SizeOf};
//!
//! // In JSON an edit is told by its kind; a length is text as it was typed, or millimetres.
//! let json = r#"{ "kind": "set-size", "axis": "width", "value": "2 3/4 in", "of": "drawing" }"#;
//! let edit: Edit = serde_json::from_str(json)?;
//! let same = GeneralEdit::SetSize { axis: Axis::Width, value: "2 3/4 in".into(), of: SizeOf::Drawing };
//! assert_eq!(edit, same.into());
//! // What undo calls it.
//! assert_eq!(edit.label().to_string(), "Width 2 3/4 in");
//! # Ok::<(), serde_json::Error>(())
//! ```

mod bed;
mod colours;
mod document;
mod edit;
mod file_names;
mod house;
mod print;
mod source;
mod upgrade;
mod workshop;

pub use bed::{Bed, BedEdit, BedPiece, HEAD_ROOM_MM, MAX_PLATES, Moved, PrintOrder, UNDER_HEAD_MM};
pub use colours::{colour_difference, lightness, matching_filaments};
pub use document::{Accepted, ArtworkRef, Credit, Document, Guide, PatchFilament};
pub use edit::{
    Axis, Basis, Closing, Edit, EditError, GeneralEdit, Length, Needs, OutlineEdit, PictureEdit, SizeOf, TierEdit,
    Value, bars_mm, lay_by,
};
pub use file_names::{FileNames, FileNamesError, Named};
pub use house::{House, HouseError, MAX_HOUSE_FILE, MAX_HOUSES, read_houses, write_houses};
pub use kachel_pack::{Place, Turns};
pub use print::{Infill, PrintSettings, PrintWish, Quality};
pub use source::Source;
pub use upgrade::{DocumentError, VERSION};
pub use workshop::{Filament, Printer, Workshop, WorkshopError};
