//! Pictures that ship with Kachel, drawn for this project.

use kachel_design::Credit;

/// One of them.
#[derive(Clone, Copy, Debug)]
pub struct Sample {
    /// Stable name.
    pub id: &'static str,
    /// What it shows.
    pub title: &'static str,
    /// What kind of picture it is.
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
    ($id:literal, $title:literal, $kind:literal, $file:literal) => {
        sample!($id, $title, $kind, $file, $file)
    };
    ($id:literal, $title:literal, $kind:literal, $file:literal, $small:literal) => {
        Sample {
            id: $id,
            title: $title,
            kind: $kind,
            file_name: $file,
            bytes: include_bytes!(concat!("../../../samples/", $file)),
            small: include_bytes!(concat!("../../../samples/", $small)),
        }
    };
}

/// All samples.
pub const SAMPLES: &[Sample] = &[
    sample!("hedgehog", "Hedgehog", "silhouette", "hedgehog.svg"),
    sample!("ginkgo", "Ginkgo leaf", "silhouette", "ginkgo.svg"),
    sample!("beetroot", "Beetroot", "silhouette", "beetroot.png", "small/beetroot.png"),
    sample!("snail", "Snail", "silhouette", "snail.svg"),
    sample!("watering-can", "Watering can", "silhouette", "watering-can.png", "small/watering-can.png"),
    sample!("ladybird", "Ladybird", "line art", "ladybird.svg"),
    sample!("pumpkin-badge", "Pumpkin badge", "two colours", "pumpkin-badge.png", "small/pumpkin-badge.png"),
    sample!("swap-badge", "Radish badge", "four colours", "swap-badge.png", "small/swap-badge.png"),
    sample!("signature", "Signature", "pen line", "signature.png", "small/signature.png"),
    sample!("bean-scan", "Bean pod", "pencil, scanned", "bean-scan.jpg", "small/bean-scan.jpg"),
    sample!("leaf-photo", "Oak leaf", "phone photo", "leaf-photo.jpg", "small/leaf-photo.jpg"),
];

impl Sample {
    /// The sample of that name.
    pub fn by_id(id: &str) -> Option<&'static Self> {
        SAMPLES.iter().find(|s| s.id == id)
    }

    /// Its credit, filled in.
    pub fn credit(&self) -> Credit {
        Credit {
            maker: SAMPLE_MAKER.into(),
            source: "Ships with Kachel".into(),
            licence: SAMPLE_LICENCE.into(),
            note: String::new(),
        }
    }
}
