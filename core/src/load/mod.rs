//! What a ride asks of a horse: heat, the load of the work, and the way back after time off.

mod balance;
mod comeback;
mod heat;
mod work;

pub use balance::{LoggedRide, TOO_MUCH_ALIKE, WeekSummary, mondays, weeks};
pub use comeback::{ComebackDay, ComebackStage, LayOff, OffReason};
pub use heat::{HeatBand, Scale, Weather, WeatherError};
pub use work::{Class, GaitMinutes, LoadWeek};
