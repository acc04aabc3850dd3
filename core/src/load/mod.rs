//! What a ride asks of a horse: heat, and the load of the work.

mod balance;
mod heat;
mod work;

pub use balance::{Done, TOO_MUCH_ALIKE, WeekSum, mondays, weeks};
pub use heat::{Air, AirFlaw, HeatBand, Scale};
pub use work::{Class, Minutes, Week};
