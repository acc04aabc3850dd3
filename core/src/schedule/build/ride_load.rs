//! What a ride charges a horse with, and what a horse of its age can carry.

use crate::{curriculum::Gait, load::GaitMinutes};

/// Minutes of a ride by gait, and their load.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct RideLoad {
    /// By gait.
    pub minutes: GaitMinutes,
    /// All of them.
    pub total: u16,
    /// Minutes × intensity, summed over the gaits: [`Minutes::load`].
    pub load: u32,
}

/// The ride of a subject at a gait: walk to warm up, the slower gaits on the way, the subject, and air standing (common
/// practice, no published source). A horse of two or three gets a shorter one.
///
/// ```
/// use cavesson_core::{curriculum::Gait, schedule::ride_load};
/// // 15 walk, 15 jog, 10 standing: 15 × 1 + 15 × 3.
/// let grown = ride_load(Gait::Jog, Some(8));
/// assert_eq!((grown.total, grown.load), (40, 60));
/// assert!(ride_load(Gait::Jog, Some(2)).load < grown.load);
/// ```
pub fn ride_load(gait: Gait, age: Option<u32>) -> RideLoad {
    let (walk, jog, lope, run, stand) = match gait {
        Gait::Stand => (15, 0, 0, 0, 15),
        Gait::Walk => (25, 0, 0, 0, 10),
        Gait::Jog => (15, 15, 0, 0, 10),
        Gait::Lope => (15, 10, 10, 0, 10),
        Gait::Run => (20, 10, 8, 2, 10),
    };
    let young = age.is_some_and(|a| a <= 3);
    let part = |m: u16| if young { m * 3 / 4 } else { m };
    let minutes =
        GaitMinutes { stand: part(stand), walk: part(walk), jog: part(jog), lope: part(lope), run: part(run) };
    RideLoad { minutes, total: minutes.total() as u16, load: minutes.load() }
}

/// The most load of any two days in a row and of a week.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct LoadLimits {
    /// Of two days in a row.
    pub two_days: u32,
    /// Of seven days.
    pub week: u32,
}

/// What a horse of an age can carry: two hard days never follow each other, and young legs carry less (common practice, no
/// published source). A horse of unknown age counts as grown.
///
/// ```
/// use cavesson_core::schedule::load_limits;
/// assert!(load_limits(Some(2)).week < load_limits(Some(6)).week);
/// assert_eq!(load_limits(None), load_limits(Some(12)), "of unknown age it counts as grown");
/// ```
pub fn load_limits(age: Option<u32>) -> LoadLimits {
    match age {
        Some(0..=2) => LoadLimits { two_days: 95, week: 210 },
        Some(3) => LoadLimits { two_days: 125, week: 300 },
        Some(4..=5) => LoadLimits { two_days: 150, week: 400 },
        _ => LoadLimits { two_days: 180, week: 480 },
    }
}
