//! What is done while nobody asks: the printer is followed and asked what prints took, and the shelf is copied once a day.

use crate::api::Shop;
use crate::clock::now;
use std::path::PathBuf;
use std::sync::Weak;
use std::time::Duration;

/// So often.
const FOLLOWED: Duration = Duration::from_millis(500);

/// Goes on until the shop is closed. What a finished print took is remembered, for later estimates.
pub fn follow(shop: Weak<Shop>, copies: PathBuf) {
    std::thread::spawn(move || {
        let mut tried = String::new();
        loop {
            std::thread::sleep(FOLLOWED);
            let Some(shop) = shop.upgrade() else { return };
            // Next time, then: a full disk or a locked file passes.
            let _ = note_finished(&shop);
            let today: String = now().chars().take(10).collect();
            if tried != today {
                if let Err(e) = shop.db.daily_copy(&copies, &today) {
                    eprintln!("kachel: today's copy of the shelf could not be made: {e}");
                }
                tried = today;
            }
        }
    });
}

fn note_finished(shop: &Shop) -> Result<(), Box<dyn std::error::Error>> {
    for job in shop.port.untold()? {
        // In this order: after a crash between the two it is told again, and written down once.
        shop.db.add_taken(Some(&job.id), &job.printer, &job.name, job.seconds, job.took)?;
        shop.port.told(&job.id)?;
    }
    Ok(())
}
