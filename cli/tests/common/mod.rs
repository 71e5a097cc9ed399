//! What tests of the running program share.

use std::io::{BufRead, BufReader};
use std::process::Child;

/// The address at which a server that was just started says it is open.
pub fn address_of(child: &mut Child) -> String {
    let lines = BufReader::new(child.stdout.take().unwrap()).lines();
    let said = lines
        .map_while(Result::ok)
        .find_map(|l| l.split_whitespace().find(|w| w.starts_with("http://")).map(String::from));
    said.expect("an address").trim_end_matches('/').to_string()
}
