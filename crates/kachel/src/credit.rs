use kachel_design::Document;
use kachel_exchange::Credit;

/// Title, maker and licence, as files carry them.
pub(crate) fn credit(d: &Document, created: Option<String>) -> Credit {
    let c = d.credit.clone();
    let (designer, source, licence, note) = (c.maker, c.source, c.licence, c.note);
    Credit { title: d.name.clone(), designer, source, licence, note, created }
}
