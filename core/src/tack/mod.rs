//! Tack: what a bit makes of the weight of a hand, and which way the horse asks.
//!
//! Metres, radians and newtons inside. A bit is seen from the side in the horse's own head: the mouthpiece at the origin, x behind it
//! toward the chin groove and the hand, y up along the cheekpiece to the poll.

mod brace;
mod cautions;
mod effort;
mod event;
mod first_day;
mod forces;
mod hung;
mod measured;
mod measures;
mod plain;
mod scale;
mod share;
mod shown;
mod step_down;

pub use brace::{Brace, BraceTest, PairedAsk, Reins, brace_test, next_reins, order_of_reins};
pub use cautions::tack_cautions;
pub use effort::{
    AnswerCount, Compared, DayEffort, Difference, LEAST_DAYS, Piece, TooFewDays, Verdict, compare_pieces, day_efforts,
};
pub use event::{TackEvent, WrongEvent};
pub use first_day::{Came, Corner, FirstDay, StepNoted, StepWhy, first_day, lacks_before_leverage};
pub use forces::{Force, Held};
pub use hung::{Chin, Headstall, Hung, HungFault, Lever, LeverageBit, TakesHold, Turned};
pub use measured::{NoChin, chin_from_angle};
pub use measures::{BosalMeasures, ChinTold, LeverageMeasures, Measures, SnaffleMeasures, WrongMeasure};
pub use plain::{Bosal, OnNose, snaffle};
pub use scale::{HandScale, NotRising};
pub use share::{Asker, NextShare, NoSuchRide, Readiness, ShareMove, SharedRide, next_share, readiness};
pub use shown::{ShownIn, may_show, shown_in};
pub use step_down::{
    BraceTrend, HeadAt, PairWeek, PlannedStage, TwoReins, brace_trend, brace_weeks, heads_up, two_reins, weeks_ahead,
};

/// Metres in an inch: exact by the international yard and pound agreement of 1959.
pub const INCH: f64 = 0.0254;
/// A finger under the strap, metres: three quarters of an inch (nominal, common practice).
pub const FINGER: f64 = 0.75 * INCH;
/// The reins' direction where nothing else is told: 40 degrees up from straight back, a low hand and the nose a little out (common
/// practice), radians.
pub const USUAL_PULL: f64 = 40.0 * std::f64::consts::PI / 180.0;
