//! The closed lists of words in the interface. The core's own types stand behind them; these give OpenAPI their names.
#![allow(dead_code, missing_docs)] // they exist for the document alone

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Gait {
    Stand,
    Walk,
    Jog,
    Lope,
    Run,
}

#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum AppointmentKind {
    Farrier,
    Vet,
    Dentist,
    Owner,
    Show,
    LayUp,
    Other,
}

/// What a thermometer counts in.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Scale {
    Celsius,
    Fahrenheit,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Side {
    Left,
    Right,
    Both,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Outcome {
    Gave,
    Tried,
    None,
}

/// The half of a two-part answer that was missing.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Part {
    First,
    Second,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Weight {
    None,
    Feather,
    Egg,
    Lemon,
    Orange,
    Fingers,
    Hand,
    Tug,
}

#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum Posture {
    Patient,
    Steady,
    GoAhead,
}

#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum Call {
    Advance,
    Hold,
    Back,
    LookAt,
    LeaveAlone,
}

/// In whose hands a horse is.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Hands {
    Trainer,
    Assistant,
    Owner,
}

/// A part of the horse in the view from the saddle.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Zone {
    Poll,
    Neck,
    Shoulders,
    Ribs,
    Hips,
    Feet,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(crate) enum Status {
    Untried,
    Learning,
    Owned,
    Slipping,
}

/// Minutes of a ride by gait.
#[derive(ToSchema)]
#[schema(as = GaitMinutes)]
pub(crate) struct MinutesDoc {
    stand: u16,
    walk: u16,
    jog: u16,
    lope: u16,
    run: u16,
}

/// What a part of a ride is for.
#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum Purpose {
    Ground,
    Loosen,
    Main,
    SetUps,
    Air,
    Close,
}

/// What the coach says to do next.
#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum Advice {
    Another,
    OtherSide,
    SlowDown,
    Air,
    ChangeSubject,
    QuitHere,
    StopAsking,
    LookAtHorse,
}

/// What the heat allows.
#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum HeatBand {
    Fine,
    Sweats,
    Care,
    NoHardWork,
}

/// How hard a week of work is.
#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(crate) enum WorkClass {
    Light,
    Moderate,
    Heavy,
    VeryHeavy,
}

/// Where a horse is ridden, nearest first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(crate) enum Place {
    RoundPen,
    Arena,
    Outside,
    Trail,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum RideState {
    Planned,
    Open,
    Closed,
}

/// Why a planned ride was not ridden.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum MissedWhy {
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

/// How a ride was logged: with the pads in the pen, or from memory afterwards.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum Entered {
    Pen,
    Afterwards,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum Sex {
    Mare,
    Gelding,
    Stallion,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(crate) enum Units {
    Imperial,
    Metric,
}

/// The word that a value has in JSON, which is also how it is stored.
pub(crate) fn word(value: impl Serialize) -> String {
    match serde_json::to_value(value) {
        Ok(serde_json::Value::String(word)) => word,
        _ => String::new(),
    }
}

/// The value of a stored word. AdvisorSnapshot words were checked by the schema, so a word that is not one is a fault of ours.
pub(crate) fn from_word<T: serde::de::DeserializeOwned>(word: &str) -> Result<T, crate::Problem> {
    serde_json::from_value(serde_json::Value::String(word.to_owned())).map_err(|_| crate::Problem::broken())
}
