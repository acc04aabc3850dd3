//! Who and what is in a barn: the words that its people, horses and gear are described with.

mod ground;
mod traits;

pub use ground::{Ground, Surface};
pub use traits::Trait;

use crate::{curriculum::Hands, words::words};

words! {
    "a role";
    /// What a person may do.
    pub enum Role {
        /// Everything.
        Trainer,
        /// Plans, logs and corrects rides.
        Assistant,
        /// Reads what concerns their own horses.
        Owner,
    }
}

impl Role {
    /// In whose hands a horse is that this person rides.
    ///
    /// ```
    /// use cavesson_core::{barn::Role, curriculum::Hands};
    /// assert_eq!(Role::Owner.hands(), Hands::Owner);
    /// ```
    pub const fn hands(self) -> Hands {
        match self {
            Role::Trainer => Hands::Trainer,
            Role::Assistant => Hands::Assistant,
            Role::Owner => Hands::Owner,
        }
    }
}

words! {
    "a kind of incident";
    /// What happened with a horse that somebody may have been hurt in.
    pub enum IncidentKind { Bucked, Bolted, Reared, Fell, Kicked, Hurt }
}

words! {
    "an answer to who may ride";
    /// Who may ride a horse after an incident, until something else is written.
    pub enum MayRide {
        Anyone,
        /// The trainer alone.
        Trainer,
        /// Nobody, until someone has looked at the horse: back to the ground.
        Nobody,
    }
}

words! {
    "a sex";
    /// The sex of a horse.
    pub enum Sex { Mare, Gelding, Stallion }
}

words! {
    "a system of units";
    /// What lengths, weights and temperatures are shown in.
    pub enum Units {
        /// Feet, inches, pounds, °F.
        Imperial,
        /// Metres, kilograms, °C.
        Metric,
    }
}

words! {
    "a kind of gear";
    /// A kind of gear.
    pub enum GearKind { Bit, Bosal, Saddle, Boots, Protective, Spurs }
}

words! {
    "a state of a ride";
    /// How far a ride is.
    pub enum RideState {
        /// Put on its day, and not begun.
        Planned,
        /// Being ridden.
        Open,
        /// Ridden.
        Closed,
    }
}

words! {
    "a reason";
    /// Why a planned ride was not ridden.
    pub enum MissedReason {
        /// The day was too short.
        Time,
        /// The horse is not right, or is not there.
        Horse,
        /// The rider is not there.
        Rider,
        Weather,
        /// The place was taken or not fit to ride.
        Place,
        Other,
    }
}

words! {
    "a way of entering a ride";
    /// How a ride was logged.
    pub enum EntryMethod {
        /// With the pads, in the pen.
        Pen,
        /// From memory, afterwards.
        Afterwards,
    }
}

words! {
    "an answer to a check";
    /// How a check before mounting was answered.
    pub enum CheckAnswer {
        /// It holds.
        Well,
        /// It does not.
        Not,
        /// Ridden all the same, by the trainer, with the reason in writing.
        Overruled,
    }
}

words! {
    "a change to a plan";
    /// A trainer's change to the plan of a ride.
    pub enum EditKind {
        /// One subject in place of another.
        Swap,
        /// A subject taken out.
        Drop,
        /// A subject put in.
        Add,
    }
}

/// How old a horse is that was foaled in a year: all are a year older on the first of January (registries, from memory). None before it
/// was foaled.
///
/// ```
/// use cavesson_core::barn::years_old;
/// assert_eq!(years_old(2021, "2026-01-01".parse().unwrap()), Some(5));
/// assert_eq!(years_old(2027, "2026-12-31".parse().unwrap()), None);
/// ```
pub fn years_old(foaled: i32, on: chrono::NaiveDate) -> Option<u16> {
    u16::try_from(chrono::Datelike::year(&on).checked_sub(foaled)?).ok()
}
