//! The closed lists of words in the interface. The core's own types stand behind them; these give OpenAPI their names.
#![allow(dead_code, missing_docs)] // they exist for the document alone

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Gait {
    Stand,
    Walk,
    Jog,
    Lope,
    Run,
}

#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(super) enum AppointmentKind {
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
pub(super) enum Scale {
    Celsius,
    Fahrenheit,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Side {
    Left,
    Right,
    Both,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Outcome {
    Gave,
    Tried,
    None,
}

/// The half of a two-part answer that was missing.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Part {
    First,
    Second,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Weight {
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
pub(super) enum Posture {
    Patient,
    Steady,
    GoAhead,
}

#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(super) enum Call {
    Advance,
    Hold,
    Back,
    LookAt,
    LeaveAlone,
}

/// In whose hands a horse is.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Hands {
    Trainer,
    Assistant,
    Owner,
}

/// A part of the horse in the view from the saddle.
#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Zone {
    Poll,
    Neck,
    Shoulders,
    Ribs,
    Hips,
    Feet,
}

#[derive(ToSchema)]
#[schema(rename_all = "lowercase")]
pub(super) enum Standing {
    Untried,
    Learning,
    Owned,
    Slipping,
}

/// Minutes of a ride by gait.
#[derive(ToSchema)]
#[schema(as = Minutes)]
pub(super) struct MinutesDoc {
    stand: u16,
    walk: u16,
    jog: u16,
    lope: u16,
    run: u16,
}

/// What a part of a ride is for.
#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(super) enum Purpose {
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
pub(super) enum Advice {
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
pub(super) enum HeatBand {
    Fine,
    Sweats,
    Care,
    NoHardWork,
}

/// How hard a week of work is.
#[derive(ToSchema)]
#[schema(rename_all = "kebab-case")]
pub(super) enum WorkClass {
    Light,
    Moderate,
    Heavy,
    VeryHeavy,
}

/// Where a horse is ridden, nearest first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub(super) enum Place {
    RoundPen,
    Arena,
    Outside,
    Trail,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(super) enum RideState {
    Planned,
    Open,
    Closed,
}

/// Why a planned ride was not ridden.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(super) enum MissedWhy {
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
pub(super) enum Entered {
    Pen,
    Afterwards,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(super) enum Sex {
    Mare,
    Gelding,
    Stallion,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(super) enum Units {
    Imperial,
    Metric,
}

/// The word that a value has in JSON, which is also how it is stored.
pub(super) fn word(value: impl Serialize) -> String {
    match serde_json::to_value(value) {
        Ok(serde_json::Value::String(word)) => word,
        _ => String::new(),
    }
}

/// The value of a stored word. Stored words were checked by the schema, so a word that is not one is a fault of ours.
pub(super) fn from_word<T: serde::de::DeserializeOwned>(word: &str) -> Result<T, crate::Problem> {
    serde_json::from_value(serde_json::Value::String(word.to_owned())).map_err(|_| crate::Problem::broken())
}

#[cfg(test)]
mod tests {
    use cavesson_core::{advice, ladder, load, response, ride, week};
    use utoipa::PartialSchema;

    use super::*;

    /// The words that the document lists for a type.
    fn listed<T: PartialSchema>() -> Vec<String> {
        let schema = serde_json::to_value(T::schema()).unwrap();
        serde_json::from_value(schema["enum"].clone()).unwrap()
    }

    fn words<T>(all: impl IntoIterator<Item = T>, word: impl Fn(T) -> &'static str) -> Vec<String> {
        all.into_iter().map(|it| word(it).to_owned()).collect()
    }

    #[test]
    fn the_document_lists_the_words_of_the_core() {
        use ride::{Advice as A, Purpose as P};
        assert_eq!(listed::<Gait>(), words(ladder::Gait::ALL, ladder::Gait::word));
        assert_eq!(listed::<Place>(), words(ladder::Place::ALL, ladder::Place::word));
        assert_eq!(listed::<Hands>(), words(ladder::Hands::ALL, ladder::Hands::word));
        assert_eq!(listed::<Weight>(), words(response::Weight::ALL, response::Weight::word));
        assert_eq!(listed::<Posture>(), words(advice::Posture::ALL, advice::Posture::word));
        assert_eq!(listed::<AppointmentKind>(), words(week::Appointment::ALL, week::Appointment::word));
        let sides = [ladder::Side::Left, ladder::Side::Right, ladder::Side::Both];
        assert_eq!(listed::<Side>(), words(sides, ladder::Side::word));
        let scales = [load::Scale::Celsius, load::Scale::Fahrenheit];
        assert_eq!(listed::<Scale>(), scales.map(word));
        let outcomes = [response::Outcome::Gave, response::Outcome::Tried, response::Outcome::None];
        assert_eq!(listed::<Outcome>(), words(outcomes, response::Outcome::word));
        let calls = [
            advice::Call::Advance,
            advice::Call::Hold,
            advice::Call::Back,
            advice::Call::LookAt,
            advice::Call::LeaveAlone,
        ];
        assert_eq!(listed::<Call>(), words(calls, advice::Call::word));
        let purposes = [P::Ground, P::Loosen, P::Main, P::SetUps, P::Air, P::Close];
        assert_eq!(listed::<Purpose>(), words(purposes, P::word));
        let heat = [load::HeatBand::Fine, load::HeatBand::Sweats, load::HeatBand::Care, load::HeatBand::NoHardWork];
        assert_eq!(listed::<HeatBand>(), words(heat, load::HeatBand::word));
        let a_step = ladder::Curriculum::standard().course().find("S1").unwrap();
        let advice = [
            A::Another,
            A::OtherSide,
            A::SlowDown(a_step),
            A::Air,
            A::ChangeSubject,
            A::QuitHere,
            A::StopAsking,
            A::LookAtHorse,
        ];
        assert_eq!(listed::<Advice>(), words(advice, A::word));
    }

    #[test]
    fn a_stored_word_is_read_back_as_what_it_was() {
        for place in [Place::RoundPen, Place::Arena, Place::Outside, Place::Trail] {
            assert_eq!(from_word::<Place>(&word(place)).unwrap(), place);
        }
        assert_eq!(word(7), "", "what is no word has none");
        assert!(from_word::<Place>("moon").is_err());
    }
}
