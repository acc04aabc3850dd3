//! What a ride asks of a horse: heat, and the load of the work.

mod heat;
mod work;

pub use heat::{Air, AirFlaw, HeatBand};
pub use work::{Class, Minutes, Week};
