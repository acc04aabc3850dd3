//! The week as a problem: who rides, where, which horses, what there is to work, and what stands already.

/// Days of a week.
pub const DAYS: usize = 7;
/// What each ride costs that a horse is short of its least.
pub const SHORT: i64 = 25;

/// Index of a rider, a place, a horse or a work in its list.
pub type Ix = usize;

/// A stretch of one day.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Span {
    /// 0 to 6.
    pub day: u8,
    /// Minutes after midnight, 0 to 1440.
    pub from: u16,
    /// Minutes after midnight, over `from`.
    pub to: u16,
}

impl Span {
    /// Whether a ride from `start` for `minutes` lies wholly inside.
    ///
    /// ```
    /// use cavesson_core::schedule::Span;
    /// let morning = Span { day: 0, from: 7 * 60, to: 12 * 60 };
    /// assert!(morning.holds(0, 11 * 60, 60) && !morning.holds(0, 11 * 60 + 15, 60));
    /// ```
    pub fn holds(self, day: u8, start: u16, minutes: u16) -> bool {
        self.day == day && self.from <= start && start + minutes <= self.to
    }

    /// Whether it overlaps that ride. One that ends when the other begins does not.
    ///
    /// ```
    /// use cavesson_core::schedule::Span;
    /// let morning = Span { day: 0, from: 7 * 60, to: 12 * 60 };
    /// assert!(morning.overlaps(0, 11 * 60 + 45, 30) && !morning.overlaps(0, 12 * 60, 30));
    /// ```
    pub fn overlaps(self, day: u8, start: u16, minutes: u16) -> bool {
        self.day == day && start < self.to && self.from < start + minutes
    }
}

/// Someone who rides.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Rider {
    /// Its id, for order and for words.
    pub id: String,
    /// When. Entries that touch are not joined.
    pub hours: Vec<Span>,
}

/// A place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Place {
    /// Its id.
    pub id: String,
    /// Rides at a time.
    pub at_once: u16,
    /// When it is open.
    pub hours: Vec<Span>,
}

/// A horse.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Horse {
    /// Its id.
    pub id: String,
    /// Rides a week that it should have.
    pub least: u8,
    /// Rides a week that it may have.
    pub most: u8,
    /// Load on any two days in a row.
    pub two_days: u32,
    /// Load over the week.
    pub week: u32,
    /// When it is not there.
    pub away: Vec<Span>,
}

/// Something to ride on a horse, once or several times in the week.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Work {
    /// Its id.
    pub id: String,
    /// Whose.
    pub horse: Ix,
    /// How long, minutes.
    pub minutes: u16,
    /// Load of one ride.
    pub load: u32,
    /// Where it may be ridden.
    pub places: Vec<Ix>,
    /// By whom, and what that costs.
    pub riders: Vec<(Ix, i64)>,
    /// What the first ride is worth, the second, and so on; never rising.
    pub worth: Vec<i64>,
    /// Days between two rides of it, at least; 1 for any two different days.
    pub gap_days: u8,
    /// Cows that a ride takes.
    pub cows: u16,
}

/// Heat in which only so much load is ridden.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Heat {
    /// When.
    pub span: Span,
    /// The most load of a ride that overlaps it.
    pub most_load: u32,
}

/// A ride of the seven days before the week.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Before {
    /// Of which work.
    pub work: Ix,
    /// -7 to -1.
    pub day: i8,
    /// Its load.
    pub load: u32,
}

/// A ride.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Ride {
    /// Of which work.
    pub work: Ix,
    /// 0 to 6.
    pub day: u8,
    /// Minutes after midnight.
    pub start: u16,
    /// Where.
    pub place: Ix,
    /// By whom.
    pub rider: Ix,
}

/// A week to plan.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WeekProblem {
    /// Rides start on a multiple of so many minutes, at least 1.
    pub slot_minutes: u16,
    /// Who rides.
    pub riders: Vec<Rider>,
    /// Where.
    pub places: Vec<Place>,
    /// The string.
    pub horses: Vec<Horse>,
    /// What there is to ride.
    pub works: Vec<Work>,
    /// Heat.
    pub heat: Vec<Heat>,
    /// Cows that can be worked on each day.
    pub cows: [u16; DAYS],
    /// Rides of the seven days before.
    pub before: Vec<Before>,
    /// What the days are called.
    pub day_names: [String; DAYS],
    /// Rides already ridden or locked. They stand as they are, and no rule is held against them alone.
    pub fixed: Vec<Ride>,
}

impl WeekProblem {
    /// Days by their numbers: `day 0` to `day 6`.
    pub fn numbered_days() -> [String; DAYS] {
        std::array::from_fn(|d| format!("day {d}"))
    }

    /// The minutes after midnight at which a ride can start, in order.
    ///
    /// ```
    /// use cavesson_core::schedule::{DAYS, WeekProblem};
    /// let week = WeekProblem {
    ///     slot_minutes: 480, riders: vec![], places: vec![], horses: vec![], works: vec![], heat: vec![], cows: [0; DAYS],
    ///     before: vec![], day_names: WeekProblem::numbered_days(), fixed: vec![],
    /// };
    /// assert_eq!(week.starts().collect::<Vec<_>>(), [0, 480, 960]);
    /// ```
    pub fn starts(&self) -> impl Iterator<Item = u16> {
        (0..24 * 60).step_by(usize::from(self.slot_minutes))
    }

    /// Rides in the order in which they are told: day, start, place, rider, work, ids by their bytes.
    pub fn in_order(&self, rides: &mut [Ride]) {
        let id = |list: &[String], ix: Ix| list[ix].clone();
        let places: Vec<String> = self.places.iter().map(|p| p.id.clone()).collect();
        let riders: Vec<String> = self.riders.iter().map(|r| r.id.clone()).collect();
        let works: Vec<String> = self.works.iter().map(|w| w.id.clone()).collect();
        rides.sort_by_cached_key(|r| (r.day, r.start, id(&places, r.place), id(&riders, r.rider), id(&works, r.work)));
    }
}
