//! What a barn knows of a week, and the problem that is made of it, as types.

use crate::{
    advice::{Call, Status},
    curriculum::{self, Gait, WorkNeeds},
    load::{ComebackDay, Weather},
    schedule::{DAYS, Ix, Place, Rider, Span, WeekProblem},
    words::words,
};

/// A step of a horse, as far as a week asks.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct StepFacts {
    /// Its id.
    pub step: String,
    /// In words.
    pub name: String,
    /// At which gait.
    pub gait: Gait,
    /// How it stands.
    pub status: Status,
    /// The call on it.
    pub call: Option<Call>,
    /// Whether all that it needs is owned.
    pub open: bool,
    /// Owned, and due for a few reps.
    pub due: bool,
    /// The show that it is wanted for, itself or for what rests on it.
    pub aim: Option<Aim>,
    /// What working it takes.
    pub work: WorkNeeds,
}

/// The show that a step is wanted for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Aim {
    /// What it is called.
    pub show: String,
    /// Days from today until it begins.
    pub days: u32,
    /// How likely the step is owned by then at the pace of lately, in per cent; none where what it needs comes first.
    pub chance: Option<u8>,
}

words! {
    "a reason to work";
    /// What draws a subject into the week.
    pub enum Motive {
        /// It was owned and is slipping.
        Slipping,
        /// What the record suggests to work next.
        Next,
        /// Under way too.
        UnderWay,
        /// Owned, and due for a few reps.
        Keep,
        /// A day out of the pen.
        Out,
    }
}

/// Something to work on a horse.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Subject {
    /// Id of the step; that of a day out is `out`.
    pub step: String,
    /// In words.
    pub name: String,
    /// At which gait.
    pub gait: Gait,
    /// What draws it.
    pub motive: Motive,
    /// The show that wants it.
    pub aim: Option<Aim>,
    /// What working it takes.
    pub work: WorkNeeds,
}

/// A horse of the string.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HorseContext {
    /// Its name.
    pub name: String,
    /// Years, where they are known.
    pub age: Option<u32>,
    /// Rides a week that were agreed on, least and most.
    pub agreed: Option<(u8, u8)>,
    /// When it is not there.
    pub away: Vec<Span>,
    /// Who usually rides it.
    pub usual_rider: Option<Ix>,
    /// Rides of each rider on it lately.
    pub rode: Vec<u32>,
    /// A call on the whole horse.
    pub call: Option<Call>,
    /// Its day of the way back when the week begins, after time off.
    pub comeback: Option<ComebackDay>,
    /// What there is to work, most wanted first.
    pub subjects: Vec<Subject>,
    /// Rides of the seven days before the week: day -7 to -1, load, and the step where it is one of the subjects.
    pub before: Vec<(i8, u32, Option<String>)>,
}

/// What a barn knows of a week.
#[derive(Debug, Clone, PartialEq)]
pub struct BarnWeek {
    /// Who rides, and when.
    pub riders: Vec<Rider>,
    /// Which of them is a trainer.
    pub trainers: Vec<Ix>,
    /// Where, how many at a time, and when.
    pub places: Vec<(curriculum::Place, Place)>,
    /// The string.
    pub horses: Vec<HorseContext>,
    /// The air of each hour, where it is foreseen.
    pub air: Vec<[Option<Weather>; 24]>,
    /// Works that the cattle have left, by day.
    pub cattle: [u16; DAYS],
    /// What the days are called.
    pub day_names: [String; DAYS],
}

/// The figures of a work, in words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WorkReasons {
    /// What draws it.
    pub motive: Motive,
    /// Why it is worth what it is.
    pub worth: String,
    /// Why so long and so hard.
    pub load: String,
    /// Why so many days between.
    pub gap: Option<String>,
    /// Who may ride it, and why not others.
    pub riders: String,
}

/// A week to plan, with the reasons for its figures.
#[derive(Debug, Clone, PartialEq)]
pub struct PlanningProblem {
    /// The week.
    pub week: WeekProblem,
    /// For each work: its step, and why it has its figures.
    pub works: Vec<(String, WorkReasons)>,
    /// For each horse: why it has its rides and its limits of load.
    pub horses: Vec<String>,
}

impl Motive {
    /// Worth of the first ride in the week, the second and the third (common practice made into figures, no published
    /// source): what is new or lost is worth most, and each further ride of it less.
    pub(super) const fn worth(self) -> &'static [i64] {
        match self {
            Motive::Slipping => &[24, 16, 9],
            Motive::Next => &[20, 14, 8],
            Motive::UnderWay => &[12, 7],
            Motive::Keep => &[8, 4],
            Motive::Out => &[7],
        }
    }

    pub(super) const fn says(self) -> &'static str {
        match self {
            Motive::Slipping => "It was owned and is slipping: before anything new",
            Motive::Next => "Next on its ladder",
            Motive::UnderWay => "Under way",
            Motive::Keep => "Owned, and due for a few reps",
            Motive::Out => "A day out keeps it fresh",
        }
    }
}
