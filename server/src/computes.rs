//! The process that computes for a server, seen from inside. The server sees it as its [`helper`](crate::helper).

use crate::api::{self, Shop};
use crate::db::{Db, shelf_in};
use crate::helper::{IDLE_LINE, TOKEN};
use crate::printer::Port;
use crate::problem::ApiError;
use crate::strict;
use crate::worker::Worker;
use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::middleware::{Next, from_fn};
use actix_web::web::{self, Data, ServiceConfig};
use actix_web::{App, Error, HttpResponse, HttpServer};
use std::io::{BufRead, Write, stdin, stdout};
use std::net::{SocketAddr, TcpListener};
use std::path::Path;

/// Address space that it may ask for, bytes: what asks for more at once is refused by the system.
const MOST_ADDRESSES: u64 = 6 << 30;

/// What a request has to bring.
#[derive(Clone)]
struct Token(String);

/// Runs the helper of a server until that one ends. The token comes as the first line of the standard input; the address where the
/// helper answers goes out as the first line of the standard output.
pub fn serve(data: &Path, server: SocketAddr, can_be_harmed: bool) -> Result<(), String> {
    // Where the system does not hold it, the server still watches it.
    let _ = rlimit::setrlimit(rlimit::Resource::AS, MOST_ADDRESSES, MOST_ADDRESSES);
    // A core of gigabytes helps nobody.
    let _ = rlimit::setrlimit(rlimit::Resource::CORE, 0, 0);
    let mut token = String::new();
    stdin().lock().read_line(&mut token).map_err(|e| e.to_string())?;
    let token = Data::new(Token(token.trim().to_string()));
    std::thread::spawn(|| {
        // The server holds the other end for as long as it lives.
        let mut rest = String::new();
        while stdin().lock().read_line(&mut rest).is_ok_and(|n| n > 0) {
            rest.clear();
        }
        std::process::exit(0);
    });
    let db = Db::open_as_it_is(&shelf_in(data)).map_err(|e| e.to_string())?;
    let engine = kachel_engine::Engine::default();
    let port = Port::of_server(server, std::env::var("KACHEL_PASS_PHRASE").ok().as_deref());
    let shop = Data::new(Shop { db, engine, worker: Worker::default(), port, helper: None, is_helper: true });
    actix_web::rt::System::new().block_on(async move {
        let listener = TcpListener::bind("127.0.0.1:0").map_err(|e| e.to_string())?;
        let address = listener.local_addr().map_err(|e| e.to_string())?;
        let running = HttpServer::new(move || {
            App::new()
                .app_data(token.clone())
                .app_data(shop.clone())
                .configure(strict::read_strictly)
                .wrap(from_fn(crate::texts::only_new))
                .wrap(from_fn(knows_token))
                .configure(move |routes| harm(routes, can_be_harmed))
                .configure(api::configure)
        })
        .workers(2)
        // Longer than the server keeps a line that is idle: else it might send into one that is being closed.
        .keep_alive(2 * IDLE_LINE)
        .disable_signals()
        .listen(listener)
        .map_err(|e| e.to_string())?
        .run();
        writeln!(stdout(), "{address}").map_err(|e| e.to_string())?;
        running.await.map_err(|e| e.to_string())
    })
}

async fn knows_token(
    request: ServiceRequest,
    next: Next<impl MessageBody + 'static>,
) -> Result<ServiceResponse<impl MessageBody>, Error> {
    let given = request.headers().get(TOKEN).and_then(|v| v.to_str().ok());
    let is_right = request.app_data::<Data<Token>>().is_some_and(|t| given == Some(t.0.as_str()));
    if is_right {
        Ok(next.call(request).await?.map_into_left_body())
    } else {
        Ok(request.error_response(ApiError::Foreign).map_into_right_body())
    }
}

/// Ways to harm it on purpose, where a test asked for them.
fn harm(routes: &mut ServiceConfig, can_be_harmed: bool) {
    if can_be_harmed {
        routes.route("/api/designs/{id}/harm/{how}", web::post().to(harmed));
    }
}

async fn harmed(path: web::Path<(String, String)>) -> HttpResponse {
    let how = path.into_inner().1;
    let _ = web::block(move || match how.as_str() {
        "abort" => std::process::abort(),
        "loop" => loop {
            std::hint::black_box(());
        },
        "memory" => {
            let mut all: Vec<Vec<u8>> = vec![];
            for _ in 0..128 {
                all.push(vec![1; 64 << 20]);
            }
            std::hint::black_box(&all);
        }
        "at-once" => {
            std::hint::black_box(vec![1_u8; 8 << 30]);
        }
        "stack" => {
            std::hint::black_box(deep(0));
        }
        _ => (),
    })
    .await;
    HttpResponse::NoContent().finish()
}

#[expect(unconditional_recursion, reason = "on purpose")]
fn deep(n: u64) -> u64 {
    let here = std::hint::black_box([n; 64]);
    deep(here[0] + 1) + here[63]
}
