//! The HTTP interface described. `make openapi` makes `openapi.json` from the handlers; the program carries it as it is
//! checked in, because its types take minutes to compile, and a test holds the two equal.

use actix_web::HttpResponse;
use actix_web::http::header::CONTENT_TYPE;
use actix_web::web::{self, ServiceConfig};

pub(super) fn configure(routes: &mut ServiceConfig) {
    routes.route("/api/openapi.json", web::get().to(show));
}

async fn show() -> HttpResponse {
    HttpResponse::Ok().insert_header((CONTENT_TYPE, "application/json")).body(include_str!("../../openapi.json"))
}

#[cfg(feature = "schema")]
mod made {
    use crate::api::{
        beds, bin, designs, files, home, jobs, labels, mends, meshes, outline, plates, print, printer, recipes,
        samples, send, sets, snapshots, states, taken, watching, workshop,
    };
    use utoipa::OpenApi;

    /// All routes but this one's own.
    #[derive(OpenApi)]
    #[openapi(
        info(
            title = "Kachel",
            description = "The local server of the workshop. Lengths are millimetres, places in the picture pixels with y down. \
                Changes name the version they are of in If-Match: 412 when it is not the current one, 428 when it is missing. \
                Every refusal is an RFC 9457 problem document with a stable code and a hint."
        ),
        paths(
            beds::list,
            beds::create,
            beds::show,
            beds::edit,
            beds::arrange,
            beds::undo,
            beds::redo,
            beds::duplicate,
            beds::delete,
            beds::restore,
            beds::rescue,
            plates::print,
            plates::layer,
            plates::export,
            bin::show,
            bin::empty,
            designs::list,
            designs::upload,
            designs::show,
            designs::delete,
            designs::edit,
            designs::preview,
            designs::replace,
            designs::offered,
            designs::undo,
            designs::redo,
            designs::duplicate,
            designs::restore,
            designs::rescue,
            designs::try_again,
            files::picture,
            files::prepared,
            files::small,
            files::contours,
            files::object,
            files::several,
            files::name,
            home::home,
            home::bring,
            home::outline,
            home::part,
            labels::label,
            labels::files,
            meshes::show,
            meshes::in_use,
            meshes::in_use_mesh,
            jobs::show,
            jobs::stop,
            outline::drawing,
            outline::nodes,
            outline::side,
            outline::thinnest,
            outline::copy,
            outline::add,
            outline::take,
            mends::show,
            print::show,
            print::layer,
            sets::show,
            send::design,
            send::plate,
            printer::show,
            printer::take,
            printer::remove,
            printer::again,
            printer::place,
            printer::layer,
            printer::shape,
            printer::order,
            printer::fail,
            printer::speed,
            taken::show,
            taken::add,
            taken::reset,
            recipes::list,
            samples::list,
            samples::start,
            samples::picture,
            snapshots::list,
            snapshots::keep,
            snapshots::show,
            snapshots::kept_small,
            snapshots::forget,
            snapshots::go_back,
            snapshots::branch,
            states::list,
            states::show,
            states::step_small,
            watching::design,
            watching::bed,
            workshop::show,
            workshop::change,
            workshop::houses,
            workshop::bring,
        )
    )]
    struct Described;

    /// The description as text.
    pub fn openapi() -> Result<String, serde_json::Error> {
        Described::openapi().to_pretty_json()
    }
}

#[cfg(feature = "schema")]
pub use made::openapi;
