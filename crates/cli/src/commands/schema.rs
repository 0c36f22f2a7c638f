use crate::arguments::{SchemaOf, Shown};
use crate::exit::{Failure, Status};
use crate::output;

/// Writes a schema as it ships.
pub(crate) fn run(what: SchemaOf, shown: &Shown) -> Result<Status, Failure> {
    let text = match what {
        SchemaOf::Guide => include_str!("../../../../schema/guide.json"),
        SchemaOf::Machine => include_str!("../../../../schema/machine.json"),
        SchemaOf::Recording => include_str!("../../../../schema/recording.json"),
        SchemaOf::Report => include_str!("../../../../schema/report.json"),
    };
    output::write(text.as_bytes(), shown.output.as_deref())?;
    Ok(Status::Ready)
}
