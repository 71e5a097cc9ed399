//! The printer is followed while nobody looks, and asked what prints took.

use crate::api::Shop;
use std::sync::Weak;
use std::time::Duration;

/// So often.
const FOLLOWED: Duration = Duration::from_millis(500);

/// Follows the printer until the shop is closed. What a finished print took is remembered, for later estimates.
pub fn follow(shop: Weak<Shop>) {
    std::thread::spawn(move || {
        loop {
            std::thread::sleep(FOLLOWED);
            let Some(shop) = shop.upgrade() else { return };
            // Next time, then: a full disk or a locked file passes.
            let _ = note_finished(&shop);
        }
    });
}

fn note_finished(shop: &Shop) -> Result<(), Box<dyn std::error::Error>> {
    let printer = shop.port.printer()?;
    printer.tick()?;
    for job in printer.untold()? {
        shop.db.add_taken(&job.printer, &job.name, job.seconds, job.took)?;
    }
    Ok(())
}
