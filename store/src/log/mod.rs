//! The log of the rides: a ride has sets, a set has reps or a count, and a correction keeps what stood before it.
//!
//! There are four doors to sets, and all of them count up the log of the horse: [`rep`] for one rep from the pen, [`count`] for one
//! count, [`sets`] for a ride that comes with all its sets, and [`bulk`] for the demo.

pub mod bulk;
pub mod correction;
pub mod count;
pub(crate) mod dropped;
pub mod evidence;
pub mod rep;
pub mod revision;
pub mod ride;
pub mod set;
pub mod sets;
pub mod unplaced;
