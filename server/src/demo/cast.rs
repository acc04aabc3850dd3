//! Who is in the demo: an invented stable, its people and its horses at different points of their work.

use cavesson_core::{
    advice::Call,
    barn::{Role, Sex},
    curriculum::Side,
    ride::Mouthpiece,
};
use cavesson_sim::Nature;

pub(super) struct Person {
    pub(super) name: &'static str,
    pub(super) role: Role,
}

pub(super) struct Member {
    pub(super) name: &'static str,
    pub(super) age: i32,
    pub(super) sex: Sex,
    pub(super) owner: Option<&'static str>,
    pub(super) rider: &'static str,
    /// Hour of today's ride, if it is ridden today.
    pub(super) hour: Option<(u32, u32)>,
    pub(super) note: &'static str,
    /// Days since it came, as far as the record goes back.
    pub(super) here_for: u64,
    pub(super) rides_a_week: u32,
    /// Days ago that a lay-off began and ended.
    pub(super) layoff: Option<(u64, u64)>,
    /// Days ago since when something takes skill away, on which side, on which rungs, and how much.
    pub(super) trouble: Option<(u64, Option<Side>, &'static [&'static str], f64)>,
    pub(super) bit: &'static str,
    pub(super) mouthpiece: Mouthpiece,
    /// Days ago since when it is in that bit; before, it was in a smooth snaffle.
    pub(super) in_it_for: u64,
    pub(super) nature: Nature,
}

const MARA: &str = "Mara Quill";
const DELL: &str = "Dell Okafor";
const JUNE: &str = "June Sandry";
const IVES: &str = "Petra Ives";
const LOMAX: &str = "Tobin Lomax";

pub(super) const PEOPLE: [Person; 5] = [
    Person { name: MARA, role: Role::Trainer },
    Person { name: DELL, role: Role::Assistant },
    Person { name: JUNE, role: Role::Assistant },
    Person { name: IVES, role: Role::Owner },
    Person { name: LOMAX, role: Role::Owner },
];

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
/// What a horse knows that came from another barn under saddle.
const GREEN: &[&str] = &["G7@walk", "G7@jog", "G8", "S1", "S4"];
/// What a horse knows that came soft.
const SOFT: &[&str] = &["G7@walk", "G7@jog", "G8", "S1", "S2", "S3", "S4", "S5", "S6", "T1", "T2"];
/// What a finished horse knows.
const ALL_ROUND: &[&str] =
    &["G7", "G8", "S1", "S2", "S3", "S4", "S5", "S6", "S9", "T1", "T2", "T3", "T4", "R1", "R2", "R3", "L1", "L2", "L3"];
/// A horse that came with much of the course.
const MADE: Nature = Nature { arrives_at: 2.8, knows: ALL_ROUND, learns: 0.2, ceiling: 3.0, ..START };

const BASE: Member = Member {
    name: "",
    age: 4,
    sex: Sex::Gelding,
    owner: Some(IVES),
    rider: MARA,
    hour: None,
    note: "",
    here_for: 70,
    rides_a_week: 5,
    layoff: None,
    trouble: None,
    bit: "smooth snaffle",
    mouthpiece: Mouthpiece::Snaffle,
    in_it_for: 400,
    nature: START,
};

pub(super) const HORSES: [Member; 12] = [
    Member { name: "Juniper", age: 3, sex: Sex::Mare, hour: Some((7, 0)), ..BASE },
    Member {
        name: "Biscuit",
        hour: Some((7, 45)),
        note: "Stiff to the left since he came; teeth seen in spring",
        nature: Nature { stiff: Some((Side::Left, 1.1)), ..START },
        ..BASE
    },
    Member {
        name: "Marlow",
        age: 6,
        hour: Some((8, 30)),
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
        hour: Some((9, 15)),
        rides_a_week: 3,
        bit: "short shank, low port",
        mouthpiece: Mouthpiece::Leverage,
        in_it_for: 0,
        nature: MADE,
        ..BASE
    },
    Member {
        name: "Tansy",
        age: 2,
        sex: Sex::Mare,
        rider: DELL,
        hour: Some((7, 0)),
        here_for: 16,
        nature: Nature { learns: 0.12, ..START },
        ..BASE
    },
    Member { name: "Gravel", rider: DELL, hour: Some((7, 45)), nature: Nature { ceiling: 1.3, ..START }, ..BASE },
    Member {
        name: "Wren",
        age: 5,
        sex: Sex::Mare,
        rider: DELL,
        hour: Some((8, 30)),
        owner: Some(LOMAX),
        trouble: Some((3, Some(Side::Left), &[], 2.6)),
        nature: Nature { knows: GREEN, arrives_at: 2.6, ceiling: 3.0, ..START },
        ..BASE
    },
    Member {
        name: "Sorrel Tom",
        age: 3,
        rider: JUNE,
        hour: Some((7, 30)),
        here_for: 40,
        nature: Nature { learns: 0.22, stiff: Some((Side::Right, 0.5)), ..START },
        ..BASE
    },
    Member { name: "Dusk", rider: JUNE, hour: Some((8, 15)), nature: Nature { day_sd: 0.8, ..START }, ..BASE },
    Member {
        name: "Pilgrim",
        age: 7,
        rider: JUNE,
        hour: Some((9, 0)),
        rides_a_week: 4,
        nature: Nature { knows: SOFT, arrives_at: 2.6, ceiling: 3.0, ..START },
        ..BASE
    },
    Member { name: "Fennel", age: 2, sex: Sex::Mare, here_for: 6, owner: Some(LOMAX), ..BASE },
    Member {
        name: "Quarter Moon",
        age: 8,
        sex: Sex::Mare,
        rides_a_week: 3,
        nature: Nature { stiff: Some((Side::Left, 0.4)), ..MADE },
        ..BASE
    },
];

/// Horse, days ago, step, what the record said, what was called, why, and by whom.
pub(super) const OVERRULES: [(&str, u64, &str, Call, Call, &str, &str); 4] = [
    ("Dusk", 33, "S1", Call::Advance, Call::Hold, "Good twice on good days; I want to see it on a bad one", MARA),
    ("Pilgrim", 29, "S6@stand", Call::Hold, Call::Advance, "He gives it to me from the ground every morning", JUNE),
    ("Wren", 31, "S5@stand", Call::Hold, Call::Advance, "Shoulders were there before she came", DELL),
    ("Biscuit", 8, "G8@stand", Call::Hold, Call::Advance, "The left will come with the walk", MARA),
];

/// Horse, days ago, who looked, what was found.
pub(super) const FINDINGS: [(&str, u64, &str, &str); 1] =
    [("Old Copper", 45, "dentist", "Hooks on the upper cheek teeth floated; back in the snaffle after three days")];
