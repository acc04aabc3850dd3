//! The coach against lessons of a fixed length on simulated horses, and the weather that stands in.

use cavesson_core::{
    curriculum::Curriculum,
    load::{HeatBand, Weather},
};
use cavesson_sim::{Lesson, Taken, WeatherSource, WeatherStation, teach};
use chrono::NaiveDate;

fn mean(step: &str, lesson: Lesson) -> (f64, f64, f64) {
    let course = Curriculum::standard().course();
    let step = course.find(step).unwrap();
    let all: Vec<Taken> = (0..120).map(|seed| teach(&course, step, lesson, seed)).collect();
    let of = |f: fn(&Taken) -> usize| all.iter().map(|t| f(t) as f64).sum::<f64>() / all.len() as f64;
    (of(|t| t.reps), of(|t| t.wrong), of(|t| usize::from(t.owned)))
}

#[test]
fn coached_lessons_need_fewer_asks_and_rehearse_fewer_wrong_answers() {
    for step in ["S1", "S4@stand", "T2", "R1"] {
        let (reps, wrong, owned) = mean(step, Lesson::CoachLine);
        assert!(owned > 0.95, "{step}: {owned} owned it");
        for each in [6, 10, 15, 20] {
            let fixed = mean(step, Lesson::Fixed(each));
            assert!(
                reps < fixed.0 && wrong < fixed.1,
                "{step}, {each} a side: {reps:.0} {wrong:.0} against {fixed:.0?}"
            );
        }
    }
}

#[test]
fn the_same_lesson_is_ridden_twice_the_same() {
    let course = Curriculum::standard().course();
    let step = course.find("S1").unwrap();
    assert_eq!(teach(&course, step, Lesson::CoachLine, 7), teach(&course, step, Lesson::CoachLine, 7));
}

#[test]
fn the_station_is_warm_in_july_afternoons_and_always_says_the_same() {
    let station = WeatherStation { seed: 3 };
    let at = |month, hour| station.at(NaiveDate::from_ymd_opt(2026, month, 20).unwrap(), hour).unwrap();
    let mean = |month, hour| {
        let days = (1..=28).map(|d| station.at(NaiveDate::from_ymd_opt(2026, month, d).unwrap(), hour).unwrap());
        days.map(Weather::celsius).sum::<f64>() / 28.0
    };
    assert!(mean(7, 15) > mean(7, 6) + 5.0 && mean(7, 15) > mean(1, 15) + 12.0);
    assert_eq!(at(7, 15), at(7, 15));
    let bands: Vec<HeatBand> =
        (1..=28).map(|d| station.at(NaiveDate::from_ymd_opt(2026, 7, d).unwrap(), 15).unwrap().band()).collect();
    assert!(bands.iter().any(|b| *b >= HeatBand::Sweats) || bands.iter().all(|b| *b == HeatBand::Fine));
}
