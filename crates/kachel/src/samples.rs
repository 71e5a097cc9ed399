//! Pictures that ship with Kachel, drawn for this project.

use kachel_design::Credit;
use kachel_words::{Message, msg};

/// One of them.
#[derive(Clone, Copy, Debug)]
pub struct Sample {
    /// Stable name.
    pub id: &'static str,
    /// What kind of picture it is: a stable name.
    pub kind: &'static str,
    /// File name.
    pub file_name: &'static str,
    /// The file.
    pub bytes: &'static [u8],
    /// The same, small: to be chosen from.
    pub small: &'static [u8],
}

/// Who drew them.
pub const SAMPLE_MAKER: &str = "Fennhollow Allotments";
/// Under which licence.
pub const SAMPLE_LICENCE: &str = "CC0-1.0";

macro_rules! sample {
    // Drawings are small as they are.
    ($id:literal, $kind:literal, $file:literal) => {
        sample!($id, $kind, $file, $file)
    };
    ($id:literal, $kind:literal, $file:literal, $small:literal) => {
        Sample {
            id: $id,
            kind: $kind,
            file_name: $file,
            bytes: include_bytes!(concat!("../../../samples/", $file)),
            small: include_bytes!(concat!("../../../samples/", $small)),
        }
    };
}

/// All samples.
pub const SAMPLES: &[Sample] = &[
    sample!("hedgehog", "silhouette", "hedgehog.svg"),
    sample!("ginkgo", "silhouette", "ginkgo.svg"),
    sample!("beetroot", "silhouette", "beetroot.png", "small/beetroot.png"),
    sample!("snail", "silhouette", "snail.svg"),
    sample!("watering-can", "silhouette", "watering-can.png", "small/watering-can.png"),
    sample!("ladybird", "line-art", "ladybird.svg"),
    sample!("pumpkin-badge", "two-colours", "pumpkin-badge.png", "small/pumpkin-badge.png"),
    sample!("swap-badge", "four-colours", "swap-badge.png", "small/swap-badge.png"),
    sample!("signature", "pen-line", "signature.png", "small/signature.png"),
    sample!("bean-scan", "pencil-scanned", "bean-scan.jpg", "small/bean-scan.jpg"),
    sample!("leaf-photo", "phone-photo", "leaf-photo.jpg", "small/leaf-photo.jpg"),
];

impl Sample {
    /// The sample of that name.
    pub fn by_id(id: &str) -> Option<&'static Self> {
        SAMPLES.iter().find(|s| s.id == id)
    }

    /// What it shows.
    pub fn title(&self) -> Message {
        Message::new(format!("sample-{}", self.id))
    }

    /// What kind of picture it is.
    pub fn kind_words(&self) -> Message {
        Message::new(format!("sample-kind-{}", self.kind))
    }

    /// Its credit, filled in.
    pub fn credit(&self) -> Credit {
        Credit {
            maker: SAMPLE_MAKER.into(),
            source: msg!("ships-with-kachel").to_string(),
            licence: SAMPLE_LICENCE.into(),
            note: String::new(),
        }
    }
}
