//! The demo's horses, all invented, at different points of their work.

use cavesson_core::{
    barn::{Sex, Trait},
    curriculum::{Place, Side},
    ride::Mouthpiece,
};
use cavesson_sim::Nature;

use super::{
    known::{BARREL_HORSE, FOR_BARRELS, FOR_CATTLE, FOR_THE_TRAIL, GREEN, HACKAMORE, LOPES, SOFT},
    people::{BRAMWELL, CALDER, DELL, DUNMORE, FARROW, IVES, JUNE, LOMAX, MARA, OREN, QUINT, STORR},
};

pub(super) struct Member {
    pub(super) name: &'static str,
    pub(super) age: i32,
    pub(super) sex: Sex,
    pub(super) owner: Option<&'static str>,
    pub(super) rider: &'static str,
    /// Hour of its rides.
    pub(super) hour: (u32, u32),
    /// Whether a ride stands on today.
    pub(super) today: bool,
    pub(super) place: Place,
    pub(super) note: &'static str,
    /// What lasts about it.
    pub(super) traits: &'static [Trait],
    /// Days since it came, as far as the record goes back; nothing was ridden yet where none.
    pub(super) here_for: u64,
    pub(super) rides_a_week: u32,
    /// Days ago that a lay-off began and ended.
    pub(super) layoff: Option<(u64, u64)>,
    /// Days ago since when something takes skill away, on which side, on which rungs, and how much.
    pub(super) trouble: Option<(u64, Option<Side>, &'static [&'static str], f64)>,
    /// Rungs that most of its rides are about, as far as they are not owned.
    pub(super) works_on: &'static [&'static str],
    /// A question on which the trade disagrees, and the answer for this horse.
    pub(super) school: Option<(&'static str, &'static str)>,
    pub(super) bit: &'static str,
    pub(super) mouthpiece: Mouthpiece,
    /// Days ago since when it is in that bit; before, it was in a smooth snaffle.
    pub(super) in_it_for: u64,
    pub(super) nature: Nature,
}

/// A horse that came as a start.
const START: Nature = Nature {
    arrives_at: 1.6,
    knows: &[],
    learns: 0.16,
    ceiling: 2.5,
    day_sd: 0.3,
    stiff: None,
    gait_cost: 0.35,
    forgets: 0.1,
};
/// A horse that came with much of the course.
const MADE: Nature = Nature { arrives_at: 2.8, knows: LOPES, learns: 0.2, ceiling: 3.0, ..START };

/// One that came with much of the course and is on something that takes its time.
const IN_TRAINING: Nature = Nature { learns: 0.06, ..MADE };

const BASE: Member = Member {
    name: "",
    age: 4,
    sex: Sex::Gelding,
    owner: None,
    rider: MARA,
    hour: (7, 0),
    today: true,
    place: Place::Arena,
    note: "",
    traits: &[],
    here_for: 70,
    rides_a_week: 5,
    layoff: None,
    trouble: None,
    works_on: &[],
    school: None,
    bit: "smooth snaffle",
    mouthpiece: Mouthpiece::Snaffle,
    in_it_for: 400,
    nature: START,
};

pub(super) const HORSES: [Member; 23] = [
    Member {
        name: "Juniper",
        age: 3,
        sex: Sex::Mare,
        owner: Some(IVES),
        place: Place::RoundPen,
        traits: &[Trait::QuickLearner],
        ..BASE
    },
    Member {
        name: "Biscuit",
        hour: (7, 45),
        owner: Some(IVES),
        place: Place::RoundPen,
        note: "Stiff to the left since he came; teeth seen in spring",
        nature: Nature { stiff: Some((Side::Left, 1.1)), ..START },
        traits: &[Trait::OneSided],
        ..BASE
    },
    Member {
        name: "Marlow",
        age: 6,
        hour: (8, 30),
        owner: Some(LOMAX),
        note: "Three weeks off in the fall; braces on two reins since the last owner rode him",
        rides_a_week: 6,
        layoff: Some((44, 22)),
        trouble: Some((21, None, &["S6", "S7"], 4.0)),
        nature: Nature { arrives_at: 2.6, forgets: 0.3, knows: SOFT, ..MADE },
        ..BASE
    },
    Member {
        name: "Old Copper",
        age: 11,
        hour: (9, 15),
        owner: Some(STORR),
        note: "First days in a short shank this week",
        rides_a_week: 3,
        bit: "short shank, low port",
        mouthpiece: Mouthpiece::Leverage,
        in_it_for: 0,
        nature: MADE,
        traits: &[Trait::IdleMouth],
        ..BASE
    },
    Member {
        name: "Tansy",
        age: 2,
        sex: Sex::Mare,
        rider: DELL,
        owner: Some(FARROW),
        place: Place::RoundPen,
        note: "In her third week",
        here_for: 16,
        nature: Nature { learns: 0.12, ..START },
        traits: &[Trait::LooksAbout],
        ..BASE
    },
    Member {
        name: "Gravel",
        rider: DELL,
        owner: Some(DUNMORE),
        place: Place::RoundPen,
        hour: (7, 45),
        nature: Nature { ceiling: 1.3, ..START },
        traits: &[Trait::SlowLearner, Trait::NeedsPushing],
        ..BASE
    },
    Member {
        name: "Wren",
        age: 5,
        sex: Sex::Mare,
        rider: DELL,
        hour: (8, 30),
        owner: Some(LOMAX),
        trouble: Some((3, Some(Side::Left), &[], 2.6)),
        nature: Nature { knows: GREEN, arrives_at: 2.6, ceiling: 3.0, ..START },
        traits: &[Trait::LegSensitive, Trait::InSeason],
        ..BASE
    },
    Member {
        name: "Sorrel Tom",
        age: 3,
        rider: JUNE,
        owner: Some(QUINT),
        place: Place::RoundPen,
        here_for: 40,
        nature: Nature { learns: 0.22, stiff: Some((Side::Right, 0.5)), ..START },
        ..BASE
    },
    Member {
        name: "Dusk",
        rider: JUNE,
        owner: Some(IVES),
        place: Place::RoundPen,
        hour: (7, 45),
        nature: Nature { day_sd: 0.8, ..START },
        ..BASE
    },
    Member {
        name: "Pilgrim",
        age: 7,
        rider: JUNE,
        hour: (8, 30),
        owner: Some(DUNMORE),
        rides_a_week: 4,
        note: "In leverage for eleven weeks",
        works_on: &["B14"],
        bit: "short shank, low port",
        mouthpiece: Mouthpiece::Leverage,
        in_it_for: 80,
        here_for: 110,
        nature: IN_TRAINING,
        ..BASE
    },
    Member {
        name: "Fennel",
        age: 2,
        sex: Sex::Mare,
        hour: (10, 0),
        today: false,
        place: Place::RoundPen,
        here_for: 6,
        owner: Some(LOMAX),
        ..BASE
    },
    Member {
        name: "Quarter Moon",
        age: 8,
        sex: Sex::Mare,
        hour: (10, 45),
        today: false,
        owner: Some(CALDER),
        note: "Finished on the barrels: off the pattern most days",
        rides_a_week: 4,
        works_on: &["S10", "PM"],
        nature: Nature { stiff: Some((Side::Left, 0.2)), knows: BARREL_HORSE, ..IN_TRAINING },
        here_for: 160,
        ..BASE
    },
    Member {
        name: "Saltlick",
        age: 6,
        hour: (11, 30),
        today: false,
        owner: Some(STORR),
        place: Place::RoundPen,
        note: "Threw his head in a long shank; one rein at a time until the neck comes down",
        works_on: &["B31", "B32", "B33"],
        school: Some(("road", "spoiled")),
        nature: Nature { knows: &["G7", "G10"], learns: 0.1, ceiling: 2.2, arrives_at: 2.2, ..START },
        traits: &[Trait::BusyMouth],
        ..BASE
    },
    Member {
        name: "Verbena",
        age: 7,
        sex: Sex::Mare,
        rider: DELL,
        hour: (9, 15),
        owner: Some(QUINT),
        note: "In the two-rein since spring",
        rides_a_week: 4,
        works_on: &["B22", "B23"],
        school: Some(("road", "bridle")),
        bit: "bridle, medium port",
        mouthpiece: Mouthpiece::Leverage,
        in_it_for: 200,
        nature: Nature { knows: HACKAMORE, ..IN_TRAINING },
        here_for: 160,
        ..BASE
    },
    Member {
        name: "Hollis",
        age: 5,
        rider: DELL,
        hour: (10, 0),
        owner: Some(DUNMORE),
        works_on: &["L4", "L6", "L5", "L7"],
        nature: IN_TRAINING,
        here_for: 120,
        ..BASE
    },
    Member {
        name: "Ransom",
        age: 6,
        rider: JUNE,
        hour: (9, 15),
        owner: Some(BRAMWELL),
        note: "Changes before he is asked: the position has always meant go",
        works_on: &["L4", "L5", "L7"],
        trouble: Some((40, None, &["L5", "L7"], 1.2)),
        nature: IN_TRAINING,
        here_for: 120,
        traits: &[Trait::RunsFree],
        ..BASE
    },
    Member {
        name: "Cinder",
        age: 5,
        sex: Sex::Mare,
        rider: JUNE,
        hour: (10, 0),
        owner: Some(BRAMWELL),
        works_on: &["C5", "C6", "C7"],
        nature: Nature { knows: FOR_CATTLE, ..IN_TRAINING },
        here_for: 120,
        ..BASE
    },
    Member {
        name: "Bristle",
        age: 6,
        rider: OREN,
        hour: (7, 0),
        owner: Some(QUINT),
        note: "Pokes his right shoulder on cattle: pivot in the open pen, then the same kind of cow",
        works_on: &["C5", "C6", "C7"],
        trouble: Some((30, Some(Side::Right), &["C7", "R1"], 1.6)),
        nature: Nature { knows: FOR_CATTLE, ..IN_TRAINING },
        here_for: 120,
        traits: &[Trait::PopsUpBehind],
        ..BASE
    },
    Member {
        name: "Lantern",
        age: 5,
        rider: OREN,
        hour: (7, 45),
        owner: Some(STORR),
        works_on: &["C1", "C2", "C3"],
        nature: Nature { knows: FOR_CATTLE, learns: 0.03, ..IN_TRAINING },
        here_for: 70,
        ..BASE
    },
    Member {
        name: "Spool",
        age: 6,
        sex: Sex::Mare,
        rider: OREN,
        hour: (8, 30),
        owner: Some(CALDER),
        note: "Patterned at the jog; pockets kept wide",
        works_on: &["P3", "P4"],
        nature: Nature { knows: FOR_BARRELS, ..IN_TRAINING },
        here_for: 120,
        ..BASE
    },
    Member {
        name: "Thistle",
        age: 9,
        rider: OREN,
        hour: (9, 15),
        place: Place::Outside,
        owner: Some(FARROW),
        works_on: &["O2", "O4", "O5", "O9"],
        nature: Nature { knows: FOR_THE_TRAIL, ..IN_TRAINING },
        here_for: 120,
        ..BASE
    },
    Member {
        name: "Bramble",
        age: 4,
        sex: Sex::Mare,
        rider: OREN,
        hour: (10, 0),
        owner: Some(BRAMWELL),
        note: "Six weeks off after a splint; the vet said to begin again",
        layoff: Some((50, 0)),
        nature: Nature { knows: SOFT, arrives_at: 2.4, forgets: 0.25, ..MADE },
        ..BASE
    },
    Member {
        name: "Larkspur",
        age: 7,
        sex: Sex::Mare,
        rider: MARA,
        hour: (10, 0),
        place: Place::RoundPen,
        owner: Some(FARROW),
        note: "Came yesterday. Her owner says she stops, backs and lopes both leads",
        here_for: 0,
        nature: Nature { knows: LOPES, ..MADE },
        ..BASE
    },
];
