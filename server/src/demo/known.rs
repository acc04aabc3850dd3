//! What the demo's horses know when they come, by id of rungs and steps.

/// What a horse knows that came from another barn under saddle.
pub(super) const GREEN: &[&str] = &["G7@walk", "G7@jog", "G8", "G10", "S1", "S4"];
/// What a horse knows that came soft.
pub(super) const SOFT: &[&str] =
    &["G7@walk", "G7@jog", "G8", "G9@walk", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "T1", "T2"];
/// What a horse knows that stops and lopes.
pub(super) const LOPES: &[&str] = &[
    "G7", "G8", "G9", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "S9", "T1", "T2", "T3", "T4", "R1", "L1", "L2", "L3",
];
/// What a horse knows that can be put on cattle, or on the flag.
pub(super) const FOR_CATTLE: &[&str] =
    &["G7", "G8", "G9", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "T1", "T2", "T3", "T4", "R1", "C4"];
/// What a horse knows that can be put on the pattern.
pub(super) const FOR_BARRELS: &[&str] = &[
    "G7", "G8", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "S9", "T1", "T2", "R2", "R3", "L1", "L2", "L3", "P1", "P2",
    "P8",
];
/// What a finished barrel horse knows.
pub(super) const BARREL_HORSE: &[&str] = &[
    "G7", "G8", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "S9", "T1", "T2", "R2", "R3", "L1", "L2", "L3", "P1", "P2",
    "P8", "P3", "P4", "P5", "P6", "P7",
];
/// What a trail horse knows.
pub(super) const FOR_THE_TRAIL: &[&str] =
    &["G7", "G8", "G9", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "T1", "T2", "T3", "T4", "O1", "O10"];
/// What a bridle horse knows in the hackamore.
pub(super) const HACKAMORE: &[&str] =
    &["G7", "G8", "G10", "S1", "S2", "S3", "S4", "S5", "S6", "T1", "T2", "T3", "L1", "L2", "L3", "B20", "B21"];
