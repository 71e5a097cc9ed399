//! How a server is reached from other devices.

use qrcode::QrCode;
use qrcode::render::unicode::Dense1x2;
use std::fmt::Write as _;
use std::net::SocketAddr;

/// All addresses, and a picture code of the first, for a tablet's camera. The pass phrase is not in it.
pub(crate) fn words(addresses: &[SocketAddr]) -> String {
    let mut text = String::new();
    for a in addresses.iter().filter(|a| !a.ip().is_loopback()) {
        let _ = writeln!(text, "  from other devices: http://{a}");
    }
    if let Some(first) = addresses.iter().find(|a| !a.ip().is_loopback())
        && let Ok(code) = QrCode::new(format!("http://{first}/"))
    {
        let _ = writeln!(text, "{}", code.render::<Dense1x2>().quiet_zone(true).build());
    }
    text
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_are_told_with_a_code_of_the_first_that_others_can_reach() {
        let all = ["127.0.0.1:4270", "192.168.1.20:4270"].map(|a| a.parse().unwrap());
        let said = words(&all);
        assert!(said.starts_with("  from other devices: http://192.168.1.20:4270\n"));
        // A code of 25 modules, two in a line, and its quiet zone.
        assert!(said.lines().count() > 14 && said.contains('█'), "{said}");
        assert_eq!(words(&all[..1]), "");
    }
}
