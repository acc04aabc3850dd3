//! Heat and load, against worked figures.

use std::collections::BTreeSet;

use cavesson_core::{
    curriculum::Gait,
    load::{Class, GaitMinutes, HeatBand, LoadWeek, LoggedRide, Scale, Weather, mondays, weeks},
};
use chrono::{Days, NaiveDate};

fn air(celsius: f64, humidity: f64) -> Weather {
    Weather::new(celsius, humidity).unwrap()
}

#[test]
fn the_temperature_humidity_index_is_that_of_the_formula() {
    // NRC 1971 (memory), worked by hand. At 100 % the second term is nothing: the index is the temperature in °F.
    assert!((air(30.0, 100.0).thi() - 86.0).abs() < 1e-9);
    // 30 °C, 50 %: 86 − 0.275 × 28 = 78.3
    assert!((air(30.0, 50.0).thi() - 78.3).abs() < 1e-9);
    // 35 °C, 20 %: 95 − 0.44 × 37 = 78.72
    assert!((air(35.0, 20.0).thi() - 78.72).abs() < 1e-9);
}

#[test]
fn the_worse_of_the_two_indices_is_the_band() {
    // The sum by university extension sheets (memory): under 130 fine, 130-150 sweats, over 150 care, over 180 no hard work. The
    // index by the Livestock Weather Safety Index (Livestock Conservation Institute 1970; memory): alert from 75, danger from 79,
    // emergency from 84. Indices worked by hand.
    let cases = [
        (25.0, 50.0, 127.0, 71.8, HeatBand::Fine),
        (25.0, 53.0, 130.0, 72.1, HeatBand::Sweats),
        (21.0, 80.0, 149.8, 68.5, HeatBand::Sweats),
        (22.0, 80.0, 151.6, 70.1, HeatBand::Care),
        (5.0, 95.0, 136.0, 41.5, HeatBand::Fine),
        // Dry heat, where the sum says nothing.
        (30.0, 20.0, 106.0, 73.7, HeatBand::Fine),
        (31.0, 20.0, 107.8, 74.7, HeatBand::Sweats),
        (35.0, 20.0, 115.0, 78.7, HeatBand::Care),
        (36.0, 30.0, 126.8, 81.9, HeatBand::Care),
        (37.0, 40.0, 138.6, 85.2, HeatBand::NoHardWork),
        (35.0, 86.0, 181.0, 92.2, HeatBand::NoHardWork),
    ];
    for (celsius, humidity, sum, thi, band) in cases {
        let a = air(celsius, humidity);
        assert!((a.sum_index() - sum).abs() < 1e-9, "{celsius} {humidity}: {}", a.sum_index());
        assert!((a.thi() - thi).abs() < 0.051, "{celsius} {humidity}: {}", a.thi());
        assert_eq!(a.band(), band, "{celsius} {humidity}");
    }
}

#[test]
fn a_temperature_is_the_same_on_either_scale() {
    // The fixed points of the two scales (ISO 80000-5): freezing and boiling water, and where both read the same.
    for (celsius, fahrenheit) in [(0.0, 32.0), (100.0, 212.0), (-40.0, -40.0), (37.0, 98.6)] {
        assert!((Scale::Fahrenheit.celsius(fahrenheit) - celsius).abs() < 1e-9);
        assert!((Scale::Fahrenheit.degrees(celsius) - fahrenheit).abs() < 1e-9);
    }
    assert_eq!(Weather::read(95.0, Scale::Fahrenheit, 50.0), Weather::new(35.0, 50.0));
    let error = Weather::read(150.0, Scale::Fahrenheit, 50.0).unwrap_err();
    assert_eq!(error.to_string(), "150 °F is no air temperature; it is from -40 to 140");
    assert!(
        Weather::new(61.0, 50.0).is_err() && Weather::new(20.0, 101.0).is_err() && Weather::new(f64::NAN, 1.0).is_err()
    );
}

#[test]
fn over_a_hundred_in_the_shade_there_is_no_hard_work_however_dry() {
    let band = |fahrenheit, humidity| Weather::read(fahrenheit, Scale::Fahrenheit, humidity).unwrap().band();
    assert_eq!(band(110.0, 15.0), HeatBand::NoHardWork, "the sum is 125, which would be fine");
    assert_eq!((band(101.0, 10.0), band(100.0, 10.0)), (HeatBand::NoHardWork, HeatBand::Care));
}

#[test]
fn hotter_or_damper_is_never_a_kinder_band() {
    for t in 10..60 {
        for rh in 0..100 {
            let (t, rh) = (f64::from(t), f64::from(rh));
            assert!(air(t, rh).band() <= air(t + 0.9, rh).band());
            assert!(air(t, rh).band() <= air(t, rh + 1.0).band());
        }
    }
}

#[test]
fn monotony_and_strain_are_mean_over_sd_and_load_times_that() {
    // Foster 1998 (memory): a week of loads 60, 0, 60, 0, 60, 0, 0 worked by hand with the sample's standard deviation.
    let ride = GaitMinutes { walk: 30, jog: 10, ..GaitMinutes::default() };
    assert_eq!(ride.load(), 60);
    let off = GaitMinutes::default();
    let week = LoadWeek { days: [ride, off, ride, off, ride, off, off] };
    assert_eq!(week.load(), 180);
    let (mean, sd) = (180.0_f64 / 7.0, (7200.0_f64 / 7.0).sqrt());
    assert!((week.monotony().unwrap() - mean / sd).abs() < 1e-9);
    assert!((week.strain().unwrap() - 180.0 * mean / sd).abs() < 1e-9);
    assert_eq!(LoadWeek { days: [ride; 7] }.monotony(), None);
}

#[test]
fn classes_of_work_and_their_energy_are_those_of_the_council() {
    // National Research Council 2007 (memory): factors 1.2, 1.4, 1.6, 1.9 over 0.0333 Mcal/kg.
    for (class, day) in
        [(Class::Light, 19.98), (Class::Moderate, 23.31), (Class::Heavy, 26.64), (Class::VeryHeavy, 31.635)]
    {
        assert!((class.energy(500.0) - day).abs() < 1e-9, "{class:?}");
    }
    let easy = GaitMinutes { walk: 30, jog: 15, ..GaitMinutes::default() };
    let of = |days: [GaitMinutes; 7]| LoadWeek { days }.class();
    let off = GaitMinutes::default();
    assert_eq!(of([off; 7]), None);
    assert_eq!(of([easy, off, easy, off, easy, off, off]), Some(Class::Light));
    assert_eq!(of([easy, easy, easy, off, easy, easy, off]), Some(Class::Moderate));
    let fast = easy.plus(Gait::Lope, 40).plus(Gait::Run, 10);
    assert_eq!(of([fast, off, off, off, off, off, off]), Some(Class::Heavy));
}

#[test]
fn minutes_are_guessed_from_the_asks() {
    // Nine asks at the walk 30 s apart, five minutes of air, two asks at the jog a minute apart.
    let mut asks: Vec<(Gait, u32)> = (0..9).map(|n| (Gait::Walk, 30 * n)).collect();
    asks.extend([(Gait::Jog, 540), (Gait::Jog, 600)]);
    let guessed = GaitMinutes::estimated(&asks);
    assert_eq!((guessed.walk, guessed.stand, guessed.jog), (5, 4, 2));
    assert_eq!(GaitMinutes::estimated(&[]), GaitMinutes::default());
}

#[test]
fn months_are_weeks_from_a_monday_on_and_what_lies_outside_is_passed_over() {
    let day = |text: &str| text.parse::<NaiveDate>().unwrap();
    let jog = GaitMinutes { walk: 10, jog: 5, ..GaitMinutes::default() };
    let ride = |on: &str, out| LoggedRide { on: day(on), minutes: jog, out };
    // 2026-03-02 is a Monday.
    let rides = [
        ride("2026-03-01", true),
        ride("2026-03-02", true),
        ride("2026-03-02", false),
        ride("2026-03-08", false),
        ride("2026-03-09", true),
        ride("2026-03-16", false),
    ];
    let sums = weeks(day("2026-03-02"), 2, &rides, &BTreeSet::new());
    let of = |n: usize| (sums[n].rides, sums[n].out, sums[n].load, sums[n].here);
    assert_eq!((of(0), of(1)), ((3, 1, 3 * jog.load(), 7), (1, 1, jog.load(), 7)));
    // Two rides of one day are one day's load: the week is 2, 0, 0, 0, 0, 0, 1 of it.
    let mut days = [GaitMinutes::default(); 7];
    (days[0], days[6]) = (jog.and(jog), jog);
    assert_eq!(sums[0].monotony, LoadWeek { days }.monotony());
    assert_eq!(mondays(day("2026-03-11"), 2), [day("2026-03-02"), day("2026-03-09")]);
    assert_eq!(mondays(day("2026-03-08"), 1), [day("2026-03-02")]);
}

#[test]
fn of_a_horse_that_was_away_no_more_rides_are_asked_than_the_days_it_was_here() {
    let monday: NaiveDate = "2026-03-02".parse().unwrap();
    let on = |n: u64| monday + Days::new(n);
    let ridden = |n: u64| LoggedRide { on: on(n), minutes: GaitMinutes::default(), out: false };
    // Laid up from Wednesday of the first week to Saturday of the second, and ridden on Monday, Tuesday and the second Sunday.
    let away: BTreeSet<NaiveDate> = (2..13).map(on).chain([on(400)]).collect();
    let sums = weeks(monday, 3, &[ridden(0), ridden(1), ridden(13)], &away);
    assert_eq!(sums.iter().map(|w| w.here).collect::<Vec<_>>(), [2, 1, 7]);
    assert_eq!(sums.iter().map(|w| w.kept(4)).collect::<Vec<_>>(), [true, true, false]);
    // One ride less than it could have had is one too few; a week away asks for none.
    assert!(!weeks(monday, 1, &[ridden(0)], &away)[0].kept(4));
    assert!(weeks(monday, 1, &[], &(0..7).map(on).collect())[0].kept(4));
}
