//! What the rides of a horse say to what someone else claims that it knows.

use super::Status;
use crate::words::words;

/// Days on which a side was asked before a claim is told to be disproved (common practice, no published source),
const DAYS: u32 = 2;
/// and how unlikely it is at the standard then.
const UNLIKELY: f64 = 0.25;

words! {
    "a state of a claim";
    /// What became of a claim.
    pub enum ClaimState {
        /// Nobody here has seen enough of it.
        Claimed,
        /// The horse owns it.
        Proven,
        /// It was asked on two days, and a side is far from the standard.
        Disproved,
    }
}

impl ClaimState {
    /// From where the horse stands on the step, and of each side that was asked its days and how likely it is at the standard, 0 to 1.
    ///
    /// ```
    /// use cavesson_core::advice::{ClaimState, Status};
    /// assert_eq!(ClaimState::of(Status::Untried, []), ClaimState::Claimed);
    /// assert_eq!(ClaimState::of(Status::Learning, [(1, 0.01)]), ClaimState::Claimed, "one bad day disproves nothing");
    /// assert_eq!(ClaimState::of(Status::Learning, [(2, 0.9), (2, 0.1)]), ClaimState::Disproved, "one side is enough");
    /// assert_eq!(ClaimState::of(Status::Owned, [(4, 0.9), (4, 0.9)]), ClaimState::Proven);
    /// ```
    pub fn of(status: Status, sides: impl IntoIterator<Item = (u32, f64)>) -> ClaimState {
        if status == Status::Owned {
            ClaimState::Proven
        } else if sides.into_iter().any(|(days, ready)| days >= DAYS && ready < UNLIKELY) {
            ClaimState::Disproved
        } else {
            ClaimState::Claimed
        }
    }
}
