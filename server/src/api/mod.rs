//! The routes, one file a noun.

mod attachment;
mod beds;
mod bin;
mod designs;
mod files;
mod home;
mod jobs;
mod labels;
mod mends;
mod meshes;
mod openapi;
mod outline;
mod plates;
mod print;
mod printer;
mod recipes;
mod samples;
mod send;
mod sets;
mod shop;
mod snapshots;
mod states;
mod taken;
mod watching;
mod workshop;

use actix_web::web::ServiceConfig;

pub(crate) use beds::new_bed;
pub use beds::{BedEdits, BedItem, BedOnShelf, NewBed};
pub use bin::{BinItem, BinView};
pub use designs::Edits;
pub use home::{BroughtView, RefusedView};
pub use jobs::JobView;
pub use labels::{FilesWanted, LabelChange};
#[cfg(feature = "schema")]
pub use openapi::openapi;
pub use outline::SideView;
pub use printer::{FailureAsked, OrderGiven, QueuePlace, Speed};
pub(crate) use printer::{MAX_PLAN, elsewhere};
pub use recipes::RecipeView;
pub use samples::SampleView;
pub use send::SentJob;
pub(crate) use send::plan_of_plate;
pub use sets::SetMember;
pub use shop::{Damage, DesignView, ShelfItem, Shop};
pub(crate) use shop::{MAX_UPLOAD, Shared, job};
pub use snapshots::{SnapshotName, SnapshotView};
pub use states::{StateView, StepView};
pub use taken::{ReallyTook, TakenItem, TakenView};
pub use watching::VersionView;
pub use workshop::WorkshopView;

pub(crate) fn configure(routes: &mut ServiceConfig) {
    routes
        .configure(designs::configure)
        .configure(bin::configure)
        .configure(beds::configure)
        .configure(plates::configure)
        .configure(files::configure)
        .configure(labels::configure)
        .configure(home::configure)
        .configure(meshes::configure)
        .configure(outline::configure)
        .configure(samples::configure)
        .configure(mends::configure)
        .configure(print::configure)
        .configure(send::configure)
        .configure(sets::configure)
        .configure(printer::configure)
        .configure(taken::configure)
        .configure(recipes::configure)
        .configure(workshop::configure)
        .configure(snapshots::configure)
        .configure(states::configure)
        .configure(watching::configure)
        .configure(jobs::configure)
        .configure(openapi::configure);
}
