//! The document's closed lists are the core's: a word that one of them gains must not be missing in the other.

use cavesson_core::{advice, ladder, load, response, ride, week};
use serde_json::Value;

fn words<T>(all: impl IntoIterator<Item = T>, word: impl Fn(T) -> &'static str) -> Vec<String> {
    all.into_iter().map(|it| word(it).to_owned()).collect()
}

#[test]
fn the_document_lists_the_words_of_the_core() {
    let document: Value = serde_json::from_str(&cavesson::api::openapi().to_json().unwrap()).unwrap();
    let listed = |name: &str| -> Vec<String> {
        serde_json::from_value(document["components"]["schemas"][name]["enum"].clone()).unwrap()
    };
    use ride::{Advice as A, Purpose as P};
    assert_eq!(listed("Gait"), words(ladder::Gait::ALL, ladder::Gait::word));
    assert_eq!(listed("Place"), words(ladder::Place::ALL, ladder::Place::word));
    assert_eq!(listed("Hands"), words(ladder::Hands::ALL, ladder::Hands::word));
    assert_eq!(listed("Weight"), words(response::Weight::ALL, response::Weight::word));
    assert_eq!(listed("Posture"), words(advice::Posture::ALL, advice::Posture::word));
    assert_eq!(listed("AppointmentKind"), words(week::Appointment::ALL, week::Appointment::word));
    let sides = [ladder::Side::Left, ladder::Side::Right, ladder::Side::Both];
    assert_eq!(listed("Side"), words(sides, ladder::Side::word));
    let scales = [load::Scale::Celsius, load::Scale::Fahrenheit];
    let in_json = |scale| serde_json::to_value(scale).unwrap();
    assert_eq!(listed("Scale").into_iter().map(Value::from).collect::<Vec<_>>(), scales.map(in_json));
    let outcomes = [response::Outcome::Gave, response::Outcome::Tried, response::Outcome::None];
    assert_eq!(listed("Outcome"), words(outcomes, response::Outcome::word));
    let calls =
        [advice::Call::Advance, advice::Call::Hold, advice::Call::Back, advice::Call::LookAt, advice::Call::LeaveAlone];
    assert_eq!(listed("Call"), words(calls, advice::Call::word));
    let purposes = [P::Ground, P::Loosen, P::Main, P::SetUps, P::Air, P::Close];
    assert_eq!(listed("Purpose"), words(purposes, P::word));
    let heat = [load::HeatBand::Fine, load::HeatBand::Sweats, load::HeatBand::Care, load::HeatBand::NoHardWork];
    assert_eq!(listed("HeatBand"), words(heat, load::HeatBand::word));
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
    assert_eq!(listed("Advice"), words(advice, A::word));
}
